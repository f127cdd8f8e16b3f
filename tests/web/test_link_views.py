"""Pictures, forms and words of every kind of link, of shafts and of the end, before any template."""

from __future__ import annotations

import re
from datetime import UTC, datetime
from itertools import pairwise
from math import hypot
from typing import Any

import pytest

from builders import SHIPPED, build_belt, build_machine
from pulltide.core.ends import END_KINDS
from pulltide.core.family import Family
from pulltide.core.line import ladder_of, shaft_names, solve_plan
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.machine import Machine
from pulltide.presentation.handbook_view import handbook_view
from pulltide.presentation.sheet import HEIGHT, WIDTH, sheet
from pulltide.quantities import Units
from pulltide.services.machines import StoredMachine
from pulltide.services.proof import Proof
from pulltide.services.reporting import solve_report
from pulltide.web.end_view import end_summary, end_view
from pulltide.web.forms import link_fields
from pulltide.web.places import Context
from pulltide.web.places.train.ladder_view import ladder_view
from pulltide.web.places.train.train_view import train_view
from pulltide.web.selection import Selection

METRIC, INCHES = Units(), Units(length="in", torque="lbf*ft", force="lbf")
each_family = pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)
LIGHT = {"running_torque_nm": 10.0, "peak_torque_nm": 15.0, "breakaway_torque_nm": None}

GEARS = family_of("gear_pair").starter(SHIPPED).model_dump(mode="json")


def with_links(*links: Any, **changes: Any) -> Machine:
    return build_machine(links=[link if isinstance(link, dict) else link.model_dump(mode="json") for link in links],
                         need={**LIGHT, **changes})  # fmt: skip


def drawn(machine: Machine) -> Any:
    return sheet(machine.plans[0], solve_plan(machine, machine.plans[0]).chosen, METRIC, unfolded=True)


def seen(machine: Machine, units: Units = METRIC, **selection: Any) -> Any:
    stored = StoredMachine("id", 3, machine, datetime.now(UTC), None, None)
    return train_view(Context(stored, Selection(**selection), units))


@each_family
def test_every_kind_of_link_is_drawn_on_the_sheet(family: Family):
    for link in (family.starter(SHIPPED), *family.samples):
        drawing = drawn(with_links(link))
        assert drawing.of("wheel") or drawing.of("case")
        for wheel in drawing.of("wheel"):
            assert wheel.center[0] - wheel.radius >= 0
            assert wheel.center[0] + wheel.radius <= WIDTH + 0.01
            assert wheel.center[1] - wheel.radius >= 0
            assert wheel.center[1] + wheel.radius <= HEIGHT
            assert wheel.part == "link-1"
        assert len(drawing.of("axle")) == 2


@each_family
def test_every_kind_of_link_reads_well_on_its_card_and_bench(family: Family):
    """Title, chips, fields and figures are words and numbers with units, in metric and in inch."""
    machine = with_links(family.starter(SHIPPED))
    for units in (METRIC, INCHES):
        view = seen(machine, units, at="link-1")
        assert view.line.links[0].heading
        assert view.line.links[0].chips
        assert not any("{" in chip or "None" in chip for chip in view.line.links[0].chips)
        assert view.editor.fields
        assert all(field.label and (field.accepted or field.kind in ("yes_no", "text")) for field in view.editor.fields)
        assert all(str(item.shown) for item in view.editor.figures)
        assert {kind for kind, _ in view.editor.others} == {other.kind for other in FAMILIES} - {family.kind}


@each_family
def test_the_ladder_of_every_kind_of_link_turns_up_evenly(family: Family):
    machine = with_links(family.starter(SHIPPED))
    plan = machine.plans[0]
    line = solve_plan(machine, plan).chosen
    found = ladder_of(machine, plan, line)
    view = ladder_view(line, found, shaft_names(machine, plan), METRIC)
    torques = [[float(number.replace(",", "")) for number, _ in frame["torques"]] for frame in view.frames]
    assert torques[view.start][-1] == pytest.approx(10.0, rel=0.01)
    for before, after in pairwise(torques):
        assert all(a <= b + 1e-9 for a, b in zip(before, after, strict=True))
    given = [set(frame["given"]) for frame in view.frames]
    assert all(before <= after for before, after in pairwise(given))
    assert not given[0]
    bars = [row.bar for row in view.rows]
    assert bars == sorted(bars)
    assert all(0 <= bar <= 100 for bar in bars)


