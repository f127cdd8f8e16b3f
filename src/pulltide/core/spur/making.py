"""The outline of a generated spur gear, and what it is measured by."""

from __future__ import annotations

from math import acos, cos, pi, sin, sqrt, tan

from pulltide.core.findings import Source
from pulltide.core.made.wheel import CHORD_MM, MadeWheel, Measure, Side, arc, circle, round_the_wheel
from pulltide.core.sketch import Point
from pulltide.core.spur.form import THINNED, TOOLS, Tooth, angle_of_involute, involute

GENERATED = Source("rack generation of the involute and its fillet", "exact", "formula")
#: Pin over module. Source: Machinery's Handbook, gauge pins for external gears (Van Keuren), from memory.
PIN_SHARE = 1.728
#: The same between the teeth of a ring. Source: Machinery's Handbook, from memory.
INNER_PIN_SHARE = 1.44
#: Points along a fillet.
FILLET = 24
#: Depth of a ring's gaps under its pitch circle, and the round at their floor [modules]. ISO 53, from memory.
RING_DEPTH, RING_ROUND = 1.25, 0.3
#: Metal outside the gaps of a ring, and under the teeth of a rack [modules]. Common practice, no source.
RING_RIM, RACK_BODY = 2.5, 2.5
#: Teeth of a rack that are drawn as one piece.
RACK_TEETH = 12
#: A rim under the teeth is at least so many modules thick. Common practice, no source.
RIM = 1.5


def tooth_side(tooth: Tooth, module_mm: float, chord_mm: float = CHORD_MM) -> tuple[Point, ...]:
    """One flank from root to tip [mm], the tooth upright on the y axis, its right side."""
    form_radius, end = tooth.form
    fillet = []
    for number in range(FILLET + 1):
        alpha = pi / 2 + (end - pi / 2) * number / FILLET
        radius, half = tooth.fillet(alpha)
        fillet.append((radius, half))
    rb, tip = tooth.base_radius, tooth.tip_radius
    first = sqrt(max((form_radius / rb) ** 2 - 1, 0.0))
    last = sqrt((tip / rb) ** 2 - 1)
    chords = max(round(sqrt(rb * module_mm / (8 * chord_mm)) * (last**1.5 - first**1.5) * 2 / 3 + 0.5), 4)
    flank = []
    for number in range(1, chords + 1):
        roll = (first**1.5 + (last**1.5 - first**1.5) * number / chords) ** (2 / 3)
        radius = rb * sqrt(1 + roll**2)
        flank.append((radius, tooth.half_angle(radius)))
    return tuple((m * sin(t), m * cos(t)) for m, t in ((module_mm * r, half) for r, half in (*fillet, *flank)))


def gear_outline(tooth: Tooth, module_mm: float, chord_mm: float = CHORD_MM) -> tuple[Point, ...]:
    """The whole gear [mm], counter-clockwise: a tooth with its tip, and the root to the next."""
    right = tooth_side(tooth, module_mm, chord_mm)
    left = tuple((-x, y) for x, y in reversed(right))
    tip = tooth.tip_radius * module_mm
    half = tooth.half_angle(tooth.tip_radius)
    top = tuple(arc((0.0, 0.0), tip, pi / 2 - half, pi / 2 + half, chord_mm)) if half > 0 else ()
    return round_the_wheel((*right, *top, *left), round(tooth.teeth))


def over_pins_mm(tooth: Tooth, module_mm: float, pin_mm: float) -> float:
    """Measure over two pins [mm], thinning of the tooth allowed for. Source: exact.

    inv φ_M = d_p / (m z cos φ) + inv φ - π / 2z + 2 x tan φ / z - Δs / z; M = d_b / cos φ_M + d_p, times cos 90° / z
    in between for odd teeth.

    >>> round(over_pins_mm(Tooth(17, thinned=0.0), 2.0, 3.5), 4)
    38.7568
    """
    z, phi = tooth.teeth, tooth.phi
    value = pin_mm / (module_mm * z * cos(phi)) + involute(phi) - pi / (2 * z)
    value += (2 * tooth.shift * tan(phi) - tooth.thinned) / z
    across = 2 * tooth.base_radius * module_mm / cos(angle_of_involute(value))
    return across * (1.0 if round(z) % 2 == 0 else cos(pi / 2 / z)) + pin_mm


