"""What is peculiar to each link family."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from math import exp, log10, pi, radians, sin
from typing import Any

import pytest

from builders import SHIPPED, build_belt, build_machine
from pulltide.core import open_belt as geometry
from pulltide.core.duty import Duty
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.line import solve_line
from pulltide.core.links import family_of
from pulltide.core.links.reducer import rating as reducer_rating
from pulltide.core.links.reducer.tables import unit
from pulltide.core.links.roller_chain import geometry as chain_geometry
from pulltide.core.links.roller_chain.inputs import RollerChain
from pulltide.core.links.roller_chain.rating import rating as chain_rating
from pulltide.core.links.roller_chain.tables import sizes, strand_factor
from pulltide.core.links.roller_chain.transmission import ChainTransmission
from pulltide.core.links.v_belt import rating as belt_rating
from pulltide.core.links.v_belt import tables
from pulltide.core.sources import drive_of
from pulltide.core.sources.induction import InductionMotor as Motor
from pulltide.core.sources.induction import poles, slip
from pulltide.core.transmission import Flow, LinkResult, Sizing

SPAN = belt_rating.Span(
    wrap_deg=157.1, speed_m_per_s=7.913, center_mm=435.1, chord_mm=426.4, mass_kg_per_m=0.097, locked=True
)


def solved_link(link: dict, **changes):
    machine = build_machine(links=[link], need={"running_torque_nm": 5.0, "peak_torque_nm": 6.0} | changes)
    return solve_line(machine, machine.plans[0]).links[0]


def test_outside_and_pitch_diameter_differ_by_what_the_belt_rides_in():
    """A 3 in to 12 in drive read as outside or pitch diameters: ratios 4.273 and 4.000."""
    step = [{"driver_diameter_mm": 76.2, "driven_diameter_mm": 304.8}]
    outside = solved_link(build_belt(steps=step, belt="A64"))
    pitch = solved_link(build_belt(steps=step, belt="A64", measured_as="pitch"))
    assert outside.ratio == pytest.approx(4.273, abs=0.001)
    assert pitch.ratio == pytest.approx(4.0)


def test_belt_slip_lies_between_design_and_dry_friction():
    """Two A55 belts set to 180 N: lower bound 210.8 N, upper 308.5 N a belt. Exact from the two tension ratios."""
    assert belt_rating.slip_pull_n(180, belt_rating.tension_ratio(157.1), SPAN) == pytest.approx(210.8, rel=0.005)
    dry = belt_rating.dry_tension_ratio(157.1, 34.0)
    assert dry == pytest.approx(exp(0.3 * radians(157.1) / sin(radians(17))))
    assert belt_rating.slip_pull_n(180, dry, SPAN) == pytest.approx(308.5, rel=0.005)


def test_shaft_load_of_two_belts_at_design_load():
    """Exact: 552.9 N for two A55 belts at a pull of 169.62 N each."""
    tension = belt_rating.tension(169.62, 2, SPAN, None)
    assert tension.shaft_load_n == pytest.approx(552.9, rel=0.005)
    assert tension.deflection_mm == pytest.approx(6.66, rel=0.005)
    assert belt_rating.tension(169.62, 2, SPAN, 132.7).frequency_hz == pytest.approx(43.4, rel=0.005)
    stiff = replace(SPAN, bending_nm2=belt_rating.bending_nm2("A"))
    assert belt_rating.tension(169.62, 2, stiff, 132.7).frequency_hz == pytest.approx(44.7, rel=0.005)


def test_a_constant_pull_base_needs_no_centrifugal_allowance():
    held = belt_rating.Span(
        wrap_deg=157.1, speed_m_per_s=7.913, center_mm=435.1, chord_mm=426.4, mass_kg_per_m=0.097, locked=False
    )
    assert belt_rating.static_tension_n(169.62, SPAN) - belt_rating.static_tension_n(169.62, held) == pytest.approx(
        0.097 * 7.913**2
    )


def test_loss_falls_from_least_to_good_diameters_and_no_further():
    shares = [belt_rating.loss_model("A", 1, over).idle for over in (0.5, 1.0, 1.25, 1.5, 3.0)]
    assert shares == sorted(shares, reverse=True)
    assert (shares[0], shares[-1]) == pytest.approx((0.0225, 0.015))


def test_efficiency_of_a_belt_at_full_rating_is_in_the_published_band():
    """Fan-engineering charts, from memory: 10 to 18 % at 1/4 hp, 5 to 9 % at 3 to 5 hp; EU 327/2011 counts 11 % up to
    1 kW, 4 % from 5 kW on.
    """
    for section, hp, low, high in (
        ("4L", 0.25, 0.10, 0.18),
        ("A", 1.0, 0.06, 0.12),
        ("B", 3.0, 0.05, 0.09),
        ("B", 5.0, 0.05, 0.09),
    ):
        for over in (1.0, 1.5):
            power = hp * 0.7457
            belts = max(round(1000 * power / 10 / belt_rating.usual_pull_n(section)), 1)
            lost = belt_rating.loss_model(section, belts, over).loss_kw(power, 10.0)
            assert low <= lost / power <= high, (section, hp, over)


def test_two_belts_of_a_large_section_on_a_small_load_lose_no_sixth():
    """Two B belts on 2 kW once lost 16 %: the loss goes by power, and what bending takes is added to it."""
    lost = belt_rating.loss_model("B", 2, 1.3).loss_kw(2.0, 11.0)
    assert 0.05 <= lost / 2.0 <= 0.10


def test_creep_and_loss_do_not_jump_where_a_rating_ends():
    """A 4L belt has no rating any more at 12 000 rpm; speed and loss go on smoothly past where it ends."""
    steps = [{"driver_diameter_mm": 3.0 * 25.4, "driven_diameter_mm": 127}]
    belt = build_belt(section="4L", belt="4L400", steps=steps)
    transmission = family_of("v_belt").prepare(family_of("v_belt").model.model_validate(belt), 1)
    speeds = [6000 + 50 * k for k in range(200)]
    assert transmission.rated_at(speeds[-1]).total_kw == 0.0 < transmission.rated_at(speeds[0]).total_kw
    slowed = [transmission.transmit(n, 0.2).driven_speed_rpm / n for n in speeds]
    taken = [transmission.transmit(n, 0.2).power_in_kw for n in speeds]
    assert max(abs(b / a - 1) for a, b in pairwise(slowed)) < 1e-3
    assert max(abs(b / a - 1) for a, b in pairwise(taken)) < 5e-3


def test_matched_light_belts_carry_a_little_less_than_their_sum():
    one = solved_link(build_belt(section="4L", belt="4L520", belts=1)).details.capacity_kw
    two = solved_link(build_belt(section="4L", belt="4L520", belts=2)).details.capacity_kw
    assert two == pytest.approx(2 * 0.95 * one, rel=1e-3), "each turns at its own motor speed"


def test_length_factor_in_gaps_and_beyond_the_table():
    """Shigley Table 17-14, from memory: gaps take the row below; a 26 in A belt the smaller of table and fit."""
    assert tables.length_factor("A", 57) == 0.95
    assert tables.length_factor("A", 26) == pytest.approx(0.794, abs=0.002)
    assert tables.length_factor("B", 300) == 1.20
    assert tables.length_factor("4L", 48) == 1.0


@pytest.mark.parametrize(("length", "small", "large"), [(800, 60, 300), (100, 50, 50)])
def test_a_belt_shorter_than_the_rim_is_refused(length: float, small: float, large: float):
    with pytest.raises(ImpossibleGeometry):
        geometry.center_from_length_mm(length, small, large)


def test_wrap_is_even_whichever_pulley_drives():
    assert geometry.wrap_small_deg(80, 200, 300) == geometry.wrap_small_deg(200, 80, 300)
    assert geometry.wrap_small_deg(100, 100, 300) == 180


def test_chain_is_rated_by_its_small_sprocket_whichever_drives():
    base = {"kind": "roller_chain", "chain": "40", "pitches": 80}
    down = solved_link(base | {"driver_teeth": 17, "driven_teeth": 34})
    up = solved_link(base | {"driver_teeth": 34, "driven_teeth": 17})
    assert down.details.small_speed_rpm == pytest.approx(down.flow.driver_speed_rpm)
    assert up.details.small_speed_rpm == pytest.approx(2 * up.flow.driver_speed_rpm)
    assert up.ratio == pytest.approx(0.5)


def test_strands_do_not_add_up():
    """Shigley Table 17-23, from memory: 1, 1.7, 2.5, 3.3."""
    assert [strand_factor(count) for count in (1, 2, 3, 4)] == [1.0, 1.7, 2.5, 3.3]


def test_chain_40_changes_from_plates_to_rollers_near_1800_rpm():
    """Shigley Table 17-20: past the peak the rating falls with speed."""
    assert chain_rating(sizes()["40"], 17, 1000).governed_by == "plate fatigue"
    assert chain_rating(sizes()["40"], 17, 2500).governed_by == "roller impact"
    assert chain_rating(sizes()["60"], 17, 4300).governed_by == "galling"
    assert chain_rating(sizes()["60"], 17, 4300).min_kw == 0


def test_chain_pull_by_hand():
    """1000 P / v, with v = N p n / 60000."""
    link = solved_link({"kind": "roller_chain", "chain": "40", "driver_teeth": 17, "driven_teeth": 34, "pitches": 76})
    speed = 17 * 12.7 * 1740 / 60_000
    power = 5.0 * 870 * 2 * pi / 60_000 / 0.97
    assert link.details.pull_n == pytest.approx(1000 * power / speed)


def test_an_offset_link_and_dry_running_cost_rating():
    base = {"kind": "roller_chain", "chain": "40", "driver_teeth": 17, "driven_teeth": 34}
    even = solved_link(base | {"pitches": 76}).details
    odd = solved_link(base | {"pitches": 77, "offset_link": True}).details
    dry = solved_link(base | {"pitches": 76, "oiled": False}).details
    assert odd.capacity_kw == pytest.approx(0.7 * even.capacity_kw, rel=1e-3)
    assert dry.capacity_kw == pytest.approx(0.3 * even.capacity_kw, rel=1e-3), "the motor slows under the loss"


def test_exact_and_handbook_chain_length_agree_to_a_hundredth():
    assert chain_geometry.exact_length_pitches(30, 19, 57) == pytest.approx(
        chain_geometry.length_pitches(30, 19, 57), abs=0.01
    )


def test_reducer_ratings_pass_through_the_listed_points_and_stay_outside():
    for item in list(SHIPPED.data("reducer"))[::7]:
        for speed, listed in ((1750, item.torque_1750_nm), (875, item.torque_875_nm), (300, item.torque_300_nm)):
            assert reducer_rating.rated_torque_nm(item, speed) == pytest.approx(listed)
        assert reducer_rating.rated_torque_nm(item, 50) == item.torque_300_nm
        assert reducer_rating.rated_torque_nm(item, 3000) < item.torque_1750_nm
        assert reducer_rating.efficiency(item, 300) == pytest.approx(item.efficiency_300, abs=0.006), (
            "strain wave by its law, the list is rounded"
        )


def test_helical_rating_above_1750_follows_its_law():
    item = unit("PS-1 15:1")
    expected = item.torque_1750_nm * (1750 / 2500) ** 0.12
    assert reducer_rating.rated_torque_nm(item, 2500) == pytest.approx(expected)


@pytest.mark.parametrize(("ambient", "factor"), [(25, 1.0), (40, 0.779), (50, 0.632), (10, 1.15)])
def test_heat_limit_by_ambient(ambient: float, factor: float):
    """AGMA sump limit 93 °C, from memory: B = (93 - t) / 68, never more than 1.15."""
    item = unit("PL-1 15:1")
    assert reducer_rating.thermal_limit_kw(item, 1750, ambient) == pytest.approx(item.thermal_kw * factor, rel=0.002)


def test_overhung_rating_rises_as_the_shaft_slows_up_to_half():
    """Cube root of life, capped at 1.5 times."""
    assert reducer_rating.overhung_at_speed_n(1000, 50, 100) == pytest.approx(1000 * 2 ** (1 / 3))
    assert reducer_rating.overhung_at_speed_n(1000, 5, 100) == pytest.approx(1500)
    assert reducer_rating.overhung_at_speed_n(None, 5, 100) is None


def test_a_worm_of_unknown_efficiency_takes_the_low_end_of_its_band():
    """Common practice, no source: about 0.90 at 5 : 1 falling to 0.55 at 60 : 1."""
    values = []
    for ratio in (5, 20, 60, 200):
        link = solved_link({"kind": "reducer", "designation": "own", "own": {"type": "worm", "ratio": ratio}})
        values.append(link.efficiency)
    assert values[0] == pytest.approx(0.88)
    assert values == sorted(values, reverse=True)
    assert values[2:] == [0.55, 0.55]


def test_sense_of_helical_reducers_follows_their_stages():
    """An external mesh reverses: two stages keep the sense, three reverse it."""

    def turn(name: str):
        return solved_link({"kind": "reducer", "designation": name}).turn

    stages = {name: unit(name).stages for name in ("PL-1 15:1", "PL-1 50:1")}
    assert stages == {"PL-1 15:1": 2, "PL-1 50:1": 3}
    assert (turn("PL-1 15:1"), turn("PL-1 50:1"), turn("PW-3 15:1")) == (1, -1, None)


@pytest.mark.parametrize(
    ("rpm", "hertz", "count", "share"),
    [
        (1725, 60, 4, 0.0417),
        (3450, 60, 2, 0.0417),
        (1140, 60, 6, 0.05),
        (1425, 50, 4, 0.05),
        (2850, 50, 2, 0.05),
        (710, 50, 8, 0.0533),
    ],
)
def test_poles_and_slip_of_usual_nameplates(rpm: float, hertz: float, count: int, share: float):
    """Exact from n = 120 f / p; the speeds are usual ones."""
    assert poles(rpm, hertz) == count
    assert slip(rpm, hertz) == pytest.approx(share, abs=1e-4)


def test_a_motor_cannot_reach_its_synchronous_speed():
    with pytest.raises(ValueError, match="above 3000 rpm"):
        Motor(power_kw=1, speed_rpm=3020, frequency_hz=50)
    assert drive_of(Motor(power_kw=1, speed_rpm=1450, frequency_hz=50)).max_torque_inferred


def test_galling_is_the_speed_form_of_the_textbook():
    """Shigley's limit speed for a force, solved for the power, agrees with our galling formula within 1 %."""
    for name in ("40", "60", "80", "100"):
        size = sizes()[name]
        p = size.pitch_mm / 25.4
        for teeth in (15, 17, 21, 25):
            power = chain_rating(size, teeth, 1500.0).galling_kw / 0.745700
            if power <= 0:
                continue
            force = power * 33_000 / (1500.0 * p * teeth / 12)
            base = 82.5 / (7.95**p * 1.0278**teeth * 1.323 ** (force / 1000))
            speed = 1000 * base ** (1 / (1.59 * log10(p) + 1.873))
            assert speed == pytest.approx(1500.0, rel=0.01), (name, teeth)


