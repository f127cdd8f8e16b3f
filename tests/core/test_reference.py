"""Published examples and tables; each names its source. Values from memory say so in the case."""

from __future__ import annotations

from typing import Any

import pytest
from scipy.optimize import brentq
from shapely import MultiPoint, Point

from pulltide.core import open_belt as geometry
from pulltide.core.line_checks import min_motor_pulley_mm
from pulltide.core.links import FAMILIES
from pulltide.core.links.roller_chain import geometry as chain_geometry
from pulltide.core.links.roller_chain.inputs import ISO_NUMBER
from pulltide.core.links.roller_chain.rating import rating
from pulltide.core.links.roller_chain.tables import sizes
from pulltide.core.links.v_belt import tables
from pulltide.core.links.v_belt.rating import arc_factor
from pulltide.core.sources import InductionMotor as Motor
from pulltide.core.units import KW_PER_HP
from pulltide.services.proof import proofs_of, published


@pytest.mark.parametrize("case", published(), ids=lambda case: case["id"])
def test_published_example(case: dict[str, Any]):
    assert case["source"]
    assert 0 < case["tolerance"] <= 0.02
    for proof in proofs_of(case):
        assert proof.computed == pytest.approx(proof.published, rel=case["tolerance"]), (proof.symbol, case["source"])
        assert proof.holds


def test_every_formula_of_a_link_has_a_published_example():
    """Every formula that a family offers by name is proved by an example that names its source."""
    offered = {method.name for family in FAMILIES for method in family.methods}
    assert offered <= {case["method"] for case in published()}


# Shigley's Mechanical Engineering Design, Table 17-20: hp of one strand, 17 teeth. Quoted from memory.
CHAIN_TABLE = {
    "40": {50: 0.37, 100: 0.69, 200: 1.29, 400: 2.40, 600: 3.45, 1000: 5.48, 1400: 7.41, 1800: 8.96, 2500: 5.51},
    "50": {50: 0.72, 100: 1.34, 200: 2.50, 400: 4.67, 600: 6.72, 1000: 10.7, 1400: 14.4, 1800: 10.7, 2500: 6.58},
    "60": {50: 1.24, 100: 2.31, 200: 4.30, 400: 8.03, 600: 11.6, 1000: 18.3, 1200: 21.6, 1600: 14.8, 2500: 7.57},
    "80": {50: 2.88, 100: 5.38, 200: 10.0, 400: 18.7, 600: 27.0, 800: 35.0, 1200: 28.7, 1600: 18.6},
    "100": {50: 5.52, 100: 10.3, 200: 19.2, 400: 35.9, 600: 51.7, 800: 63.0, 1000: 45.0, 1400: 27.2},
}


@pytest.mark.parametrize("chain", CHAIN_TABLE)
def test_chain_rating_meets_the_published_table(chain: str):
    for speed, printed in CHAIN_TABLE[chain].items():
        computed = rating(sizes()[chain], 17, speed).min_kw / KW_PER_HP
        assert computed == pytest.approx(printed, rel=0.015, abs=0.006), speed


# Shigley's Mechanical Engineering Design, Table 17-13, V-V column: (D - d) / C against K. Quoted from memory.
ARC_TABLE = {0.0: 1.00, 0.2: 0.97, 0.4: 0.94, 0.6: 0.91, 0.8: 0.87, 1.0: 0.82, 1.2: 0.77, 1.5: 0.65}


def test_arc_factor_meets_the_published_table():
    for over_center, printed in ARC_TABLE.items():
        wrap = geometry.wrap_small_deg(1.0, 1.0 + over_center, 1.0)
        assert arc_factor(wrap) == pytest.approx(printed, abs=0.0055), over_center


def test_old_belt_table_is_read_as_the_textbook_reads_it():
    """Shigley Example 17-4: B, row 7.0 and up, 3390 ft/min gives 4.693 hp. Quoted from memory."""
    assert tables.old_rating_hp("B", 7.4, 3390.0) == pytest.approx(4.693, abs=0.002)
    assert tables.old_rating_hp("A", 2.0, 1000.0) is None


