"""A list looked at before anything of it is kept: what each row is, and why some rows are not."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from pulltide.core.holding import Holding
from pulltide.quantities import DEFAULT_UNITS, show
from pulltide.services.fields import described
from pulltide.services.lists.cells import MEASURES, NUMBERS, WHOLE, BadCell, decimal_of, read_cell
from pulltide.services.lists.columns import Columns, match_columns
from pulltide.services.lists.sheet import RefusedFile, Sheet, read_sheet
from pulltide.words import filled, say

#: Families that cannot be told apart without a section column.
SECTIONED = frozenset({"v_pulley", "v_belt"})
#: How often a long look says how far it is [rows].
STEP = 2000


@dataclass(frozen=True, slots=True)
class RowFault:
    """Why a row is not taken: its line, the column, a code for the kind of fault, and the reason in words."""

    line: int
    column: str
    code: str
    why: str


@dataclass(frozen=True, slots=True)
class Look:
    """What a list holds. ``twice`` are lines whose part stands there already, by that first line."""

    holdings: tuple[tuple[int, Holding], ...]
    faults: tuple[RowFault, ...]
    columns: Columns
    twice: Mapping[int, int]
    decimal: str

    @property
    def refused(self) -> tuple[int, ...]:
        """Lines that are not taken."""
        return tuple(dict.fromkeys(fault.line for fault in self.faults))


def no_progress(done: int, total: int) -> None:
    """Nobody waits for how far it is."""


def look(
    given: bytes,
    name: str = "",
    *,
    said: Mapping[str, str] | None = None,
    family: str = "",
    tell: Callable[[int, int], None] = no_progress,
) -> Look:
    """Read a list without keeping anything. Raises RefusedFile for a file that cannot be read as a whole."""
    sheet = read_sheet(given, name)
    columns = match_columns(sheet, said or {}, family)
    numeric = [column.at for column in columns.used if column.field in MEASURES | NUMBERS | WHOLE]
    decimal = decimal_of((cells[at] for _, cells in sheet.rows for at in numeric if at < len(cells)), sheet.separator)
    holdings: list[tuple[int, Holding]] = []
    faults: list[RowFault] = []
    for done, (line, cells) in enumerate(sheet.rows):
        if done % STEP == 0:
            tell(done, len(sheet.rows))
        found = list(_row(line, cells, sheet, columns, decimal))
        holdings += [(line, item) for item in found if isinstance(item, Holding)]
        faults += [item for item in found if isinstance(item, RowFault)]
    _has_sections(columns, (holding.family for _, holding in holdings), faults)
    return Look(tuple(holdings), tuple(faults), columns, _twice(holdings), decimal)


def _has_sections(columns: Columns, families: Iterable[str], faults: list[RowFault]) -> None:
    if any(column.field == "section" for column in columns.used):
        return
    if SECTIONED & set(families) or any("section is empty" in fault.why for fault in faults):
        raise RefusedFile("missing_column", "section", say("V-pulleys and belts need a section column"))


def _twice(holdings: list[tuple[int, Holding]]) -> dict[int, int]:
    first: dict[tuple[str, str, str], int] = {}
    found = {}
    for line, holding in holdings:
        key = identity(holding)
        if key in first:
            found[line] = first[key]
        else:
            first[key] = line
    return found


def identity(holding: Holding) -> tuple[str, str, str]:
    """What makes two rows the same item: kind, name and condition."""
    return holding.family, holding.designation, holding.condition


def _row(line: int, cells: tuple[str, ...], sheet: Sheet, columns: Columns, decimal: str) -> list[Holding | RowFault]:
    """A holding, or every fault of the row."""
    if len(cells) != len(sheet.header):
        why = say("{cells} cells where the header has {header}", cells=len(cells), header=len(sheet.header))
        return [RowFault(line, "", "cell_count", why)]
    raw: dict[str, Any] = {"family": columns.family} if columns.family else {}
    faults: list[Holding | RowFault] = []
    for column in columns.used:
        try:
            raw |= read_cell(column, cells[column.at], decimal)
        except BadCell as error:
            faults.append(RowFault(line, column.header, error.code, str(error)))
    if faults:
        return faults
    try:
        return [Holding.model_validate(raw)]
    except ValidationError as error:
        return [_fault(line, item, columns, cells) for item in error.errors()]


#: What a person calls the kinds of fault that a holding itself finds.
CODES = {"missing": "missing_value", "string_too_long": "too_long", "literal_error": "unknown_name"}


def _fault(line: int, item: Any, columns: Columns, cells: tuple[str, ...]) -> RowFault:
    """A fault that only the whole part shows, with the text of its cell."""
    field = str(item["loc"][0]) if item["loc"] else ""
    column = next((column for column in columns.used if column.field == field), None)
    header = field if column is None else column.header
    inner = item.get("ctx", {}).get("error")
    if inner is not None:
        why = filled(str(inner), DEFAULT_UNITS)
        code = "missing_value" if "is empty" in why else "unknown_name" if "is not known" in why else "impossible"
        return RowFault(line, "section" if "section" in why else "", code, why)
    kind = str(item["type"])
    code = CODES.get(kind, "out_of_range" if kind.startswith(("greater", "less")) else "not_usable")
    shown = "" if column is None else f"“{cells[column.at].strip()}” "
    return RowFault(line, header, code, f"{shown}{_reason(kind, item, field)}")


def _reason(kind: str, item: Any, field: str) -> str:
    limits = {
        "greater_than": "over",
        "greater_than_equal": say("at least"),
        "less_than": "under",
        "less_than_equal": say("at most"),
    }
    if kind in limits:
        (limit,) = (value for name, value in item["ctx"].items() if name in ("gt", "ge", "lt", "le"))
        unit = described(Holding.model_fields[field], field, Holding).unit
        return say(
            "is out of range; accepted: {limits} {limit}", limits=limits[kind], limit=show(limit, unit, DEFAULT_UNITS)
        )
    return say("is missing") if kind == "missing" else say("cannot be used")
