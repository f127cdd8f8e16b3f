"""Its formulas, each callable by name."""

from __future__ import annotations

from pulltide.core.family import Method
from pulltide.core.links.worm_set.working import HoldingInputs, holding_working

METHODS = (
    Method("worm_both_ways", "Efficiency of a worm set both ways, and when it holds", HoldingInputs, holding_working),
)
