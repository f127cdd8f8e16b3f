"""A parts list as CSV or a workbook; no cell runs as a formula."""

from __future__ import annotations

from collections.abc import Iterable

from pulltide.presentation.build_sheet import PartLine
from pulltide.services.lists.writing import table_csv, table_workbook
from pulltide.words import say

CSV = "text/csv; charset=utf-8"
WORKBOOK = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
HEADER = ("count", "what", "listed as", "where", "from", "price", "lead")


def _row(part: PartLine) -> list[object]:
    price = float(part.price) if part.price else ""
    return [part.count, part.what, part.designation, part.where, part.state, price, part.lead]


def parts_csv(parts: Iterable[PartLine]) -> bytes:
    """CSV, UTF-8, decimal points."""
    return table_csv([say(name) for name in HEADER], map(_row, parts))


def parts_workbook(parts: Iterable[PartLine]) -> bytes:
    """A workbook with one sheet."""
    return table_workbook(say("Parts"), [say(name) for name in HEADER], map(_row, parts))
