"""What a page is made of, before any template: the drawing is true, the torque chart rises, workings read well."""

from __future__ import annotations

import re
from datetime import UTC, datetime
from math import hypot

import pytest

from builders import INCH, build_belt, build_machine
from pulltide.core.drawing import open_loop
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import EXACT, Severity
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine
from pulltide.core.working import Step
from pulltide.presentation.sheet import FLOOR, HEIGHT, WIDTH, sheet
from pulltide.presentation.words import measured_line, source_line, subject_name
from pulltide.presentation.working_view import substituted, working_view
from pulltide.quantities import Units
from pulltide.services.machines import StoredMachine
from pulltide.web.places import Context
from pulltide.web.places.duty.duty_view import duty_view
from pulltide.web.places.train.train_view import train_view
from pulltide.web.selection import Selection
from pulltide.web.shop_view import machine_card
from pulltide.words import filled

METRIC = Units()


def seen(machine: Machine, units: Units = METRIC, **selection):
    stored = StoredMachine("id", 3, machine, datetime.now(UTC), None, None)
    return train_view(Context(stored, Selection(**selection), units))


def drawn(machine: Machine):
    return sheet(machine.plans[0], solve_plan(machine, machine.plans[0]).chosen, METRIC, unfolded=True)


def test_the_elevation_is_to_scale():
    machine = build_machine()
    line = solve_plan(machine, machine.plans[0]).chosen
    drawing = drawn(machine)
    one, two, three, four = (mark.center for mark in drawing.of("axle"))
    belt = hypot(two[0] - one[0], two[1] - one[1]) / line.links[0].center_distance_mm
    chain = hypot(four[0] - three[0], four[1] - three[1]) / line.links[2].center_distance_mm
    assert belt == pytest.approx(chain)
    motor_pulley, driven_pulley = (mark for mark in drawing.of("wheel") if mark.part == "link-1")
    assert motor_pulley.radius / belt == pytest.approx(3.4 * INCH / 2)
    assert driven_pulley.radius / belt == pytest.approx(8.0 * INCH / 2)
    assert motor_pulley.center == one


def test_everything_drawn_lies_on_the_sheet():
    steep = build_machine(links=[build_belt(angle_deg=80), build_belt(angle_deg=-60), build_belt(angle_deg=-90)])
    for machine in (build_machine(), build_machine(links=[]), steep):
        drawing = drawn(machine)
        for wheel in drawing.of("wheel"):
            assert wheel.center[0] - wheel.radius >= 0
            assert wheel.center[0] + wheel.radius <= WIDTH
            assert wheel.center[1] - wheel.radius >= 0
            assert wheel.center[1] + wheel.radius <= FLOOR
        assert all(0 < label.x < WIDTH and 0 < label.y < HEIGHT for label in drawing.words)


@pytest.mark.parametrize(("r1", "r2", "second"), [(40, 120, (500, 0)), (120, 40, (300, 200)), (50, 50, (0, -200))])
def test_belts_touch_their_wheels_and_no_more(r1: float, r2: float, second: tuple[float, float]):
    """Each tangent point lies on its circle and the span is square to both radii."""
    loop = open_loop((0.0, 0.0), r1, second, r2)
    for start, end in (loop.upper, loop.lower):
        assert hypot(*start) == pytest.approx(r1)
        assert hypot(end[0] - second[0], end[1] - second[1]) == pytest.approx(r2)
        span = (end[0] - start[0], end[1] - start[1])
        assert span[0] * start[0] + span[1] * start[1] == pytest.approx(0, abs=1e-6)
    assert loop.wrap_first_deg + loop.wrap_second_deg == pytest.approx(360)
    with pytest.raises(ImpossibleGeometry):
        open_loop((0.0, 0.0), 100, (10.0, 0.0), 20)


def test_arrows_agree_with_the_sense_of_each_shaft():
    """Clockwise arcs are drawn with sweep 1; a worm's output has no arrow, for nobody knows."""
    straight = drawn(build_machine(links=[build_belt()]))
    assert [" 0 0 1 " in arrow.d for arrow in straight.of("turn")] == [True, True]
    helical = [build_belt(), {"kind": "reducer", "designation": "PL-4 50:1"}, build_belt()]
    turned = drawn(build_machine(links=helical))
    assert [" 0 0 1 " in arrow.d for arrow in turned.of("turn")] == [True, True, False, False]
    assert len(drawn(build_machine()).of("turn")) == 2


def test_the_tide_rises_where_torque_does():
    view = seen(build_machine())
    levels = [float(y) for y in re.findall(r",([\d.]+)", view.line.chart.surface)]
    speeds = [float(y) for y in re.findall(r",([\d.]+)", view.line.chart.speed)]
    assert levels == sorted(levels, reverse=True)
    assert speeds == sorted(speeds)
    assert seen(build_machine(links=[])).line.chart is None
    unknown = seen(build_machine(need={"running_torque_nm": None, "peak_torque_nm": None}))
    assert unknown.line.chart.water == ""


