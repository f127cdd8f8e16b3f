"""Everything the Train view shows, worked out before any template is asked."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pulltide.core.advantage import Advantage, advantage, ratio_asked
from pulltide.core.findings import Finding, Severity
from pulltide.core.line import ladder_of
from pulltide.core.line_result import LineResult, PlanResult, Shaft
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.transmission import AnyResult
from pulltide.presentation.own_words import setting_words
from pulltide.presentation.painting import Picture
from pulltide.presentation.sheet import sheet
from pulltide.presentation.torque_chart import TorqueChart, torque_chart_of
from pulltide.presentation.words import LAST_CAUTION, SEVERITY, TURN, counted, finding_line, subject_name
from pulltide.presentation.working_view import WorkingView
from pulltide.quantities import Units, show
from pulltide.web.end_view import end_summary
from pulltide.web.places.contract import Context
from pulltide.web.places.train.editor_view import Editor, editor_for
from pulltide.web.places.train.ladder_view import LadderView, ladder_view
from pulltide.web.places.train.notes_view import Notes, notes_view
from pulltide.web.places.train.picker_view import Picker, picker_for
from pulltide.web.selection import Figured
from pulltide.web.tiles import use_number, use_state
from pulltide.words import filled, say, worded


@dataclass(frozen=True, slots=True)
class ShaftCard:
    """One shaft of the line."""

    place: str
    heading: str
    speed: Figured
    torque: Figured
    power: Figured
    design: Figured
    turn: str
    taken: str = ""


@dataclass(frozen=True, slots=True)
class Gauge:
    """The graduated post: how full, in which state, and the number beside it."""

    level: float
    over: float
    state: str
    number: str
    limit: str


@dataclass(frozen=True, slots=True)
class LinkCard:
    """One link of the line."""

    place: str
    heading: str
    chips: tuple[str, ...]
    gauge: Gauge
    state: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FindingView:
    """One finding as it is said."""

    state: str
    fact: str
    subject: str
    line: str
    source: str
    advice: str
    figure: str
    remedies: tuple[RemedyView, ...]
    remedies_later: bool = False
    search: tuple[str, str] = ("", "")


@dataclass(frozen=True, slots=True)
class RemedyView:
    """One change on offer: its words, and the edit that makes it."""

    label: str
    path: str
    value: Any
    speed: str


@dataclass(frozen=True, slots=True)
class Strip:
    """What the last shaft needs, what the line runs it at, and the line's figures."""

    wants: str
    speed: Figured | None
    speed_state: str
    speed_note: str
    own_words: str
    figures: tuple[Figured, ...]
    speeds: tuple[tuple[str, bool, str], ...]


@dataclass(frozen=True, slots=True)
class Line:
    """The picture of the line, its torque and speed, and its cards."""

    drawing: Picture | None
    chart: TorqueChart | None
    shafts: tuple[ShaftCard, ...]
    links: tuple[LinkCard, ...]
    end_says: str


@dataclass(frozen=True, slots=True)
class Findings:
    """What was found; ``clear`` is filled when it is asked for."""

    counts: str
    open: tuple[FindingView, ...]
    clear: tuple[FindingView, ...]
    clear_count: int
    remedies_later: bool = False
    stopped: str = ""


@dataclass(frozen=True, slots=True)
class TrainView:
    """The whole place."""

    strip: Strip
    line: Line
    findings: Findings
    working: WorkingView | None
    editor: Editor | None
    picker: Picker | None
    ladder: LadderView | None
    cautions: tuple[str, ...]
    kinds: tuple[tuple[str, str], ...]
    notes: Notes


FIRST_CAUTION = "Guard every nip point before first power. Lock out and let it stop before touching a belt or a chain."


def train_view(context: Context) -> TrainView:
    """Solve the chosen plan with its remedies and put everything in words."""
    machine, plan, units = context.machine, context.plan, context.units
    result, line = context.proved, context.line
    found = ladder_of(machine, plan, line) if line else None
    return TrainView(
        _strip_view(context),
        _line_view(context),
        _findings(context),
        context.working(),
        editor_for(machine, result, context.selection, units, context.catalog),
        picker_for(context),
        ladder_view(line, found, context.names, units) if line and found else None,
        _cautions(plan),
        tuple((family.kind, worded(family.title)) for family in FAMILIES),
        notes_view(context),
    )


