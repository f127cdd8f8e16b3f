"""Its formulas, each callable by name."""

from __future__ import annotations

from pulltide.core.family import Method
from pulltide.core.links.gear_train.counts import TrainInputs, train_working

METHODS = (Method("gear_train_counts", "Two pairs of gears nearest to a ratio", TrainInputs, train_working),)
