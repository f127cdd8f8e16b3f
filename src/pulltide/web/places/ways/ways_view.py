"""The kinds of drive that the lists allow, and the switches of what is allowed, as words, figures and addresses."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from string import ascii_uppercase
from typing import Any

from pulltide.core.catalog import Item
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.findings import Severity
from pulltide.core.links import family_of
from pulltide.core.search.ways import TOP, Way, Ways
from pulltide.core.search.why_not import WhyNot, why_not
from pulltide.core.search.wish import MAX_STAGES, RankBy, Shown, Wish, left_out, motor_groups, supply_of
from pulltide.core.stock import OF_STAGES, PART
from pulltide.presentation.painting import Picture
from pulltide.presentation.sheet import scale_of, small_sheet
from pulltide.presentation.words import counted, finding_line
from pulltide.quantities import Units, reader_for, show
from pulltide.services.search_jobs import Searching
from pulltide.services.searching import MAX_SPEEDS, SEARCHED, TURNS, Relaxed, wish_from
from pulltide.web.places.contract import Context
from pulltide.web.places.ways.chart import Chart, chart_of
from pulltide.web.tiles import use_number, use_state
from pulltide.words import error_text, filled, say, worded

RANKED: dict[RankBy, str] = {
    "balance": "a balance of all",
    "price": "price",
    "year": "price and a year of loss",
    "parts": "fewest parts",
    "speed": "speed",
    "loss": "least loss",
    "margin": "margin",
    "noise": "least noise",
}
LISTED: dict[Shown, str] = {"kinds": "the best of each kind", "trains": "the best {top} of all"}
#: What is said of a drive with change pulleys for further speeds.
STEPPED = "change pulleys for the further speeds in the price"
#: Most to spend, in price units, to choose from.
SPENDS = (0, 25, 50, 100, 200, 400)
TURN_WORDS = {"either": "either way", "same": "as the motor", "opposite": "against the motor"}
#: One for each drive of the longest list.
LETTERS = ascii_uppercase[:TOP]
MANY = 3
#: Parts of the shelf that are offered to be demanded.
MAX_PARTS = 24


@dataclass(frozen=True, slots=True)
class Switch:
    """One choice: its words, whether it is on, and the address at which it is."""

    words: str
    state: str
    address: str
    hint: str = ""


@dataclass(frozen=True, slots=True)
class SwitchRow:
    """Choices that belong together."""

    label: str
    switches: tuple[Switch, ...]


@dataclass(frozen=True, slots=True)
class Hint:
    """What would have to give or is shown instead, what it would allow, and where it is changed."""

    words: str
    found_by_it: str
    address: str


@dataclass(frozen=True, slots=True, kw_only=True)
class WayRow:
    """One kind of drive, or one drive."""

    letter: str
    name: str
    stages: tuple[str, ...]
    drawing: Picture
    speed: str
    off: str
    tightest: str
    tightest_use: str
    tightest_state: str
    width: int
    price: str
    bought: str
    parts: tuple[str, ...]
    arrives: str
    findings: str
    findings_state: str
    more: Hint | None
    remark: str
    plan: str


@dataclass(frozen=True, slots=True, kw_only=True)
class WaysView:
    """The place; ``why_not`` says what is missing, or why nothing was found."""

    asked: str
    switches: tuple[SwitchRow, ...]
    bare: bool
    rows: tuple[WayRow, ...] = ()
    counted: str = ""
    why_not: str = ""
    hints: tuple[Hint, ...] = ()
    preparing: bool = False
    stopped: bool = False
    speeds: str = ""
    speeds_fault: str = ""
    searching: bool = False
    left_out: str = ""
    chart: Chart | None = None
    others: tuple[tuple[str, str], ...] = ()


def said_of(wish: str) -> dict[str, str]:
    """The wish in an address, ``rank:price;stages:2``, by name.

    >>> said_of("rank:price;stages:2;;x")
    {'rank': 'price', 'stages': '2'}
    """
    pairs = (pair.partition(":") for pair in wish.split(";"))
    return {name: value for name, mark, value in pairs if mark}


def speeds_from(text: str, units: Units) -> list[float]:
    """Speeds as they are typed, with commas between, in any unit of speed [rpm]. Raises InputErrors."""
    read = reader_for(units)
    try:
        return [read(one.strip(), "rpm") for one in text.split(",") if one.strip()]
    except ValueError as error:
        accepted = say("speeds with commas between: 120, 240 rpm")
        raise InputErrors([InputError(say("Must also run at"), "", error_text(error), accepted=accepted)]) from error


def _read(named: dict[str, Any], context: Context) -> tuple[Wish, str]:
    """What is asked for, and why the further speeds of it are not: those alone are left out then."""
    try:
        return wish_from(named, context.catalog), ""
    except InputErrors:
        typed = str(named.get("speeds", ""))
        if not typed:
            raise
        return wish_from({**named, "speeds": ""}, context.catalog), _unread(typed, context.units)


def _unread(typed: str, units: Units) -> str:
    """Why further speeds cannot be taken."""
    accepted = say("up to {max_speeds} of 0.01 to 100,000 rpm", max_speeds=MAX_SPEEDS)
    try:
        speeds_from(typed, units)
    except InputErrors as error:
        return error_text(error)
    return error_text(InputError(say("Must also run at"), typed, say("cannot be taken"), accepted=accepted))


def ways_view(context: Context) -> WaysView:
    """Search and show; what cannot be searched says what is missing."""
    said = said_of(context.selection.wish)
    groups = motor_groups(context.catalog)
    number = said.get("motor", "")
    named = {**said, "motor": groups[int(number)] if number.isdecimal() and int(number) < len(groups) else ""}
    typed, fault = said.get("speeds", ""), ""
    try:
        wish, fault = _read(named, context)
    except InputErrors:
        wish, said = Wish(), {}
    blank = WaysView(
        asked=_asked(context, wish) + _further(wish, context.units) + _left_out(context, wish),
        switches=tuple(_switches(context, wish, said, groups)),
        bare=context.plan.source is None and not context.plan.links,
    )
    speeds = typed if fault else ", ".join(f"{speed:g}" for speed in wish.speeds)
    blank = replace(blank, speeds=speeds, speeds_fault=fault)
    if context.plan.source is None and not wish.motor:
        supplies = tuple(
            Hint(
                say("Any motor on the list for {group}", group=_supply(group)),
                "",
                _with(context, said, motor=str(number)),
            )
            for number, group in enumerate(groups)
        )
        return replace(
            blank,
            why_not=say("This plan has no motor yet. Enter it under Source, or say what there is to plug one into:"),
            hints=supplies,
        )
    if context.searcher is None or not context.searcher.prepared(context.patience_s):
        return replace(blank, preparing=True)
    try:
        looked = context.searcher.looked_for(
            context.machine, context.plan, wish, context.catalog, within_s=context.patience_s
        )
    except (InputError, InputErrors) as error:
        return replace(blank, why_not=error_text(error))
    if isinstance(looked, Searching):
        so_far = (
            say("{looked_at:,} combinations looked at so far", looked_at=looked.looked_at) if looked.looked_at else ""
        )
        return replace(blank, counted=so_far, searching=True)
    found = looked.ways
    if not wish.free:
        blank = replace(blank, others=tuple(_others(context, wish)))
    rows = tuple(_rows(found, context, said, wish.shown == "kinds"))
    kinds = _counted(len(rows), wish) if rows else say("no drive found")
    left_out = counted(found.refused, "drive") if found.refused else ""
    if rows:
        chart = chart_of(found.ways, LETTERS)
        return replace(blank, rows=rows, counted=kinds, left_out=left_out, stopped=found.stopped, chart=chart)
    hints = tuple(_nearest(context, looked.nearest, said, groups))
    return replace(
        blank, counted=kinds, why_not=_why_not(found, hints, context.units, wish), hints=hints, stopped=found.stopped
    )


def _asked(context: Context, wish: Wish) -> str:
    need, units = context.machine.need, context.units
    if wish.free and context.line is not None and wish.free < len(context.line.shafts):
        driver, driven = context.line.shafts[wish.free - 1 : wish.free + 1]
        ends = say(
            "{fast} to about {slow}",
            fast=show(driver.speed_rpm, "rpm", units),
            slow=show(driven.speed_rpm, "rpm", units),
        )
        return say("as it is; stage {free} anew, {ends}, the other stages stay", free=wish.free, ends=ends)
    speeds = [speed for speed in (need.speed_min_rpm, need.speed_max_rpm) if speed]
    band = say(" to ").join(show(speed, "rpm", units).number for speed in speeds)
    parts = [say("{band} rpm", band=band) if band else say("no speed yet")]
    if need.speed_ideal_rpm:
        parts.append(say("best {speed_ideal}", speed_ideal=show(need.speed_ideal_rpm, "rpm", units).number))
    if need.running_torque_nm:
        parts.append(say("{running_torque} running", running_torque=show(need.running_torque_nm, "N*m", units)))
    if need.peak_torque_nm:
        parts.append(say("{peak_torque} peak", peak_torque=show(need.peak_torque_nm, "N*m", units)))
    return ", ".join(parts)


def _further(wish: Wish, units: Units) -> str:
    """The further speeds that are asked for."""
    return (
        say("; also {speeds}", speeds=", ".join(str(show(speed, "rpm", units)) for speed in wish.speeds))
        if wish.speeds
        else ""
    )


def _left_out(context: Context, wish: Wish) -> str:
    """What is taken from shafts on the way, which nothing found counts."""
    shafts = left_out(context.plan, wish)
    if not shafts:
        return ""
    which, its = ("shafts", "those") if len(shafts) > 1 else ("shaft", "it")
    return say(
        "; not counted, add {its} to the drive you take: the take-off of {which} {shafts}",
        its=its,
        which=which,
        shafts=" and ".join(map(str, shafts)),
    )


def _supply(group: str) -> str:
    """A group of listed motors within a sentence: "brushed, direct current", "230 V, one-phase, 60 Hz"."""
    said = worded(group)
    return said[:1].lower() + said[1:]


def _with(context: Context, said: dict[str, str], **changed: str) -> str:
    """The address at which something else is allowed."""
    text = ";".join(f"{key}:{item}" for key, item in {**said, **changed}.items() if item)
    return context.selection.to(wish=text)


# -- switches -------------------------------------------------------------------------------------------------------


def _switches(context: Context, wish: Wish, said: dict[str, str], groups: tuple[str, ...]) -> Iterable[SwitchRow]:
    def to(**changed: str) -> str:
        return _with(context, said, **changed)

    def row(label: str, name: str, now: str, choices: Iterable[tuple[str, str]]) -> SwitchRow:
        made = (Switch(words, "on" if value == now else "", to(**{name: value})) for value, words in choices)
        return SwitchRow(label, tuple(made))

    free = str(wish.free) if wish.free else ""
    if context.line is not None and context.plan.links:
        stages = range(1, len(context.plan.links) + 1)
        rows = [
            ("", say("the whole drive"), to(free="")),
            *((str(k), say("stage {k}", k=k), to(free=str(k), motor="")) for k in stages),
        ]
        yield SwitchRow(
            say("Search for"), tuple(Switch(words, "on" if key == free else "", at) for key, words, at in rows)
        )
    yield SwitchRow(say("Families"), tuple(_family(kind, wish, to) for kind in SEARCHED))
    own = say("this plan's motor") if context.plan.source is not None else say("none yet")
    supply = supply_of(context.plan.source, context.catalog)
    listed = (
        (str(k), say("any listed, {group}", group=_supply(group)))
        for k, group in enumerate(groups)
        if supply in ("", group)
    )
    if not wish.free:
        yield row(say("Motor"), "motor", said.get("motor", ""), [("", own), *listed])
    yield from _parts(context, said, to)
    yield row(
        say("Stages"),
        "stages",
        str(wish.max_stages),
        [(str(k), say("up to {k}", k=k)) for k in range(1, MAX_STAGES + 1)],
    )
    spend = "" if wish.max_price is None else f"{wish.max_price:g}"
    yield row(
        say("Spend"),
        "price",
        spend,
        [("", say("what it takes")), *((str(k), say("up to {k}", k=k) if k else say("buy nothing")) for k in SPENDS)],
    )
    yield row(say("Turning"), "turn", wish.turn, [(turn, say(TURN_WORDS[turn])) for turn in TURNS])
    yield row(say("Ranked by"), "rank", wish.rank_by, [(rank, say(words)) for rank, words in RANKED.items()])
    yield row(say("List"), "list", wish.shown, [(shown, say(words, top=TOP)) for shown, words in LISTED.items()])


def _parts(context: Context, said: dict[str, str], to: Callable[..., str]) -> Iterable[SwitchRow]:
    """Parts of the shelf that may be demanded, and the one that is: a search makes no stage with the others."""
    now = said.get("use", "")
    shelf = [item for item in context.catalog.items if item.origin == "shelf"]
    lying = list(dict.fromkeys(_name(item) for item in shelf if item.part.removeprefix(PART) in OF_STAGES))
    names = [name for name in lying if not set(name) & set(";:")][:MAX_PARTS]
    if now and now not in names:
        names.append(now)
    if names:
        choices = [("", say("any part")), *((name, name) for name in names)]
        made = (Switch(words, "on" if value == now else "", to(use=value)) for value, words in choices)
        yield SwitchRow(say("Must use"), tuple(made))


def _name(item: Item) -> str:
    cells = dict(getattr(item.data, "cells", ()))
    return str(cells.get("designation", item.id))


def _family(kind: str, wish: Wish, to: Callable[..., str]) -> Switch:
    """May, must, never: each press leads to the next."""
    if kind in wish.never:
        never, must = wish.never - {kind}, wish.must
        state, hint = "never", say("never used; press to allow it")
    elif kind in wish.must:
        never, must = wish.never | {kind}, wish.must - {kind}
        state, hint = "must", say("must be in the drive; press to rule it out")
    else:
        never, must = wish.never, wish.must | {kind}
        state, hint = "", say("may be used; press to demand it")
    return Switch(
        worded(family_of(kind).title), state, to(never=",".join(sorted(never)), must=",".join(sorted(must))), hint
    )


# -- rows -----------------------------------------------------------------------------------------------------------


def _counted(number: int, wish: Wish) -> str:
    return counted(number, "drive" if wish.shown == "trains" else "kind of drive")


def _rows(found: Ways, context: Context, said: dict[str, str], kinds: bool) -> Iterable[WayRow]:
    best = _best_at(found.ways)
    scale = min((scale_of(way.plan, way.result.chosen) for way in found.ways), default=None)
    for letter, way in zip(LETTERS, found.ways, strict=False):
        row = _row(letter, way, context, scale, best.get(id(way), ()))
        yield replace(row, more=_more(way, context, said)) if kinds else row


def _best_at(ways: tuple[Way, ...]) -> dict[int, tuple[str, ...]]:
    """What each way is the best of the list at."""
    if len(ways) < MANY:
        return {}
    measures: dict[str, Callable[[Way], float]] = {
        "cheapest": lambda way: way.price,
        "fewest parts to buy": lambda way: len(way.parts),
        "most in hand": lambda way: way.use,
        "loses least": lambda way: -(way.result.chosen.efficiency or 0.0),
    }
    best: dict[int, tuple[str, ...]] = {}
    for words, measure in measures.items():
        first = min(ways, key=measure)
        best[id(first)] = (*best.get(id(first), ()), say(words))
    return best


def _row(letter: str, way: Way, context: Context, scale: float | None, best: tuple[str, ...]) -> WayRow:
    units, line, need = context.units, way.result.chosen, context.machine.need
    speed, tightest = line.last_shaft.speed_rpm, line.tightest
    use = None if tightest is None else tightest[1].use
    warnings = way.result.count(Severity.WARNING)
    return WayRow(
        letter=letter,
        name=way.plan.name,
        stages=tuple(_stage(link, units) for link in way.plan.links),
        drawing=small_sheet(way.plan, line, units, scale),
        speed=str(show(speed, "rpm", units)),
        off=_off(speed, need.speed_ideal_rpm),
        tightest=""
        if tightest is None
        else say("stage {tightest}, {name}", tightest=tightest[0], name=worded(tightest[1].name)),
        tightest_use=say("unknown") if use is None else use_number(use, units),
        tightest_state=use_state(use),
        width=0 if use is None else min(round(100 * use), 100),
        price=f"{way.price:.0f}",
        bought=counted(len(way.parts), "part"),
        parts=_folded(way.parts),
        arrives="" if line.efficiency is None else str(show(line.efficiency, "share", units)),
        findings=counted(warnings, "warning") if warnings else say("no warnings"),
        findings_state="weigh" if warnings else "clear",
        more=None,
        remark=", ".join((*best, say(STEPPED)) if way.price > way.train.price else best),
        plan=way.plan.model_dump_json(),
    )


def _more(way: Way, context: Context, said: dict[str, str]) -> Hint:
    """Where others like it are; a search for kinds ends before it has met all of them, so how many is not known."""
    alike, word = len(way.alike), way.train.word
    others = ",".join(kind for kind in SEARCHED if kind not in word)
    alone = {"must": ",".join(sorted(set(word))), "never": others, "stages": str(len(word)), "list": "trains"}
    words = say("at least {alike} more like this", alike=alike) if alike else say("look for more like this")
    return Hint(words, "", _with(context, said, **alone))


def _stage(link: object, units: Units) -> str:
    words = family_of(getattr(link, "kind", "")).words(link, 1)
    return " ".join(filled(text, units) for text in (words.title, *words.chips[:1]))


def _off(speed: float, ideal: float | None) -> str:
    if not ideal:
        return ""
    off = 100 * (speed / ideal - 1)
    return say("at the best speed") if abs(off) < 0.05 else say("{off:+.1f} % of the best", off=off)


def _folded(parts: tuple[str, ...]) -> tuple[str, ...]:
    """Each part once, with how many."""
    counts = {part: parts.count(part) for part in parts}
    return tuple(f"{count} × {part}" if count > 1 else part for part, count in counts.items())


def _why_not(found: Ways, hints: tuple[Hint, ...], units: Units, wish: Wish) -> str:
    if found.unstepped and not found.refused:
        drives = counted(found.unstepped, "drive")
        within = "" if wish.max_price is None else say(" within the price")
        why = say(
            "Tried: {drives} that will do, none with listed change pulleys for the further speeds{within}.",
            drives=drives,
            within=within,
        )
    elif found.stopped:
        why = say(
            "The search stopped before all was tried; nothing found was free of problems.{found}",
            found=_in_the_way(found, units),
        )
    elif found.refused:
        why = say("Drives were found, but each has a problem as a whole plan.{found}", found=_in_the_way(found, units))
    else:
        why = say("No drive of listed parts does this with what is allowed.")
    change = say("Any one of these would allow one:") if hints else say("No single change of what is allowed helps.")
    return f"{why} {change}"


def _others(context: Context, wish: Wish) -> Iterable[tuple[str, str]]:
    """Every plan of the machine, and the first thing that keeps it off the list."""
    for index, plan in enumerate(context.machine.plans):
        solved = context.result if index == context.selection.plan else None
        refusal = why_not(context.machine, plan, wish, context.catalog, solved)
        yield plan.name, _failed_words(refusal, context.units)


def _failed_words(refusal: WhyNot, units: Units) -> str:
    """The first thing that a drive fails, in words."""
    families = ", ".join(worded(family_of(kind).title) for kind in refusal.families)
    if refusal.failed == "problem" and refusal.finding is not None:
        line = finding_line(refusal.finding, units)
        return f"{line.fact}: {line.line}" if line.line else line.fact
    if refusal.failed == "limit":
        return say(
            "{limit}, is used up: {measured}", limit=refusal.limit, measured=use_number(refusal.measured or 0.0, units)
        )
    if refusal.failed == "stages":
        return say(
            "{measured:.0f} stages, at most {allowed:.0f} allowed", measured=refusal.measured, allowed=refusal.allowed
        )
    if refusal.failed == "price":
        return say(
            "{measured:.1f} {money} to buy, at most {allowed:g} allowed",
            measured=refusal.measured,
            money=units.money,
            allowed=refusal.allowed,
        )
    if refusal.failed == "speeds":
        wanted, nearest = (show(speed, "rpm", units) for speed in (refusal.allowed, refusal.measured))
        return say("it cannot also run at {wanted}; the closest it gets is {nearest}", wanted=wanted, nearest=nearest)
    return {
        "no_drive": say("it has no motor or no stage yet"),
        "never": say("{families} is ruled out", families=families),
        "must": say("it has no {families}, which must be in the drive", families=families),
        "use": say("{limit} is not in it", limit=refusal.limit),
        "unpriced": say("{measured:.0f} of its parts have no list price", measured=refusal.measured or 0),
        "turn": say("its last shaft turns the other way"),
        "nothing": say("nothing: it would do"),
    }[refusal.failed]


#: So many problems are named.
MAX_NAMED = 2


def _in_the_way(found: Ways, units: Units) -> str:
    """What the drives that were found fail on most."""
    named = [
        say(
            "“{fact}” ({count} of {refused})",
            fact=finding_line(finding, units).fact,
            count=count,
            refused=found.refused,
        )
        for finding, count in found.problems[:MAX_NAMED]
    ]
    advice = finding_line(found.problems[0][0], units).advice if named else ""
    return (
        say(" Most often: {problems}. {advice}", problems=" and ".join(named), advice=advice).rstrip() if named else ""
    )


#: What is let go, in words.
LET_GO = {
    "use": "Do without that part",
    "stages": "Allow one more stage",
    "price": "Spend what it takes",
    "families": "Let every family be used",
    "turn": "Let it turn either way",
    "motor": "Buy a listed motor",
    "speed": "Let it turn faster or slower than the need says",
    "speeds": "Do without the further speeds",
}


def _nearest(
    context: Context, nearest: tuple[Relaxed, ...], said: dict[str, str], groups: tuple[str, ...]
) -> Iterable[Hint]:
    """What would have to give, each one thing alone, as it was searched."""
    for one in nearest:
        changed = {**said, **_let_go(one, groups)}
        text = ";".join(f"{key}:{item}" for key, item in changed.items() if item)
        address = context.selection.to("need") if one.name == "speed" else context.selection.to(wish=text)
        speed = show(one.way.result.chosen.last_shaft.speed_rpm, "rpm", context.units)
        words = say("{name} at {speed}, {price:.0f} to buy", name=one.way.plan.name, speed=speed, price=one.way.price)
        yield Hint(say(LET_GO[one.name]), words, address)


def _let_go(one: Relaxed, groups: tuple[str, ...]) -> dict[str, str]:
    if one.name == "stages":
        return {"stages": str(one.wish.max_stages)}
    if one.name == "motor":
        return {"motor": str(groups.index(one.wish.motor))}
    return {
        "families": {"never": "", "must": ""},
        "use": {"use": ""},
        "price": {"price": ""},
        "turn": {"turn": ""},
        "speeds": {"speeds": ""},
    }.get(one.name, {})
