"""What a plan is made of, against what a search says that its stages cost."""

from __future__ import annotations

import pytest

from pulltide.core.bill import bill_of, total
from pulltide.core.candidates import Candidate
from pulltide.core.catalog import Item
from pulltide.core.links import FAMILIES
from pulltide.core.links.reducer import tables as reducers
from pulltide.core.machine import Plan
from pulltide.core.search.rows import SEARCHED
from pulltide.core.shipped import shipped_catalog
from pulltide.core.sources.stock import SOURCE

CATALOG = shipped_catalog()


@pytest.mark.parametrize("family", SEARCHED, ids=lambda family: family.kind)
def test_pieces_cost_what_the_search_says_of_the_stage(family):
    """Every 97th candidate: the same designations, the same price to a rounding of each piece."""
    found: list[Candidate] = list(family.stages.candidates(CATALOG))[::97]
    assert len(found) >= 2
    for candidate in found:
        pieces = bill_of(Plan(links=(family.stages.build(candidate.shape, CATALOG),)), CATALOG)
        named = [piece.designation for piece in pieces for _ in range(piece.count)]
        assert sorted(named) == sorted(candidate.parts)
        cost = total(pieces)
        assert cost.price == pytest.approx(candidate.price, abs=0.11 * len(pieces)), candidate
        assert cost.unpriced == 0


@pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)
def test_every_family_says_what_it_is_made_of(family):
    for link in (family.starter(CATALOG), *family.samples):
        pieces = bill_of(Plan(links=(link,)), CATALOG)
        assert pieces
        assert all(piece.what and piece.count >= 1 and piece.subject == "link-1" for piece in pieces)


def test_what_lies_on_the_shelf_is_owned_and_costs_nothing():
    unit = CATALOG.of(reducers.PART)[0]
    mine = CATALOG.with_items([Item(unit.part, unit.id, unit.data, "shelf")])
    family = next(family for family in FAMILIES if family.kind == "reducer")
    plan = Plan(links=(family.stages.build((unit.id,), CATALOG),))
    assert total(bill_of(plan, CATALOG)).to_buy == 1
    assert total(bill_of(plan, mine)).to_buy == 0


def test_a_listed_motor_has_its_price_and_a_changed_one_none():
    item = next(item for item in CATALOG.of(SOURCE) if item.id.startswith("M"))
    (piece,) = bill_of(Plan(source=item.data), CATALOG)
    assert piece.price is not None
    other = item.data.model_copy(update={"power_kw": item.data.power_kw * 1.01})
    (piece,) = bill_of(Plan(source=other), CATALOG)
    assert piece.price is None
    assert total((piece,)).unpriced == 1
