"""What was computed is what is shown: strip, bench, findings, pages of the new links, JSON beside them."""

from __future__ import annotations

import re
from datetime import UTC, datetime
from itertools import pairwise
from typing import Any

import pytest
from fastapi.testclient import TestClient

from builders import build_belt, build_machine
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.demo import demo_machines
from pulltide.presentation.sheet import sheet
from pulltide.presentation.words import measured_line
from pulltide.quantities import Units, show
from pulltide.services.change import Change
from pulltide.services.editing import apply_change
from pulltide.services.machines import StoredMachine
from pulltide.services.reporting import solve_report
from pulltide.web.places import Context
from pulltide.web.places.train.train_view import train_view
from pulltide.web.selection import Selection

METRIC = Units()
TRAIN = {
    "kind": "gear_train",
    "driver_1_teeth": 20,
    "driven_1_teeth": 61,
    "driver_2_teeth": 22,
    "driven_2_teeth": 59,
    "module_1_mm": 3.0,
}
CROSSED = {
    "kind": "plain_belt",
    "belt": "leather_1_ply",
    "runs": "crossed",
    "driver_diameter_mm": 120,
    "driven_diameter_mm": 300,
    "center_distance_mm": 1200,
    "width_mm": 50,
}


def seen(machine: Machine, units: Units = METRIC, **selection: Any) -> Any:
    stored = StoredMachine("id", 1, machine, datetime.now(UTC), None, None)
    return train_view(Context(stored, Selection(**selection), units))


def with_links(*links: Any, **need: Any) -> Machine:
    torque = {"running_torque_nm": 10.0, "peak_torque_nm": 15.0, "breakaway_torque_nm": None}
    return build_machine(links=list(links), need=torque | need)


def test_the_strip_says_the_ratio_called_for_and_what_the_torque_becomes():
    machine = build_machine()
    line = solve_plan(machine, machine.plans[0]).chosen
    strip = {item.label: item for item in seen(machine).strip.figures}
    wanted = line.shafts[0].speed_rpm / machine.need.speed_ideal_rpm
    assert strip["Ratio"].note == f"needed {show(wanted, '', METRIC)}"
    gained = line.last_shaft.running_torque_nm / line.shafts[0].running_torque_nm
    assert strip["Line efficiency"].note == f"torque × {show(gained, '', METRIC)}"


def test_a_jam_says_which_torque_it_means():
    link = {"kind": "reducer", "designation": "PW-1 15:1"}
    result = solve_plan(m := with_links(build_belt(static_tension_n=600), link), m.plans[0])
    (finding,) = (f for f in result.findings if f.code == "reducer.stall")
    assert measured_line(finding, METRIC).startswith("Torque at its input: ")


def test_a_number_without_a_unit_says_what_it_counts():
    machine = next(m for m in demo_machines() if m.name.startswith("Lofthook"))
    finding = next(f for f in solve_plan(machine, machine.plans[0]).findings if f.code == "reducer.oversize")
    assert measured_line(finding, METRIC).startswith("Rated over design torque: ")


def test_what_describes_a_part_stands_with_it_and_is_not_counted():
    machine = with_links({"kind": "reducer", "designation": "PL-2 15:1"})
    view = seen(machine, at="link-1")
    told = {remark.fact for remark in view.editor.remarks}
    assert any("back-drive" in fact for fact in told)
    assert not told & {finding.fact for finding in view.findings.open}
    assert not told & {finding.fact for finding in view.findings.clear}


@pytest.mark.long
@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name.split()[0])
def test_page_and_json_say_the_same(machine: Machine):
    """Findings of every plan: the same checks, severities and places; remedies as offered."""
    report = solve_report(machine)
    for number, plan in enumerate(report["plans"]):
        view = seen(machine, plan=number)
        loud = [f for f in plan["findings"] if f["severity"] != "clear"]
        assert len(view.findings.open) == len(loud)
        assert view.findings.clear_count == len(plan["findings"]) - len(loud)
        offered = sum(len(f["remedies"]) for f in loud)
        assert sum(len(f.remedies) for f in view.findings.open) == offered


