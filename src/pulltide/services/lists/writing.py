"""A list of the shop as a file: CSV or a workbook, with the columns that reading knows. No cell runs as a formula."""

from __future__ import annotations

import csv
from collections.abc import Iterable
from io import BytesIO, StringIO
from typing import Any

from pulltide.core.holding import Holding
from pulltide.services.lists.columns import FIELDS

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
    made = StringIO()
    writer = csv.writer(made, lineterminator="\n")
    writer.writerow(FIELDS)
    for holding in holdings:
        writer.writerow([safe(cell) if isinstance(cell, str) else f"{cell:.12g}" for cell in _cells(holding)])
    return made.getvalue().encode("utf-8")


def as_workbook(holdings: Iterable[Holding]) -> bytes:
    """A list as a workbook; text is text, whatever it begins with."""
    from openpyxl import Workbook
    from openpyxl.cell import WriteOnlyCell

    book = Workbook(write_only=True)
    sheet = book.create_sheet("Parts")
    sheet.append(list(FIELDS))
    for holding in holdings:
        row = []
        for value in _cells(holding):
            cell = WriteOnlyCell(sheet, value=safe(value) if isinstance(value, str) else value)
            row.append(cell)
        sheet.append(row)
    made = BytesIO()
    book.save(made)
    return made.getvalue()
