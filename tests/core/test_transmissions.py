"""What every family promises to whoever compares many stages: capacity without rating, forces that balance."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from math import hypot, inf, pi

import pytest

from builders import INCH, SHIPPED
from pulltide.core.duty import Duty
from pulltide.core.family import Family
from pulltide.core.forces import Disc, ToothForce, mesh_forces
from pulltide.core.links import FAMILIES
from pulltide.core.model import CoreModel
from pulltide.core.transmission import AnyResult, AnyTransmission, Bound, Flow, Sizing
from pulltide.core.units import power_kw, torque_nm

SIZING = Sizing(Duty.model_validate({"shock": "moderate", "hours_per_day": 6.0}))
LINKS = [(family, link) for family in FAMILIES for link in (family.starter(SHIPPED), *family.samples)]
each_link = pytest.mark.parametrize(
    ("family", "link"), LINKS, ids=[f"{family.kind}-{i}" for i, (family, _) in enumerate(LINKS)]
)
RPM = 600.0


def under(made: AnyTransmission, driver_nm: float, peak_nm: float | None = None, rpm: float = RPM) -> AnyResult:
    """A link with a torque at its driver: the power it delivers is found so that it takes in just that."""
    wanted = power_kw(driver_nm, rpm)
    low, high = 0.0, wanted
    for _ in range(100):
        out = (low + high) / 2
        low, high = (low, out) if made.transmit(rpm, out).power_in_kw > wanted else (out, high)
    passed = made.transmit(rpm, low)
    driven_nm = torque_nm(low, passed.driven_speed_rpm)
    flow = Flow(
        driver_speed_rpm=rpm,
        driven_speed_rpm=passed.driven_speed_rpm,
        driver_torque_nm=torque_nm(passed.power_in_kw, rpm),
        driven_torque_nm=driven_nm,
        driver_peak_torque_nm=peak_nm,
        driven_peak_torque_nm=peak_nm,
        driver_nameplate_torque_nm=driver_nm,
        power_in_kw=passed.power_in_kw,
        power_out_kw=low,
    )
    return made.rate(flow, SIZING, "link-1")


def use_at(made: AnyTransmission, bound: Bound) -> float | None:
    """Use of a bound's limit when the torque stands just at the bound."""
    torque = bound.torque_nm or 0.0
    is_peak = bound.basis.endswith("peak")
    result = under(made, 0.01 if is_peak else torque, torque if is_peak else None)
    return next(limit.use for limit in result.limits if limit.code == bound.code)


@each_link
def test_capacity_is_the_torque_that_uses_up_the_limit(family: Family, link: CoreModel):
    made = family.prepare(link, 1)
    bounds = made.capacity(RPM, SIZING)
    for bound in bounds:
        if bound.torque_nm not in (None, 0.0, inf):
            assert use_at(made, bound) == pytest.approx(1.0, rel=2e-3), bound


@each_link
def test_no_load_limit_is_without_its_capacity(family: Family, link: CoreModel):
    made = family.prepare(link, 1)
    result = under(made, 1.0, 1.5)
    told = {bound.code: bound.torque_nm for bound in made.capacity(RPM, SIZING)}
    loads = {limit.code for limit in result.limits if limit.is_load}
    assert loads <= set(told)
    for limit in result.limits:
        if limit.is_load:
            assert (limit.allowed is None) == (told[limit.code] is None), limit


@each_link
def test_capacity_does_not_rise_with_speed(family: Family, link: CoreModel):
    """What a search counts on: a stage that holds at a speed holds at every lower one, from 50 rpm up."""
    made = family.prepare(link, 1)
    for slow, fast in pairwise((50.0, 100.0, 200.0, 400.0, 800.0, 1200.0, 1700.0)):
        for before, after in zip(made.capacity(slow, SIZING), made.capacity(fast, SIZING), strict=True):
            if before.torque_nm is not None and after.torque_nm is not None and before.code not in RISES:
                assert after.torque_nm <= before.torque_nm * (1 + 1e-9), (before, after)


#: Heat goes away faster from a case that turns faster; a strain wave, rated at its output, churns more.
RISES = frozenset({"worm_set.heat", "reducer.thermal", "strain_wave.torque"})


@each_link
def test_the_speed_limit_is_met_at_the_greatest_driver_speed(family: Family, link: CoreModel):
    made = family.prepare(link, 1)
    fastest = made.max_driver_rpm
    limits = [limit for limit in under(made, 1.0).limits if not limit.is_load and limit.code != "worm_set.heat"]
    if fastest is None:
        assert all(limit.allowed is None for limit in limits)
        return
    use = next(limit.use for limit in under(made, 1.0, rpm=fastest).limits if limit.code == limits[0].code)
    assert use == pytest.approx(1.0, rel=1e-9)


#: Free bodies whose two shafts stand square to each other, or that carry their forces inside.
SQUARE = {"bevel_pair", "worm_set"}


