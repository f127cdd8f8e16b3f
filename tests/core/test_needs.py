"""Worksheets against published formulas and worked values, each with its source, and over their whole range."""

from __future__ import annotations

from math import isfinite, pi
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError
from scipy.integrate import quad
from scipy.optimize import minimize_scalar
from shapely.geometry import Point, Polygon

from anything import any_of
from draws import draws
from pulltide.core.findings import Severity
from pulltide.core.need import Need
from pulltide.core.needs import NEED_KINDS, AnyWorksheet
from pulltide.core.needs.assess import Requirement, assess
from pulltide.core.needs.axis import rmc, rms
from pulltide.core.needs.contract import Worksheet
from pulltide.core.needs.drum import half_angle_rad
from pulltide.core.needs.hammer import HammerSheet, peak_crank_torque_nm
from pulltide.core.needs.hammer import work as work_hammer
from pulltide.core.needs.press import PressSheet
from pulltide.core.needs.press import work as work_press
from pulltide.core.sketch import Dimension, arc
from worksheets import WORKSHEETS

MECHANICS = "mechanics, recomputed by hand"
SHEETS: TypeAdapter[Worksheet] = TypeAdapter(AnyWorksheet)


def answer(kind: str, **inputs: Any) -> Requirement:
    return assess(SHEETS.validate_python({"kind": kind, **inputs}))


def looked_up(requirement: Requirement, name: str) -> float:
    """A figure by name: of the requirement, of a step (by symbol) or in the machine's own words (by label)."""
    if name in ("low", "typical", "high"):
        return requirement.running_nm[("low", "typical", "high").index(name)]
    if hasattr(requirement, name):
        return getattr(requirement, name)
    if name.startswith("n_") and hasattr(requirement.speeds, f"{name[2:]}_rpm"):
        return getattr(requirement.speeds, f"{name[2:]}_rpm")
    own = {saying.label: saying.value for saying in requirement.own}
    steps = {step.symbol: step.value for working in requirement.workings.values() for step in working.steps}
    return own[name] if name in own else steps[name]


DRUM = {"inside_diameter_mm": 1200, "length_mm": 1500, "fill": 0.30, "bulk_density_kg_m3": 1100, "support": "shaft"}
ROLLERS = {
    **DRUM,
    "support": "rollers",
    "shell_mass_kg": 220,
    "tread_diameter_mm": 1200,
    "roller_diameter_mm": 100,
    "roller_pin_mm": 20,
}
PUNCH = {"shear_strength_mpa": 350, "cut_length_mm": pi * 20, "thickness_mm": 6, "speed_ideal_rpm": 60}
SCREW = {"screw_diameter_mm": 200, "pitch_mm": 200, "length_mm": 6000, "lift_mm": 1000, "bulk_density_kg_m3": 750}
POSITIONER = {"mass_kg": 200, "offset_mm": 50, "bearing_outside_mm": 300, "bearing_inside_mm": 200}

