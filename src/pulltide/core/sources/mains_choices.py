"""Other induction motors in place of one: larger, smaller, stronger at rest, limited; the speeds it can be set to."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.labels import as_is, phrase, quantity
from pulltide.core.sources.contract import Neighbor, SourceModel
from pulltide.core.sources.induction import InductionMotor
from pulltide.core.sources.plate import read_plate
from pulltide.core.tables import load_table, number
from pulltide.core.units import KW_PER_HP


def _neighbors(motor: InductionMotor) -> list[tuple[float, str]]:
    """Standard powers of the motor's own series [kW] with their words, rising; none for one on its second speed."""
    if motor.runs_on == "second":
        return []
    inch = (read_plate(motor).frequency_hz or 60) > 55
    series, unit, scale = ("hp", "hp", KW_PER_HP) if inch else ("kW", "kW", 1.0)
    rows = [row for row in load_table("pulltide.core", "standard_powers").rows if row["series"] == series]
    return sorted((number(row, "power") * scale, f"Use a {row['power']} {as_is(unit)} motor") for row in rows)


#: Whatever a plate said of the old size, which a motor of another size does not share.
OF_ITS_SIZE = ("amps_a", "frame", "efficiency", "power_factor", "code_letter", "shaft_diameter_mm", "second_power_kw")


def _sized(motor: InductionMotor, power_kw: float) -> InductionMotor:
    return motor.model_copy(update={"power_kw": power_kw, **dict.fromkeys(OF_ITS_SIZE)})


def larger(motor: InductionMotor) -> Iterator[Neighbor]:
    """Next larger standard motors, like it in everything else."""
    own = read_plate(motor).power_kw or 0.0
    return ((words, _sized(motor, power)) for power, words in _neighbors(motor) if power > own * 1.02)


def smaller(motor: InductionMotor) -> Iterator[Neighbor]:
    """Next smaller standard motors, like it in everything else."""
    own = read_plate(motor).power_kw or 0.0
    return ((words, _sized(motor, power)) for power, words in reversed(_neighbors(motor)) if power < own * 0.98)


def positions(motor: InductionMotor) -> tuple[tuple[str, SourceModel], ...]:
    """Both speeds of a two-speed motor; slowest, present and fastest setting of an inverter."""
    if motor.inverter.fitted:
        return _inverter_positions(motor)
    if motor.second_speed_rpm is None:
        return (("", motor),)
    return tuple(
        (f"{phrase(words)} speed", motor.model_copy(update={"runs_on": name}))
        for words, name in (("first", "first"), ("other", "second"))
    )


def _inverter_positions(motor: InductionMotor) -> tuple[tuple[str, SourceModel], ...]:
    inverter = motor.inverter
    run = inverter.run_hz or read_plate(motor).frequency_hz or 60.0
    ends = [hz for hz in (inverter.min_hz, inverter.max_hz) if hz is not None and abs(hz - run) > 0.01]
    at_ends = [(hz, motor.model_copy(update={"inverter": inverter.model_copy(update={"run_hz": hz})})) for hz in ends]
    return tuple((f"{hz:g} Hz", item) for hz, item in sorted([*at_ends, (run, motor)], key=lambda pair: pair[0]))


def stronger(motor: InductionMotor) -> Iterator[Neighbor]:
    """The same power with more torque at rest: another way of starting, design C, then larger motors like those."""
    weak = motor.start in ("split_phase", "permanent_split", "shaded_pole")
    if motor.phases == 3 and motor.design not in ("C", "D"):
        other = motor.model_copy(update={"design": "C", "locked_rotor_torque_ratio": None})
        yield "Use a design C motor, made to start hard", other
    if weak:
        yield "Use a capacitor-start motor", motor.model_copy(update=CAPACITOR_START)
    for words, item in larger(motor):
        yield words, item
        if weak:
            yield f"{phrase(words)}, capacitor-start", item.model_copy(update=CAPACITOR_START)


CAPACITOR_START = {"start": "capacitor_start", "locked_rotor_torque_ratio": None, "breakdown_torque_ratio": None}


def limited(motor: InductionMotor) -> Iterator[Neighbor]:
    """A lower torque limit of the inverter."""
    if motor.inverter.fitted:
        for share in (1.25, 1.1, 1.0):
            if share < motor.inverter.overload - 0.01:
                inverter = motor.inverter.model_copy(update={"overload": share})
                yield (
                    f"Limit the VFD to {quantity(share, 'share')} of rated torque",
                    motor.model_copy(update={"inverter": inverter}),
                )


def has_control(motor: InductionMotor) -> bool:
    """Whether it can be set anywhere between two speeds."""
    return motor.inverter.fitted and len(_inverter_positions(motor)) > 1
