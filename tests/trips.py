"""For each check a machine that trips it, with the severity it should have; and builders of plans of one link."""

from __future__ import annotations

from typing import Any

from builders import INCH, build_belt
from pulltide.core.findings import Severity
from pulltide.core.links.reducer import tables as reducer_tables

ERROR, WARNING, NOTE = Severity.ERROR, Severity.WARNING, Severity.NOTE


def pair(driver_mm: float, driven_mm: float) -> list[dict[str, float]]:
    return [{"driver_diameter_mm": driver_mm, "driven_diameter_mm": driven_mm}]


def belt(**changes: Any) -> list[dict[str, Any]]:
    return [build_belt(**{"measured_as": "pitch", **changes})]


def drum(diameter_mm: float, designation: str) -> list[dict[str, Any]]:
    return belt(driven_rim="flat_drum", steps=pair(80, diameter_mm), belt=designation)


def idler(side: str, diameter_mm: float, push_mm: float = 10.0) -> dict[str, Any]:
    return {"idler": side, "idler_diameter_mm": diameter_mm, "idler_push_mm": push_mm}


def plate(**changes: Any) -> dict[str, Any]:
    """A motor on a hinged plate."""
    sizes = {"plate_mass_kg": 30.0, "plate_arm_mm": 150.0, "hinge_across_mm": 180.0, "hinge_up_mm": 60.0}
    return {"tensioning": "hinged_plate", "tight_strand": "farther_from_the_hinge", **sizes, **changes}


def fuse(**changes: Any) -> list[dict[str, Any]]:
    return belt(slips_first=True, **changes)


def chain(**changes: Any) -> list[dict[str, Any]]:
    return [{"kind": "roller_chain", "chain": "40", "driver_teeth": 17, "driven_teeth": 34, "pitches": 76} | changes]


def toothed(**changes: Any) -> list[dict[str, Any]]:
    link = {"kind": "toothed_belt", "profile": "L", "driver_teeth": 20, "driven_teeth": 40, "width_mm": 25.4}
    return [{**link, "belt_teeth": 80} | changes]


def gears(**changes: Any) -> list[dict[str, Any]]:
    link = {"kind": "gear_pair", "module_mm": 3.0, "driver_teeth": 20, "driven_teeth": 61, "face_width_mm": 30.0}
    return [link | changes]


def helical(**changes: Any) -> list[dict[str, Any]]:
    sizes = {"driver_teeth": 20, "driven_teeth": 61, "helix_deg": 15.0, "face_width_mm": 40.0}
    return [{"kind": "helical_pair", "module_mm": 3.0, **sizes, "running": "open_greased"} | changes]


def bevel(**changes: Any) -> list[dict[str, Any]]:
    sizes = {"driver_teeth": 20, "driven_teeth": 41, "face_width_mm": 26.0}
    return [{"kind": "bevel_pair", "module_mm": 4.0, **sizes} | changes]


def roller(**changes: Any) -> list[dict[str, Any]]:
    sizes = {"driver_diameter_mm": 100.0, "driven_diameter_mm": 500.0, "face_width_mm": 50.0}
    return [{"kind": "friction_drive", **sizes, "press_n": 900.0} | changes]


def torque(running_nm: float) -> dict[str, float]:
    return {"running_torque_nm": running_nm, "peak_torque_nm": running_nm}


def planetary(**changes: Any) -> list[dict[str, Any]]:
    link = {"kind": "planetary", "sun_teeth": 24, "planet_teeth": 24, "ring_teeth": 72, "module_mm": 2.0}
    return [{**link, "face_width_mm": 25.0} | changes]


def worm(**changes: Any) -> list[dict[str, Any]]:
    link = {"kind": "worm_set", "wheel_teeth": 40, "module_mm": 3.0, "worm_pitch_mm": 36.0, "face_width_mm": 22.0}
    return [{**link, "worm_is": "hardened_and_ground"} | changes]


def wave(**changes: Any) -> list[dict[str, Any]]:
    return [{"kind": "strain_wave", "cup_teeth": 200, "ring_teeth": 202, "rated_torque_nm": 60.0} | changes]


def coupling(designation: str = "CJ-65", **changes: Any) -> list[dict[str, Any]]:
    return [{"kind": "coupling", "designation": designation} | changes]


def lantern(**changes: Any) -> list[dict[str, Any]]:
    link = {"kind": "lantern", "pins": 12, "wheel_teeth": 60, "circular_pitch_mm": 12.0, "pin_diameter_mm": 5.7}
    return [{**link, "pin_span_mm": 20.0, "wheel_face_mm": 16.0} | changes]


def unit(designation: str = "PL-2 15:1", **changes: Any) -> list[dict[str, Any]]:
    return [{"kind": "reducer", "designation": designation} | changes]


def reducer(designation: str = "PW-4 15:1", **own: Any) -> list[dict[str, Any]]:
    link: dict[str, Any] = {"kind": "reducer", "designation": designation}
    return [link | ({"own": {"type": "worm", "ratio": 15} | own} if designation == "own" else {})]


def train(**changes: Any) -> list[dict[str, Any]]:
    counts = {"driver_1_teeth": 20, "driven_1_teeth": 61, "driver_2_teeth": 22, "driven_2_teeth": 59}
    return [{"kind": "gear_train", **counts, "module_1_mm": 3.0} | changes]


def plain(**changes: Any) -> list[dict[str, Any]]:
    link = {"kind": "plain_belt", "belt": "polyamide_a2", "driver_diameter_mm": 120, "driven_diameter_mm": 240}
    return [{**link, "center_distance_mm": 700} | changes]


LIGHT = {"running_torque_nm": 2.0, "peak_torque_nm": 3.0, "breakaway_torque_nm": None}
SLOW_MOTOR = {"power_kw": 0.2, "speed_rpm": 310.0}

