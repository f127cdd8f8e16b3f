"""Helical and bevel pairs and friction rollers against published figures and arithmetic of their own."""

from __future__ import annotations

from math import atan, cos, degrees, pi, radians, sin, tan
from typing import Any

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from pydantic import ValidationError

from builders import build_machine
from pulltide.core.line import solve_line
from pulltide.core.links.bevel_pair import BevelPair
from pulltide.core.links.bevel_pair.transmission import BevelTransmission
from pulltide.core.links.friction_drive import FrictionDrive
from pulltide.core.links.friction_drive.transmission import RollerTransmission
from pulltide.core.links.helical_pair import HelicalPair
from pulltide.core.links.helical_pair.mesh import HelicalMesh
from pulltide.core.links.helical_pair.transmission import HelicalTransmission
from pulltide.core.spur import form
from pulltide.core.spur.mesh import mesh_strength
from pulltide.core.transmission import LinkResult

STEEL = ("steel_1045_normalized", "steel_1045_normalized")


def mesh(teeth: tuple[int, int], helix_deg: float, **changes: Any) -> HelicalMesh:
    whole = {"helix_deg": helix_deg, "overlap": 2.0} | changes
    return HelicalMesh(1 / cos(radians(helix_deg)), teeth, "20", 40.0, STEEL, "hobbed", "enclosed_oiled", **whole)


def rated(link: dict[str, Any], torque_nm: float) -> LinkResult:
    need = {"running_torque_nm": torque_nm, "peak_torque_nm": torque_nm}
    machine = build_machine(links=[link], need=need)
    return solve_line(machine, machine.plans[0]).links[0]


#: J of the driver and of its mate by the procedure of AGMA 908 from memory, computed apart from this program.
@pytest.mark.parametrize(
    ("helix", "teeth", "mate", "j"),
    [
        (10, 17, 20, 0.413),
        (10, 25, 75, 0.497),
        (10, 100, 200, 0.608),
        (15, 20, 35, 0.462),
        (15, 60, 20, 0.535),
        (20, 17, 200, 0.468),
        (20, 25, 75, 0.500),
    ],
)
def test_helical_geometry_factors(helix: float, teeth: int, mate: int, j: float):
    member = 0 if teeth <= mate else 1
    found = mesh((min(teeth, mate), max(teeth, mate)), helix).geometry_factor(member)
    assert found == pytest.approx(j, abs=0.001)


def test_shigley_14_5():
    """Shigley Ex. 14-5, recalled: 17 on 52 at 30°: I 0.195; J 0.423 and 0.529 off charts, ours safe for the gear."""
    found = mesh((17, 52), 30.0)
    assert found.contact_shape.value == pytest.approx(0.195, abs=0.0005)
    assert found.geometry_factor(0) == pytest.approx(0.423, abs=0.003)
    assert 0.45 < found.geometry_factor(1) < 0.529


def test_a_helix_carries_more_than_straight_teeth_and_less_without_overlap():
    whole, short = mesh((20, 60), 15.0), mesh((20, 60), 15.0, overlap=0.9)
    strong, weak = (mesh_strength(item, 3.0) for item in (whole, short))
    assert strong.bending_n > weak.bending_n
    assert strong.wear_n > weak.wear_n
    assert short.load_share == 1.0


@given(
    st.integers(12, 60),
    st.integers(12, 120),
    st.floats(8, 30),
    st.floats(1.0, 6.0),
    st.sampled_from(("single", "double")),
)
def test_helical_sizes_and_forces_close(n1: int, n2: int, helix: float, module: float, helices: str):
    face = 2.2 * pi * module / sin(radians(helix))
    assume(face < 400)
    sizes = {"driver_teeth": n1, "driven_teeth": n2, "helix_deg": helix, "face_width_mm": face}
    link = HelicalPair.model_validate({"module_mm": module, **sizes, "helices": helices})
    made = HelicalTransmission(link, 1)
    assert made.center_mm == pytest.approx(module * (n1 + n2) / 2 / cos(radians(helix)))
    # rolled out, a tooth climbs one axial pitch in one transverse pitch
    assert made.axial_pitch_mm * tan(radians(helix)) == pytest.approx(pi * link.transverse_mm)
    assert made.thrust_n(100.0) == pytest.approx(0.0 if helices == "double" else 100 * tan(radians(helix)))


def test_thrust_of_a_double_helix_is_none_and_is_not_told():
    link = {"kind": "helical_pair", "module_mm": 3.0, "driver_teeth": 20, "driven_teeth": 61, "helix_deg": 30.0}
    single, double = (rated({**link, "face_width_mm": 60.0, "helices": h}, 100.0) for h in ("single", "double"))
    assert "helical_pair.thrust" in {f.code for f in single.findings}
    assert "helical_pair.thrust" not in {f.code for f in double.findings}


def test_bevel_tip_strength_stays_under_the_published_chart():
    """Chart, from memory: J 0.216 at the large end for 25 on 25, pitch 5, face 1.1 in; at its tip, ours 0.188."""
    link = BevelPair(module_mm=5.08, driver_teeth=25, driven_teeth=25, face_width_mm=27.94)
    found = BevelTransmission(link, 1).mesh
    at_large_end = found.geometry_factor(0) * link.mean_share**2
    assert at_large_end == pytest.approx(0.188, abs=0.003)
    assert at_large_end < 0.216


