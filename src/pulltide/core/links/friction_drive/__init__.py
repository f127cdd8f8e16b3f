"""A friction roller that drives a wheel or a drum by its rim."""

from pulltide.core.family import Family, LinkWords
from pulltide.core.labels import choice
from pulltide.core.links.friction_drive.checks import RULES
from pulltide.core.links.friction_drive.failure import failure_points
from pulltide.core.links.friction_drive.inputs import FrictionDrive
from pulltide.core.links.friction_drive.methods import METHODS
from pulltide.core.links.friction_drive.transmission import RollerTransmission, service_factor
from pulltide.core.links.friction_drive.variants import DIAMETERS_MM, FACES_MM, reconcile, starter, variants
from pulltide.core.links.friction_drive.working import workings

__all__ = ["FAMILY", "FrictionDrive"]


def _words(link: FrictionDrive, step: int) -> LinkWords:
    sizes = f"{{{link.driver_diameter_mm}|mm}} → {{{link.driven_diameter_mm}|mm}}"
    title = "Friction roller" if link.rollers == 1 else f"{link.rollers} friction rollers"
    return LinkWords(title, (sizes, f"{{{link.face_width_mm}|mm}} wide", choice(link.lining)))


FAMILY = Family(
    kind="friction_drive",
    title="Friction roller",
    model=FrictionDrive,
    prepare=RollerTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(0.2, 8.0),
    workings=workings,
    stock=lambda link, catalog: {"driver_diameter_mm": DIAMETERS_MM, "face_width_mm": FACES_MM},
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Friction roller", service_factor(sizing)),),
    caution="A roller on a rim draws fingers in where they meet; guard the nip.",
    failure_points=failure_points,
    rules=RULES,
    samples=(
        FrictionDrive(
            driver_diameter_mm=80.0, driven_diameter_mm=1200.0, face_width_mm=60.0, press_n=1800.0, rollers=2
        ),
        FrictionDrive(
            runs="inside_drum", driver_diameter_mm=80.0, driven_diameter_mm=600.0, face_width_mm=40.0, press_n=900.0
        ),
    ),
    explains={"slip_at_peak": "grip", "press_unset": "to_set"},
    empty={"own_friction": "from the table", "own_rolling_arm_mm": "from the table"},
)
