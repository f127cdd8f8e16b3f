"""Flat pulleys to turn: face, and the crown that keeps the belt on. A round belt's grooves are not turned here."""

from __future__ import annotations

from collections.abc import Iterator
from math import asin, pi

from pulltide.core.links.plain_belt import tables
from pulltide.core.links.plain_belt.inputs import PlainBelt
from pulltide.core.made.wheel import MadeWheel, Measure, Side, arc
from pulltide.core.sketch import Point
from pulltide.core.tables import number

#: Face over belt; a rim is at least this thick [mm]; the half section is drawn down to this share of its radius while
#: the bore is open. Common practice, no source.
FACE_SHARE, RIM_MM, OPEN_SHARE = 1.125, 6.0, 0.35


def crown_mm(diameter_mm: float) -> float:
    """Height of the crown [mm] by diameter. Source: ISO 22, from memory.

    >>> crown_mm(100.0), crown_mm(200.0), crown_mm(900.0)
    (0.3, 0.6, 1.0)
    """
    rows = tables.table("crowns").rows
    return next((number(row, "crown_mm") for row in rows if diameter_mm <= number(row, "up_to_mm")), 1.0)


def crown_radius_mm(face_mm: float, height_mm: float) -> float:
    """Radius of the arc of a crown [mm]: (b² / 4 + h²) / (2 h). Source: exact.

    >>> round(crown_radius_mm(60.0, 0.5), 2)
    900.25
    """
    return (face_mm**2 / 4 + height_mm**2) / (2 * height_mm)


def makes(link: PlainBelt) -> Iterator[MadeWheel]:
    """Both pulleys of a flat belt; the larger is crowned, or the driven where they are alike."""
    if tables.belts()[link.belt].is_round:
        return
    sides: tuple[tuple[Side, float], ...] = (("driver", link.driver_diameter_mm), ("driven", link.driven_diameter_mm))
    crowned: Side = "driver" if link.driver_diameter_mm > link.driven_diameter_mm else "driven"
    for side, diameter in sides:
        yield _pulley(side, link, diameter, crowned=side == crowned)


def _pulley(side: Side, link: PlainBelt, diameter: float, *, crowned: bool) -> MadeWheel:
    face = FACE_SHARE * link.width_mm * link.belts
    height = crown_mm(diameter) if crowned else 0.0
    rim: tuple[Point, ...] = ((0.0, diameter / 2), (face, diameter / 2))
    if crowned:
        radius = crown_radius_mm(face, height)
        half = asin(face / 2 / radius)
        center = (face / 2, diameter / 2 + height - radius)
        rim = tuple(reversed(tuple(arc(center, radius, pi / 2 - half, pi / 2 + half))))
    inner = diameter / 2 * OPEN_SHARE
    measures = [
        Measure("Face", face, "mm", "an eighth wider than the belt"),
        Measure("Diameter at the edges", diameter, "mm", "± {0.1|mm}, run-out under {0.1|mm}"),
    ]
    if crowned:
        measures += [
            Measure("Crown", height, "mm", f"in the middle, so {{{diameter + 2 * height:.5g}|mm}} across there"),
            Measure("Radius of the crown", crown_radius_mm(face, height), "mm"),
        ]
    turn = (
        f"Turn to {{{diameter + 2 * height:.5g}|mm}}, then two light tapers from the middle out; file the ridge round."
        if crowned
        else f"Turn straight to {{{diameter:.5g}|mm}}: the other pulley has the crown, never both."
    )
    order = (
        f"Round of {{{diameter + 2 * height + 4:.4g}|mm}} × {{{face + 6:.4g}|mm}}: face, drill, bore at one chucking.",
        turn,
        "Smooth as a file leaves it, no grooves: a belt wears on tool marks.",
        "Keyseat or set screws, edges broken. Spin it on its shaft and look along the rim before the belt goes on.",
    )
    return MadeWheel(
        side=side,
        title="Flat pulley, crowned" if crowned else "Flat pulley, straight",
        draw=lambda: ((0.0, inner), *rim, (face, inner)),
        outside_mm=diameter + 2 * height,
        face_mm=face,
        turned=True,
        measures=tuple(measures),
        order=order,
        source=tables.table("crowns").as_source,
        caution="Chuck deep and true with the tailstock up; long sleeves and rags stay away from the lathe.",
        largest_bore_mm=diameter - 2 * RIM_MM,
    )
