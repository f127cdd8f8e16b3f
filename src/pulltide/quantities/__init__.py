"""Quantities as people write and read them. The core works in one unit per quantity; here is the edge."""

from pulltide.quantities.preferences import DEFAULT_UNITS, UNIT_CHOICES, Units
from pulltide.quantities.reading import read_quantity, reader_for
from pulltide.quantities.showing import Shown, in_unit, plain_number, show, show_for_edit, show_limit

__all__ = [
    "DEFAULT_UNITS",
    "UNIT_CHOICES",
    "Shown",
    "Units",
    "in_unit",
    "plain_number",
    "read_quantity",
    "reader_for",
    "show",
    "show_for_edit",
    "show_limit",
]