def test_a_published_chain_of_three_strands():
    """Shigley Ex. 17-5: 140 chain, 17 teeth, 300 rpm: 72.4 hp a strand, 2.5 for three: 181 hp. From memory, 0.3 %."""
    size = replace(sizes()["100"], pitch_mm=1.75 * 25.4, plate_constant=0.004, roller_constant=17.0)
    one = chain_rating(size, 17, 300.0).min_kw / 0.745700
    assert one == pytest.approx(72.4, rel=0.003)
    assert 2.5 * one == pytest.approx(181.0, rel=0.003)
    assert chain_geometry.length_pitches(25.0, 17, 34) == pytest.approx(75.79, abs=0.01)
    assert chain_geometry.handbook_center_pitches(76, 17, 34) == pytest.approx(25.104, abs=0.001)


def chain_under(kw: float, driver_rpm: float, **changes: Any) -> LinkResult:
    """A chain rated by itself, at service factor 1, carrying a power at its driver."""
    link = RollerChain.model_validate(
        {"chain": "50", "driver_teeth": 19, "driven_teeth": 57, "pitches": 100, **changes}
    )
    ratio = link.driven_teeth / link.driver_teeth
    torque = 9549.297 * kw / driver_rpm
    flow = Flow(
        driver_speed_rpm=driver_rpm,
        driven_speed_rpm=driver_rpm / ratio,
        driver_torque_nm=torque,
        driven_torque_nm=torque * ratio,
        driver_peak_torque_nm=torque,
        driven_peak_torque_nm=torque * ratio,
        driver_nameplate_torque_nm=torque,
        power_in_kw=kw,
        power_out_kw=kw,
    )
    sizing = Sizing(Duty.model_validate({"service_factor_override": 1.0, "override_reason": "worked example"}))
    return ChainTransmission(link, 1).rate(flow, sizing, "link-1")


