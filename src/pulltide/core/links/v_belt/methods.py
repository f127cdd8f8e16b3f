"""More formulas of V-belts, callable by name: measured diameters, stepped cones, idlers, slip, life."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from pulltide.core import open_belt
from pulltide.core.belt_path import Round, belt_path
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.family import Method
from pulltide.core.findings import EXACT, Source
from pulltide.core.labels import as_is, phrase, quantity
from pulltide.core.links.v_belt import rating, tables
from pulltide.core.links.v_belt.asked import (
    LIFE,
    GeometryInputs,
    RatingInputs,
    TensionInputs,
    center_working,
    rating_working,
    tension_working,
)
from pulltide.core.links.v_belt.flat import FlatBeltInputs, flat_belt_working
from pulltide.core.links.v_belt.hinged_base import HingedBaseInputs, hinged_base_working
from pulltide.core.links.v_belt.inputs import Section
from pulltide.core.model import CoreModel, Degrees, Mm, MPerS, Newton, Plain
from pulltide.core.working import Step, Working

FRICTION = Source("Shigley's Mechanical Engineering Design", "belt friction, 0.3 dry", "quoted from memory")


class MeasuredInputs(CoreModel):
    """What a caliper measures on a pulley or a drum."""

    section: Section = Field(title="Section")
    outside_diameter_mm: Mm = Field(title="Outside diameter", ge=20, le=3000)
    rim: Literal["grooved", "flat_drum"] = Field("grooved", title="Rim is")


def measured_working(inputs: MeasuredInputs) -> Working:
    """Pitch diameter of a pulley, or effective diameter of a drum, from its outside; the groove angle beside it."""
    data, outside = tables.section(inputs.section), inputs.outside_diameter_mm
    source = tables.table("sections").as_source
    if inputs.rim == "flat_drum":
        if data.flat_drum_mm is None:
            raise ImpossibleGeometry(f"A narrow {as_is(inputs.section)} belt does not run on a flat drum.")
        numbers = {"D_o": outside, "Δ": data.flat_drum_mm}
        step = Step(
            "Effective diameter of the drum", "D", "D_o + Δ", numbers, outside + data.flat_drum_mm, "mm", source
        )
        return Working("Diameter from outside", (step,))
    gap = data.outside_minus_pitch_mm
    groove = tables.groove_angle_deg(inputs.section, outside if data.angle_by_outside else outside - gap)
    angles = tables.table("groove_angles").as_source
    return Working(
        "Diameter from outside",
        (
            Step("Groove angle", "β", "table by diameter", {"d_o": outside}, groove, "deg", angles),
            Step("Pitch diameter", "d", "d_o - 2a", {"d_o": outside, "2a": gap}, outside - gap, "mm", source),
        ),
    )


class ConeInputs(CoreModel):
    """A first pair of pitch diameters at a fixed center distance, and the ratio of another step on the same belt."""

    center_distance_mm: Mm = Field(title="Center distance", ge=20, le=6000)
    driver_diameter_mm: Mm = Field(title="First driver, pitch diameter", ge=10, le=1500)
    driven_diameter_mm: Mm = Field(title="First driven, pitch diameter", ge=10, le=1500)
    ratio: Plain = Field(title="Ratio of the other step", ge=0.1, le=10)


def _stand_clear(driver_mm: float, driven_mm: float, center_mm: float) -> None:
    """Raise ImpossibleGeometry where two pulleys would touch."""
    if center_mm <= (driver_mm + driven_mm) / 2:
        raise ImpossibleGeometry(
            f"Pulleys of {quantity(driver_mm, 'mm')} and {quantity(driven_mm, 'mm')} would touch at "
            f"{quantity(center_mm, 'mm')} of center distance."
        )


def cone_working(inputs: ConeInputs) -> Working:
    """Diameters of another step for one belt at one center distance, by bisection on the exact length."""
    c, i = inputs.center_distance_mm, inputs.ratio
    _stand_clear(inputs.driver_diameter_mm, inputs.driven_diameter_mm, c)
    length = open_belt.open_belt_length_mm(inputs.driver_diameter_mm, inputs.driven_diameter_mm, c)
    low, high = 1e-6, 2 * c / (abs(i - 1) or 1e-9) * (1 - 1e-9)
    high = min(high, length)

    def excess(driver: float) -> float:
        return open_belt.open_belt_length_mm(driver, i * driver, c) - length

    if excess(high) < 0:
        raise ImpossibleGeometry("No pair of this ratio fits this belt at this center distance.")
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if excess(middle) < 0 else (low, middle)
    driver = (low + high) / 2
    _stand_clear(driver, i * driver, c)
    first = {"d": inputs.driver_diameter_mm, "D": inputs.driven_diameter_mm, "C": c}
    formula = "2 C cos γ + π (D + d)/2 + γ (D - d)"
    return Working(
        "Step of a cone for one belt",
        (
            Step("Length of the belt", "L", formula, first, length, "mm", EXACT),
            Step("Driven, pitch diameter", "D2", "i d2", {"i": i, "d2": driver}, i * driver, "mm", EXACT),
            Step(
                "Driver, pitch diameter",
                "d2",
                "same length at D2 = i d2, solved",
                {"L": length, "i": i},
                driver,
                "mm",
                EXACT,
            ),
        ),
    )


class ThreeWheelInputs(CoreModel):
    """Three wheels in belt order, the first at the origin; radii at the pitch line."""

    first_radius_mm: Mm = Field(title="First radius", ge=5, le=1500)
    second_x_mm: Mm = Field(title="Second wheel, x", ge=-6000, le=6000)
    second_y_mm: Mm = Field(0.0, title="Second wheel, y", ge=-6000, le=6000)
    second_radius_mm: Mm = Field(title="Second radius", ge=5, le=1500)
    third_x_mm: Mm = Field(title="Third wheel, x", ge=-6000, le=6000)
    third_y_mm: Mm = Field(title="Third wheel, y", ge=-6000, le=6000)
    third_radius_mm: Mm = Field(title="Third radius", ge=5, le=1500)
    third_on_back: bool = Field(True, title="Third wheel runs on the back of the belt")


def three_wheel_working(inputs: ThreeWheelInputs) -> Working:
    """Length of a belt round three wheels, anticlockwise, and the wrap of each."""
    wheels = (
        Round(0.0, 0.0, inputs.first_radius_mm),
        Round(inputs.second_x_mm, inputs.second_y_mm, inputs.second_radius_mm),
        Round(inputs.third_x_mm, inputs.third_y_mm, inputs.third_radius_mm, inputs.third_on_back),
    )
    path = belt_path(wheels)
    numbers = {"r1": wheels[0].radius_mm, "r2": wheels[1].radius_mm, "r3": wheels[2].radius_mm}
    turn = "turn between the strands, t = √(c² - (σi ri - σj rj)²)"
    names = ("first", "second", "third")
    wraps = [
        Step(f"Wrap of the {phrase(names[k])} wheel", f"θ{k + 1}", turn, numbers, path.wraps_deg[k], "deg", EXACT)
        for k in range(3)
    ]
    return Working(
        "Belt round three wheels", (*wraps, Step("Length", "L", "Σ t + Σ r θ", numbers, path.length_mm, "mm", EXACT))
    )


class SlipInputs(CoreModel):
    """A belt at rest under a tension that was set."""

    section: Section = Field(title="Section")
    static_tension_n: Newton = Field(title="Tension set, each belt", gt=0, le=5000)
    wrap_deg: Degrees = Field(title="Wrap of the small pulley", ge=60, le=240)
    small_diameter_mm: Mm = Field(title="Small pulley, pitch diameter", ge=20, le=1500)
    belt_speed_m_s: MPerS = Field(title="Belt speed", gt=0, le=45)
    tensioning: Literal["locked", "constant_pull"] = Field("locked", title="Tension type")


def slip_working(inputs: SlipInputs) -> Working:
    """Pull at which one belt slips: at the friction designs rely on, and in dry grooves at the latest."""
    data = tables.section(inputs.section)
    locked = inputs.tensioning == "locked"
    thrown = data.mass_kg_per_m * inputs.belt_speed_m_s**2 if locked else 0.0
    if thrown >= inputs.static_tension_n:
        raise ImpossibleGeometry(
            f"The belt carries nothing: at {quantity(inputs.belt_speed_m_s, 'm/s')} it is thrown outward with "
            f"{quantity(thrown, 'N')}, all of the {quantity(inputs.static_tension_n, 'N')} that were set."
        )
    span = rating.Span(
        wrap_deg=inputs.wrap_deg,
        speed_m_per_s=inputs.belt_speed_m_s,
        center_mm=0.0,
        chord_mm=1.0,
        mass_kg_per_m=data.mass_kg_per_m,
        locked=locked,
    )
    measured = inputs.small_diameter_mm + (data.outside_minus_pitch_mm if data.angle_by_outside else 0.0)
    groove = tables.groove_angle_deg(inputs.section, measured)
    steps = []
    for name, sign, ratio, source in (
        ("design friction", "R", span.ratio, EXACT),
        ("dry grooves", "R_d", rating.dry_tension_ratio(inputs.wrap_deg, groove), FRICTION),
    ):
        formula = "5^(θ/180)" if sign == "R" else "exp(0.3 π θ / (180 sin(β/2)))"
        numbers = {"θ": inputs.wrap_deg} if sign == "R" else {"θ": inputs.wrap_deg, "β": groove}
        steps.append(Step(f"Tension ratio, {phrase(name)}", sign, formula, numbers, ratio, "", source))
        pull = rating.slip_pull_n(inputs.static_tension_n, ratio, span)
        put_in = {"T": inputs.static_tension_n, "T_c": thrown, sign: ratio}
        symbol = "F_1" if sign == "R" else "F_2"
        steps.append(
            Step(
                f"Slips at, {phrase(name)}",
                symbol,
                f"2 (T - T_c) ({sign} - 1) / ({sign} + 1)",
                put_in,
                pull,
                "N",
                EXACT,
            )
        )
        slip_nm = pull * inputs.small_diameter_mm / 2000
        torque = {symbol: pull, "d": inputs.small_diameter_mm}
        steps.append(
            Step(
                f"Torque there, {phrase(name)}", f"T_{symbol[-1]}", f"{symbol} d / 2000", torque, slip_nm, "N*m", EXACT
            )
        )
    return Working("Slip of a V-belt", tuple(steps))


class LifeInputs(CoreModel):
    """One belt on two pulleys under its tight-side tension."""

    section: Literal["A", "B", "C", "3V", "5V"] = Field(title="Section")
    tight_tension_n: Newton = Field(title="Tight side, with the centrifugal part", gt=0, le=20_000)
    small_diameter_mm: Mm = Field(title="Small pulley, pitch diameter", ge=20, le=1500)
    large_diameter_mm: Mm = Field(title="Large pulley, pitch diameter", ge=20, le=2000)
    pitch_length_mm: Mm = Field(title="Pitch length", ge=300, le=20_000)
    belt_speed_m_s: MPerS = Field(title="Belt speed", gt=0, le=45)


def life_working(inputs: LifeInputs) -> Working:
    """Passes and hours of a belt as a trend, told up to a thousand million passes."""
    sizes = (inputs.small_diameter_mm, inputs.large_diameter_mm)
    found = rating.life(inputs.section, inputs.tight_tension_n, sizes, inputs.pitch_length_mm, inputs.belt_speed_m_s)
    if found is None:
        raise ImpossibleGeometry(f"No life constants of section {as_is(inputs.section)} are known.")
    tight = {"F1": inputs.tight_tension_n}
    peaks = {"T1": found.peak_small_n, "T2": found.peak_large_n}
    note = "a ranking: with an exponent near 11 hours are good to a factor of five"
    return Working(
        "Life trend of a V-belt",
        (
            Step("Peak on the small pulley", "T1", "F1 + K_b/d", tight, found.peak_small_n, "N", LIFE),
            Step("Peak on the large pulley", "T2", "F1 + K_b/D", tight, found.peak_large_n, "N", LIFE),
            Step("Passes", "N_P", "1 / ((K/T1)^-b + (K/T2)^-b)", peaks, found.passes, "", LIFE, note),
            Step("Hours, up to a thousand million passes", "t", "N_P L / (720 V)", {}, found.hours, "h", LIFE, note),
        ),
    )


METHODS = (
    Method("v_belt_rating", "Power a V-belt drive carries", RatingInputs, rating_working),
    Method("v_belt_center", "Center distance and wrap from a belt length", GeometryInputs, center_working),
    Method("v_belt_tension", "Static tension of V-belts", TensionInputs, tension_working),
    Method("v_belt_diameter", "Pitch diameter from the outside of a pulley or drum", MeasuredInputs, measured_working),
    Method("v_belt_cone", "Step of a cone pulley for one belt", ConeInputs, cone_working),
    Method("v_belt_three_wheels", "Belt round two pulleys and an idler", ThreeWheelInputs, three_wheel_working),
    Method("v_belt_slip", "Pull at which a V-belt slips", SlipInputs, slip_working),
    Method(
        "belt_hinged_base", "Motor on a hinged base: tension and pull at slip", HingedBaseInputs, hinged_base_working
    ),
    Method("belt_flat", "Tensions, friction and dip of a flat belt", FlatBeltInputs, flat_belt_working),
    Method("v_belt_life", "Life of a V-belt as a trend", LifeInputs, life_working),
)