def test_crossed_strands_cross_on_the_paper():
    """The belt's path has its two arcs on different sides: one turns with the clock, one against it."""
    machine = with_links(CROSSED)
    drawing = sheet(machine.plans[0], solve_plan(machine, machine.plans[0]).chosen, METRIC)
    path = drawing.of("loop")[0].d
    arcs = re.findall(r"A[\d.]+ [\d.]+ 0 (\d) (\d)", path)
    assert len(arcs) == 2
    assert {sweep for _, sweep in arcs} == {"0", "1"}
    assert all(large == "1" for large, _ in arcs), "both wraps are over 180 degrees"
    first, second = drawing.of("turn")
    assert first != second


def test_a_train_back_and_forth_is_drawn_on_two_axes():
    machine = with_links(TRAIN)
    drawing = sheet(machine.plans[0], solve_plan(machine, machine.plans[0]).chosen, METRIC)
    assert len(drawing.of("wheel")) == 4
    axes = sorted({round(wheel.center[0], 1) for wheel in drawing.of("wheel")})
    assert len(axes) == 2
    row = with_links(TRAIN | {"layout": "in_a_row"})
    drawing = sheet(row.plans[0], solve_plan(row, row.plans[0]).chosen, METRIC)
    assert len({round(wheel.center[0], 1) for wheel in drawing.of("wheel")}) == 3
    radii = [wheel.radius for wheel in drawing.of("wheel")]
    assert radii[1] / radii[0] == pytest.approx(61 / 20, rel=0.01)


def test_an_edit_of_a_train_keeps_its_axes_through_the_page():
    machine = with_links(TRAIN)
    change = Change(sets={"plans.0.links.0.driver_2_teeth": "27"})
    changed, _ = apply_change(machine, change, METRIC)
    assert changed.plans[0].links[0].pairs == ((20, 61), (27, 54))


@pytest.mark.parametrize("link", [TRAIN, CROSSED], ids=lambda link: str(link["kind"]))
def test_pages_of_the_new_links_render_in_both_units(client: TestClient, link: dict[str, Any]):
    machine_id = client.app.state.machines.create(with_links(link)).id
    page = client.get(f"/machines/{machine_id}?at=link-1").text
    assert "Limits of this stage" in page
    assert "None" not in re.sub(r"<[^>]+>", " ", page)
    figures = re.findall(r"show=link-1/(\w+)", page)
    assert len(figures) >= 8
    for key in dict.fromkeys(figures):
        shown = client.get(f"/machines/{machine_id}?at=link-1&show=link-1/{key}").text
        assert 'class="working"' in shown or "working" in shown


def test_settings_of_a_speed_control_are_shown_as_steps():
    machine = next(m for m in demo_machines() if m.name.startswith("Marlpit"))
    view = seen(machine)
    speeds = [float(text) for text, _, _ in view.strip.speeds]
    assert len(speeds) == 3
    assert all(a < b for a, b in pairwise(speeds))
    assert sum(chosen for _, chosen, _ in view.strip.speeds) == 1


@pytest.mark.parametrize("name", ["Drum", "Second countershaft of the brick press"])
def test_the_name_of_the_last_shaft_stays_on_the_paper(name: str):
    """Half a letter is about 4 units of the sheet: a long name ends at its edge, a short one stands over its shaft."""
    chain = {"kind": "roller_chain", "chain": "80", "driver_teeth": 12, "driven_teeth": 60, "pitches": 110}
    machine = with_links(build_belt(), chain, last_shaft=name)
    drawing = sheet(machine.plans[0], solve_plan(machine, machine.plans[0]).chosen, METRIC)
    (label,) = (label for label in drawing.words if label.text == name)
    width = 8 * len(name)
    right = label.x if label.anchor == "end" else label.x + width / 2
    assert right <= 785
    assert right - width >= 0


@pytest.mark.long
def test_twenty_places_of_one_fact_are_one_line():
    weak = {"kind": "gear_pair", "driver_teeth": 20, "driven_teeth": 20, "module_mm": 1.0, "face_width_mm": 5.0}
    view = seen(with_links(*[weak] * 8, running_torque_nm=14.0, peak_torque_nm=16.0))
    facts = [finding.fact for finding in view.findings.open]
    assert len(facts) == len(set(facts))