#: kind, inputs, figure, value, where the formula is published. A value is as printed there or worked by hand.
CASES: list[tuple[str, dict[str, Any], str, float, str]] = [
    ("pull", {"running_1_n": 12 * 9.80665, "arm_mm": 600}, "typical", 70.61, MECHANICS),
    ("drum", DRUM, "Critical speed", 38.61, "Perry's and mineral processing texts: 42.3/√D"),
    ("drum", DRUM, "Batch", 559.8, MECHANICS),
    ("drum", DRUM, "T_lift", 1274.1, MECHANICS),
    ("drum", DRUM, "low", 991.1, MECHANICS),
    ("drum", DRUM, "high", 1623.7, MECHANICS),
    ("drum", {**DRUM, "sticks": True}, "breakaway_nm", 1982.1, MECHANICS),
    ("drum", ROLLERS, "ΣN", 8831, MECHANICS),
    (
        "agitator",
        {
            "impeller": "six_blade_disk",
            "power_number": 5.0,
            "density_kg_m3": 1000,
            "viscosity_pa_s": 0.001,
            "impeller_diameter_mm": 150,
            "speed_ideal_rpm": 300,
        },
        "Re",
        112_500,
        "McCabe, Smith and Harriott: Re = ρ N D²/μ",
    ),
    (
        "bulk_conveyor",
        {
            "length_mm": 100_000,
            "incline_deg": 2.866,
            "throughput_t_h": 300,
            "belt_kg_m": 9,
            "top_idlers_kg_m": 12,
            "return_idlers_kg_m": 4,
            "belt_ideal_m_s": 1.6,
            "drum_diameter_mm": 400,
            "extra_n": 0,
        },
        "F_U",
        5556,
        "ISO 5048 main formula, recomputed by hand",
    ),
    (
        "paddle",
        {
            "blade_width_mm": 250,
            "bed_depth_mm": 100,
            "bulk_density_kg_m3": 1500,
            "friction_angle_deg": 32,
            "cohesion_kpa": 2,
            "blade_radius_mm": 1000,
            "blades": 1,
        },
        "typical",
        420.4,
        "Rankine passive pressure, soil mechanics texts",
    ),
    (
        "muller",
        {"wheel_load_kg": 60, "path_radius_mm": 350, "wheel_width_mm": 120, "rolling": 0.18, "scrub": 0.5},
        "typical",
        91.79,
        MECHANICS,
    ),
    ("hammer", {"ram_mass_kg": 22.7, "stroke_mm": 200, "speed_ideal_rpm": 280}, "v_i", 3.81, MECHANICS),
    ("hammer", {"ram_mass_kg": 22.7, "stroke_mm": 200, "speed_ideal_rpm": 280}, "E", 164.9, MECHANICS),
    ("hammer", {"ram_mass_kg": 22.7, "stroke_mm": 200, "speed_ideal_rpm": 280}, "typical", 37.5, MECHANICS),
    ("hammer", {"ram_mass_kg": 22.7, "stroke_mm": 200, "speed_ideal_rpm": 280}, "peak_nm", 180.8, MECHANICS),
    ("hammer", {"ram_mass_kg": 22.7, "stroke_mm": 200, "speed_ideal_rpm": 280}, "inertia_kgm2", 0.863, MECHANICS),
    ("hammer", {"ram_mass_kg": 113, "stroke_mm": 330, "speed_ideal_rpm": 200}, "typical", 259, MECHANICS),
    ("press", PUNCH, "F", 131_900, "Machinery's Handbook: F = τ L t"),
    ("press", PUNCH, "E", 395.8, "Machinery's Handbook: energy with penetration"),
    (
        "lathe",
        {"work_diameter_mm": 12, "cutting_speed_m_min": 30},
        "n_ideal",
        795.8,
        "Machinery's Handbook: n = 1000 v/π d",
    ),
    (
        "lathe",
        {"feed_mm": 0.25, "depth_mm": 2, "cutting_speed_m_min": 90, "work_diameter_mm": 50},
        "k_c",
        2695.5,
        "Kienzle",
    ),
    (
        "lathe",
        {"feed_mm": 0.25, "depth_mm": 2, "cutting_speed_m_min": 90, "work_diameter_mm": 50},
        "F_c",
        1347.8,
        "Kienzle",
    ),
    (
        "lathe",
        {"feed_mm": 0.25, "depth_mm": 2, "cutting_speed_m_min": 90, "work_diameter_mm": 50},
        "Cutting power, by specific force",
        2.022,
        "Kienzle",
    ),
    ("drill", {"drill_mm": 12, "feed_mm": 0.2, "cutting_speed_m_min": 30}, "k_c", 3131, "Kienzle"),
    (
        # 0.78 hp min/in³ is 0.78 · 2.730 J/mm³ at a chip of 0.012 in
        "lathe",
        {"material": "steel_1045", "work_diameter_mm": 50, "feed_mm": 0.3048, "depth_mm": 2},
        "k_c",
        0.78 * 2730,
        "Machinery's Handbook, power constants, from memory",
    ),
    # an empty feed follows the tool: 1/80 of a 12 mm drill, 1/240 of a 12 mm cutter. Common practice, no source
    ("drill", {"drill_mm": 12}, "Feed a turn", 0.15, "common practice"),
    ("mill", {"cutter_diameter_mm": 12, "width_mm": 6, "depth_mm": 2}, "Feed a tooth", 0.05, "common practice"),
    (
        "wood_lathe",
        {"min_blank_mm": 40, "max_blank_mm": 280, "speed_min_rpm": 600, "speed_max_rpm": 2700},
        "Step from speed to speed",
        1.6510,
        "geometric series",
    ),
    ("saw", {"wheel_diameter_mm": 400, "use": "band_saw_wood"}, "n_ideal", 954.9, MECHANICS),
    (
        "screw_conveyor",
        {**SCREW, "speed_ideal_rpm": 60, "flow_as": "usual"},
        "Q",
        5.089,
        "screw geometry; 30 % trough filling",
    ),
    (
        "bucket_elevator",
        {"throughput_t_h": 20, "lift_mm": 8000, "digging_mm": 6000, "head_diameter_mm": 500, "efficiency": 1},
        "P",
        0.763,
        "bulk handling texts: P = Q (H + H0)/367",
    ),
    (
        "hoist",
        {"load_kg": 500, "falls": 4, "drum_diameter_mm": 200, "rope_diameter_mm": 8},
        "Line pull",
        1263,
        "block efficiency, handbooks",
    ),
    (
        "gate",
        {"mass_kg": 100, "width_mm": 3000, "height_mm": 1800, "wind_m_s": 20, "travel_s": 15},
        "T_w",
        2383,
        "ASCE 7 form: q = 0.613 V²",
    ),
    ("turntable", {**POSITIONER, "tilt_deg": 60}, "T_off", 84.93, MECHANICS),
    (
        "turntable",
        {**POSITIONER, "bearing": "thrust_washers", "mass_kg": 1961 / 9.80665},
        "T_b",
        37.27,
        "Shigley, clutches",
    ),
    ("turntable", {"seam_least_mm": 200, "seam_most_mm": 200, "travel_m_min": 0.3}, "n_ideal", 0.4775, MECHANICS),
    (
        "belt_grinder",
        {"drive_wheel_mm": 150, "contact_force_n": 100, "speed_ideal_rpm": 3183.1},
        "typical",
        3.75,
        MECHANICS,
    ),
    (
        "door",
        {
            "mass_kg": 80,
            "drum_radius_mm": 100,
            "travel_mm": 2100,
            "guide_friction": 0,
            "balance_closed_n": 737.46,
            "balance_open_n": 737.46,
        },
        "typical",
        4.71,
        MECHANICS,
    ),
    (
        "door",
        {"mass_kg": 80, "drum_radius_mm": 100, "travel_mm": 2100, "balance_closed_n": 737.46, "balance_open_n": 737.46},
        "If the spring breaks",
        78.5,
        MECHANICS,
    ),
    (
        "door",
        {"mass_kg": 80, "drum_radius_mm": 100, "travel_mm": 2100, "balance_closed_n": 737.46, "balance_open_n": 737.46},
        "Energy in the balance",
        1648,
        MECHANICS,
    ),
    (
        "pull",
        {"how": "rope", "drum_diameter_mm": 90, "rope_diameter_mm": 6, "running_1_n": 1000},
        "typical",
        48.0,
        MECHANICS,
    ),
    (
        "old_motor",
        {
            "how": "amps",
            "running_amps_a": 7.5,
            "no_load_amps_a": 5.4,
            "plate_amps_a": 9,
            "rated_power_kw": 1,
            "last_shaft_rpm": 100,
        },
        "x",
        0.7229,
        "mechanics: magnetising and load current at right angles",
    ),
    (
        "old_motor",
        {
            "how": "slip",
            "loaded_speed_rpm": 1768,
            "plate_speed_rpm": 1750,
            "synchronous_rpm": 1800,
            "rated_power_kw": 1,
            "last_shaft_rpm": 100,
        },
        "x",
        0.640,
        "US DOE motor guide form",
    ),
    (
        "pump",
        {"flow_m3_h": 20, "head_mm": 15_000, "efficiency": 0.6, "at_rpm": 1450},
        "P",
        1.362,
        "Karassik: P = Q H/(367 η)",
    ),
    (
        "pump",
        {"flow_m3_h": 100 * 0.227125, "head_mm": 50 * 304.8, "efficiency": 0.65, "at_rpm": 1750},
        "P",
        1.943 * 0.7457,
        "Cameron: hp = gpm ft/(3960 η)",
    ),
    (
        "fan",
        {"flow_m3_h": 2000 * 1.699011, "pressure_kpa": 2 * 0.249089, "efficiency": 0.6, "at_rpm": 1000},
        "P",
        1.049 * 0.7457,
        "fan texts: hp = cfm in.WG/(6356 η)",
    ),
    ("propeller", {"diameter_mm": 400, "speed_ideal_rpm": 600}, "typical", 31.49, "K_Q definition: Q = K_Q ρ n² D⁵"),
    ("propeller", {"diameter_mm": 400, "waterline_mm": 20 * 304.8}, "Hull speed", 5.99 * 0.514444, "1.34 √LWL"),
    ("axis", {"move_deg": 90, "move_s": 1, "inertia_kgm2": 1}, "α", 7.069, "trapezoid in thirds: 4.5 θ/t²"),
]


