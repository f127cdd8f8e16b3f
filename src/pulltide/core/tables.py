"""Packaged handbook tables: CSV files with a header that says what they are and how sure we are.

Header lines: ``# id``, ``# title``, ``# source``, ``# confidence``, ``# key`` and optionally ``# note``.
A blank cell is a fault; ``na`` means the source prints no value.
"""

from __future__ import annotations

import csv
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from importlib import resources
from itertools import pairwise

from pulltide.core.errors import TableError
from pulltide.core.findings import Source

REQUIRED = ("id", "title", "source", "confidence", "key")
Row = dict[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Table:
    """One table with its origin: rows are the cells as printed, by column name."""

    id: str
    title: str
    source: str
    confidence: str
    key: str
    note: str
    columns: tuple[str, ...]
    rows: tuple[Row, ...]

    @property
    def as_source(self) -> Source:
        """The table as the source of a figure."""
        return Source(self.source, self.title, self.confidence)


def _split(text: str) -> tuple[dict[str, str], list[str]]:
    lines = text.splitlines()
    head = {}
    for line in lines:
        if line.startswith("#"):
            name, _, value = line[1:].partition(":")
            head[name.strip()] = value.strip()
    return head, [line for line in lines if line and not line.startswith("#")]


@cache
def tables_of(package: str) -> tuple[Table, ...]:
    """All tables packaged with a module, by name; none where it has no data."""
    folder = resources.files(package).joinpath("data")
    names = sorted(item.name for item in folder.iterdir() if item.name.endswith(".csv")) if folder.is_dir() else []
    return tuple(load_table(package, name.removesuffix(".csv")) for name in names)


@cache
def load_table(package: str, name: str, folder: str = "data") -> Table:
    """Read a packaged table, or a list of parts out of another folder.

    Raises TableError if a header line, a cell or a column is missing.
    """
    text = resources.files(package).joinpath(folder, f"{name}.csv").read_text("utf-8")
    head, body = _split(text)
    missing = [key for key in REQUIRED if not head.get(key)]
    if missing:
        raise TableError(f"{package} {name}: header lacks {', '.join(missing)}")
    reader = csv.DictReader(body)
    rows = tuple(reader)
    columns = tuple(reader.fieldnames or ())
    for number, row in enumerate(rows, start=1):
        if None in row or any(cell is None or cell == "" for cell in row.values()):
            raise TableError(f"{package} {name}: row {number} has a blank or surplus cell")
    return Table(
        id=head["id"],
        title=head["title"],
        source=head["source"],
        confidence=head["confidence"],
        key=head["key"],
        note=head.get("note", ""),
        columns=columns,
        rows=rows,
    )


def interpolated(points: Sequence[tuple[float, float]], at: float) -> float:
    """Value between points of rising x, straight from one to the next; level beyond the first and the last.

    >>> interpolated(((0.0, 1.0), (2.0, 3.0)), 0.5), interpolated(((0.0, 1.0), (2.0, 3.0)), 9.0)
    (1.5, 3.0)
    """
    if at <= points[0][0]:
        return points[0][1]
    for (x1, y1), (x2, y2) in pairwise(points):
        if at <= x2:
            return y1 + (y2 - y1) * (at - x1) / (x2 - x1)
    return points[-1][1]


def number(row: Row, column: str) -> float:
    """The cell as a number; a printed ``na`` is a fault here."""
    try:
        return float(row[column])
    except (KeyError, ValueError) as error:
        raise TableError(f"column {column} holds no number in {row}") from error