def _strip_view(context: Context) -> Strip:
    machine, plan, units = context.machine, context.plan, context.units
    result, line = context.proved, context.line
    return Strip(
        _wants(machine, units),
        _speed(line, units),
        _speed_state(result),
        _speed_note(machine, line, units),
        _own_words(machine, line, units),
        _strip(machine, plan, result, units),
        _speeds(result, units),
    )


def _line_view(context: Context) -> Line:
    plan, units, result, line = context.plan, context.units, context.proved, context.line
    if line is None or result is None:
        return Line(None, None, (), (), "")
    return Line(
        sheet(plan, line, units, unfolded=True),
        torque_chart_of(line),
        tuple(_shaft_card(line, shaft, units) for shaft in line.shafts),
        tuple(_link_card(plan, result, index, units) for index in range(len(plan.links))),
        end_summary(context.machine.need, line.last_shaft, units),
    )


def _findings(context: Context) -> Findings:
    result, selection = context.proved, context.selection
    if result is None:
        return Findings("", (), (), 0)
    listed = [found for found in result.findings if selection.clear or found.severity is not Severity.CLEAR]
    seen = [_finding(found, context, _where(result, found)) for found in listed]
    return Findings(
        _counts(result),
        tuple(view for view in seen if view.state != "clear"),
        tuple(view for view in seen if view.state == "clear"),
        result.count(Severity.CLEAR),
        any(view.remedies_later for view in seen),
        STOPPED.format(result.changes_tried) if result.stopped else "",
    )


#: What is said where not every remedy was tried.
STOPPED = "Stopped after {} changes: this plan has so many stages and steps that not every remedy was tried."


def _wants(machine: Machine, units: Units) -> str:
    need = machine.need
    low, high = (None if v is None else show(v, "rpm", units) for v in (need.speed_min_rpm, need.speed_max_rpm))
    if low and high:
        return f"{low.number}–{high}"
    if low or high:
        return say("over {low}", low=low) if low else say("under {high}", high=high)
    return str(show(need.speed_ideal_rpm, "rpm", units)) if need.speed_ideal_rpm else say("not entered")


def _speed(line: LineResult | None, units: Units) -> Figured | None:
    if line is None:
        return None
    last = line.last_shaft
    return Figured(say("This train runs at"), show(last.speed_rpm, "rpm", units), f"shaft-{last.number}/speed")


def _speed_state(result: PlanResult | None) -> str:
    if result is None:
        return "note"
    ranks = [f.severity for f in result.findings if f.code in ("need.speed_low", "need.speed_high") and f.step is None]
    return SEVERITY[max(ranks, key=lambda severity: severity.rank)] if ranks else "note"


def _speed_note(machine: Machine, line: LineResult | None, units: Units) -> str:
    ideal = machine.need.speed_ideal_rpm
    if line is None or ideal is None or line.unbridged:
        return ""
    off = line.last_shaft.speed_rpm / ideal - 1
    return f"{off * 100:+.1f} %".replace("-", "−")


def _own_words(machine: Machine, line: LineResult | None, units: Units) -> str:
    """The speed of the last shaft in the first of the machine’s own words."""
    asked = machine.need.requirement()
    if line is None or asked is None or line.unbridged:
        return ""
    said = asked.kind.say(machine.need.worksheet, line.last_shaft.speed_rpm)
    return ", ".join(
        f"{show(item.value, item.unit, units)} {filled(item.label, units)}"
        for item in said[:1]
        if item.value is not None
    )


