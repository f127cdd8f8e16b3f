"""The build sheet with all that its page says."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from markupsafe import Markup

from pulltide.core.catalog import Catalog
from pulltide.core.line_result import PlanResult
from pulltide.core.machine import Machine, Plan
from pulltide.presentation.build_sheet import BuildSheet, build_sheet
from pulltide.presentation.painting import Picture
from pulltide.presentation.plan_sheet import plan_sheet
from pulltide.presentation.sheet import sheet
from pulltide.quantities import Units

STATES: Mapping[str, str] = {"shelf": "on the shelf", "buy": "to buy", "open": "make or find"}
SEVERITY: Mapping[str, str] = {"fix": "Problem", "weigh": "Warning", "note": "Note", "clear": "OK"}


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetPaper:
    """One sheet: ``printed`` says which state of the machine it is, ``quoted`` what was asked for a part and when.

    ``svgs`` are the drawings with their colors in them, where no style sheet of the screen is at hand.
    """

    machine: str
    plan: str
    printed: str
    sheet: BuildSheet
    elevation: Picture
    from_above: Picture
    states: Mapping[str, str] = field(default_factory=lambda: STATES)
    severity: Mapping[str, str] = field(default_factory=lambda: SEVERITY)
    svgs: tuple[Markup, ...] = ()
    quoted: Mapping[str, str] = field(default_factory=dict)


def sheet_paper(
    machine: Machine, plan: Plan, result: PlanResult, catalog: Catalog, units: Units, printed: str = ""
) -> SheetPaper:
    """The sheet of a solved plan."""
    return SheetPaper(
        machine=machine.name,
        plan=plan.name,
        printed=printed,
        sheet=build_sheet(machine, plan, result, catalog, units),
        elevation=sheet(plan, result.chosen, units),
        from_above=plan_sheet(plan, result.chosen, units),
    )
