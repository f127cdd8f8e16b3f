"""Every formula that can be called by name, from all families and from the line itself."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from pydantic import Field

from pulltide.core.ends import END_KINDS, EndKind, end_working
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.family import Method
from pulltide.core.findings import EXACT, Source
from pulltide.core.fit.methods import METHODS as FIT_METHODS
from pulltide.core.labels import inside
from pulltide.core.links import FAMILIES
from pulltide.core.model import CoreModel, Hertz, Kw, Mm, Newton, Nm, Plain, Rpm
from pulltide.core.need import Need
from pulltide.core.needs import NEED_KINDS
from pulltide.core.needs.assess import Requirement, assess
from pulltide.core.needs.contract import NeedKind
from pulltide.core.shop_formulas import METHODS as SHOP_METHODS
from pulltide.core.sources.induction import poles, slip, synchronous_speed_rpm
from pulltide.core.units import power_kw, torque_nm
from pulltide.core.working import Result, Step, Working


class ShaftTorqueInputs(CoreModel):
    """Inputs of torque from power and speed."""

    power_kw: Kw = Field(title="Power", gt=0, le=1000)
    speed_rpm: Rpm = Field(title="Speed", gt=0, le=20_000)


def shaft_torque(inputs: ShaftTorqueInputs) -> Working:
    """Torque of a shaft from power and speed."""
    value = torque_nm(inputs.power_kw, inputs.speed_rpm)
    step = Step("Torque", "T", "60000 P / (2 π n)", {"P": inputs.power_kw, "n": inputs.speed_rpm}, value, "N*m", EXACT)
    return Working("Shaft torque", (step,))


class OverhungInputs(CoreModel):
    """Inputs of the overhung load of a wheel on a shaft."""

    torque_nm: Nm = Field(title="Torque of the shaft", gt=0, le=100_000)
    pitch_diameter_mm: Mm = Field(title="Pitch diameter of the wheel", gt=0, le=5000)
    connection_factor: Plain = Field(title="Connection factor: chain 1.0, pinion 1.25, V-belt 1.5", ge=1, le=3)
    location_factor: Plain = Field(1.0, title="Location factor: 1 at mid-extension", ge=0.5, le=2)


def overhung_load(inputs: OverhungInputs) -> Working:
    """Overhung load of a wheel."""
    value = 2000 * inputs.torque_nm * inputs.connection_factor * inputs.location_factor / inputs.pitch_diameter_mm
    numbers = {
        "T": inputs.torque_nm,
        "K": inputs.connection_factor,
        "Lf": inputs.location_factor,
        "PD": inputs.pitch_diameter_mm,
    }
    source = Source("reducer makers' handbooks", "connection factors", "common practice")
    return Working("Overhung load", (Step("Overhung load", "F", "2000 T K Lf / PD", numbers, value, "N", source),))


class SlipInputs(CoreModel):
    """Inputs of motor slip from a nameplate."""

    speed_rpm: Rpm = Field(title="Full-load speed", ge=300, lt=3900)
    frequency_hz: Hertz = Field(title="Supply frequency", ge=45, le=65)


def motor_slip(inputs: SlipInputs) -> Working:
    """Poles, synchronous speed and slip from full-load speed.

    Raises ImpossibleGeometry for a speed that no induction motor reaches at that frequency.
    """
    fastest = synchronous_speed_rpm(2, inputs.frequency_hz)
    if inputs.speed_rpm >= fastest:
        raise ImpossibleGeometry(
            f"Full-load speed {inputs.speed_rpm:g} rpm is not below {fastest:g} rpm, the fastest an induction motor "
            f"can turn on {inputs.frequency_hz:g} Hz."
        )
    count = poles(inputs.speed_rpm, inputs.frequency_hz)
    synchronous = synchronous_speed_rpm(count, inputs.frequency_hz)
    return Working(
        "Motor slip",
        (
            Step(
                "Poles",
                "p",
                "largest even p with 120 f / p > n",
                {"f": inputs.frequency_hz, "n": inputs.speed_rpm},
                float(count),
                "",
                EXACT,
            ),
            Step(
                "Synchronous speed",
                "n_s",
                "120 f / p",
                {"f": inputs.frequency_hz, "p": float(count)},
                synchronous,
                "rpm",
                EXACT,
            ),
            Step(
                "Slip at full load",
                "s",
                "(n_s - n) / n_s",
                {"n_s": synchronous, "n": inputs.speed_rpm},
                slip(inputs.speed_rpm, inputs.frequency_hz),
                "share",
                EXACT,
            ),
        ),
    )


def _title_of(name: str) -> str:
    return str(Need.model_fields[name].title) if name in Need.model_fields else "Swing of speed"


def _unit_of(name: str) -> str:
    return {"rpm": "rpm", "nm": "N*m", "kgm2": "kg*m**2"}.get(name.rpartition("_")[2], "")


FIGURES = (
    *("speed_min_rpm", "speed_ideal_rpm", "speed_max_rpm"),
    *("running_torque_nm", "running_torque_low_nm", "running_torque_high_nm"),
    *("peak_torque_nm", "breakaway_torque_nm", "holding_torque_nm", "inertia_kgm2", "load_exponent"),
)
#: Key, name and unit of what every worksheet gives.
NEED_RESULTS = tuple((name, _title_of(name), _unit_of(name)) for name in (*FIGURES, "fluctuation"))


def _figures(asked: Requirement) -> tuple[Result, ...]:
    """Every figure of a need by its field's name, then what the machine's own words are."""
    figures = asked.figures() | {"fluctuation": asked.fluctuation}
    named = tuple(Result(key, name, figures[key], unit) for key, name, unit in NEED_RESULTS)
    own = tuple(Result(f"own_{n}", said.label, said.value, said.unit) for n, said in enumerate(asked.own, start=1))
    return (*named, *own)


def _worksheet_method(kind: NeedKind) -> Method:
    """A worksheet as a formula: its inputs, the running torque with its working."""

    def run(sheet: Any) -> Working:
        asked = assess(sheet)
        if "running" not in asked.workings or asked.running_nm[1] is None:
            fields = type(sheet).model_fields
            empty = [
                str(info.title).lower()
                for name, info in fields.items()
                if getattr(sheet, name) is None and name not in kind.hides(sheet) and not name.startswith("speed_")
            ]
            raise ImpossibleGeometry(
                f"the running torque can't be told while one of these is missing: {', '.join(empty)}"
            )
        others = tuple(working for name, working in asked.workings.items() if name != "running")
        return replace(asked.workings["running"], others=others, findings=asked.findings, figures=_figures(asked))

    return Method(f"need_{kind.kind}", f"Need of the last shaft: {inside(kind.title)}", kind.model, run, NEED_RESULTS)


def _end_method(kind: EndKind) -> Method:
    """A simple machine as a formula: its sizes with torque and speed of its shaft, the force with its working."""

    class Inputs(kind.model):  # type: ignore[name-defined,misc]
        torque_nm: Nm = Field(title="Torque of its shaft", gt=0, le=200_000)
        speed_rpm: Rpm = Field(title="Speed of its shaft", gt=0, le=20_000)

    Inputs.__name__ = f"{kind.model.__name__}Inputs"
    name, title = f"end_{kind.kind}", f"Force and speed at the end: {inside(kind.title)}"
    return Method(name, title, Inputs, lambda inputs: end_working(inputs, inputs.torque_nm, inputs.speed_rpm))


class CrankInputs(CoreModel):
    """Inputs of a hand on a crank or lever."""

    hand_force_n: Newton = Field(title="Force of the hand", gt=0, le=1000)
    arm_mm: Mm = Field(title="Arm, at right angles to the force", gt=0, le=3000)
    turns_rpm: Rpm = Field(title="Turned at", gt=0, le=200)


def hand_crank(inputs: CrankInputs) -> Working:
    """Torque and power of a hand on a crank or lever."""
    torque = inputs.hand_force_n * inputs.arm_mm / 1000
    power = power_kw(torque, inputs.turns_rpm)
    source = Source("common practice", "75 W lasting, 100 to 150 N for minutes, 250 N for a moment", "common practice")
    return Working(
        "Hand on a crank",
        (
            Step("Power", "P", "2 π n T / 60000", {"n": inputs.turns_rpm, "T": torque}, power, "kW", source),
            Step("Torque", "T", "F r / 1000", {"F": inputs.hand_force_n, "r": inputs.arm_mm}, torque, "N*m", EXACT),
        ),
    )


METHODS: dict[str, Method] = {
    method.name: method
    for method in (
        Method("shaft_torque", "Torque of a shaft from power and speed", ShaftTorqueInputs, shaft_torque),
        Method("overhung_load", "Overhung load of a wheel on a shaft", OverhungInputs, overhung_load),
        Method("motor_slip", "Poles and slip from full-load speed", SlipInputs, motor_slip),
        *SHOP_METHODS,
        *FIT_METHODS,
        *(method for family in FAMILIES for method in family.methods),
        *(_worksheet_method(kind) for kind in NEED_KINDS),
        Method("end_crank", "Torque and power of a hand on a crank or lever", CrankInputs, hand_crank),
        *(_end_method(kind) for kind in END_KINDS),
    )
}
