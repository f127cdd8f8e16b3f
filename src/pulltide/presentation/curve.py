"""Torque over speed of a source with the load drawn into it, as a picture with lettered points."""

from __future__ import annotations

from dataclasses import dataclass
from math import log10

from pulltide.core.sources import Demand, Drive
from pulltide.core.sources.curves import InductionCurve
from pulltide.core.sources.starting import start_of
from pulltide.presentation.painting import Mark, Picture, Word, polyline, ring
from pulltide.quantities import Units, show
from pulltide.words import say, worded

WIDTH, HEIGHT = 400.0, 236.0
LEFT, RIGHT, TOP, BOTTOM = 46.0, 14.0, 14.0, 30.0
SAMPLES = 120


@dataclass(frozen=True, slots=True)
class CurvePicture:
    """The picture with its legend: the unit of torque, what its lines are, and its lettered points in words."""

    picture: Picture
    unit: str
    has_load: bool
    has_peak: bool
    points: tuple[tuple[str, str], ...]


def round_steps(most: float, wanted: int) -> list[float]:
    """Round numbers from 0 to about ``most``: steps of 1, 2 or 5 times a power of ten."""
    raw = most / wanted
    power = 10 ** int(log10(raw) // 1)
    step = next(factor * power for factor in (1, 2, 5, 10) if factor * power >= raw)
    return [step * k for k in range(int(most / step) + 1)]


@dataclass(frozen=True, slots=True)
class Scale:
    """From rpm and N·m to the picture."""

    top_rpm: float
    max_nm: float

    def x(self, rpm: float) -> float:
        """Across."""
        return round(LEFT + rpm / self.top_rpm * (WIDTH - LEFT - RIGHT), 1)

    def y(self, nm: float) -> float:
        """Down from the top."""
        return round(HEIGHT - BOTTOM - nm / self.max_nm * (HEIGHT - TOP - BOTTOM), 1)

    def line(self, points: list[tuple[float, float]], role: str) -> Mark:
        """A polyline."""
        return polyline([(self.x(rpm), self.y(nm)) for rpm, nm in points], role)


def curve_picture(drive: Drive, demand: Demand | None, units: Units) -> CurvePicture | None:
    """The picture, or None for a source without a curve."""
    curve = drive.curve
    if curve is None:
        return None
    speeds = [curve.top_rpm * k / SAMPLES for k in range(SAMPLES + 1)]
    points = [(speed, curve.torque_nm(speed)) for speed in speeds]
    load = _load(drive, demand, speeds)
    peak = demand.peak_nm if demand else None
    most = 1.12 * max([nm for _, nm in points] + [nm for _, nm in load] + [peak or 0.0])
    scale = Scale(1.04 * curve.top_rpm, most)
    made = Picture(say("{title}: torque over speed, with the load", title=worded(drive.title)), WIDTH, HEIGHT)
    _axes(made, scale, units)
    if peak is not None:
        made.marks.append(polyline([(LEFT, scale.y(peak)), (WIDTH - RIGHT, scale.y(peak))], "peak"))
    if load:
        made.marks.append(scale.line(load, "load"))
    made.marks.append(scale.line(points, "torque"))
    lettered = []
    for letter, (rpm, nm, text) in zip("ABCDEF", _marks(drive, demand, units), strict=False):
        x, y = scale.x(rpm), scale.y(nm)
        made.marks.append(ring((x, y), 8.5, "point"))
        made.words.append(Word(x, y - 0.5, letter, "point"))
        lettered.append((letter, text))
    unit = show(1.0, "N*m", units).unit
    return CurvePicture(made, unit, bool(load), peak is not None, tuple(lettered))


def _axes(made: Picture, scale: Scale, units: Units) -> None:
    in_unit, floor, right = _per_nm(units), HEIGHT - BOTTOM, WIDTH - RIGHT
    for value in round_steps(scale.max_nm * in_unit, 4):
        y = scale.y(value / in_unit)
        made.marks.append(polyline([(LEFT, y), (right, y)], "tick"))
        made.words.append(Word(LEFT - 5, y - 0.5, f"{value:g}", "up", anchor="end"))
    for rpm in round_steps(scale.top_rpm / 1.04, 4):
        x = scale.x(rpm)
        made.marks.append(polyline([(x, floor), (x, floor + 5)], "tick"))
        made.words.append(Word(x, HEIGHT - 16.5, f"{rpm:g}", "across"))
    made.marks.append(polyline([(LEFT, TOP), (LEFT, floor), (right, floor)], "axis"))


def _per_nm(units: Units) -> float:
    """How many of a person's torque units one N·m is."""
    from pulltide.quantities.reading import factor

    return float(factor("N*m", units.torque)(1.0))


def _load(drive: Drive, demand: Demand | None, speeds: list[float]) -> list[tuple[float, float]]:
    if demand is None or demand.running_nm is None:
        return []
    return [(speed, demand.torque_at(speed / drive.speed_rpm) or 0.0) for speed in speeds]


def _marks(drive: Drive, demand: Demand | None, units: Units) -> list[tuple[float, float, str]]:
    """Points worth a letter: start, pull-up and breakdown of a motor, breakaway, run point."""
    curve = drive.curve
    marks: list[tuple[float, float, str]] = []
    if curve is None:
        return marks

    def said(words: str, nm: float, rpm: float | None = None) -> str:
        where = "" if rpm is None else f" at {show(rpm, 'rpm', units)}"
        return f"{words} {show(nm, 'N*m', units)}{where}"

    marks.append((0.0, curve.torque_nm(0.0), said(say("starts with"), curve.torque_nm(0.0))))
    speeds = [curve.top_rpm * k / 400 for k in range(401)]
    if isinstance(curve, InductionCurve):
        most = max(map(curve.torque_nm, speeds))
        best = max(speed for speed in speeds if curve.torque_nm(speed) > 0.995 * most)
        dip = min((speed for speed in speeds if speed <= best), key=curve.torque_nm)
        if curve.torque_nm(dip) < 0.98 * curve.torque_nm(0.0):
            marks.append((dip, curve.torque_nm(dip), said(say("pulls up with"), curve.torque_nm(dip), dip)))
        marks.append((best, curve.torque_nm(best), said(say("breaks down at"), curve.torque_nm(best), best)))
    if demand is None or demand.running_nm is None:
        return marks
    at_rest = demand.torque_at(0.0) or 0.0
    marks.append((0.0, at_rest, said(say("load at rest"), at_rest)))
    run = start_of(drive, demand).run_rpm
    if run is not None:
        marks.append((run, curve.torque_nm(run), said(say("runs with"), curve.torque_nm(run), run)))
    return marks
