"""A list as a file has it: a header and rows of cells with the lines they stand on, out of CSV or a workbook.

A file that cannot be trusted as a whole is refused with the reason and the place; nothing of it is read.
"""

from __future__ import annotations

import csv
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from io import BytesIO, StringIO
from itertools import takewhile
from typing import Any
from zipfile import BadZipFile, ZipFile

from pulltide.core.errors import PulltideError
from pulltide.words import say

#: What a file may be: packed and unpacked size [bytes], rows, columns.
MAX_BYTES, MAX_UNPACKED, MAX_ROWS, MAX_COLUMNS = 8_000_000, 80_000_000, 60_000, 60
WORKBOOK = b"PK\x03\x04"
OLD_WORKBOOK = b"\xd0\xcf\x11\xe0"
#: What stands for the separator of a workbook.
WORKBOOK_ROWS = "workbook"
SEPARATORS = (",", ";", "\t")
BOMS = (b"\xff\xfe", b"\xfe\xff")


class RefusedFile(PulltideError):
    """A file of which nothing is read: why, and where."""

    def __init__(self, code: str, where: str, why: str) -> None:
        self.code, self.where = code, where
        super().__init__(f"{where}: {why}" if where else why)


@dataclass(frozen=True, slots=True)
class Sheet:
    """Header, and rows with their line numbers. ``comments`` are the lines before the header that begin with #."""

    header: tuple[str, ...]
    rows: tuple[tuple[int, tuple[str, ...]], ...]
    separator: str
    comments: tuple[str, ...] = ()


def read_sheet(given: bytes, name: str = "") -> Sheet:
    """The sheet of a file. Raises RefusedFile."""
    if len(given) > MAX_BYTES:
        raise RefusedFile(
            "too_large", "", say("{given:,} bytes; up to {max_bytes:,} are read", given=len(given), max_bytes=MAX_BYTES)
        )
    if given.startswith(OLD_WORKBOOK):
        raise RefusedFile(
            "is_workbook", say("byte 1"), say("a workbook of the old kind; save it as XLSX or as CSV UTF-8")
        )
    if given.startswith(WORKBOOK):
        if not name.lower().endswith(".xlsx"):
            raise RefusedFile(
                "is_workbook", say("byte 1"), say("a workbook under another name; save it as CSV, or name it .xlsx")
            )
        return _checked(_workbook(given))
    return _checked(_text(given))


def _checked(sheet: Sheet) -> Sheet:
    _headed_once(sheet.header)
    if len(sheet.header) > MAX_COLUMNS:
        raise RefusedFile(
            "too_many",
            say("line 1"),
            say("{header} columns; up to {max_columns} are read", header=len(sheet.header), max_columns=MAX_COLUMNS),
        )
    if not sheet.rows:
        raise RefusedFile("no_rows", say("line 1"), say("a header and no row below it"))
    if len(sheet.rows) > MAX_ROWS:
        raise RefusedFile(
            "too_many",
            "",
            say("{rows:,} rows; up to {max_rows:,} are read at once", rows=len(sheet.rows), max_rows=MAX_ROWS),
        )
    return sheet


def _headed_once(header: tuple[str, ...]) -> None:
    doubled = next((name for name in header if name and header.count(name) > 1), None)
    if doubled is not None:
        places = [str(at + 1) for at, name in enumerate(header) if name == doubled]
        raise RefusedFile(
            "duplicate_header",
            say("columns {places}", places=" and ".join(places)),
            say("{doubled} stands there twice", doubled=doubled),
        )


# -- text -----------------------------------------------------------------------------------------------------------


def _text(given: bytes) -> Sheet:
    lines = list(StringIO(_decoded(given), newline=""))
    if not any(line.strip() for line in lines):
        raise RefusedFile("empty", "", say("there is no line in it"))
    comments = list(takewhile(lambda line: line.startswith("#"), lines))
    body = lines[len(comments) :]
    if not body:
        raise RefusedFile("no_rows", say("line 1"), say("comments and no row below them"))
    separator = max(SEPARATORS, key=body[0].count)
    (_, header), *rest = _parsed(body, separator, len(comments))
    kept = tuple((line, cells) for line, cells in rest if _used(cells))
    return Sheet(header, kept, separator, tuple(line.strip() for line in comments))


