"""What a plan needs beside its motor and stages: the base the motor slides on; bar, bearings and keys of its shafts."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import replace

from pulltide.core.bill import bill_of
from pulltide.core.catalog import Catalog
from pulltide.core.fit.shaft import is_free
from pulltide.core.labels import as_is, phrase, quantity
from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.piece import Piece, piece_of
from pulltide.core.shafts import ShaftPart, Span
from pulltide.core.sources import drive_of
from pulltide.core.stock import is_owned, list_rows, listed
from pulltide.core.tables import Row, number

#: Grades of the list of bars by what a shaft's steel is called; a steel that is not known is the plainest bar.
GRADES = {"not_known": "mild steel 1018", "mild_steel_1018": "mild steel 1018", "steel_1045": "steel 1045"}
BASE = "slide base, one screw"
#: What the list of bearings calls what a shaft runs in; its ball bearings are of series 62.
BEARINGS = {"insert": ("Pillow block", "pillow block"), "deep_62": ("Ball bearing, series 62", "ball bearing")}
OTHERS = {
    "deep_60": "Ball bearing, series 60",
    "deep_63": "Ball bearing, series 63",
    "tapered_face": "Tapered roller bearing",
    "tapered_back": "Tapered roller bearing",
}

#: Small things of a shaft by the kind of their pieces.
SMALL = {"keys": "key", "shafting": "bar", "bearings": "bearing"}


def whole_bill(plan: Plan, catalog: Catalog) -> tuple[Piece, ...]:
    """Everything to get for a plan: motor, stages, its base, then its shafts as far as they are described."""
    pieces = bill_of(plan, catalog)
    first = [piece for piece in pieces if piece.subject == "motor"]
    return (*first, *_base(plan, catalog), *pieces[len(first) :], *_shafts(plan, catalog))


def left_out(plan: Plan, pieces: Iterable[Piece]) -> Iterator[str]:
    """What of the small things is not in a bill, as some shaft or wheel is not described as far as that."""
    known = tuple(pieces)
    free = [f"shaft-{number}" for number in range(2, len(plan.links) + 2) if is_free(plan, number)]
    for name, kind in SMALL.items():
        of_these = {piece.subject for piece in known if piece.kind == kind}
        if any(shaft not in of_these for shaft in free):
            yield name
    if any(piece.side and not piece.designation for piece in known):
        yield "bushings"


def _base(plan: Plan, catalog: Catalog) -> Iterator[Piece]:
    """A base to slide the motor on, where its frame is known and its first belt has to be tightened."""
    drive = drive_of(plan.source)
    frame = getattr(drive.details, "frame", None) if drive is not None else None
    if frame is None or not plan.links or family_of(plan.links[0].kind).slide(plan.links[0]) is None:
        return
    row = listed(catalog, "motor_bases", {"frame": frame, "kind": BASE}, {})
    yield replace(piece_of(f"Slide base for a motor in frame {as_is(frame)}", row), subject="motor")


def _shafts(plan: Plan, catalog: Catalog) -> Iterator[Piece]:
    lists = _Lists(catalog)
    for part in sorted(plan.shafts, key=lambda part: part.shaft):
        if part.shaft > len(plan.links) + 1:
            continue
        for piece in (*_bar(plan, part, lists), *_key(part, lists)):
            yield replace(piece, subject=f"shaft-{part.shaft}")


class _Lists:
    """Rows of the lists; what is on the shelf is given out as often as it is there."""

    def __init__(self, catalog: Catalog) -> None:
        self._catalog = catalog
        self._taken: Counter[str] = Counter()

    def rows(self, name: str, count: int = 1) -> Iterator[Row]:
        """The rows of a list of which so many are to be had."""
        for row in list_rows(self._catalog, name):
            if not is_owned(row) or int(row["on_hand"]) - self._taken[row["designation"]] >= count:
                yield row

    def piece(self, what: str, rows: Iterable[Row], count: int = 1) -> Piece:
        """A piece by the cheapest of some rows, or as no list has it."""
        row = min(rows, key=lambda row: number(row, "price"), default=None)
        if row is not None and is_owned(row):
            self._taken[row["designation"]] += count
        return piece_of(what, row, count)


def _bar(plan: Plan, part: ShaftPart, lists: _Lists) -> Iterator[Piece]:
    """Bar and bearings of a shaft that has some of its own."""
    span, diameter = part.span, part.diameter_mm
    if span is None or diameter is None or not is_free(plan, part.shaft):
        return
    if span.length_mm is not None:
        grade = GRADES.get(part.steel)
        rows = [row for row in lists.rows("shafting") if row["grade"] == grade and _is(row, diameter)]
        what = f"Shaft {{{diameter:g}|mm}}, {{{span.length_mm:g}|mm}} long"
        yield replace(lists.piece(what, _long_enough(rows, span.length_mm)), kind="bar")
    yield from _bearings(span, diameter, lists)


def _is(row: Row, diameter_mm: float) -> bool:
    return abs(number(row, "diameter_mm") - diameter_mm) < 0.1


def _long_enough(rows: Iterable[Row], length_mm: float) -> Iterator[Row]:
    """Rows of at least a length."""
    return (row for row in rows if row["length_mm"] != "na" and number(row, "length_mm") >= length_mm - 0.1)


def _bearings(span: Span, diameter_mm: float, lists: _Lists) -> Iterator[Piece]:
    """Bearings by the diameter that each sits on."""
    ends = {0: span.end_1_diameter_mm, len(span.bearings_mm) - 1: span.end_2_diameter_mm}
    bores = [ends.get(place) or diameter_mm for place in range(len(span.bearings_mm))]
    for bore in dict.fromkeys(bores):
        count = bores.count(bore)
        if span.bearing not in BEARINGS:
            yield Piece(what=f"{phrase(OTHERS[span.bearing])}, bore {{{bore:g}|mm}}", kind="bearing", count=count)
            continue
        what, kind = BEARINGS[span.bearing]
        rows = [
            row
            for row in lists.rows("bearings_blocks", count)
            if row["kind"].startswith(kind) and abs(number(row, "bore_mm") - bore) < 0.1
        ]
        yield replace(lists.piece(f"{phrase(what)}, bore {{{bore:g}|mm}}", rows, count), kind="bearing")


def _key(part: ShaftPart, lists: _Lists) -> Iterator[Piece]:
    """The key of a shaft, at least as long as it has to be."""
    if part.key_width_mm is None:
        return
    rows = [
        row
        for row in lists.rows("keys_stock")
        if row["form"] != "key bar" and abs(number(row, "width_mm") - part.key_width_mm) < 0.05
    ]
    long = "" if part.key_length_mm is None else phrase(f", {quantity(part.key_length_mm, 'mm')} long")
    what = f"Key {{{part.key_width_mm:g}|mm}} wide{long}"
    if part.key_length_mm is None:
        yield Piece(what=what, kind="key", missing="its length")
    else:
        yield replace(lists.piece(what, _long_enough(rows, part.key_length_mm)), kind="key")
