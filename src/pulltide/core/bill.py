"""What a plan is made of, piece by piece: what is owned, what a list sells and for how much, and what no list has."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from pulltide.core.catalog import Catalog
from pulltide.core.labels import as_is, phrase
from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.piece import Piece
from pulltide.core.sources.stock import SOURCE
from pulltide.core.sources.stock import prices as motor_prices


def bill_of(plan: Plan, catalog: Catalog) -> tuple[Piece, ...]:
    """Every piece of a plan, motor first; ``subject`` tells whose it is: ``motor``, ``link-2``."""
    pieces = list(_source(plan, catalog))
    for number, link in enumerate(plan.links, start=1):
        family = family_of(link.kind)
        words = family.words(link, 1)
        made: Iterable[Piece] = (
            family.bill(link, catalog)
            if family.bill is not None
            else (Piece(what=" ".join(map(phrase, (words.title, *words.chips[:1])))),)
        )
        pieces += [_placed(plan, piece, number) for piece in made]
    return tuple(pieces)


def _placed(plan: Plan, piece: Piece, number: int) -> Piece:
    """A piece of a stage; a wheel that the shop makes has no price and no lead."""
    piece = replace(piece, subject=f"link-{number}")
    if not piece.side or plan.made_part(f"{number}-{piece.side}") is None:
        return piece
    return replace(piece, made=True, owned=False, price=None, mass_kg=None, designation="", lead="", missing="")


def _source(plan: Plan, catalog: Catalog) -> Iterator[Piece]:
    """The motor; its price where it is one of the lists, unchanged."""
    if plan.source is None:
        return
    items = [item for item in catalog.of(SOURCE) if item.data == plan.source]
    owned = next((item for item in items if item.origin == "shelf"), None)
    if owned is not None:
        yield Piece(subject="motor", what=as_is(owned.id), owned=True)
        return
    priced = [(motor_prices()[item.id], item.id) for item in items if item.id in motor_prices()]
    price, name = min(priced, default=(None, ""))
    yield Piece(subject="motor", what="Motor as entered" if not name else "Motor", designation=name, price=price)


@dataclass(frozen=True, slots=True)
class Total:
    """What a plan costs and weighs as far as lists tell: ``unpriced`` and ``unweighed`` pieces are not in it."""

    price: float
    unpriced: int
    mass_kg: float
    unweighed: int
    to_buy: int


def total(pieces: Iterable[Piece]) -> Total:
    """Add up what must be bought, and what all of it weighs."""
    pieces = tuple(pieces)
    bought = [piece for piece in pieces if not piece.owned and not piece.made]
    prices = [piece.price for piece in bought if piece.price is not None]
    masses = [piece.mass_kg for piece in pieces if piece.mass_kg is not None]
    return Total(
        price=sum(prices),
        unpriced=len(bought) - len(prices),
        mass_kg=sum(masses),
        unweighed=len(pieces) - len(masses),
        to_buy=len(bought),
    )
