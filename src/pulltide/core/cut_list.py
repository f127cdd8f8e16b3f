"""Which bars the shafting of a plan is cut from: as few as there can be, then the longest remnant left."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

from pulltide.core.machine import Plan

#: What a saw turns to chips, facing takes at each end, a bar loses at its end. Common practice, no source.
KERF_MM, FACING_MM, TRIM_MM = 3.0, 1.5, 10.0
#: Bars as they are sold [mm]: metric of 3 m, inch of 12 ft. Common practice, no source.
METRIC_BAR_MM, INCH_BAR_MM = 3000.0, 3657.6
#: A bar of an inch size is a multiple of this [mm].
SIXTEENTH_MM, NEAR_MM = 25.4 / 16, 0.02
#: More pieces of one size than this are packed longest first, without trying every way.
MAX_EXACT = 30
#: Branches that are tried at most.
MAX_TRIED = 200_000


@dataclass(frozen=True, slots=True, kw_only=True)
class CutPiece:
    """One piece to saw: the shaft it is for, its size, steel, and its length as sawn, facing included."""

    shaft: int
    diameter_mm: float
    steel: str
    finished_mm: float
    sawn_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """One bar and what is cut from it in order; ``left_mm`` is the remnant."""

    diameter_mm: float
    steel: str
    length_mm: float
    pieces: tuple[CutPiece, ...]
    left_mm: float


@dataclass(frozen=True, slots=True)
class CutList:
    """All bars, whether no fewer can do, and pieces that are longer than a bar."""

    bars: tuple[Bar, ...]
    is_least: bool
    too_long: tuple[CutPiece, ...]


def pieces_of(plan: Plan) -> tuple[CutPiece, ...]:
    """The shafts of a plan whose diameter and length are entered."""
    return tuple(
        CutPiece(
            shaft=part.shaft,
            diameter_mm=part.diameter_mm,
            steel=part.steel,
            finished_mm=part.span.length_mm,
            sawn_mm=part.span.length_mm + 2 * FACING_MM,
        )
        for part in sorted(plan.shafts, key=lambda part: part.shaft)
        if part.diameter_mm is not None and part.span is not None and part.span.length_mm is not None
    )


def bar_mm(diameter_mm: float) -> float:
    """Length of a new bar of a size [mm]."""
    off = diameter_mm / SIXTEENTH_MM
    whole_mm = abs(diameter_mm - round(diameter_mm))
    is_inch = abs(off - round(off)) * SIXTEENTH_MM < NEAR_MM and whole_mm > NEAR_MM
    return INCH_BAR_MM if is_inch else METRIC_BAR_MM


def cut_list(plan: Plan, kerf_mm: float = KERF_MM) -> CutList:
    """The bars for a plan's shafting; pieces of another size or steel never share one. ``kerf_mm`` is the saw's."""
    groups: dict[tuple[float, str], list[CutPiece]] = {}
    for piece in pieces_of(plan):
        groups.setdefault((piece.diameter_mm, piece.steel), []).append(piece)
    cut = [_of_one_size(pieces, kerf_mm) for pieces in groups.values()]
    return CutList(
        tuple(bar for one in cut for bar in one.bars),
        all(one.is_least for one in cut),
        tuple(piece for one in cut for piece in one.too_long),
    )


def _of_one_size(pieces: list[CutPiece], kerf_mm: float) -> CutList:
    diameter, steel, length = pieces[0].diameter_mm, pieces[0].steel, bar_mm(pieces[0].diameter_mm)
    fitting = [piece for piece in pieces if piece.sawn_mm <= length - TRIM_MM]
    packed, is_least = packed_bars([piece.sawn_mm for piece in fitting], length, kerf_mm)
    bars = []
    for numbers in packed:
        cut = tuple(fitting[number] for number in numbers)
        left = length - TRIM_MM - sum(piece.sawn_mm + kerf_mm for piece in cut)
        bars.append(Bar(diameter_mm=diameter, steel=steel, length_mm=length, pieces=cut, left_mm=max(left, 0.0)))
    return CutList(tuple(bars), is_least, tuple(piece for piece in pieces if piece not in fitting))


def packed_bars(
    lengths_mm: list[float], bar_length_mm: float, kerf_mm: float = KERF_MM, trim_mm: float = TRIM_MM
) -> tuple[list[list[int]], bool]:
    """Numbers of the pieces on each bar, and whether no fewer bars can do.

    Pieces fit a bar if Σ(l + k) ≤ L - trim + k: no cut after the last that ends the bar. Longest first, then branch and
    bound from there. Every piece has to fit a bar by itself.
    """
    room = bar_length_mm - trim_mm + kerf_mm
    takes = [length + kerf_mm for length in lengths_mm]
    order = sorted(range(len(takes)), key=lambda number: -takes[number])
    best = _longest_first(order, takes, room)
    least = ceil(sum(takes) / room - 1e-9) if takes else 0
    if len(best) == least or len(takes) > MAX_EXACT:
        return best, len(best) == least
    search = _Search(order, takes, room, best)
    search.place(0, [], [])
    return search.best, len(search.best) == least or not search.stopped


def _longest_first(order: list[int], takes: list[float], room: float) -> list[list[int]]:
    bars: list[list[int]] = []
    left: list[float] = []
    for number in order:
        at = next((k for k, free in enumerate(left) if takes[number] <= free + 1e-9), len(bars))
        if at == len(bars):
            bars.append([])
            left.append(room)
        bars[at].append(number)
        left[at] -= takes[number]
    return bars


class _Search:
    """Branch and bound over the bar that each piece goes on, the longest piece first."""

    def __init__(self, order: list[int], takes: list[float], room: float, best: list[list[int]]) -> None:
        self.order, self.takes, self.room, self.best = order, takes, room, best
        self.tried, self.stopped = 0, False

    def place(self, depth: int, bars: list[list[int]], left: list[float]) -> None:
        """Try every bar for the next piece; equal rooms and further new bars are the same."""
        self.tried += 1
        if self.tried > MAX_TRIED:
            self.stopped = True
            return
        if depth == len(self.order):
            self.best = [list(bar) for bar in bars]
            return
        rest = sum(self.takes[number] for number in self.order[depth:])
        if len(bars) + ceil((rest - sum(left)) / self.room - 1e-9) >= len(self.best):
            return
        number = self.order[depth]
        # of bars with equal room only the first is tried
        rooms = {round(free, 6): at for at, free in reversed(list(enumerate(left)))}
        for at in sorted(at for room, at in rooms.items() if self.takes[number] <= room + 1e-9):
            bars[at].append(number)
            left[at] -= self.takes[number]
            self.place(depth + 1, bars, left)
            bars[at].pop()
            left[at] += self.takes[number]
        if len(bars) + 1 < len(self.best):
            self.place(depth + 1, [*bars, [number]], [*left, self.room - self.takes[number]])