@pytest.mark.parametrize(("kind", "inputs", "figure", "value", "source"), CASES)
def test_published_values(kind: str, inputs: dict[str, Any], figure: str, value: float, source: str):
    assert looked_up(answer(kind, **inputs), figure) == pytest.approx(value, rel=5e-3), source


def test_the_bed_is_the_circle_segment_that_shapely_finds():
    """Area and center of gravity of the batch against a general-purpose geometry library."""
    radius, fill = 1.0, 0.23
    theta = half_angle_rad(fill)
    segment = Polygon(arc((0, 0), radius, -pi / 2 - theta, -pi / 2 + theta))
    circle = Point(0, 0).buffer(radius, quad_segs=720)
    assert segment.area / circle.area == pytest.approx(fill, rel=4e-3)
    found = looked_up(answer("drum", **{**DRUM, "inside_diameter_mm": 2000, "fill": fill}), "r")
    assert found == pytest.approx(-segment.centroid.y, rel=3e-3)


@pytest.mark.parametrize(("energy", "lift"), [(86.9, 10.0), (1140.0, 183.0), (5.0, 400.0)])
def test_the_peak_of_the_crank_is_the_maximum_that_scipy_finds(energy: float, lift: float):
    worst = minimize_scalar(lambda a: -(lift * np.sin(a) + energy * np.sin(2 * a)), bounds=(0, np.pi), method="bounded")
    assert peak_crank_torque_nm(energy, lift) == pytest.approx(-worst.fun, rel=1e-5)


