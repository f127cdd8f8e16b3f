"""An induction motor on an inverter: how slow and how fast it may run, and what it still gives there."""

from __future__ import annotations

from collections.abc import Iterator
from math import sqrt

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Remark, Severity, Source, judge, state
from pulltide.core.sources.contract import Fact
from pulltide.core.sources.induction import InductionMotor, synchronous_speed_rpm
from pulltide.core.sources.plate import Plate
from pulltide.core.tables import interpolated

MG1_30 = Source("NEMA MG 1", "12.53 and 30.2", "quoted from memory")

PHASE = Remark(
    code="motor.inverter_phase",
    severity=Severity.ERROR,
    quantity="the motor is three-phase",
    fact="A single-phase motor must not be run from an ordinary VFD",
    advice="Use a three-phase motor with the VFD.",
)
FAST = Check(
    code="motor.inverter_fast",
    severity=Severity.WARNING,
    quantity="fastest setting",
    unit="Hz",
    fact="At this top speed bearings and balance need the manufacturer’s approval",
    clear="The top speed setting is in the usual range",
    base="twice the frequency on the plate, or the inverter duty limit",
    advice="Lower the top speed setting or the ratio.",
    source=MG1_30,
)
RULES = (PHASE, FAST)
#: Continuous torque of a motor with its own fan, by share of its frequency. Common practice, no source.
COOLED = ((0.10, 0.50), (0.17, 0.65), (0.33, 0.80), (0.50, 1.0))


def continuous_share(frequency_share: float, separate_fan: bool) -> float:
    """Share of rated torque that a motor gives all day at a share of its frequency; 1 with a fan of its own.

    0.5 at a tenth, 0.8 at a third, 1 from half on. Common practice, no source.

    >>> continuous_share(0.33, False), continuous_share(1.0, False), continuous_share(0.2, True)
    (0.8, 1.0, 1.0)
    """
    if separate_fan or frequency_share >= 0.5:
        return 1.0
    return interpolated(COOLED, frequency_share)


def max_hz(plate: Plate) -> float:
    """Fastest usual setting [Hz]: 90 with four poles or more, 72 with two. Common practice, no source."""
    return 72.0 if plate.poles == 2 else 90.0


def settings_hz(motor: InductionMotor, plate: Plate) -> tuple[float, float]:
    """Slowest and fastest setting [Hz]: as entered, or where it runs."""
    run = motor.inverter.run_hz or plate.frequency_hz or 60.0
    return motor.inverter.min_hz or run, motor.inverter.max_hz or run


def findings(motor: InductionMotor, plate: Plate) -> Iterator[Finding]:
    """Phases and fastest setting; heat at the slow end is judged by the load it has there."""
    if motor.phases == 1:
        yield state(PHASE, "motor")
    _, fast = settings_hz(motor, plate)
    yield judge(FAST, "motor", fast, max_hz(plate))


def facts(motor: InductionMotor, plate: Plate) -> Iterator[Fact]:
    """Speeds at the ends of the range and the torque left there; what one phase has to bring."""
    if plate.poles is None or plate.speed_rpm is None or plate.synchronous_rpm is None or not plate.frequency_hz:
        return
    group, own = "VFD", plate.frequency_hz
    slip_rpm = plate.synchronous_rpm - plate.speed_rpm
    slow, fast = settings_hz(motor, plate) if motor.inverter.fitted else (15.0, max_hz(plate))
    if not motor.inverter.fitted:
        yield Fact(
            "slowest_on_vfd",
            group,
            "With one, from",
            slow,
            "Hz",
            "usual range for a motor with its own fan",
            COMMON_PRACTICE,
        )
    for code, name, hz in (("slowest", "Slowest", slow), ("fastest", "Fastest", fast)):
        share = continuous_share(hz / own, motor.inverter.separate_fan) * min(own / hz, 1.0)
        speed = max(synchronous_speed_rpm(plate.poles, hz) - slip_rpm, 0.0)
        note = f"at {hz:g} Hz, {share * 100:.0f} % of rated torque all day"
        yield Fact(code, group, name, speed, "rpm", note, COMMON_PRACTICE)
    if motor.inverter.single_phase_input and plate.amps_a is not None:
        note = "and up to twice the motor’s current without a choke; derate a three-phase-input drive to half"
        yield Fact(
            "single_phase_current", group, "Drawn from one phase, at least", sqrt(3) * plate.amps_a, "A", note, EXACT
        )
