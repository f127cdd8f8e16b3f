"""The outline of a generated spur gear, and what it is measured by."""

from __future__ import annotations

from math import cos, pi, sin, sqrt, tan

from pulltide.core.findings import Source
from pulltide.core.making import CHORD_MM, MadeWheel, Measure, Side, arc, round_the_wheel
from pulltide.core.sketch import Point
from pulltide.core.spur.form import Tooth, angle_of_involute, involute

GENERATED = Source("rack generation of the involute and its fillet", "exact", "formula")
#: Pin over module. Source: Machinery's Handbook, gauge pins for external gears (Van Keuren), from memory.
PIN_SHARE = 1.728
#: Points along a fillet.
FILLET = 24
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


def made_gear(side: Side, tooth: Tooth, module_mm: float, face_mm: float) -> MadeWheel:
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
        outline=gear_outline(tooth, module_mm),
        face_mm=face_mm,
        turned=False,
        measures=measures,
        order=order,
        source=GENERATED,
        caution="Cutting from sheet: kerf moves every flank. Cut three teeth and a bore as a trial and measure them.",
        largest_bore_mm=root - 2 * RIM * module_mm,
    )
