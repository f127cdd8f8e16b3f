"""How the figures of the least case round a train come about."""

from __future__ import annotations

from collections.abc import Callable

from pulltide.core.findings import COMMON_PRACTICE, EXACT
from pulltide.core.fit.bearings import MAX_HOURS, RELIABILITY
from pulltide.core.fit.checks import BALL
from pulltide.core.links.gear_train.transmission import TrainDetails
from pulltide.core.spur.gear_case import SUMP_MM, TIP_MM
from pulltide.core.working import Working, made_of

MIN_WALL = "δ = 0.025 a + 3"


def case_workings(d: TrainDetails) -> dict[str, Callable[[], Working]]:
    """Working of every figure of the case, by key."""
    case, other = d.case, d.other_case
    along, up, across = case.inside_mm
    left, right = case.reach_mm
    a = max(d.link.centers_mm)
    wall = f"{MIN_WALL}, at least 8" if case.wall_mm <= 8 else MIN_WALL
    rule, laid = COMMON_PRACTICE, "as above, with the shafts laid the other way"
    return {
        "case_along": made_of(
            "Inside, along the centers", "x = x_r - x_l + 2 g", along, "mm", rule, x_r=right, x_l=left, g=TIP_MM,
            note="from tip to tip, and room to the wall",
        ),
        "case_up": made_of(
            "Inside, up", "y = 2 r + g + s", up, "mm", rule, r=case.largest_mm, g=TIP_MM, s=SUMP_MM,
            note="the largest gear, room above it and the sump below",
        ),
        "case_across": made_of(
            "Inside, along the shafts", "z = bearings, gaps, faces and bosses in a row", across, "mm", rule,
            note="gaps to walls by the wall, {6|mm} between gears, bosses of two bearings and {8|mm}",
        ),
        "case_wall": made_of("Wall, cast iron", wall, case.wall_mm, "mm", rule, a=a),
        "case_volume": made_of(
            "What it holds", "V = x y z / 1000000", case.volume_l, "L", EXACT, x=along, y=up, z=across
        ),
        "case_mass": made_of(
            "Mass", "m = m_c + m_g", case.mass_kg, "kg", rule, m_c=case.case_kg, m_g=case.gears_kg,
            note="m_c: 1.25 times plain walls of iron; m_g: gears at 85 % of solid discs, and shafts",
        ),
        "case_oil": made_of(
            "Oil", "V_o = x z (s + t) / 1000000 - V_g", case.oil_l, "L", EXACT, x=along, z=across, s=SUMP_MM,
            t=case.dip_mm, V_g=case.dipped_l, note="V_g: what of the gears dips in it",
        ),
        "case_dip": made_of(
            "The largest gear dips", "t = 10 mm or two modules, at most a third of its radius", case.dip_mm, "mm", rule
        ),
        "case_life": _life(d),
        **_cost(d, laid),
        "other_volume": made_of("What it would hold", f"V = {laid}", other.volume_l, "L", rule),
        "other_mass": made_of("What it would weigh", f"m = {laid}", other.mass_kg, "kg", rule),
    }  # fmt: skip


def _cost(d: TrainDetails, laid: str) -> dict[str, Callable[[], Working]]:
    """What the iron costs; nothing while nobody says what a kilogram does."""
    price = d.link.iron_price_kg
    if price is None:
        return {}
    cost, other = price * d.case.case_kg, price * d.other_case.case_kg
    return {
        "case_cost": made_of("Cost of its iron", "K = p m_c", cost, "", EXACT, p=price, m_c=d.case.case_kg),
        "other_cost": made_of(
            "What its iron would cost", "K = p m_c", other, "", EXACT, p=price, m_c=d.other_case.case_kg, note=laid
        ),
    }


def _life(d: TrainDetails) -> Callable[[], Working]:
    """Of the bearing that wears first; what pulls the shafts from outside is not in it."""
    known = [shaft for shaft in d.case.shafts if shaft.life_h is not None]
    first = min(known, key=lambda shaft: shaft.life_h or 0.0, default=None)
    if first is None or first.bearing is None or (d.case.life_h or MAX_HOURS) >= MAX_HOURS:
        return made_of("Life of its bearings", "L = told up to 100,000 h", MAX_HOURS, "h", BALL)
    return made_of(
        "Life of the first bearing",
        "L = a_1 (C / P)^3 1e6 / (60 n)",
        d.case.life_h or 0.0,
        "h",
        BALL,
        note=f"told up to {MAX_HOURS:,.0f} h, that {d.reliability} % reach; P from the teeth alone, both planes",
        a_1=RELIABILITY[d.reliability],
        C=first.bearing.dynamic_n,
        P=first.load_n,
        n=first.speed_rpm,
    )
