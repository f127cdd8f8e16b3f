"""Trains of pairs in one case: ratio, axes, and every pair at its own torque, by hand; edits keep the axes."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from anything import any_of
from builders import SHIPPED, build_machine
from draws import draws
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.links.gear_train import GearTrain
from pulltide.core.links.gear_train.variants import reconcile, starter, variants
from pulltide.core.remedies import with_remedies
from pulltide.core.transmission import LinkResult
from pulltide.quantities import Units
from pulltide.words import filled

PAIRS = {"driver_1_teeth": 20, "driven_1_teeth": 61, "driver_2_teeth": 22, "driven_2_teeth": 59}
THIRD = {"driver_3_teeth": 27, "driven_3_teeth": 54}


def solved(running_nm: float = 60.0, **changes: Any) -> LinkResult:
    link = {"kind": "gear_train", **PAIRS, "module_1_mm": 3.0, **changes}
    need = {"running_torque_nm": running_nm, "peak_torque_nm": running_nm, "breakaway_torque_nm": None}
    machine = build_machine(links=[link], need=need)
    return solve_plan(machine, machine.plans[0]).chosen.links[0]


def test_two_pairs_by_hand():
    """61/20 times 59/22; both pairs at 3 · 81 / 2 = 121.5 mm; in line and turning the same way."""
    link = solved()
    assert link.ratio == pytest.approx(61 / 20 * 59 / 22)
    assert link.turn == 1
    assert link.center_distance_mm is None
    centers = [f.value for f in link.figures if f.key.startswith("center_")]
    assert centers == pytest.approx([121.5, 121.5])


def test_each_pair_bears_its_own_torque():
    """The second driver has 61/20 of the torque, less one mesh: tooth force 2000 T g / (m N). Statics."""
    link = solved()
    first, second = link.details.pairs
    torque = link.flow.driver_torque_nm
    assert first.force_n == pytest.approx(2000 * torque / 60)
    assert second.force_n == pytest.approx(2000 * torque * 61 / 20 * 0.985 / 66)
    assert link.efficiency == pytest.approx(0.985**2)
    assert link.details.number == 2


def test_a_train_is_as_strong_as_its_pairs_alone():
    """The same two pairs as two links of their own, under the same load: the same tooth forces."""
    pair = {"kind": "gear_pair", "module_mm": 3.0, "face_width_mm": 30.0, "running": "enclosed_oiled"}
    steels = {"driver_material": "steel_4140_hardened", "driven_material": "steel_1045_normalized"}
    links = [pair | steels | {"driver_teeth": a, "driven_teeth": b} for a, b in ((20, 61), (22, 59))]
    need = {"running_torque_nm": 60.0, "peak_torque_nm": 60.0, "breakaway_torque_nm": None}
    machine = build_machine(links=links, need=need)
    alone = solve_plan(machine, machine.plans[0]).chosen.links
    together = solved().details.pairs
    for one, two in zip(alone, together, strict=True):
        assert two.strength.bending_n == pytest.approx(one.details.bending_n, rel=1e-4)
        assert two.force_n == pytest.approx(one.details.force_n, rel=1e-4)


def test_three_pairs_fold_back_or_stand_in_a_row():
    folded = solved(**THIRD)
    assert folded.turn == -1
    assert folded.center_distance_mm == pytest.approx(121.5)
    row = solved(**THIRD, layout="in_a_row", module_3_mm=4.0)
    assert row.center_distance_mm == pytest.approx(121.5 + 121.5 + 4 * 81 / 2)


def test_half_a_third_pair_is_refused():
    with pytest.raises(ValidationError, match="both its driver and its driven"):
        GearTrain.model_validate({"kind": "gear_train", **PAIRS, "module_1_mm": 3.0, "driver_3_teeth": 20})


def test_an_edit_takes_its_teeth_from_the_mate():
    before = starter(SHIPPED)
    raw = before.model_dump() | {"driver_1_teeth": 24}
    after = GearTrain.model_validate(reconcile(before, raw, SHIPPED))
    assert after.pairs[0] == (24, 57)
    assert max(after.centers_mm) - min(after.centers_mm) < 1e-9
    row = before.model_copy(update={"layout": "in_a_row"})
    assert reconcile(row, row.model_dump() | {"driver_1_teeth": 24}, SHIPPED)["driven_1_teeth"] == 61


def test_no_neighbor_breaks_the_axes():
    link = starter(SHIPPED).model_copy(update={"wanted_ratio": 9.0})
    found = list(variants(link, SHIPPED))
    assert len(found) > 10
    for variant in found:
        assert max(variant.link.centers_mm) - min(variant.link.centers_mm) < 1e-6, variant.label


def test_pairs_that_miss_the_axes_are_offered_the_one_tooth_that_brings_them_on():
    link = starter(SHIPPED).model_copy(update={"driven_2_teeth": 60}).model_dump(mode="json")
    machine = build_machine(links=[link], need={"running_torque_nm": 40.0, "peak_torque_nm": 40.0})
    plan = machine.plans[0]
    result = with_remedies(machine, plan, solve_plan(machine, plan))
    (finding,) = (f for f in result.findings if f.code == "gear_train.centers")
    assert finding.severity is Severity.ERROR
    assert filled(finding.remedies[0].label, Units()) == "Use 59 driven teeth in pair 2"


def test_a_ratio_that_is_off_is_offered_counts_on_the_same_axes():
    link = starter(SHIPPED).model_copy(update={"wanted_ratio": 9.0}).model_dump(mode="json")
    need = {"running_torque_nm": 40.0, "peak_torque_nm": 40.0, "breakaway_torque_nm": None}
    band = {"speed_min_rpm": 150, "speed_ideal_rpm": 195, "speed_max_rpm": 230}
    machine = build_machine(links=[link], need=need | band)
    plan = machine.plans[0]
    result = with_remedies(machine, plan, solve_plan(machine, plan))
    (finding,) = (f for f in result.findings if f.code == "gear_train.wanted" and f.severity is Severity.WARNING)
    assert finding.remedies
    for remedy in finding.remedies:
        (raw,) = (value for path, value in remedy.changes if path == "links.0")
        offered = GearTrain.model_validate(raw)
        assert offered.ratio == pytest.approx(9.0, rel=0.02)
        assert offered.centers_mm[0] == pytest.approx(offered.centers_mm[1])
        assert offered.centers_mm[0] == pytest.approx(121.5), "the case stays as it is"


@settings(max_examples=draws(120), deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_any_allowed_train_gives_figures_or_is_refused(data: st.DataObject):
    raw = data.draw(any_of(GearTrain, kind="gear_train"))
    try:
        link = GearTrain.model_validate(raw)
    except ValidationError as error:
        assert "third pair" in str(error)  # noqa: PT017
        return
    machine = build_machine(
        links=[link.model_dump(mode="json")], need={"running_torque_nm": 5.0, "peak_torque_nm": 9.0}
    )
    found = solve_plan(machine, machine.plans[0]).chosen.links[0]
    assert found.loss_kw > 0
    assert all(limit.allowed is None or limit.allowed > 0 for limit in found.limits)


def test_a_wheel_in_a_row_must_clear_the_shaft_behind_its_mate():
    """20/90 then 22/40 at module 3: the wheel of 90 reaches 138 mm out, its neighbor's far shaft stands at 93 mm."""
    (rigid,) = (
        f
        for f in solved(layout="in_a_row", driven_1_teeth=90, driven_2_teeth=40).findings
        if f.code.endswith("clearance")
    )
    assert rigid.measured == pytest.approx(3 * (22 + 40) / 2 - 3 * 92 / 2)
    (clear,) = (f for f in solved(layout="in_a_row").findings if f.code.endswith("clearance"))
    assert clear.severity is Severity.CLEAR
    assert not [f for f in solved().findings if f.code.endswith("clearance")]
