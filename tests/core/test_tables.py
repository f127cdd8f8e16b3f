"""Every packaged table loads, says where it comes from, and is sane where physics says so."""

from __future__ import annotations

from itertools import pairwise

import pytest

from builders import SHIPPED
from pulltide.core.errors import InputError, TableError
from pulltide.core.links.reducer import tables as reducer_tables
from pulltide.core.links.roller_chain import tables as chain_tables
from pulltide.core.links.toothed_belt import tables as toothed_tables
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
def test_the_length_of_a_belt_is_in_its_name(section: str):
    """The packaged list, typed apart from the rule, rounds to 0.1 mm."""
    listed = belt_tables.listed_belts(SHIPPED, section)
    plain = belt_tables.section(section).plain
    printed = {row["designation"]: row for row in belt_tables.table("stock_lengths").rows if row["section"] == plain}
    assert len(listed) == len(printed)
    for item in listed:
        row = printed[plain + item.id.removeprefix(section)]
        assert item.data.pitch_length_mm == pytest.approx(number(row, "pitch_length_mm"), abs=0.15), item.id
        assert item.data.nominal_in == pytest.approx(number(row, "nominal_in"), abs=0.01), item.id


@pytest.mark.parametrize("section", belt_tables.section_names())
def test_every_section_knows_its_groove_its_allowances_and_its_length_factor(section: str):
    listed = [item.data for item in belt_tables.listed_belts(SHIPPED, section)]
    factors = [belt_tables.length_factor(section, belt.nominal_in) for belt in listed]
    assert factors == sorted(factors)
    assert 0.75 < factors[0] <= factors[-1] <= 1.25
    for belt in (listed[0], listed[-1]):
        room = belt_tables.allowance(section, belt)
        assert 10 < room.fit_mm < 60
        assert 15 < room.take_up_mm < 150
    least = belt_tables.section(section).min_diameter_mm
    angles = [belt_tables.groove_angle_deg(section, least * times) for times in (1, 2, 4, 8)]
    assert angles == sorted(angles)
    assert all(30 <= angle <= 42 for angle in angles)


@pytest.mark.parametrize(
    ("section", "wrong", "said"),
    [
        ("SPA", "A51", "SPA51"),
        ("3VX", "3V500", "3VX3500"),
        ("CX", "CX", "CX48"),
        ("A", "A600X", "A600"),
        ("A", "A5", "0.25 m"),
        ("SPA", "SPA29000", "20 m"),
    ],
)
def test_what_is_no_name_of_a_belt_is_refused_with_one_that_is(section: str, wrong: str, said: str):
    with pytest.raises(InputError, match=said):
        belt_tables.belt(section, wrong)


def test_larger_reducers_of_one_ratio_carry_more():
    for kind in ("worm", "helical_inline", "helical_shaft_mounted"):
        by_ratio: dict[float, list[tuple[float, float]]] = {}
        for unit in SHIPPED.data("reducer"):
            if unit.type == kind:
                by_ratio.setdefault(unit.ratio_nominal, []).append((unit.size_mm, unit.torque_1750_nm))
        for rows in by_ratio.values():
            torques = [torque for _, torque in sorted(rows)]
            assert torques == sorted(torques)


#: ANSI B29.1 roller (or bushing) diameter and inner width [in], from memory.
ANSI_CHAINS = {
    "25": (0.130, 0.125),
    "35": (0.200, 0.188),
    "41": (0.306, 0.250),
    "40": (0.312, 0.312),
    "50": (0.400, 0.375),
    "60": (0.469, 0.500),
    "80": (0.625, 0.625),
    "100": (0.750, 0.750),
}
CHAIN_ROWS = {row["chain"]: row for row in chain_tables.table("sizes").rows}
#: ISO 606 B series: roller diameter, inner width [mm], mass [kg/m], from memory.
B_CHAINS = {
    "06B": (6.35, 5.72, 0.41),
    "08B": (8.51, 7.75, 0.70),
    "10B": (10.16, 9.65, 0.95),
    "12B": (12.07, 11.68, 1.25),
}


