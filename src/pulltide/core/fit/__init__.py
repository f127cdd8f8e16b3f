"""Fit: what a shaft between its bearings does under what its wheels pull. Pure mechanics, no link family by name."""
