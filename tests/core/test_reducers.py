"""Stock reducers of every kind: exact ratios from teeth, laws of the list, senses, arms, fits."""

from __future__ import annotations

from fractions import Fraction
from math import pi, prod
from typing import Any

import pytest
from pydantic import ValidationError

from builders import SHIPPED, build_belt, build_machine, looked_up
from pulltide.core.duty import Duty
from pulltide.core.findings import Severity
from pulltide.core.line import solve_line, solve_plan
from pulltide.core.links.reducer import FAMILY, Reducer, rating, tables
from pulltide.core.links.reducer.transmission import service_factor, tabulated_service_factor
from pulltide.core.links.worm_set import rating as worm_rating
from pulltide.core.transmission import LinkResult, Sizing

ROWS = {row["designation"]: row for row in tables.table("stock").rows}
KINDS = ("worm", "helical_inline", "helical_shaft_mounted", "helical_bevel", "planetary", "cycloidal", "strain_wave")


def solved(designation: str, torque_nm: float = 20.0, **changes: Any) -> LinkResult:
    need = {"running_torque_nm": torque_nm, "peak_torque_nm": 1.5 * torque_nm}
    machine = build_machine(links=[{"kind": "reducer", "designation": designation, **changes}], need=need)
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    return line.links[0]


def teeth_ratio(kind: str, written: str) -> float:
    """Ratio from the teeth as the list writes them. Exact."""
    if kind in ("worm", "helical_inline", "helical_shaft_mounted", "helical_bevel"):
        return float(prod(Fraction(part.strip()) for part in written.split("x")))
    if kind == "planetary":
        return float(prod(1 + Fraction(part.strip().strip("()").removeprefix("1+")) for part in written.split(" x ")))
    if kind == "cycloidal":
        return float(written.split(" ")[0])
    cup, ring = (int(part) for part in written.split("/"))
    return cup / (ring - cup)


@pytest.mark.parametrize("kind", KINDS)
def test_ratios_are_those_of_the_teeth(kind: str):
    units = [unit for unit in SHIPPED.data("reducer") if unit.type == kind]
    assert units
    for unit in units:
        assert unit.ratio == pytest.approx(teeth_ratio(kind, ROWS[unit.designation]["teeth"]), rel=2e-5)
        assert abs(unit.ratio / unit.ratio_nominal - 1) < 0.032, "nominal and exact differ by a few percent at most"


@pytest.mark.parametrize("kind", KINDS)
def test_senses_go_by_the_stages(kind: str):
    """An external mesh reverses; ring held keeps the sense; pins or ring held reverse; right angles must be asked."""
    for unit in SHIPPED.data("reducer"):
        if unit.type != kind:
            continue
        turn = FAMILY.prepare(looked_up(Reducer, designation=unit.designation), 1).turn
        if kind in ("worm", "helical_bevel"):
            assert turn is None
        elif kind in ("cycloidal", "strain_wave"):
            assert turn == -1
        elif kind == "planetary":
            assert turn == 1
        else:
            assert turn == (1 if unit.stages % 2 == 0 else -1)


@pytest.mark.parametrize(("kind", "exponent"), [(kind, 1 / 3 if kind == "strain_wave" else 0.12) for kind in KINDS[1:]])
def test_the_list_follows_its_law_of_speed(kind: str, exponent: float):
    """(1750 / n)^0.12, strain wave ^(1/3): the basis that the list names, from 300 to 1750 rpm and above."""
    for unit in SHIPPED.data("reducer"):
        if unit.type == kind:
            law = (1750 / 300) ** exponent
            assert unit.torque_300_nm / unit.torque_1750_nm == pytest.approx(law, rel=0.02)
            fast = rating.rated_torque_nm(unit, 2200.0)
            assert fast == pytest.approx(unit.torque_1750_nm * (1750 / 2200) ** exponent)


@pytest.mark.parametrize("kind", KINDS)
def test_a_larger_unit_never_carries_less(kind: str):
    by_ratio: dict[float, list[tables.Unit]] = {}
    for unit in SHIPPED.data("reducer"):
        if unit.type == kind:
            by_ratio.setdefault(unit.ratio_nominal, []).append(unit)
    for units in by_ratio.values():
        units.sort(key=lambda unit: unit.size_mm)
        for name in ("torque_1750_nm", "torque_300_nm", "overhung_out_n", "thermal_kw", "output_shaft_mm"):
            values = [getattr(unit, name) for unit in units]
            assert values == sorted(values), (kind, name)


