"""Readings that come as files: a recording that is listened to, readings as CSV in and out, upkeep as a calendar."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Annotated, Literal, cast

from fastapi import APIRouter, Depends, Form, HTTPException, Query, Request, Response
from fastapi.responses import RedirectResponse
from pydantic import BaseModel, Field, ValidationError
from starlette.datastructures import FormData, UploadFile

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.instruments import READS
from pulltide.presentation.log_words import Places, task_words
from pulltide.presentation.paper.bundle import plain_name
from pulltide.services.change import Change
from pulltide.services.instruments import BY, understood
from pulltide.services.listening import Listen, reading_of
from pulltide.services.log_file import readings_csv, upkeep_calendar, with_readings
from pulltide.services.machines import edit
from pulltide.services.stock import SHELF
from pulltide.services.upkeep import dues_of, expected_of
from pulltide.store.instrument_client import NoReading
from pulltide.store.stock import PostgresStock
from pulltide.web.pages import Machines, Posted, catalog_of
from pulltide.web.person import AnyPerson, SurePerson
from pulltide.web.room import room
from pulltide.web.selection import Selection
from pulltide.words import error_text, say

router = APIRouter(include_in_schema=False)
HEAVY = [Depends(room)]


class Sent(BaseModel):
    """What comes with a file: the version it is for, the plan, the page of readings, what to listen for."""

    version: int = Field(ge=0, le=2**31 - 1)
    plan: int = Field(0, ge=0, le=20)
    index: int = Field(0, ge=0, le=999)
    named: str = Field("", max_length=30)


def _sent(form: FormData) -> tuple[Sent, bytes, str]:
    """The fields of a form, and its file. Raises InputErrors without one."""
    file = form.get("file")
    if not isinstance(file, UploadFile):
        raise InputErrors([InputError(say("File"), "", say("is missing"))])
    texts = {key: value for key, value in form.multi_items() if isinstance(value, str)}
    try:
        return Sent.model_validate(texts), file.file.read(), file.filename or ""
    except ValidationError as error:
        raise InputErrors([InputError(str(error.errors()[0]["loc"][0]), "", say("is not usable"))]) from error


def _plan(machine: Machine, index: int) -> Plan:
    if index >= len(machine.plans):
        raise HTTPException(404)
    return machine.plans[index]


def _back(machine_id: str, plan: int, page: int) -> Response:
    address = Selection(plan=plan, place="log", machine_id=machine_id, at=f"visit-{page + 1}").to()
    return RedirectResponse(address, 303)


@router.post("/machines/{machine_id}/log/listen", dependencies=HEAVY)
def listen(request: Request, machine_id: str, machines: Machines, person: SurePerson, form: Posted) -> Response:
    """Write down what a recording says; one that says nothing is refused with the reason."""
    sent, content, _ = _sent(form)
    machine = machines.get(machine_id).machine
    kind, _, at = sent.named.partition("@")
    if kind not in ("strum", "tick", "hum"):
        raise InputErrors([InputError(say("Listen for"), kind, say("is not known"), accepted=say("strum, tick, hum"))])
    heard = reading_of(machine, _plan(machine, sent.plan), cast(Listen, kind), at, content)
    change = Change(
        operation="add_reading",
        plan=sent.plan,
        index=sent.index,
        kind=f"{heard.named}@{heard.instrument}",
        part=f"{heard.value:.4g} {READS[heard.named.partition('@')[0]]}",
        label=say("Reading heard"),
    )
    edit(machines, machine_id, sent.version, change, person.units, catalog=catalog_of(request))
    return _back(machine_id, sent.plan, sent.index)


@router.post("/machines/{machine_id}/log/import", dependencies=HEAVY)
def read_in(machine_id: str, machines: Machines, person: SurePerson, form: Posted) -> Response:
    """Add the readings of a file, all or none."""
    sent, content, name = _sent(form)
    machine = machines.get(machine_id).machine
    added = with_readings(machine, _plan(machine, sent.plan), content, name, person.units)
    machines.save(machine_id, sent.version, added, say("Readings read in"))
    return _back(machine_id, sent.plan, len(added.log.visits) - 1)


@router.post("/machines/{machine_id}/log/spare")
def spare(
    request: Request,
    machine_id: str,
    person: SurePerson,
    part: Annotated[str, Form(max_length=60)],
    step: Annotated[Literal["used", "back"], Form()],
    plan: Annotated[int, Form(ge=0, le=20)] = 0,
) -> Response:
    """Count a spare of the shelf down by one that was built in, or up again."""
    stock: PostgresStock = request.app.state.stock
    found = [item for item in stock.page(SHELF, part).items if item.holding.designation == part]
    have = next((item for item in found if step == "back" or item.holding.on_hand > 0), None)
    if have is None:
        raise InputErrors([InputError(say("Spare"), part, say("is not on the shelf any more"))])
    count = have.holding.on_hand + (1 if step == "back" else -1)
    stock.change(have.id, have.holding.model_copy(update={"on_hand": count}))
    return RedirectResponse(f"{Selection(plan=plan, place='log', machine_id=machine_id).to()}#spares", 303)


class Live(BaseModel):
    """What is watched: a reading by its name, on which plan."""

    named: str = Field(max_length=30)
    plan: int = Field(0, ge=0, le=20)


@router.get("/machines/{machine_id}/log/live", dependencies=HEAVY)
def live(
    request: Request, machine_id: str, machines: Machines, person: AnyPerson, watched: Annotated[Live, Query()]
) -> dict[str, str]:
    """What an instrument shows now, ready to be written down, or why there is nothing."""
    machine, (kind, _, at) = machines.get(machine_id).machine, watched.named.partition("@")
    aimed_at = expected_of(machine, _plan(machine, watched.plan), kind, at)
    if kind not in BY or aimed_at is None:
        return {"shows": "", "why": say("No instrument reads this.")}
    try:
        shown = request.app.state.instruments.read(BY[kind], aimed_at)
        return {"shows": understood(kind, at, shown, person.units), "why": ""}
    except (NoReading, InputError) as error:
        return {"shows": "", "why": error_text(error)}


@router.get("/machines/{machine_id}/log.csv")
def readings_file(machine_id: str, machines: Machines) -> Response:
    """Every reading of a machine."""
    machine = machines.get(machine_id).machine
    return _attached(readings_csv(machine), "text/csv; charset=utf-8", f"{plain_name(machine.name)}-log.csv")


@router.get("/machines/{machine_id}/upkeep.ics", dependencies=HEAVY)
def calendar(
    machine_id: str, machines: Machines, person: AnyPerson, plan: Annotated[int, Query(ge=0, le=20)] = 0
) -> Response:
    """What is due as a calendar file."""
    machine = machines.get(machine_id).machine
    found, names = dues_of(machine, _plan(machine, plan), date.today())
    places = Places(machine.plans[plan], names)
    named = [(due, task_words(due, places)) for due in found]
    body = upkeep_calendar(machine, named, date.today(), datetime.now(UTC))
    return _attached(body, "text/calendar; charset=utf-8", f"{plain_name(machine.name)}-upkeep.ics")


def _attached(body: bytes, media: str, name: str) -> Response:
    return Response(body, media_type=media, headers={"content-disposition": f'attachment; filename="{name}"'})
