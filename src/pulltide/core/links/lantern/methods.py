"""Its formulas, each callable by name."""

from __future__ import annotations

from pulltide.core.family import Method
from pulltide.core.links.lantern.working import PinInputs, pin_working

METHODS = (Method("lantern_pin", "Strength of a lantern pin", PinInputs, pin_working),)
