"""What the shop owns in search and bill: at no cost, counted, sound, and never worse than without it."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from builders import build_belt, build_machine
from pulltide.core.bill import bill_of, total
from pulltide.core.holding import Holding
from pulltide.core.line import solve_plan
from pulltide.core.machine import Plan
from pulltide.core.piece import wheel_of
from pulltide.core.search.rows import SEARCHED, rows_again, rows_of
from pulltide.core.search.wish import Wish
from pulltide.core.shaft_bill import whole_bill
from pulltide.core.shipped import shipped_catalog
from pulltide.core.stock import list_rows, price_of, stock_rows
from pulltide.demo import demo_machines, demo_shelf
from pulltide.services.lists.look import look
from pulltide.services.searching import Searcher
from pulltide.services.stock import SHELF, StockItem, own_items, used_designations
from pulltide.store.row_file import RowFile

PROJECT = Path(__file__).resolve().parents[2]
LISTS = PROJECT / "src" / "pulltide" / "core" / "stock" / "lists"
SHIPPED = shipped_catalog()


def owned(*holdings: Holding, list_name: str = SHELF):
    return own_items(StockItem(str(at), list_name, holding) for at, holding in enumerate(holdings))


def pulley(outside_mm: float, **changes) -> Holding:
    sizes = {"family": "v_pulley", "designation": f"A {outside_mm:g}", "section": "A", "outside_mm": outside_mm}
    return Holding.model_validate({**sizes, "grooves": 1, "on_hand": 1, "condition": "new", **changes})


@pytest.fixture(scope="module")
def searcher() -> Searcher:
    return Searcher(RowFile(PROJECT / ".run" / "rows"))


def windrow():
    return next(machine for machine in demo_machines() if machine.name.startswith("Windrow"))


def test_only_sound_parts_that_are_there_take_part():
    assert len(owned(pulley(88.9))) == 1
    assert owned(pulley(88.9, condition="used_worn")) == ()
    assert owned(pulley(88.9, condition="unknown")) == ()
    assert owned(pulley(88.9, on_hand=0)) == ()
    assert owned(Holding(family="motor", designation="old", on_hand=1, condition="new")) == ()
    assert owned(Holding(family="chain", designation="box", section="40", on_hand=1, condition="new")) == ()


def test_a_list_of_the_shop_gives_its_price_to_a_listed_size_and_to_no_other():
    (priced,) = owned(pulley(88.9, price=3.3), list_name="Yard")
    assert dict(priced.data.cells)["price"] == "3.3"
    assert owned(pulley(88.9), list_name="Yard") == ()
    assert owned(pulley(91.23, price=3.3), list_name="Yard") == ()


def test_what_a_list_of_the_shop_costs_stands_in_place_of_a_made_up_price():
    dear = next(
        row for row in stock_rows("bearings_blocks") if row["kind"] == "pillow block" and row["bore_mm"] == "30"
    )
    cost = 3 * float(dear["price"])
    block = Holding(family="bearing_block", designation=dear["designation"], price=cost)
    catalog = SHIPPED.with_items(owned(block, list_name="Yard"))
    rows = [row for row in list_rows(catalog, "bearings_blocks") if row["designation"] == dear["designation"]]
    assert [float(row["price"]) for row in rows] == [pytest.approx(cost, rel=1e-5)]
    assert len(list_rows(catalog, "bearings_blocks")) == len(stock_rows("bearings_blocks"))
    many = [block.model_copy(update={"price": price}) for price in (cost, 2 * cost, cost / 2)]
    (cheapest,) = owned(*many, list_name="Yard")
    assert float(dict(cheapest.data.cells)["price"]) == pytest.approx(cost / 2, rel=1e-5)


def bushed(catalog) -> tuple[dict, float]:
    """A pulley that takes a bushing, and what that bushing costs on the bill."""
    row = next(row for row in list_rows(catalog, "v_pulleys") if row["bushing"] == "BU-48" and row["section"] == "A")
    (_, bushing) = wheel_of("Driver", row, "driver")
    assert bushing.designation == "BU-48"
    return row, bushing.price


@pytest.mark.parametrize(
    "named",
    [{"designation": "BU-48"}, {"designation": "BU-48-25"}, {"designation": "T25", "section": "BU-48", "bore_mm": 25}],
    ids=["by its size", "by its name", "by size and bore"],
)
def test_a_bushing_costs_what_a_list_of_the_shop_says(named: dict):
    """On the bill and in a search; the cheapest of its size there, also where that is dearer than the made-up price."""
    row, generic = bushed(SHIPPED)
    own = Holding(family="bushing", price=4 * generic, **named)
    dearer = own.model_copy(update={"designation": "BU-48-30", "price": 5 * generic})
    catalog = SHIPPED.with_items(owned(own, dearer, list_name="Yard"))
    again, price = bushed(catalog)
    assert price == pytest.approx(4 * generic)
    assert price_of(again) == pytest.approx(price_of(row) + 3 * generic)
    others = [one for one in list_rows(catalog, "v_pulleys") if one["bushing"] != "BU-48"]
    assert others == [one for one in list_rows(SHIPPED, "v_pulleys") if one["bushing"] != "BU-48"]
    on_shelf = Holding(family="bushing", on_hand=3, condition="new", **named)
    assert bushed(SHIPPED.with_items(owned(on_shelf)))[1] == generic, "which bore is needed is not known"


@pytest.mark.long
def test_a_dear_bushing_is_in_the_price_of_every_stage_that_takes_it():
    dear = Holding(family="bushing", designation="BU-48", price=500.0)
    catalog = SHIPPED.with_items(owned(dear, list_name="Yard"))
    chains = next(family.stages for family in SEARCHED if family.kind == "roller_chain")
    before, after = ({one.shape: one for one in chains.candidates(lists)} for lists in (SHIPPED, catalog))
    assert all("BU-48" not in one.parts or one.price > 500.0 for one in after.values())
    assert any(after[shape] != one for shape, one in before.items() if shape in after and "BU-48" in one.parts)


@pytest.mark.parametrize("path", sorted(LISTS.glob("*.csv")), ids=lambda path: path.stem)
def test_a_shipped_list_with_prices_of_the_shop_can_be_read_in(path: Path):
    """Every row, each as the part that it is, at the price that stands in it; chain is sold by the meter."""
    found = look(path.read_bytes(), path.name)
    listed = {row["designation"]: row for row in stock_rows(path.stem)}
    assert not found.faults
    assert {holding.designation for _, holding in found.holdings} == set(listed)
    own = owned(*(holding for _, holding in found.holdings), list_name="Yard")
    assert len(own) == (0 if path.stem == "chain" else len(listed))
    for item in own:
        cells = dict(item.data.cells)
        assert float(cells["price"]) == float(listed[cells["designation"]]["price"])


def test_bar_blocks_and_keys_of_the_shelf_are_used_as_often_as_they_are_there():
    sizes = {"steel": "not_known", "diameter_mm": 50.0, "key_width_mm": 14.0, "key_length_mm": 50.0}
    shaft = windrow().plans[0].shafts[0].model_copy(update=sizes)
    plan = build_machine([build_belt(), build_belt()]).plans[0]
    plan = plan.model_copy(update={"shafts": tuple(shaft.model_copy(update={"shaft": one}) for one in (2, 3))})

    def taken(*shelf: Holding) -> list[str]:
        pieces = whole_bill(plan, SHIPPED.with_items(owned(*shelf)))
        return sorted(piece.kind for piece in pieces if piece.owned)

    here = {"on_hand": 1, "condition": "used_good"}
    long, short = shaft.span.length_mm + 1, shaft.span.length_mm - 1
    bar = {"family": "bar", "designation": "round bar", "outside_mm": 50.0}
    block = Holding(family="bearing_block", designation="old block", bore_mm=50.0, **here)
    key = Holding(family="key", designation="key steel", width_mm=14.0, length_mm=120.0, **here)
    assert taken(Holding(**bar, length_mm=long, **here), block, key) == ["bar", "key"], "two blocks are needed"
    assert taken(Holding(**bar, length_mm=short, **here)) == []
    assert taken(Holding(**bar, **here)) == [], "a length that nobody knows"
    assert taken(block.model_copy(update={"on_hand": 3})) == ["bearing"]
    assert taken(block.model_copy(update={"on_hand": 4})) == ["bearing", "bearing"]
    bills = whole_bill(plan, SHIPPED.with_items(owned(block.model_copy(update={"on_hand": 4}))))
    assert list(used_designations(bills)).count("old block") == 4, "and are spoken for"


@pytest.mark.long
def test_rows_made_on_top_of_known_ones_are_those_made_anew():
    """A pulley of a size that no list has, and one that is listed: equal to rating every candidate again."""
    (family,) = (one for one in SEARCHED if one.kind == "v_belt")
    few = [one for one in family.stages.candidates(SHIPPED) if one.shape[0] == "A" and one.shape[1] == 1][::40]
    known = rows_of(family, few, SHIPPED)
    catalog = SHIPPED.with_items(owned(pulley(91.23), pulley(88.9)))
    more = [one for one in family.stages.candidates(catalog) if one.shape[0] == "A" and 91.23 in one.shape][:12]
    wanted = [*few[3:9], *more]
    again, anew = rows_again(known, wanted, catalog), rows_of(family, wanted, catalog)
    assert again.candidates == anew.candidates
    assert len(again) > 12
    for name in ("ln_ratio", "ln_efficiency", "pull_in", "rating_out", "max_rpm", "price", "parts", "alike"):
        assert np.array_equal(getattr(again, name), getattr(anew, name)), name
    assert {code: at.tolist() for code, _, at in again.ln_limit} == {code: at.tolist() for code, _, at in anew.ln_limit}


@pytest.mark.long
def test_a_shelf_never_makes_the_best_worse_and_lets_a_drive_be_made_without_buying(searcher: Searcher):
    machine = windrow()
    plan = machine.plans[0]
    wish = Wish(max_stages=2, rank_by="price")
    before = searcher.ways(machine, plan, wish, SHIPPED).ways[0]
    cheapest = before.plan
    shelf = []
    for piece in bill_of(cheapest, SHIPPED):
        for name in ("v_pulleys", "v_belts", "sprockets", "chain", "toothed_pulleys", "toothed_belts"):
            row = next((row for row in stock_rows(name) if row["designation"] == piece.designation), None)
            if row is not None:
                shelf.append(_as_holding(name, row, piece.count))
    catalog = SHIPPED.with_items(owned(*shelf))
    after = searcher.ways(machine, plan, wish, catalog).ways[0]
    assert shelf
    assert after.train.price < before.train.price
    assert after.train.score <= before.train.score
    pieces = bill_of(after.plan, catalog)
    assert any(piece.owned for piece in pieces)
    assert total([piece for piece in pieces if piece.subject != "motor"]).price == pytest.approx(
        after.train.price, abs=0.3
    )
    assert solve_plan(machine, after.plan, catalog=catalog).chosen.tightest[1].use <= 1.0


def _as_holding(name: str, row: dict, count: int) -> Holding:
    families = {"v_pulleys": "v_pulley", "v_belts": "v_belt", "sprockets": "sprocket", "chain": "chain"} | {
        "toothed_pulleys": "toothed_pulley",
        "toothed_belts": "toothed_belt",
    }
    section = row.get("section") or row.get("profile") or row["chain"]
    length = {"length_mm": 20_000.0} if name == "chain" else {}
    return Holding(
        family=families[name], designation=row["designation"], section=section, on_hand=count, condition="new", **length
    )


def test_belts_count_only_where_there_are_enough_of_them():
    (family,) = (one for one in SEARCHED if one.kind == "v_belt")
    one = next(c for c in family.stages.candidates(SHIPPED) if c.shape[0] == "A" and c.shape[1] == 2)
    link = family.stages.build(one.shape, SHIPPED)
    for count, to_buy in ((1, True), (2, False)):
        belt = Holding(family="v_belt", designation=link.belt, section="A", on_hand=count, condition="new")
        pieces = bill_of(Plan(links=(link,)), SHIPPED.with_items(owned(belt)))
        (found,) = (piece for piece in pieces if piece.what.startswith("V-belt"))
        assert found.owned is not to_buy
        assert (found.price is None) is not to_buy


def test_the_demo_shelf_is_whole_and_plans_that_count_on_it_are_known():
    shelf = demo_shelf()
    assert len(shelf) == 43
    assert sum(holding.rating is None and holding.family in ("motor", "reducer") for holding in shelf) >= 5
    catalog = SHIPPED.with_items(owned(*shelf))
    (family,) = (one for one in SEARCHED if one.kind == "roller_chain")
    shape = ("40", 1, 15, 15, 60)
    pieces = bill_of(Plan(links=(family.stages.build(shape, catalog),)), catalog)
    assert list(used_designations(pieces)).count("40, 15 teeth") == 2
