"""Pairs of helical gears on parallel shafts, single or double."""

from pulltide.core.catalog import Catalog, counts
from pulltide.core.family import Family, LinkWords
from pulltide.core.links.helical_pair import checks
from pulltide.core.links.helical_pair.checks import RULES
from pulltide.core.links.helical_pair.failure import failure_points
from pulltide.core.links.helical_pair.inputs import HelicalPair
from pulltide.core.links.helical_pair.methods import METHODS
from pulltide.core.links.helical_pair.transmission import HelicalTransmission
from pulltide.core.links.helical_pair.variants import reconcile, starter, variants
from pulltide.core.links.helical_pair.working import workings
from pulltide.core.spur import tables
from pulltide.core.spur.mesh import service_factor
from pulltide.core.spur.neighbors import GEAR

__all__ = ["FAMILY", "HelicalPair"]


def _stock(link: HelicalPair, catalog: Catalog) -> dict[str, tuple[float | str, ...]]:
    teeth = tuple(str(count) for count in counts(catalog, GEAR))
    return {"driver_teeth": teeth, "driven_teeth": teeth, "module_mm": tables.modules_mm()}


def _words(link: HelicalPair, step: int) -> LinkWords:
    pitch = f"module {link.module_mm:g}" if link.module_mm is not None else f"{link.diametral_pitch:g} pitch"
    title = "Helical pair" if link.helices == "single" else "Double helical pair"
    return LinkWords(title, (f"{link.driver_teeth} → {link.driven_teeth} t", pitch, f"{{{link.helix_deg}|deg}} helix"))


FAMILY = Family(
    kind="helical_pair",
    title="Helical gear pair",
    model=HelicalPair,
    prepare=HelicalTransmission,
    variants=variants,
    reconcile=reconcile,
    starter=starter,
    usual_ratios=(0.2, 6.0),
    workings=workings,
    stock=_stock,
    words=_words,
    methods=METHODS,
    factors=lambda sizing: (("Helical gears", service_factor(sizing, "enclosed_oiled")),),
    caution="Gears draw in whatever touches the mesh, and a broken tooth flies: close them in before first power.",
    failure_points=failure_points,
    jam=checks.TEETH.stall,
    rules=RULES,
    samples=(
        HelicalPair(
            module_mm=3.0,
            driver_teeth=20,
            driven_teeth=61,
            helix_deg=30.0,
            helices="double",
            face_width_mm=60.0,
            driven_material="acetal_or_nylon",
        ),
    ),
    explains={"speed": "pitch_speed", "stall": "bending", "overlap": "axial_pitch"},
    empty={"own_efficiency": "from the tables"},
)