@pytest.mark.parametrize(("small", "large", "center"), [(63, 280, 420), (80, 80, 200), (50, 400, 230)])
def test_open_belt_length_is_the_hull_of_two_circles(small: float, large: float, center: float):
    circles = [Point(0, 0).buffer(small / 2, 4096), Point(center, 0).buffer(large / 2, 4096)]
    hull = MultiPoint([point for circle in circles for point in circle.exterior.coords]).convex_hull
    assert geometry.open_belt_length_mm(small, large, center) == pytest.approx(hull.length, rel=1e-6)


@pytest.mark.parametrize(("small", "large", "length"), [(70, 343, 1557), (60, 400, 1330), (100, 125, 1201)])
def test_center_from_length_agrees_with_a_general_root_finder(small: float, large: float, length: float):
    low, high = (large - small) / 2 + 1e-9, length / 2
    root = brentq(lambda c: geometry.open_belt_length_mm(small, large, c) - length, low, high, xtol=1e-9)
    assert geometry.center_from_length_mm(length, small, large) == pytest.approx(root, rel=1e-8)


@pytest.mark.parametrize(("pitches", "one", "two"), [(60, 11, 40), (100, 19, 57), (44, 17, 17)])
def test_chain_center_agrees_with_a_general_root_finder(pitches: int, one: int, two: int):
    def excess(center: float) -> float:
        return chain_geometry.exact_length_pitches(center, one, two) - pitches

    low = abs(two - one) / 6.0 + 0.01
    root = brentq(excess, low, pitches / 2, xtol=1e-12)
    assert chain_geometry.center_pitches(pitches, one, two) == pytest.approx(root, rel=1e-9)


def test_sprocket_dimensions():
    """40 chain, 17 teeth: PD 2.721, OD 2.975 in (ANSI B29.1 proportions); greatest bore 1.287 in by hub proportions."""
    inch = 25.4
    assert chain_geometry.pitch_diameter_mm(12.7, 17) / inch == pytest.approx(2.7211, abs=1e-4)
    assert chain_geometry.outside_diameter_mm(12.7, 17) / inch == pytest.approx(2.9748, abs=1e-4)
    assert chain_geometry.greatest_bore_mm(12.7, 17) / inch == pytest.approx(1.287, abs=1e-3)
    assert chain_geometry.greatest_bore_mm(12.7, 19) / inch == pytest.approx(1.52, abs=5e-3)


def test_chain_strength_follows_the_pitch():
    """ANSI B29.1: least ultimate strength 12500 p^2 lbf, except chain 41 with 1500 lbf. B-series has its own."""
    for name, size in sizes().items():
        if name.endswith("B"):
            continue
        rule_n = 12_500 * (size.pitch_mm / 25.4) ** 2 * 4.4482216
        expected = 1500 * 4.4482216 if name == "41" else rule_n
        assert size.ultimate_strength_n == pytest.approx(expected, rel=0.003), name


def test_iso_numbers_name_the_pitch_in_sixteenths_of_an_inch():
    """ISO 606: 08A and 08B have 8/16 in; only the pitch is shared by A and B chains."""
    for number, chain in {**ISO_NUMBER, **{name: name for name in sizes() if name.endswith("B")}}.items():
        assert sizes()[chain].pitch_mm == pytest.approx(int(number[:2]) / 16 * 25.4), number
    assert ISO_NUMBER["085"] == "41", "the light chain of 1/2 in"
    assert ISO_NUMBER["08A"] == "40"


def test_chain_strength_and_mass_of_the_standards():
    """ISO 606, B series, least tensile strength [N]; ANSI B29.1, 80 and 100, weight [lb/ft]. Quoted from memory."""
    for name, newtons in {"06B": 8900, "08B": 17_800, "10B": 22_200, "12B": 28_900}.items():
        assert sizes()[name].ultimate_strength_n == newtons
    for name, pounds in {"80": 1.71, "100": 2.58}.items():
        assert sizes()[name].mass_kg_per_m == pytest.approx(pounds * 0.45359237 / 0.3048, abs=0.006)


