"""Strain-wave gears: a flexible cup, a rigid ring and a wave generator."""

from pulltide.core.catalog import Catalog
from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import phrase
from pulltide.core.links.strain_wave import checks
from pulltide.core.links.strain_wave.checks import RULES
from pulltide.core.links.strain_wave.failure import failure_points
from pulltide.core.links.strain_wave.inputs import StrainWave
from pulltide.core.links.strain_wave.methods import METHODS
from pulltide.core.links.strain_wave.transmission import StrainWaveTransmission, service_factor
from pulltide.core.links.strain_wave.variants import reconcile, starter, variants
from pulltide.core.links.strain_wave.working import workings

__all__ = ["FAMILY", "StrainWave"]


def _stock(link: StrainWave, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    more = link.ring_teeth - link.cup_teeth
    return {"cup_teeth": tuple(str(ratio * more) for ratio in (30, 50, 80, 100, 120, 160) if ratio * more <= 640)}


def _words(link: StrainWave, step: int) -> LinkWords:
    teeth = f"{link.cup_teeth} in {link.ring_teeth} t"
    return LinkWords("Strain-wave gear", (f"{link.ratio:g} : 1", teeth, f"{phrase(link.held)} held"))


FAMILY = Family(
    kind="strain_wave",
    title="Strain-wave gear",
    model=StrainWave,
    prepare=StrainWaveTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(30.0, 160.0),
    workings=workings,
    stock=_stock,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Strain-wave gear", service_factor(sizing)),),
    housing="Wave gear",
    caution="It turns back hard but it is no brake, and when its teeth skip the load drops. Hold a load by a brake.",
    failure_points=failure_points,
    jam=checks.STALL,
    rules=RULES,
    samples=(StrainWave(cup_teeth=200, ring_teeth=202, held="cup"),),
    explains={
        "torque": "design_torque",
        "peak": "moment_torque",
        "stall": "moment_torque",
        "emergency": "moment_torque",
    },
)
