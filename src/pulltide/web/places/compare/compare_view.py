"""Plans side by side: a column each, a row for each figure, differences marked."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

from pulltide.core.bill import bill_of
from pulltide.core.comparison import Merit, PlanFigures, best_at, compare
from pulltide.core.links import family_of
from pulltide.core.machine import MAX_PLANS
from pulltide.core.piece import Piece
from pulltide.core.search.wish import DAYS_A_YEAR
from pulltide.presentation.painting import Picture
from pulltide.presentation.sheet import scale_of, small_sheet
from pulltide.presentation.words import counted
from pulltide.quantities import Units, show
from pulltide.web import forms
from pulltide.web.places.contract import Context
from pulltide.web.tiles import use_number, use_state
from pulltide.words import filled, say, worded

DIFFERENCES = "differences"
UNKNOWN = "not known"
LETTERS = "ABCDEFGH"[:MAX_PLANS]
NOISE = {"quiet": "quiet", "plain": "usual", "loud": "loud"}
BEST: dict[Merit, str] = {
    "speed": "is nearest to the best speed",
    "margin": "has most in hand",
    "loss": "loses least",
    "price": "costs least to buy",
    "size": "takes up least room",
}


@dataclass(frozen=True, slots=True)
class Cell:
    """One figure of one plan; ``state`` marks a limit, ``best`` the best of the row."""

    text: str
    state: str = ""
    best: bool = False


@dataclass(frozen=True, slots=True)
class Line:
    """One row of the table."""

    label: str
    cells: tuple[Cell, ...]
    merit: Merit | None = None

    @property
    def differs(self) -> bool:
        """Whether the plans are told apart by it."""
        return len({cell.text for cell in self.cells}) > 1


@dataclass(frozen=True, slots=True, kw_only=True)
class Column:
    """The head of one plan, its drawing and what is done with it."""

    letter: str
    name: str
    address: str
    drawing: Picture | None
    current: bool
    first: bool
    index: int
    note: forms.FormField
    pieces: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class CompareView:
    """The place; ``toggle`` leads to the differences alone or back."""

    columns: tuple[Column, ...]
    lines: tuple[Line, ...]
    sentence: str
    hidden: int
    only_differences: bool
    toggle: str


def compare_view(context: Context) -> CompareView:
    """Solve every plan and set them side by side."""
    plans = compare(context.machine, context.catalog, {context.selection.plan: context.result})
    best = best_at(plans)
    lines = [_marked(line, best) for line in _lines(context, plans)]
    only = context.selection.wish == DIFFERENCES
    kept = tuple(line for line in lines if line.differs or not only)
    return CompareView(
        tuple(_columns(context, plans)),
        kept,
        _sentence(best),
        len(lines) - len(kept),
        only,
        context.selection.to(wish="" if only else DIFFERENCES),
    )


def _marked(line: Line, best: dict[Merit, int]) -> Line:
    at = best.get(line.merit) if line.merit else None
    return replace(line, cells=tuple(replace(cell, best=place == at) for place, cell in enumerate(line.cells)))


def _columns(context: Context, plans: tuple[PlanFigures, ...]) -> Iterator[Column]:
    drawn = [(one.plan, one.result.chosen) for one in plans if one.result is not None and one.plan.links]
    scale = min((scale_of(plan, line) for plan, line in drawn), default=None)
    document = context.machine.model_dump(mode="json")
    for index, one in enumerate(plans):
        yield Column(
            letter=LETTERS[index],
            name=one.plan.name,
            address=context.selection.to("train", plan=index, at="", show="", wish=""),
            drawing=_drawing(one, context.units, scale),
            current=index == context.selection.plan,
            first=index == 0,
            index=index,
            note=forms.form_field(document, f"plans.{index}.note", context.units),
            pieces=tuple(_piece(piece, context) for piece in bill_of(one.plan, context.catalog)),
        )


def _drawing(one: PlanFigures, units: Units, scale: float | None) -> Picture | None:
    if one.result is None or not one.plan.links:
        return None
    return small_sheet(one.plan, one.result.chosen, units, scale)


def _piece(piece: Piece, context: Context) -> str:
    """A piece in words; one of the shelf with the other machines that count on it."""
    others = context.claims.get(piece.designation, ()) if piece.owned else ()
    claimed = say(", also counted on by {others}", others=", ".join(name for name, _ in others)) if others else ""
    return f"{_bare_piece(piece, context.units)}{claimed}"


def _bare_piece(piece: Piece, units: Units) -> str:
    count = f"{piece.count} × " if piece.count > 1 else ""
    if piece.owned:
        price = say("on the shelf")
    elif piece.missing:
        price = say("{missing} is not chosen", missing=piece.missing)
    else:
        price = say("no list price") if piece.price is None else f"{piece.price:g}"
    name = f" ({piece.designation})" if piece.designation else ""
    return f"{count}{filled(piece.what, units)}{name}: {price}"


def _lines(context: Context, plans: tuple[PlanFigures, ...]) -> Iterator[Line]:
    units, hours = context.units, context.machine.duty.hours_per_day
    for label, cell, merit in FIRST_ROWS:
        yield Line(say(label) or context.machine.need.last_shaft, tuple(cell(one, units) for one in plans), merit)
    if hours is not None:
        yield Line(
            say("Lost in {days_a_year} days of {hours:g} h", days_a_year=DAYS_A_YEAR, hours=hours),
            tuple(_lost(one, units) for one in plans),
        )
    for label, cell, merit in LAST_ROWS:
        yield Line(say(label), tuple(cell(one, units) for one in plans), merit)


def _speed(one: PlanFigures, units: Units) -> Cell:
    return Cell(say(UNKNOWN) if one.last_speed_rpm is None else str(show(one.last_speed_rpm, "rpm", units)))


def _off(one: PlanFigures, units: Units) -> Cell:
    share = one.off_ideal
    if share is None:
        return Cell(say(UNKNOWN))
    return Cell(say("at it") if abs(share) < 0.0005 else f"{100 * share:+.1f} %".replace("-", "−"))


def _motor(one: PlanFigures, units: Units) -> Cell:
    use = one.motor_load
    return Cell(say(UNKNOWN)) if use is None else Cell(use_number(use, units), use_state(use))


def _tightest(one: PlanFigures, units: Units) -> Cell:
    tightest = one.result.chosen.tightest if one.result is not None else None
    if tightest is None:
        return Cell(say(UNKNOWN))
    number, limit = tightest
    use = limit.use or 0.0
    return Cell(
        say("stage {number}, {name} {use}", number=number, name=worded(limit.name), use=use_number(use, units)),
        use_state(use),
    )


def _first(one: PlanFigures, units: Units) -> Cell:
    if one.first is None:
        return Cell(say(UNKNOWN))
    times = "" if one.first.times is None else say(" at {times:.2f} × running load", times=one.first.times)
    return Cell(f"{worded(one.first.point.name)}{times}")


def _price(one: PlanFigures, units: Units) -> Cell:
    cost = one.cost
    in_words = say(
        "{price:.0f} {money} for {to_buy}", price=cost.price, money=units.money, to_buy=counted(cost.to_buy, "item")
    )
    return Cell(
        in_words
        if not cost.unpriced
        else say("{in_words}, {unpriced} without a price", in_words=in_words, unpriced=cost.unpriced)
    )


def _mass(one: PlanFigures, units: Units) -> Cell:
    if not one.cost.mass_kg:
        return Cell(say(UNKNOWN))
    in_words = str(show(one.cost.mass_kg, "kg", units))
    return Cell(
        in_words
        if not one.cost.unweighed
        else say("{in_words} and {unweighed} not listed", in_words=in_words, unweighed=one.cost.unweighed)
    )


def _envelope(one: PlanFigures, units: Units) -> Cell:
    if one.envelope_mm is None:
        return Cell(say(UNKNOWN))
    wide, high = (show(value, "mm", units) for value in one.envelope_mm)
    return Cell(f"{wide.number} × {high}")


def _loss(one: PlanFigures, units: Units) -> Cell:
    return Cell(say(UNKNOWN) if one.loss_kw is None else f"{1000 * one.loss_kw:.0f} W")


def _lost(one: PlanFigures, units: Units) -> Cell:
    if one.lost_kwh is None:
        return Cell(say(UNKNOWN))
    cost = "" if one.lost_price is None else f", {one.lost_price:.0f} {units.money}"
    return Cell(say("{lost_kwh:.0f} kWh{cost}", lost_kwh=one.lost_kwh, cost=cost))


def _noise(one: PlanFigures, units: Units) -> Cell:
    return Cell(say(UNKNOWN) if one.noise is None else say(NOISE[one.noise]))


def _holds(one: PlanFigures, units: Units) -> Cell:
    return Cell(say("not to be relied on") if one.holds else "no")


def _stages(one: PlanFigures, units: Units) -> Cell:
    kinds = [worded(family_of(link.kind).title) for link in one.plan.links]
    in_words = (f"{kinds.count(kind)} × {kind}" if kinds.count(kind) > 1 else kind for kind in kinds)
    return Cell(", ".join(dict.fromkeys(in_words)) or say("none yet"))


def _findings(one: PlanFigures, units: Units) -> Cell:
    if one.result is None:
        return Cell(say("no motor yet"), "note")
    in_words = [counted(count, what) for count, what in ((one.problems, "problem"), (one.warnings, "warning")) if count]
    state = "fix" if one.problems else "weigh" if one.warnings else "clear"
    return Cell(", ".join(in_words) or say("no problems, no warnings"), state)


Row = tuple[str, Callable[[PlanFigures, Units], Cell], Merit | None]
#: The first is named by the last shaft.
FIRST_ROWS: tuple[Row, ...] = (
    ("", _speed, None),
    ("Against the best speed", _off, "speed"),
    ("Motor load", _motor, None),
    ("Tightest part", _tightest, "margin"),
    ("First to slip or break", _first, None),
    ("Lost at running load", _loss, "loss"),
)
LAST_ROWS: tuple[Row, ...] = (
    ("To buy", _price, "price"),
    ("Drive takes up, W × H", _envelope, "size"),
    ("Parts weigh", _mass, None),
    ("Noise", _noise, None),
    ("Holds when stopped", _holds, None),
    ("Stages", _stages, None),
    ("Findings", _findings, None),
)


def _sentence(best: dict[Merit, int]) -> str:
    """What each is best at, among those without a problem."""
    by_plan: dict[int, list[str]] = {}
    for merit, index in best.items():
        by_plan.setdefault(index, []).append(say(BEST[merit]))
    in_words = (f"{LETTERS[index]} {_listed(words)}" for index, words in sorted(by_plan.items()))
    return "; ".join(in_words) + "." if by_plan else ""


def _listed(words: list[str]) -> str:
    """Several things in one sentence.

    >>> _listed(["loses least"]), _listed(["a", "b", "c"])
    ('loses least', 'a, b and c')
    """
    return say(" and ").join(part for part in (", ".join(words[:-1]), words[-1]) if part)