@pytest.mark.parametrize(("designation", "sump"), [("PL-2 15:1", 93), ("PP-2 10:1", 90), ("PX-2 80:1", 70)])
def test_heat_limits_fall_to_nothing_at_their_sump(designation: str, sump: float):
    unit = tables.unit(designation)
    assert rating.thermal_limit_kw(unit, 1750, 25) == pytest.approx(unit.thermal_kw)
    assert rating.thermal_limit_kw(unit, 1750, sump) == pytest.approx(0, abs=1e-9)
    half = rating.thermal_limit_kw(unit, 1750, (sump + 25) / 2)
    assert half == pytest.approx(unit.thermal_kw / 2)


def test_the_torque_arm_holds_the_difference():
    """Same sense (T2 - T1) / r, against it (T2 + T1) / r: at 5 to 1 a fifth more than T2 / r. Balance of the case."""
    against = solved("PS-1 5:1", torque_arm_mm=250.0)
    force = next(f.value for f in against.figures if f.key == "arm_force")
    plain = 1000 * against.flow.driven_peak_torque_nm / 250
    assert force / plain == pytest.approx(1 + against.flow.driver_torque_nm / against.flow.driven_torque_nm, rel=1e-6)
    assert force / plain == pytest.approx(1.2, abs=0.03), "a little more, as the unit loses more at part load"
    same = solved("PS-1 15:1", torque_arm_mm=250.0)
    shorter = next(f.value for f in same.figures if f.key == "arm_force")
    assert shorter < 1000 * same.flow.driven_peak_torque_nm / 250
    assert not [f for f in solved("PS-1 15:1").figures if f.key == "arm_force"]


def test_backlash_grades():
    """Precision to economy planetary 3 to 15 arcmin, strain wave 1, worm 15 to 60. Common practice, no source."""
    lash = {kind: {u.backlash_arcmin for u in SHIPPED.data("reducer") if u.type == kind} for kind in KINDS}
    assert max(lash["strain_wave"]) <= 1 < min(lash["planetary"]) <= max(lash["planetary"]) <= 15
    assert min(lash["worm"]) >= 15
    fine = solved("PX-2 80:1", max_backlash_arcmin=3.0)
    assert next(f for f in fine.findings if f.code == "reducer.backlash").severity is Severity.CLEAR


@pytest.mark.parametrize("kind", ["helical_bevel", "planetary", "cycloidal", "strain_wave"])
def test_your_own_unit_of_any_kind(kind: str):
    own = {"type": kind, "ratio": 20.0, "turn": "same"}
    link = solved("own", own=own)
    assert link.efficiency == rating.LOW[kind], "unknown: the low end of the usual band, and said so"
    assert any(f.code == "reducer.efficiency_unknown" for f in link.findings)
    assert link.turn == 1
    assert link.limits[0].allowed is None


def test_a_stock_unit_turns_into_your_own_with_its_kind_and_sense():
    before = looked_up(Reducer, designation="PB-2 10:1")
    raw = FAMILY.reconcile(before, before.model_dump() | {"designation": "own"}, SHIPPED)
    assert raw["own"] == {"type": "helical_bevel", "ratio": before.unit.ratio, "turn": "right_angle"}
    assert Reducer.model_validate(raw).unit.direction == "right_angle"


def test_a_reducer_is_never_a_speed_increaser():
    with pytest.raises(ValidationError, match="greater than or equal to 1"):
        Reducer.model_validate({"designation": "own", "own": {"type": "helical", "ratio": 0.2}})


@pytest.mark.parametrize(("hours", "factor"), [(0.5, 0.8), (3.0, 1.0), (10.0, 1.25), (10.1, 1.5), (24.0, 1.5)])
def test_hours_on_a_limit_belong_to_the_lower_band(hours: float, factor: float):
    """AGMA 6010 type table, moderate shock, from memory; under 1 the table is shown and 1.0 used."""
    duty = Duty(shock="moderate", hours_per_day=hours)
    assert tabulated_service_factor(False, Sizing(duty)) == factor
    assert service_factor(False, Sizing(duty)).value == max(factor, 1.0)


