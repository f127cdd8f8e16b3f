"""The Fit place: centers that stock lengths allow, and one shaft at a time between its bearings."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import asdict, dataclass

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.fit.bearings import MAX_HOURS
from pulltide.core.fit.checks import RULES, SURROUNDINGS
from pulltide.core.fit.hubs import holds
from pulltide.core.fit.shaft import SAFETY, ShaftAnswer, harder, is_free, missing, wheels_of
from pulltide.core.fit.slack import slack_of
from pulltide.core.fit.strength import next_bar_mm, steel
from pulltide.core.fit.tensions import Setting, settings
from pulltide.core.fit.working import workings
from pulltide.core.links import family_of
from pulltide.core.shafts import Span, is_inch_shaft
from pulltide.core.transmission import AnyResult
from pulltide.presentation.build_sheet import setup_figures
from pulltide.presentation.painting import Picture, picture
from pulltide.presentation.plan_sheet import plan_sheet
from pulltide.presentation.sheet import sheet, side_sheet
from pulltide.presentation.words import FindingLine, finding_line
from pulltide.presentation.working_view import WorkingView, working_view
from pulltide.quantities import Units, show
from pulltide.web import forms
from pulltide.web.places.contract import Context
from pulltide.web.places.fit.feet_view import BoltLine, bolts, comes_off
from pulltide.web.places.fit.handles import Handle, Rings, grips, handles
from pulltide.web.places.fit.lengths import Length, lengths_of
from pulltide.web.places.fit.room_view import RoomView, room_view
from pulltide.web.places.fit.strips import across, frames, strips
from pulltide.web.tiles import use_number, use_state
from pulltide.words import error_text, filled, say, worded

#: What stands before the key of a shaft's figure in an address.
FIGURE = "fit/"
SPAN = tuple(Span.model_fields)
PART = ("diameter_mm", "steel")
CODES = frozenset(rule.code for rule in RULES)


@dataclass(frozen=True, slots=True)
class Answer:
    """One figure of a shaft."""

    name: str
    value: str
    under: str = ""
    figure: str = ""


@dataclass(frozen=True, slots=True)
class Tensions:
    """What a belt is set to: times of its life as columns, ways to measure as rows, as text."""

    when: tuple[str, ...]
    rows: tuple[tuple[str, tuple[str, ...]], ...]


@dataclass(frozen=True, slots=True)
class HoldLine:
    """One way to fix a wheel: its words, with what, at which torque it lets go, and how far the peak uses that."""

    way: str
    size: str
    torque: str
    use: str
    state: str


#: A bearing's name, and how well its ratings are known.
BEARING = {
    "insert": ("Insert", "as series 62, from memory, within 10 %"),
    "deep_60": ("Deep-groove, series 60", "from memory, within 10 %"),
    "deep_62": ("Deep-groove, series 62", "from memory, within 10 %"),
    "deep_63": ("Deep-groove, series 63", "from memory, within 10 %"),
    "tapered_face": ("Tapered rollers, face to face", "from memory, low, within 10 %"),
    "tapered_back": ("Tapered rollers, back to back", "from memory, low, within 10 %"),
}
HELD = {
    "key": "Key, where it shears or crushes",
    "set_screws": "Set screws 90° apart",
    "clamp": "Split clamp hub",
    "bushing": "Split taper bushing",
}
#: When a belt is set to what, in words.
WHEN = {"new": "new", "run_in": "run in", "again": "set again below", "now": "as measured"}


@dataclass(frozen=True, slots=True)
class LengthCard:
    """One stage that something of a stock length runs round."""

    number: int
    title: str
    center: str
    lengths: tuple[Length, ...]
    setup: tuple[Answer, ...]
    tensions: Tensions | None


@dataclass(frozen=True, slots=True)
class CaseCard:
    """The least case of a train that the shop makes: its section, and what it takes either way it is laid out."""

    number: int
    title: str
    drawing: Picture
    ways: tuple[str, str]
    rows: tuple[tuple[str, str, str], ...]


@dataclass(frozen=True, slots=True)
class ShaftTab:
    """One shaft to choose."""

    number: int
    name: str
    address: str
    current: bool
    free: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class FitView:
    """The place."""

    elevation: Picture | None
    plan: Picture | None
    cards: tuple[LengthCard, ...]
    cases: tuple[CaseCard, ...]
    bolts: tuple[BoltLine, ...]
    side: Picture | None
    rings: Rings
    tabs: tuple[ShaftTab, ...]
    number: int
    name: str
    is_free: bool
    exists: bool
    fields: tuple[forms.FormField, ...]
    missing: str
    fault: str
    drawing: Picture | None
    frames: tuple[dict[str, object], ...]
    answers: tuple[Answer, ...]
    findings: tuple[FindingLine, ...]
    working: WorkingView | None
    reliability: str
    holds: tuple[HoldLine, ...]
    room: RoomView
    grips: tuple[Handle, ...] = ()


def fit_view(context: Context) -> FitView:
    """Work out the chosen shaft, or say what is missing."""
    plan, line, units = context.plan, context.line, context.units
    shafts = len(line.shafts) if line is not None else 0
    free = [number for number in range(1, shafts + 1) if is_free(plan, number)]
    number = _chosen(context.selection.at, shafts, free)
    answer, lacks, fault = _solved(context, number) if number in free else (None, (), "")
    part, lengths = plan.shaft_part(number), lengths_of(context)
    return FitView(
        elevation=sheet(plan, line, units) if line is not None and plan.links else None,
        plan=plan_sheet(plan, line, units) if line is not None and plan.links else None,
        cards=tuple(_cards(context, lengths)),
        cases=tuple(_cases(context)),
        bolts=bolts(context),
        side=side_sheet(plan, line, units) if line is not None and plan.links else None,
        rings=handles(context, lengths),
        tabs=tuple(_tabs(context, number, free)),
        number=number,
        name=context.names[number - 1] if number else "",
        is_free=number in free,
        exists=part is not None,
        fields=tuple(_fields(context, number)) if part is not None else (),
        missing=", ".join(lacks),
        fault=fault,
        drawing=None if answer is None else strips(answer, units),
        frames=() if answer is None else tuple(asdict(frame) for frame in frames(answer, units)),
        answers=() if answer is None else tuple(_answers(answer, units)),
        findings=tuple(_found(context, number)),
        working=None if answer is None else _working(answer, context),
        reliability=context.machine.duty.bearing_reliability,
        holds=() if part is None else tuple(_holds(context, number)),
        room=room_view(context),
        grips=() if answer is None else _grips(context, answer, number),
    )


def _grips(context: Context, answer: ShaftAnswer, number: int) -> tuple[Handle, ...]:
    """Rings on what stands along the shaft."""
    part = context.plan.shaft_part(number)
    if part is None or part.span is None:
        return ()
    base = f"plans.{context.selection.plan}.shafts.{context.plan.shafts.index(part)}"
    return tuple(grips(answer, part.span, base, context, across(answer)[0]))


def _holds(context: Context, number: int) -> Iterator[HoldLine]:
    """Ways to fix a wheel on the shaft, each against the peak that it must pass on."""
    part, line = context.plan.shaft_part(number), context.line
    if part is None or line is None:
        return
    shaft = line.shafts[number - 1]
    peak = shaft.peak_torque_nm or shaft.design_torque_nm
    for hold in holds(part):
        use = None if peak is None else peak / hold.torque_nm
        yield HoldLine(
            say(HELD[hold.way]),
            filled(hold.size, context.units),
            str(show(hold.torque_nm, "N*m", context.units)),
            "" if use is None else use_number(use, context.units),
            _hold_state(hold.way, use),
        )


#: Set screws are used to so much of what they hold at most. Common practice, no source.
SCREWS_SHARE = 0.5


def _hold_state(way: str, use: float | None) -> str:
    if way == "set_screws" and use is not None and SCREWS_SHARE < use <= 1:
        return "weigh"
    return use_state(use)


def _working(answer: ShaftAnswer, context: Context) -> WorkingView | None:
    """How the figure that is opened comes about."""
    key = context.selection.figure.removeprefix(FIGURE)
    made = workings(answer).get(key)
    return None if made is None else working_view(made(), context.units)


def _solved(context: Context, number: int) -> tuple[ShaftAnswer | None, tuple[str, ...], str]:
    """The shaft solved, or what is missing, or why it cannot stand so."""
    line = context.line
    assert line is not None
    driven, driver = wheels_of(line, number)
    lacks = missing(context.plan.shaft_part(number), driven=driven, driver=driver)
    try:
        answer = harder(context.machine, context.plan, line, number)
    except ImpossibleGeometry as error:
        return None, (), filled(error_text(error), context.units)
    said = tuple(filled(what, context.units) for what in lacks) or (say("the running torque, under Need"),)
    return answer, () if answer else said, ""


def _tabs(context: Context, number: int, free: list[int]) -> Iterator[ShaftTab]:
    for place, shaft in enumerate(context.line.shafts if context.line is not None else (), start=1):
        address = context.selection.to(at=f"shaft-{place}")
        yield ShaftTab(place, filled(shaft.name, context.units), address, place == number, place in free)


def _found(context: Context, number: int) -> Iterator[FindingLine]:
    for finding in context.result.findings if context.result is not None else ():
        here = finding.rule.code in CODES and f"shaft-{number}" in (finding.subject, *finding.also)
        if here or finding.rule in SURROUNDINGS:
            yield finding_line(finding, context.units)


def _chosen(at: str, shafts: int, free: list[int]) -> int:
    kind, _, number = at.partition("-")
    if kind == "shaft" and number.isdecimal() and 1 <= int(number) <= shafts:
        return int(number)
    return free[0] if free else min(shafts, 1)


def _cards(context: Context, lengths: dict[int, tuple[Length, ...]]) -> Iterator[LengthCard]:
    units, off = context.units, comes_off(context)
    for index, listed in lengths.items():
        line = context.line
        assert line is not None
        link, result = context.plan.links[index], line.links[index]
        title = filled(family_of(link.kind).words(link, result.step).title, units)
        loop = result.transmission.observed(result).loop if result.load_known else None
        tensions = None if loop is None else _tensions(tuple(settings(loop)), units)
        figures = [figure for figure in setup_figures(result) if not (tensions and figure.key in BY_TENSION)]
        setup = tuple(Answer(worded(f.label), str(show(f.value, f.unit, units))) for f in figures)
        if index + 1 in off:
            setup = (*setup, Answer(say("Comes off"), off[index + 1]))
        setup = (*setup, *_slack(result, line.shafts[index].turn, units))
        yield LengthCard(index + 1, title, str(show(result.center_distance_mm, "mm", units)), listed, setup, tensions)


#: What a case takes, and the figure of the same laid out the other way.
EITHER_WAY = (("case_volume", "other_volume"), ("case_mass", "other_mass"), ("case_cost", "other_cost"))


def _cases(context: Context) -> Iterator[CaseCard]:
    """Every case of the shop's own, as it is laid out and the other way."""
    units = context.units
    for index, result in enumerate(context.line.links if context.line is not None else ()):
        link = context.plan.links[index]
        drawn = family_of(link.kind).section(result)
        if drawn is None:
            continue
        figures = {figure.key: figure for figure in result.figures if figure.value is not None}
        rows = [(figures[a], figures[b]) for a, b in EITHER_WAY if a in figures and b in figures]
        yield CaseCard(
            index + 1,
            filled(family_of(link.kind).words(link, result.step).title, units),
            picture(drawn, units),
            (say("as it is laid out"), worded(rows[0][1].label).rpartition(", ")[2] if rows else ""),
            tuple(
                (worded(a.label), str(show(a.value, a.unit, units)), str(show(b.value, b.unit, units))) for a, b in rows
            ),
        )


