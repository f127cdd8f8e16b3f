"""Every packaged table loads, says where it comes from, and is sane where physics says so."""

from __future__ import annotations

import pytest

from pulltide.core.errors import TableError, UnknownName
from pulltide.core.links.reducer import tables as reducer_tables
from pulltide.core.links.roller_chain import tables as chain_tables
from pulltide.core.links.v_belt import tables as belt_tables
from pulltide.core.tables import load_table, number

PACKAGED = [(family.PACKAGE, name) for family in (belt_tables, chain_tables, reducer_tables) for name in family.NAMES]
PACKAGED += [("pulltide.core", "least_motor_pulley"), ("pulltide.core", "standard_powers")]


@pytest.mark.parametrize(("package", "name"), PACKAGED)
def test_table_loads_with_its_origin(package: str, name: str):
    table = load_table(package, name)
    assert table.rows
    assert table.source
    assert table.confidence
    assert set(table.key.split(", ")) <= set(table.columns)
    keys = [tuple(row[column] for column in table.key.split(", ")) for row in table.rows]
    assert len(set(keys)) == len(keys)


def test_a_cell_without_number_is_a_fault():
    with pytest.raises(TableError):
        number({"a": "na"}, "a")


@pytest.mark.parametrize("section", belt_tables.section_names())
def test_pitch_lengths_follow_the_designations(section: str):
    for belt in belt_tables.stock_belts(section):
        expected = (belt.nominal_in + belt_tables.section(section).length_addition_in) * 25.4
        assert belt.pitch_length_mm == pytest.approx(expected, abs=0.2), belt.designation


@pytest.mark.parametrize("section", belt_tables.section_names())
def test_every_section_knows_its_groove_its_allowances_and_its_length_factor(section: str):
    listed = belt_tables.stock_belts(section)
    factors = [belt_tables.length_factor(section, belt.nominal_in) for belt in listed]
    assert factors == sorted(factors)
    assert 0.75 < factors[0] <= factors[-1] <= 1.25
    for belt in (listed[0], listed[-1]):
        room = belt_tables.allowance(section, belt)
        assert 10 < room.fit_mm < 60
        assert 15 < room.take_up_mm < 150
    least = belt_tables.section(section).least_diameter_mm
    angles = [belt_tables.groove_angle_deg(section, least * times) for times in (1, 2, 4, 8)]
    assert angles == sorted(angles)
    assert all(30 <= angle <= 42 for angle in angles)


@pytest.mark.parametrize(
    ("section", "wrong", "near"), [("SPA", "SPA1300", "SPA1250"), ("3VX", "3VX501", "3VX500"), ("CX", "CX61", "CX60")]
)
def test_unknown_belts_of_other_sections_offer_their_own_kind(section: str, wrong: str, near: str):
    with pytest.raises(UnknownName, match=near):
        belt_tables.belt(section, wrong)


def test_unknown_belt_offers_the_nearest():
    with pytest.raises(UnknownName, match="A60"):
        belt_tables.belt("A", "A600X")
    assert belt_tables.belt("A", "A47").in_series is False


def test_larger_reducers_of_one_ratio_carry_more():
    for kind in ("worm", "helical_inline", "helical_shaft_mounted"):
        by_ratio: dict[float, list[tuple[float, float]]] = {}
        for unit in reducer_tables.stock().values():
            if unit.type == kind:
                by_ratio.setdefault(unit.nominal, []).append((unit.size_mm, unit.torque_1750_nm))
        for rows in by_ratio.values():
            torques = [torque for _, torque in sorted(rows)]
            assert torques == sorted(torques)
