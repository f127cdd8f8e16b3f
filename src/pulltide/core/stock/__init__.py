"""Generic lists of parts with sizes, made-up prices and lead times, for a search where a shop has no list of its own.

Prices are in price units: 100 is a 0.75 kW four-pole three-phase motor. Nothing of them is a real price.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from itertools import product
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.model import CoreModel
from pulltide.core.tables import Row, load_table, number

PACKAGE = "pulltide.core.stock"
#: Wheels farther apart in size make no stage of listed pairs: driver over driven speed.
MAX_RATIO = 7.0


def stock_rows(name: str) -> tuple[Row, ...]:
    """The rows of one list. Raises TableError where it is damaged."""
    return load_table(PACKAGE, name, "lists").rows


def cheapest(rows: list[Row], column: str) -> dict[float, Row]:
    """Of each size in a column the cheapest row, the bushing of one that takes one counted in."""
    found: dict[float, list[Row]] = {}
    for row in rows:
        found.setdefault(float(row[column]), []).append(row)
    best = {size: least_priced(alike) for size, alike in found.items()}
    return {size: row for size, row in best.items() if row is not None}


def price_with_bushings(*rows: Row) -> float:
    """What some parts cost together, with the bushings that they take [price units]."""
    return sum(price_of(row) or 0.0 for row in rows)


def price_of(row: Row) -> float | None:
    """Price of one, with the bushing that it takes; None where that is on no list."""
    if bushing_of(row) == "na":
        return number(row, "price")
    bushing = bushing_price(row)
    return None if bushing is None else number(row, "price") + bushing


def least_priced(rows: Iterable[Row]) -> Row | None:
    """The cheapest of some rows, bushings counted in; None of none."""
    priced = [(price, place, row) for place, row in enumerate(rows) if (price := price_of(row)) is not None]
    return min(priced)[2] if priced else None


def bushing_of(row: Row) -> str:
    """The size of the bushing that a wheel takes, ``na`` for none."""
    return row.get("bushing", "na")


def bushing_price(row: Row) -> float | None:
    """Price of the bushing that a wheel takes; None where that is on no list."""
    return float(row[OF_BUSHING]) if OF_BUSHING in row else None


def _bushing_prices(catalog: Catalog) -> dict[str, float]:
    """The cheapest bushing of every size, as its price hardly depends on its bore: on a list of the shop's own where
    that has the size. Which bore is needed is not known, so that none on the shelf counts.
    """
    generic = _cheapest_by_size(stock_rows("bushings"))
    return generic | _cheapest_by_size(row for row in _own(catalog, "bushings") if not is_owned(row))


def _cheapest_by_size(rows: Iterable[Row]) -> dict[str, float]:
    found: dict[str, float] = {}
    for row in rows:
        price = number(row, "price")
        found[row["size"]] = min(price, found.get(row["size"], price))
    return found


def pairs(wheels: dict[float, Row], min_ratio: float = 1.0) -> Iterator[tuple[Any, Row, Any, Row]]:
    """Driver and driven wheels of one kind whose ratio is one of a stage, smallest driver first."""
    for (driver, first), (driven, second) in product(sorted(wheels.items()), repeat=2):
        if min_ratio <= driven / driver <= MAX_RATIO:
            yield driver, first, driven, second


def listed(
    catalog: Catalog,
    name: str,
    cells: Mapping[str, str],
    sizes: Mapping[str, float],
    *,
    within: float = 0.15,
    count: int = 1,
) -> Row | None:
    """The cheapest row of a list, the shop's own included, with these cells and, to within a little, these sizes, its
    bushing counted in; one on the shelf only where there are so many. None where the list has none.
    """
    rows = [
        row
        for row in list_rows(catalog, name)
        if (not is_owned(row) or int(row["on_hand"]) >= count)
        and all(row.get(column) == cell for column, cell in cells.items())
        and all(abs(number(row, column) - size) <= within for column, size in sizes.items())
    ]
    return least_priced(rows)


def is_owned(row: Row) -> bool:
    """Whether a row is a part on the shop's shelf."""
    return row.get(OWNED) == "yes"


def to_buy(*rows: Row) -> tuple[str, ...]:
    """Names of those parts that are not owned, and of the bushings that they take."""
    bought = [row for row in rows if not is_owned(row)]
    bushings = [bushing_of(row) for row in bought]
    return (*(row["designation"] for row in bought), *(size for size in bushings if size != "na"))


def names(*rows: Row) -> tuple[str, ...]:
    """Names of parts, owned or not, each once."""
    return tuple(dict.fromkeys(row["designation"] for row in rows))


#: The cell that marks a part on the shelf, that of the price of its bushing, and what a catalog calls a part of a list.
OWNED, OF_BUSHING, PART = "owned", "bushing_price", "stock."
#: Lists whose parts stand in the stages that a search makes; the others are for the bill.
OF_STAGES = ("v_pulleys", "v_belts", "toothed_pulleys", "toothed_belts", "sprockets", "chain", "spur_gears")


def list_rows(catalog: Catalog, name: str) -> tuple[Row, ...]:
    """The rows of a generic list with those of the shop's shelf; what a list of the shop's own prices stands in place
    of the generic row of that name, whose price is made up. A wheel that takes a bushing has the price of that.
    """

    def make() -> tuple[Row, ...]:
        own = _own(catalog, name)
        priced = {row["designation"] for row in own if not is_owned(row)}
        rows = (*(row for row in stock_rows(name) if row["designation"] not in priced), *own)
        if all(bushing_of(row) == "na" for row in rows):
            return rows
        prices = catalog.once(OF_BUSHING, lambda: _bushing_prices(catalog))
        return tuple(_with_bushing(row, prices.get(bushing_of(row))) for row in rows)

    return catalog.once(PART + name, make)


def _own(catalog: Catalog, name: str) -> list[Row]:
    """The shop's own rows of a list, those of the shelf among them."""
    return [dict(item.data.cells) for item in catalog.of(PART + name) if isinstance(item.data, OwnRow)]


def _with_bushing(row: Row, price: float | None) -> Row:
    return row if price is None else {**row, OF_BUSHING: f"{price:g}"}


class OwnRow(CoreModel):
    """A part of the shop's own as a row of a generic list: cells by column."""

    cells: tuple[tuple[str, str], ...]
