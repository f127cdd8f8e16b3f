"""Strain-wave gears, couplings and lantern pinions."""

from __future__ import annotations

from itertools import pairwise
from math import dist, isfinite, pi
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from anything import any_of
from builders import SHIPPED, build_machine, looked_up
from draws import draws
from pulltide.core.errors import UnknownName
from pulltide.core.findings import Severity
from pulltide.core.line import ladder_of, solve_line
from pulltide.core.line_working import working
from pulltide.core.links import coupling, family_of, lantern, strain_wave
from pulltide.core.links.coupling.working import AlignmentInputs, alignment_working
from pulltide.core.links.lantern.transmission import pin_force_n
from pulltide.core.links.strain_wave.transmission import rated_efficiency
from pulltide.core.links.strain_wave.working import ratio_working
from pulltide.core.part_load import wave_efficiency
from pulltide.core.transmission import LinkResult

WAVE = {"kind": "strain_wave", "cup_teeth": 200, "ring_teeth": 202, "rated_torque_nm": 60.0}
PINS = {"kind": "lantern", "pins": 12, "wheel_teeth": 60, "circular_pitch_mm": 12.0, "pin_diameter_mm": 5.7}
PINS |= {"pin_span_mm": 20.0, "wheel_face_mm": 16.0}


def solved(link: dict[str, Any], torque_nm: float = 5.0, shock: str = "light") -> LinkResult:
    machine = build_machine(
        links=[link],
        need={"running_torque_nm": torque_nm, "peak_torque_nm": torque_nm},
        motor={"power_kw": 0.5, "speed_rpm": 900.0},
        duty={"shock": shock},
    )
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    return line.links[0]


def test_ratio_and_sense_of_a_strain_wave_gear():
    """200 in 202: -100 with the ring held, +101 with the cup held. Exact; one off or the sign is the usual error."""
    held = strain_wave.StrainWave.model_validate(WAVE)
    assert ratio_working(held).value == -100
    other = strain_wave.StrainWave.model_validate({**WAVE, "held": "cup"})
    assert ratio_working(other).value == 101
    assert (solved(WAVE).turn, solved({**WAVE, "held": "cup"}).turn) == (-1, 1)
    assert ratio_working(strain_wave.StrainWave(cup_teeth=297, ring_teeth=300, lobes="3")).value == -99


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"ring_teeth": 200}, "more teeth"),
        ({"ring_teeth": 190}, "more teeth"),
        ({"ring_teeth": 203}, "multiple of 2"),
        ({"ring_teeth": 204, "lobes": "3"}, "multiple of 3"),
        ({"rated_torque_nm": 0}, "greater than 0"),
    ],
)
def test_waves_that_cannot_turn_are_refused(changes: dict[str, Any], words: str):
    with pytest.raises(ValidationError, match=words):
        strain_wave.StrainWave.model_validate({**WAVE, **changes})


def test_a_strain_wave_gear_wastes_more_at_part_load():
    """0.65 to 0.85 at full load, less at low load and high ratio. Common practice, no source."""
    etas = [solved(WAVE, torque).efficiency for torque in (5.0, 15.0, 30.0, 60.0)]
    assert etas == sorted(etas)
    loaded = solved(WAVE, 60.0).flow.driver_speed_rpm
    assert etas[-1] == pytest.approx(rated_efficiency(strain_wave.StrainWave.model_validate(WAVE), loaded), rel=1e-6)
    assert wave_efficiency(100, 0.0) < etas[-1] < wave_efficiency(100, 1.0)
    assert 0.65 <= etas[-1] <= 0.85
    high = strain_wave.StrainWave(cup_teeth=320, ring_teeth=322)
    assert rated_efficiency(high, 1750.0) == pytest.approx(0.65)
    assert rated_efficiency(high, 300.0) == pytest.approx(0.71)
    printed = strain_wave.StrainWave(cup_teeth=100, ring_teeth=102, made_of="printed")
    assert 0.3 <= rated_efficiency(printed, 1750.0) <= 0.6


def test_an_unknown_rating_stays_unknown():
    link = solved({**WAVE, "rated_torque_nm": None})
    assert link.limits[0].allowed is None
    assert next(f.value for f in link.figures if f.key == "moment_torque") is None
    points = list(family_of("strain_wave").failure_points(link))
    assert all(point.torque_nm is None and point.missing for point in points)