@pytest.mark.parametrize(("hours", "factor"), [(0.5, 0.9), (2.0, 1.0), (10.0, 1.25), (24.0, 1.5)])
def test_worms_have_their_own_table(hours: float, factor: float):
    """AGMA 6034 type table, moderate shock, from memory."""
    assert tabulated_service_factor(True, Sizing(Duty(shock="moderate", hours_per_day=hours))) == factor


def test_the_textbook_comparison_of_schools():
    """150 N·m at 117 rpm, 1.25: 187.5 N·m wanted; 383 N·m listed, 14.9474 to 1: 2.55 on the load. Worked separately."""
    unit = tables.unit("PS-1 15:1")
    assert unit.ratio == pytest.approx(71 / 17 * 68 / 19, rel=1e-5)
    assert rating.rated_torque_nm(unit, 1750.0) == 383
    assert pytest.approx(2.55, abs=0.005) == 383 / 150
    assert 150 * (1750 / unit.ratio) / 9549.3 / unit.efficiency_1750 == pytest.approx(1.916, abs=0.001)


@pytest.mark.parametrize("form", ["solid_with_key", "hollow_with_key", "hollow_with_shrink_ring", "flange"])
def test_output_forms_are_judged_against_the_list(form: str):
    """A right-angle worm unit comes hollow or solid, a planetary one with a flange."""
    worm = {f.code for f in solved("PW-4 15:1", output_form=form).findings}
    planetary = {f.code for f in solved("PP-2 10:1", output_form=form).findings}
    assert ("reducer.output_form" in worm) == (form == "flange")
    assert ("reducer.output_form" in planetary) == (form != "flange")


def test_overhung_ratings_follow_the_speed_of_the_shaft():
    """Listed at 1750 rpm in; (100 / n)^(1/3), at most 1.5, of the shaft's own speed. Bearings, equal life."""
    unit = tables.unit("PL-2 15:1")
    fast = solved("PL-2 15:1").shafts
    driver = solved("PL-2 15:1").flow.driver_speed_rpm
    speed = driver / unit.ratio
    listed = 1750.0 / unit.ratio
    share = min((100 / speed) ** (1 / 3), 1.5) / min((100 / listed) ** (1 / 3), 1.5)
    assert fast.driven_overhung_n == pytest.approx(unit.overhung_out_n * share)
    assert fast.driver_overhung_n == pytest.approx(unit.overhung_in_n * (1750 / driver) ** (1 / 3))
    own = {"type": "helical", "ratio": 15.0, "turn": "same", "overhung_out_n": 1000.0}
    assert solved("own", own=own).shafts.driven_overhung_n == pytest.approx(1000.0), "a plate speaks of its own speed"


@pytest.mark.parametrize("designation", ["PL-2 15:1", "PW-4 30:1", "PP-2 10:1", "PB-2 20:1"])
def test_neighbors_are_larger_units_of_the_same_step(designation: str):
    """Offered against a torque too small: units of nearly the same ratio that carry more, smallest first."""
    start = looked_up(Reducer, designation=designation)
    torque = rating.rated_torque_nm(start.unit, 1750.0)
    larger = [
        v.link.unit for v in FAMILY.variants(start, SHIPPED) if v.direction in ("larger unit", "other kind of unit")
    ]
    assert larger
    for unit in larger:
        assert unit.torque_1750_nm > torque
        assert abs(unit.ratio_nominal / start.unit.ratio_nominal - 1) <= 0.06
    own_kind = [unit for unit in larger if unit.type == start.unit.type]
    assert [unit.torque_1750_nm for unit in own_kind] == sorted(unit.torque_1750_nm for unit in own_kind)
    for direction, wanted in (("higher ratio", True), ("lower ratio", False)):
        for variant in FAMILY.variants(start, SHIPPED):
            if variant.direction == direction:
                assert (variant.link.unit.ratio > start.unit.ratio) == wanted
                assert variant.link.unit.size_mm == start.unit.size_mm


