"""Files of a plan to take along: sheet, drawings, parts list, all in one archive, and a label for the machine."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, HTTPException, Query, Request, Response
from pydantic import BaseModel, Field

from pulltide.core.wheels import wheels_of
from pulltide.presentation.paper.bundle import KINDS, SheetKind, plain_name, taken_of
from pulltide.presentation.paper.label import label_svg
from pulltide.presentation.paper.pdf_file import Size
from pulltide.presentation.paper.wheel_file import WHEEL_KINDS, WheelKind, stage_words, wheel_file, wheel_paper
from pulltide.presentation.run_words import run_csv
from pulltide.services.running import run_of
from pulltide.web.pages import Machines, catalog_of
from pulltide.web.person import AnyPerson
from pulltide.web.places.runup.runup_view import conditions_of, said_of
from pulltide.web.places.sheet.sheet_view import printed
from pulltide.web.room import room

router = APIRouter(include_in_schema=False)


class Wanted(BaseModel):
    """Which plan, from 0, and on what paper."""

    plan: int = Field(0, ge=0, le=20)
    size: Size = "Letter"


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
    taken = taken_of(machine, machine.plans[wanted.plan], catalog, person.units, printed(stored))
    headers = {"content-disposition": f'attachment; filename="{taken.name(kind)}"'}
    return Response(taken.file(kind, wanted.size), media_type=KINDS[kind], headers=headers)


@router.get("/machines/{machine_id}/label.svg")
def label(request: Request, machine_id: str, machines: Machines) -> Response:
    """A label with a code that opens the machine's page."""
    stored = machines.get(machine_id)
    address = f"{request.url.scheme}://{request.headers.get('host', '')}/machines/{stored.id}"
    headers = {"content-disposition": 'attachment; filename="label.svg"'}
    body = label_svg(stored.machine.name, stored.machine.plans[0].name, address)
    return Response(body, media_type="image/svg+xml", headers=headers)


class Ran(BaseModel):
    """Which plan, from 0, under what conditions."""

    plan: int = Field(0, ge=0, le=20)
    wish: str = Field("", max_length=300)


@router.get("/machines/{machine_id}/run.csv", dependencies=[Depends(room)])
def run_file(request: Request, machine_id: str, machines: Machines, ran: Annotated[Ran, Query()]) -> Response:
    """A run of a plan, step by step."""
    machine = machines.get(machine_id).machine
    if ran.plan >= len(machine.plans):
        raise HTTPException(404)
    body = run_csv(run_of(machine, machine.plans[ran.plan], conditions_of(said_of(ran.wish))))
    headers = {"content-disposition": f'attachment; filename="{plain_name(machine.name)}-run.csv"'}
    return Response(body, media_type="text/csv; charset=utf-8", headers=headers)


@router.get("/machines/{machine_id}/wheels/{name}.{kind}", dependencies=[Depends(room)])
def wheel(
    machine_id: str,
    name: str,
    kind: WheelKind,
    machines: Machines,
    person: AnyPerson,
    wanted: Annotated[Wanted, Query()],
) -> Response:
    """A wheel of a plan to make, as a file of a kind."""
    machine = machines.get(machine_id).machine
    wheels = wheels_of(machine.plans[wanted.plan]) if wanted.plan < len(machine.plans) else {}
    if name not in wheels:
        raise HTTPException(404)
    plan = machine.plans[wanted.plan]
    paper = wheel_paper(wheels[name], (machine.name, plan.name, stage_words(name)), person.units, wanted.size)
    body = wheel_file(wheels[name], kind, paper, wanted.size)
    file = f"{plain_name(machine.name)}-{name}.{kind}"
    headers = {"content-disposition": f'attachment; filename="{file}"'}
    return Response(body, media_type=WHEEL_KINDS[kind], headers=headers)