def test_edits_keep_the_lobes_fitting():
    before = strain_wave.FAMILY.starter(SHIPPED)
    assert strain_wave.FAMILY.reconcile(before, before.model_dump() | {"cup_teeth": 160}, SHIPPED)["ring_teeth"] == 162
    assert strain_wave.FAMILY.reconcile(before, before.model_dump() | {"lobes": "3"}, SHIPPED)["ring_teeth"] == 203


def test_misalignments_use_each_other_up():
    """a / a_max + p / p_max: half of each is all of it. Common practice, no source."""
    both = AlignmentInputs(type="jaw", angle_off_deg=0.5, parallel_off_mm=0.1)
    assert alignment_working(both).value == pytest.approx(1.0)
    link = solved({"kind": "coupling", "designation": "CJ-65", "angle_off_deg": 0.6, "parallel_off_mm": 0.1})
    off = next(f for f in link.findings if f.code == "coupling.alignment")
    assert off.severity is Severity.WARNING
    assert off.measured == pytest.approx(1.1)


def test_service_factors_of_couplings():
    """1.0 uniform, 1.5 moderate, 2.0 to 2.5 heavy, a jaw the most. Common practice, no source."""
    factors = [
        solved({"kind": "coupling", "designation": "CJ-65"}, shock=shock).service_factor.value
        for shock in ("uniform", "moderate", "heavy")
    ]
    assert factors == [1.0, 1.5, 2.5]
    assert solved({"kind": "coupling", "designation": "CC-40-16"}, shock="heavy").service_factor.value == 2.0


def test_the_stock_list_of_couplings_follows_its_law():
    """Sleeves: 40 MPa of torsion; every size larger carries more and takes more bore within its type."""
    for unit in SHIPPED.data("coupling"):
        if unit.type == "rigid_sleeve":
            assert unit.rated_torque_nm == pytest.approx(pi / 16 * 40 * unit.max_bore_mm**3 / 1000, abs=0.06)
    for kind in ("jaw", "roller_chain", "rigid_sleeve"):
        units = [unit for unit in SHIPPED.data("coupling") if unit.type == kind]
        for small, large in pairwise(units):
            assert large.rated_torque_nm > small.rated_torque_nm
            assert large.max_bore_mm >= small.max_bore_mm


def test_a_coupling_passes_speed_and_torque_on():
    link = solved({"kind": "coupling", "designation": "CR-30"})
    assert (link.ratio, link.turn, link.efficiency) == (1, 1, 1)
    assert link.flow.driver_torque_nm == pytest.approx(link.flow.driven_torque_nm)
    with pytest.raises(ValidationError, match="not in the list"):
        looked_up(coupling.Coupling, designation="CJ-66")
    with pytest.raises(UnknownName, match="CJ-65"):
        coupling.tables.unit("CJ-66")
    with pytest.raises(ValidationError, match="at least its type"):
        coupling.Coupling(designation="own")


def test_a_stock_coupling_drops_the_plate_of_your_own():
    before = looked_up(coupling.Coupling, designation="CC-40-16")
    raw = coupling.FAMILY.reconcile(before, {"designation": "own", "own": None}, SHIPPED)
    assert raw["own"] == {"type": "roller_chain"}
    assert coupling.FAMILY.reconcile(before, {"designation": "CJ-40", "own": {"type": "jaw"}}, SHIPPED)["own"] is None


def test_a_lantern_goes_by_pins_and_teeth():
    """Ratio by counts, pitch circles p N / π that touch. Exact."""
    link = solved(PINS)
    assert (link.ratio, link.turn) == (5, -1)
    assert link.center_distance_mm == pytest.approx(12 * 72 / (2 * pi))
    back = solved({**PINS, "drives": "wheel"})
    assert back.ratio == pytest.approx(1 / 5)
    picture = family_of("lantern").prepare(lantern.Lantern.model_validate(PINS), 1).picture()
    assert len(picture.extra) == 12
    assert {round(dist((0, 0), wheel.at_mm), 6) for wheel in picture.extra} == {round(12 * 12 / pi / 2, 6)}


def test_a_pin_is_a_beam_fixed_at_both_ends():
    """σ = 32 M / (π d³) with M = W b / 8 gives back the stress."""
    force = pin_force_n(103.0, 10.0, 40.0)
    assert 32 * (force * 40.0 / 8) / (pi * 10.0**3) == pytest.approx(103.0)
    spans = [pin_force_n(103.0, 10.0, span) for span in (20, 40, 80)]
    assert spans == sorted(spans, reverse=True)


