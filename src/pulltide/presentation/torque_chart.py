"""The torque chart: torque rising shaft by shaft like water while speed falls; each stage a gauge with its level."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from html import escape
from math import log10

from markupsafe import Markup

from pulltide.core.line_result import LineResult
from pulltide.quantities import Units, show
from pulltide.words import say

#: Widths of a shaft's reach and of the slope of a stage, in proportion.
REACH, SLOPE = 98.0, 131.0
INK, MUTED, WATER, SURFACE, OVER = "#17262b", "#566870", "#cfe3e5", "#0d5c6b", "#ad2f2a"
#: Size of the diagram of the sheet.
WIDE, HIGH, DEEP = 1000.0, 100.0, 150.0


@dataclass(frozen=True, slots=True)
class TorqueChart:
    """Polylines of torque and speed over the shafts, in a box of 1000 by 100."""

    water: str
    surface: str
    speed: str


def torque_chart_of(line: LineResult) -> TorqueChart | None:
    """Levels on log scales: each shaft is a flat reach as wide as its card, each stage a slope."""
    if len(line.shafts) < 2:
        return None
    xs = reaches(len(line.shafts))
    speed = _points(xs, levels([shaft.speed_rpm for shaft in line.shafts]))
    torques = [shaft.running_torque_nm for shaft in line.shafts]
    if any(torque is None or torque <= 0 for torque in torques):
        return TorqueChart("", "", speed)
    surface = _points(xs, levels([torque or 1.0 for torque in torques]))
    return TorqueChart(f"0,100 {surface} 1000,100", surface, speed)


def reaches(count: int) -> list[tuple[float, float]]:
    """From where to where each shaft reaches in a width of 1000."""
    whole = count * REACH + (count - 1) * SLOPE
    starts = [index * (REACH + SLOPE) * 1000 / whole for index in range(count)]
    return [(start, start + REACH * 1000 / whole) for start in starts]


def levels(values: list[float]) -> list[float]:
    """Heights from the top for values on a log scale."""
    low, high = min(values), max(values)
    span = max(log10(high / low), 0.3)
    return [78.0 - 62.0 * log10(value / low) / span for value in values]


def _points(across: list[tuple[float, float]], heights: list[float]) -> str:
    pairs = ((x, y) for (left, right), y in zip(across, heights, strict=True) for x in (left, right))
    return " ".join(f"{x:.1f},{y:.1f}" for x, y in pairs)


def diagram(line: LineResult, titles: tuple[str, ...], units: Units) -> Markup:
    """The whole line on paper: shafts by number with their torque, stages by name and how far they are used."""
    chart = torque_chart_of(line)
    if chart is None:
        return Markup("")
    shapes = []
    if chart.water:
        shapes.append(f'<polygon points="{chart.water}" fill="{WATER}"/>')
        shapes.append(f'<polyline points="{chart.surface}" fill="none" stroke="{SURFACE}" stroke-width="2"/>')
    across = reaches(len(line.shafts))
    size = min(15.0, 90.0 / len(line.shafts) + 4)
    for shaft, (left, right) in zip(line.shafts, across, strict=True):
        middle = (left + right) / 2
        shapes.append(_word(middle, HIGH + 18, f"{shaft.number}", size, bold=True))
        shapes.append(_word(middle, HIGH + 36, str(show(shaft.running_torque_nm, "N*m", units)), size))
    for index, result in enumerate(line.links):
        middle = (across[index][1] + across[index + 1][0]) / 2
        use = result.tightest.use if result.tightest is not None else None
        shapes += _post(middle, use)
        shapes.append(_word(middle, HIGH + 18, titles[index], size))
        shapes.append(
            _word(middle, HIGH + 36, say("use not known") if use is None else f"{100 * use:.0f} %", size, bold=True)
        )
    return Markup(  # made of numbers and escaped words
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE:g} {DEEP:g}" role="img" '
        f'aria-label="{escape(say("Torque from shaft to shaft, and how far each stage is used"))}">'
        f'<rect width="100%" height="100%" fill="#fff"/>{"".join(shapes)}</svg>'
    )


def _post(middle: float, use: float | None) -> Iterator[str]:
    """A graduated post; what is over its capacity stands above the rim."""
    top, foot = 22.0, 98.0
    yield f'<rect x="{middle - 9:.1f}" y="{top}" width="18" height="{foot - top}" fill="#fff" stroke="{INK}"/>'
    if use is None:
        return
    height = (foot - top) * min(use, 1.25)
    color = SURFACE if use <= 1 else OVER
    yield f'<rect x="{middle - 7:.1f}" y="{foot - height:.1f}" width="14" height="{height:.1f}" fill="{color}"/>'
    for share in (0.25, 0.5, 0.75):
        y = foot - share * (foot - top)
        yield f'<path d="M{middle - 9:.1f} {y:.1f}h6" stroke="{INK}"/>'


def _word(x: float, y: float, text: str, size: float, *, bold: bool = False) -> str:
    weight = ' font-weight="700"' if bold else ""
    return (
        f'<text x="{x:.1f}" y="{y:.1f}" font-size="{size:.1f}" text-anchor="middle" fill="{INK}"{weight} '
        f'font-family="sans-serif">{escape(text)}</text>'
    )
