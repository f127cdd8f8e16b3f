"""Readings drawn: one beside its band, several over the hours, and what is due along them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from pulltide.core.run_log.instruments import READS
from pulltide.core.run_log.model import Band
from pulltide.core.run_log.upkeep import Due
from pulltide.presentation.curve import round_steps
from pulltide.presentation.painting import Mark, Picture, Word, path, polyline
from pulltide.quantities import Units, in_unit, show
from pulltide.words import say

#: Width of the strip of one reading.
STRIP = 244.0
WIDTH, HEIGHT, LEFT, RIGHT, TOP, FOOT = 400.0, 170.0, 44.0, 14.0, 16.0, 24.0
#: What of the strip a band takes at least.
MIN_SHARE = 0.12


@dataclass(frozen=True, slots=True)
class Strip:
    """One reading on its strip: its band from ``left`` on, the middle of it, where it lies."""

    left: float
    width: float
    middle: float
    at: float


def strip(value: float, band: Band) -> Strip:
    """Where band and reading lie; the farther off, the smaller the band."""
    reach = max(1.9 * band.half, 1.12 * abs(value - band.middle), 1e-9)
    reach = min(reach, band.half / MIN_SHARE) if band.half > 0 else reach

    def x(what: float) -> float:
        share = min(max((what - band.middle) / reach, -1.0), 1.0)
        return round(STRIP / 2 * (1 + 0.94 * share), 1)

    return Strip(x(band.low), round(x(band.high) - x(band.low), 1), x(band.middle), x(value))


def history(what: str, name: str, points: Sequence[tuple[float, float]], band: Band | None, units: Units) -> Picture:
    """Readings of one thing over the hours run, with what is expected now behind them."""
    unit = show(1.0, READS[what], units).unit

    def factor(value: float) -> float:
        return in_unit(value, READS[what], units)

    picture = Picture(say("{name} over hours run", name=name), WIDTH, HEIGHT)
    values = [factor(value) for _, value in points] + ([factor(band.low), factor(band.high)] if band else [])
    low, high = min(values), max(values)
    span = max(high - low, abs(high) * 0.02, 1e-6)
    low, high = low - 0.12 * span, high + 0.12 * span
    max_h = max(max(hours for hours, _ in points), 1.0) * 1.04

    def at(hours: float, value: float) -> tuple[float, float]:
        across = LEFT + hours / max_h * (WIDTH - LEFT - RIGHT)
        down = TOP + (high - value) / (high - low) * (HEIGHT - TOP - FOOT)
        return round(across, 1), round(down, 1)

    if band:
        corners = [
            at(0, factor(band.low)),
            at(max_h, factor(band.low)),
            at(max_h, factor(band.high)),
            at(0, factor(band.high)),
        ]
        picture.marks.append(Mark(path(corners, closed=True), "band", tuple(corners)))
    foot = HEIGHT - FOOT
    picture.marks.append(polyline([(LEFT, TOP), (LEFT, foot), (WIDTH - RIGHT, foot)], "axis"))
    for hours in round_steps(max_h, 4):
        picture.words.append(Word(at(hours, low)[0], foot + 12, f"{hours:g} h", "level"))
    for value in (low + 0.12 * span, high - 0.12 * span):
        picture.words.append(Word(LEFT - 5, at(0, value)[1], f"{value:.4g}", "level", None, "end"))
    picture.marks.append(polyline([at(hours, factor(value)) for hours, value in points], "torque"))
    for hours, value in points:
        x, y = at(hours, factor(value))
        dot = ((x - 3.5, y), (x, y - 3.5), (x + 3.5, y), (x, y + 3.5))
        picture.marks.append(Mark(path(list(dot), closed=True), "dot", dot))
    picture.words.append(Word(WIDTH - RIGHT, 8, f"{name}, {unit}" if unit else name, "name", None, "end"))
    return picture


@dataclass(frozen=True, slots=True)
class Line:
    """One task along the hours: dots where it was done, and where it is due."""

    done: tuple[float, ...]
    due: tuple[float, ...]


def timeline(dues: Sequence[Due], now_h: float) -> tuple[tuple[Line, ...], float]:
    """Dots of every task on a strip from 0 to a while after now, and where now is."""
    most = max(now_h * 1.6, 100.0)

    def x(hours: float) -> float:
        return round(6 + hours / most * (STRIP - 12), 1)

    lines = []
    for due in dues:
        coming: list[float] = []
        at = due.at_h
        while at is not None and at <= most and len(coming) < 12:
            coming.append(x(at))
            at = at + due.every_h if due.every_h else None
        lines.append(Line(tuple(x(hours) for hours in due.done_h if hours <= most), tuple(coming)))
    return tuple(lines), x(now_h)
