"""Hatching of cut metal: slanted lines inside an outline."""

from __future__ import annotations

from math import floor, sqrt

Point = tuple[float, float]


def hatch(outline: tuple[Point, ...], apart: float) -> tuple[tuple[Point, Point], ...]:
    """Lines at 45° inside a closed outline, so far from each other; an outline may have any number of corners.

    >>> hatch(((0.0, 0.0), (2.0, 0.0), (2.0, 2.0), (0.0, 2.0)), 5.0)
    (((0.0, 0.0), (2.0, 2.0)),)
    """
    # along a line x - y stays what it is, along = x + y grows
    step = apart * sqrt(2)
    offsets = [x - y for x, y in outline]
    first, last = floor(min(offsets) / step), floor(max(offsets) / step)
    lines = []
    for number in range(first, last + 1):
        at = number * step
        crossed = sorted(_crossings(outline, at))
        for low, high in zip(crossed[::2], crossed[1::2], strict=False):
            if high - low > 1e-9:
                lines.append((((low + at) / 2, (low - at) / 2), ((high + at) / 2, (high - at) / 2)))
    return tuple(lines)


def _crossings(outline: tuple[Point, ...], at: float) -> list[float]:
    """Where a slanted line crosses the edges, as x + y."""
    found = []
    for (x1, y1), (x2, y2) in zip(outline, (*outline[1:], outline[0]), strict=True):
        a, b = x1 - y1 - at, x2 - y2 - at
        # an end counts on one side alone, so that a corner is crossed once
        if (a > 0) != (b > 0):
            share = a / (a - b)
            found.append(x1 + y1 + share * (x2 + y2 - x1 - y1))
    return found
