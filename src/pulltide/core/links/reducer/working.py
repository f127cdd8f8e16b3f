"""How the figures of a reducer link come about, and the same formulas callable by name."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.labels import as_is
from pulltide.core.links.reducer import rating, tables
from pulltide.core.links.reducer.transmission import ReducerDetails
from pulltide.core.model import Celsius, CoreModel, Rpm
from pulltide.core.part_load import idle_share
from pulltide.core.transmission import LinkResult
from pulltide.core.units import power_kw
from pulltide.core.working import Step, Working

LIST = Source("generic reducer list", "AGMA 6034 form and tooth load factor", "invented list computed from formulas")
HEAT = Source(
    "AGMA 6034 and 6013",
    "sump limit 93 C; 90 C planetary and cycloidal, 70 C strain wave by common practice",
    "formula quoted from memory",
)
FACTOR = Source("AGMA 6010 and 6034", "service factor tables", "table quoted from memory")


class RatingInputs(CoreModel):
    """Inputs of a stock reducer's rating."""

    designation: str = Field(title="Stock reducer, such as PW-3 15:1", max_length=24)
    input_speed_rpm: Rpm = Field(title="Input speed", gt=0, le=3600)
    ambient_c: Celsius = Field(25.0, title="Air at the reducer", ge=-20, le=60)


def rating_working(inputs: RatingInputs) -> Working:
    """Efficiency, heat limit and torque rating of a stock unit at its input speed."""
    unit = tables.unit(inputs.designation)
    return Working(f"Rating of {as_is(unit.designation)}", _steps(unit, inputs.input_speed_rpm, inputs.ambient_c))


def _steps(unit: tables.Unit, speed_rpm: float, ambient_c: float) -> tuple[Step, ...]:
    steps = [_efficiency_step(unit, speed_rpm)]
    heat = rating.thermal_limit_kw(unit, speed_rpm, ambient_c)
    if heat is not None and unit.thermal_kw is not None:
        steps.append(
            Step(
                "Heat limit, input power",
                "P_th",
                "P_list (s - t) / (s - 25), at most 1.15; worm also by speed",
                {"P_list": unit.thermal_kw, "s": unit.sump_c, "t": ambient_c, "n": speed_rpm},
                heat,
                "kW",
                HEAT,
            )
        )
    torque = rating.rated_torque_nm(unit, speed_rpm)
    if torque is not None:
        if unit.by_plate:
            return (*steps, _own_rating(unit, speed_rpm, torque))
        points = {
            "T300": unit.torque_300_nm or 0.0,
            "T875": unit.torque_875_nm or 0.0,
            "T1750": unit.torque_1750_nm or 0.0,
        }
        steps.append(
            Step(
                "Rated output torque",
                "T",
                "listed torques, linear in log n between 300, 875 and 1750 rpm",
                {"n": speed_rpm, **points},
                torque,
                "N*m",
                LIST,
            )
        )
    return tuple(steps)


def _own_rating(unit: tables.Unit, speed_rpm: float, torque_nm: float) -> Step:
    """The plate's torque, less what a speed beyond the plate's takes."""
    share = rating.own_speed_share(unit, speed_rpm)
    numbers = {"T_plate": unit.torque_1750_nm or 0.0, "k": share}
    note = "k = 1 up to the plate's speed, beyond it (n_plate / n)^0.12, strain wave ^(1/3)"
    return Step("Rated output torque, of its plate", "T", "T_plate k", numbers, torque_nm, "N*m", LIST, note)


def _efficiency_step(unit: tables.Unit, speed_rpm: float) -> Step:
    value = rating.efficiency(unit, speed_rpm)
    if unit.type == "strain_wave" and unit.size_mm is not None:
        return Step(
            "Efficiency at rated torque",
            "η",
            "0.75 at 50 to 1, evenly to 0.65 at 160 to 1; up to 0.06 more down to 300 rpm",
            {"i": unit.ratio, "n": speed_rpm},
            value,
            "share",
            COMMON_PRACTICE,
        )
    if unit.efficiency_300 is None or unit.efficiency_1750 is None:
        return Step(
            "Efficiency, not known: low end of the published band",
            "η",
            "by type and ratio",
            {"i": unit.ratio},
            value,
            "share",
            COMMON_PRACTICE,
        )
    return Step(
        "Efficiency",
        "η",
        "listed values, linear in log n between 300 and 1750 rpm",
        {"n": speed_rpm, "η300": unit.efficiency_300, "η1750": unit.efficiency_1750},
        value,
        "share",
        LIST,
    )


