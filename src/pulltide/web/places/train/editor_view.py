"""The bench of the Train view: the form of the place that is open, with its figures, limits and presses."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.catalog_checks import differences
from pulltide.core.line_result import PlanResult
from pulltide.core.links import FAMILIES, Link, family_of
from pulltide.core.machine import Machine
from pulltide.core.shafts import failure_points as shaft_failure_points
from pulltide.core.shafts import usual_key_mm
from pulltide.core.transmission import AnyResult
from pulltide.presentation.words import FindingLine, finding_line
from pulltide.quantities import Units, show
from pulltide.services.fields import FieldDescription, described
from pulltide.web import forms
from pulltide.web.selection import Figured, Selection
from pulltide.web.tiles import use_state
from pulltide.words import choice, filled, say, worded


@dataclass(frozen=True, slots=True)
class LimitRow:
    """One limit of a link: measured against allowed, and how much of it is used."""

    name: str
    measured: str
    allowed: str
    use: str
    state: str


@dataclass(frozen=True, slots=True)
class DifferenceRow:
    """One figure that the list now has otherwise than the plan."""

    name: str
    in_plan: str
    in_list: str


@dataclass(frozen=True, slots=True)
class Editor:
    """The open place: its heading, fields, figures and what can be done to it."""

    place: str
    heading: str
    fields: tuple[forms.FormField, ...]
    index: int = 0
    steps: tuple[forms.StepRow, ...] = ()
    figures: tuple[Figured, ...] = ()
    is_link: bool = False
    has_steps: bool = False
    others: tuple[tuple[str, str], ...] = ()
    limits: tuple[LimitRow, ...] = ()
    is_shaft: bool = False
    offers_shaft: bool = False
    remarks: tuple[FindingLine, ...] = ()
    origin: str = ""
    differences: tuple[DifferenceRow, ...] = ()
    may_be_shelved: bool = False
    twins: str = ""


def _limit_rows(link: AnyResult, units: Units) -> tuple[LimitRow, ...]:
    return tuple(
        LimitRow(
            worded(limit.name),
            str(show(limit.measured, limit.unit, units)),
            str(show(limit.allowed, limit.unit, units)),
            str(show(limit.use, "share", units)),
            use_state(limit.use),
        )
        for limit in link.limits
    )


def editor_for(
    machine: Machine, result: PlanResult | None, selection: Selection, units: Units, catalog: Catalog
) -> Editor | None:
    """The form of the open place, or None where nothing is open."""
    document = machine.model_dump(mode="json")
    plan, at = machine.plans[selection.plan], selection.at
    kind, _, number = at.partition("-")
    index = int(number) - 1 if number.isdecimal() else -1
    if kind == "shaft" and result is not None and 0 <= index < len(result.chosen.shafts):
        return _shaft_editor(machine, document, result, (selection.plan, index), units)
    if kind != "link" or not 0 <= index < len(plan.links):
        return None
    return _link_editor(machine, result, (selection, index), units, catalog)


def _shaft_editor(machine: Machine, document: Any, result: PlanResult, place: tuple[int, int], units: Units) -> Editor:
    """What is known of a shaft and its key, and what that bears; without an entry an offer to make one."""
    plan_index, index = place
    plan, shaft = machine.plans[plan_index], result.chosen.shafts[index]
    heading = say("Shaft {index} · {name}", index=index + 1, name=filled(shaft.name, units))
    part = plan.shaft_part(index + 1)
    if part is None:
        return Editor(f"shaft-{index + 1}", heading, (), index=index, offers_shaft=True)
    base = f"plans.{plan_index}.shafts.{plan.shafts.index(part)}"
    names = [name for name in type(part).model_fields if name not in ("shaft", "span")]
    usual = usual_key_mm(part.diameter_mm) if part.diameter_mm else None
    hints = {"key_width_mm": say("usual: {usual}", usual=show(usual[0], "mm", units))} if usual else {}
    fields = tuple(forms.form_field(document, f"{base}.{name}", units, hints.get(name, "")) for name in names)
    torque = shaft.running_torque_nm
    limits = tuple(
        LimitRow(
            worded(point.name),
            str(show(torque, "N*m", units)),
            str(show(point.torque_nm, "N*m", units))
            if point.torque_nm is not None
            else say("needs {missing}", missing=point.missing),
            "" if point.torque_nm is None or torque is None else str(show(torque / point.torque_nm, "share", units)),
            use_state(None if point.torque_nm is None or torque is None else torque / point.torque_nm),
        )
        for point in shaft_failure_points(part)
    )
    return Editor(f"shaft-{index + 1}", heading, fields, index=index, limits=limits, is_shaft=True)


def _twins(links: tuple[Link, ...], index: int) -> str:
    """Numbers of the stages that are equal to one, in words; empty without any."""
    numbers = [
        str(number) for number, link in enumerate(links, start=1) if number - 1 != index and link == links[index]
    ]
    return say(" and ").join([", ".join(numbers[:-1]), numbers[-1]] if numbers[1:] else numbers)


def _link_editor(
    machine: Machine, result: PlanResult | None, opened: tuple[Selection, int], units: Units, catalog: Catalog
) -> Editor:
    selection, index = opened
    plan_index = selection.plan
    place = plan_index, index
    document = machine.model_dump(mode="json")
    link = machine.plans[plan_index].links[index]
    family = family_of(link.kind)
    count = family.step_count(link)
    speeds = tuple(_step_speed(result, index, step, units) for step in range(1, count + 1))
    solved = result.chosen.links[index] if result else None
    at = f"link-{index + 1}"
    figures = (
        tuple(Figured(worded(f.label), show(f.value, f.unit, units), f"{at}/{f.key}") for f in solved.figures)
        if solved
        else ()
    )
    if solved is not None:
        figures = (
            Figured(say("Service factor"), show(solved.service_factor.value, "", units), f"{at}/design"),
            Figured(say("Efficiency"), show(solved.efficiency, "share", units), f"{at}/efficiency"),
            Figured(say("Loss"), show(solved.loss_kw if solved.limits else None, "kW", units), f"{at}/loss"),
            *figures,
        )
    steps = forms.step_rows(machine, document, place, units, speeds, catalog=catalog)
    return Editor(
        at,
        say("Stage {index} · {title}", index=index + 1, title=worded(family.words(link, 1).title)),
        tuple(_listed(field, selection) for field in forms.link_fields(machine, document, place, units, catalog)),
        index=index,
        steps=tuple(_listed_step(step, selection) for step in steps),
        figures=figures,
        is_link=True,
        has_steps=hasattr(link, "steps"),
        others=tuple((other.kind, worded(other.title)) for other in FAMILIES if other.kind != link.kind),
        limits=_limit_rows(solved, units) if solved else (),
        remarks=tuple(finding_line(f, units) for f in (result.chosen.remarks if result else ()) if f.subject == at),
        origin=_origin(link, catalog),
        differences=_differences(link, units, catalog),
        twins=_twins(machine.plans[plan_index].links, index),
        may_be_shelved=family.kept(link, family.title) is not None,
    )


def _listed(field: forms.FormField, selection: Selection) -> forms.FormField:
    """The same field, with the address of its list where it has one."""
    within = field.path.split(".", 4)[-1]
    return replace(field, list_href=selection.to(pick=within) + "#picker") if field.stock else field


def _listed_step(step: forms.StepRow, selection: Selection) -> forms.StepRow:
    return replace(step, driver=_listed(step.driver, selection), driven=_listed(step.driven, selection))


#: What is said of where a part comes from, where that is not the shipped list.
ORIGINS = {"shelf": "From your shelf", "own_list": "From your own list", "shipped": ""}


def _origin(link: Any, catalog: Catalog) -> str:
    items = [catalog.find(use.part, use.id) for use in family_of(link.kind).uses(link)]
    return next((say(ORIGINS[item.origin]) for item in items if item is not None), "")


def _differences(link: Any, units: Units, catalog: Catalog) -> tuple[DifferenceRow, ...]:
    """What the list now has otherwise than the plan, in words."""
    rows = []
    for use in family_of(link.kind).uses(link):
        listed = catalog.find(use.part, use.id)
        for found in differences(use, listed) if listed is not None else ():
            info = type(use.data).model_fields[found.field]
            kind = described(info, found.field, type(use.data))
            pair = (_said(value, kind, units) for value in (found.in_plan, found.in_list))
            rows.append(DifferenceRow(worded(kind.title), *pair))
    return tuple(rows)


def _said(value: Any, field: FieldDescription, units: Units) -> str:
    if value is None:
        return say("unknown")
    if isinstance(value, float):
        return str(show(value, field.unit, units))
    return choice(value) if field.kind == "choice" else str(value)


def _step_speed(result: PlanResult | None, index: int, step: int, units: Units) -> str:
    if result is None:
        return ""
    wanted = (*result.chosen.setting[:index], step, *result.chosen.setting[index + 1 :])
    here = result.chosen.position
    line = next((line for line in result.settings if (line.setting, line.position) == (wanted, here)), None)
    return str(show(line.last_shaft.speed_rpm, "rpm", units)) if line else ""