def _strip(machine: Machine, plan: Plan, result: PlanResult | None, units: Units) -> tuple[Figured, ...]:
    if result is None:
        return ()
    line = result.chosen
    last = line.last_shaft
    wanted, gained = ratio_asked(machine, line), advantage(machine, plan, line)
    if line.unbridged:
        return (Figured(say("Ratio to bridge"), show(wanted, "", units), "", say("motor to last shaft")),)
    figures = [
        Figured(say("Ratio"), show(line.ratio, "", units), "line/ratio", _left(wanted, line.ratio, units)),
        Figured(say("Design torque"), show(last.design_torque_nm, "N*m", units), f"shaft-{last.number}/design"),
        Figured(
            say("Motor load"), show(line.motor_load, "share", units), "line/motor_load", _harder_on_motor(result, units)
        ),
        Figured(
            say("Line efficiency"),
            show(line.efficiency, "share", units),
            "line/efficiency",
            _gained(gained, units) if gained else "",
        ),
    ]
    if line.tightest is not None:
        number, limit = line.tightest
        under = _tightest_of_all(result, units) or say("stage {number}, {name}", number=number, name=worded(limit.name))
        figures.append(Figured(say("Tightest"), show(limit.use, "share", units), "", under))
    return tuple(figures)


def _gained(gained: Advantage, units: Units) -> str:
    times = show(gained.real, "", units)
    return say("force × {times}", times=times) if gained.of_force else say("torque × {times}", times=times)


def _harder_on_motor(result: PlanResult, units: Units) -> str:
    """The further load that loads the motor more than the leading one."""
    own = result.chosen.motor_load or 0.0
    harder = [(line.motor_load, title) for title, line in result.further if (line.motor_load or 0.0) > own]
    return (
        say("{harder} for {load}", harder=show(max(harder)[0], "share", units), load=max(harder)[1].lower())
        if harder
        else ""
    )


def _tightest_of_all(result: PlanResult, units: Units) -> str:
    """The further load that uses a part more than the leading one does any."""
    own = result.chosen.tightest
    least = (own[1].use or 0.0) if own else 0.0
    found = [(line.tightest, title) for title, line in result.further]
    harder = [(pair[1].use, pair[0], title) for pair, title in found if pair and (pair[1].use or 0.0) > least]
    if not harder:
        return ""
    use, number, title = max(harder)
    return say("{use} for {load}, stage {number}", use=show(use, "share", units), load=title.lower(), number=number)


def _left(wanted: float | None, ratio: float, units: Units) -> str:
    """The ratio that is needed, and what is left to bridge where that is more than a hair."""
    if wanted is None:
        return ""
    left = wanted / ratio
    rest = say(", {left} left", left=show(left, "", units)) if abs(left - 1) > NEAR_ENOUGH else ""
    return say("needed {wanted}{rest}", wanted=show(wanted, "", units), rest=rest)


#: A ratio within this share of the one that is needed leaves nothing to bridge: the useful band decides.
NEAR_ENOUGH = 0.1


def _speeds(result: PlanResult | None, units: Units) -> tuple[tuple[str, bool, str], ...]:
    if result is None or len(result.settings) < 2:
        return ()
    here = (result.chosen.setting, result.chosen.position)
    return tuple(
        (
            str(show(line.last_shaft.speed_rpm, "rpm", units).number),
            (line.setting, line.position) == here,
            setting_words(result, line),
        )
        for line in result.settings
    )


def _shaft_card(line: LineResult, shaft: Shaft, units: Units) -> ShaftCard:
    place = f"shaft-{shaft.number}"
    taken, rubbed = line.taken_nm[shaft.number - 1], line.dragged_nm[shaft.number - 1]
    return ShaftCard(
        place,
        f"{shaft.number} · {filled(shaft.name, units)}",
        Figured("speed", show(shaft.speed_rpm, "rpm", units), f"{place}/speed"),
        Figured("torque", show(shaft.running_torque_nm, "N*m", units), f"{place}/torque"),
        Figured("power", show(shaft.power_kw, "kW", units), f"{place}/power"),
        Figured("design", show(shaft.design_torque_nm, "N*m", units), f"{place}/design"),
        say(TURN[shaft.turn]),
        _taken_words(taken - rubbed, rubbed, units),
    )


def _taken_words(taken_nm: float, rubbed_nm: float, units: Units) -> str:
    """What a take-off and measured friction draw at a shaft; nothing without either."""
    drawn = [say("{taken} taken off here", taken=show(taken_nm, "N*m", units))] if taken_nm > 0 else []
    drawn += [say("{rubbed} measured friction", rubbed=show(rubbed_nm, "N*m", units))] if rubbed_nm > 0 else []
    return ", ".join(drawn)


