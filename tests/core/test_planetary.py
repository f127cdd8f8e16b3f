"""Planetary sets: all six drives with their signs, losses, stacks, two inputs, and what can be put together."""

from __future__ import annotations

from math import isfinite
from typing import Any

import pytest
import sympy
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from anything import any_of
from builders import SHIPPED, build_machine
from draws import draws
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.line import ladder_of, solve_line
from pulltide.core.links.planetary import FAMILY, Planetary, motion
from pulltide.core.links.planetary.working import SpeedsInputs, SteppedInputs, speeds_working, stepped_working
from pulltide.core.transmission import LinkResult

SET = {"kind": "planetary", "sun_teeth": 24, "planet_teeth": 24, "ring_teeth": 72, "module_mm": 2, "face_width_mm": 25}
#: What drives, what is driven, signed ratio and efficiency at η0 0.97 for 24/72, worked separately.
SIX = [
    ("sun", "carrier", 4.0, 0.9775),
    ("carrier", "sun", 0.25, 0.97733),
    ("sun", "ring", -3.0, 0.97),
    ("ring", "sun", -1 / 3, 0.97),
    ("ring", "carrier", 4 / 3, 0.9925),
    ("carrier", "ring", 0.75, 0.99233),
]


def solved(need: dict[str, Any] | None = None, **changes: Any) -> LinkResult:
    machine = build_machine(
        links=[{**SET, **changes}], need=need or {"running_torque_nm": 30.0, "peak_torque_nm": 40.0}
    )
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    return line.links[0]


def test_a_published_set():
    """Shigley Ex. 13-6: sun 20, planet 30, ring 80 held, sun at -100 rpm: arm -20, planet +33.3 rpm."""
    made = speeds_working(SpeedsInputs(sun_teeth=20, ring_teeth=80, sun_speed_rpm=-100.0, ring_speed_rpm=0.0))
    assert made.value == pytest.approx(-20.0)
    assert made.steps[0].value == pytest.approx(33.33, abs=0.01)


@pytest.mark.parametrize(("driver", "driven", "ratio", "efficiency"), SIX)
def test_the_six_drives(driver: motion.Member, driven: motion.Member, ratio: float, efficiency: float):
    found = motion.balance(24, 72, driver, driven, 0.97)
    assert found.ratio == pytest.approx(ratio)
    assert found.efficiency == pytest.approx(efficiency, abs=6e-6)
    assert sum(found.torques.values()) == pytest.approx(0, abs=1e-12)


@pytest.mark.parametrize(("driver", "driven", "ratio", "efficiency"), SIX)
def test_the_six_ratios_by_algebra(driver: str, driven: str, ratio: float, efficiency: float):
    """The same from Willis's equation solved by sympy for every held member, with symbols for the teeth."""
    s, r, ws, wr, wc = sympy.symbols("S R sun ring carrier")
    held = ({"sun", "ring", "carrier"} - {driver, driven}).pop()
    speeds = {"sun": ws, "ring": wr, "carrier": wc}
    equation = sympy.Eq((wr - wc) / (ws - wc), -s / r).subs(speeds[held], 0)
    solution = sympy.solve(equation, speeds[driven])[0]
    exact = sympy.simplify(speeds[driver] / solution)
    for sun, ring in ((24, 72), (17, 83), (30, 66)):
        ours = motion.balance(sun, ring, driver, driven, 0.97).ratio  # type: ignore[arg-type]
        assert ours == pytest.approx(float(exact.subs({s: sun, r: ring})))


@pytest.mark.parametrize(("driver", "driven", "ratio", "efficiency"), SIX)
def test_the_six_efficiencies_by_power(driver: str, driven: str, ratio: float, efficiency: float):
    """Loss is what is lost in the carrier's frame: (1 - η0) of the power that flows into its mesh there."""
    found = motion.balance(24, 72, driver, driven, 0.97)  # type: ignore[arg-type]
    held = ({"sun", "ring", "carrier"} - {driver, driven}).pop()
    speeds = {driver: 1.0, held: 0.0, driven: 1 / found.ratio}
    flows = [found.torques[name] * (speeds[name] - speeds["carrier"]) for name in ("sun", "ring")]
    assert 1 - found.efficiency == pytest.approx((1 - 0.97) * max(flows), rel=1e-9)


