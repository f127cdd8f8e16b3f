"""A polyamide flat belt of an old countershaft: tensions, friction it needs, dip that sets it."""

from __future__ import annotations

from math import ceil, exp, log, pi, radians
from typing import Literal

from pydantic import Field

from pulltide.core import open_belt
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import EXACT, Source
from pulltide.core.labels import as_is, phrase, quantity
from pulltide.core.links.v_belt import tables
from pulltide.core.model import CoreModel, Kw, Mm, Plain, Rpm
from pulltide.core.tables import Row, number
from pulltide.core.units import G_M_PER_S2, MM_PER_IN, torque_nm
from pulltide.core.working import Step, Working

N_PER_LBF = 4.4482216152605
SHIGLEY = Source("Shigley's Mechanical Engineering Design", "section 17-2", "method quoted from memory")


class FlatBeltInputs(CoreModel):
    """An open polyamide belt and what it must carry."""

    belt: Literal["polyamide_f1", "polyamide_a2", "polyamide_a3"] = Field(title="Belt")
    width_mm: Mm = Field(title="Width", ge=5, le=600)
    small_diameter_mm: Mm = Field(title="Small pulley", ge=20, le=1500)
    large_diameter_mm: Mm = Field(title="Large pulley", ge=20, le=3000)
    center_distance_mm: Mm = Field(title="Center distance", ge=50, le=10_000)
    small_speed_rpm: Rpm = Field(title="Speed of the small pulley", gt=0, le=10_000)
    power_kw: Kw = Field(title="Power", gt=0, le=500)
    service_factor: Plain = Field(title="Service factor", ge=1, le=3)
    design_factor: Plain = Field(title="Design factor", ge=1, le=3)


def _row(name: str, belt: str) -> Row:
    return next(row for row in tables.table(name).rows if row["belt"] == belt)


def pulley_factor(belt: str, small_diameter_mm: float) -> float:
    """Pulley correction C_p [-] of a belt on a small pulley [mm]. Raises ImpossibleGeometry below the least pulley.

    Source: Shigley, Tables 17-2 and 17-4, quoted from memory.

    >>> pulley_factor("polyamide_a3", 6 * 25.4)
    0.7
    """
    min_in = number(_row("flat_belts", belt), "least_pulley_in")
    factors = tables.table("flat_pulley_factor")
    row = _row("flat_pulley_factor", belt)
    bands = [float(name) for name in factors.columns[1:] if row[name] != "na"]
    min_in = max(min_in, bands[0])
    held = [name for name in factors.columns[1:] if row[name] != "na" and float(name) * MM_PER_IN <= small_diameter_mm]
    if small_diameter_mm < min_in * MM_PER_IN or not held:
        raise ImpossibleGeometry(
            f"A {as_is(belt)} belt needs a pulley of at least {quantity(min_in * MM_PER_IN, 'mm')}; the small one has "
            f"{quantity(small_diameter_mm, 'mm')}."
        )
    return number(row, held[-1])


