"""Workings of the figures that belong to shafts and to the line, and the door to those of the links."""

from __future__ import annotations

from math import prod

from pulltide.core.findings import EXACT, Source
from pulltide.core.labels import phrase
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine
from pulltide.core.sources import Drive
from pulltide.core.units import power_kw
from pulltide.core.working import Step, Working

PLATE = Source("motor nameplate", "full-load speed", "entered")
NEED = Source("the need as entered", "", "entered")
TAKE_OFF = Source("the take-off as entered", "", "entered")
WORKSHEET = Source("the need's worksheet", "", "entered")
RULE_TEXT = {
    "running_load": ("T · SF", "running torque times the part's own service factor"),
    "motor_nameplate": ("T_name · SF", "torque at motor nameplate power times the part's own service factor"),
    "flat_factor": ("T · k", "running torque times one flat factor"),
}


def working(machine: Machine, motor: Drive, line: LineResult, figure: str) -> Working | None:
    """The working of a figure: ``shaft-2/speed``, ``link-1/wrap``, ``line/efficiency``; None if there is none."""
    place, _, key = figure.partition("/")
    kind, _, text = place.partition("-")
    index = int(text) - 1 if text.isdecimal() else -1
    if kind == "link" and 0 <= index < len(line.links):
        return _link(machine, line, index, key)
    if kind == "shaft" and 0 <= index < len(line.shafts):
        makers = {"speed": _speed, "torque": _torque, "power": _power, "design": _design}
        maker = makers.get(key)
        return maker(machine, motor, line, index) if maker else None
    if place == "line":
        return _line(machine, motor, line, key)
    return None


def _speed(machine: Machine, motor: Drive, line: LineResult, index: int) -> Working:
    steps = _source_speed(motor, line)
    for number, link in enumerate(line.links[:index], start=1):
        driver, driven = link.flow.driver_speed_rpm, link.flow.driven_speed_rpm
        creep = 1 - driven * link.ratio / driver
        numbers = {f"n{number}": driver, "i": link.ratio}
        formula = f"n{number} / i"
        if creep > 1e-9:
            formula += " · (1 - s)"
            numbers["s"] = creep
        steps.append(
            Step(
                line.shafts[number].name,
                f"n{number + 1}",
                formula,
                numbers,
                driven,
                "rpm",
                EXACT,
                f"{driver / link.ratio:.4g} rpm without belt creep" if creep > 1e-9 else "",
            )
        )
    return Working(f"Speed of {phrase(line.shafts[index].name)}", tuple(steps))


def _source_speed(motor: Drive, line: LineResult) -> list[Step]:
    """Speed of the source: of its plate, then where its curve meets the load."""
    first, curve = line.shafts[0], motor.running or motor.curve
    plate = Step(motor.speed_note, "n1", "as entered", {}, motor.speed_rpm, "rpm", PLATE)
    if curve is None or not first.running_torque_nm or line.stalled:
        return [plate]
    formula, put_in = curve.explained(first.running_torque_nm)
    note = f"{motor.speed_rpm:.4g} rpm at its rated power"
    return [Step("Where its torque meets the load", "n1", formula, put_in, first.speed_rpm, "rpm", EXACT, note)]


def _torque(machine: Machine, motor: Drive, line: LineResult, index: int) -> Working | None:
    if line.last_shaft.running_torque_nm is None:
        return None
    last = len(line.shafts)
    steps = _last_torque(machine, line, f"T{last}")
    if taken_off(line, last):
        steps.append(_with_take_off(line, last, line.need_torques_nm[0] or 0.0))
    for number in range(last - 1, index, -1):
        link = line.links[number - 1]
        gain = link.flow.driver_speed_rpm / link.flow.driven_speed_rpm
        steps.append(
            Step(
                line.shafts[number - 1].name,
                f"T{number}",
                f"T{number + 1} / (n{number}/n{number + 1} · η)",
                {f"T{number + 1}": link.flow.driven_torque_nm, f"n{number}/n{number + 1}": gain, "η": link.efficiency},
                link.flow.driver_torque_nm,
                "N*m",
                EXACT,
            )
        )
        if taken_off(line, number):
            steps.append(_with_take_off(line, number, link.flow.driver_torque_nm))
    return Working(f"Running torque of {phrase(line.shafts[index].name)}", tuple(steps))