#: Which strand of a chain hangs, by whether it is the upper one.
STRANDS = {True: "the upper one", False: "the lower one", None: "by its sense"}


def _slack(result: AnyResult, turn: int | None, units: Units) -> Iterator[Answer]:
    """How a chain is set."""
    slack = slack_of(result, turn)
    if slack is not None:
        yield Answer(say("Slack strand"), say(STRANDS[slack.above]))
        yield Answer(say("Sag at mid-span"), str(show(slack.sag_mm, "mm", units)))
        yield Answer(
            say("Take-up until {worn_percent:.2g} % longer", worn_percent=slack.worn_percent),
            str(show(slack.wear_mm, "mm", units)),
        )


#: Figures of a card that its table of tensions holds.
BY_TENSION = frozenset(("tension", "deflection_force", "deflection", "frequency"))


def _tensions(found: tuple[Setting, ...], units: Units) -> Tensions:
    def shown(values: Iterable[float], unit: str) -> tuple[str, ...]:
        return tuple(str(show(value, unit, units)) for value in values)

    dip = show(found[0].dip_mm, "mm", units)
    return Tensions(
        tuple(say(WHEN[one.when]) for one in found),
        (
            (say("Tension of each belt"), shown((one.static_n for one in found), "N")),
            (say("Force for {dip} at mid-span", dip=dip), shown((one.press_n for one in found), "N")),
            (say("Strum"), shown((one.strum_hz for one in found), say("Hz"))),
            (say("Pull on a shaft at rest"), shown((one.rest_pull_n for one in found), "N")),
        ),
    )


