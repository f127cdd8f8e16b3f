"""What a run in time is judged by."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import inf

from pulltide.core.findings import COMMON_PRACTICE, Check, Finding, Remark, Severity, judge, judge_two, state
from pulltide.core.line_result import LineResult
from pulltide.core.run_up.control import mean_heat, relay_heat
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.jam import JamPeak
from pulltide.core.run_up.run import Happening, Run
from pulltide.core.units import RPM_PER_RAD_PER_S

STALLS = Remark(
    code="run.stalls",
    severity=Severity.ERROR,
    quantity="torque at rest",
    fact="In the run the machine does not come up to speed",
    advice="More torque at rest: a larger motor, more ratio, or a load that is put on later.",
)
PINS = Remark(
    code="run.pins",
    severity=Severity.ERROR,
    quantity="torque at the pins",
    fact="The shear pins shear in the run, with nothing jammed",
    advice="Thicker or more pins, a larger circle, or a softer start.",
)
START_SLIP = Check(
    code="run.start_slip",
    severity=Severity.WARNING,
    quantity="time it slips at the start",
    unit="s",
    limits=(2.0,),
    named=True,
    fact="It slips long at every start, and the heat wears it",
    clear="It slips little or not at all at the start",
    advice="Set more tension, use more or wider belts, or start softer.",
)
RUN_DOWN = Check(
    code="run.run_down",
    severity=Severity.WARNING,
    quantity="time to coast to a stop",
    unit="s",
    limits=(10.0,),
    named=True,
    fact="It coasts a long time before it stops",
    clear="It soon coasts to a stop",
    advice="Keep guards shut until it stops: fit a brake, or a guard that only opens with tools.",
)
BACKWARD = Remark(
    code="run.backward",
    severity=Severity.ERROR,
    quantity="speed the other way",
    fact="The other way round, the one-way clutch drives nothing",
    advice="Take the one-way clutch out of a drive that is reversed.",
)
OVERRUNS = Check(
    code="run.overruns",
    severity=Severity.WARNING,
    quantity="fastest over the running speed",
    unit="share",
    limits=(1.1,),
    fact="The load runs ahead of its drive through the one-way clutch, and nothing holds it back",
    clear="The load never runs far ahead of its drive through the one-way clutch",
    advice="A brake on the load's side of the clutch, or a drive without one.",
)
RELAY = Check(
    code="run.relay",
    severity=Severity.ERROR,
    quantity="heat of a relay set to the plate",
    unit="share",
    limits=(0.8, 1.0),
    fact="The start trips, or nearly trips, a class 10 overload relay",
    clear="The start leaves a class 10 overload relay far from tripping",
    advice="Start unloaded or with less inertia, start by a VFD, or fit a class 20 relay if the motor takes it.",
    source=COMMON_PRACTICE,
)
STAYS_DOWN = Remark(
    code="run.stays_down",
    severity=Severity.ERROR,
    quantity="speed after it",
    fact="What happens in the run stops it, and it does not come back to speed",
    advice="More torque at rest, or a start that is given again once the load is off.",
)
JAM_PEAK = Check(
    code="run.jam_peak",
    severity=Severity.ERROR,
    quantity="torque in the jam",
    unit="share",
    limits=(0.8, 1.0),
    named=True,
    fact="Held fast in an instant, the moving masses break the weakest part, or nearly do",
    clear="Every part holds what the moving masses drive into a jam",
    advice="A torque limiter, shear pin or slipping belt nearer to the last shaft leaves less mass behind it.",
    source=COMMON_PRACTICE,
)
START_PEAK = Check(
    code="run.start_peak",
    severity=Severity.ERROR,
    quantity="torque of the first jerk",
    unit="share",
    limits=(0.8, 1.0),
    named=True,
    fact="The first jerk of a start breaks the weakest part, or nearly does",
    clear="Every part holds the first jerk of a start",
    advice="A softer start, less play, or a coupling that gives way by more.",
    source=COMMON_PRACTICE,
)
RESONANCE = Check(
    code="run.resonance",
    severity=Severity.WARNING,
    quantity="distance of the blows from a natural frequency",
    unit="share",
    limits=(0.3,),
    relation=">=",
    fact="The blows come near a torsional natural frequency of the drive and build up",
    clear="The blows stay away from the drive's torsional natural frequencies",
    advice="A softer or stiffer belt or coupling, a flywheel on another shaft, or another speed.",
    source=COMMON_PRACTICE,
)
WINDING = Check(
    code="run.winding",
    severity=Severity.ERROR,
    quantity="winding rise if it goes on so",
    unit="share",
    limits=(1.0, 1.15),
    fact="Going on like this, the winding gets hotter than at full load",
    clear="Going on like this, the winding stays cooler than at full load",
    advice="A larger motor, a lighter or shorter pull in the cycle, or longer rests.",
    source=COMMON_PRACTICE,
)
SWING = Check(
    code="run.swing",
    severity=Severity.WARNING,
    quantity="swing of the motor's speed",
    unit="share",
    limits=(0.2,),
    fact="The speed swings far with every blow",
    clear="The flywheel keeps the speed even enough between blows",
    advice="More flywheel, best on a fast shaft; its energy grows with the square of the speed.",
)
SWINGS_BACK = Check(
    code="run.swings_back",
    severity=Severity.WARNING,
    quantity="swing back with the power off",
    unit="deg",
    limits=(15.0,),
    fact="With the power off, the raised batch swings the drum back and forth",
    clear="With the power off, the batch hardly swings the drum back",
    advice="Hands out until it hangs still. A brake on a shaft, set with the power off, holds it where it stops.",
)
FOLLOWS = Check(
    code="run.follows",
    severity=Severity.ERROR,
    quantity="torque of the move",
    limits=(0.8, 1.0),
    unit="share",
    fact="The motor has too little torque for the move at its speed",
    clear="The motor has torque to spare in every part of the move",
    base="what the motor has at that speed",
    advice="A longer move, a smaller part of it spent speeding up, another ratio, or a larger motor or driver.",
    source=COMMON_PRACTICE,
)
MOVE_HEAT = Check(
    code="run.move_heat",
    severity=Severity.ERROR,
    quantity="root mean square torque",
    limits=(0.9, 1.0),
    unit="share",
    fact="Move after move, the motor gets hotter than its rating allows",
    clear="Move after move, the motor stays within its rating",
    base="its rated torque",
    advice="A longer rest or move, another ratio, or a larger motor.",
    source=COMMON_PRACTICE,
)
RULES = (
    FOLLOWS,
    MOVE_HEAT,
    SWINGS_BACK,
    PINS,
    BACKWARD,
    OVERRUNS,
    STALLS,
    STAYS_DOWN,
    START_SLIP,
    RUN_DOWN,
    RELAY,
    JAM_PEAK,
    WINDING,
    SWING,
)


#: What may happen once it is up to speed, and what a start is over with.
HAPPENS: tuple[Happening, ...] = ("load_off", "volts_dip", "jams", "blows", "cycle", "power_off")


def slip_seconds(run: Run) -> float:
    """Time from the first slip to the grip after it [s], while it starts; 0 without."""
    began, after = run.when("slips"), [at for what in HAPPENS if (at := run.when(what)) is not None]
    if began is None or began >= min(after, default=inf):
        return 0.0
    return (run.when("grips") or run.time_s[-1]) - began


def relay_share(train: DriveTrain, run: Run) -> float | None:
    """Most heat of a class 10 relay over that at which it trips; None where the current is not known."""
    rated = train.motor.rated_a
    if rated is None or len(run.amps_a) != len(run.time_s):
        return None
    return relay_heat(run.time_s, run.amps_a, rated)[0]


def winding_goes_on(train: DriveTrain, run: Run) -> float | None:
    """Winding rise over that at full load if a duty cycle goes on for ever; None without one, or without a current."""
    began, off = run.when("cycle"), run.when("power_off")
    if began is None or off is None or train.motor.rated_a is None or not run.amps_a:
        return None
    return mean_heat(run.time_s, run.amps_a, train.motor.rated_a, (began, off))


def cases_go_on(line: LineResult, run: Run) -> Iterator[tuple[int, float]]:
    """Number of each stage in a closed case, and how far that warms over the air if the duty cycle goes on [K].

    What the motor gives, less what the stages before lose, times what this one loses, over the heat its case sheds.
    """
    began, off = run.when("cycle"), run.when("power_off")
    if began is None or off is None:
        return
    power_w = mean_power_w(run, (began, off))
    for number, result in enumerate(line.links, start=1):
        case = result.transmission.observed(result).case
        if case is not None:
            yield number, power_w * (1 - result.efficiency) / case.w_per_k
        power_w *= result.efficiency


def mean_power_w(run: Run, between: tuple[float, float]) -> float:
    """Mean power that the motor gives between two times [W]."""
    total = 0.0
    powers = [n / RPM_PER_RAD_PER_S * torque for n, torque in zip(run.first_rpm, run.motor_nm, strict=True)]
    for k in range(1, len(powers)):
        if between[0] < run.time_s[k] <= between[1]:
            total += (powers[k] + powers[k - 1]) / 2 * (run.time_s[k] - run.time_s[k - 1])
    return total / max(between[1] - between[0], 1e-9)


def findings(train: DriveTrain, run: Run, peaks: Sequence[JamPeak] = ()) -> Iterator[Finding]:
    """What a run shows; ``peaks`` are those of its jam."""
    if run.followed is not None:
        yield judge_two(FOLLOWS, "motor", run.followed.worst)
        if run.followed.heat is not None:
            yield judge_two(MOVE_HEAT, "motor", run.followed.heat)
        return
    if run.jerk is not None:
        yield from _of_jerk(train, run, peaks)
        return
    yield from _of_run(train, run, peaks)


def _of_jerk(train: DriveTrain, run: Run, peaks: Sequence[JamPeak]) -> Iterator[Finding]:
    if run.when("stalls") is not None:
        yield state(STALLS, "motor")
    worst = max(peaks, key=lambda peak: peak.use, default=None)
    if worst is not None:
        yield judge_two(START_PEAK, f"link-{worst.stage + 1}", worst.use)
    near = nearest_swing(train, run)
    if near is not None:
        yield judge(RESONANCE, "line", near)


#: Blows excite a swing at their own pace, and at two and three times it.
ORDERS = (1, 2, 3)


def nearest_swing(train: DriveTrain, run: Run) -> float | None:
    """How far the pace of blows is from the nearest swing of the drive, as a share of that; None without blows."""
    if train.pulse is None or run.jerk is None:
        return None
    blows_hz = train.pulse.per_turn * train.running_rpm[-1] / 60
    return min(abs(order * blows_hz / own - 1) for order in ORDERS for own in run.jerk.frequencies_hz)


def _of_run(train: DriveTrain, run: Run, peaks: Sequence[JamPeak]) -> Iterator[Finding]:
    yield from _it_turns(train, run)
    if run.when("stalls") is not None:
        return
    slips, heat, rise = train.one("slips"), relay_share(train, run), winding_goes_on(train, run)
    if slips is not None:
        yield judge(START_SLIP, f"link-{slips.stage + 1}", slip_seconds(run))
    if heat is not None:
        yield judge_two(RELAY, "motor", heat)
    worst = max(peaks, key=lambda peak: peak.use, default=None)
    if worst is not None:
        yield judge_two(JAM_PEAK, f"link-{worst.stage + 1}", worst.use)
    if rise is not None:
        yield judge_two(WINDING, "motor", rise)
    if run.swing is not None:
        yield judge(SWING, "motor", run.swing)
    if run.when("overruns") is not None:
        fastest = max(abs(speed) for speed in run.last_rpm)
        yield judge(OVERRUNS, f"shaft-{len(train.running_rpm)}", fastest / train.running_rpm[-1])
    yield from _after_power_off(train, run)


def _it_turns(train: DriveTrain, run: Run) -> Iterator[Finding]:
    """What keeps it from coming up to speed, or back to it."""
    pins, sheared, backward = train.one("shears"), run.when("shears") is not None, run.when("other_way") is not None
    if pins is not None and sheared and run.jam is None:
        yield state(PINS, f"link-{pins.stage + 1}")
    elif run.when("stalls") is not None:
        clutched = backward and any(contact.clutch for contact in train.contacts)
        yield state(BACKWARD if clutched else STALLS, "motor")
    if run.when("stays_down") is not None and not sheared:
        yield state(STAYS_DOWN, "motor")


def stands_after_s(run: Run) -> float | None:
    """From power off until everything stands, or hangs still where a batch swings back [s]; None where it stays on."""
    off, still = run.when("power_off"), run.when("hangs_still")
    if off is not None and still is not None:
        return still - off
    return next((event.value for event in run.events if event.what in ("at_rest", "still_turning")), None)


def _after_power_off(train: DriveTrain, run: Run) -> Iterator[Finding]:
    last, stands = f"shaft-{len(train.running_rpm)}", stands_after_s(run)
    swung = next((event.value for event in run.events if event.what == "swings_back"), None)
    if swung is not None:
        yield judge(SWINGS_BACK, last, swung)
    if stands is not None:
        yield judge(RUN_DOWN, last, stands)
