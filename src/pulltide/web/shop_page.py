"""The page "This shop": its name, what a new machine begins with, and the shop's own starters."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Any

from fastapi import APIRouter, Form, Request, Response
from fastapi.responses import RedirectResponse

from pulltide.core.errors import InputErrors
from pulltide.core.family import Family
from pulltide.core.links import FAMILIES
from pulltide.services.machines import StoredMachine
from pulltide.services.shop import ShopSettings, added, begun_from, cut_out
from pulltide.services.texts import checked_name
from pulltide.services.typed import record_from
from pulltide.store.shop import PostgresShop, PostgresStarters
from pulltide.web.forms import FormField, Option, record_field
from pulltide.web.pages import Machines, Posted, catalog_of, menu, whole_number
from pulltide.web.person import AnyPerson, Person, SurePerson
from pulltide.web.templating import render
from pulltide.words import error_text, say, worded

router = APIRouter(include_in_schema=False)
#: What a starter may be, in words.
PARTS = {"machine": "machine", "plan": "plan", "stage": "stage"}
Name = Annotated[str, Form(max_length=200)]
#: Fields of the settings that stand for themselves, and the families that have a size to like best.
PLAIN = tuple(name for name in ShopSettings.model_fields if name != "favorites")
LIKED = tuple(family for family in FAMILIES if family.favorite)
Number = Annotated[int, Form(ge=1, le=2**31 - 1)]


def starters_of(request: Request) -> PostgresStarters:
    """Where this shop's starters are kept."""
    starters: PostgresStarters = request.app.state.starters
    return starters


def _page(request: Request, machines: Machines, person: Person, **more: Any) -> Response:
    shop: PostgresShop = request.app.state.shop
    typed, settings = more.pop("typed", {}), shop.get()
    floor = [stored for stored in machines.all() if isinstance(stored, StoredMachine)]
    values = {
        "person": person,
        "fields": [
            _open_ended(record_field(ShopSettings, name, getattr(settings, name), person.units, typed.get(name)))
            for name in PLAIN
        ],
        "favorites": [_favorite(family, settings, person, typed) for family in LIKED],
        "starters": [(one.id, one.name, PARTS[one.part]) for one in starters_of(request).all()],
        "sources": list(_sources(floor)),
        "plans": [
            (f"{stored.id} {number}", f"{stored.machine.name} · {plan.name}")
            for stored in floor
            for number, plan in enumerate(stored.machine.plans)
        ],
        "failed": "",
        **menu(person),
        **more,
    }
    return render(request, "pages/shop_settings.html", values, 422 if more.get("failed") else 200)


def _open_ended(field: FormField) -> FormField:
    """A field that a shop may leave open: nothing is unknown then, there is only no default."""
    options = tuple(replace(option, text=say("no default")) if not option.value else option for option in field.options)
    return replace(field, options=options, hint=say("no default") if field.hint else "")


def _favorite(family: Family, settings: ShopSettings, person: Person, typed: dict[str, str]) -> FormField:
    """The input for the size of a family that the shop likes best."""
    path = f"favorites.{family.kind}"
    chosen = typed.get(path, settings.favorites.get(family.kind, ""))
    plain = record_field(family.model, family.favorite, chosen or None, person.units)
    none = Option("", say("none"), not chosen)
    options = (none, *(replace(option, chosen=option.value == chosen) for option in plain.options if option.value))
    return replace(plain, path=path, label=worded(family.title), options=options)


def _sources(floor: list[StoredMachine]) -> Any:
    """What can be made a starter: its value and its words, machine by machine."""
    for stored in floor:
        yield f"{stored.id} machine", say("{machine}, all of it", machine=stored.machine.name)
        for p, plan in enumerate(stored.machine.plans, start=1):
            if plan.links or plan.source is not None:
                yield f"{stored.id} plan-{p}", f"{stored.machine.name} · {plan.name}"
            for k, _ in enumerate(plan.links, start=1):
                yield (
                    f"{stored.id} stage-{p}-{k}",
                    say("{machine} · {plan} · stage {k}", machine=stored.machine.name, plan=plan.name, k=k),
                )


@router.get("/shop")
def shop_page(request: Request, machines: Machines, person: AnyPerson) -> Response:
    """What the shop is called and takes for granted, and its starters."""
    return _page(request, machines, person)


@router.post("/shop")
def keep_settings(request: Request, machines: Machines, person: SurePerson, form: Posted) -> Response:
    """Keep what the shop takes for granted; what cannot be read stays as it was typed."""
    paths = (*PLAIN, *(f"favorites.{family.kind}" for family in LIKED))
    typed = {path: str(form.get(f"set:{path}") or "") for path in paths}
    try:
        name = checked_name(typed["name"]) if typed["name"].strip() else ""
        kept = {"name": name, "price_unit": typed["price_unit"].strip()}
        filled: dict[str, Any] = {key: typed[key] or None for key in PLAIN} | kept
        filled["favorites"] = {family.kind: liked for family in LIKED if (liked := typed[f"favorites.{family.kind}"])}
        settings = record_from(ShopSettings, filled, person.units)
    except InputErrors as error:
        return _page(request, machines, person, failed=error_text(error), typed=typed)
    request.app.state.shop.keep(settings)
    return RedirectResponse("/shop", 303)


@router.post("/shop/starters")
def keep_starter(
    request: Request, machines: Machines, person: SurePerson, name: Name, source: Annotated[str, Form(max_length=80)]
) -> Response:
    """Make something of a machine a starter."""
    machine_id, _, part = source.partition(" ")
    try:
        called = checked_name(name)
    except InputErrors as error:
        return _page(request, machines, person, failed=error_text(error))
    kind, machine = cut_out(machines.get(machine_id).machine, part)
    starters_of(request).keep(called, kind, machine)
    return RedirectResponse("/shop", 303)


@router.post("/shop/starters/throw-away")
def throw_away(request: Request, person: SurePerson, starter: Number) -> Response:
    """Keep a starter no longer."""
    starters_of(request).throw_away(starter)
    return RedirectResponse("/shop", 303)


@router.post("/shop/starters/begin")
def begin(request: Request, machines: Machines, person: SurePerson, starter: Number, name: Name = "") -> Response:
    """A new machine from a starter."""
    made = begun_from(starters_of(request).get(starter), " ".join(name.split())[:60])
    return RedirectResponse(f"/machines/{machines.create(made).id}/need", 303)


@router.post("/shop/starters/add")
def add(
    request: Request, machines: Machines, person: SurePerson, starter: Number, to: Annotated[str, Form(max_length=60)]
) -> Response:
    """A plan more on a machine, or a stage more at the end of a plan."""
    machine_id, _, number = to.partition(" ")
    plan, stored = whole_number(say("Plan"), number), machines.get(machine_id)
    one = starters_of(request).get(starter)
    machine, label = added(stored.machine, one, plan, person.units, catalog_of(request))
    machines.save(stored.id, stored.version, machine, label)
    shown = len(machine.plans) - 1 if one.part == "plan" else plan
    return RedirectResponse(f"/machines/{stored.id}/train?plan={shown}", 303)
