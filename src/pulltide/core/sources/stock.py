"""Motors that can be bought: the generic list, as sources a plan can take."""

from __future__ import annotations

from functools import cache
from typing import Any

from pulltide.core.catalog import Item
from pulltide.core.labels import as_is, phrase
from pulltide.core.sources.contract import SourceModel
from pulltide.core.sources.induction import InductionMotor
from pulltide.core.sources.permanent_magnet import BrushlessMotor, DcMotor
from pulltide.core.sources.tables import cell, rows
from pulltide.core.tables import Row

#: How the list's types start.
STARTS = {
    "split phase": "split_phase",
    "capacitor start": "capacitor_start",
    "capacitor start, capacitor run": "capacitor_start_run",
    "PSC": "permanent_split",
    "shaded pole": "shaded_pole",
}


#: What a catalog calls a motor or another source.
SOURCE = "source"


@cache
def shipped_sources() -> tuple[Item, ...]:
    """The shipped list: induction motors, then direct-current and brushless ones."""
    induction = tuple(_induction(row) for row in rows("stock_motors"))
    return induction + tuple(_direct(row) for row in rows("stock_dc_motors"))


def _induction(row: Row) -> Item:
    enclosure = row["enclosure"] if row["enclosure"] in ("ODP", "TEFC", "TENV", "TEAO") else None
    design = next((letter for letter in "BCDN" if row["type"].endswith(f"design {letter}")), None)
    plate: dict[str, Any] = {
        "start": STARTS.get(row["type"], "three_phase"),
        "power_kw": float(row["kw"]),
        "speed_rpm": float(row["rpm_full_load"]),
        "frequency_hz": float(row["hz"]),
        "volts": float(row["volts"]),
        "amps_a": float(row["fla_nameplate_est_a"]),
        "nameplate_service_factor": float(row["service_factor"]),
        "efficiency": float(row["efficiency_pct"]) / 100,
        "power_factor": float(row["power_factor"]),
        "frame": row["frame"] if row["frame"] != "na" else None,
        "design": design,
        "enclosure": enclosure,
        "rating": "continuous" if row["duty"] == "S1" else "intermittent",
        "breakdown_torque_ratio": (cell(row, "breakdown_torque_pct") or 0) / 100 or None,
        "locked_rotor_torque_ratio": (cell(row, "locked_rotor_torque_pct") or 0) / 100 or None,
        "shaft_diameter_mm": cell(row, "shaft_dia_mm"),
    }
    motor = InductionMotor.model_validate(plate)
    volts, hertz = row["volts"], row["hz"]
    supply = f"{volts} V, three-phase, {hertz} Hz" if row["phase"] == "3" else f"{volts} V, one-phase, {hertz} Hz"
    kind = row["type"].replace("three-phase ", "").replace("PSC", "permanent capacitor")
    sort = f"{phrase(kind)}, {as_is(row['enclosure'])}"
    return Item(SOURCE, row["id"], motor, group=supply, sort=sort)


def _direct(row: Row) -> Item:
    brushless = row["type"].startswith("BLDC")
    figures: dict[str, Any] = {
        "volts": float(row["volts"]),
        "kv_rpm_v": float(row["kv_rpm_per_v"]),
        "resistance_ohm": float(row["resistance_ohm"]),
        "no_load_a": float(row["no_load_a"]),
        "continuous_a": float(row["continuous_a"]),
        "rotor_inertia_kgm2": float(row["rotor_inertia_kgm2"]),
        "shaft_diameter_mm": float(row["shaft_mm"]),
    }
    if brushless:
        figures["sensors"] = "none" if "sensorless" in row["note"] else "hall_sensors"
    source: SourceModel = (BrushlessMotor if brushless else DcMotor).model_validate(figures)
    name = row["type"].replace("PMDC brushed ", "").replace("BLDC ", "")
    sort = f"{as_is(name)}, {row['volts']} V, {row['continuous_a']} A"
    group = "Brushless" if brushless else "Brushed, direct current"
    return Item(SOURCE, row["id"], source, group=group, sort=sort)


#: Price of a direct-current motor in price units: 12 + 90 P^0.7, P [kW] = 0.00075 V x continuous A. Invented.
DC_FIXED, DC_PER_KW, DC_EXPONENT = 12.0, 90.0, 0.7


@cache
def prices() -> dict[str, float]:
    """Price of each listed source in price units, 100 for a 0.75 kW four-pole three-phase motor. Made up."""
    induction = {row["id"]: 100 * float(row["price_index"]) for row in rows("stock_motors")}
    power = {row["id"]: 0.00075 * float(row["volts"]) * float(row["continuous_a"]) for row in rows("stock_dc_motors")}
    return induction | {name: round(DC_FIXED + DC_PER_KW * kw**DC_EXPONENT, 1) for name, kw in power.items()}
