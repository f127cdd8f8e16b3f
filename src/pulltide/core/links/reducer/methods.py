"""Its formulas, each callable by name."""

from __future__ import annotations

from pulltide.core.family import Method
from pulltide.core.links.reducer.working import RatingInputs, rating_working

METHODS = (Method("reducer_rating", "Rating of a stock reducer", RatingInputs, rating_working),)