def test_equivalent_torques_of_a_cycle():
    """Segments (s, N·m, rpm): recomputed by hand; shape as in IEC 60034-1 and gear makers' handbooks."""
    parts = [(0.3, 120.0, 20.0), (0.6, 40.0, 40.0), (0.3, -80.0, 20.0), (1.8, 30.0, 0.0)]
    assert rms(parts) == pytest.approx(54.22, rel=1e-3)
    assert rmc(parts) == pytest.approx(74.65, rel=1e-3)
    continuous = quad(lambda t: (120 if t < 0.3 else 40 if t < 0.9 else -80 if t < 1.2 else 30) ** 2, 0, 3, limit=200)
    assert rms(parts) == pytest.approx((continuous[0] / 3) ** 0.5, rel=1e-4)


EACH = pytest.mark.parametrize("kind", [kind.kind for kind in NEED_KINDS])


@EACH
def test_every_worksheet_gives_a_torque_a_speed_and_a_drawing(kind: str):
    asked = answer(kind, **WORKSHEETS[kind])
    low, typical, high = asked.running_nm
    assert 0 < low <= typical <= high
    assert asked.speeds.ideal_rpm > 0
    assert asked.speeds.reason
    sheet = SHEETS.validate_python({"kind": kind, **WORKSHEETS[kind]})
    sizes = [shape for shape in asked.kind.sketch(sheet).shapes if isinstance(shape, Dimension)]
    assert any(size.value is not None for size in sizes) or kind == "old_motor"
    assert asked.kind.caution


