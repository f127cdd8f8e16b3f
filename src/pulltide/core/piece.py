"""One thing that a plan is made of."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from pulltide.core.labels import as_is
from pulltide.core.stock import bushing_of, bushing_price, is_owned
from pulltide.core.tables import Row, number


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """What it is in words (quantities are written ``{value|unit}``), how many, and what its list says.

    ``designation`` is its name on a list, empty where no list has it. ``price`` in price units and ``mass_kg`` are for
    all of them together, None while unknown. ``lead`` is how soon it comes; ``owned`` says that it is on the shelf,
    ``made`` that the shop makes it; ``side`` tells which wheel of its stage it is, where it is one. ``missing`` is what
    must still be decided before it can be bought; ``kind`` is set where others go by it:
    ``belt``, ``chain``, ``bar``, ``bearing``, ``key``.
    """

    what: str
    count: int = 1
    designation: str = ""
    price: float | None = None
    mass_kg: float | None = None
    lead: str = ""
    owned: bool = False
    missing: str = ""
    subject: str = ""
    side: str = ""
    made: bool = False
    kind: str = ""


def wheel_of(what: str, row: Row | None, side: str) -> Iterator[Piece]:
    """A wheel of a stage, and the bushing that it takes."""
    yield replace(piece_of(what, row), side=side)
    if row is None or is_owned(row) or bushing_of(row) == "na":
        return
    what = f"Split taper bushing {as_is(bushing_of(row))}"
    yield Piece(what=what, designation=bushing_of(row), price=bushing_price(row), side=side, missing="its bore")


def piece_of(what: str, row: Row | None, count: int = 1) -> Piece:
    """A piece with what its row on a list says, or as no list has it."""
    if row is None:
        return Piece(what=what, count=count)
    known_mass = row["mass_kg"] != "na"
    if is_owned(row):
        mass = count * number(row, "mass_kg") if known_mass else None
        return Piece(what=what, count=count, designation=row["designation"], mass_kg=mass, owned=True)
    return Piece(
        what=what,
        count=count,
        designation=row["designation"],
        price=round(count * number(row, "price"), 1),
        mass_kg=count * number(row, "mass_kg") if known_mass else None,
        lead=row["lead"],
    )
