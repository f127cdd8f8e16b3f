"""What turning, milling and drilling share: materials, specific cutting force, cutting speeds."""

from __future__ import annotations

from math import pi
from typing import Literal

from pulltide.core.findings import EXACT
from pulltide.core.needs.contract import ENTERED, Outcome, row_band, table_rows, table_source
from pulltide.core.tables import Row, load_table

Material = Literal[
    "E295",
    "C45_normalized",
    "C60",
    "16MnCr5",
    "42CrMo4",
    "gray_iron_250",
    "gray_iron_200",
    "free_cutting_brass",
    "stainless_18_10",
    "cast_aluminum",
    "steel_1018_cold_drawn",
    "steel_1045",
    "steel_4140_annealed",
    "gray_iron_class_30",
    "stainless_304",
    "aluminum_6061_t6",
]
Tool = Literal["HSS", "carbide"]
#: Row of the table of cutting speeds that serves a material.
SPEED_ROW = {
    "E295": "mild steel",
    "C45_normalized": "mild steel",
    "C60": "alloy steel 250 HB",
    "16MnCr5": "mild steel",
    "42CrMo4": "alloy steel 250 HB",
    "gray_iron_250": "gray cast iron",
    "gray_iron_200": "gray cast iron",
    "free_cutting_brass": "brass",
    "stainless_18_10": "stainless 18-8",
    "cast_aluminum": "aluminum",
}
#: Unit power constant K_p [hp min/in³] of the other school, where its table knows the material.
UNIT_POWER = {"C45_normalized": 0.78, "gray_iron_200": 0.60, "cast_aluminum": 0.25, "stainless_18_10": 0.72}
J_PER_MM3_PER_HP_MIN_IN3 = 2.730
#: Chip for which unit power constants hold [mm], 0.012 in, and how they fall with the chip.
UNIT_CHIP_MM, UNIT_EXPONENT = 0.3048, 0.19
BY_UNIT_POWER = "unit_power_materials"


def _by_unit_power() -> dict[str, Row]:
    """Materials that North American tables list by unit power, by name."""
    return table_rows(BY_UNIT_POWER, "material")


def _speed_row(material: str) -> str:
    listed = _by_unit_power().get(material)
    return str(listed["speed_row"]) if listed else SPEED_ROW.get(material, material)


def feed_used_mm(own_mm: float | None, diameter_mm: float, share: float, min_mm: float, max_mm: float) -> float:
    """A feed of one's own, or a share of the tool's diameter within what small tools and machines stand [mm]."""
    return own_mm if own_mm is not None else min(max(share * diameter_mm, min_mm), max_mm)


def cutting_speed_band(operation: str, material: str) -> tuple[float, float, float] | None:
    """Low, typical and high cutting speed [m/min], or None where the table has no row."""
    for row in load_table("pulltide.core.needs", "cutting_speeds").rows:
        if row["operation"] == operation and row["material"] == _speed_row(material):
            scale = 60.0 if row["unit"] == "m/s" else 1.0
            return float(row["low"]) * scale, float(row["typical"]) * scale, float(row["high"]) * scale
    return None


def specific_force_n_per_mm2(out: Outcome, material: str, chip_mm: float, own_mpa: float | None = None) -> float:
    """Specific cutting force k_c = k_c1.1 h^(-m_c) [N/mm²], or one's own. Source: Kienzle; Machinery's Handbook.

    ``chip_mm`` is the chip thickness h, useful from 0.05 to 2.5 mm. A material that is listed by its unit power K_p
    has k_c = 2730 K_p (h / 0.3048)^-0.19, from memory.
    """
    if own_mpa is not None:
        return out.step("Specific cutting force of your own", "k_c = as entered", own_mpa, "MPa", ENTERED)
    listed = _by_unit_power().get(material)
    if listed is not None:
        unit_power = float(listed["Kp_hp_per_in3_min"])
        return out.step(
            "Specific cutting force, from unit power",
            "k_c = 2730 K_p (h / 0.3048)^-0.19",
            1000 * J_PER_MM3_PER_HP_MIN_IN3 * unit_power * (chip_mm / UNIT_CHIP_MM) ** -UNIT_EXPONENT,
            "MPa",
            table_source(BY_UNIT_POWER),
            K_p=unit_power,
            h=chip_mm,
        )
    row = table_rows("kienzle", "material")[material]
    unit_force, exponent = float(row["kc11_N_mm2"]), float(row["mc"])
    value = float(unit_force * chip_mm**-exponent)
    return out.step(
        "Specific cutting force",
        "k_c = k_c11 h^-m",
        value,
        "MPa",
        table_source("kienzle"),
        k_c11=unit_force,
        h=chip_mm,
        m=exponent,
    )


def unit_power_kw(material: str, removal_mm3_s: float, feed_mm: float, wear: float, efficiency: float) -> float | None:
    """Power at the motor by unit power constants [kW], or None where the table lacks the material.

    P = K_p C Q W / E with C = (f / 0.012 in)^-0.19. Source: Machinery's Handbook, power constants, from memory.
    """
    listed = _by_unit_power().get(material)
    constant = float(listed["Kp_hp_per_in3_min"]) if listed else UNIT_POWER.get(material)
    if constant is None:
        return None
    feed_factor = (feed_mm / UNIT_CHIP_MM) ** -UNIT_EXPONENT
    return float(constant * J_PER_MM3_PER_HP_MIN_IN3 * feed_factor * removal_mm3_s * wear / efficiency / 1000)


def spindle_rpm(out: Outcome, speed_m_min: float, diameter_mm: float) -> float:
    """Spindle speed n = 1000 v / (π d) [rpm]."""
    return out.step(
        "Spindle speed",
        "n = 1000 v / (π d)",
        1000 * speed_m_min / (pi * diameter_mm),
        "rpm",
        EXACT,
        v=speed_m_min,
        d=diameter_mm,
    )


def series(low_rpm: float, high_rpm: float, count: int) -> list[float]:
    """Speeds in geometric series, both ends included [rpm].

    >>> [round(n, 1) for n in series(600.0, 2700.0, 4)]
    [600.0, 990.6, 1635.4, 2700.0]
    """
    if count < 2:
        return [low_rpm]
    return [low_rpm * (high_rpm / low_rpm) ** (k / (count - 1)) for k in range(count)]


def say_series(out: Outcome, low: float | None, high: float | None, count: int) -> float | None:
    """Say the wanted speeds in geometric series; gives the step from one to the next."""
    if count < 2 or not low or not high or high <= low:
        return None
    speeds = series(low, high, count)
    step = speeds[1] / speeds[0]
    out.say("step", "Step from speed to speed", step, "")
    for number, speed in enumerate(speeds, start=1):
        out.say(f"speed_{number}", f"Speed {number}", speed, "rpm")
    return step


def friction_band(pair: str) -> tuple[float, float, float]:
    """Low, typical and high friction of a pair."""
    return row_band("friction", "pair", pair)
