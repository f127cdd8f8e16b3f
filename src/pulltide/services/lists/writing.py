"""A list of the shop as a file: CSV or a workbook, with the columns that reading knows. No cell runs as a formula."""

from __future__ import annotations

import csv
from collections.abc import Iterable, Sequence
from io import BytesIO, StringIO
from typing import Any

from pulltide.core.holding import Holding
from pulltide.services.lists.columns import FIELDS
from pulltide.words import say

#: What a spreadsheet takes for the start of a formula.
FORMULA = ("=", "+", "-", "@", "\t", "\r")


def safe(text: str) -> str:
    """Text that no spreadsheet runs; reading takes the mark off again.

    >>> safe("=1+1"), safe("A46")
    ("'=1+1", 'A46')
    """
    return f"'{text}" if text.startswith(FORMULA) else text


def _cells(holding: Holding) -> list[Any]:
    raw = holding.model_dump(mode="json")
    return ["" if raw[name] is None else raw[name] for name in FIELDS]


def as_csv(holdings: Iterable[Holding]) -> bytes:
    """A list as CSV, UTF-8, decimal points."""
    return table_csv(FIELDS, map(_cells, holdings))


def as_workbook(holdings: Iterable[Holding]) -> bytes:
    """A list as a workbook; text is text, whatever it begins with."""
    return table_workbook(say("Parts"), FIELDS, map(_cells, holdings))


def table_csv(header: Sequence[str], rows: Iterable[Sequence[Any]]) -> bytes:
    """Any table as CSV, UTF-8, decimal points."""
    made = StringIO()
    writer = csv.writer(made, lineterminator="\n")
    writer.writerow(header)
    for row in rows:
        writer.writerow([safe(cell) if isinstance(cell, str) else f"{cell:.12g}" for cell in row])
    return made.getvalue().encode("utf-8")


def table_workbook(title: str, header: Sequence[str], rows: Iterable[Sequence[Any]]) -> bytes:
    """Any table as a workbook of one sheet."""
    from openpyxl import Workbook
    from openpyxl.cell import WriteOnlyCell

    book = Workbook(write_only=True)
    sheet = book.create_sheet(title)
    sheet.append(list(header))
    for row in rows:
        sheet.append([WriteOnlyCell(sheet, value=safe(cell) if isinstance(cell, str) else cell) for cell in row])
    made = BytesIO()
    book.save(made)
    return made.getvalue()