def test_galling_of_a_published_chain():
    """Shigley, text after Eq. 17-33: 40 chain, 17 teeth, 1000 rpm: 5.48, 21.64 and 223 hp. From memory, 0.5 %."""
    found = chain_rating(sizes()["40"], 17, 1000.0)
    powers = [kw / 0.745700 for kw in (found.plates_kw, found.rollers_kw, found.galling_kw)]
    assert powers == pytest.approx([5.48, 21.64, 223.0], rel=0.005)


def test_a_chain_worked_separately():
    """50, 19 and 57 teeth, 300 rpm, 3 hp, 100 links: every figure of the link, exact, 0.1 %."""
    result = chain_under(3 * 0.745700, 300.0)
    d = result.details
    assert d.speed_m_per_s * 196.850394 == pytest.approx(296.9, rel=0.001)
    assert d.pull_n / 4.4482216 == pytest.approx(333.5, rel=0.001)
    assert d.rating.plates_kw / 0.745700 == pytest.approx(4.065, rel=0.001)
    assert (d.layout.driver_pitch_mm, d.layout.driven_pitch_mm) == pytest.approx((96.449, 288.176), abs=0.001)
    assert d.layout.center_mm == pytest.approx(482.54, abs=0.01)
    assert chain_geometry.wrap_small_deg(15.875, (19, 57), d.layout.center_mm) == pytest.approx(157.08, abs=0.01)
    assert chain_geometry.exact_length_pitches(30.396, 19, 57) == pytest.approx(100, abs=0.01)
    assert chain_geometry.length_pitches(30.0, 19, 57) == pytest.approx(99.22, abs=0.01)


