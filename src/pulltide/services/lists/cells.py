"""What a cell of a list says: numbers with or without units, names, and what looks like a slip of a spreadsheet."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from math import isfinite
from typing import Any, get_args

from pulltide.core.errors import PulltideError
from pulltide.core.holding import Condition, PartFamily
from pulltide.quantities.reading import NotUnderstood, read_quantity
from pulltide.services.lists.columns import Column
from pulltide.words import say

#: Longest cell of each field; of others 60.
MAX_LETTERS = {"note": 400}
LONGEST = 60
#: What people write where there is no value.
NOTHING = frozenset({"", "na", "n/a", "-", "–", "none"})
UNKNOWN = frozenset({"unknown", "?", "not known"})
PLAIN = re.compile(r"[+-]?\d+(?:\.\d+)?")
#: A decimal comma for certain, a decimal point, a comma that may part thousands.
SURE_COMMA = re.compile(r"[+-]?\d+,(?:\d{1,2}|\d{4,})")
SURE_POINT = re.compile(r"[+-]?\d+\.\d+")
HAS_COMMA, HAS_BOTH = re.compile(r"\d,\d"), re.compile(r"\d[.,]\d.*[.,]\d")
DATE = re.compile(r"\d{1,2}[-. ][A-Za-z]{3}(?:[-. ]\d+)?|\d{4}-\d{2}-\d{2}.*|\d{1,2}[./]\d{1,2}[./]\d{2,4}")
WHOLE = frozenset({"teeth", "grooves", "on_hand"})
NUMBERS = frozenset({"ratio", "rating", "price"})
MEASURES = frozenset({"outside_mm", "pitch_mm", "width_mm", "length_mm", "bore_mm", "power_kw", "speed_rpm"})
RATINGS = ("kW", "N*m")
FAMILIES = {name.replace("_", " "): name for name in get_args(PartFamily)}
CONDITIONS = {name.replace("_", " "): name for name in get_args(Condition)}


class BadCell(PulltideError):
    """A cell that is not understood: a code for the kind of fault, and why in words."""

    def __init__(self, code: str, why: str) -> None:
        self.code = code
        super().__init__(why)


def decimal_of(cells: Iterable[str], separator: str) -> str:
    """Whether a file's numbers have a decimal comma or a point, by the cells that leave no doubt.

    >>> decimal_of(["88,9", "100"], ";"), decimal_of(["88.9", "1,250"], ",")
    (',', '.')
    """
    commas = points = 0
    for cell in cells:
        text = cell.strip()
        commas += bool(SURE_COMMA.fullmatch(text))
        points += bool(SURE_POINT.fullmatch(text))
    return "," if commas and (separator == ";" or not points) else "."


def read_cell(column: Column, text: str, decimal: str) -> dict[str, Any]:
    """The fields that a cell fills, none where it is empty. Raises BadCell."""
    text = text.strip()
    if len(text) > MAX_LETTERS.get(column.field, LONGEST):
        most = MAX_LETTERS.get(column.field, LONGEST)
        raise BadCell("too_long", say("{text:,} letters; up to {most} are kept", text=len(text), most=most))
    if text[:1] in ("=", "@") or (text[:1] in ("+", "-") and not _is_number(text[1:])):
        raise BadCell("formula", say("begins like a formula of a spreadsheet; paste values instead"))
    text = text.removeprefix("'")
    if text.lower() in NOTHING:
        return {}
    return _filled(column, text, decimal)


def _is_number(text: str) -> bool:
    return re.fullmatch(r"[\d.,]+(?:[eE]\d+)?|", text.strip()) is not None


def _filled(column: Column, text: str, decimal: str) -> dict[str, Any]:
    field = column.field
    if field == "family":
        return {field: _named(text, FAMILIES, say("kind of part"))}
    if field == "condition":
        return {field: _named(text, CONDITIONS, "condition")}
    if field == "rating":
        return _rating(text, decimal)
    if field in MEASURES:
        return {field: _measure(text, field, column.unit, decimal)}
    if field in WHOLE:
        return {field: _whole(text, decimal, least=0 if field == "on_hand" else 1)}
    if field in NUMBERS:
        return {field: _number(text.removesuffix(":1").strip() if field == "ratio" else text, decimal)}
    return {field: text}


def _named(text: str, known: dict[str, str], what: str) -> str:
    found = known.get(re.sub(r"[\s_-]+", " ", text.lower()).strip())
    if found is None:
        raise BadCell(
            "unknown_name",
            say("“{text}” is no {what} known here; accepted: {known}", text=text, what=what, known=", ".join(known)),
        )
    return found


def _rating(text: str, decimal: str) -> dict[str, Any]:
    """A rating, with its unit where the cell names one; nothing where nobody knows it."""
    if text.lower() in UNKNOWN:
        return {}
    if re.search(r"[A-Za-z]", text):
        for unit in RATINGS:
            try:
                return {"rating": read_quantity(_pointed(text, decimal), unit), "rating_unit": unit}
            except NotUnderstood:
                continue
    return {"rating": _number(text, decimal)}


def _pointed(text: str, decimal: str) -> str:
    """A number's text with a decimal point. Raises BadCell for commas and points that leave doubt."""
    if HAS_BOTH.search(text) or (decimal == "," and SURE_POINT.search(text)):
        raise BadCell(
            "mixed_decimals", say("“{text}”: commas and points are both used for decimals in this list", text=text)
        )
    if HAS_COMMA.search(text) and decimal == ".":
        if SURE_COMMA.search(text) and not re.search(r",\d{3}(?!\d)", text):
            raise BadCell(
                "mixed_decimals", say("“{text}”: commas and points are both used for decimals in this list", text=text)
            )
        raise BadCell(
            "ambiguous_number", say("“{text}” may be a decimal or thousands; write it without the comma", text=text)
        )
    return text.replace(",", ".") if decimal == "," else text


