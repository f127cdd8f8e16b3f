"""Files of a plan to take along: sheet, drawings, parts list, all in one archive, and a label for the machine."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, HTTPException, Query, Request, Response
from pydantic import BaseModel, Field
from starlette.responses import RedirectResponse

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.made.of_plan import as_made, wheels_of
from pulltide.core.made.profile import MakingProfile
from pulltide.presentation.paper.bundle import KINDS, SheetKind, plain_name, taken_of
from pulltide.presentation.paper.label import label_svg
from pulltide.presentation.paper.pdf_file import Size
from pulltide.presentation.paper.sheet_paper import Form, of_shop
from pulltide.presentation.paper.svg_file import svg_file
from pulltide.presentation.paper.wheel_file import (
    WHEEL_KINDS,
    Look,
    Shape,
    WheelKind,
    stage_words,
    wheel_file,
    wheel_paper,
)
from pulltide.presentation.run_words import run_csv
from pulltide.presentation.strip_chart import strip_chart
from pulltide.services.machines import ChangedElsewhere
from pulltide.services.revisions import Revisions
from pulltide.services.running import run_of
from pulltide.services.texts import why_unusable
from pulltide.services.typed import record_from
from pulltide.web.pages import Machines, Posted, Selected, catalog_of, machines_of, version_of
from pulltide.web.person import AnyPerson, SurePerson
from pulltide.web.places.runup.runup_view import conditions_of, said_of
from pulltide.web.places.sheet.sheet_view import made_of, printed
from pulltide.web.room import room
from pulltide.words import say

router = APIRouter(include_in_schema=False)


class Wanted(BaseModel):
    """Which plan, from 0, and on what paper."""

    plan: int = Field(0, ge=0, le=20)
    size: Size = "Letter"
    form: Form = "sheet"
    shape: Shape = "drawn"


@router.get("/machines/{machine_id}/plan.{kind}", dependencies=[Depends(room)])
def plan_file(
    request: Request,
    machine_id: str,
    kind: SheetKind,
    machines: Machines,
    person: AnyPerson,
    wanted: Annotated[Wanted, Query()],
) -> Response:
    """A plan as a file of a kind."""
    stored = machines.get(machine_id)
    machine, catalog = stored.machine, catalog_of(request)
    if wanted.plan >= len(machine.plans):
        raise HTTPException(404)
    plan = machine.plans[wanted.plan]
    stamp, changes = printed(stored, plan, request.app.state.revisions, person.units)
    taken = taken_of(machine, plan, catalog, person.units, stamp)
    paper = replace(taken.paper, changes=changes)
    taken.paper = of_shop(paper, plan, request.app.state.shop.get(), person.units)
    taken.profile = request.app.state.making.get()
    headers = {"content-disposition": f'attachment; filename="{taken.name(kind)}"'}
    return Response(taken.file(kind, wanted.size, wanted.form), media_type=KINDS[kind], headers=headers)


@router.get("/machines/{machine_id}/label.svg")
def label(request: Request, machine_id: str, machines: Machines) -> Response:
    """A label with a code that opens the machine's page."""
    stored = machines.get(machine_id)
    address = f"{request.url.scheme}://{request.headers.get('host', '')}/machines/{stored.id}"
    headers = {"content-disposition": 'attachment; filename="label.svg"'}
    shop = request.app.state.shop.get().name
    below = " · ".join(part for part in (shop, stored.machine.plans[0].name) if part)
    body = label_svg(stored.machine.name, below, address)
    return Response(body, media_type="image/svg+xml", headers=headers)


class Ran(BaseModel):
    """Which plan, from 0, under what conditions."""

    plan: int = Field(0, ge=0, le=20)
    wish: str = Field("", max_length=300)


RUN_KINDS = {"csv": "text/csv; charset=utf-8", "svg": "image/svg+xml"}


@router.get("/machines/{machine_id}/run.{kind}", dependencies=[Depends(room)])
def run_file(
    machine_id: str, kind: Literal["csv", "svg"], machines: Machines, person: AnyPerson, ran: Annotated[Ran, Query()]
) -> Response:
    """A run of a plan, step by step or as strips over time."""
    machine = machines.get(machine_id).machine
    if ran.plan >= len(machine.plans):
        raise HTTPException(404)
    train, run = run_of(machine, machine.plans[ran.plan], conditions_of(said_of(ran.wish)))
    body = run_csv(run) if kind == "csv" else svg_file(strip_chart(train, run, person.units).picture)
    headers = {"content-disposition": f'attachment; filename="{plain_name(machine.name)}-run.{kind}"'}
    return Response(body, media_type=RUN_KINDS[kind], headers=headers)


@router.get("/machines/{machine_id}/wheels/{name}.{kind}", dependencies=[Depends(room)])
def wheel(
    request: Request, machine_id: str, name: str, kind: WheelKind, person: AnyPerson, wanted: Annotated[Wanted, Query()]
) -> Response:
    """A wheel of a plan to make, as a file of a kind."""
    machine = machines_of(request).get(machine_id).machine
    plan = machine.plans[wanted.plan] if wanted.plan < len(machine.plans) else None
    wheels = {} if plan is None else wheels_of(machine, plan)
    if plan is None or name not in wheels:
        raise HTTPException(404)
    look = Look(
        size=wanted.size,
        profile=request.app.state.making.get(),
        made_of=made_of(plan, name, wheels[name]),
        shape=wanted.shape,
    )
    where, made = (machine.name, plan.name, stage_words(name)), as_made(plan, name, wheels[name])
    body = wheel_file(made, kind, wheel_paper(made, where, person.units, look))
    shape = "" if wanted.shape == "drawn" else f"-{wanted.shape}"
    headers = {"content-disposition": f'attachment; filename="{plain_name(machine.name)}-{name}{shape}.{kind}"'}
    return Response(body, media_type=WHEEL_KINDS[kind], headers=headers)


@router.post("/machines/{machine_id}/making")
def keep_making(
    request: Request, machine_id: str, machines: Machines, person: SurePerson, selection: Selected, form: Posted
) -> Response:
    """Keep what the shop's own machines do to a part."""
    stored = machines.get(machine_id)
    typed = {name: form.get(f"set:{name}") or None for name in MakingProfile.model_fields}
    request.app.state.making.keep(record_from(MakingProfile, typed, person.units))
    return RedirectResponse(selection.within(stored.id, len(stored.machine.plans)).to(), 303)


@router.post("/machines/{machine_id}/revisions")
def issue(
    request: Request, machine_id: str, machines: Machines, person: SurePerson, selection: Selected, form: Posted
) -> Response:
    """Give out the sheet of a plan under the next number, as the page showed it."""
    stored = machines.get(machine_id)
    if version_of(form) != stored.version:
        raise ChangedElsewhere(version_of(form), stored.version)
    turned = selection.within(stored.id, len(stored.machine.plans))
    plan, note = stored.machine.plans[turned.plan], str(form.get("note", "")).strip()
    if why := why_unusable(note):
        raise InputErrors([InputError(say("Note"), note[:40], why)])
    revisions: Revisions = request.app.state.revisions
    revisions.issue(machine_id, plan.name, stored.machine.model_dump(mode="json"), note)
    return RedirectResponse(turned.to(), 303)
