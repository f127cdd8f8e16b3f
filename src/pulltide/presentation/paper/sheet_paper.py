"""The build sheet with all that its page says."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

from markupsafe import Markup

from pulltide.core.catalog import Catalog
from pulltide.core.line_result import PlanResult
from pulltide.core.line_working import working
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.sources import drive_of
from pulltide.presentation.build_sheet import BuildSheet, build_sheet, cuts
from pulltide.presentation.painting import Picture
from pulltide.presentation.plan_sheet import plan_sheet
from pulltide.presentation.sheet import sheet, side_sheet
from pulltide.presentation.torque_chart import diagram
from pulltide.presentation.working_view import WorkingView, working_view
from pulltide.quantities import Units
from pulltide.services.shop import ShopSettings
from pulltide.words import say, worded

STATES: Mapping[str, str] = {"shelf": "on the shelf", "buy": "to buy", "make": "to make", "open": "make or find"}
SEVERITY: Mapping[str, str] = {"fix": "Problem", "weigh": "Warning", "note": "Note", "clear": "OK"}


#: A sheet on one page, as it is on the screen, or with every working behind it.
Form = Literal["short", "sheet", "long"]


@dataclass(frozen=True, slots=True)
class Chapter:
    """Workings of one stage, or of the shafts."""

    title: str
    workings: tuple[WorkingView, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetPaper:
    """One sheet: ``printed`` says which state of the machine it is, ``quoted`` what was asked for a part and when,
    ``shop`` whose it is.

    ``svgs`` are the drawings with their colors in them, where no style sheet of the screen is at hand. ``changes`` are
    what is not as in the revision given out last.
    """

    machine: str
    plan: str
    printed: str
    sheet: BuildSheet
    elevation: Picture
    from_above: Picture
    diagram: Markup
    form: Form = "sheet"
    workings: tuple[Chapter, ...] = ()
    changes: tuple[str, ...] = ()
    states: Mapping[str, str] = field(default_factory=lambda: {state: say(words) for state, words in STATES.items()})
    severity: Mapping[str, str] = field(default_factory=lambda: {state: say(word) for state, word in SEVERITY.items()})
    svgs: tuple[Markup, ...] = ()
    quoted: Mapping[str, str] = field(default_factory=dict)
    from_side: Picture | None = None
    shop: str = ""


def sheet_paper(
    machine: Machine, plan: Plan, result: PlanResult, catalog: Catalog, units: Units, printed: str = ""
) -> SheetPaper:
    """The sheet of a solved plan."""
    titles = tuple(worded(family_of(link.kind).title) for link in plan.links)
    return SheetPaper(
        machine=machine.name,
        plan=plan.name,
        printed=printed,
        sheet=build_sheet(machine, plan, result, catalog, units),
        elevation=sheet(plan, result.chosen, units),
        from_above=plan_sheet(plan, result.chosen, units),
        from_side=side_sheet(plan, result.chosen, units),
        diagram=diagram(result.chosen, titles, units),
    )


def of_shop(paper: SheetPaper, plan: Plan, shop: ShopSettings, units: Units) -> SheetPaper:
    """The sheet as it leaves a shop: with its name, and bars cut by its own saw."""
    if shop.saw_kerf_mm is not None:
        paper = replace(paper, sheet=replace(paper.sheet, cuts=cuts(plan, units, shop.saw_kerf_mm)))
    return replace(paper, shop=shop.name)


def in_form(paper: SheetPaper, form: Form, solved: tuple[Machine, Plan, PlanResult], units: Units) -> SheetPaper:
    """The sheet in a form; the long one has the workings of everything on it."""
    chapters = tuple(_chapters(*solved, units)) if form == "long" else ()
    return replace(paper, form=form, workings=chapters)


def _chapters(machine: Machine, plan: Plan, result: PlanResult, units: Units) -> Iterator[Chapter]:
    """Workings of every shaft and stage."""
    drive, line = drive_of(plan.source), result.chosen
    if drive is not None:
        keys = [f"shaft-{shaft.number}/{key}" for shaft in line.shafts for key in ("speed", "torque", "design")]
        found = (working(machine, drive, line, key) for key in keys)
        yield Chapter(say("Shafts"), tuple(working_view(one, units) for one in found if one is not None))
    for number, link in enumerate(line.links, start=1):
        family = family_of(plan.links[number - 1].kind)
        made = family.workings(link)
        shown = [made[figure.key]() for figure in link.figures if figure.key in made and figure.value is not None]
        yield Chapter(
            say("Stage {number}, {title}", number=number, title=worded(family.title)),
            tuple(working_view(one, units) for one in shown),
        )
