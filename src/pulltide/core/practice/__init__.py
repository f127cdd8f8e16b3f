"""Tasks to practice on: made from numbers by chance, answered by the same formulas that the program goes by."""