def taken_off(line: LineResult, number: int) -> float:
    """Torque that take-off and friction draw at a shaft counted from 1 [N·m]; 0 without either."""
    return line.taken_nm[number - 1] if line.taken_nm else 0.0


def _with_take_off(line: LineResult, number: int, torque_nm: float) -> Step:
    taken = taken_off(line, number)
    put_in = {"T": torque_nm, "T_off": taken}
    rubbed = line.dragged_nm[number - 1]
    drawn = "take-off" if not rubbed else "friction" if taken <= rubbed else "take-off and friction"
    name = f"{phrase(line.shafts[number - 1].name)}, with its {phrase(drawn)}"
    return Step(name, f"T{number}", "T + T_off", put_in, torque_nm + taken, "N*m", TAKE_OFF)


def _last_torque(machine: Machine, line: LineResult, symbol: str) -> list[Step]:
    """The running torque of the last shaft: entered or from the worksheet, then taken to the speed it runs at."""
    need, shaft = machine.need, line.last_shaft
    name, torque = f"{phrase(shaft.name)}, running", line.need_torques_nm[0] or 0.0
    source = NEED if need.worksheet is None else WORKSHEET
    if need.load_exponent == 0 or need.speed_ideal_rpm is None or need.running_torque_nm is None:
        return [Step(name, symbol, "as entered", {}, torque, "N*m", source)]
    at_ideal = Step("At the ideal speed", "T", "as entered", {}, need.running_torque_nm, "N*m", source)
    put_in = {
        "T": need.running_torque_nm,
        "n": shaft.speed_rpm,
        "n_ideal": need.speed_ideal_rpm,
        "k": need.load_exponent,
    }
    return [at_ideal, Step(name, symbol, "T (n / n_ideal)^k", put_in, torque, "N*m", EXACT)]


def _power(machine: Machine, motor: Drive, line: LineResult, index: int) -> Working | None:
    shaft = line.shafts[index]
    if shaft.running_torque_nm is None or shaft.power_kw is None:
        return None
    return Working(
        f"Power of {phrase(shaft.name)}",
        (
            Step(
                "Power",
                "P",
                "2 π T n / 60000",
                {"T": shaft.running_torque_nm, "n": shaft.speed_rpm},
                shaft.power_kw,
                "kW",
                EXACT,
            ),
        ),
    )


def _design(machine: Machine, motor: Drive, line: LineResult, index: int) -> Working | None:
    shaft = line.shafts[index]
    if shaft.design_torque_nm is None or shaft.running_torque_nm is None or not line.links:
        return None
    steps = []
    for number, after in ((index, False), (index + 1, True)):
        if 1 <= number <= len(line.links):
            link = line.links[number - 1]
            gain = 1.0 if after else link.flow.driven_torque_nm / link.flow.driver_torque_nm
            steps.append(_design_step(machine, line, number - 1, gain))
    steps.sort(key=lambda step: step.value)
    return Working(f"Design torque of {phrase(shaft.name)}: the larger of its links", tuple(steps))


def _design_step(machine: Machine, line: LineResult, index: int, gain: float) -> Step:
    link = line.links[index]
    rule = machine.duty.margin_rule.value
    formula, note = RULE_TEXT[rule]
    factor = machine.duty.flat_factor if rule == "flat_factor" else link.service_factor.value
    base = link.design.by_rule_nm[rule] * gain / factor
    value = base * factor
    symbols = formula.replace(" ", "").split("·")
    put_in = dict(zip(symbols, (base, factor), strict=True))
    if link.design.repeats != 1 and rule != "motor_nameplate":
        put_in[symbols[0]] = base / link.design.repeats
        put_in["x"] = link.design.repeats
        formula += " · x"
        note = f"{phrase(note)}; x is what the duty cycle amounts to"
    return Step(
        f"For link {index + 1}",
        "T_d",
        formula,
        put_in,
        value,
        "N*m",
        link.service_factor.source,
        f"{phrase(note)}. {phrase(link.service_factor.note)}" if link.service_factor.note else f"{phrase(note)}.",
    )