@each_link
def test_forces_balance(family: Family, link: CoreModel):
    """What one shaft gets the other gets reversed; about each shaft the teeth make its torque. Newton's third law."""
    made = family.prepare(link, 1)
    result = under(made, 30.0)
    driver, driven = result.forces
    if family.kind not in SQUARE | {"gear_train", "gear_pair"} or getattr(link, "idlers", 1) == 0:
        assert driver.x_n + driven.x_n == pytest.approx(0, abs=2e-2 * hypot(driver.x_n, driver.y_n) + 1e-9)
        assert driver.y_n + driven.y_n == pytest.approx(0, abs=2e-2 * hypot(driver.x_n, driver.y_n) + 1e-9)
        assert driver.thrust_n == -driven.thrust_n
    if driver.at_mm != (0.0, 0.0):
        wheels = getattr(link, "rollers", 1) if family.kind == "friction_drive" else 1
        flow = result.flow
        assert driver.torque_nm * wheels == pytest.approx(-flow.driver_torque_nm, rel=1e-6)
        made_nm = driven.torque_nm * wheels * (result.turn or -1)
        assert 0.98 * flow.driven_torque_nm <= made_nm <= 1.02 * flow.driven_torque_nm / result.efficiency


def test_forces_of_a_published_helical_gear():
    """Shigley Ex. 13-9: 1 hp at 1750 rpm, 18 teeth, 12 normal pitch, 30° helix: 42, 17.7, 24.3 lbf. From memory."""
    family = next(family for family in FAMILIES if family.kind == "helical_pair")
    link = family.model.model_validate(
        {"module_mm": INCH / 12, "driver_teeth": 18, "driven_teeth": 54, "helix_deg": 30.0, "face_width_mm": 25.0}
    )
    made = family.prepare(link, 1)
    result = under(made, torque_nm(0.745700, 1750.0), rpm=1750.0)
    driver, _ = result.forces
    lbf = 4.4482216
    assert hypot(driver.x_n, driver.y_n) / lbf == pytest.approx(hypot(42.0, 17.7), rel=0.02)
    assert abs(driver.thrust_n) / lbf == pytest.approx(24.3, rel=0.02)


def test_a_mesh_pushes_its_wheels_apart_and_a_ring_pushes_its_pinion_in():
    """Driver at the left turning counterclockwise: its own tooth is held down at the right. By sketch and statics."""
    force = ToothForce(100.0, 36.4)
    outer, mate = mesh_forces(force, (20.0, 60.0), 0.0)
    assert (outer.x_n, outer.y_n) == pytest.approx((-36.4, -100.0))
    assert (mate.x_n, mate.y_n) == pytest.approx((36.4, 100.0))
    pinion, ring = mesh_forces(force, (20.0, 60.0), 0.0, "driver")
    assert (pinion.x_n, pinion.y_n) == pytest.approx((36.4, 100.0))
    assert ring.torque_nm == pytest.approx(6.0)
    big, inner = mesh_forces(force, (60.0, 20.0), 0.0, "driven")
    assert (big.x_n, big.y_n) == pytest.approx((36.4, -100.0))
    assert inner.torque_nm == pytest.approx(2.0)
    assert mesh_forces(force, (20.0, 60.0), 0.0, turn=-1.0)[0].y_n == pytest.approx(100.0)


@each_link
def test_wheels_have_inertia_and_mass(family: Family, link: CoreModel):
    made = family.prepare(link, 1)
    for side in ("driver", "driven"):
        inertia = made.inertia_kgm2(side)
        assert (inertia is None) == (not any(disc.side == side for disc in made.discs))
        assert inertia is None or inertia > 0
    if made.discs:
        assert made.mass_kg == pytest.approx(sum(disc.mass_kg for disc in made.discs))


def test_a_solid_disc():
    """A steel disc of 200 by 20 mm: 7850 π 0.01 0.02 = 4.932 kg, half of m r² = 0.02466 kg·m². By hand."""
    disc = Disc("driver", 200.0, 20.0)
    assert disc.mass_kg == pytest.approx(7850 * pi * 0.01 * 0.02)
    assert disc.inertia_kgm2 == pytest.approx(4.932 * 0.01 / 2, rel=1e-3)


@pytest.mark.parametrize("rule", ["running_load", "motor_nameplate", "flat_factor"])
def test_capacity_follows_the_margin_rule(rule: str):
    """The bound times the multiplier is the design torque, by whichever rule."""
    sizing = Sizing(Duty.model_validate({"shock": "heavy", "margin_rule": rule}))
    family = FAMILIES[0]
    made = family.prepare(family.starter(SHIPPED), 1)
    bound = made.capacity(RPM, sizing)[0].torque_nm or 0.0
    flow = replace(under(made, bound).flow, driver_nameplate_torque_nm=bound)
    assert made.rate(flow, sizing, "link-1").limits[0].use == pytest.approx(1.0)