def test_a_gauge_is_full_at_its_limit_and_stands_over_past_it():
    easy = seen(build_machine(links=[build_belt()], need={"running_torque_nm": 5, "peak_torque_nm": 6}))
    hard = seen(build_machine(links=[build_belt()], need={"running_torque_nm": 40, "peak_torque_nm": 50}))
    assert easy.line.links[0].gauge.over == 0
    assert easy.line.links[0].gauge.state == "clear"
    assert hard.line.links[0].gauge.level == 1
    assert hard.line.links[0].gauge.over > 0
    assert hard.line.links[0].gauge.state == "fix"


def test_every_remedy_on_the_page_reads_in_the_persons_units():
    machine = build_machine(links=[build_belt(take_up_mm=10)])
    labels = [r.label for f in seen(machine, Units(length="in")).findings.open for r in f.remedies]
    assert labels
    assert not any("{" in label or "mm" in label for label in labels)
    assert filled("Give {76.2|mm} and {25.4|mm}", Units(length="in")) == "Give 3 in and 1 in"


def test_the_editor_shows_limits_and_what_each_school_says():
    link = seen(build_machine(), at="link-3").editor
    assert {row.name for row in link.limits} == {"plate fatigue", "pull against strength"}
    assert {"Loss", "Efficiency", "Service factor"} <= {figure.label for figure in link.figures}
    machine = build_machine()
    duty = duty_view(machine, 0, solve_plan(machine, machine.plans[0]), METRIC)
    assert [rule.chosen for rule in duty.rules] == [True, False, False]
    assert all(len(rule.uses) == len(duty.links) == 3 for rule in duty.rules)
    assert seen(build_machine(), at="nonsense").editor is None


def test_clear_checks_are_listed_only_when_asked_for():
    view = seen(build_machine())
    assert view.findings.clear == ()
    assert len(seen(build_machine(), clear=True).findings.clear) == view.findings.clear_count > 10


def test_an_address_keeps_what_is_not_changed():
    selection = Selection(plan=1, at="link-2", figure="line/ratio")
    turned = selection.within("id", 2)
    assert turned.to(at="link-3") == "/machines/id/train?plan=1&at=link-3&show=line/ratio"
    assert turned.to("need") == "/machines/id/need?plan=1"
    assert turned.action("edit") == "/machines/id/edit?in=train&plan=1&at=link-2&show=line/ratio"
    assert Selection().within("id", 1).to() == "/machines/id/train"
    assert Selection(plan=7).within("id", 2).plan == 1


@pytest.mark.parametrize(
    "figure",
    [
        "line/ratio",
        "line/efficiency",
        "line/motor_load",
        "shaft-1/speed",
        "shaft-2/torque",
        "shaft-3/power",
        "shaft-4/design",
        "link-1/design",
        "link-2/loss",
    ],
)
def test_figures_of_the_line_open_to_their_working(figure: str):
    view = seen(build_machine(), figure=figure)
    assert view.working.steps
    assert all(step.value and step.source for step in view.working.steps)


@pytest.mark.parametrize(
    "figure", ["", "shaft-9/speed", "link-0/wrap", "line/nothing", "shaft-1/nothing", "x-y/z", "link-1/"]
)
def test_what_is_no_figure_opens_nothing(figure: str):
    assert seen(build_machine(), figure=figure).working is None


def test_numbers_are_put_into_formulas_symbol_by_symbol():
    step = Step("n", "n2", "n1 d / D · (1 - s)", {"n1": 1740.0, "d": 3.4, "D": 8.0, "s": 0.003}, 737.3, "rpm", EXACT)
    assert substituted(step) == "1740 · 3.4 / 8 · (1 - 0.003)"
    listed = Step("K", "K_L", "table, by nominal length", {"L": 51.0}, 0.95, "", EXACT)
    assert substituted(listed) == "L = 51"
    assert substituted(Step("a", "a", "as entered", {}, 1.0, "", EXACT)) == ""


def test_a_working_gives_the_value_in_both_units():
    machine = build_machine()
    text = seen(machine, Units(torque="lbf*ft"), figure="shaft-4/torque").working.steps[-1].value
    assert text == "T4 = 120 N·m = 88.5 lb·ft"
    assert working_view.__doc__


def test_findings_read_as_measured_limit_and_source():
    machine = build_machine(need={"speed_min_rpm": 18.3, "speed_ideal_rpm": 19.0, "speed_max_rpm": 20.0})
    finding = next(f for f in solve_plan(machine, machine.plans[0]).findings if f.code == "need.speed_low")
    assert re.fullmatch(r"17\.\d rpm, at least 18\.3 rpm \(3\.\d+% short\)", measured_line(finding, METRIC))
    assert source_line(finding) == "the need as entered, speed band and torque"
    assert subject_name("shaft-2", ("Motor", "Jackshaft")) == "Shaft 2 · Jackshaft"
    assert subject_name("line", ()) == "Line"


def test_cards_of_the_floor():
    def card(machine: Machine):
        return machine_card(StoredMachine("id", 1, machine, datetime.now(UTC), None, None), METRIC)

    good = card(build_machine(motor={"power_kw": 0.55}))
    assert (good.state, good.wants) == ("clear", "14–20 rpm needed")
    assert card(build_machine(need={"running_torque_nm": 5000, "peak_torque_nm": 6000})).state == "fix"
    blank = card(Machine(name="Blank"))
    assert (blank.runs_at, blank.drawing) == ("no motor yet", None)
    assert Severity.ERROR.rank > Severity.WARNING.rank