def _fields(context: Context, number: int) -> Iterator[forms.FormField]:
    document = context.machine.model_dump(mode="json")
    part = context.plan.shaft_part(number)
    assert part is not None
    base = f"plans.{context.selection.plan}.shafts.{context.plan.shafts.index(part)}"
    for name in PART:
        yield forms.form_field(document, f"{base}.{name}", context.units)
    absent = {"driven_at_mm"} if number == 1 else set()
    absent |= {"driver_at_mm"} if number > len(context.plan.links) else set()
    for name in SPAN:
        if name in absent:
            continue
        yield forms.form_field(document, f"{base}.span.{name}", context.units)


def _answers(answer: ShaftAnswer, units: Units) -> Iterator[Answer]:
    weakest, case = answer.weakest, answer.case
    guessed = "" if steel(case.steel).known else say("; steel not known: the weakest bar that is sold")
    way = say("; either way, this way harder") if answer.either_way else ""
    where = say("at the {name}, by Goodman{guessed}{way}", name=worded(weakest.name), guessed=guessed, way=way)
    yield Answer(say("Safety against fatigue"), f"{weakest.goodman:.2f}", where, "fatigue")
    yield Answer(
        say("The same by the ASME ellipse"), f"{weakest.elliptic:.2f}", say("nearer to what tests show"), "ellipse"
    )
    yields = min(section.yields for section in answer.sections)
    yield Answer(say("Safety against yield at the peak"), f"{yields:.2f}", "", "yield")
    inch = is_inch_shaft(case.thickest_mm)
    bar = next_bar_mm(answer.goodman_mm, inch=inch)
    least = str(show(answer.goodman_mm, "mm", units))
    yield Answer(
        say("Least diameter for a safety of {safety:g}", safety=SAFETY),
        least,
        say("next bar {bar}", bar=show(bar, "mm", units)) if bar is not None else say("above the listed bars"),
        "least",
    )
    code = str(show(answer.code_mm, "mm", units))
    yield Answer(say("Least diameter by the older code"), code, say("ASME B17c, steel not known"), "code")
    for number, bearing in enumerate(answer.bearings, start=1):
        radial, life = str(show(bearing.radial_n, "N", units)), _life(bearing.life_h, case.speed_rpm)
        yield Answer(say("Bearing {number}", number=number), radial, life, f"bearing-{number}")
    for number, (wheel, bends) in enumerate(zip(case.wheels, answer.wheels_mm, strict=True), start=1):
        yield Answer(
            say("Bends at the {name}", name=worded(wheel.name)), str(show(bends, "mm", units)), "", f"bends-{number}"
        )
    if answer.twist_deg:
        yield Answer(say("Twist between its wheels"), str(show(answer.twist_deg, "deg", units)), "", "twist")
    critical = say("{critical:,.0f} rpm", critical=answer.critical_rpm).replace(",", " ")
    yield Answer(
        say("First critical speed"),
        critical,
        say("the shaft turns at {speed}", speed=show(case.speed_rpm, "rpm", units)),
        "critical",
    )
    insert = next((one for one in case.inserts if one is not None), None)
    if insert is not None:
        name, under = map(say, BEARING[insert.type])
        yield Answer(name, f"C {show(insert.dynamic_n, 'N', units)}", under)


def _life(life_h: float | None, speed_rpm: float) -> str:
    if life_h is None:
        return say("none is listed for this bore")
    return (
        say("{life:,.0f} h or more", life=life_h).replace(",", " ")
        if life_h >= MAX_HOURS
        else f"{life_h:,.0f} h".replace(",", " ")
    )
