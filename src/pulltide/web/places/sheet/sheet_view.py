"""The Build sheet place: the sheet as it goes to paper, and the addresses of its files."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, get_args

from pulltide.core.machine import Plan
from pulltide.core.made.judging import of_wheel
from pulltide.core.made.of_plan import as_made, wheels_of
from pulltide.core.made.part import MadeMaterial
from pulltide.core.made.profile import MakingProfile
from pulltide.core.made.wheel import MadeWheel
from pulltide.core.shaft_bill import whole_bill
from pulltide.presentation.paper.sheet_paper import SheetPaper, of_shop, sheet_paper
from pulltide.presentation.paper.wheel_file import Look, WheelPaper, shapes_offered, stage_words, wheel_paper
from pulltide.presentation.words import finding_line
from pulltide.quantities import Units, show
from pulltide.services.machines import StoredMachine
from pulltide.services.matching import FieldDifference
from pulltide.services.revisions import Revisions, changed_since
from pulltide.web.forms import FormField, Option, record_field
from pulltide.web.places.contract import Context
from pulltide.words import choice, say, worded

#: Files of a plan, in the order that they are offered in: their words, and each with what its address ends with.
FILES = (
    ("PDF", (("Letter", "pdf?size=Letter&"), ("A4", "pdf?size=A4&"))),
    ("PDF, one page", (("Letter", "pdf?size=Letter&form=short&"), ("A4", "pdf?size=A4&form=short&"))),
    ("PDF with workings", (("Letter", "pdf?size=Letter&form=long&"), ("A4", "pdf?size=A4&form=long&"))),
    ("Drawing", (("SVG", "svg?"), ("DXF in true scale", "dxf?"))),
    ("Parts", (("XLSX", "xlsx?"), ("CSV", "csv?"))),
    ("Everything", (("ZIP", "zip?"), ("the machine as JSON", "json?"))),
)
Files = tuple[tuple[str, tuple[tuple[str, str], ...]], ...]
#: So many changes since the last revision stand on the sheet.
MAX_CHANGES = 12


@dataclass(frozen=True, slots=True)
class WheelLine:
    """A wheel that can be made: its words, the address that opens it, whether it is open, whether the shop makes it."""

    words: str
    address: str
    on: bool
    made: str


@dataclass(frozen=True, slots=True, kw_only=True)
class WheelSide:
    """What stands beside an open wheel: its files by kind and shape, what it is made of, the shop's own machines."""

    name: str
    files: Files
    made: bool
    material: str
    materials: tuple[Option, ...]
    profile: tuple[FormField, ...]


@dataclass(frozen=True, slots=True)
class SheetView:
    """The place; ``paper`` is None while the plan has no drive."""

    paper: SheetPaper | None
    files: Files = ()
    label: str = ""
    asked: str = ""
    wheels: tuple[WheelLine, ...] = ()
    wheel: WheelPaper | None = None
    beside: WheelSide | None = None
    revision: str = ""


def printed(
    stored: StoredMachine, plan: Plan, revisions: Revisions | None, units: Units
) -> tuple[str, tuple[str, ...]]:
    """Which state of a machine a sheet is of, by its revision where one was given out, and what changed since."""
    state = say(
        "State {version} of {astimezone:%b %-d, %Y, %H:%M}",
        version=stored.version,
        astimezone=stored.updated_at.astimezone(),
    )
    last = None if revisions is None else revisions.last(stored.id, plan.name)
    if last is None:
        return say("{state}, not given out yet", state=state), ()
    when = f"{last.issued_at.astimezone():%b %-d, %Y}"
    named = say("Revision {number} of {when}", number=last.number, when=when) + (f", {last.note}" if last.note else "")
    found = changed_since(last, stored.machine, plan)
    if found is None:
        return say("{state}; {name} is of an older form and is not compared", state=state, name=named), ()
    if not found:
        return named, ()
    words = [_changed(one, units) for one in found[:MAX_CHANGES]]
    more = [say("and {found} more", found=len(found) - MAX_CHANGES)] if len(found) > MAX_CHANGES else []
    return say("{state}, changed since {name}", state=state, name=named), (*words, *more)


def _changed(one: FieldDifference, units: Units) -> str:
    """One field that changed: ``Stage 1, Driver teeth: 17 → 19``."""
    place = one.place.removeprefix("Plan 1").removeprefix(", ")
    now, then = (_value_of(value, one.unit, units) for value in (one.there, one.here))
    where = f"{place[:1].upper()}{place[1:]}, " if place else ""
    return f"{where}{worded(one.title)}: {then} → {now}"


def _value_of(value: Any, unit: str, units: Units) -> str:
    if value is None:
        return say("not known")
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return str(show(float(value), unit, units)) if unit else f"{value:g}"
    return choice(str(value))