@pytest.mark.parametrize("designation", [name for name, row in ROWS.items() if row["family"] == "worm"])
def test_every_worm_of_the_list_is_what_its_form_gives(designation: str):
    """AGMA 6034 form, Shigley Eq. 15-28 to 15-38 and 15-54: chill-cast wheel, worm C^0.875 / 2.2, 20° or 25° teeth.

    Bearings and seals 0.97, 0.96 up to 50 mm: common practice, no source.
    """
    row = ROWS[designation]
    teeth, starts = (int(part) for part in row["teeth"].split("/"))
    center = float(row["size_mm"])
    worm = (center / 25.4) ** 0.875 / 2.2 * 25.4
    wheel = 2 * center - worm
    lead = worm_rating.lead_angle_deg(starts, wheel / teeth, worm)
    for speed in (1750, 875, 300):
        sliding = worm_rating.sliding_m_per_s(worm, speed, lead)
        force = worm_rating.wear_n(center, wheel, 0.67 * worm, teeth / starts, (sliding, "chill_cast"))
        listed = float(row[f"torque_{speed}_nm"])
        assert listed == pytest.approx(force * wheel / 2000, rel=0, abs=0.51 if listed >= 100 else 0.051), speed
        if speed != 875:
            mesh = worm_rating.efficiency(lead, 25 if lead >= 30 else 20, worm_rating.friction(sliding))
            whole = mesh * (0.96 if center <= 50 else 0.97)
            assert float(row[f"efficiency_{speed}"]) == pytest.approx(whole, abs=0.0008), speed


def last_stage(row: dict[str, str]) -> float:
    return float(Fraction(row["teeth"].split("x")[-1].strip()))


@pytest.mark.parametrize("designation", [name for name, row in ROWS.items() if row["family"].startswith("helical")])
def test_every_helical_unit_of_the_list_is_what_its_last_stage_carries(designation: str):
    """T = 2 K 0.40 a³ u² / (u + 1)³ with K = 7 N/mm²; 0.98 a stage. The list's own law, common practice."""
    row = ROWS[designation]
    u, a = last_stage(row), float(row["size_mm"])
    assert float(row["torque_1750_nm"]) == pytest.approx(2 * 7 * 0.40 * a**3 * u**2 / (u + 1) ** 3 / 1000, rel=0.003)
    bevel = row["family"] == "helical_bevel"
    assert float(row["efficiency_1750"]) == pytest.approx(0.98 ** int(row["stages"]), abs=0.0015 if bevel else 0.0008)


@pytest.mark.parametrize("designation", ROWS)
def test_the_shafts_of_the_list_stand_what_they_turn(designation: str):
    """Torsion 16 T / (π d³) of bare shafts: 53 MPa at the output at 300 rpm, 48 at the input at 1750 rpm. Exact."""
    unit = tables.unit(designation)
    assert 16_000 * unit.torque_300_nm / (pi * unit.output_shaft_mm**3) <= 53.5
    driven = unit.torque_1750_nm / unit.ratio / unit.efficiency_1750
    assert 16_000 * driven / (pi * unit.input_shaft_mm**3) <= 48.5
    assert unit.torque_1750_nm < (unit.torque_875_nm or 0) < unit.torque_300_nm


@pytest.mark.parametrize("designation", ROWS)
def test_every_overhung_load_of_the_list_follows_its_shaft(designation: str):
    """4 d² (100 / n)^(1/3) N, at most 1.5 times, at mid-extension; 6 d² into shaft-mounted units. Own law."""
    row = ROWS[designation]
    pairs = [("overhung_out_n", "output_shaft_mm", 4.0, 1750 / float(row["ratio"]))]
    factor = 6.0 if row["family"] == "helical_shaft_mounted" else 4.0
    pairs.append(("overhung_in_n", "input_shaft_mm", factor, 1750.0))
    for load, shaft, factor, speed in pairs:
        law = factor * float(row[shaft]) ** 2 * min((100 / speed) ** (1 / 3), 1.5)
        assert float(row[load]) == pytest.approx(law, abs=5.1), load


@pytest.mark.parametrize("designation", [name for name, row in ROWS.items() if row["family"].startswith("helical")])
def test_every_heat_limit_of_the_helical_units_follows_the_case(designation: str):
    """18 W/m²K over k a², 68 K warmer, of what is lost: k 40 in line, 45 shaft-mounted, 48 bevel. Own law."""
    row = ROWS[designation]
    shape = {"helical_inline": 40.0, "helical_shaft_mounted": 45.0, "helical_bevel": 48.0}[row["family"]]
    shed_kw = 18 * shape * (float(row["size_mm"]) / 1000) ** 2 * 68 / 1000
    lost = 0.06 if row["family"] == "helical_bevel" else 1 - 0.98 ** int(row["stages"])
    assert float(row["thermal_kw"]) == pytest.approx(shed_kw / lost, abs=0.001)


