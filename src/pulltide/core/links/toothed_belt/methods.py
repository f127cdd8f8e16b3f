"""Its formulas, each callable by name."""

from __future__ import annotations

from pulltide.core.family import Method
from pulltide.core.links.toothed_belt.working import PulleyInputs, RatingInputs, pulley_working, rating_working

METHODS = (
    Method("toothed_belt_rating", "Power a timing belt carries", RatingInputs, rating_working),
    Method("toothed_belt_pulley", "Diameters of a toothed pulley", PulleyInputs, pulley_working),
)