def span_mm(tooth: Tooth, module_mm: float) -> tuple[float, int]:
    """Measure over several teeth between flat jaws [mm], and over how many. Source: exact.

    W = m cos φ [π (k - 1/2) + z inv φ] + 2 x m sin φ - Δs m cos φ

    >>> round(span_mm(Tooth(24, thinned=0.0), 2.5)[0], 4), span_mm(Tooth(24), 2.5)[1]
    (19.2912, 3)
    """
    z, phi, x = tooth.teeth, tooth.phi, tooth.shift
    at = sqrt(max((z + 2 * x) ** 2 - (z * cos(phi)) ** 2, 0.0)) / cos(phi) - 2 * x * tan(phi) - z * involute(phi)
    count = max(round(0.5 + at / pi), 1)
    whole = cos(phi) * (pi * (count - 0.5) + z * involute(phi)) + 2 * x * sin(phi) - tooth.thinned * cos(phi)
    return module_mm * whole, count


def made_gear(side: Side, tooth: Tooth, module_mm: float, face_mm: float, material: str = "") -> MadeWheel:
    """A plain gear with what it measures and the order of work."""
    teeth, pin = round(tooth.teeth), PIN_SHARE * module_mm
    span, count = span_mm(tooth, module_mm)
    tip, root = 2 * tooth.tip_radius * module_mm, 2 * (tooth.pitch_radius - tooth.tool[0]) * module_mm
    measures = (
        Measure("Teeth", float(teeth), ""),
        Measure("Module", module_mm, "mm", f"{25.4 / module_mm:.4g} teeth an inch of pitch diameter"),
        Measure("Outside diameter", tip, "mm", "turn to this, never over it"),
        Measure("Pitch diameter", 2 * tooth.pitch_radius * module_mm, "mm"),
        Measure("Root diameter", root, "mm"),
        Measure("Whole depth of cut", (tip - root) / 2, "mm"),
        Measure(f"Over {count} teeth", span, "mm", "flat jaws; under it by what backlash there is to be"),
        Measure("Over two pins", over_pins_mm(tooth, module_mm, pin), "mm", f"pins of {{{pin:.4g}|mm}}"),
    )
    order = (
        f"Blank of {{{tip:.5g}|mm}} outside and {{{face_mm:.4g}|mm}} face, bored and faced at one chucking.",
        f"Index {teeth} teeth; cut {{{(tip - root) / 2:.4g}|mm}} deep, a third left for the last pass.",
        f"Measure over {count} teeth; a deeper cut takes off {2 * sin(tooth.phi):.2f} of its depth there.",
        "Break the tips; run with its mate by hand through one turn of the larger before it is keyed.",
    )
    return MadeWheel(
        side=side,
        title=f"Gear, {teeth} teeth, module {module_mm:.4g}",
        draw=lambda: gear_outline(tooth, module_mm),
        outside_mm=tip,
        face_mm=face_mm,
        turned=False,
        measures=measures,
        order=order,
        source=GENERATED,
        caution="Cutting from sheet: kerf moves every flank. Cut three teeth and a bore as a trial and measure them.",
        largest_bore_mm=root - 2 * RIM * module_mm,
        material=material,
        teeth=teeth,
        gap_angle=pi / 2 + pi / teeth,
    )


def ring_tip(pinion: Tooth, teeth: int) -> float:
    """Inner radius of a ring [modules] that clears the fillets of its pinion at standard centers, shifts 0.

    √(r_b2² + (C sin φ + √(R_f1² - r_b1²))²), and never under the standard tip z_2 / 2 - 1. Source: exact.

    >>> round(ring_tip(Tooth(20), 60), 2), round(ring_tip(Tooth(20), 61), 2)
    (29.07, 29.57)
    """
    base = teeth / 2 * cos(pinion.phi)
    line = (teeth - pinion.teeth) / 2 * sin(pinion.phi)
    reach = line + sqrt(max(pinion.form[0] ** 2 - pinion.base_radius**2, 0.0))
    return max(sqrt(base**2 + reach**2), teeth / 2 - 1)


