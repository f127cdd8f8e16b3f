"""Its formulas, each callable by name."""

from __future__ import annotations

from pulltide.core.family import Method
from pulltide.core.links.strain_wave.inputs import StrainWave
from pulltide.core.links.strain_wave.working import ratio_working

METHODS = (Method("strain_wave_ratio", "Ratio of a strain-wave gear with its sign", StrainWave, ratio_working),)