def test_an_idler_is_drawn_where_the_belt_runs():
    """The belt's outline passes the idler at its pitch radius and encloses both pulleys."""
    belt = build_belt(belt="A75", idler="slack_strand_outside", idler_diameter_mm=130.0, idler_push_mm=40.0)
    drawing = drawn(with_links(belt))
    plain = drawn(with_links(build_belt(belt="A75")))
    assert len(drawing.of("wheel")) == len(plain.of("wheel")) + 1
    assert drawing.of("loop")[0].d.count("A") == 3, "three arcs, one at each wheel"
    assert plain.of("loop")[0].d.count("A") == 2
    driver, driven, idler = drawing.of("wheel")
    assert min(driver.center[0], driven.center[0]) < idler.center[0] < max(driver.center[0], driven.center[0])
    assert idler.center[1] < driver.center[1], "on the upper strand"


def test_planets_stand_round_their_sun():
    link = family_of("planetary").starter(SHIPPED)
    drawing = drawn(with_links(link))
    ring, sun, *planets = drawing.of("wheel")
    assert ring.center == sun.center
    assert len(planets) == link.planets
    scale = ring.radius / (link.module_mm * link.ring_teeth / 2)
    for planet in planets:
        orbit = hypot(planet.center[0] - sun.center[0], planet.center[1] - sun.center[1])
        assert orbit == pytest.approx(scale * link.module_mm * (link.sun_teeth + link.planet_teeth) / 2)
        assert orbit + planet.radius == pytest.approx(ring.radius)


def test_shafts_in_line_are_drawn_clear_of_their_neighbors():
    """A coupling behind a large drum is drawn beside it, joined by its axis, and said to be in line."""
    coupling = {"kind": "coupling", "designation": "CJ-65"}
    drawing = drawn(with_links(build_belt(belt="A75"), coupling, build_belt(belt="A75")))
    assert len(drawing.of("axis")) == 1
    start, end = drawing.of("axis")[0].corners
    assert start[1] == end[1]
    drum = max(wheel.radius for wheel in drawing.of("wheel") if wheel.center == drawing.of("axle")[1].center)
    next_wheel = max(wheel.radius for wheel in drawing.of("wheel") if wheel.center == drawing.of("axle")[2].center)
    assert end[0] - start[0] >= drum + next_wheel
    assert any("one axis" in label.text for label in drawing.words)
    assert not any("one axis" in label.text for label in drawn(with_links(build_belt())).words)


def test_each_departure_from_the_shop_is_said_once():
    """A worm, a coupling and a cycloidal unit in one line: two notes along the top, not three."""
    coupling = {"kind": "coupling", "designation": "CJ-65"}
    links = [{"kind": "reducer", "designation": "PW-4 15:1"}, coupling, {"kind": "reducer", "designation": "PC-1 11:1"}]
    notes = [label for label in drawn(with_links(*links)).words if label.role == "note"]
    assert len(notes) == 2
    assert {label.anchor for label in notes} == {"start", "end"}


def test_a_right_angle_says_that_it_is_unfolded():
    for link in (family_of("worm_set").starter(SHIPPED), {"kind": "reducer", "designation": "PB-2 10:1"}):
        assert any("unfolded" in label.text for label in drawn(with_links(link)).words)


@pytest.mark.parametrize(
    ("link", "shown"),
    [
        (build_belt(), set()),
        (build_belt(belt="A75", idler="slack_strand_inside", idler_diameter_mm=100.0),
         {"idler_diameter_mm", "idler_share", "idler_push_mm"}),
        (GEARS, set()),
        (GEARS | {"idlers": 1, "idler_teeth": 20}, {"idler_teeth"}),
    ],
)  # fmt: skip
def test_fields_that_mean_nothing_are_not_asked(link: dict[str, Any], shown: set[str]):
    machine = with_links(link)
    fields = link_fields(machine, machine.model_dump(mode="json"), (0, 0), METRIC, SHIPPED)
    names = {field.path.rpartition(".")[2] for field in fields}
    sometimes = {"idler_teeth", "shear_pin_mm", "shear_circle_mm", "shear_pin_steel"} | {
        "idler_diameter_mm",
        "idler_share",
        "idler_push_mm",
    }
    assert names & sometimes == shown


def test_a_shaft_offers_its_form_then_shows_what_it_bears():
    bare = seen(build_machine(), at="shaft-3").editor
    assert bare.offers_shaft
    assert bare.heading == "Shaft 3 · Reducer out"
    raw = build_machine().model_dump(mode="json")
    raw["plans"][0]["shafts"] = [{"shaft": 3, "diameter_mm": 25.0, "steel": "steel_1045", "key_width_mm": 8.0}]
    editor = seen(Machine.model_validate(raw), at="shaft-3").editor
    assert editor.is_shaft
    assert editor.fields[0].path == "plans.0.shafts.0.diameter_mm"
    rows = {limit.name: limit for limit in editor.limits}
    assert rows["shaft twists"].use.endswith("%")
    assert rows["key shears"].allowed == "needs its length"
    hint = next(field.hint for field in editor.fields if field.path.endswith("key_width_mm"))
    assert hint == "usual: 8 mm"


