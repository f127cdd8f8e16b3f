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
from pulltide.presentation.words import last_name
from pulltide.quantities import DEFAULT_UNITS, Units, show
from pulltide.services.lists.writing import table_csv
from pulltide.words import say, worded


def event_words(train: DriveTrain, run: Run) -> Iterator[tuple[str, str]]:
    """When, and what."""
    for event in run.events:
        yield f"{event.at_s:.2f} s", _words(train, run, event)


#: Less than this is not told as a time [s].
SHORTEST_S = 0.01


def _words(train: DriveTrain, run: Run, event: Event) -> str:
    slips, pins, stops = train.one("slips"), train.one("shears"), say("Everything has stopped")
    what = slips.name if slips is not None else "stage"
    clutch = next((one.clutch for one in train.contacts if one.clutch), say("one-way clutch"))
    if run.when("swings_back") is not None:
        stops = say("It stops")
    off = say("the crank was let go") if train.by_hand else say("the power went off")
    said = {
        "up_to_speed": say(
            "{train} is up to speed: {last:.4g} rpm.", train=last_name(train), last=run.last_rpm[_at(run, event)]
        ),
        "slips": say("The {what} slips.", what=what),
        "grips": say(
            "The {what} grips again: {value} went into it as heat.",
            what=what,
            value=show(event.value, "J", DEFAULT_UNITS),
        ),
        "power_off": say("The crank is let go.") if train.by_hand else say("Power off."),
        "at_rest": say("{stops}, {value} after {off}.", stops=stops, value=_in_words(event.value, ".3g"), off=off),
        "still_turning": say("Still turning {value:.3g} s after {off}.", value=event.value, off=off),
        "stalls": _stalls(train, run, clutch),
        "shears": say(
            "The {pins} shear: nothing behind them is driven any more.", pins=pins.name if pins is not None else "pins"
        ),
        "overruns": say("The load runs ahead: the {clutch} lets it.", clutch=clutch),
        "drives_again": say("The {clutch} drives again.", clutch=clutch),
        "rests": say("A rest of the cycle.") if train.by_hand else say("Motor off: a rest of the cycle."),
        "starts_again": say("Cranking again.") if train.by_hand else say("Motor on again."),
        "fuse_blows": say(FUSE_BLOWS, share=FUSE_SHARE),
        "moves_off": say("{train} moves off.", train=last_name(train)),
        "jerks": _jerks(run, event),
        "delta": say("Star becomes delta."),
        "load_off": say("Load off for {off:g} s.", off=OFF_S),
        "load_on": say(
            "Load on again, at once: {train} turned at {value:.4g} rpm.", train=last_name(train), value=event.value
        ),
        "volts_dip": say("Volts fall to {value:.0f} % for {dip:g} s.", value=100 * event.value, dip=DIP_S),
        "volts_back": say(
            "Volts are back: {train} had come down to {value:.4g} rpm.", train=last_name(train), value=event.value
        ),
        "jams": say(
            "{train} is held fast for {jam:g} s: {jam_j} stop at once.",
            train=last_name(train),
            jam=JAM_S,
            jam_j=show(run.jam_j, "J", DEFAULT_UNITS),
        ),
        "freed": say("{train} is free again.", train=last_name(train)),
        "stays_down": say("It does not come back to speed."),
        "blows": say("Blows begin, {value:.3g} a minute.", value=event.value),
        "cycle": say("The duty cycle begins, {value:.3g} s each.", value=event.value),
        "other_way": say("Cranked the other way round.")
        if train.by_hand
        else say("Switched on again, the other way round."),
        "swings_back": say("The raised batch swings the drive back, {value:.0f}° at first.", value=event.value),
        "moves": say("One move and the rest after it, {value:.3g} s.", value=event.value),
        "falls_behind": say(
            "It falls behind: at its worst the move takes {value:.3g} times what the motor has.", value=event.value
        ),
        "relay_trips": say("A class 10 overload relay set to the plate trips here; this run goes on without one."),
        "hangs_still": say("It hangs still, {value:.3g} s later.", value=event.value),
        "chatters": say("It changes faster than can be followed: the run ends here."),
    }
    return said[event.what]


FUSE_BLOWS = "Time-delay fuses of {share:.0%} of the plate may blow here; this run goes on without them."


def _jerks(run: Run, event: Event) -> str:
    stage = 1 if run.jerk is None else run.jerk.worst_stage + 1
    return say(
        "The jerk is at its greatest: {value} into stage {stage}.",
        value=show(event.value, "N*m", DEFAULT_UNITS),
        stage=stage,
    )


def _stalls(train: DriveTrain, run: Run, clutch: str) -> str:
    if run.when("other_way") is not None and any(one.clutch for one in train.contacts):
        return say("Only the motor's side turns: the {clutch} does not drive this way.", clutch=clutch)
    if run.when("shears") is not None:
        return say("{train} does not come up to speed: nothing drives it any more.", train=last_name(train))
    has = say("what the arms have") if train.by_hand else say("the motor's torque")
    return say("It does not come up to speed: {has} and what the load takes meet before.", has=has)


