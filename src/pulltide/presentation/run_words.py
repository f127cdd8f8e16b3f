"""What happened in a run, in words, and as rows of a file."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from pulltide.core.line_result import LineResult
from pulltide.core.run_up.cases import DIP_S, JAM_S, OFF_S
from pulltide.core.run_up.checks import JAM_PEAK, cases_go_on, stands_after_s, winding_goes_on
from pulltide.core.run_up.control import FUSE_SHARE
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.jam import JamPeak
from pulltide.core.run_up.run import Event, Jerk, Run
from pulltide.quantities import DEFAULT_UNITS, Units, show
from pulltide.services.lists.writing import table_csv


def event_words(train: DriveTrain, run: Run) -> Iterator[tuple[str, str]]:
    """When, and what."""
    for event in run.events:
        yield f"{event.at_s:.2f} s", _words(train, run, event)


#: Less than this is not told as a time [s].
SHORTEST_S = 0.01


def _words(train: DriveTrain, run: Run, event: Event) -> str:
    slips, pins, stops = train.one("slips"), train.one("shears"), "Everything has stopped"
    what = slips.name if slips is not None else "stage"
    clutch = next((one.clutch for one in train.contacts if one.clutch), "one-way clutch")
    if run.when("swings_back") is not None:
        stops = "It stops"
    off = "the crank was let go" if train.by_hand else "the power went off"
    said = {
        "up_to_speed": f"{train.names[-1]} is up to speed: {run.last_rpm[_at(run, event)]:.4g} rpm.",
        "slips": f"The {what} slips.",
        "grips": f"The {what} grips again: {show(event.value, 'J', DEFAULT_UNITS)} went into it as heat.",
        "power_off": "The crank is let go." if train.by_hand else "Power off.",
        "at_rest": f"{stops}, {_in_words(event.value, '.3g')} after {off}.",
        "still_turning": f"Still turning {event.value:.3g} s after {off}.",
        "stalls": _stalls(train, run, clutch),
        "shears": f"The {pins.name if pins is not None else 'pins'} shear: nothing behind them is driven any more.",
        "overruns": f"The load runs ahead: the {clutch} lets it.",
        "drives_again": f"The {clutch} drives again.",
        "rests": "A rest of the cycle." if train.by_hand else "Motor off: a rest of the cycle.",
        "starts_again": "Cranking again." if train.by_hand else "Motor on again.",
        "fuse_blows": FUSE_BLOWS,
        "moves_off": f"{train.names[-1]} moves off.",
        "jerks": _jerks(run, event),
        "delta": "Star becomes delta.",
        "load_off": f"Load off for {OFF_S:g} s.",
        "load_on": f"Load on again, at once: {train.names[-1]} turned at {event.value:.4g} rpm.",
        "volts_dip": f"Volts fall to {100 * event.value:.0f} % for {DIP_S:g} s.",
        "volts_back": f"Volts are back: {train.names[-1]} had come down to {event.value:.4g} rpm.",
        "jams": f"{train.names[-1]} is held fast for {JAM_S:g} s: {show(run.jam_j, 'J', DEFAULT_UNITS)} stop at once.",
        "freed": f"{train.names[-1]} is free again.",
        "stays_down": "It does not come back to speed.",
        "blows": f"Blows begin, {event.value:.3g} a minute.",
        "cycle": f"The duty cycle begins, {event.value:.3g} s each.",
        "other_way": "Cranked the other way round." if train.by_hand else "Switched on again, the other way round.",
        "swings_back": f"The raised batch swings the drive back, {event.value:.0f}° at first.",
        "moves": f"One move and the rest after it, {event.value:.3g} s.",
        "falls_behind": f"It falls behind: at its worst the move takes {event.value:.3g} times what the motor has.",
        "relay_trips": "A class 10 overload relay set to the plate trips here; this run goes on without one.",
        "hangs_still": f"It hangs still, {event.value:.3g} s later.",
        "chatters": "It changes faster than can be followed: the run ends here.",
    }
    return said[event.what]


FUSE_BLOWS = f"Time-delay fuses of {FUSE_SHARE:.0%} of the plate may blow here; this run goes on without them."


def _jerks(run: Run, event: Event) -> str:
    stage = 1 if run.jerk is None else run.jerk.worst_stage + 1
    return f"The jerk is at its greatest: {show(event.value, 'N*m', DEFAULT_UNITS)} into stage {stage}."


def _stalls(train: DriveTrain, run: Run, clutch: str) -> str:
    if run.when("other_way") is not None and any(one.clutch for one in train.contacts):
        return f"Only the motor's side turns: the {clutch} does not drive this way."
    if run.when("shears") is not None:
        return f"{train.names[-1]} does not come up to speed: nothing drives it any more."
    has = "what the arms have" if train.by_hand else "the motor's torque"
    return f"It does not come up to speed: {has} and what the load takes meet before."


def _at(run: Run, event: Event) -> int:
    return min(range(len(run.time_s)), key=lambda k: abs(run.time_s[k] - event.at_s))


def tiles(train: DriveTrain, run: Run, units: Units, line: LineResult | None = None) -> Iterator[tuple[str, str, str]]:
    """Name, value, and what stands under it."""
    if run.followed is not None:
        yield "Most torque", f"{100 * run.followed.worst:.0f} %", "of what the motor has at that speed"
        yield "Root mean square", str(show(run.followed.rms_nm, "N*m", units)), "of the motor, rest counted in"
        if run.amps_a:
            yield "Most current", str(show(max(run.amps_a), "A", units)), "of the motor, in one lead"
        return
    if run.jerk is not None:
        yield from _jerk_tiles(run, run.jerk, units)
        return
    up = run.when("up_to_speed")
    yield "Up to speed in", _in_words(up), "last shaft within 2 %"
    if run.at_speed_j:
        yield "Energy when it turns", str(show(run.at_speed_j, "J", units)), "in every wheel, motor to last shaft"
    if run.amps_a:
        yield "Most current", str(show(max(run.amps_a), "A", units)), "of the motor, in one lead"
    if run.swing is not None:
        yield "Speed swings", f"{100 * run.swing:.2g} %", "of the motor, over its mean, blow to blow"
    goes_on = winding_goes_on(train, run)
    if goes_on is not None:
        yield "Winding, if it goes on", f"{100 * goes_on:.0f} %", "of its rise at full load"
    for stage, rise in cases_go_on(line, run) if line is not None else ():
        yield (
            f"Case of stage {stage}, if it goes on",
            str(show(round(rise), "delta_degC", units)),
            "over the air, its heat shed by its surface",
        )
    rest = stands_after_s(run)
    if rest is not None:
        yield "Stops after", _in_words(rest, ".3g"), "from letting go" if train.by_hand else "from power off"
    share = run.lost_j / run.given_j if run.given_j else 0.0
    given, slip = show(run.given_j, "J", units), show(run.slip_j, "J", units)
    yield "Lost in the stages", str(show(share, "share", units)), f"of {given} given; slip {slip}"


def _in_words(seconds: float | None, written: str = ".2f") -> str:
    if seconds is None:
        return "never"
    return f"{seconds:{written}} s" if seconds >= SHORTEST_S else f"under {SHORTEST_S:g} s"


def _jerk_tiles(run: Run, jerk: Jerk, units: Units) -> Iterator[tuple[str, str, str]]:
    off = run.when("moves_off")
    yield "Moves off after", f"{off:.2f} s" if off is not None else "never", "last shaft at 1 % of its speed"
    peak = show(jerk.peaks_nm[jerk.worst_stage], "N*m", units)
    yield "Greatest jerk", str(peak), f"into stage {jerk.worst_stage + 1}, at its driver shaft"
    yield "Natural frequency", f"{jerk.frequencies_hz[0]:.3g} Hz", "the lowest, in torsion"


def jam_bars(peaks: Sequence[JamPeak], units: Units) -> Iterator[tuple[str, str, str, str]]:
    """What breaks, the torque in the jam over what breaks it, its state, and both in words."""
    for peak in peaks:
        state = "fix" if peak.use > 1 else "weigh" if peak.use > JAM_PEAK.limits[0] else "clear"
        there, breaks = show(peak.peak_nm, "N*m", units), show(peak.breaks_nm, "N*m", units)
        yield f"Stage {peak.stage + 1}: {peak.name}", f"{100 * peak.use:.0f} %", state, f"{there} against {breaks}"


HEADER = ("seconds", "first shaft, rpm", "last shaft, rpm", "motor torque, N m", "load torque, N m", "slipping", "A")


def _cell(value: float | None) -> float | str:
    return "" if value is None else round(float(value), 6)


def run_csv(run: Run) -> bytes:
    """Every step of the run, in SI units."""
    amps: list[float | None] = [*run.amps_a] if run.amps_a else [None] * len(run.time_s)
    columns = (run.time_s, run.first_rpm, run.last_rpm, run.motor_nm, run.load_nm, run.slipping, amps)
    rows = ([*(_cell(value) for value in row[:5]), int(row[5]), _cell(row[6])] for row in zip(*columns, strict=True))
    return table_csv(HEADER, rows)