@pytest.mark.parametrize("arrangement", Planetary.model_fields["arrangement"].annotation.__args__)
def test_senses_on_the_line(arrangement: str):
    """With the carrier held the set reverses, else not; the figure shows the sign."""
    link = solved(arrangement=arrangement)
    assert link.turn == (-1 if "carrier_held" in arrangement else 1)
    figure = next(f.value for f in link.figures if f.key == "ratio")
    assert abs(figure) == pytest.approx(link.ratio)
    assert (figure < 0) == (link.turn == -1)


def test_stages_in_a_row():
    """Two stages 24/72, ring held, η0 0.97, 10 N·m: 16 to 1, 0.95551, 152.9 N·m. Worked separately."""
    stage = motion.balance(24, 72, "sun", "carrier", 0.97)
    assert stage.ratio**2 == pytest.approx(16)
    assert stage.efficiency**2 == pytest.approx(0.95551, abs=5e-6)
    assert 10 * stage.ratio**2 * stage.efficiency**2 == pytest.approx(152.9, abs=0.05)
    two = solved(stages=2)
    assert two.ratio == pytest.approx(16)
    assert two.efficiency == pytest.approx(solved().efficiency ** 2)
    assert solved(stages=3, arrangement="sun_to_ring_carrier_held").turn == -1
    assert solved(stages=2, arrangement="sun_to_ring_carrier_held").turn == 1


def test_the_last_stage_of_a_stack_sizes_the_teeth():
    """At one last-shaft torque the teeth of the last stage carry the same whatever stands before it."""
    one, two = solved(), solved(stages=2)
    assert two.details.force_n == pytest.approx(one.details.force_n, rel=1e-6)


def test_torques_of_a_set():
    """24/72, ring held, 10 N·m at the sun, η0 0.97: the ring takes 29.1, the carrier gives 39.1. Worked separately."""
    torques = motion.balance(24, 72, "sun", "carrier", 0.97).torques
    assert 10 * torques["ring"] == pytest.approx(29.1)
    assert 10 * torques["carrier"] == pytest.approx(-39.1)


def test_the_held_member_takes_the_difference():
    link = solved()
    flow = link.flow
    assert link.details.held_torque_nm == pytest.approx(flow.driven_torque_nm - flow.driver_torque_nm, rel=1e-6)


def test_two_inputs():
    """ωC = (S ωS + R ωR) / (S + R); with sun and ring at one speed the set turns as one. Exact."""
    both = SpeedsInputs(sun_teeth=24, ring_teeth=72, sun_speed_rpm=400.0, ring_speed_rpm=-100.0)
    assert speeds_working(both).value == pytest.approx((24 * 400 - 72 * 100) / 96)
    locked = SpeedsInputs(sun_teeth=24, ring_teeth=72, carrier_speed_rpm=50.0, ring_speed_rpm=50.0)
    assert speeds_working(locked).value == pytest.approx(50.0)


def test_fewer_than_two_known_speeds_drive_nothing():
    with pytest.raises(ValidationError, match="two speeds"):
        SpeedsInputs(sun_teeth=24, ring_teeth=72, sun_speed_rpm=100.0)
    with pytest.raises(ImpossibleGeometry, match="no drive"):
        motion.third_speed(24, 72, {"sun": 100.0}, "carrier")
    with pytest.raises(ValidationError, match="even"):
        SpeedsInputs(sun_teeth=23, ring_teeth=72, sun_speed_rpm=100.0, ring_speed_rpm=0.0)


def test_stepped_planets():
    """Stepped planets of equal size are plain ones: 1 + R/S. With a small second gear the ratio grows. Exact."""
    plain = SteppedInputs(sun_teeth=24, first_planet_teeth=24, second_planet_teeth=24, ring_teeth=72)
    assert stepped_working(plain).value == pytest.approx(4)
    stepped = SteppedInputs(sun_teeth=20, first_planet_teeth=40, second_planet_teeth=16, ring_teeth=76)
    assert stepped_working(stepped).value == pytest.approx(1 + 76 * 40 / (20 * 16))


