"""V-belt pulleys to turn: the half section with its grooves, set-over of the top slide, measure over pins."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import cos, radians, sin, tan

from pulltide.core.findings import Source
from pulltide.core.labels import phrase
from pulltide.core.links.v_belt import tables
from pulltide.core.links.v_belt.inputs import VBelt
from pulltide.core.links.v_belt.transmission import BeltTransmission
from pulltide.core.made.wheel import MadeWheel, Measure, Side
from pulltide.core.sketch import Point

#: A rim under the groove is at least this thick [mm]. Common practice, no source.
RIM_MM = 8.0
#: Half section of a pulley whose bore is open: drawn down to this share of its floor.
OPEN_SHARE = 0.35


@dataclass(frozen=True, slots=True, kw_only=True)
class Groove:
    """One groove at an outside diameter [mm], its angle [degrees]."""

    outside_mm: float
    angle_deg: float
    top_mm: float
    depth_mm: float
    pin_mm: float
    pitch_mm: float = 0.0

    @property
    def half(self) -> float:
        """Half the groove angle [radians]."""
        return radians(self.angle_deg / 2)

    @property
    def bottom_mm(self) -> float:
        """Width of its floor."""
        return max(self.top_mm - 2 * self.depth_mm * tan(self.half), 0.5)

    @property
    def floor_mm(self) -> float:
        """Diameter of its floor."""
        return self.outside_mm - 2 * self.depth_mm

    @property
    def over_pins_mm(self) -> float:
        """Measure over two pins: D - w / tan(a/2) + d / sin(a/2) + d. Source: exact."""
        pin = self.pin_mm
        return self.outside_mm - self.top_mm / tan(self.half) + pin / sin(self.half) + pin


def groove_at(section: str, outside_mm: float) -> Groove | None:
    """The groove of a section in a pulley of an outside diameter; None where the tables have none.

    >>> found = groove_at("A", 4.0 * 25.4)
    >>> round(found.over_pins_mm / 25.4, 3), found.angle_deg
    (4.318, 34.0)
    """
    table = tables.table("grooves_to_cut")
    rows = [row for row in table.rows if row["section"] == section]
    fitting = [
        row
        for row in rows
        if outside_mm - (float(row["outside_minus_reference_mm"]) if row["basis"] == "datum" else 0.0)
        >= float(row["from_mm"]) - 1e-6
    ]
    if not rows:
        return None
    row = fitting[-1] if fitting else rows[0]
    return Groove(
        outside_mm=outside_mm,
        angle_deg=float(row["groove_angle_deg"]),
        top_mm=float(row["top_width_mm"]),
        depth_mm=float(row["depth_mm"]),
        pin_mm=float(row["pin_mm"]),
    )


def makes(link: VBelt) -> Iterator[MadeWheel]:
    """Both pulleys, with every step of a step pulley, those in use of change pulleys; a drum that runs without grooves
    is not turned here.
    """
    steps = range(1, len(link.steps) + 1) if link.steps_are == "step_pulleys" else (link.chosen_step,)
    made = [BeltTransmission(link, step) for step in steps]
    section, edge = made[0].section, made[0].section.groove_edge_mm
    source = tables.table("grooves_to_cut").as_source
    places = [one.layout for one in made]
    sides: tuple[tuple[Side, list[tuple[float, float]]], ...] = (
        ("driver", [(place.driver_outside_mm, place.driver_pitch_mm) for place in places]),
        ("driven", [(place.driven_outside_mm, place.driven_pitch_mm) for place in places]),
    )
    for side, sizes in sides:
        found = [(groove_at(link.section, outside), pitch) for outside, pitch in sizes]
        known = [replace(groove, pitch_mm=pitch) for groove, pitch in found if groove is not None]
        is_drum = side == "driven" and link.driven_rim == "flat_drum"
        if len(known) == len(sizes) and not is_drum:
            yield _pulley(side, known, (link.belts, section.groove_pitch_mm, edge), source)


def _pulley(side: Side, grooves: list[Groove], along: tuple[int, float, float], source: Source) -> MadeWheel:
    belts, pitch_mm, edge_mm = along
    step_mm = (belts - 1) * pitch_mm + 2 * edge_mm
    face = step_mm * len(grooves)
    floor = min(groove.floor_mm for groove in grooves)
    profile: list[Point] = []
    for number, groove in enumerate(grooves):
        profile += _step(groove, number * step_mm, belts, pitch_mm, edge_mm)
    inner = floor / 2 * OPEN_SHARE
    middles = [(number + 0.5) * step_mm for number in range(len(grooves))]
    rims = tuple(zip(middles, (groove.outside_mm for groove in grooves), strict=True)) if len(grooves) > 1 else ()
    outline = ((0.0, inner), *profile, (face, inner))
    largest = max(groove.outside_mm for groove in grooves)
    names = [f"step {number}" for number in range(1, len(grooves) + 1)] if len(grooves) > 1 else [""]
    measures = [Measure("Face", face, "mm")]
    if belts > 1:
        measures.append(
            Measure("Groove to groove", pitch_mm, "mm", f"first and last {{{edge_mm:.4g}|mm}} from the face")
        )
    for name, groove in zip(names, grooves, strict=True):
        after = f", {name}" if name else ""
        measures += [
            Measure(f"Outside diameter{phrase(after)}", groove.outside_mm, "mm", "± {0.1|mm}"),
            Measure(f"Pitch diameter{phrase(after)}", groove.pitch_mm, "mm", "in the belt: what sets the speed"),
            Measure(
                f"Groove angle{phrase(after)}", groove.angle_deg, "°", f"top slide {groove.angle_deg / 2:g}° off square"
            ),
            Measure(f"Groove width at the rim{phrase(after)}", groove.top_mm, "mm"),
            Measure(
                f"Floor diameter{phrase(after)}", groove.floor_mm, "mm", "or less: the belt never touches the floor"
            ),
            Measure(f"Over two pins{phrase(after)}", groove.over_pins_mm, "mm", f"pins of {{{groove.pin_mm:.4g}|mm}}"),
            Measure(
                f"Feed along the top slide{phrase(after)}", groove.depth_mm / cos(groove.half), "mm", "for each flank"
            ),
        ]
    tool = min(groove.bottom_mm for groove in grooves)
    order = (
        f"Round of {{{largest + 4:.4g}|mm}} × {{{face + 6:.4g}|mm}}: face, drill, bore and turn at one chucking.",
        f"Plunge every groove straight to its floor with a tool no wider than {{{tool:.3g}|mm}}.",
        f"Set the top slide {phrase(_set_over(grooves))} off square, one flank of all grooves; then the other way.",
        "Lay two pins in a groove and measure over them; take off until the table is met.",
        "Keyseat or set screws, edges broken, flanks smooth to the fingernail. Turn true on the shaft before the belt.",
    )
    return MadeWheel(
        side=side,
        title=f"V-belt pulley, {len(grooves)} steps" if len(grooves) > 1 else _title(belts),
        draw=lambda: outline,
        outside_mm=largest,
        rims_mm=rims,
        face_mm=face,
        turned=True,
        measures=tuple(measures),
        order=order,
        source=source,
        caution="Chuck deep and true with the tailstock up; long sleeves and rags stay away from the lathe.",
        largest_bore_mm=floor - 2 * RIM_MM,
    )


def _set_over(grooves: list[Groove]) -> str:
    """Half of every groove angle there is: a cone's steps may differ."""
    halves = dict.fromkeys(groove.angle_deg / 2 for groove in grooves)
    return " and ".join(f"{half:g}°" for half in halves) + (", each for its steps," if len(halves) > 1 else "")


def _title(belts: int) -> str:
    return "V-belt pulley, 1 groove" if belts == 1 else f"V-belt pulley, {belts} grooves"


def _step(groove: Groove, start: float, belts: int, pitch_mm: float, edge_mm: float) -> list[Point]:
    """The rim of one step from left to right, grooves and all, as radius over place along the axis."""
    top, floor = groove.outside_mm / 2, groove.floor_mm / 2
    points = [(start, top)]
    for number in range(belts):
        middle = start + edge_mm + number * pitch_mm
        half, low = groove.top_mm / 2, groove.bottom_mm / 2
        points += [(middle - half, top), (middle - low, floor), (middle + low, floor), (middle + half, top)]
    points.append((start + (belts - 1) * pitch_mm + 2 * edge_mm, top))
    return points