def test_a_slow_chain_refused_by_rating_and_by_tension():
    """80, 17 and 51 teeth, 40 rpm, 5 hp: 2.36 hp of plates; 2912 lbf against 12 500 lbf, under 5 with its own weight.

    Worked separately; 4.29 where own weight and speed are left out.
    """
    result = chain_under(5 * 0.745700, 40.0, chain="80", driver_teeth=17, driven_teeth=51)
    d = result.details
    assert d.rating.min_kw / 0.745700 == pytest.approx(2.36, rel=0.002)
    assert d.speed_m_per_s * 196.850394 == pytest.approx(56.67, rel=0.001)
    assert d.pull_n == pytest.approx(12_952, rel=0.001)
    assert d.size.ultimate_strength_n / d.pull_n == pytest.approx(4.29, abs=0.01)
    assert 4.2 < d.static_safety < 4.29
    refused = {finding.code: finding.severity for finding in result.findings}
    assert refused["roller_chain.rating"] == "error"
    assert refused["roller_chain.static_safety"] == "error"


def test_every_strand_of_a_chain_hangs_on_it():
    """Three strands weigh and fly out three times as much as one."""
    one, three = (chain_under(3 * 0.745700, 600.0, strands=strands).details for strands in (1, 3))
    assert three.strand_pull_n - three.pull_n == pytest.approx(3 * (one.strand_pull_n - one.pull_n))