@pytest.mark.parametrize("at", ["shaft-0", "shaft-9", "shaft-x", "link-9", "nothing"])
def test_a_place_that_is_not_there_opens_nothing(at: str):
    assert seen(build_machine(), at=at).editor is None


@pytest.mark.parametrize("kind", END_KINDS, ids=lambda kind: kind.kind)
def test_an_end_shows_force_with_and_without_loss(kind: Any):
    machine = build_machine(need={"end": {"kind": kind.kind}})
    view = end_view(machine, METRIC)
    figures = {item.label: str(item.shown) for item in view.figures}
    assert view.title == kind.title
    assert "without loss" in view.says
    assert view.caution
    assert figures["Force"].endswith(("N", "kN"))
    assert view.working.steps[-1].name == "Force"
    assert kind.kind not in [other for other, _ in view.kinds]
    line = solve_plan(machine, machine.plans[0]).chosen
    assert end_summary(machine.need, line.last_shaft, METRIC).startswith(f"{kind.title} {kind.does}")
    assert solve_report(machine)["plans"][0]["at_the_end"]["kind"] == kind.kind


def test_without_an_end_every_kind_is_offered_and_nothing_is_said():
    view = end_view(build_machine(), METRIC)
    assert [kind for kind, _ in view.kinds] == [kind.kind for kind in END_KINDS]
    assert not view.title
    assert solve_report(build_machine())["plans"][0]["at_the_end"] is None
    assert not seen(build_machine()).line.end_says


def test_an_end_without_a_torque_says_its_speed_alone():
    machine = build_machine(need={"running_torque_nm": None, "peak_torque_nm": None, "end": {"kind": "drum"}})
    view = end_view(machine, METRIC)
    assert "without loss" not in view.says
    assert " at " in view.says
    assert view.working is None


def test_the_methods_page_has_a_chapter_for_every_family_with_proofs():
    chapters = {chapter.key: chapter for chapter in handbook_view()}
    for family in FAMILIES:
        chapter = chapters[family.kind]
        assert chapter.formulas
        assert chapter.checks
        assert chapter.proofs
        assert {row.state for row in chapter.proofs} == {"clear"}
    assert chapters["end"].proofs
    assert chapters["spur"].tables


def test_a_proof_that_fails_says_so():
    off = Proof("shaft_torque", "wrong", "made up for this test", "T", 10.0, 10.3, "N*m", 0.01)
    near = Proof("shaft_torque", "right", "made up for this test", "T", 10.0, 10.05, "N*m", 0.01)
    assert not off.holds
    assert near.holds


def test_a_belt_round_an_idler_touches_its_wheels_on_the_paper():
    """Every strand drawn starts and ends on the pitch circle of a wheel, on the paper as in the shop."""
    belt = build_belt(belt="A75", idler="slack_strand_outside", idler_diameter_mm=130.0, idler_push_mm=40.0)
    drawing = drawn(with_links({**belt, "angle_deg": 20.0}))
    path = drawing.of("loop")[0].d
    ends = [(x, y) for x, y in re.findall(r"L(-?[\d.]+) (-?[\d.]+)", path)]
    starts = [(x, y) for x, y in re.findall(r"A[\d.]+ [\d.]+ 0 [01] [01] (-?[\d.]+) (-?[\d.]+)", path)]
    assert len(ends) == len(starts) == 3
    for x, y in (*ends, *starts):
        gaps = [
            abs(hypot(float(x) - wheel.center[0], float(y) - wheel.center[1]) - wheel.radius)
            for wheel in drawing.of("wheel")
        ]
        assert min(gaps) < 3.0, "within a belt's depth of a rim"
    sweeps = re.findall(r"A[\d.]+ [\d.]+ 0 [01] ([01])", path)
    assert sorted(sweeps) == ["0", "0", "1"], "the idler bends the belt the other way"


def test_a_small_case_has_its_ratio_below_it():
    tall = drawn(with_links({"kind": "reducer", "designation": "PL-2 15:1"}))
    low = drawn(with_links({"kind": "reducer", "designation": "PC-1 11:1"}, build_belt(
        measured_as="pitch", belt="B144", section="B", driven_rim="flat_drum",
        steps=[{"driver_diameter_mm": 140, "driven_diameter_mm": 945.5}])))  # fmt: skip
    for drawing, inside in ((tall, True), (low, False)):
        left, top, right, bottom = drawing.of("case")[0].box
        label = next(label for label in drawing.words if " : 1" in label.text)
        assert drawing.of("case")[0].part == "link-1"
        assert (top < label.y < bottom) == inside
        assert left < label.x < right