def ring_outline(
    teeth: int, angle_deg: float, tip: float, module_mm: float, chord_mm: float = CHORD_MM
) -> tuple[Point, ...]:
    """The inside of a ring [mm], counter-clockwise: its gaps are teeth of an involute gear, widened for backlash.

    ``tip`` is the inner radius of its teeth [modules]. The floor of a gap is rounded into both flanks.
    """
    gap = Tooth(teeth, angle_deg, thinned=-THINNED)
    rb, floor, radius = gap.base_radius, teeth / 2 + RING_DEPTH, RING_ROUND
    inner = max(tip, rb)

    def center_half(radius: float) -> float:
        """Half angle at which a round on the floor touches the flank: the involute turned back by ρ / r_b."""
        return gap.half_angle(floor - radius) - radius / rb

    while center_half(radius) < 0:
        radius *= 0.9
    at, half = floor - radius, center_half(radius)
    end = sqrt(at**2 - rb**2) + radius
    first, last = sqrt((inner / rb) ** 2 - 1), end / rb
    count = max(round(sqrt(rb * module_mm / (8 * chord_mm)) * (last**1.5 - first**1.5) * 2 / 3 + 0.5), 4)
    flank = []
    for number in range(count + 1):
        roll = (first**1.5 + (last**1.5 - first**1.5) * number / count) ** (2 / 3)
        r = rb * sqrt(1 + roll**2)
        flank.append((module_mm * r * sin(gap.half_angle(r)), module_mm * r * cos(gap.half_angle(r))))
    center = (module_mm * at * sin(half), module_mm * at * cos(half))
    ending = flank[-1]
    start = acos(max(min((ending[0] - center[0]) / (radius * module_mm), 1.0), -1.0))
    start = start if ending[1] >= center[1] else -start
    round_part = tuple(arc(center, radius * module_mm, start, pi / 2 - half, chord_mm))
    land = tuple(arc((0.0, 0.0), floor * module_mm, pi / 2 - half, pi / 2 + half, chord_mm))
    right = (*flank, *round_part[1:])
    left = tuple((-x, y) for x, y in reversed(right))
    return round_the_wheel((*right, *land[1:-1], *left), teeth)


def between_pins_mm(teeth: int, angle_deg: float, module_mm: float, pin_mm: float, widened: float = 0.0) -> float:
    """Measure between two pins in a ring [mm]: d_b / cos φ_M - d_p, times cos 90° / z in between for odd teeth.

    inv φ_M = inv φ + π / 2z - d_p / (m z cos φ) + Δs / z, ``widened`` in modules. Source: exact.

    >>> round(between_pins_mm(40, 20.0, 2.0, 2.88), 4), round(between_pins_mm(35, 20.0, 2.0, 2.88), 4)
    (77.3289, 67.2579)
    """
    tooth = Tooth(teeth, angle_deg)
    value = involute(tooth.phi) + pi / (2 * teeth) - pin_mm / (module_mm * teeth * cos(tooth.phi)) + widened / teeth
    across = 2 * tooth.base_radius * module_mm / cos(angle_of_involute(value))
    return across * (1.0 if teeth % 2 == 0 else cos(pi / 2 / teeth)) - pin_mm


def made_ring(side: Side, pinion: Tooth, teeth: int, sizes: tuple[float, float], material: str = "") -> MadeWheel:
    """A ring gear with its teeth inside; ``sizes`` are module and face [mm]."""
    module_mm, face_mm = sizes
    tip, pin = ring_tip(pinion, teeth), INNER_PIN_SHARE * module_mm
    floor = 2 * (teeth / 2 + RING_DEPTH) * module_mm
    outside = floor + 2 * RING_RIM * module_mm
    short = tip - (teeth / 2 - 1)
    measures = (
        Measure("Teeth", float(teeth), ""),
        Measure("Module", module_mm, "mm", f"{25.4 / module_mm:.4g} teeth an inch of pitch diameter"),
        Measure(
            "Inside diameter",
            2 * tip * module_mm,
            "mm",
            f"tips {short:.3f} of a module shorter, clear of the pinion's fillets" if short > 0 else "",
        ),
        Measure("Pitch diameter", teeth * module_mm, "mm"),
        Measure("Diameter at the floor of the gaps", floor, "mm"),
        Measure("Outside diameter", outside, "mm", "or more: as the case it is held in"),
        Measure("Between two pins", between_pins_mm(teeth, pinion.angle_deg, module_mm, pin, THINNED), "mm",
                f"pins of {{{pin:.4g}|mm}}"),
    )  # fmt: skip
    order = (
        f"Blank of {{{outside:.5g}|mm}} by {{{face_mm:.4g}|mm}} thick, bored to {{{2 * tip * module_mm:.5g}|mm}}.",
        f"Index {teeth} gaps; shape, slot or wire-cut them to the outline. Cut from plate: dress both edges.",
        "Measure between two pins; a wider gap measures more.",
        "Hold it by its rim on a true circle: the pinion rolls round inside by hand before it is driven.",
    )
    return MadeWheel(
        side=side,
        title=f"Ring gear, {teeth} teeth, module {module_mm:.4g}",
        draw=lambda: circle((0.0, 0.0), outside / 2),
        outside_mm=outside,
        face_mm=face_mm,
        turned=False,
        measures=measures,
        order=order,
        source=GENERATED,
        caution="Cutting from sheet: kerf moves every flank. Cut three teeth as a trial and measure them.",
        cut_out=lambda: (tuple(reversed(ring_outline(teeth, pinion.angle_deg, tip, module_mm))),),
        hub=False,
        material=material,
        teeth=teeth,
        gap_angle=pi / 2,
    )


