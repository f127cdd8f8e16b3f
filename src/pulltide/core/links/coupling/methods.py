"""Its formulas, each callable by name."""

from __future__ import annotations

from pulltide.core.family import Method
from pulltide.core.links.coupling.working import AlignmentInputs, alignment_working

METHODS = (Method("coupling_alignment", "Coupling misalignment check", AlignmentInputs, alignment_working),)