def _number(text: str, decimal: str) -> float:
    text = _undated(text)
    pointed = _pointed(text, decimal)
    if not PLAIN.fullmatch(pointed):
        raise BadCell("not_a_number", say("“{text}” is not a usable number", text=text))
    return _finite(float(pointed), text)


def _finite(value: float, text: str) -> float:
    if not isfinite(value):
        raise BadCell("not_a_number", say("“{text}” is not a usable number", text=text))
    return value


def _undated(text: str) -> str:
    if DATE.fullmatch(text):
        raise BadCell(
            "looks_like_date",
            say("“{text}” is a date: a spreadsheet made it of a fraction; format the column as text", text=text),
        )
    return text


def _whole(text: str, decimal: str, least: int) -> int:
    value = _number(text, decimal)
    if value != int(value) or value < least:
        raise BadCell(
            "out_of_range" if value < least and value == int(value) else "not_whole",
            say("“{text}”: a whole number of {least} or more is needed", text=text, least=least),
        )
    return int(value)


def _measure(text: str, field: str, unit: str, decimal: str) -> float:
    text = _undated(text)
    pointed = _pointed(text, decimal)
    core = {"power_kw": "kW", "speed_rpm": "rpm"}.get(field, "mm")
    if PLAIN.fullmatch(pointed) and unit == core:
        return float(pointed)
    return _written(pointed, core, unit)


@lru_cache(maxsize=4096)
def _written(text: str, core: str, unit: str) -> float:
    if re.fullmatch(r"0x[0-9a-fA-F]+|[+-]?(?:nan|inf|infinity)|[+-]?\d+e[+-]?\d+", text.strip(), re.IGNORECASE):
        raise BadCell("not_a_number", say("“{text}” is not a usable number", text=text))
    try:
        return read_quantity(text, core, unit)
    except NotUnderstood as error:
        raise BadCell("bad_unit", str(error)) from error