def workings(result: LinkResult[ReducerDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a reducer link, by key."""
    d = result.details
    speed = result.flow.driver_speed_rpm
    ratio = Step("Exact ratio, from the list or the plate", "i", "as listed", {}, d.unit.ratio, "", LIST)
    design = Step(
        "Design torque at the output",
        "T_d",
        "T · i · η",
        {"T": result.design.chosen_nm, "i": d.unit.ratio, "η": result.efficiency},
        d.design_torque_nm,
        "N*m",
        FACTOR,
    )
    table: dict[str, Callable[[], Working]] = {
        "ratio": lambda: Working("Ratio", (ratio,)),
        "design_torque": lambda: Working("Design torque", (design,)),
        "efficiency": lambda: Working("Efficiency of the reducer", _at_this_load(result)),
    }
    rated = [step for step in _steps(d.unit, speed, 25.0) if step.symbol == "T"]
    if rated:
        table["rated_torque"] = lambda: Working("Rated torque at this input speed", tuple(rated))
    if d.thermal_kw is not None and d.unit.thermal_kw is not None:
        heat = Step(
            "Heat limit, input power",
            "P_th",
            "P_list (s - t) / (s - 25), at most 1.15; worm also by speed",
            {"P_list": d.unit.thermal_kw, "s": d.unit.sump_c, "n": speed},
            d.thermal_kw,
            "kW",
            HEAT,
        )
        table["thermal"] = lambda: Working("Heat limit", (heat,))
    if d.arm_force_n is not None and d.link.torque_arm_mm is not None:
        arm = Step(
            "Force on the torque arm at peak, or running where the peak is unknown",
            "F",
            "1000 (T2 - s T1) / r, s +1 where the output turns as the input, -1 where against",
            {"T2": d.arm_torques_nm[1], "T1": d.arm_torques_nm[0], "s": d.arm_sense, "r": d.link.torque_arm_mm},
            d.arm_force_n,
            "N",
            EXACT,
            "a right-angle unit: T2 / r",
        )
        table["arm_force"] = lambda: Working("Torque arm", (arm,))
    if d.unit.backlash_arcmin is not None:
        lash = Step("Backlash at the output", "j", "as listed", {}, d.unit.backlash_arcmin, "arcmin", LIST)
        table["backlash"] = lambda: Working("Backlash", (lash,))
    for key, value in (("input_shaft", d.unit.input_shaft_mm), ("output_shaft", d.unit.output_shaft_mm)):
        if value is not None:
            table[key] = _listed(key.replace("_", " ").capitalize(), value)
    return table


def _at_this_load(result: LinkResult[ReducerDetails]) -> tuple[Step, ...]:
    """Efficiency at full load, then at the load it has."""
    d = result.details
    flow = result.flow
    full = _efficiency_step(d.unit, flow.driver_speed_rpm)
    rated = rating.rated_torque_nm(d.unit, flow.driver_speed_rpm)
    if rated is None:
        return (full,)
    rated_kw = power_kw(rated, flow.driven_speed_rpm)
    idle = idle_share(d.unit.type)
    lost = rated_kw * (1 / full.value - 1)
    return (
        replace(full, name="Efficiency at rated torque", symbol="η_r"),
        Step(
            "Loss at rated torque", "L_r", "P_r (1 / η_r - 1)", {"P_r": rated_kw, "η_r": full.value}, lost, "kW", EXACT
        ),
        Step(
            "Efficiency at this load",
            "η",
            "P / (P + L_r (a + (1 - a) P / P_r))",
            {"P": flow.power_out_kw, "L_r": lost, "a": idle, "P_r": rated_kw},
            result.efficiency,
            "share",
            COMMON_PRACTICE,
            "a: the share of the loss that stays without load",
        ),
    )


def _listed(title: str, value_mm: float) -> Callable[[], Working]:
    step = Step(title, "d", "as listed", {}, value_mm, "mm", LIST)
    return lambda: Working(title, (step,))