@pytest.mark.parametrize("kind", ["strain_wave", "coupling", "lantern"])
@settings(max_examples=draws(80), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_any_link_gives_figures_or_is_refused(kind: str, data: st.DataObject):
    """No exception but the refusal, no nan, never a gain of power, every rung at or above nothing."""
    family = family_of(kind)
    fixed = {"designation": "CJ-80", "own": None, "data": None} if kind == "coupling" else {}
    if kind == "strain_wave":
        cup, more = data.draw(st.integers(20, 640)), data.draw(st.sampled_from([2, 4]))
        fixed = {"cup_teeth": cup, "ring_teeth": cup + more, "lobes": "2"}
    raw = data.draw(any_of(family.model, kind=kind, **fixed))
    machine = build_machine(links=[raw], need={"running_torque_nm": 5.0, "peak_torque_nm": 9.0})
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    link = line.links[0]
    assert 0 < link.efficiency <= 1
    assert all(figure.value is None or isfinite(figure.value) for figure in link.figures)
    ladder = ladder_of(machine, machine.plans[0], line)
    assert ladder is not None
    assert all(rung.times >= 0 for rung in ladder.known)


def test_a_jaw_coupling_loses_half_a_percent():
    """Common practice, no source."""
    link = solved({"kind": "coupling", "designation": "CJ-65"})
    assert link.flow.power_in_kw == pytest.approx(link.flow.power_out_kw / 0.995)


def test_neighbors_of_a_coupling_of_unknown_rating_are_all_larger():
    own = coupling.Coupling.model_validate({"designation": "own", "own": {"type": "jaw"}})
    offered = [variant for variant in coupling.FAMILY.variants(own, SHIPPED) if variant.direction == "larger coupling"]
    assert offered[0].link.designation == "CJ-30"


def test_a_lanterns_wheel_is_rated_as_a_cast_gear_of_its_pitch():
    """Lewis with m = p / π: W = σ b m Y / Kv, Kv = (3.05 + v) / 3.05. Shigley Eq. 14-4."""
    link = solved(PINS)
    d = link.details
    speed = pi * (12 * 12 / pi) * link.flow.driver_speed_rpm / 60_000
    assert d.speed_m_per_s == pytest.approx(speed)
    assert d.velocity_factor == pytest.approx((3.05 + speed) / 3.05)
    assert d.tooth_n == pytest.approx(70.0 * 16.0 * (12.0 / pi) * d.form / d.velocity_factor)
    assert d.weakest_n == min(d.pin_n, d.tooth_n)
    assert link.driver_pull_n == pytest.approx(1.25 * d.design_force_n)


def test_what_a_strain_wave_gear_bears_for_a_moment():
    """Three times its rating before it skips, half of that printed; twice for repeated peaks.

    Common practice, no source.
    """
    assert solved(WAVE).details.moment_nm == pytest.approx(180.0)
    assert solved({**WAVE, "made_of": "printed"}).details.moment_nm == pytest.approx(90.0)
    peak = next(limit for limit in solved(WAVE).limits if limit.code == "strain_wave.peak")
    assert peak.allowed == pytest.approx(120.0)


def test_what_gives_in_a_lantern_is_its_force_times_its_radius():
    link = solved(PINS)
    d = link.details
    points = {point.name: point.torque_nm for point in family_of("lantern").failure_points(link)}
    lever = d.driver_mm / 2000
    assert d.overload_factor == pytest.approx(link.service_factor.value)
    assert points["pins tire in bending"] == pytest.approx(d.pin_n * lever / d.overload_factor)
    assert points["wheel teeth tire in bending"] == pytest.approx(d.tooth_n * lever / d.overload_factor)
    assert points["pins or teeth break"] == pytest.approx(2 * d.weakest_n * lever)
    assert points["pins and teeth wear out"] is None


def test_neighbors_of_a_lantern_keep_pins_and_pitch_together():
    """A larger pitch takes thicker pins in the same proportion; counts stay within what is allowed."""
    start = lantern.Lantern.model_validate(PINS)
    offered = {variant.label: variant.link for variant in lantern.FAMILY.variants(start, SHIPPED)}
    larger = [link for link in offered.values() if link.circular_pitch_mm > start.circular_pitch_mm]
    assert [link.circular_pitch_mm for link in larger] == [15.0, 18.0, 24.0]
    for link in larger:
        assert link.pin_diameter_mm / link.circular_pitch_mm == pytest.approx(5.7 / 12, abs=0.01)
    most = start.model_copy(update={"wheel_teeth": 400, "pins": 60, "circular_pitch_mm": 119.0})
    for variant in lantern.FAMILY.variants(most, SHIPPED):
        assert variant.link.wheel_teeth <= 400
        assert variant.link.pins <= 60
        assert variant.link.circular_pitch_mm <= 120


@pytest.mark.parametrize(("teeth", "word"), [(72, "clear"), (73, "warning"), (120, "warning"), (121, "error")])
def test_the_ratio_of_one_lantern_pair(teeth: int, word: str):
    """Up to 6 ordinary, beyond 10 too much for one pair. Common practice, no source."""
    found = next(f for f in solved({**PINS, "wheel_teeth": teeth}).findings if f.code == "lantern.ratio")
    assert found.severity == word


def test_a_coupling_is_drawn_by_its_size():
    unit = coupling.tables.unit("CJ-65")
    picture = family_of("coupling").prepare(looked_up(coupling.Coupling, designation="CJ-65"), 1).picture()
    assert picture.driver_radius_mm == picture.driven_radius_mm == unit.outside_mm / 2
    assert picture.offset_mm == (unit.length_mm * 1.5, 0.0)
    assert picture.in_line


@pytest.mark.parametrize(("pins", "torque"), [(1, 124.4), (2, 248.8)])
def test_shear_pins_let_go_at_their_area(pins: int, torque: float):
    """n τ_u (π d² / 4) D / 2, mild steel 330 MPa, 4 mm on 60 mm: 124 N·m a pin. Common practice, no source."""
    raw = {"kind": "coupling", "designation": "CR-30", "shear_pins": pins, "shear_pin_mm": 4.0, "shear_circle_mm": 60.0}
    link = solved({**raw, "shear_pin_steel": "mild_steel_1018"})
    assert link.details.pin_nm == pytest.approx(torque, abs=0.1)
    fuse = next(point for point in family_of("coupling").failure_points(link) if point.wanted)
    assert fuse.torque_nm == pytest.approx(torque, abs=0.1)
    unknown = solved(raw)
    assert unknown.details.pin_nm is None
    assert any(point.wanted and point.torque_nm is None for point in family_of("coupling").failure_points(unknown))


def test_shear_pins_are_judged_as_the_fuse():
    raw = {"kind": "coupling", "designation": "CJ-30", "shear_pins": 2, "shear_pin_mm": 8.0, "shear_circle_mm": 60.0}
    machine = build_machine(
        links=[{**raw, "shear_pin_steel": "steel_1045"}], need={"running_torque_nm": 2.0, "peak_torque_nm": 3.0}
    )
    line = solve_line(machine, machine.plans[0])
    late = next(f for f in line.findings if f.code == "ladder.fuse_late")
    assert late.severity is Severity.WARNING, "the small coupling breaks before such pins"


def test_a_wave_gear_is_even_beyond_the_ratios_known():
    """Common practice, no source: 0.75 up to 50 to 1, 0.65 from 160 to 1."""
    assert wave_efficiency(30, 0.0) == wave_efficiency(50, 0.0) == pytest.approx(0.75)
    assert wave_efficiency(320, 0.0) == wave_efficiency(160, 0.0) == pytest.approx(0.65)


def test_a_roller_with_hardly_any_grip_left_says_what_it_takes_for_granted():
    """Rolling takes all of μ 0.05: the press is worked out as if 5 % of it were left, and the working says so."""
    sizes = {"driver_diameter_mm": 20.0, "driven_diameter_mm": 60.0, "face_width_mm": 20.0, "own_friction": 0.05}
    machine = build_machine(
        links=[{"kind": "friction_drive", **sizes}], need={"running_torque_nm": 1.0, "peak_torque_nm": 1.5}
    )
    plan = machine.plans[0]
    line = solve_line(machine, plan)
    assert line.links[0].details.rolling_share * 1.5 > 0.95 * 0.05, "hardly any grip left"
    made = working(machine, plan.source, line, "link-1/to_set")
    figure = next(one for one in line.links[0].figures if one.key == "to_set")
    assert "0.05 μ" in made.steps[-1].formula
    assert made.value == pytest.approx(figure.value, rel=1e-9)
