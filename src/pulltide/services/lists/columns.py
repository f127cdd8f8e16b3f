"""Which column of a list is what, by its header or as the person says, and in which unit bare numbers stand."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from pulltide.core.holding import Holding
from pulltide.services.lists.sheet import RefusedFile, Sheet
from pulltide.words import say

#: Fields by the names that people give their columns: letters only, small.
NAMES: dict[str, str] = {
    "family": "family",
    "kind": "family",
    "kind of part": "family",
    "part": "family",
    "type": "family",
    "designation": "designation",
    "name": "designation",
    "part number": "designation",
    "part no": "designation",
    "item": "designation",
    "section": "section",
    "profile": "section",
    "chain": "section",
    "section profile or chain": "section",
    "outside": "outside_mm",
    "outside diameter": "outside_mm",
    "od": "outside_mm",
    "pitch": "pitch_mm",
    "pitch diameter": "pitch_mm",
    "pd": "pitch_mm",
    "teeth": "teeth",
    "grooves": "grooves",
    "width": "width_mm",
    "face": "width_mm",
    "belt width": "width_mm",
    "length": "length_mm",
    "pitch length": "length_mm",
    "bore": "bore_mm",
    "bore or shaft": "bore_mm",
    "shaft": "bore_mm",
    "ratio": "ratio",
    "power": "power_kw",
    "speed": "speed_rpm",
    "rating": "rating",
    "rating unit": "rating_unit",
    "unit of the rating": "rating_unit",
    "on hand": "on_hand",
    "quantity": "on_hand",
    "qty": "on_hand",
    "count": "on_hand",
    "condition": "condition",
    "price": "price",
    "cost": "price",
    "place": "place",
    "where it lies": "place",
    "location": "place",
    "bin": "place",
    "note": "note",
    "notes": "note",
    "remark": "note",
}
#: Unit of a field in the core, for those that have one.
CORE_UNIT = {
    "outside_mm": "mm",
    "pitch_mm": "mm",
    "width_mm": "mm",
    "length_mm": "mm",
    "bore_mm": "mm",
    "power_kw": "kW",
    "speed_rpm": "rpm",
}
#: Units that a header may name, by the core unit they stand for.
HEADER_UNITS = {"mm": ("mm", "cm", "m", "in", "inch", "ft"), "kW": ("kW", "W", "hp", "PS"), "rpm": ("rpm",)}
BRACKETED = re.compile(r"[\[(]([^\])]*)[\])]\s*$")
#: A part list of this program names its kind in its first comment: the family that its rows are of.
OF_LIST = {
    "stock_v_pulleys": "v_pulley",
    "stock_v_belts": "v_belt",
    "stock_toothed_pulleys": "toothed_pulley",
    "stock_toothed_belts": "toothed_belt",
    "stock_sprockets": "sprocket",
    "stock_chain": "chain",
    "stock_spur_gears": "spur_gear",
    "stock_couplings": "coupling",
    "stock_bushings": "bushing",
    "stock_bearings": "bearing_block",
    "stock_keys": "key",
    "stock_shafting": "bar",
    "stock_motor_bases": "motor_base",
}
FIELDS = tuple(Holding.model_fields)


@dataclass(frozen=True, slots=True)
class Column:
    """One column that is read: its place, header, field, and the unit of its bare numbers."""

    at: int
    header: str
    field: str
    unit: str


@dataclass(frozen=True, slots=True)
class Columns:
    """Columns that are read and headers of those that are not; ``family`` is that of every row, where there is no
    column for it.
    """

    used: tuple[Column, ...]
    unused: tuple[str, ...]
    family: str = ""


def plain(header: str) -> str:
    """A header as it is looked up.

    >>> plain("Outside_Diameter (in)"), plain("bore [mm]"), plain("outside_mm")
    ('outside diameter', 'bore', 'outside')
    """
    text = BRACKETED.sub("", header).lower()
    text = re.sub(r"[^a-z0-9]+", " ", text).strip()
    return re.sub(r" (mm|kw|rpm)$", "", text)


def unit_of(header: str, field: str) -> str:
    """The unit that a header names for its bare numbers; the core's own where it names none.

    >>> unit_of("Bore (in)", "bore_mm"), unit_of("bore_mm", "bore_mm"), unit_of("Price (each)", "price")
    ('in', 'mm', '')
    """
    core = CORE_UNIT.get(field, "")
    found = BRACKETED.search(header)
    named = found[1].strip() if found else ""
    known = {unit.lower(): unit for unit in HEADER_UNITS.get(core, ())}
    return known.get(named.lower(), core)


def match_columns(sheet: Sheet, said: Mapping[str, str], family: str = "") -> Columns:
    """Match headers to fields; what the person said of a header counts before its name, an empty saying skips it.

    Raises RefusedFile where no column is known, or two are of one field.
    """
    used, unused = [], []
    of_list = _family_of(sheet)
    names = _names_in(sheet, of_list)
    for at, header in enumerate(sheet.header):
        name = header.strip()
        field = said.get(name, names.get(plain(header), ""))
        if field in FIELDS:
            used.append(Column(at, name, field, unit_of(header, field)))
        elif name:
            unused.append(name)
    if not used:
        raise RefusedFile(
            "no_header", say("line 1"), say("the first line names no known column, such as name, section or bore")
        )
    _each_once(used)
    return Columns(tuple(used), tuple(unused), family or of_list)


def _names_in(sheet: Sheet, of_list: str) -> dict[str, str]:
    """What headers are read as: with the belt's width told, a face is another width; in a part list of this program a
    kind is one of couplings, say, not of parts.
    """
    passed_over = {"face"} if "belt width" in map(plain, sheet.header) else set[str]()
    if of_list:
        passed_over |= {name for name, field in NAMES.items() if field == "family"}
    return {name: field for name, field in NAMES.items() if name not in passed_over}


def _each_once(used: list[Column]) -> None:
    fields = [column.field for column in used]
    doubled = next((field for field in fields if fields.count(field) > 1), None)
    if doubled is not None:
        places = say(" and ").join(str(column.at + 1) for column in used if column.field == doubled)
        raise RefusedFile(
            "duplicate_header",
            say("columns {places}", places=places),
            say("both are read as {doubled}; leave one of them out", doubled=doubled),
        )


def _family_of(sheet: Sheet) -> str:
    ids = [line.partition(":")[2].strip() for line in sheet.comments if re.match(r"#\s*id\s*:", line)]
    return OF_LIST.get(ids[0], "") if ids else ""