@pytest.mark.parametrize(("planets", "fits"), [(3, True), (4, True), (5, False), (6, False)])
def test_what_can_be_put_together(planets: int, fits: bool):
    """24/24/72: 3 and 4 planets fit, 5 do not mesh (19.2), 6 mesh but foul (24.0 against 26 modules). Exact."""
    failed = {f.code for f in solved(planets=planets).findings if f.severity == "error"}
    assert (not failed & {"planetary.assembly", "planetary.neighbors"}) == fits
    if planets == 5:
        assert "planetary.assembly" in failed
    if planets == 6:
        assert "planetary.assembly" not in failed
        assert "planetary.neighbors" in failed


def test_planets_share_the_load():
    """Worst planet over mean: 1.0 with three and a floating sun, 1.2 with four, 1.5 fixed.

    Common practice, no source.
    """
    three, four = solved(), solved(planets=4)
    fixed = solved(sharing="fixed")
    assert four.details.force_n == pytest.approx(three.details.force_n * 3 / 4 * 1.2, rel=1e-6)
    assert fixed.details.force_n == pytest.approx(1.5 * three.details.force_n, rel=1e-6)


def test_an_edit_keeps_a_set_that_fitted():
    before = FAMILY.starter(SHIPPED)
    raw = before.model_dump() | {"planet_teeth": 30}
    assert FAMILY.reconcile(before, raw, SHIPPED)["ring_teeth"] == 84
    raw = before.model_dump() | {"ring_teeth": 80}
    assert FAMILY.reconcile(before, raw, SHIPPED)["planet_teeth"] == 28
    raw = before.model_dump() | {"ring_teeth": 81}
    assert FAMILY.reconcile(before, raw, SHIPPED)["planet_teeth"] == 24, "cannot fit, so nothing is guessed"
    with pytest.raises(ValidationError, match="more teeth"):
        Planetary.model_validate({**SET, "ring_teeth": 24})


def test_every_neighbor_goes_together():
    for variant in FAMILY.variants(FAMILY.starter(SHIPPED), SHIPPED):
        link = variant.link
        assert link.ring_teeth == link.sun_teeth + 2 * link.planet_teeth, variant.label
        assert motion.meets(link.sun_teeth, link.ring_teeth, link.planets), variant.label