def test_least_motor_pulley():
    """NEMA MG 1 Table 14-1, from memory: 1 1/2 hp at 1750 rpm wants 2.4 in, 3 hp at 1160 rpm 3.0 in."""
    assert min_motor_pulley_mm(Motor(power_kw=1.1185, speed_rpm=1750)) == pytest.approx(2.4 * 25.4)
    assert min_motor_pulley_mm(Motor(power_kw=2.237, speed_rpm=1160)) == pytest.approx(3.0 * 25.4)
    assert min_motor_pulley_mm(Motor(power_kw=0.25, speed_rpm=1725)) is None


# RMA IP-20 service factors as printed in Machinery's Handbook; hours up to 5, up to 10, above. Quoted from memory.
BELT_SERVICE = {
    ("uniform", False): (1.0, 1.1, 1.2),
    ("light", False): (1.1, 1.2, 1.3),
    ("moderate", False): (1.2, 1.3, 1.4),
    ("heavy", False): (1.3, 1.4, 1.5),
    ("uniform", True): (1.1, 1.2, 1.3),
    ("light", True): (1.2, 1.3, 1.4),
    ("moderate", True): (1.4, 1.5, 1.6),
    ("heavy", True): (1.5, 1.6, 1.8),
}


@pytest.mark.parametrize(("shock", "high_torque"), BELT_SERVICE)
def test_belt_service_factors(shock: str, high_torque: bool):
    found = tuple(tables.service_factor(shock, high_torque, hours) for hours in (5, 10, 10.1))
    assert found == BELT_SERVICE[(shock, high_torque)]


@pytest.mark.parametrize(
    ("section", "inches", "angle"),
    [
        # RMA IP-20 (datum) and IP-23 (outside), quoted from memory
        ("A", 3.0, 34),
        ("A", 5.4, 34),
        ("A", 6.0, 38),
        ("B", 5.4, 34),
        ("B", 8.0, 38),
        ("4L", 2.5, 30),
        ("4L", 3.0, 32),
        ("4L", 4.0, 34),
        ("4L", 6.0, 38),
        ("3L", 2.0, 32),
        ("5L", 5.0, 34),
    ],
)
def test_groove_angles(section: str, inches: float, angle: float):
    assert tables.groove_angle_deg(section, inches * 25.4) == angle


@pytest.mark.parametrize(
    ("section", "name", "fit_in", "take_up_in"),
    [
        # Machinery's Handbook after RMA IP-20, quoted from memory to about 0.25 in; light sections common practice
        ("A", "A31", 0.75, 1.0),
        ("A", "A46", 0.75, 1.5),
        ("A", "A90", 1.0, 2.5),
        ("B", "B46", 1.0, 1.5),
        ("B", "B75", 1.25, 2.0),
        ("4L", "4L200", 0.75, 0.75),
    ],
)
def test_room_to_fit_and_tension_a_belt(section: str, name: str, fit_in: float, take_up_in: float):
    room = tables.allowance(section, tables.belt(section, name))
    assert (room.fit_mm / 25.4, room.take_up_mm / 25.4) == pytest.approx((fit_in, take_up_in))


@pytest.mark.parametrize(
    ("section", "min_in", "inward_in"),
    [("3L", 1.5, 0.06), ("4L", 2.5, 0.10), ("5L", 3.5, 0.16), ("A", 3.0, 0.25), ("B", 5.4, 0.35)],
)
def test_section_sizes(section: str, min_in: float, inward_in: float):
    """RMA IP-20 and IP-23, quoted from memory: least pulley, and how far the belt rides inside the rim."""
    data = tables.section(section)
    assert data.min_diameter_mm == pytest.approx(min_in * 25.4)
    assert data.outside_minus_pitch_mm == pytest.approx(inward_in * 25.4)


def test_least_motor_pulleys_of_usual_motors():
    """NEMA MG 1 Table 14-1 by power and speed, in, quoted from memory."""
    published = {
        (1, 1750): 2.2,
        (2, 1750): 2.4,
        (3, 1750): 2.4,
        (5, 1750): 3.0,
        (10, 1750): 3.8,
        (2, 3450): 2.4,
        (5, 1160): 3.0,
    }
    for (power_hp, speed), inches in published.items():
        motor = Motor(power_kw=power_hp * KW_PER_HP, speed_rpm=speed)
        assert min_motor_pulley_mm(motor) == pytest.approx(inches * 25.4), (power_hp, speed)
