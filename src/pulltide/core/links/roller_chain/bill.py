"""The pieces of a roller chain stage."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.catalog import Catalog
from pulltide.core.labels import as_is, phrase
from pulltide.core.links.roller_chain.inputs import RollerChain
from pulltide.core.piece import Piece, wheel_of
from pulltide.core.stock import OWNED, least_priced, list_rows, listed, stock_rows
from pulltide.core.tables import Row, number


def chain_row(chain: str, strands: int) -> Row | None:
    """The row of a chain on the list, None where it has none."""
    rows = (row for row in stock_rows("chain") if row["chain"] == chain and row["strands"] == str(strands))
    return next(rows, None)


def sprocket_row(catalog: Catalog, chain: str, strands: int, teeth: int) -> Row | None:
    """The cheapest listed sprocket with a hub, its bushing counted in."""
    wanted = {"chain": chain, "strands": str(strands), "teeth": str(teeth)}
    rows = [row for row in list_rows(catalog, "sprockets") if row["kind"] != "plate" and wanted.items() <= row.items()]
    return least_priced(rows)


def long_enough(row: Row | None, links: int) -> Row | None:
    """A length of chain on the shelf, where it makes so many links."""
    if row is None or number(row, "length_mm") < links * number(row, "pitch_mm"):
        return None
    return row


def price_of_chain(row: Row, links: int) -> float:
    """So many links off the roll, with one connecting link [price units]."""
    meters = links * number(row, "pitch_mm") / 1000
    return meters * number(row, "price_per_m") + number(row, "price_connecting_link")


def bill(link: RollerChain, catalog: Catalog) -> Iterator[Piece]:
    """Two sprockets, and chain with its connecting link."""
    size = f"{link.chain}{f'-{link.strands}' if link.strands > 1 else ''}"
    for side, teeth in (("driver", link.driver_teeth), ("driven", link.driven_teeth)):
        row = sprocket_row(catalog, link.chain, link.strands, teeth)
        yield from wheel_of(f"{phrase(side.title())} sprocket {as_is(size)}, {teeth} t", row, side)
    row = chain_row(link.chain, link.strands)
    lying = listed(catalog, "chain", {"chain": link.chain, "strands": str(link.strands), OWNED: "yes"}, {})
    what = f"Chain {as_is(size)}, {link.pitches} links"
    if link.pitches is None:
        yield Piece(what=f"Chain {as_is(size)}", missing="its number of links", kind="chain")
    elif (at_hand := long_enough(lying, link.pitches)) is not None:
        yield Piece(what=what, designation=at_hand["designation"], owned=True, kind="chain")
    elif row is None:
        yield Piece(what=f"Chain {as_is(size)}, {link.pitches} links, with a connecting link", kind="chain")
    else:
        meters = link.pitches * number(row, "pitch_mm") / 1000
        yield Piece(
            what=f"Chain {as_is(size)}, {link.pitches} links, with a connecting link",
            designation=row["designation"],
            price=round(price_of_chain(row, link.pitches), 1),
            mass_kg=meters * number(row, "mass_kg_per_m"),
            lead=row["lead"],
            kind="chain",
        )