@settings(max_examples=draws(150), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_any_set_gives_figures_or_is_refused(data: st.DataObject):
    """No exception but the refusal, no nan, never a gain of power, every rung above nothing."""
    raw = data.draw(any_of(Planetary, kind="planetary"))
    if raw["ring_teeth"] <= raw["sun_teeth"]:
        with pytest.raises(ValidationError, match="more teeth"):
            Planetary.model_validate(raw)
        return
    machine = build_machine(links=[raw], need={"running_torque_nm": 5.0, "peak_torque_nm": 9.0})
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    link = line.links[0]
    assert 0 < link.efficiency < 1
    assert all(figure.value is None or isfinite(figure.value) for figure in link.figures)
    ladder = ladder_of(machine, machine.plans[0], line)
    assert ladder is not None
    assert all(rung.times > 0 for rung in ladder.known)


def fitting(data: st.DataObject) -> dict:
    """A set that goes together: the ring follows from sun and planets, their number from the quotient."""
    sun, planet = data.draw(st.integers(12, 60)), data.draw(st.integers(12, 60))
    ring = sun + 2 * planet
    counts = [n for n in range(1, 9) if motion.goes_together(sun, planet, ring, n)]
    fixed = {
        "sun_teeth": sun,
        "planet_teeth": planet,
        "ring_teeth": ring,
        "planets": data.draw(st.sampled_from(counts)),
    }
    return data.draw(any_of(Planetary, kind="planetary", **fixed))


@settings(max_examples=draws(120), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_every_draw_of_a_fitting_set_is_rated(data: st.DataObject):
    """Drawn so that each draw can be used: all are solved, rated and free of what cannot be put together."""
    raw = fitting(data)
    machine = build_machine(links=[raw], need={"running_torque_nm": 5.0, "peak_torque_nm": 9.0})
    line = solve_line(machine, machine.plans[0])
    assert line is not None
    (link,) = line.links
    wrong = {"planetary.sizes", "planetary.assembly", "planetary.neighbors"}
    assert not {f.code for f in link.findings if f.severity.rank > 0} & wrong
    assert link.limits[0].use is not None
    assert link.limits[0].use > 0
    speed = line.last_shaft.speed_rpm * abs(link.ratio)
    assert speed == pytest.approx(line.shafts[0].speed_rpm, rel=1e-6)


def test_a_mesh_inside_a_ring_loses_half_of_what_one_outside_does():
    """0.985 a mesh enclosed and oiled: 0.985 x 0.9925, within the usual 0.96 to 0.98. Common practice, no source."""
    locked = FAMILY.prepare(Planetary.model_validate(SET), 1).locked_efficiency
    assert locked == pytest.approx(0.985 * 0.9925)
    assert 0.96 <= locked <= 0.98
    assert FAMILY.prepare(Planetary.model_validate({**SET, "made": "cast"}), 1).locked_efficiency == 0.90 * 0.95


@pytest.mark.parametrize(("sun", "undercut"), [(16, True), (17, False)])
def test_undercut_starts_under_seventeen_teeth(sun: int, undercut: bool):
    """2 / sin² 20° = 17.1 teeth; 17 is tolerated. Shigley Eq. 13-13."""
    found = next(f for f in solved(sun_teeth=sun, ring_teeth=48 + sun).findings if f.code == "planetary.undercut")
    assert (found.severity != "clear") == undercut


@pytest.mark.parametrize(("sun", "planet", "fouls"), [(13, 16, False), (13, 17, True), (18, 200, False)])
def test_interference_of_sun_and_planet(sun: int, planet: int, fouls: bool):
    """Cast, 13 teeth run with 16 at most, 18 with any; hobbed ones are relieved by the hob. Shigley Eq. 13-12."""
    assert "planetary.interference" not in {f.code for f in solved(sun_teeth=13, ring_teeth=61).findings}
    link = solved(made="cast", sun_teeth=sun, planet_teeth=planet, ring_teeth=sun + 2 * planet, planets=2)
    found = next(f for f in link.findings if f.code == "planetary.interference")
    assert (found.severity == "error") == fouls


def test_wear_and_bending_come_from_the_weaker_mesh():
    """A softer ring or sun lowers what the set bears; the mesh that decides is named in the working."""
    hard = {"sun_material": "steel_4140_hard", "planet_material": "steel_4140_hard", "ring_material": "steel_4140_hard"}
    strong = solved(**hard).details
    soft_ring = solved(**{**hard, "ring_material": "steel_1045_normalized"}).details
    soft_sun = solved(**{**hard, "sun_material": "steel_1045_normalized"}).details
    assert strong.soonest_worn is strong.sun_mesh, "two convex flanks wear before a convex one in a ring"
    assert soft_sun.wear_n < strong.wear_n
    assert soft_ring.wear_n <= strong.wear_n
    assert soft_ring.ring_mesh.wear_n < strong.ring_mesh.wear_n


def test_a_planets_tooth_is_bent_both_ways():
    """0.7 of the bending strength of the same gear bent one way. AGMA, Shigley section 14-3, from memory."""
    d = solved().details
    assert d.sun_mesh.mesh.bent_both_ways == (False, True)
    assert d.ring_mesh.mesh.bent_both_ways == (True, False)
    assert d.sun_mesh.gear.bending_mpa < d.sun_mesh.pinion.bending_mpa


def test_neighbors_go_the_way_they_say():
    start = FAMILY.starter(SHIPPED)
    here = start.ring_teeth / start.sun_teeth
    for variant in FAMILY.variants(start, SHIPPED):
        ratio = variant.link.ring_teeth / variant.link.sun_teeth
        if variant.direction == "higher ratio":
            assert ratio > here, variant.label
        elif variant.direction == "lower ratio":
            assert ratio < here, variant.label
        elif variant.direction == "stages":
            assert variant.link.stages == 2
        elif variant.direction == "planets":
            assert variant.link.planets == 4
        else:
            assert ratio == here, variant.label
    near = [v.link for v in FAMILY.variants(start, SHIPPED) if v.direction == "higher ratio"]
    change = [abs(link.ring_teeth - 72) + abs(link.sun_teeth - 24) for link in near]
    assert change == sorted(change), "smallest change first"