@pytest.mark.parametrize("chain", ANSI_CHAINS)
def test_rollers_and_widths_of_ansi_chains(chain: str):
    size = chain_tables.sizes()[chain]
    roller, width = ANSI_CHAINS[chain]
    assert size.roller_diameter_mm == pytest.approx(roller * 25.4, abs=0.02)
    assert number(CHAIN_ROWS[chain], "inner_width_mm") == pytest.approx(width * 25.4, abs=0.02)


@pytest.mark.parametrize("chain", B_CHAINS)
def test_rollers_widths_and_mass_of_b_chains(chain: str):
    size = chain_tables.sizes()[chain]
    width = number(CHAIN_ROWS[chain], "inner_width_mm")
    assert (size.roller_diameter_mm, width, size.mass_kg_per_m) == B_CHAINS[chain]


def test_larger_chains_want_better_oiling_sooner():
    """Machinery's Handbook: limits of manual oiling and of a bath fall with pitch, and a bath goes far beyond."""
    sizes = [chain_tables.sizes()[name] for name in ("25", "35", "40", "50", "60", "80", "100")]
    manual = [size.lube_a_max_ft_min for size in sizes]
    bath = [size.lube_b_max_ft_min for size in sizes]
    assert manual == sorted(manual, reverse=True)
    assert bath == sorted(bath, reverse=True)
    assert all(5 < b / a < 10 for a, b in zip(manual, bath, strict=True))
    forty = chain_tables.sizes()["40"]
    assert (forty.lube_a_max_ft_min, forty.lube_b_max_ft_min) == (300, 2200)


@pytest.mark.parametrize(
    ("profile", "pitch", "teeth", "pull"),
    [
        ("3M", 3, 10, 6),
        ("5M", 5, 12, 12),
        ("8M", 8, 20, 25),
        ("14M", 14, 28, 50),
        ("T5", 5, 10, 6),
        ("T10", 10, 12, 12),
    ],
)
def test_banded_toothed_belts_take_the_low_end(profile: str, pitch: float, teeth: int, pull: float):
    """Low end of makers' bands, N for each mm of width; least teeth at 1160 rpm. Common practice, no source."""
    data = toothed_tables.profiles()[profile]
    assert not data.by_standard
    assert (data.pitch_mm, data.min_teeth_at(1160), data.allowable_n / data.base_width_mm) == (pitch, teeth, pull)
    assert data.min_teeth_at(3500) >= data.min_teeth_at(1750) >= teeth


@pytest.mark.parametrize(
    ("profile", "pull", "width", "teeth"), [("XL", 50.17, 9.5, (10, 11, 12)), ("L", 244.46, 25.4, (12, 14, 16)),
                                            ("H", 2100.85, 76.2, (16, 18, 20))]
)  # fmt: skip
def test_standard_toothed_belts(profile: str, pull: float, width: float, teeth: tuple[int, int, int]):
    """ISO 5294 allowable pull at base width; RMA IP-24 least teeth at 1160, 1750 and 3500 rpm. From memory."""
    data = toothed_tables.profiles()[profile]
    assert data.by_standard
    assert (data.allowable_n, data.base_width_mm) == (pull, width)
    assert tuple(data.min_teeth_at(rpm) for rpm in (1160, 1750, 3500)) == teeth


@pytest.mark.parametrize("profile", ["XL", "L", "H", "3M", "5M", "8M", "14M", "T5", "T10"])
def test_widths_and_lengths_of_a_profile_rise(profile: str):
    widths = toothed_tables.widths_mm(profile)
    assert widths == tuple(sorted(widths))
    assert widths[0] >= 3
    lengths = toothed_tables.listed_belts(SHIPPED, profile)
    assert lengths == tuple(sorted(set(lengths)))


def test_keys_grow_with_their_shafts():
    """ISO 773: a key about a quarter of the shaft, bands that meet; ANSI B17.1 square keys likewise. From memory."""
    for series in ("metric", "inch"):
        rows = [row for row in load_table("pulltide.core", "keys").rows if row["series"] == series]
        for low, high in pairwise(rows):
            assert number(low, "up_to_mm") == pytest.approx(number(high, "over_mm"))
            assert number(high, "width_mm") > number(low, "width_mm")
        for row in rows:
            middle = (number(row, "over_mm") + number(row, "up_to_mm")) / 2
            assert 0.19 < number(row, "width_mm") / middle < 0.37
            assert number(row, "height_mm") <= number(row, "width_mm")