CARRIED = {3: 0.375, 4: 0.3333, 5: 0.2812, 7: 0.2083, 10: 0.1481}
SCALED = {"cycloidal": {11: 0.19, 29: 0.1805, 59: 0.1615}, "strain_wave": {50: 0.20, 80: 0.27, 100: 0.30, 160: 0.30}}


@pytest.mark.parametrize("kind", ["planetary", "cycloidal", "strain_wave"])
def test_every_coaxial_unit_of_the_list_follows_its_size(kind: str):
    """Tooth load 5 N/mm² of the output stage (planetary); size cubed alone (the others): the list's own laws."""
    for name, row in ROWS.items():
        if row["family"] == kind:
            size = float(row["size_mm"])
            if kind == "planetary":
                stage = round(teeth_ratio(kind, row["teeth"].split(" x ")[-1]))
                law = 5 * 0.25 * (0.75 * size) ** 3 * CARRIED[stage] / 1000
            else:
                law = SCALED[kind][round(float(row["ratio"]))] * size**3 / 1000
            assert float(row["torque_1750_nm"]) == pytest.approx(law, rel=0.01, abs=0.06), name


def test_heat_of_a_worm_at_another_speed_by_hand():
    """AGMA 6034's law without a fan at 1150 rpm and 40 C: 53/68 · (0.3071 / 0.3995) of it, over the loss there."""
    unit = tables.unit("PW-4 15:1")
    loss = (1 - unit.efficiency_1750) / (1 - rating.efficiency(unit, 1150.0))
    hot = rating.thermal_limit_kw(unit, 1150.0, 40.0)
    assert hot == pytest.approx(unit.thermal_kw * 0.77941 * 0.76872 * loss, rel=1e-4)


@pytest.mark.parametrize(
    ("kind", "share"), [("helical_inline", 0.9202), ("strain_wave", 0.7937), ("worm", 0.7071)], ids=lambda v: str(v)
)
def test_a_plate_rated_slower_than_it_runs_loses_by_the_law_of_its_kind(kind: str, share: float):
    """At twice the speed of its plate: 2^-0.12, the cube root of a half, and its square root."""
    plate = tables.unit("PL-2 15:1").model_copy(update={"type": kind, "rated_input_rpm": 875.0})
    assert rating.own_speed_share(plate, 1750.0) == pytest.approx(share, abs=1e-4)
    assert rating.own_speed_share(plate, 875.0) == 1.0
    assert rating.own_speed_share(plate.model_copy(update={"rated_input_rpm": None}), 1750.0) == 1.0


def test_a_worm_starts_no_better_than_it_runs_slowly():
    """Lead angle by the list's law, 0.10 of friction at rest: never over its efficiency at 300 rpm."""
    for designation in ("PW-1 5:1", "PW-3 60:1", "PW-6 15:1"):
        unit = tables.unit(designation)
        assert 0.1 < rating.start_efficiency(unit) <= rating.efficiency(unit, 300.0)
    assert rating.start_efficiency(tables.unit("PL-2 15:1")) is None


def test_a_pull_counts_by_where_its_wheel_really_sits():
    """A shaft of 28 mm ends 60 mm from its shoulder; its rating is for the middle of that. By the moment at a bearing
    one and a half ends behind the shoulder: (x + 90) / 120."""
    belt = build_belt()
    pulls = {}
    for at in (None, 15.0, 30.0, 60.0):
        unit = {"kind": "reducer", "designation": "PW-6 15:1", "input_at_mm": at}
        machine = build_machine([belt, unit])
        result = solve_plan(machine, machine.plans[0])
        (found,) = (one for one in result.findings if one.code == "reducer.overhung_in")
        pulls[at] = found.measured
    assert tables.unit("PW-6 15:1").input_shaft_mm == 28
    assert pulls[30.0] == pytest.approx(pulls[None])
    assert pulls[60.0] == pytest.approx(1.25 * pulls[None])
    assert pulls[15.0] == pytest.approx(105 / 120 * pulls[None])
