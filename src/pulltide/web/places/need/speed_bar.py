"""The speed a machine can live with, as a bar: zones, the useful band, the ideal, and what the plan gives."""

from __future__ import annotations

from dataclasses import dataclass, field

from pulltide.core.need import Need
from pulltide.core.needs.assess import Requirement
from pulltide.quantities import Units, show
from pulltide.words import filled

WIDTH = 400.0
LETTER = 7.2


@dataclass(frozen=True, slots=True)
class Stretch:
    """A colored stretch of the bar."""

    x: float
    width: float
    state: str


@dataclass(frozen=True, slots=True)
class Tag:
    """A word at a speed, on one of three rows above or below the bar."""

    x: float
    row: int
    text: str
    state: str


@dataclass(slots=True)
class SpeedBar:
    """The bar in a box of 400 by 112."""

    reason: str
    summary: str
    height: int = 116
    zones: list[Stretch] = field(default_factory=list)
    band: Stretch | None = None
    ideal: float | None = None
    given: float | None = None
    above: list[Tag] = field(default_factory=list)
    below: list[Tag] = field(default_factory=list)


def speed_bar(need: Need, asked: Requirement | None, given_rpm: float | None, units: Units) -> SpeedBar | None:
    """The bar, or None while no speed is known."""
    ends = [v for v in (need.speed_min_rpm, need.speed_ideal_rpm, need.speed_max_rpm) if v is not None]
    if not ends:
        return None
    zones = asked.zones if asked else ()
    top = max([zone.to_rpm for zone in zones] or [1.35 * max(ends)])
    scale = WIDTH / max(top, 1.1 * max(ends))
    low, high = need.speed_min_rpm or ends[0], need.speed_max_rpm or ends[-1]
    reason = filled(asked.speeds.reason, units) if asked else "as entered"
    bar = SpeedBar(reason, f"useful from {show(low, 'rpm', units)} to {show(high, 'rpm', units)}: {reason}")
    for zone in zones:
        bar.zones.append(Stretch(zone.from_rpm * scale, (zone.to_rpm - zone.from_rpm) * scale, zone.state))
        _tag(bar.below, (zone.from_rpm + zone.to_rpm) / 2 * scale, zone.name, zone.state)
    bar.band = Stretch(low * scale, max((high - low) * scale, 3.0), "band")
    if need.speed_ideal_rpm is not None:
        bar.ideal = need.speed_ideal_rpm * scale
        _tag(bar.above, bar.ideal, f"ideal {show(need.speed_ideal_rpm, 'rpm', units).number}", "ideal")
    if given_rpm is not None and given_rpm * scale < WIDTH:
        bar.given = given_rpm * scale
        _tag(bar.above, bar.given, f"this plan {show(given_rpm, 'rpm', units).number}", "given")
    ends_row = bar.above if zones else bar.below
    for end in dict.fromkeys((low, high)):
        if end != need.speed_ideal_rpm:
            _tag(ends_row, end * scale, show(end, "rpm", units).number, "end")
    bar.height = 116 if zones else 96
    return bar


def _tag(tags: list[Tag], x: float, text: str, state: str) -> None:
    """Keep a word inside the bar's box, and off the words of its own row; the third row takes what is left."""
    half = len(text) * LETTER / 2
    x = min(max(x, half), WIDTH - half)
    row = 0
    while row < 2 and any(tag.row == row and abs(tag.x - x) < half + len(tag.text) * LETTER / 2 + 6 for tag in tags):
        row += 1
    tags.append(Tag(round(x, 1), row, text, state))