def flat_belt_working(inputs: FlatBeltInputs) -> Working:
    """Tensions of a flat belt as wide as entered, the friction it then needs and the dip that sets it.

    Raises ImpossibleGeometry where the pulleys overlap, the small one is too small for the belt, the belt is too
    narrow for the load or would slip. Source: Shigley, section 17-2.
    """
    d, large, c = inputs.small_diameter_mm, inputs.large_diameter_mm, inputs.center_distance_mm
    if c <= (d + large) / 2:
        raise ImpossibleGeometry("The pulleys would touch at this center distance.")
    if d > large:
        raise ImpossibleGeometry(
            f"The small pulley, {quantity(d, 'mm')}, is larger than the large one, {quantity(large, 'mm')}."
        )
    row = _row("flat_belts", inputs.belt)
    thick_mm = number(row, "thickness_in") * MM_PER_IN
    per_mm = number(row, "allowed_lbf_per_in") * N_PER_LBF / MM_PER_IN
    density = number(row, "weight_lbf_per_in3") * N_PER_LBF / G_M_PER_S2 / (MM_PER_IN / 1000) ** 3
    friction = number(row, "friction")
    factor = pulley_factor(inputs.belt, d)
    wrap = open_belt.wrap_small_deg(d, large, c)
    speed = pi * d * inputs.small_speed_rpm / 60_000
    mass = density * inputs.width_mm * thick_mm / 1e6
    thrown = mass * speed**2
    power = inputs.power_kw * inputs.service_factor * inputs.design_factor
    torque = torque_nm(power, inputs.small_speed_rpm)
    tight = inputs.width_mm * per_mm * factor
    slack = tight - 2000 * torque / d
    held = (tight - thrown) * exp(-friction * radians(wrap))
    if slack - thrown <= held:
        min_mm = 2000 * torque / d / (tight - thrown) / (1 - exp(-friction * radians(wrap))) * inputs.width_mm
        asked = (
            f"Use at least {quantity(ceil(min_mm), 'mm')}." if tight > thrown else "It runs too fast to carry anything."
        )
        raise ImpossibleGeometry(
            f"The belt slips: {quantity(inputs.width_mm, 'mm')} is too narrow for the load. {phrase(asked)}"
        )
    rest = (tight + slack) / 2 - thrown
    needed = log((tight - thrown) / (slack - thrown)) / radians(wrap)
    dip = (c / 1000) ** 2 * mass * G_M_PER_S2 / (8 * rest) * 1000
    belts, bands = tables.table("flat_belts").as_source, tables.table("flat_pulley_factor").as_source
    both = {"F_1": tight, "F_2": slack, "F_c": thrown}
    return Working(
        "Flat belt",
        (
            Step(
                "Wrap of the small pulley",
                "θ",
                "180 - 2 asin((D - d) / (2 C))",
                {"D": large, "d": d, "C": c},
                wrap,
                "deg",
                EXACT,
            ),
            Step("Belt speed", "v", "π d n / 60000", {"d": d, "n": inputs.small_speed_rpm}, speed, "m/s", EXACT),
            Step(
                "Mass of the belt",
                "m",
                "ρ b t / 1000000",
                {"ρ": density, "b": inputs.width_mm, "t": thick_mm},
                mass,
                "kg/m",
                belts,
            ),
            Step("Centrifugal tension", "F_c", "m v²", {"m": mass, "v": speed}, thrown, "N", EXACT),
            Step(
                "Design torque",
                "T",
                "60000 P S n_d / (2 π n)",
                {
                    "P": inputs.power_kw,
                    "S": inputs.service_factor,
                    "n_d": inputs.design_factor,
                    "n": inputs.small_speed_rpm,
                },
                torque,
                "N*m",
                SHIGLEY,
            ),
            Step("Pulley correction", "C_p", "table by diameter", {"d": d}, factor, "", bands),
            Step(
                "Tight side, as much as allowed",
                "F_1",
                "b F_a C_p",
                {"b": inputs.width_mm, "F_a": per_mm, "C_p": factor},
                tight,
                "N",
                belts,
            ),
            Step("Slack side", "F_2", "F_1 - 2000 T / d", {"F_1": tight, "T": torque, "d": d}, slack, "N", EXACT),
            Step("Tension at rest", "F_i", "(F_1 + F_2) / 2 - F_c", both, rest, "N", SHIGLEY),
            Step(
                "Dip of the upper strand that sets it",
                "y",
                "1000 (C / 1000)² m g / (8 F_i)",
                {"C": c, "m": mass, "g": G_M_PER_S2, "F_i": rest},
                dip,
                "mm",
                SHIGLEY,
            ),
            Step(
                "Friction needed",
                "f",
                "180 ln((F_1 - F_c) / (F_2 - F_c)) / (π θ)",
                {**both, "θ": wrap},
                needed,
                "",
                SHIGLEY,
                f"the belt offers {friction:g}; crown one pulley by 0.3 to 0.5 % of its diameter",
            ),
        ),
    )
