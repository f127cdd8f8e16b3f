"""A run as strips over time: speed and torque; start on the left, run-down on the right on a scale of its own."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.run_up.control import winding_heat
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.run import Run
from pulltide.presentation.curve import round_steps
from pulltide.presentation.painting import Mark, Picture, Word, path, polyline
from pulltide.presentation.words import last_name
from pulltide.quantities import Units, in_unit, show
from pulltide.words import say

WIDTH, STRIP, GAP, LEFT, RIGHT, TOP, FOOT = 785.0, 112.0, 22.0, 62.0, 14.0, 33.0, 26.0
#: Share of the width that the start has.
START_SHARE = 0.58
#: Places where the cursor stops.
FRAMES = 120
#: Points of a line at most.
MAX_POINTS = 700


@dataclass(frozen=True, slots=True)
class Frame:
    """One place of the cursor: across the picture, and what is so there."""

    x: float
    says: str


@dataclass(frozen=True, slots=True)
class Strips:
    """The picture, the places of its cursor, and its upper and lower end."""

    picture: Picture
    frames: tuple[Frame, ...]
    top: float
    foot: float


@dataclass(frozen=True, slots=True)
class Across:
    """From seconds to the picture: the start and the run-down have scales of their own."""

    off_s: float
    end_s: float

    @property
    def split(self) -> float:
        """Where the power goes off."""
        wide = WIDTH - LEFT - RIGHT
        return LEFT + wide * (START_SHARE if self.end_s > self.off_s else 1.0)

    def x(self, at: float) -> float:
        """Across."""
        if at <= self.off_s or self.end_s <= self.off_s:
            return round(LEFT + (self.split - LEFT) * at / max(self.off_s, 1e-9), 2)
        return round(self.split + (WIDTH - RIGHT - self.split) * (at - self.off_s) / (self.end_s - self.off_s), 2)


def strip_chart(train: DriveTrain, run: Run, units: Units, beside: Run | None = None) -> Strips:
    """Speed of the last shaft with the motor's over the ratio, torque of the motor with that of the load, its current.

    The start of another run stands beside it, as far as this one has room.
    """
    off = run.when("power_off") or run.time_s[-1]
    across = Across(off, run.time_s[-1])
    heat = _heat(train, run)
    strips = 2 + bool(run.amps_a) + bool(heat)
    foot = TOP + strips * STRIP + (strips - 1) * GAP
    picture = Picture(say("Speed, torque and current over time"), WIDTH, foot + FOOT)
    ratio = train.whole.ratio
    over = [speed / ratio for speed in run.first_rpm]
    at_motor = [torque / ratio for torque in run.load_nm]
    other = _start_of(beside, off)
    named = (TOP, say("{train}, rpm", train=last_name(train)))
    _strip(picture, across, named, run.time_s, (run.last_rpm, over, (other.time_s, other.last_rpm)))
    unit, factor = show(1.0, "N*m", units).unit, in_unit(1.0, "N*m", units)
    torques = [[torque * factor for torque in one] for one in (run.motor_nm, at_motor)]
    third = (other.time_s, [torque * factor for torque in other.motor_nm])
    named = (TOP + STRIP + GAP, say("At the motor, {unit}", unit=unit))
    _strip(picture, across, named, run.time_s, (torques[0], torques[1], third))
    if run.amps_a:
        rated = [train.motor.rated_a or 0.0] * len(run.time_s)
        named, third = (TOP + 2 * (STRIP + GAP), say("Motor current, A")), (other.time_s, other.amps_a)
        _strip(picture, across, named, run.time_s, (run.amps_a, rated, third))
    if heat:
        named, nothing = (TOP + 3 * (STRIP + GAP), say("Winding, % of its rise at full load")), [0.0] * len(run.time_s)
        _strip(picture, across, named, run.time_s, (heat, nothing, ([], [])))
    unsaid = {"at_rest"} if run.when("swings_back") is not None else set()
    letters = LETTERED | ({"power_off": "let go"} if train.by_hand else {})
    lettered = [(event.at_s, say(letters[event.what])) for event in run.events if event.what in letters.keys() - unsaid]
    _events(picture, across, lettered, foot)
    _times(picture, across, foot)
    return Strips(picture, tuple(_frames(train, run, across, units)), TOP, foot)


#: A winding that gets no warmer than so much of its rise at full load is not drawn [%].
MIN_HEAT = 1.0


def _heat(train: DriveTrain, run: Run) -> list[float]:
    """Rise of the winding [% of that at full load]; nothing where it is not known, or too little to draw."""
    if train.motor.rated_a is None or not run.amps_a:
        return []
    heat = [100 * share for share in winding_heat(run.time_s, run.amps_a, train.motor.rated_a)]
    return heat if max(heat) >= MIN_HEAT else []


def _start_of(run: Run | None, until: float) -> Run:
    """A run until it is switched off, or until a time; nothing of none."""
    if run is None:
        return Run()
    end = min(run.when("power_off") or until, until)
    count = sum(at <= end for at in run.time_s)
    return Run(
        time_s=run.time_s[:count],
        last_rpm=run.last_rpm[:count],
        motor_nm=run.motor_nm[:count],
        amps_a=run.amps_a[:count],
    )


def _thinned(values: list[float]) -> range:
    return range(0, len(values), max(len(values) // MAX_POINTS, 1))


def _strip(
    picture: Picture,
    across: Across,
    named: tuple[float, str],
    times: list[float],
    lines: tuple[list[float], list[float], tuple[list[float], list[float]]],
) -> None:
    top, name = named
    beside = list(zip(*lines[2], strict=False))
    shown = (*lines[0], *lines[1], *(value for _, value in beside))
    most, least = max(*shown, 1e-9) * 1.08, min(*shown, 0.0) * 1.08
    foot = top + STRIP

    def y(value: float) -> float:
        return round(foot - (value - least) / (most - least) * STRIP, 1)

    levels = round_steps(most, 4)
    step = levels[1] - levels[0] if len(levels) > 1 else most
    below = [-step * (k + 1) for k in range(int(-least / step))]
    for level in (*below, *levels):
        picture.marks.append(polyline([(LEFT, y(level)), (WIDTH - RIGHT, y(level))], "tick"))
        picture.words.append(Word(LEFT - 6, y(level), f"{level:g}", "level", None, "end"))
    if beside:
        step = max(len(beside) // MAX_POINTS, 1)
        picture.marks.append(polyline([(across.x(at), y(value)) for at, value in beside[::step]], "beside"))
    for values, role in ((lines[1], "load"), (lines[0], "torque")):
        points = [(across.x(times[k]), y(values[k])) for k in _thinned(values)]
        picture.marks.append(polyline([*points, (across.x(times[-1]), y(values[-1]))], role))
    picture.marks.append(polyline([(LEFT, top), (LEFT, foot)], "axis"))
    picture.marks.append(polyline([(LEFT, y(0.0)), (WIDTH - RIGHT, y(0.0))], "axis"))
    # where the curve ends high, the name stands where it begins
    free = max(lines[0][-1], lines[1][-1]) < 0.8 * most
    place = (WIDTH - RIGHT - 6, "end") if free else (LEFT + 8, "start")
    picture.words.append(Word(place[0], top + 9, name, "name", None, place[1]))


LETTERED = {
    "slips": "slips",
    "grips": "grips",
    "power_off": "power off",
    "up_to_speed": "up to speed",
    "at_rest": "stopped",
    "delta": "delta",
    "load_off": "load off",
    "load_on": "load on",
    "volts_dip": "volts dip",
    "volts_back": "volts back",
    "jams": "held fast",
    "freed": "freed",
    "stays_down": "stays down",
    "blows": "blows",
    "cycle": "cycle",
    "other_way": "other way",
    "swings_back": "swings back",
    "hangs_still": "hangs still",
    "relay_trips": "relay trips",
    "fuse_blows": "fuses blow",
    "shears": "pins shear",
    "overruns": "runs ahead",
    "drives_again": "drives again",
    "rests": "rests",
    "starts_again": "on again",
    "moves_off": "moves off",
    "jerks": "jerk",
}


#: Rows that the words of events stand in, and how wide a letter is [picture units].
ROWS, LETTER = (9.0, 20.0), 6.0


def _events(picture: Picture, across: Across, events: list[tuple[float, str]], foot: float) -> None:
    """When each is and its words: a line down to the foot, and the words in the first row with room, beside the line
    or before it at the right edge. A word with room nowhere is left out: the list says it too.
    """
    ends = [0.0] * len(ROWS)
    for at_s, word in events:
        x = across.x(at_s)
        picture.marks.append(Mark(path([(x, TOP - 6), (x, foot)]), "peak", ((x, TOP - 6), (x, foot))))
        wide = LETTER * len(word) + 6
        left = x if x + wide < WIDTH else x - wide
        row = next((row for row, end in enumerate(ends) if end <= left), None)
        if row is None:
            continue
        ends[row] = left + wide
        anchor = "start" if left == x else "end"
        picture.words.append(Word(x + (3 if anchor == "start" else -3), ROWS[row], word, "note", None, anchor))


def _times(picture: Picture, across: Across, foot: float) -> None:
    start = [level for level in round_steps(across.off_s, 5) if level < across.off_s * 0.93]
    rest = across.end_s - across.off_s
    down = [across.off_s + level for level in round_steps(rest, 3)[1:] if level <= rest] if rest > 0 else []
    for at, text in [(at, f"{at:g} s") for at in start] + [(at, f"+{at - across.off_s:g} s") for at in down]:
        picture.words.append(Word(across.x(at), foot + 13, text, "level"))


def _frames(train: DriveTrain, run: Run, across: Across, units: Units) -> Iterator[Frame]:
    wide = WIDTH - LEFT - RIGHT
    places = [across.x(at) for at in run.time_s]
    for number in range(FRAMES + 1):
        x = LEFT + wide * number / FRAMES
        k = min(bisect_left(places, x), len(places) - 1)
        motor, last = (show(value[k], "rpm", units) for value in (run.first_rpm, run.last_rpm))
        torque = show(run.motor_nm[k], "N*m", units)
        slip = say(", slipping") if run.slipping[k] else ""
        amps = f", {show(run.amps_a[k], 'A', units)}" if run.amps_a else ""
        speeds = say("motor {motor}, {shaft} {last}", motor=motor, shaft=last_name(train).lower(), last=last)
        says = say(
            "{time:.2f} s: {speeds}, motor torque {torque}{amps}{slip}",
            time=run.time_s[k],
            speeds=speeds,
            torque=torque,
            amps=amps,
            slip=slip,
        )
        yield Frame(round(places[k], 1), says)