#: An inverter from 20 to 60 Hz that is asked for more than that.
INVERTER = {"inverter": {"fitted": True, "run_hz": 40.0, "min_hz": 20.0, "max_hz": 60.0}}
CONTROLLED = {**LIGHT, "speed_min_rpm": 100.0, "speed_ideal_rpm": 500.0, "speed_max_rpm": 2000.0}
HOIST = {
    "worksheet": {
        "kind": "hoist",
        "load_kg": 50,
        "drum_diameter_mm": 120,
        "rope_diameter_mm": 5,
        "lift_m_s": 0.2,
        "load_holding": "brake",
    }
}
WOUND = {"running_torque_nm": 15.0, "end": {"kind": "drum", "drum_diameter_mm": 12, "brake": "yes"}}
#: code, severity, links, need, motor, duty
TRIPS: list[tuple[str, Severity, list[dict[str, Any]], dict[str, Any], dict[str, Any], dict[str, Any]]] = [
    ("ladder.fuse_late", WARNING, [*fuse(static_tension_n=2000.0), *chain(chain="25")], LIGHT, {}, {}),
    ("ladder.fuse_early", WARNING, fuse(static_tension_n=1.0), LIGHT, {}, {}),
    ("ladder.fuse_unknown", WARNING, fuse(), LIGHT, {}, {}),
    ("v_belt.rating", WARNING, belt(), {"running_torque_nm": 19.0, "peak_torque_nm": 19.0}, {}, {}),
    ("v_belt.rating", ERROR, belt(), {"running_torque_nm": 40.0, "peak_torque_nm": 40.0}, {}, {}),
    ("v_belt.no_rating", ERROR, belt(section="B", belt="B42", steps=pair(50, 100)), LIGHT, {}, {}),
    ("v_belt.slip_at_peak", WARNING, belt(static_tension_n=60), {**LIGHT, "peak_torque_nm": 6.0}, {}, {}),
    ("v_belt.slip_at_peak", ERROR, belt(static_tension_n=60), {**LIGHT, "peak_torque_nm": 60.0}, {}, {}),
    ("v_belt.tension_set", WARNING, belt(static_tension_n=10), LIGHT, {}, {}),
    ("v_belt.speed", WARNING, belt(steps=pair(290, 300), belt="A85"), LIGHT, {}, {}),
    ("v_belt.speed", ERROR, belt(steps=pair(400, 400), belt="A112"), LIGHT, {}, {}),
    ("v_belt.slow", NOTE, belt(), LIGHT, SLOW_MOTOR, {}),
    ("v_belt.wrap", WARNING, belt(steps=pair(80, 400), belt="A55"), LIGHT, {}, {}),
    ("v_belt.least_diameter", WARNING, belt(steps=pair(70, 140)), LIGHT, {}, {}),
    ("v_belt.least_diameter", ERROR, belt(steps=pair(50, 140)), LIGHT, {}, {}),
    ("v_belt.ratio", NOTE, belt(steps=pair(80, 540), belt="A96"), LIGHT, {}, {}),
    ("v_belt.ratio", WARNING, belt(steps=pair(80, 680), belt="A128"), LIGHT, {}, {}),
    ("v_belt.center_near", WARNING, belt(steps=pair(100, 300), belt="A48"), LIGHT, {}, {}),
    ("v_belt.touch", ERROR, belt(steps=pair(150, 180), belt="A26"), LIGHT, {}, {}),
    ("v_belt.too_short", ERROR, belt(steps=pair(80, 260), belt="A26"), LIGHT, {}, {}),
    ("v_belt.center_far", WARNING, belt(steps=pair(80, 100), belt="A96"), LIGHT, {}, {}),
    (
        "catalog.differs",
        NOTE,
        [{**reducer()[0], "data": reducer_tables.unit("PW-4 15:1").model_copy(update={"mass_kg": 1.0}).model_dump()}],
        LIGHT,
        {},
        {},
    ),
    ("catalog.not_listed", NOTE, belt(belt="A47"), LIGHT, {}, {}),
    ("v_belt.no_belt", NOTE, belt(belt=None, center_distance_mm=400), LIGHT, {}, {}),
    ("v_belt.take_up", NOTE, belt(), LIGHT, {}, {}),
    ("v_belt.take_up", WARNING, belt(take_up_mm=10), LIGHT, {}, {}),
    ("v_belt.take_up", ERROR, belt(take_up_mm=0), LIGHT, {}, {}),
    ("v_belt.steps", WARNING, belt(steps=pair(80, 200) + pair(120, 200), take_up_mm=70), LIGHT, {}, {}),
    ("v_belt.many", WARNING, belt(section="4L", belt="4L520", belts=5), LIGHT, {}, {}),
    ("v_belt.flex", NOTE, belt(section="3L", belt="3L200", steps=pair(80, 80)), LIGHT, {"speed_rpm": 3450}, {}),
    ("v_belt.old_rating", NOTE, belt(), {"running_torque_nm": 12.0, "peak_torque_nm": 12.0}, {}, {}),
    (
        "v_belt.old_rating",
        WARNING,
        belt(),
        {"running_torque_nm": 10.0, "peak_torque_nm": 10.0},
        {},
        {"hours_per_day": 20},
    ),
    ("v_belt.cautious_rating", NOTE, belt(section="AX", belt="AX51"), {"running_torque_nm": 18.0}, {}, {}),
    ("v_belt.estimate", NOTE, belt(section="SPZ", belt="SPZ1250"), LIGHT, {}, {}),
    ("v_belt.drum_ratio", NOTE, belt(driven_rim="flat_drum"), LIGHT, {}, {}),
    ("v_belt.wrap", WARNING, drum(600.0, "A80"), LIGHT, {}, {}),
    ("v_belt.plate_off", ERROR, belt(**plate(hinge_across_mm=0.0, hinge_up_mm=0.0)), LIGHT, {}, {}),
    ("v_belt.plate_unknown", NOTE, belt(**plate(plate_mass_kg=None)), LIGHT, {}, {}),
    ("v_belt.idler_off", ERROR, belt(**idler("slack_strand_outside", 100.0, 300.0)), LIGHT, {}, {}),
    ("v_belt.idler_size", WARNING, belt(**idler("slack_strand_outside", 90.0)), LIGHT, {}, {}),
    ("v_belt.idler_size", WARNING, belt(**idler("slack_strand_inside", 60.0)), LIGHT, {}, {}),
    ("v_belt.idler_tight", WARNING, belt(**idler("tight_strand_inside", 90.0)), LIGHT, {}, {}),
    ("gear_train.centers", ERROR, train(driven_2_teeth=60), LIGHT, {}, {}),
    ("gear_train.clearance", ERROR, train(layout="in_a_row", driven_1_teeth=90, driven_2_teeth=40), LIGHT, {}, {}),
    ("gear_train.wanted", WARNING, train(wanted_ratio=9.0), LIGHT, {}, {}),
    ("gear_train.ratio", WARNING, train(driver_1_teeth=18, driven_1_teeth=124, layout="in_a_row"), LIGHT, {}, {}),
    ("gear_train.ratio", ERROR, train(driver_1_teeth=18, driven_1_teeth=190, layout="in_a_row"), LIGHT, {}, {}),
    ("gear_train.undercut", NOTE, train(driver_1_teeth=14, driven_1_teeth=67), LIGHT, {}, {}),
    (
        "gear_train.contact_ratio",
        WARNING,
        train(driver_1_teeth=11, driven_1_teeth=15, layout="in_a_row"),
        LIGHT,
        {},
        {},
    ),
    ("gear_train.bending", WARNING, train(), {"running_torque_nm": 400.0}, {}, {}),
    ("gear_train.bending", ERROR, train(), {"running_torque_nm": 3000.0}, {}, {}),
    ("gear_train.wear", ERROR, train(), {"running_torque_nm": 3000.0}, {}, {}),
    ("gear_train.no_wear", NOTE, train(driver_material="tin_bronze"), LIGHT, {}, {}),
    ("gear_train.prototype", WARNING, train(driven_material="printed_nylon"), LIGHT, {}, {}),
    ("gear_train.stall", WARNING, train(face_modules=3, module_1_mm=0.8), LIGHT, {}, {}),
    ("gear_train.speed", WARNING, train(made="cast", module_1_mm=12), LIGHT, {}, {}),
    ("helical_pair.bending", WARNING, helical(), torque(500.0), {}, {}),
    ("helical_pair.bending", ERROR, helical(), torque(3000.0), {}, {}),
    ("helical_pair.wear", ERROR, helical(), torque(3000.0), {}, {}),
    ("helical_pair.no_wear", NOTE, helical(driver_material="tin_bronze"), LIGHT, {}, {}),
    ("helical_pair.prototype", WARNING, helical(driven_material="printed_nylon"), LIGHT, {}, {}),
    ("helical_pair.stall", WARNING, helical(module_mm=0.8, face_width_mm=12), LIGHT, {"power_kw": 4.0}, {}),
    ("helical_pair.speed", WARNING, helical(made="cast", module_mm=10, face_width_mm=150), LIGHT, {}, {}),
    ("helical_pair.overlap", WARNING, helical(face_width_mm=30), LIGHT, {}, {}),
    ("helical_pair.wide", WARNING, helical(face_width_mm=150), LIGHT, {}, {}),
    ("helical_pair.steep", WARNING, helical(helix_deg=35), LIGHT, {}, {}),
    ("helical_pair.thrust", NOTE, helical(), LIGHT, {}, {}),
    ("helical_pair.undercut", NOTE, helical(driver_teeth=14), LIGHT, {}, {}),
    ("helical_pair.contact_ratio", WARNING, helical(helix_deg=40), LIGHT, {}, {}),
    ("helical_pair.ratio", WARNING, helical(driven_teeth=140), LIGHT, {}, {}),
    ("helical_pair.ratio", ERROR, helical(driven_teeth=220), LIGHT, {}, {}),
    ("bevel_pair.bending", WARNING, bevel(), torque(120.0), {}, {}),
    ("bevel_pair.bending", ERROR, bevel(), torque(3000.0), {}, {}),
    ("bevel_pair.wear", ERROR, bevel(), torque(3000.0), {}, {}),
    ("bevel_pair.no_wear", NOTE, bevel(driver_material="tin_bronze"), LIGHT, {}, {}),
    ("bevel_pair.prototype", WARNING, bevel(driven_material="printed_nylon"), LIGHT, {}, {}),
    ("bevel_pair.stall", WARNING, bevel(module_mm=1.0, face_width_mm=6), LIGHT, {"power_kw": 4.0}, {}),
    ("bevel_pair.speed", WARNING, bevel(made="cast", module_mm=10, face_width_mm=60), LIGHT, {}, {}),
    ("bevel_pair.face", WARNING, bevel(face_width_mm=40), LIGHT, {}, {}),
    ("bevel_pair.ratio", WARNING, bevel(driven_teeth=90), LIGHT, {}, {}),
    ("bevel_pair.ratio", ERROR, bevel(driven_teeth=140), LIGHT, {}, {}),
    ("bevel_pair.undercut", NOTE, bevel(driver_teeth=13, driven_teeth=26), LIGHT, {}, {}),
    (
        "bevel_pair.contact_ratio",
        ERROR,
        bevel(driver_teeth=10, driven_teeth=10, shafts_deg=30, face_width_mm=8),
        LIGHT,
        {},
        {},
    ),
    ("bevel_pair.thrust", NOTE, bevel(), LIGHT, {}, {}),
    ("friction_drive.grip", WARNING, roller(), torque(65.0), {}, {}),
    ("friction_drive.grip", ERROR, roller(), torque(130.0), {}, {}),
    ("friction_drive.slip_at_peak", WARNING, roller(), {"running_torque_nm": 20.0, "peak_torque_nm": 120.0}, {}, {}),
    ("friction_drive.press_unset", NOTE, roller(press_n=None), LIGHT, {}, {}),
    ("friction_drive.pressure", WARNING, roller(press_n=2000), LIGHT, {}, {}),
    ("friction_drive.rolling", WARNING, roller(press_n=1200), torque(5.0), {}, {}),
    ("plain_belt.pull", WARNING, plain(width_mm=10), {"running_torque_nm": 8.5, "peak_torque_nm": 8.5}, {}, {}),
    ("plain_belt.pull", ERROR, plain(width_mm=10), {"running_torque_nm": 12.0, "peak_torque_nm": 12.0}, {}, {}),
    ("plain_belt.slip_at_peak", WARNING, plain(static_tension_n=40), {**LIGHT, "peak_torque_nm": 20.0}, {}, {}),
    ("plain_belt.too_tight", WARNING, plain(static_tension_n=900), LIGHT, {}, {}),
    ("plain_belt.tension_unset", NOTE, plain(), LIGHT, {}, {}),
    ("plain_belt.least_pulley", WARNING, plain(driver_diameter_mm=50), LIGHT, {}, {}),
    ("plain_belt.wrap", WARNING, plain(driven_diameter_mm=500, center_distance_mm=400), LIGHT, {}, {}),
    ("plain_belt.speed", WARNING, plain(driver_diameter_mm=400, driven_diameter_mm=500), LIGHT, {}, {}),
    ("plain_belt.crossed_near", WARNING, plain(runs="crossed"), LIGHT, {}, {}),
    ("plain_belt.touch", ERROR, plain(center_distance_mm=150), LIGHT, {}, {}),
    ("planetary.sizes", ERROR, planetary(planet_teeth=25), LIGHT, {}, {}),
    ("planetary.assembly", ERROR, planetary(planets=5), LIGHT, {}, {}),
    ("planetary.neighbors", ERROR, planetary(planets=6), LIGHT, {}, {}),
    ("planetary.few_planets", NOTE, planetary(planets=2), LIGHT, {}, {}),
    ("planetary.interference", ERROR, planetary(sun_teeth=12, planet_teeth=30, made="cast"), LIGHT, {}, {}),
    ("planetary.undercut", NOTE, planetary(sun_teeth=15), LIGHT, {}, {}),
    ("planetary.ring", ERROR, planetary(sun_teeth=12, planet_teeth=64), LIGHT, {}, {}),
    ("planetary.ratio", WARNING, planetary(sun_teeth=12, planet_teeth=60, ring_teeth=132), LIGHT, {}, {}),
    ("planetary.ratio", ERROR, planetary(sun_teeth=12, planet_teeth=90, ring_teeth=192), LIGHT, {}, {}),
    ("planetary.overdrive", NOTE, planetary(arrangement="carrier_to_sun_ring_held"), LIGHT, {}, {}),
    ("planetary.reversed", NOTE, planetary(arrangement="sun_to_ring_carrier_held"), LIGHT, {}, {}),
    ("planetary.bending", WARNING, planetary(sun_material="tin_bronze"), {"running_torque_nm": 118.0}, {}, {}),
    ("planetary.bending", ERROR, planetary(face_width_mm=5.0), {"running_torque_nm": 400.0}, {}, {}),
    ("planetary.wear", ERROR, planetary(face_width_mm=5.0), {"running_torque_nm": 400.0}, {}, {}),
    ("planetary.no_wear", NOTE, planetary(sun_material="tin_bronze"), LIGHT, {}, {}),
    ("planetary.prototype", WARNING, planetary(planet_material="printed_nylon"), LIGHT, {}, {}),
    ("planetary.stall", WARNING, planetary(face_width_mm=2.0, sun_material="tin_bronze"), LIGHT, {}, {}),
    ("planetary.speed", WARNING, planetary(module_mm=14.0, made="cast"), LIGHT, {}, {}),
    ("worm_set.no_brake", WARNING, worm(), LIGHT, {}, {}),
    ("worm_set.wear", WARNING, worm(), {"running_torque_nm": 150.0}, {}, {}),
    ("worm_set.wear", ERROR, worm(), {"running_torque_nm": 400.0}, {}, {}),
    ("worm_set.bending", WARNING, worm(), {"running_torque_nm": 105.0}, {}, {}),
    ("worm_set.bending", ERROR, worm(), {"running_torque_nm": 900.0}, {}, {}),
    ("worm_set.stall", WARNING, worm(), LIGHT, {}, {}),
    ("worm_set.heat", WARNING, worm(case_area_m2=0.05), {"running_torque_nm": 40.0}, {}, {}),
    ("worm_set.heat", ERROR, worm(case_area_m2=0.05), {"running_torque_nm": 100.0}, {}, {}),
    ("worm_set.area_assumed", NOTE, worm(), LIGHT, {}, {}),
    ("worm_set.face", WARNING, worm(face_width_mm=30.0), LIGHT, {}, {}),
    ("worm_set.thin_worm", NOTE, worm(worm_pitch_mm=20.0), LIGHT, {}, {}),
    ("worm_set.thick_worm", NOTE, worm(worm_pitch_mm=70.0), LIGHT, {}, {}),
    ("worm_set.few_teeth", WARNING, worm(wheel_teeth=20), LIGHT, {}, {}),
    ("worm_set.start", NOTE, worm(), LIGHT, {}, {}),
    ("worm_set.rough", NOTE, worm(worm_is="soft_or_as_cut"), LIGHT, {}, {}),
    ("worm_set.sliding", WARNING, worm(worm_pitch_mm=245.0), LIGHT, {"speed_rpm": 3450}, {}),
    ("worm_set.ratio", NOTE, worm(wheel_teeth=120), LIGHT, {}, {}),
    ("strain_wave.torque", WARNING, wave(), {"running_torque_nm": 55.0}, {}, {}),
    ("strain_wave.torque", ERROR, wave(), {"running_torque_nm": 70.0}, {}, {}),
    ("strain_wave.torque_unknown", WARNING, wave(rated_torque_nm=None), LIGHT, {}, {}),
    ("strain_wave.peak", WARNING, wave(), {"running_torque_nm": 20.0, "peak_torque_nm": 150.0}, {}, {}),
    ("strain_wave.stall", WARNING, wave(), LIGHT, {}, {}),
    ("strain_wave.shock", WARNING, wave(), LIGHT, {}, {"shock": "heavy"}),
    ("strain_wave.no_brake", WARNING, wave(), LIGHT, {}, {}),
    ("strain_wave.ratio_low", NOTE, wave(cup_teeth=40, ring_teeth=42), LIGHT, {}, {}),
    ("strain_wave.ratio_high", NOTE, wave(cup_teeth=400, ring_teeth=402), LIGHT, {}, {}),
    ("strain_wave.reversed", NOTE, wave(), LIGHT, {}, {}),
    ("strain_wave.printed", WARNING, wave(made_of="printed"), LIGHT, {}, {}),
    ("coupling.torque", WARNING, coupling(), {"running_torque_nm": 32.0}, {}, {}),
    ("coupling.torque", ERROR, coupling(), {"running_torque_nm": 40.0}, {}, {}),
    ("coupling.torque_unknown", WARNING, coupling("own", own={"type": "jaw"}), LIGHT, {}, {}),
    ("coupling.peak", WARNING, coupling(), {"running_torque_nm": 5.0, "peak_torque_nm": 80.0}, {}, {}),
    ("coupling.stall", WARNING, coupling("CJ-30"), LIGHT, {}, {}),
    ("coupling.alignment", WARNING, coupling(angle_off_deg=0.6, parallel_off_mm=0.1), LIGHT, {}, {}),
    ("coupling.not_measured", NOTE, coupling(), LIGHT, {}, {}),
    ("coupling.rigid", NOTE, coupling("CR-30"), LIGHT, {}, {}),
    ("coupling.bore", ERROR, coupling(driver_shaft_mm=42.0), LIGHT, {}, {}),
    ("coupling.unlike_shafts", WARNING, coupling("CR-30", driver_shaft_mm=24.0, driven_shaft_mm=25.0), LIGHT, {}, {}),
    ("coupling.speed", ERROR, coupling("CC-60-18"), LIGHT, {}, {}),
    ("coupling.grease", NOTE, coupling("CC-40-16"), LIGHT, {}, {}),
    ("lantern.pin", WARNING, lantern(pin_span_mm=200.0), {"running_torque_nm": 7.0}, SLOW_MOTOR, {}),
    ("lantern.pin", ERROR, lantern(pin_span_mm=200.0), {"running_torque_nm": 50.0}, SLOW_MOTOR, {}),
    ("lantern.tooth", ERROR, lantern(), {"running_torque_nm": 300.0}, SLOW_MOTOR, {}),
    ("lantern.stall", WARNING, lantern(pin_span_mm=200.0), LIGHT, SLOW_MOTOR, {}),
    ("lantern.few_pins", WARNING, lantern(pins=10), LIGHT, SLOW_MOTOR, {}),
    ("lantern.pinion_drives", NOTE, lantern(), LIGHT, SLOW_MOTOR, {}),
    ("lantern.thin_pins", NOTE, lantern(pin_diameter_mm=4.0), LIGHT, SLOW_MOTOR, {}),
    ("lantern.thick_pins", ERROR, lantern(pin_diameter_mm=7.0), LIGHT, SLOW_MOTOR, {}),
    ("lantern.speed", WARNING, lantern(), LIGHT, {}, {}),
    ("lantern.ratio", WARNING, lantern(wheel_teeth=90), LIGHT, SLOW_MOTOR, {}),
    ("reducer.nameplate", NOTE, unit("PL-1 15:1"), LIGHT, {"power_kw": 7.5}, {}),
    ("reducer.oversize", NOTE, unit("PL-4 15:1"), LIGHT, {}, {}),
    ("reducer.turns_back", NOTE, unit(), LIGHT, {}, {}),
    ("reducer.scaled", NOTE, unit("PC-1 29:1"), LIGHT, {}, {}),
    ("reducer.mounting_unknown", NOTE, unit(), LIGHT, {}, {}),
    ("reducer.mounting", NOTE, unit(mounting="output_up"), LIGHT, {}, {}),
    ("reducer.oil_worm", NOTE, unit("PW-4 15:1", mounting="wall"), LIGHT, {}, {}),
    ("reducer.oil_gear", NOTE, unit(mounting="overhead"), LIGHT, {}, {}),
    ("reducer.splash", NOTE, unit(), LIGHT, SLOW_MOTOR, {}),
    ("reducer.no_arm", NOTE, unit("PS-1 15:1"), LIGHT, {}, {}),
    ("reducer.output_form", WARNING, unit(output_form="hollow_with_key", torque_arm_mm=300.0), LIGHT, {}, {}),
    ("reducer.clamp", NOTE, unit("PP-2 10:1"), LIGHT, {}, {}),
    ("reducer.backlash", WARNING, unit(max_backlash_arcmin=5.0), LIGHT, {}, {}),
    (
        "reducer.backlash_unknown",
        NOTE,
        unit("own", own={"type": "planetary", "ratio": 10, "turn": "same"}, max_backlash_arcmin=5.0),
        LIGHT,
        {},
        {},
    ),
    ("roller_chain.worn", WARNING, chain(stretch_percent=2.2), LIGHT, {}, {}),
    ("roller_chain.worn", ERROR, chain(stretch_percent=1.6, take_up_mm=0), LIGHT, {}, {}),
    ("toothed_belt.rating", WARNING, toothed(), {"running_torque_nm": 11.0, "peak_torque_nm": 11.0}, {}, {}),
    ("toothed_belt.rating", ERROR, toothed(), {"running_torque_nm": 40.0, "peak_torque_nm": 40.0}, {}, {}),
    (
        "toothed_belt.estimate",
        NOTE,
        toothed(profile="8M", driver_teeth=28, driven_teeth=56, width_mm=20),
        LIGHT,
        {},
        {},
    ),
    ("toothed_belt.mesh", WARNING, toothed(driver_teeth=16, driven_teeth=90, belt_teeth=104), LIGHT, {}, {}),
    ("toothed_belt.mesh", ERROR, toothed(driver_teeth=6, driven_teeth=60, belt_teeth=64), LIGHT, {}, {}),
    ("toothed_belt.least_teeth", ERROR, toothed(driver_teeth=11), LIGHT, {}, {}),
    (
        "toothed_belt.speed",
        WARNING,
        toothed(driver_teeth=200, driven_teeth=200, belt_teeth=400),
        LIGHT,
        {"speed_rpm": 3450},
        {},
    ),
    ("toothed_belt.jump", WARNING, toothed(), {"running_torque_nm": 9.0, "peak_torque_nm": 17.0}, {}, {}),
    ("toothed_belt.jump", ERROR, toothed(), {"running_torque_nm": 9.0, "peak_torque_nm": 40.0}, {}, {}),
    ("toothed_belt.tension_set", ERROR, toothed(static_tension_n=5), LIGHT, {}, {}),
    ("toothed_belt.wide", WARNING, toothed(width_mm=80), LIGHT, {}, {}),
    ("toothed_belt.touch", ERROR, toothed(driver_teeth=40, belt_teeth=64), LIGHT, {}, {}),
    ("toothed_belt.too_short", ERROR, toothed(belt_teeth=30), LIGHT, {}, {}),
    ("toothed_belt.no_belt", NOTE, toothed(belt_teeth=None, center_distance_mm=250), LIGHT, {}, {}),
    ("toothed_belt.take_up", NOTE, toothed(), LIGHT, {}, {}),
    ("toothed_belt.take_up", WARNING, toothed(take_up_mm=5), LIGHT, {}, {}),
    ("toothed_belt.no_fuse", NOTE, toothed(), LIGHT, {}, {}),
    ("gear_pair.idler", NOTE, gears(idlers=1, idler_teeth=31), LIGHT, {}, {}),
    ("gear_pair.bending", WARNING, gears(), {"running_torque_nm": 260.0, "peak_torque_nm": 260.0}, {}, {}),
    ("gear_pair.bending", ERROR, gears(), {"running_torque_nm": 300.0, "peak_torque_nm": 300.0}, {}, {}),
    ("gear_pair.wear", WARNING, gears(), {"running_torque_nm": 110.0, "peak_torque_nm": 110.0}, {}, {}),
    ("gear_pair.wear", ERROR, gears(), {"running_torque_nm": 150.0, "peak_torque_nm": 150.0}, {}, {}),
    ("gear_pair.no_wear", NOTE, gears(driven_material="gray_iron_30"), LIGHT, {}, {}),
    ("gear_pair.prototype", WARNING, gears(driven_material="printed_nylon"), LIGHT, {}, {}),
    ("gear_pair.stall", WARNING, gears(module_mm=1.0, face_width_mm=10), LIGHT, {"power_kw": 4.0}, {}),
    ("gear_pair.interference", ERROR, gears(driver_teeth=13, made="cast"), LIGHT, {}, {}),
    ("gear_pair.tip", WARNING, gears(driver_teeth=10, driver_shift=0.55), LIGHT, {}, {}),
    ("gear_pair.undercut", NOTE, gears(driver_teeth=15, driven_teeth=40), LIGHT, {}, {}),
    ("gear_pair.contact_ratio", WARNING, gears(spread_mm=2.0), LIGHT, {}, {}),
    ("gear_pair.contact_ratio", ERROR, gears(spread_mm=4.0), LIGHT, {}, {}),
    ("gear_pair.ring", ERROR, gears(mesh="internal", driver_teeth=40, driven_teeth=48), LIGHT, {}, {}),
    ("gear_pair.ratio", WARNING, gears(driver_teeth=18, driven_teeth=130), LIGHT, {}, {}),
    ("gear_pair.ratio", ERROR, gears(driver_teeth=18, driven_teeth=190), LIGHT, {}, {}),
    ("gear_pair.narrow", NOTE, gears(face_width_mm=15), LIGHT, {}, {}),
    ("gear_pair.wide", WARNING, gears(face_width_mm=90), LIGHT, {}, {}),
    ("gear_pair.speed", WARNING, gears(driver_teeth=180, driven_teeth=181, made="cut"), LIGHT, {"speed_rpm": 3450}, {}),
    ("gear_pair.hunting", NOTE, gears(driven_teeth=60), LIGHT, {}, {}),
    ("gear_pair.spread", NOTE, gears(spread_mm=0.3), LIGHT, {}, {}),
    ("roller_chain.b_series", NOTE, chain(chain="08B"), LIGHT, {}, {}),
    ("roller_chain.rating", WARNING, chain(chain="25"), {"running_torque_nm": 7.0, "peak_torque_nm": 7.0}, {}, {}),
    ("roller_chain.rating", ERROR, chain(chain="25"), {"running_torque_nm": 20.0, "peak_torque_nm": 20.0}, {}, {}),
    (
        "roller_chain.static_safety",
        ERROR,
        chain(chain="25"),
        {"running_torque_nm": 30.0, "peak_torque_nm": 30.0},
        SLOW_MOTOR,
        {},
    ),
    ("roller_chain.stall_safety", WARNING, chain(chain="25"), LIGHT, {"power_kw": 4.0}, {}),
    ("roller_chain.teeth", NOTE, chain(driver_teeth=14), LIGHT, {}, {}),
    ("roller_chain.fewest_teeth", WARNING, chain(driver_teeth=9), LIGHT, {}, {}),
    ("roller_chain.ratio", WARNING, chain(driver_teeth=12, driven_teeth=96, pitches=140), LIGHT, {}, {}),
    ("roller_chain.wrap", WARNING, chain(driver_teeth=12, driven_teeth=80, pitches=88), LIGHT, {}, {}),
    ("roller_chain.touch", ERROR, chain(driver_teeth=30, driven_teeth=30, pitches=48), LIGHT, {}, {}),
    ("roller_chain.too_short", ERROR, chain(driven_teeth=60, pitches=40), LIGHT, {}, {}),
    ("roller_chain.odd_links", ERROR, chain(pitches=77), LIGHT, {}, {}),
    ("roller_chain.odd_links", WARNING, chain(pitches=77, offset_link=True), LIGHT, {}, {}),
    ("roller_chain.no_length", NOTE, chain(pitches=None, center_distance_mm=400), LIGHT, {}, {}),
    ("roller_chain.center_near", NOTE, chain(pitches=50), LIGHT, {}, {}),
    ("roller_chain.center_far", WARNING, chain(pitches=220), LIGHT, {}, {}),
    ("roller_chain.steep", WARNING, chain(angle_deg=75), LIGHT, {}, {}),
    ("roller_chain.dry", ERROR, chain(oiled=False), LIGHT, {}, {}),
    ("roller_chain.lubrication", NOTE, chain(), LIGHT, {}, {}),
    ("roller_chain.take_up", NOTE, chain(), LIGHT, {}, {}),
    ("roller_chain.take_up", WARNING, chain(take_up_mm=5), LIGHT, {}, {}),
    ("reducer.torque", WARNING, reducer("PW-1 15:1"), {"running_torque_nm": 18.0, "peak_torque_nm": 18.0}, {}, {}),
    ("reducer.torque", ERROR, reducer("PW-1 15:1"), {"running_torque_nm": 30.0, "peak_torque_nm": 30.0}, {}, {}),
    ("reducer.torque_unknown", WARNING, reducer("own"), LIGHT, {}, {}),
    ("reducer.rated_speed", NOTE, reducer("own", rated_torque_nm=90, rated_input_rpm=900), LIGHT, {}, {}),
    ("reducer.rated_speed_unknown", NOTE, reducer("own", rated_torque_nm=90), LIGHT, {}, {}),
    ("reducer.peak", ERROR, reducer("PW-1 15:1"), {"running_torque_nm": 10.0, "peak_torque_nm": 60.0}, {}, {}),
    ("reducer.stall", WARNING, reducer("PW-1 15:1"), {"running_torque_nm": 10.0, "peak_torque_nm": 12.0}, {}, {}),
    ("reducer.input_speed", ERROR, reducer("own", max_input_rpm=900), LIGHT, {}, {}),
    (
        "reducer.thermal",
        WARNING,
        reducer("own", rated_torque_nm=90, thermal_kw=0.62),
        {"running_torque_nm": 30.0},
        {},
        {},
    ),
    ("reducer.thermal", ERROR, reducer("own", rated_torque_nm=90, thermal_kw=0.3), {"running_torque_nm": 30.0}, {}, {}),
    ("reducer.efficiency_unknown", NOTE, reducer("own", rated_torque_nm=90), LIGHT, {}, {}),
    ("reducer.not_a_brake", NOTE, reducer(), LIGHT, {}, {}),
    ("reducer.service_floor", NOTE, reducer(), LIGHT, {}, {"shock": "uniform", "hours_per_day": 1}),
    (
        "need.speed_low",
        WARNING,
        belt(),
        {**LIGHT, "speed_min_rpm": 760, "speed_ideal_rpm": 780, "speed_max_rpm": 800},
        {},
        {},
    ),
    (
        "need.speed_low",
        ERROR,
        belt(),
        {**LIGHT, "speed_min_rpm": 900, "speed_ideal_rpm": 950, "speed_max_rpm": 990},
        {},
        {},
    ),
    (
        "need.speed_high",
        WARNING,
        belt(),
        {**LIGHT, "speed_min_rpm": 600, "speed_ideal_rpm": 650, "speed_max_rpm": 740},
        {},
        {},
    ),
    ("need.speed_high", ERROR, belt(), LIGHT, {}, {}),
    (
        "need.speed_error",
        NOTE,
        belt(),
        {**LIGHT, "speed_min_rpm": 600, "speed_ideal_rpm": 700, "speed_max_rpm": 800},
        {},
        {},
    ),
    ("need.no_speed", WARNING, belt(), {"speed_min_rpm": None, "speed_ideal_rpm": None, "speed_max_rpm": None}, {}, {}),
    ("need.no_torque", ERROR, belt(), {"running_torque_nm": None, "peak_torque_nm": None}, {}, {}),
    (
        "need.assumed",
        NOTE,
        belt(),
        {"worksheet": {"kind": "hoist", "load_kg": 20, "drum_diameter_mm": 60, "assumed": ["load_kg"]}},
        {},
        {},
    ),
    ("need.no_peak", NOTE, belt(), {"peak_torque_nm": None}, {}, {}),
    ("need.high_load", WARNING, belt(), {"running_torque_nm": 10.0, "running_torque_high_nm": 20.0}, {}, {}),
    ("need.high_use", WARNING, belt(), {"running_torque_nm": 10.0, "running_torque_high_nm": 40.0}, {}, {}),
    ("duty.unknown", WARNING, belt(), LIGHT, {}, {"hours_per_day": None}),
    ("duty.no_reason", WARNING, belt(), LIGHT, {}, {"service_factor_override": 2.0}),
    ("motor.load", WARNING, belt(), {"running_torque_nm": 14.5}, {"nameplate_service_factor": 1.25}, {}),
    ("motor.load", ERROR, belt(), {"running_torque_nm": 16.0}, {}, {}),
    ("motor.light", NOTE, belt(), LIGHT, {}, {}),
    ("motor.peak", WARNING, belt(), {"running_torque_nm": 8.0, "peak_torque_nm": 30.0}, {}, {}),
    ("motor.peak", ERROR, belt(), {"running_torque_nm": 8.0, "peak_torque_nm": 60.0}, {}, {}),
    ("motor.no_breakdown", NOTE, belt(), LIGHT, {"breakdown_torque_ratio": None}, {}),
    ("motor.breakaway", ERROR, belt(), {**LIGHT, "breakaway_torque_nm": 40.0}, {}, {}),
    (
        "motor.least_pulley",
        WARNING,
        belt(section="3L", belt="3L500", measured_as="outside", steps=pair(2.3 * INCH, 150)),
        LIGHT,
        {},
        {},
    ),
    (
        "motor.least_pulley",
        ERROR,
        belt(section="3L", belt="3L500", measured_as="outside", steps=pair(2 * INCH, 150)),
        LIGHT,
        {},
        {},
    ),
    ("reducer.overhung_in", ERROR, [*belt(static_tension_n=900), *reducer("PW-1 15:1")], LIGHT, {}, {}),
    (
        "reducer.overhung_out",
        ERROR,
        [*reducer("PW-1 60:1"), *chain(driver_teeth=9)],
        {"running_torque_nm": 90.0},
        {},
        {},
    ),
    ("shaft.bore", ERROR, chain(driver_teeth=11), LIGHT, {"shaft_diameter_mm": 28}, {}),
    ("line.turn", WARNING, belt(), {**LIGHT, "turn": "opposite"}, {}, {}),
    ("line.turn_unknown", NOTE, reducer("PW-3 15:1"), {**LIGHT, "turn": "same"}, {}, {}),
    ("motor.stalls", ERROR, belt(), {"running_torque_nm": 60.0}, {}, {}),
    (
        "motor.inverter_slow",
        WARNING,
        belt(),
        {"running_torque_nm": 7.6},
        {"inverter": {"fitted": True, "run_hz": 8.0}},
        {},
    ),
    (
        "motor.peak_torque",
        WARNING,
        belt(),
        {"running_torque_nm": 8.0, "peak_torque_nm": 22.0},
        {"inverter": {"fitted": True, "run_hz": 60.0, "overload": 1.5}},
        {},
    ),
    ("need.control_range", WARNING, belt(), CONTROLLED, INVERTER, {}),
    ("need.control_top", WARNING, belt(), CONTROLLED, INVERTER, {}),
    ("need.hold_none", ERROR, belt(), {**LIGHT, "holding_torque_nm": 5.0}, {}, {}),
    ("need.hold_worm", WARNING, reducer("PW-3 60:1"), {**LIGHT, "holding_torque_nm": 5.0}, {}, {}),
    ("need.hold", WARNING, belt(), {**LIGHT, "holding_torque_nm": 5.0}, {}, {}, {"shaft": 1, "brake_nm": 2.6}),
    ("need.hold", ERROR, belt(), {**LIGHT, "holding_torque_nm": 5.0}, {}, {}, {"shaft": 1, "brake_nm": 1.0}),
    ("need.hold_unknown", NOTE, belt(), HOIST, {}, {}),
    ("reducer.overhung_end", ERROR, reducer("PW-1 60:1"), WOUND, {}, {}),
    (
        "ladder.jam_shaft",
        WARNING,
        belt(),
        LIGHT,
        {"power_kw": 4.0},
        {},
        {"shaft": 2, "diameter_mm": 10.0, "steel": "mild_steel_1018"},
    ),
    ("shaft.take_off_speed", WARNING, belt(), LIGHT, {}, {}, {"shaft": 1, "take_off_nm": 0.5, "take_off_rpm": 1450.0}),
    (
        "gear_train.seats",
        WARNING,
        train(driver_1_teeth=18, driven_1_teeth=20, driver_2_teeth=18, driven_2_teeth=20, module_1_mm=1.0),
        LIGHT,
        {},
        {},
    ),
    ("gear_train.bearings", WARNING, train(), {"running_torque_nm": 400.0}, {}, {}),
    ("shaft.one_way_reversed", ERROR, belt(), LIGHT, {}, {"reversing": True}, {"shaft": 2, "one_way": "driven_wheel"}),
    ("shaft.one_way_place", WARNING, belt(), LIGHT, {}, {}, {"shaft": 2, "one_way": "driver_wheel"}),
    ("toothed_belt.jam", WARNING, toothed(width_mm=6.4), LIGHT, {"power_kw": 4.0}, {}),
    ("reducer.emergency", ERROR, reducer("PW-1 15:1"), LIGHT, {}, {"emergency_share": 20.0}),
    ("strain_wave.emergency", ERROR, wave(), {"running_torque_nm": 50.0}, {}, {"emergency_share": 4.0}),
    ("line.direct", NOTE, [], {"running_torque_nm": 3.0, "peak_torque_nm": 4.0}, {}, {}),
    ("line.no_stage", NOTE, [], LIGHT, {}, {}),
]