def _decoded(given: bytes) -> str:
    if given.startswith(BOMS):
        raise RefusedFile("not_utf8", say("byte 1"), say("UTF-16; save it as CSV UTF-8"))
    if b"\x00" in given:
        line = given[: given.index(b"\x00")].count(b"\n") + 1
        raise RefusedFile(
            "nul_byte", say("line {line}", line=line), say("holds a zero byte; save the list as CSV again")
        )
    try:
        return given.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = given[: error.start].count(b"\n") + 1
        raise RefusedFile("not_utf8", say("line {line}", line=line), say("not UTF-8; save it as CSV UTF-8")) from error


def _parsed(lines: Sequence[str], separator: str, before: int) -> Iterator[tuple[int, tuple[str, ...]]]:
    """Rows with the line on which each begins."""
    reader = csv.reader(lines, delimiter=separator, strict=True)
    begins = 1
    try:
        for cells in reader:
            if cells or reader.line_num == 1:
                yield begins + before, tuple(cells)
            begins = reader.line_num + 1
    except csv.Error as error:
        # a quotation mark that is never closed swallows the rest of the file
        raise RefusedFile(
            "open_quote",
            say("line {before}", before=begins + before),
            say("a quotation mark opens here and is never closed"),
        ) from error


# -- workbook -------------------------------------------------------------------------------------------------------


def _workbook(given: bytes) -> Sheet:
    """The first sheet of a workbook. Its size is looked at before anything is unpacked."""
    from openpyxl import load_workbook

    try:
        with ZipFile(BytesIO(given)) as packed:
            unpacked = sum(item.file_size for item in packed.infolist())
        if unpacked > MAX_UNPACKED:
            raise RefusedFile(
                "too_large",
                "",
                say(
                    "unpacks to {unpacked:,} bytes; up to {max_unpacked:,} are read",
                    unpacked=unpacked,
                    max_unpacked=MAX_UNPACKED,
                ),
            )
        book = load_workbook(BytesIO(given), read_only=True, data_only=False, keep_links=False)
        found = book.worksheets[0].iter_rows(max_col=MAX_COLUMNS + 1, max_row=MAX_ROWS + 2, values_only=True)
        return _of_cells([(line, tuple(map(_cell, cells))) for line, cells in enumerate(found, start=1)])
    except BROKEN as error:
        raise RefusedFile(
            "is_broken", "", say("the workbook cannot be read; save it again, or as CSV UTF-8")
        ) from error


#: What the reader of workbooks meets in one that is damaged.
BROKEN = (BadZipFile, KeyError, ValueError, IndexError, OSError, TypeError, AttributeError, SyntaxError)


def _of_cells(rows: list[tuple[int, tuple[str, ...]]]) -> Sheet:
    """Rows of a workbook, as wide as their header or as what stands in them."""
    filled = [(line, cells) for line, cells in rows if _used(cells)]
    if not filled:
        raise RefusedFile("empty", "", say("there is nothing on the first sheet"))
    (_, header), *rest = filled
    wide = _used(header)
    return Sheet(
        header[:wide],
        tuple((line, _padded(cells[: max(wide, _used(cells))], wide)) for line, cells in rest),
        WORKBOOK_ROWS,
    )


def _used(cells: Sequence[str]) -> int:
    return max((at + 1 for at, cell in enumerate(cells) if cell.strip()), default=0)


def _padded(cells: tuple[str, ...], wide: int) -> tuple[str, ...]:
    return cells + ("",) * (wide - len(cells))


def _cell(value: Any) -> str:
    """A cell as text; a whole number without its point."""
    if value is None:
        return ""
    if isinstance(value, float):
        return f"{value:.12g}"
    text = value.isoformat() if hasattr(value, "isoformat") else str(value)
    return re.sub(r"[\r\n]+", " ", text)
