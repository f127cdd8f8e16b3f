"""What more money buys: every drive found, by price and by what is left in hand, motor and shaft loads
included."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import ceil, floor

from pulltide.core.search.engine import Train
from pulltide.core.search.ways import Way
from pulltide.words import say

WIDTH, HEIGHT = 286.0, 190.0
LEFT, RIGHT, TOP, FOOT = 34.0, 12.0, 12.0, 28.0
WIDE, HIGH = WIDTH - LEFT - RIGHT, HEIGHT - TOP - FOOT
#: Steps of the price scale.
NICE = (5, 10, 20, 25, 50, 100, 200, 250, 500, 1000, 2000, 5000)
#: Where the scale of what is in hand may end.
ENDS = (0.1, 0.2, 0.4, 0.6, 1.0)
#: Drives that all cost more than this share of the dearest are told apart on a scale of their own.
NEARLY = 0.5
#: Letters on the chart; of more drives they would hide each other.
LETTERED = 8


@dataclass(frozen=True, slots=True)
class Dot:
    """One drive: its place, letter of its row, words, and where it leads; with ``is_best`` the letter is drawn."""

    at: tuple[float, float]
    letter: str
    title: str
    href: str
    is_best: bool


@dataclass(frozen=True, slots=True)
class Tick:
    """A mark of a scale."""

    at: float
    text: str


@dataclass(frozen=True, slots=True)
class Chart:
    """Dots, the line that nothing cheaper is stronger than, and the scales."""

    dots: tuple[Dot, ...]
    front: str
    prices: tuple[Tick, ...]
    shares: tuple[Tick, ...]


def chart_of(ways: tuple[Way, ...], letters: str) -> Chart | None:
    """The chart of what was found; nothing where fewer than two drives can be compared."""
    drives = [
        (replace(train, price=way.price, use=way.use) if train is way.train else train, letter, train is way.train)
        for letter, way in zip(letters, ways, strict=False)
        # what change pulleys cost is known of the one that is shown
        for train in (*(way.alike if way.price == way.train.price else ()), way.train)
    ]
    if len(drives) < 2:
        return None
    spent = [train.price for train, *_ in drives]
    # the scale begins at nothing, unless all cost nearly the same
    least = min(spent) if min(spent) > NEARLY * max(spent) else 0.0
    step = _step(max(spent) - least)
    first = floor(least / step)
    steps = max(ceil(max(spent) / step) - first, 1)
    end = next(end for end in ENDS if end >= max(_in_hand(train) for train, *_ in drives))
    scale = (first * step, (first + steps) * step)
    places = [_place(train, scale, end) for train, *_ in drives]
    dots = tuple(
        Dot(at, letter, _title(train, letter), f"#way-{letter}", is_best and len(ways) <= LETTERED)
        for at, (train, letter, is_best) in zip(places, drives, strict=True)
    )
    prices = tuple(Tick(round(LEFT + k / steps * WIDE, 1), f"{(first + k) * step}") for k in range(steps + 1))
    shares = tuple(Tick(round(HEIGHT - FOOT - part * HIGH, 1), f"{100 * part * end:.0f}") for part in (0.0, 0.5, 1.0))
    return Chart(dots, _front(places), prices, shares)


def _in_hand(train: Train) -> float:
    """The share that its tightest part has left."""
    return min(max(1 - train.use, 0.0), 1.0)


def _place(train: Train, prices: tuple[float, float], end: float) -> tuple[float, float]:
    """By price between two ends and by what is in hand, up to one."""
    along = (train.price - prices[0]) / (prices[1] - prices[0])
    return round(LEFT + along * WIDE, 1), round(HEIGHT - FOOT - _in_hand(train) / end * HIGH, 1)


def _step(most: float) -> int:
    """A step of the scale that gives at most five marks.

    >>> _step(38.0), _step(420.0)
    (10, 100)
    """
    return next((step for step in NICE if most / step <= 5), 10_000)


def _title(train: Train, letter: str) -> str:
    return say(
        "{letter}: {price:.0f} to buy, {use:.0f} % in hand, {speed:.4g} rpm",
        letter=letter,
        price=train.price,
        use=100 * (1 - train.use),
        speed=train.speed_rpm,
    )


def _front(places: list[tuple[float, float]]) -> str:
    """Along those of which nothing cheaper has more in hand."""
    best, path = HEIGHT, []
    for x, y in sorted(places):
        if y < best:
            path += [f"{x:.1f} {min(best, HEIGHT - FOOT):.1f}", f"{x:.1f} {y:.1f}"]
            best = y
    return "M" + "L".join(path)