def made_of(plan: Plan, name: str, wheel: MadeWheel) -> str:
    """What a wheel is made of, in words; empty where the shop does not make it."""
    if plan.made_part(name) is None:
        return ""
    material = as_made(plan, name, wheel).material
    return choice(material) if material else say("material not entered")


def sheet_view(context: Context) -> SheetView:
    """Put the sheet together."""
    stored, plan, result = context.stored, context.plan, context.result
    if result is None or not plan.links:
        return SheetView(None)
    base, units = f"/machines/{stored.id}", context.units
    ending = f"plan={context.selection.plan}"
    files = tuple(
        (say(words), tuple((say(kind), f"{base}/plan.{address}{ending}") for kind, address in kinds))
        for words, kinds in FILES
    )
    stamp, changes = printed(stored, plan, context.revisions, units)
    paper = sheet_paper(context.machine, plan, result, context.catalog, units, stamp)
    if context.shop is not None:
        paper = of_shop(paper, plan, context.shop.get(), units)
    quoted, asked = _quotes(context)
    lines, wheel, beside = _wheels(context)
    return SheetView(
        replace(paper, quoted=quoted, changes=changes), files, f"{base}/label.svg", asked, lines, wheel, beside, stamp
    )


def _wheels(context: Context) -> tuple[tuple[WheelLine, ...], WheelPaper | None, WheelSide | None]:
    """Every wheel that can be made, the one that is open, and what stands beside it."""
    machine, plan, selection = context.machine, context.plan, context.selection
    made = wheels_of(machine, plan)
    lines = tuple(
        WheelLine(
            f"{worded(wheel.title)}, {stage_words(name)}",
            selection.to(at=name),
            name == selection.at,
            made_of(plan, name, wheel),
        )
        for name, wheel in made.items()
    )
    open_ = made.get(selection.at)
    if open_ is None:
        return lines, None, None
    profile = context.making.get() if context.making is not None else MakingProfile()
    where = (machine.name, plan.name, stage_words(selection.at))
    material = made_of(plan, selection.at, open_)
    shown = as_made(plan, selection.at, open_)
    paper = wheel_paper(shown, where, context.units, Look(profile=profile, made_of=material))
    if context.line is not None:
        found = of_wheel(machine, plan, context.line, selection.at)
        paper = replace(paper, judged=tuple(finding_line(one, context.units) for one in found))
    return lines, paper, _beside(context, open_, profile)


def _beside(context: Context, wheel: MadeWheel, profile: MakingProfile) -> WheelSide:
    plan, name = context.plan, context.selection.at
    base, ending = f"/machines/{context.stored.id}/wheels/{name}", f"plan={context.selection.plan}"

    def kinds(*wanted: str, shape: str = "") -> tuple[tuple[str, str], ...]:
        shaped = f"&shape={shape}" if shape else ""
        return tuple((kind.upper(), f"{base}.{kind}?{ending}{shaped}") for kind in wanted)

    offered = shapes_offered(wheel, profile)
    files = [(say("Outline"), kinds("dxf", "svg"))]
    files += [(say("For the cutter, kerf allowed"), kinds("dxf", "svg", shape="kerf"))] if "kerf" in offered else []
    files += (
        [(say("In sectors for the sheet"), kinds("dxf", "svg", "pdf", shape="sectors"))] if "sectors" in offered else []
    )
    files += [(say("To print in plastic"), kinds("stl", "3mf"))]
    paper = tuple((size, f"{base}.pdf?{ending}&size={size}") for size in ("Letter", "A4"))
    files += [(say("Drawing with 1:1 tiles, PDF"), paper)]
    part = plan.made_part(name)
    chosen = "" if part is None else part.material
    known = get_args(MadeMaterial)
    return WheelSide(
        name=name,
        files=tuple(files),
        made=part is not None,
        material=choice(wheel.material) if wheel.material else "",
        materials=tuple(Option(code, choice(code), code == chosen) for code in known),
        profile=tuple(
            record_field(MakingProfile, field, getattr(profile, field), context.units)
            for field in MakingProfile.model_fields
        ),
    )


def _quotes(context: Context) -> tuple[dict[str, str], str]:
    """Quotes that are kept, by the name of the part, each with its date; and what came of asking last."""
    if context.quotes is None:
        return {}, ""
    names = [piece.designation for piece in whole_bill(context.plan, context.catalog) if piece.designation]
    kept, last = context.quotes.kept(names), context.quotes.asked()
    outcome = "" if last is None else f"{last.at.astimezone():%b %-d, %H:%M}: {last.outcome}"
    quoted = {
        name: say(
            "{price:g}, {lead_days} days ({astimezone:%b %-d})",
            price=quote.price,
            lead_days=quote.lead_days,
            astimezone=quote.fetched_at.astimezone(),
        )
        for name, quote in kept.items()
    }
    return quoted, outcome
