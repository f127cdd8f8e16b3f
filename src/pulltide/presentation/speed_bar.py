"""The speed a machine can live with, as a bar: zones, the useful band, the ideal, and what the plan gives."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.need import Need
from pulltide.core.needs.assess import Requirement
from pulltide.presentation.painting import Mark, Picture, Word, polyline
from pulltide.quantities import Units, show
from pulltide.words import filled, say, worded

WIDTH = 400.0
LETTER = 7.2


#: The bar itself: its upper edge and its height; the first row of words above and below, and how far rows lie apart.
TOP, TALL = 56.0, 18.0
ABOVE, BELOW, ROW = 32.5, 85.5, 13.0


@dataclass(frozen=True, slots=True)
class SpeedBar:
    """The bar, and why its speeds are what they are."""

    reason: str
    picture: Picture


def speed_bar(need: Need, asked: Requirement | None, given_rpm: float | None, units: Units) -> SpeedBar | None:
    """The bar, or None while no speed is known."""
    ends = [v for v in (need.speed_min_rpm, need.speed_ideal_rpm, need.speed_max_rpm) if v is not None]
    if not ends:
        return None
    zones = asked.zones if asked else ()
    top = max([zone.to_rpm for zone in zones] or [1.35 * max(ends)])
    scale = WIDTH / max(top, 1.1 * max(ends))
    low, high = need.speed_min_rpm or ends[0], need.speed_max_rpm or ends[-1]
    reason = filled(asked.speeds.reason, units) if asked else say("as entered")
    summary = say(
        "useful from {low} to {high}: {reason}",
        low=show(low, "rpm", units),
        high=show(high, "rpm", units),
        reason=reason,
    )
    bar = Picture(summary, WIDTH, 116.0 if zones else 96.0)
    for zone in zones:
        left, right = zone.from_rpm * scale, zone.to_rpm * scale
        bar.marks.append(_box(left, right, TOP, TALL, f"zone zone-{zone.state}"))
        _tag(bar, (left + right) / 2, worded(zone.name), zone.state, above=False)
    if not zones:
        bar.marks.append(_box(0.0, WIDTH, TOP, TALL, "zone zone-none"))
    bar.marks.append(_box(low * scale, max(high * scale, low * scale + 3.0), TOP - 3, TALL + 6, "band"))
    ideal = need.speed_ideal_rpm
    if ideal is not None:
        x = ideal * scale
        bar.marks.append(polyline([(x - 7, 42.0), (x + 7, 42.0), (x, 55.0)], "ideal", closed=True))
        _tag(bar, x, say("ideal {ideal}", ideal=show(ideal, "rpm", units).number), "ideal", above=True)
    if given_rpm is not None and given_rpm * scale < WIDTH:
        x = given_rpm * scale
        bar.marks.append(polyline([(x, 42.0), (x, 78.0)], "given"))
        _tag(bar, x, say("this plan {given}", given=show(given_rpm, "rpm", units).number), "given", above=True)
    for end in dict.fromkeys((low, high)):
        if end != ideal:
            _tag(bar, end * scale, show(end, "rpm", units).number, "end", above=bool(zones))
    return SpeedBar(reason, bar)


def _box(left: float, right: float, top: float, tall: float, role: str) -> Mark:
    return polyline([(left, top), (right, top), (right, top + tall), (left, top + tall)], role, closed=True)


def _tag(bar: Picture, x: float, text: str, state: str, *, above: bool) -> None:
    """Keep a word inside the bar's box, and off the words of its own row; the third row takes what is left."""
    half = len(text) * LETTER / 2
    x = min(max(x, half), WIDTH - half)
    rows = [ABOVE - ROW * row if above else BELOW + ROW * row for row in range(3)]

    def taken(y: float) -> bool:
        near = [word for word in bar.words if word.y == y]
        return any(abs(word.x - x) < half + len(word.text) * LETTER / 2 + 6 for word in near)

    y = next((row for row in rows[:2] if not taken(row)), rows[2])
    bar.words.append(Word(round(x, 1), y, text, f"tag-{state}"))
