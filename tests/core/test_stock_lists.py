"""The lists of parts against the geometry that standards give their sizes by; prices are made up and not checked."""

from __future__ import annotations

from math import pi, sin

import pytest

from pulltide.core.links.roller_chain import tables as chains
from pulltide.core.links.toothed_belt import tables as toothed
from pulltide.core.links.v_belt import tables as v_belts
from pulltide.core.search.rows import SEARCHED
from pulltide.core.shipped import shipped_catalog
from pulltide.core.stock import stock_rows
from pulltide.core.tables import number

LISTS = (
    "v_pulleys", "v_belts", "toothed_pulleys", "toothed_belts", "sprockets", "chain", "spur_gears", "bushings",
    "shafting", "keys_stock", "bearings_blocks", "motor_bases",
)  # fmt: skip


@pytest.mark.parametrize("name", LISTS)
def test_every_part_has_its_own_name_and_a_price(name: str):
    rows = stock_rows(name)
    assert len({row["designation"] for row in rows}) == len(rows) > 20
    assert all(number(row, "price" if "price" in row else "price_per_m") > 0 for row in rows)


def test_v_pulleys_are_as_far_smaller_at_their_pitch_line_as_their_section_says():
    for row in stock_rows("v_pulleys"):
        less = v_belts.section(row["section"]).outside_minus_pitch_mm
        assert number(row, "outside_mm") - number(row, "pitch_mm") == pytest.approx(less, abs=0.01), row["designation"]


def test_v_belts_are_as_long_as_their_names_say():
    """The list rounds what a light section adds to its name to a tenth of a millimeter or so."""
    for row in stock_rows("v_belts"):
        belt = v_belts.belt(row["section"], row["designation"])
        assert number(row, "pitch_length_mm") == pytest.approx(belt.pitch_length_mm, abs=0.2), row["designation"]


def test_toothed_pulleys_and_belts_count_out_by_their_pitch():
    """z p / pi and z p. Source: ISO 5294, ISO 13050, DIN 7721."""
    pitch = {name: profile.pitch_mm for name, profile in toothed.profiles().items()}
    for row in stock_rows("toothed_pulleys"):
        expected = number(row, "teeth") * pitch[row["profile"]] / pi
        assert number(row, "pitch_mm") == pytest.approx(expected, abs=0.002), row["designation"]
    for row in stock_rows("toothed_belts"):
        expected = number(row, "teeth") * pitch[row["profile"]]
        assert number(row, "pitch_length_mm") == pytest.approx(expected, abs=0.02), row["designation"]


def test_sprockets_have_the_pitch_circle_of_their_chain():
    """p / sin(180 deg / N). Source: ANSI B29.1, ISO 606."""
    pitch = {row["chain"]: number(row, "pitch_mm") for row in stock_rows("chain")}
    for row in stock_rows("sprockets"):
        expected = pitch[row["chain"]] / sin(pi / number(row, "teeth"))
        assert number(row, "pitch_mm") == pytest.approx(expected, abs=0.002), row["designation"]
    known = {name: size.pitch_mm for name, size in chains.sizes().items() if name in pitch}
    assert len(known) >= 12
    assert all(pitch[name] == pytest.approx(mm, abs=0.001) for name, mm in known.items())


def test_spur_gears_are_module_times_teeth():
    for row in stock_rows("spur_gears"):
        expected = number(row, "module_mm") * number(row, "teeth")
        assert number(row, "pitch_mm") == pytest.approx(expected, abs=0.01), row["designation"]
        assert number(row, "outside_mm") == pytest.approx(expected + 2 * number(row, "module_mm"), abs=0.01)
        if row["diametral_pitch"] != "na":
            assert number(row, "module_mm") * number(row, "diametral_pitch") == pytest.approx(25.4, abs=0.001)


@pytest.mark.long
def test_every_candidate_is_of_parts_on_the_lists_at_the_sum_of_their_prices():
    """Chain is bought by the meter with one connecting link; all else by the piece."""
    catalog = shipped_catalog()
    price = {row["designation"]: number(row, "price") for name in LISTS if name != "chain" for row in stock_rows(name)}
    # a bushing costs the same whatever its bore
    price |= {row["size"]: number(row, "price") for row in stock_rows("bushings")}
    assert len({(row["size"], row["price"]) for row in stock_rows("bushings")}) == 6
    chain = {row["designation"]: row for row in stock_rows("chain")}
    for family in SEARCHED:
        if family.kind == "reducer":
            continue
        for one in list(family.stages.candidates(catalog))[::97]:
            cost = sum(price[part] for part in one.parts if part not in chain)
            for sold in (chain[part] for part in one.parts if part in chain):
                meters = one.shape[4] * number(sold, "pitch_mm") / 1000
                cost += meters * number(sold, "price_per_m") + number(sold, "price_connecting_link")
            assert one.price == pytest.approx(cost, abs=0.051), one


def test_every_listed_pulley_is_in_some_candidate_the_cheapest_of_each_size():
    """Bushed ones too: with their bushing they count where nothing bored alike is cheaper."""
    catalog = shipped_catalog()
    belts = next(family for family in SEARCHED if family.kind == "v_belt")
    found = {(one.shape[0], one.shape[1], size) for one in belts.stages.candidates(catalog) for size in one.shape[2:4]}
    sizes = {
        (
            row["section"],
            int(row["grooves"]),
            number(row, "pitch_mm" if row["section"].startswith("SP") else "outside_mm"),
        )
        for row in stock_rows("v_pulleys")
    }
    # a pulley without a mate within a ratio of seven, or without a belt long enough, makes no stage
    assert len(sizes - found) <= 0.02 * len(sizes)
    assert {row["bushing"] for row in stock_rows("v_pulleys")} - {"na"} <= {
        row["size"] for row in stock_rows("bushings")
    }
