"""Values of the core in words and pictures, for whatever shows them: pages, sheets, the command line."""
