"""How a machine really runs: readings beside what is predicted, what explains them, what is due."""