def test_wear_of_a_bevel_pair_by_hand():
    """20 on 40 square: cones 26.565° and 63.435°, virtual teeth 22.36 and 89.44, four to one: I = 0.1607 · 4/5."""
    link = BevelPair(module_mm=4.0, driver_teeth=40, driven_teeth=20, face_width_mm=20.0)
    found = BevelTransmission(link, 1).mesh
    assert [found.virtual_teeth(member) for member in (0, 1)] == pytest.approx([22.361, 89.443], abs=0.001)
    assert found.contact_shape.value == pytest.approx(0.12856, abs=1e-5)
    assert found.rolling_mm == pytest.approx(20 * link.mean_share * 4.0 / cos(radians(26.565)), rel=1e-5)


@given(st.integers(12, 60), st.integers(12, 60), st.floats(40, 130))
def test_bevel_cones_roll_on_each_other(n1: int, n2: int, shafts: float):
    try:
        link = BevelPair(module_mm=4.0, driver_teeth=n1, driven_teeth=n2, shafts_deg=shafts, face_width_mm=6.0)
    except ValidationError:
        cone = degrees(atan(sin(radians(shafts)) / (min(n1, n2) / max(n1, n2) + cos(radians(shafts)))))
        # refused only where the larger cone is flat or hollow
        assert cone < 0 or cone > 89.9
        return
    first, second = link.cones
    assert first + second == pytest.approx(radians(shafts))
    # both cones have one length from the apex: teeth stay in step all along the face
    assert n1 / sin(first) == pytest.approx(n2 / sin(second))
    made = BevelTransmission(link, 1)
    radial = 100 * tan(radians(20)) * cos(first)
    if abs(shafts - 90) < 1e-9:
        assert made.thrusts_n(100.0)[1] == pytest.approx(radial)


def test_a_bevel_pair_with_an_impossible_cone_is_refused():
    with pytest.raises(ValidationError, match="flat or hollow"):
        BevelPair(module_mm=4.0, driver_teeth=20, driven_teeth=80, shafts_deg=120.0, face_width_mm=20.0)
    with pytest.raises(ValidationError, match="long as the cone"):
        BevelPair(module_mm=1.0, driver_teeth=20, driven_teeth=20, face_width_mm=14.0)


ROLLER = {"kind": "friction_drive", "driver_diameter_mm": 100.0, "driven_diameter_mm": 500.0, "face_width_mm": 50.0}


def test_a_friction_roller_by_hand():
    """60 N·m at 250 mm are 240 N; 900 N on 0.4 grips 360 N; the arm of 3 mm takes 2·900·3·(1/100 + 1/500)."""
    found = rated({**ROLLER, "press_n": 900.0}, 60.0)
    values = {item.key: item.value for item in found.figures}
    assert values["grip"] == pytest.approx(360.0)
    rolling = 2 * 900 * 3 * (1 / 100 + 1 / 500)
    assert values["rolling"] == pytest.approx(rolling)
    # the pull that arrives is what the driver puts in less what rolling takes, a little more by creep
    assert values["pull"] == pytest.approx(240 + rolling, rel=0.02)
    assert found.efficiency == pytest.approx(240 / (240 + rolling), rel=0.02)
    assert values["pressure"] == pytest.approx(900 / 50 * (1 / 100 + 1 / 500))


def test_a_roller_inside_turns_the_same_way_and_presses_flatter():
    inside = RollerTransmission(FrictionDrive.model_validate({**ROLLER, "runs": "inside_drum"}), 1)
    outside = RollerTransmission(FrictionDrive.model_validate(ROLLER), 1)
    assert (inside.turn, outside.turn) == (1, -1)
    assert inside.link.equivalent_mm == pytest.approx(1 / (1 / 100 - 1 / 500))
    assert inside.rolling_n(200.0) < outside.rolling_n(200.0)
    with pytest.raises(ValidationError, match="at the least"):
        FrictionDrive.model_validate({**ROLLER, "driven_diameter_mm": 110.0, "runs": "inside_drum"})


def test_a_press_that_is_not_entered_is_told_and_holds_when_set():
    unset = rated(ROLLER, 60.0)
    to_set = next(item.value for item in unset.figures if item.key == "to_set")
    assert "friction_drive.press_unset" in {f.code for f in unset.findings}
    held = rated({**ROLLER, "press_n": 1.02 * to_set}, 60.0)
    grip = next(f for f in held.findings if f.code == "friction_drive.grip")
    assert grip.severity.name == "CLEAR"


def test_contact_of_a_bevel_pair_is_that_of_its_back_cones():
    """20 on 40 square run like spur gears of 22.361 and 89.443 teeth, no two of them alike. Tredgold."""
    link = BevelPair(module_mm=4.0, driver_teeth=20, driven_teeth=40, face_width_mm=20.0)
    found = BevelTransmission(link, 1).mesh
    back_cones = [form.Tooth(teeth, 20.0) for teeth in (22.3607, 89.4427)]
    assert found.contact_ratio == pytest.approx(form.contact_path(*back_cones).ratio, rel=1e-5)
    assert found.contact_ratio != pytest.approx(form.contact_path(back_cones[0], back_cones[0]).ratio, rel=1e-3)
    own = form.geometry_factor(back_cones[0], back_cones[1], 0.0, False)
    assert found.geometry_factor(0) == pytest.approx(own, rel=1e-5)