def _link(machine: Machine, line: LineResult, index: int, key: str) -> Working | None:
    link = line.links[index]
    if key == "design":
        return Working(f"Design torque at the driver of link {index + 1}", (_design_step(machine, line, index, 1.0),))
    if key == "loss":
        numbers = {"P1": link.flow.power_in_kw, "P2": link.flow.power_out_kw}
        loss = Step("Power in less power out", "P_loss", "P1 - P2", numbers, link.loss_kw, "kW", EXACT)
        return Working(f"Loss of link {index + 1}", (loss,))
    if key == "design_power":
        torque, speed = link.design.chosen_nm, link.flow.driver_speed_rpm
        power = Step(
            "Design power",
            "P_d",
            "2 π T_d n / 60000",
            {"T_d": torque, "n": speed},
            power_kw(torque, speed),
            "kW",
            EXACT,
        )
        return Working("Design power", (_design_step(machine, line, index, 1.0), power))
    maker = family_of(link.kind).workings(link).get(key)
    return maker() if maker else None


def _efficiency_with_take_offs(line: LineResult, efficiency: float) -> Working:
    """What arrives at the machine and at every take-off, over what the source gives."""
    shafts = zip(line.shafts, line.taken_nm, line.dragged_nm, strict=True)
    taken = {f"P_{shaft.number}": power_kw(nm - rubs, shaft.speed_rpm) for shaft, nm, rubs in shafts if nm > rubs}
    last = line.last_shaft
    put_in = {"P_n": power_kw(line.need_torques_nm[0] or 0.0, last.speed_rpm), **taken}
    put_in["P_in"] = line.shafts[0].power_kw or 0.0
    formula = f"({' + '.join(('P_n', *taken))}) / P_in"
    note = "P_n to the machine, the others to take-offs" if taken else "P_n to the machine"
    return Working(
        "Efficiency of the line",
        (Step("Power out over power in", "η", formula, put_in, efficiency, "share", EXACT, note),),
    )


def _line(machine: Machine, motor: Drive, line: LineResult, key: str) -> Working | None:
    if key == "ratio":
        numbers = {f"i{number}": link.ratio for number, link in enumerate(line.links, start=1)}
        formula = " · ".join(numbers) or "1"
        return Working(
            "Ratio of the line",
            (Step("Motor turns for one of the last shaft", "i", formula, numbers, prod(numbers.values()), "", EXACT),),
        )
    if key == "efficiency" and line.efficiency is not None:
        if any(line.taken_nm):
            return _efficiency_with_take_offs(line, line.efficiency)
        numbers = {f"η{number}": link.efficiency for number, link in enumerate(line.links, start=1)}
        first, last = (shaft.running_torque_nm or 0.0 for shaft in (line.shafts[0], line.last_shaft))
        gain, put_in = last / first, {"T_n": last, "T_1": first}
        return Working(
            "Efficiency of the line",
            (
                Step("Torque gained, motor to last shaft", "g", "T_n / T_1", put_in, gain, "", EXACT),
                Step("Losses multiply", "η", " · ".join(numbers) or "1", numbers, line.efficiency, "share", EXACT),
            ),
        )
    if key == "motor_load" and line.motor_load is not None:
        power = line.shafts[0].power_kw or 0.0
        return Working(
            "Load of the motor",
            (
                Step(
                    "Power drawn over continuous power at this speed",
                    "x",
                    "P / P_all",
                    {"P": power, "P_all": motor.continuous_kw(line.shafts[0].speed_rpm, machine.duty.ambient_c)},
                    line.motor_load,
                    "share",
                    PLATE,
                ),
            ),
        )
    return None