@EACH
def test_an_empty_worksheet_stays_unknown_and_still_draws(kind: str):
    asked = answer(kind)
    assert asked.running_nm == (None, None, None)
    sheet = SHEETS.validate_python({"kind": kind})
    assert asked.kind.sketch(sheet).shapes
    assert asked.kind.title


@EACH
@settings(max_examples=draws(40), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_any_allowed_input_gives_an_ordered_answer_or_none(kind: str, data: st.DataObject):
    model = next(k.model for k in NEED_KINDS if k.kind == kind)
    own = {"speed_min_rpm": None, "speed_ideal_rpm": None, "speed_max_rpm": None, "assumed": ()}
    raw = data.draw(any_of(model, kind=kind, **own))
    try:
        sheet = SHEETS.validate_python(raw)
    except ValidationError as error:
        refused = str(error)
        sheet = None
    if sheet is None:
        assert "must rise" in refused or "is above" in refused
        return
    asked = assess(sheet)
    figures = [*asked.running_nm, asked.peak_nm, asked.breakaway_nm, asked.holding_nm, asked.inertia_kgm2]
    assert all(value is None or isfinite(value) for value in figures)
    if asked.running_nm[1] is not None:
        assert asked.running_nm == tuple(sorted(asked.running_nm))
        assert asked.workings["running"].value == pytest.approx(asked.running_nm[1])
    speeds = [asked.speeds.min_rpm, asked.speeds.ideal_rpm, asked.speeds.max_rpm]
    known = [speed for speed in speeds if speed is not None]
    assert known == sorted(known)
    assert all(speed > 0 for speed in known)
    Need.model_validate({"worksheet": raw})
    assert asked.kind.sketch(sheet).shapes
    for saying in asked.kind.say(sheet, 100.0):
        assert saying.value is None or isfinite(saying.value)


#: What trips each check of a worksheet: changes to the sane one, and the severity it must have.
TRIPS: dict[str, tuple[str, dict[str, Any], Severity]] = {
    "hammer.falls": ("hammer", {"drive": "cam", "lobes": 4, "speed_ideal_rpm": 60}, Severity.ERROR),
    "hammer.slow": ("hammer", {"speed_ideal_rpm": 90, "speed_min_rpm": 60}, Severity.WARNING),
    "pull.angle": ("pull", {"angle_deg": 40}, Severity.WARNING),
    "pull.swapped": ("pull", {"breakaway_1_n": 100}, Severity.WARNING),
    "pull.binding": ("pull", {"breakaway_1_n": 2000}, Severity.WARNING),
    "pull.by_hand": ("pull", {"hand_turned_rpm": 30}, Severity.NOTE),
    "old_motor.phase": ("old_motor", {"how": "amps", "supply": "single_phase"}, Severity.WARNING),
    "old_motor.range": (
        "old_motor",
        {"how": "amps", "running_amps_a": 12, "no_load_amps_a": 5, "plate_amps_a": 9, "rated_power_kw": 1},
        Severity.WARNING,
    ),
    "drum.speed": ("drum", {"speed_max_rpm": 31}, Severity.WARNING),
    "drum.slides": ("drum", {"speed_ideal_rpm": 3, "speed_min_rpm": 2}, Severity.NOTE),
    "drum.fill": ("drum", {"fill": 0.6}, Severity.WARNING),
    "drum.traction": ("drum", {"driven_through": "one_roller_line"}, Severity.ERROR),
    "paddle.edges": ("paddle", {"blade_top_mm": 200}, Severity.ERROR),
    "muller.thrown": ("muller", {}, Severity.WARNING),
    "agitator.size": ("agitator", {"vessel_diameter_mm": 160}, Severity.WARNING),
    "agitator.small": ("agitator", {"vessel_diameter_mm": 1600}, Severity.WARNING),
    "agitator.transition": ("agitator", {}, Severity.NOTE),
    "agitator.laminar_unknown": (
        "agitator",
        {"impeller": "six_pitched_blades", "power_number": None, "viscosity_pa_s": 50.0},
        Severity.WARNING,
    ),
    "hammer.rigid": ("hammer", {"linkage": "rigid"}, Severity.ERROR),
    "hammer.rate": ("hammer", {"speed_ideal_rpm": 380, "speed_max_rpm": 400}, Severity.WARNING),
    "hammer.wheel": ("hammer", {"wheel_diameter_mm": 400, "wheel_mass_kg": 10}, Severity.WARNING),
    "press.wheel": ("press", {"wheel_diameter_mm": 400, "wheel_mass_kg": 5}, Severity.WARNING),
    "press.reach": ("press", {"thickness_mm": 30}, Severity.ERROR),
    "lathe.span": ("lathe", {"speeds": 3}, Severity.NOTE),
    "wood_lathe.blank": ("wood_lathe", {"speed_min_rpm": 600}, Severity.WARNING),
    "wood_lathe.span": ("wood_lathe", {"speeds": 3}, Severity.NOTE),
    "mill.width": ("mill", {"width_mm": 20}, Severity.ERROR),
    "saw.bend": ("saw", {"band_thickness_mm": 0.5}, Severity.WARNING),
    "saw.rim": ("saw", {"speed_ideal_rpm": 1600, "speed_max_rpm": 1700}, Severity.WARNING),
    "grinder.rim": ("grinder", {"speed_max_rpm": 4000}, Severity.ERROR),
    "grinder.unmarked": ("grinder", {"marked_speed_m_s": None}, Severity.WARNING),
    "bulk_conveyor.back_run": ("bulk_conveyor", {"incline_deg": 15}, Severity.WARNING),
    "bulk_conveyor.steep": ("bulk_conveyor", {"incline_deg": 24}, Severity.WARNING),
    "belt_conveyor.back_run": ("belt_conveyor", {"incline_deg": 30}, Severity.WARNING),
    "belt_conveyor.steep": ("belt_conveyor", {"incline_deg": 30}, Severity.WARNING),
    "chain_conveyor.back_run": ("chain_conveyor", {"incline_deg": 45}, Severity.WARNING),
    "screw_conveyor.steep": ("screw_conveyor", {"incline_deg": 25}, Severity.WARNING),
    "pug_mill.speed": ("pug_mill", {"speed_ideal_rpm": 60, "speed_max_rpm": 80}, Severity.NOTE),
    "bucket_elevator.backstop": ("bucket_elevator", {}, Severity.WARNING),
    "bucket_elevator.discharge": ("bucket_elevator", {"speed_ideal_rpm": 110, "speed_max_rpm": 120}, Severity.WARNING),
    "hoist.brake": ("hoist", {"load_holding": "not_decided"}, Severity.ERROR),
    "hoist.drum": ("hoist", {"drum_diameter_mm": 60}, Severity.WARNING),
    "hoist.people": ("hoist", {}, Severity.NOTE),
    "lift_arm.spring_lost": ("lift_arm", {}, Severity.WARNING),
    "lift_arm.travel": ("lift_arm", {"from_deg": 10, "to_deg": 10}, Severity.ERROR),
    "door.balance": ("door", {"balance_closed_n": 600}, Severity.WARNING),
    "door.speed": ("door", {"edge_m_s": 0.4}, Severity.WARNING),
    "door.spring_lost": ("door", {}, Severity.WARNING),
    "door.closing": ("door", {}, Severity.NOTE),
    "trolley.balance": ("trolley", {"wound_turns": 6}, Severity.WARNING),
    "trolley.slack": ("trolley", {"wound_turns": 6.5}, Severity.WARNING),
    "trolley.spring_lost": ("trolley", {}, Severity.WARNING),
    "trolley.edge": ("trolley", {"edge_m_s": 0.4}, Severity.WARNING),
    "trolley.closing": ("trolley", {}, Severity.NOTE),
    "gate.edge": ("gate", {"travel_s": 8}, Severity.WARNING),
    "turntable.lurch": ("turntable", {}, Severity.WARNING),
    "turntable.ring": ("turntable", {"bearing_inside_mm": 400}, Severity.ERROR),
    "axis.inertia": ("axis", {"ratio": 25}, Severity.WARNING),
    "axis.backlash": ("axis", {"allowed_mm": 1}, Severity.WARNING),
}


@pytest.mark.parametrize("code", TRIPS)
def test_each_check_of_a_worksheet_fails_where_it_should(code: str):
    kind, changes, severity = TRIPS[code]
    asked = answer(kind, **{**WORKSHEETS[kind], **changes})
    found = [finding for finding in asked.findings if finding.code == f"need.{code}"]
    assert [finding.severity for finding in found] == [severity]
    assert found[0].fact
    assert found[0].rule in asked.kind.rules


def test_no_check_of_a_worksheet_is_left_without_a_case():
    assert {rule.code for kind in NEED_KINDS for rule in kind.rules} == {f"need.{code}" for code in TRIPS} | {
        "need.fan.wheel_speed"
    }, "a sheet refuses a flow above the rated speed; the plan is judged in test_line"


def test_what_is_cautioned_against_names_the_danger():
    """Springs, raised loads, brakes: said at the worksheet where they bite."""
    words = {kind.kind: kind.caution for kind in NEED_KINDS}
    assert "brake" in words["hoist"]
    assert "spring" in words["door"].lower()
    assert "flywheel" in words["hammer"]


def test_a_worksheet_cannot_be_overruled_by_old_answers():
    need = Need.model_validate(
        {"worksheet": {"kind": "drum", **WORKSHEETS["drum"]}, "running_torque_nm": 1.0, "peak_torque_nm": 0.5}
    )
    assert need.running_torque_nm == pytest.approx(373.9, rel=1e-3)
    again = Need.model_validate(need.model_dump(mode="json"))
    assert again == need


def test_torque_follows_speed_by_the_load_law():
    fan = Need.model_validate({"worksheet": {"kind": "fan", **WORKSHEETS["fan"]}})
    assert fan.torque_at(1.1 * fan.speed_ideal_rpm) == pytest.approx(1.21 * fan.running_torque_nm)
    drum = Need.model_validate({"worksheet": {"kind": "drum", **WORKSHEETS["drum"]}})
    assert drum.torque_at(5.0) == drum.running_torque_nm


def test_a_flywheel_is_told_as_a_disc_and_the_wheel_at_hand_is_judged():
    """J = m D² / 8 both ways; a wheel of just the weight told swings just as much as wanted. By hand."""
    sheet = {**WORKSHEETS["hammer"], "wheel_diameter_mm": 500}
    told = work_hammer(HammerSheet.model_validate(sheet), "typical")
    said = {item.label: item.value for item in told.own}
    mass = said["Flywheel as a steel disc, weight"]
    assert mass == pytest.approx(8 * told.inertia_kgm2 / 0.5**2)
    assert said["and thickness"] == pytest.approx(1000 * mass / (7850 * pi * 0.25**2))
    same = work_hammer(HammerSheet.model_validate({**sheet, "wheel_mass_kg": mass * 1.0001}), "typical")
    assert same.inertia_kgm2 == pytest.approx(told.inertia_kgm2, rel=1e-3)
    assert same.fluctuation == pytest.approx(0.20, rel=1e-3)
    assert {f.code: f.severity for f in same.findings}["need.hammer.wheel"] is Severity.CLEAR
    heavy = work_hammer(HammerSheet.model_validate({**sheet, "wheel_mass_kg": mass * 2}), "typical")
    assert heavy.fluctuation == pytest.approx(0.10)


def test_a_press_slows_by_what_its_wheel_at_hand_leaves():
    """Energy out of the wheel: J ω² (1 - (1 - s)²) / 2 = E, with half the wheel more than half as slow again."""
    press = work_press(PressSheet.model_validate({**WORKSHEETS["press"], "wheel_diameter_mm": 600}), "typical")
    mass = {item.label: item.value for item in press.own}["Flywheel as a steel disc, weight"]
    sheet = {**WORKSHEETS["press"], "wheel_diameter_mm": 600, "wheel_mass_kg": mass / 2}
    half = work_press(PressSheet.model_validate(sheet), "typical")
    energy = (1 - 0.9**2) / 2 * press.inertia_kgm2
    assert (1 - (1 - half.fluctuation) ** 2) / 2 * half.inertia_kgm2 == pytest.approx(energy)
    assert half.fluctuation == pytest.approx(1 - (1 - 2 * 0.19) ** 0.5)