def rack_outline(module_mm: float, count: int, angle_deg: float = 20.0) -> tuple[Point, ...]:
    """A stretch of rack [mm], counter-clockwise, its pitch line on the x axis and teeth up; cut in the gap at each end.

    Addendum 1, depth 1.25 with the round of the tool, flanks drawn in for backlash. Source: ISO 53, from memory.
    """
    tooth = Tooth(10_000, angle_deg)
    depth, radius = TOOLS[angle_deg][0] * module_mm, TOOLS[angle_deg][1] * module_mm
    pitch, slope = pi * module_mm, tan(tooth.phi)
    half = pitch / 4 - THINNED * module_mm / 2
    tip, foot = half - module_mm * slope, half + depth * slope
    # a round on the floor that touches the flank
    inside = foot + radius * (1 - sin(tooth.phi)) / cos(tooth.phi)
    points: list[Point] = []
    for number in range(count):
        middle = pitch * (number + 0.5)
        fillet = tuple(arc((inside, radius - depth), radius, -pi / 2, -pi + tooth.phi))
        right = [(tip, module_mm), *reversed(fillet)]
        points += [(middle - x, y) for x, y in reversed(right)] + [(middle + x, y) for x, y in right]
    low = -depth - RACK_BODY * module_mm
    end = count * pitch
    # along the teeth from left to right is clockwise round the body
    return tuple(reversed([(0.0, low), (0.0, -depth), *points, (end, -depth), (end, low)]))


def made_rack(side: Side, module_mm: float, face_mm: float, angle_deg: float = 20.0) -> MadeWheel:
    """A stretch of rack, to be set end to end."""
    pitch, depth = pi * module_mm, TOOLS[angle_deg][0] * module_mm
    pin = PIN_SHARE * module_mm
    over = (
        pin / 2 / sin(Tooth(10_000, angle_deg).phi)
        + pin / 2
        - (pitch / 4 + THINNED * module_mm / 2) / tan(Tooth(10_000, angle_deg).phi)
    )
    measures = (
        Measure("Teeth drawn", float(RACK_TEETH), "", "stretches set end to end with one more pressed over the joint"),
        Measure("Tooth to tooth", pitch, "mm", "π times the module"),
        Measure("Whole depth of cut", module_mm + depth, "mm"),
        Measure("Pitch line under the tips", module_mm, "mm"),
        Measure("Pin over the pitch line", over, "mm", f"a pin of {{{pin:.4g}|mm}} in a gap, to its top"),
        Measure("Pressure angle", angle_deg, "°"),
    )
    order = (
        "Bar planed true on the back and both edges; the back is what every height is measured from.",
        f"Cut {{{module_mm + depth:.4g}|mm}} deep, stepping {{{pitch:.5g}|mm}} from one stop, never tooth from tooth.",
        "Lay a pin in the first, middle and last gap: all heights alike.",
        "Set the pinion to its center over the back with a feeler of backlash at the tightest place.",
    )
    return MadeWheel(
        side=side,
        title=f"Rack, module {module_mm:.4g}",
        draw=lambda: rack_outline(module_mm, RACK_TEETH, angle_deg),
        outside_mm=0.0,
        face_mm=face_mm,
        turned=False,
        measures=measures,
        order=order,
        source=GENERATED,
        caution="A rack draws fingers into the mesh all along its way: cover it, and stop it at both ends.",
        hub=False,
    )
