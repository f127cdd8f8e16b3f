"""Parts in the database: kept as a whole, found again, counted."""

from __future__ import annotations

import pytest
from sqlalchemy import Engine

from pulltide.core.holding import Holding
from pulltide.services.stock import SHELF
from pulltide.store.shelf import PostgresShelf
from pulltide.store.stock import PostgresStock


def bar(name: str, **changes) -> Holding:
    return Holding.model_validate({"family": "bar", "designation": name, "outside_mm": 25.0, "on_hand": 1, **changes})


@pytest.fixture
def stock(empty_shop: Engine) -> PostgresStock:
    return PostgresStock(empty_shop)


def test_a_part_is_replaced_by_its_kind_name_and_condition(stock: PostgresStock):
    assert stock.put(SHELF, [bar("one"), bar("two")]).added == 2
    kept = stock.put(SHELF, [bar("one", on_hand=7), bar("one", condition="new")])
    assert (kept.added, kept.updated) == (1, 1)
    assert [item.holding.on_hand for item in stock.page(SHELF, "one").items] == [1, 7]
    assert stock.put(SHELF, [bar("three")], afresh=True).added == 1
    assert [item.holding.designation for item in stock.page(SHELF).items] == ["three"]


def test_parts_are_found_by_name_note_and_kind_page_by_page(stock: PostgresStock):
    stock.put(SHELF, [bar(f"bar {k:03}", note="50 % off" if k == 7 else None) for k in range(150)])
    stock.put("Yard", [bar("elsewhere")])
    page = stock.page(SHELF, start=100)
    assert (page.total, len(page.items)) == (150, 50)
    assert stock.page(SHELF, "50 %").total == 1
    assert stock.page(SHELF, "_").total == 0, "a mark of the database's own means itself"
    assert stock.page(SHELF, family="motor").total == 0
    assert dict(stock.lists()) == {SHELF: 150, "Yard": 1}


def test_a_list_that_fails_midway_leaves_everything_as_it_was(stock: PostgresStock):
    stock.put(SHELF, [bar("one")])
    mark = stock.mark()
    bad = bar("x").model_copy(update={"designation": "long" * 40})
    with pytest.raises(Exception, match="too long"):
        stock.put(SHELF, [*(bar(f"n {k}") for k in range(2500)), bad], afresh=True)
    assert [item.holding.designation for item in stock.page(SHELF).items] == ["one"]
    assert stock.mark() == mark


def test_a_change_is_seen_by_the_next_search(stock: PostgresStock):
    shelf = PostgresShelf(stock.engine)
    assert shelf.own() == ()
    pulley = {"family": "v_pulley", "designation": "p", "section": "A", "outside_mm": 88.9, "grooves": 1}
    stock.put(SHELF, [Holding.model_validate({**pulley, "on_hand": 1, "condition": "new"})])
    (item,) = shelf.own()
    assert item.origin == "shelf"
    assert shelf.own() is shelf.own()
    (kept,) = stock.page(SHELF).items
    stock.change(kept.id, kept.holding.model_copy(update={"condition": "used_worn"}))
    assert shelf.own() == ()
    assert stock.remove(kept.id).designation == "p"
    assert stock.remove(kept.id) is None


def test_what_was_said_of_columns_and_lists_that_wait_are_kept(stock: PostgresStock):
    stock.remember("Yard", {"Artikel": "designation"})
    stock.remember("Yard", {"Artikel": "note"})
    assert stock.said_of("Yard") == {"Artikel": "note"}
    assert stock.said_of("other") == {}
    upload = stock.receive("list.csv", "Yard", b"\x00\xff")
    stock.progress(upload, {"stage": "reading", "done": 3})
    found = stock.received(upload)
    assert (found.content, found.state) == (b"\x00\xff", {"stage": "reading", "done": 3})
    stock.forget(upload)
    assert stock.received(upload) is None
