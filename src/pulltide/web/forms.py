"""Form fields made from the declarations of the core: label, unit, range, value, choices, stock to step through."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pulltide.core.catalog import Catalog
from pulltide.core.family import Family
from pulltide.core.links import family_of
from pulltide.core.machine import Machine
from pulltide.core.model import CoreModel
from pulltide.quantities import Units, show_for_edit
from pulltide.services.fields import FieldDescription, describe, described
from pulltide.words import choice, filled, say, worded


@dataclass(frozen=True, slots=True)
class Option:
    """One choice of a list."""

    value: str
    text: str
    chosen: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class FormField:
    """One input. ``stock`` lists values to step through and to suggest; ``list_href`` leads to what each would do."""

    path: str
    label: str
    kind: str
    text: str
    checked: bool
    options: tuple[Option, ...]
    accepted: str
    help: str
    hint: str
    stock: tuple[str, ...]
    note: str = ""
    list_href: str = ""

    @property
    def under(self) -> str:
        """What stands under the field while it is being filled in: what it is, and what is accepted."""
        accepted = "" if self.options else self.accepted
        return (
            say("{help} Accepted: {accepted}.", help=self.help, accepted=accepted)
            if self.help and accepted
            else self.help or accepted
        )

    @property
    def id(self) -> str:
        """Id of the input element."""
        return "f-" + self.path.replace(".", "-")


def form_field(
    document: Any, path: str, units: Units, hint: str = "", stock: tuple[str, ...] = (), *, noted: bool = True
) -> FormField:
    """The input for the field at a path of a raw document; ``noted`` adds where its default comes from."""
    described = describe(document, path)
    value = _value(document, path)
    options = tuple(Option(item, choice(item), item == value) for item in described.choices)
    if options and described.optional:
        options = (Option("", say("not known"), value is None), *options)
    return FormField(
        path=path,
        label=described.title,
        kind=described.kind,
        text=_text(value, described.kind, described.unit, units),
        checked=value is True,
        options=options,
        accepted=described.accepted(units),
        help=described.help,
        hint=hint or _hint(path, value is None and described.optional),
        stock=stock,
        note=filled(described.origin, units) if noted else "",
    )


def record_field(model: type[CoreModel], name: str, value: Any, units: Units, typed: str | None = None) -> FormField:
    """The input for a field of a record that stands alone; ``typed`` is what a person typed where it was refused."""
    described_field = described(model.model_fields[name], name, model)
    return FormField(
        path=name,
        label=described_field.title,
        kind=described_field.kind,
        text=typed if typed is not None else _text(value, described_field.kind, described_field.unit, units),
        checked=value is True,
        options=_record_options(described_field, typed or value),
        accepted=described_field.accepted(units),
        help=described_field.help,
        hint=say("not known") if value is None else "",
        stock=(),
        note=filled(described_field.origin, units),
    )


def _record_options(field: FieldDescription, now: Any) -> tuple[Option, ...]:
    """What may be chosen; nothing, where it may be unknown."""
    none = (Option("", say("not known"), not now),) if field.optional and field.choices else ()
    return (*none, *(Option(item, choice(item), item == now) for item in field.choices))


#: What an empty field of the duty means, where it is not simply unknown.
EMPTY_MEANS = {"service_factor_override": "none"}


def _hint(path: str, empty: bool) -> str:
    return say(EMPTY_MEANS.get(path.rsplit(".", 1)[-1], "not known")) if empty else ""


def _value(document: Any, path: str) -> Any:
    value = document
    for part in path.split("."):
        if value is None:
            return None
        value = value[int(part)] if isinstance(value, list) else value.get(part)
    return value


def _text(value: Any, kind: str, unit: str, units: Units) -> str:
    if value is None or kind in ("choice", "yes_no"):
        return ""
    return show_for_edit(value, unit, units) if kind == "quantity" else str(value)


def link_fields(
    machine: Machine, document: Any, place: tuple[int, int], units: Units, catalog: Catalog
) -> tuple[FormField, ...]:
    """All fields of one link but its steps, in the order its model declares them; ``place`` is plan and link."""
    plan, index = place
    link = machine.plans[plan].links[index]
    base = f"plans.{plan}.links.{index}"
    hidden = {"kind", "steps", "own", "data", "chosen_step"}
    family = family_of(link.kind)
    hidden |= family.hides(link)
    names = [name for name in family.model.model_fields if name not in hidden]
    stock = _stock(link, units, catalog)
    fields = [
        form_field(document, f"{base}.{name}", units, _empty(link, family, name), stock.get(name, ())) for name in names
    ]
    own = getattr(link, "own", None)
    if own is not None:
        fields += [form_field(document, f"{base}.own.{name}", units) for name in type(own).model_fields]
    return tuple(fields)


def _empty(link: Any, family: Family, name: str) -> str:
    """What a field that is left empty means; nothing for one that is filled in."""
    return worded(family.empty.get(name, "")) if getattr(link, name) is None else ""


@dataclass(frozen=True, slots=True)
class StepRow:
    """One step of a stepped pulley: its two diameters and the speed it gives the last shaft."""

    number: int
    chosen: bool
    driver: FormField
    driven: FormField
    speed: str


def step_rows(
    machine: Machine, document: Any, place: tuple[int, int], units: Units, speeds: tuple[str, ...], *, catalog: Catalog
) -> tuple[StepRow, ...]:
    """The steps of a stepped pulley; ``place`` is plan and link."""
    plan, index = place
    link = machine.plans[plan].links[index]
    if not hasattr(link, "steps"):
        return ()
    stock = _stock(link, units, catalog)
    rows = []
    for number, speed in enumerate(speeds, start=1):
        base = f"plans.{plan}.links.{index}.steps.{number - 1}"
        pair = [
            form_field(document, f"{base}.{name}", units, stock=stock.get(name, ()))
            for name in ("driver_diameter_mm", "driven_diameter_mm")
        ]
        rows.append(StepRow(number, number == link.chosen_step, pair[0], pair[1], speed))
    return tuple(rows)


def _stock(link: Any, units: Units, catalog: Catalog) -> dict[str, tuple[str, ...]]:
    """Values on the lists by field name, as a person would type them; plain numbers are lengths in mm."""
    listed = family_of(link.kind).stock(link, catalog)
    return {
        name: tuple(item if isinstance(item, str) else show_for_edit(item, "mm", units) for item in values)
        for name, values in listed.items()
    }