def _at(run: Run, event: Event) -> int:
    return min(range(len(run.time_s)), key=lambda k: abs(run.time_s[k] - event.at_s))


def tiles(train: DriveTrain, run: Run, units: Units, line: LineResult | None = None) -> Iterator[tuple[str, str, str]]:
    """Name, value, and what stands under it."""
    if run.followed is not None:
        yield say("Most torque"), f"{100 * run.followed.worst:.0f} %", say("of what the motor has at that speed")
        yield (
            say("Root mean square"),
            str(show(run.followed.rms_nm, "N*m", units)),
            say("of the motor, rest counted in"),
        )
        if run.amps_a:
            yield say("Most current"), str(show(max(run.amps_a), "A", units)), say("of the motor, in one lead")
        return
    if run.jerk is not None:
        yield from _jerk_tiles(run, run.jerk, units)
        return
    up = run.when("up_to_speed")
    yield say("Up to speed in"), _in_words(up), say("last shaft within 2 %")
    if run.at_speed_j:
        yield (
            say("Energy when it turns"),
            str(show(run.at_speed_j, "J", units)),
            say("in every wheel, motor to last shaft"),
        )
    if run.amps_a:
        yield say("Most current"), str(show(max(run.amps_a), "A", units)), say("of the motor, in one lead")
    if run.swing is not None:
        yield say("Speed swings"), f"{100 * run.swing:.2g} %", say("of the motor, over its mean, blow to blow")
    goes_on = winding_goes_on(train, run)
    if goes_on is not None:
        yield say("Winding, if it goes on"), f"{100 * goes_on:.0f} %", say("of its rise at full load")
    for stage, rise in cases_go_on(line, run) if line is not None else ():
        yield (
            say("Case of stage {stage}, if it goes on", stage=stage),
            str(show(round(rise), "delta_degC", units)),
            say("over the air, its heat shed by its surface"),
        )
    rest = stands_after_s(run)
    if rest is not None:
        yield (
            say("Stops after"),
            _in_words(rest, ".3g"),
            say("from letting go") if train.by_hand else say("from power off"),
        )
    share = run.lost_j / run.given_j if run.given_j else 0.0
    given, slip = show(run.given_j, "J", units), show(run.slip_j, "J", units)
    yield (
        say("Lost in the stages"),
        str(show(share, "share", units)),
        say("of {given} given; slip {slip}", given=given, slip=slip),
    )


def _in_words(seconds: float | None, written: str = ".2f") -> str:
    if seconds is None:
        return "never"
    return f"{seconds:{written}} s" if seconds >= SHORTEST_S else say("under {shortest:g} s", shortest=SHORTEST_S)


def _jerk_tiles(run: Run, jerk: Jerk, units: Units) -> Iterator[tuple[str, str, str]]:
    off = run.when("moves_off")
    yield say("Moves off after"), f"{off:.2f} s" if off is not None else "never", say("last shaft at 1 % of its speed")
    peak = show(jerk.peaks_nm[jerk.worst_stage], "N*m", units)
    yield (
        say("Greatest jerk"),
        str(peak),
        say("into stage {worst_stage}, at its driver shaft", worst_stage=jerk.worst_stage + 1),
    )
    yield (
        say("Natural frequency"),
        say("{frequencies_hz:.3g} Hz", frequencies_hz=jerk.frequencies_hz[0]),
        say("the lowest, in torsion"),
    )


def jam_bars(peaks: Sequence[JamPeak], units: Units) -> Iterator[tuple[str, str, str, str]]:
    """What breaks, the torque in the jam over what breaks it, its state, and both in words."""
    for peak in peaks:
        state = "fix" if peak.use > 1 else "weigh" if peak.use > JAM_PEAK.limits[0] else "clear"
        there, breaks = show(peak.peak_nm, "N*m", units), show(peak.breaks_nm, "N*m", units)
        yield (
            say("Stage {stage}: {name}", stage=peak.stage + 1, name=worded(peak.name)),
            f"{100 * peak.use:.0f} %",
            state,
            say("{there} against {breaks}", there=there, breaks=breaks),
        )


HEADER = ("seconds", "first shaft, rpm", "last shaft, rpm", "motor torque, N m", "load torque, N m", "slipping", "A")


def _cell(value: float | None) -> float | str:
    return "" if value is None else round(float(value), 6)


def run_csv(run: Run) -> bytes:
    """Every step of the run, in SI units."""
    amps: list[float | None] = [*run.amps_a] if run.amps_a else [None] * len(run.time_s)
    columns = (run.time_s, run.first_rpm, run.last_rpm, run.motor_nm, run.load_nm, run.slipping, amps)
    rows = ([*(_cell(value) for value in row[:5]), int(row[5]), _cell(row[6])] for row in zip(*columns, strict=True))
    return table_csv(HEADER, rows)