def _gauge(link: AnyResult, units: Units) -> Gauge:
    tightest = link.tightest
    unknown = [worded(limit.name) for limit in link.limits if limit.allowed is None]
    if tightest is None or tightest.use is None:
        return Gauge(0.0, 0.0, "note", "?", unknown[0] + say(" unknown") if unknown else say("not checked"))
    use = tightest.use
    state = use_state(use)
    number = use_number(use, units)
    return Gauge(min(use, 1.0), min(max(use - 1.0, 0.0), 0.5), state, number, worded(tightest.name))


def _link_card(plan: Plan, result: PlanResult, index: int, units: Units) -> LinkCard:
    link, solved = plan.links[index], result.chosen.links[index]
    place = f"link-{index + 1}"
    ranks = [f.severity for f in result.findings if place in f.places]
    worst = max(ranks, key=lambda severity: severity.rank, default=Severity.CLEAR)
    words = family_of(link.kind).words(link, solved.step)
    chips = tuple(filled(chip, units) for chip in words.chips)
    return LinkCard(place, worded(words.title), chips, _gauge(solved, units), SEVERITY[worst])


def _finding(finding: Finding, context: Context, at_step: str) -> FindingView:
    names, units, selection = context.names, context.units, context.selection
    remedies = tuple(
        RemedyView(
            filled(remedy.label, units),
            f"plans.{selection.plan}.{path}",
            value,
            str(show(remedy.last_speed_rpm, "rpm", units)),
        )
        for remedy in finding.remedies
        for path, value in remedy.changes[:1]
    )
    line = finding_line(finding, units)
    fact = line.fact + (f" ({at_step})" if at_step else "")
    return FindingView(
        state=SEVERITY[finding.severity],
        fact=fact,
        subject=", ".join(subject_name(place, names) for place in finding.places),
        line=line.line,
        source=line.source,
        advice=line.advice,
        figure=_explaining(finding, context),
        remedies=remedies,
        remedies_later=context.awaits_remedies(finding),
        search=_search(finding, context),
    )


def _search(finding: Finding, context: Context) -> tuple[str, str]:
    """Words and address of a search that answers a finding: of its stage alone, or of the whole drive."""
    if finding.severity.rank < Severity.WARNING.rank or not finding.rule.curable:
        return "", ""
    kind, _, number = finding.subject.partition("-")
    if kind == "link":
        return say("Search for another stage {number}", number=number), context.selection.to(
            "ways", wish=f"free:{number}"
        )
    return (say("Search for another drive"), context.selection.to("ways")) if finding.code in SEARCHED else ("", "")


#: What only another drive mends, where no single change does.
SEARCHED = frozenset({"need.speed_low", "need.speed_high"})


def _explaining(finding: Finding, context: Context) -> str:
    """The figure whose working explains a finding, as its family says; empty where none does."""
    if finding.code.startswith("need.speed"):
        return f"shaft-{len(context.names)}/speed"
    kind, _, number = finding.subject.partition("-")
    if kind != "link" or context.line is None or finding.load:
        return ""
    solved = context.line.links[int(number) - 1]
    key = family_of(solved.kind).explaining(finding.code, solved)
    return f"{finding.subject}/{key}" if key else ""


def _where(result: PlanResult | None, finding: Finding) -> str:
    """The setting that a finding is about, where it is not the one in use."""
    if result is None or finding.step is None:
        return ""
    setting = setting_words(result, result.settings[finding.step - 1])
    return say("at {setting}", setting=setting) if setting else ""


def _counts(result: PlanResult | None) -> str:
    if result is None:
        return ""
    return say(
        "{error} · {warning} · {clear} OK",
        error=counted(result.count(Severity.ERROR), "problem"),
        warning=counted(result.count(Severity.WARNING), "warning"),
        clear=result.count(Severity.CLEAR),
    )


def _cautions(plan: Plan) -> tuple[str, ...]:
    own = dict.fromkeys(family_of(link.kind).caution for link in plan.links)
    return (say(FIRST_CAUTION), *(worded(caution) for caution in own if caution), say(LAST_CAUTION))