def test_a_belt_too_short_for_its_pulleys_is_refused():
    """3 and 24 in on a 77 in belt: 12.57 in between centers, where the rims touch at 13.5. Exact."""
    center = geometry.center_from_length_mm(77.0, 3.0, 24.0)
    assert center == pytest.approx(12.57, abs=0.01)
    assert center < (3 + 24) / 2


@pytest.mark.parametrize(("driver", "center"), [(2.25, 20.664), (3.25, 19.957), (4.25, 19.243)])
def test_a_stepped_pulley_on_a_single_one_wants_travel(driver: float, center: float):
    """2.25, 3.25, 4.25 in on 10 in with one A60: 1.42 in of travel besides the allowances. Exact."""
    assert geometry.center_from_length_mm(61.3, driver, 10.0) == pytest.approx(center, rel=1e-3)


def test_current_and_old_belt_ratings_of_one_drive():
    """A, 3.4 and 10.2 in, 1750 rpm, A55, 3.6 hp: 1.70 belts by the standard, 3.69 by the old table. Recomputed."""
    now = belt_rating.basic_rating_kw("A", 3.4 * 25.4, 1750.0, 3.0) / 0.745700 * 0.9432 * 0.95
    assert now == pytest.approx(2.113, rel=0.003)
    assert 3.6 / now == pytest.approx(1.70, abs=0.01)
    old = tables.old_rating_hp("A", 3.4, 1557.7)
    assert old == pytest.approx(1.089, rel=0.005)
    assert 3.6 / (old * 0.9432 * 0.95) == pytest.approx(3.69, abs=0.02)
    assert 3.6 / (2 * now) == pytest.approx(0.85, abs=0.005)


