"""A line in time: how it starts, runs and stops."""