@pytest.mark.parametrize(("belt", "factor"), [("A57", 0.95), ("A26", 0.794), ("B300", 1.20)])
def test_length_factors_in_gaps_and_beyond_the_ends(belt: str, factor: float):
    """Shigley Table 17-14: a gap takes the row below, a short A belt the fit, the longest keeps its row."""
    assert tables.length_factor(belt[0], float(belt[1:])) == pytest.approx(factor, abs=0.001)


@pytest.mark.parametrize(("teeth", "limit"), [(46, 3.0), (67, 3.0), (80, 2.5), (100, 2.0)])
def test_a_chain_is_done_sooner_on_a_large_sprocket(teeth: int, limit: float):
    """3 % up to 67 teeth, 200 / N beyond; 1.5 % on fixed centers. Chain makers' guidance, from memory."""
    link = {"kind": "roller_chain", "chain": "50", "driver_teeth": 17, "driven_teeth": teeth, "pitches": 140}
    d = solved_link(link).details
    assert d.worn_percent == pytest.approx(limit)
    assert d.worn_travel_mm == pytest.approx(limit / 100 * 140 * 15.875 / 2)
    assert solved_link({**link, "take_up_mm": 0}).details.worn_percent == 1.5


@pytest.mark.parametrize(
    ("teeth", "torque", "severity"), [(17, 40.0, "clear"), (17, 500.0, "error"), (17, 800.0, "error")]
)
def test_a_slow_chain_goes_by_its_pull_against_its_strength(teeth: int, torque: float, severity: str):
    """Up to 50 rpm or 0.25 m/s a seventh of the strength is the rule. ISO practice, no source."""
    links = [{"kind": "reducer", "designation": "PL-5 50:1"}]
    links += [{"kind": "roller_chain", "chain": "50", "driver_teeth": teeth, "driven_teeth": 34, "pitches": 80}]
    machine = build_machine(links=links, need={"running_torque_nm": torque, "peak_torque_nm": torque})
    line = solve_line(machine, machine.plans[0])
    assert line.shafts[1].speed_rpm < 50
    found = next(f for f in line.findings if f.code == "roller_chain.static_safety")
    assert found.severity == severity
    assert (found.measured >= 7) == (severity == "clear")


def test_a_fast_chain_between_five_and_seven_is_only_to_be_weighed():
    link = {"kind": "roller_chain", "chain": "25", "driver_teeth": 17, "driven_teeth": 34, "pitches": 80}
    found = []
    for torque in (8.0, 10.0, 12.0, 14.0, 16.0, 20.0):
        machine = build_machine(
            links=[link],
            need={"running_torque_nm": torque, "peak_torque_nm": torque},
            motor={"power_kw": 1.1, "speed_rpm": 700.0},
        )
        line = solve_line(machine, machine.plans[0])
        found.append(next(f for f in line.findings if f.code == "roller_chain.static_safety"))
    for finding in found:
        wanted = "clear" if finding.measured >= 7 else "warning" if finding.measured >= 5 else "error"
        assert finding.severity == wanted, finding.measured
    assert len({finding.severity for finding in found}) == 3


@pytest.mark.parametrize(
    "link",
    [
        build_belt(measured_as="pitch", steps=[{"driver_diameter_mm": 150, "driven_diameter_mm": 180}], belt="A26"),
        {"kind": "roller_chain", "chain": "50", "driver_teeth": 40, "driven_teeth": 60, "pitches": 60},
        {"kind": "toothed_belt", "profile": "L", "driver_teeth": 40, "driven_teeth": 60, "belt_teeth": 60,
         "width_mm": 25.4},
    ],
    ids=lambda link: link["kind"],
)  # fmt: skip
def test_what_does_not_fit_is_said_and_drawn_just_clear(link: dict):
    """Wheels that would touch are drawn 2 % apart, so that the fault can be seen and mended."""
    result = solved_link(link)
    assert any(f.severity == "error" and f.code.endswith((".touch", ".too_short")) for f in result.findings)
    place = result.details.layout
    outer = (
        place.driver_pitch_mm + place.driven_pitch_mm
        if link["kind"] == "toothed_belt"
        else place.driver_outside_mm + place.driven_outside_mm
    )
    assert place.center_mm == pytest.approx(1.02 * outer / 2)
