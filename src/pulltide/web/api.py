"""The JSON interface: everything a page can do, and the formulas by name."""

from __future__ import annotations

import json
from datetime import date
from typing import Annotated, Any

from fastapi import APIRouter, Body, Depends, Query, Request, Response
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.machine import Machine
from pulltide.core.methods import METHODS
from pulltide.core.run_up.control import Conditions, Then
from pulltide.presentation.paper.bundle import KINDS, SheetKind, taken_of
from pulltide.presentation.paper.pdf_file import Size
from pulltide.presentation.paper.sheet_paper import Form
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.calculate import run_method, schema_of
from pulltide.services.choosing import plan_of
from pulltide.services.comparing import compare_report
from pulltide.services.log_report import log_report
from pulltide.services.machines import MachineStore, StoredMachine, UnreadableMachine
from pulltide.services.raw_machines import read_machine
from pulltide.services.reporting import solve_report
from pulltide.services.running import one_start, run_report
from pulltide.services.schema import schema_of_record
from pulltide.services.searching import Searcher, plans_report, ways_report, wish_from
from pulltide.web.api_calls import NotModified, OnceRoute, is_known, mark_of
from pulltide.web.errors import fault
from pulltide.web.pages import catalog_of, machines_of
from pulltide.web.room import room, search_room
from pulltide.words import error_text, worded

HEAVY, SEARCH = [Depends(room)], [Depends(search_room)]
router = APIRouter(prefix="/api/v1", tags=["v1"], route_class=OnceRoute)
Machines = Annotated[MachineStore, Depends(machines_of)]


class Fault(BaseModel):
    """One value that cannot be used."""

    path: str
    field: str
    given: str
    reason: str
    accepted: str
    sentence: str


class Refusal(BaseModel):
    """Why a request was refused."""

    error: str
    faults: list[Fault]


class MachineSummary(BaseModel):
    """A machine in a list."""

    id: str
    version: int
    name: str
    readable: bool = True


class KeptMachine(MachineSummary):
    """A machine with its document."""

    machine: Machine


class Replacement(BaseModel):
    """A changed machine and the version it was made from."""

    version: int = Field(ge=1, le=2**31 - 1, examples=[1])
    machine: dict[str, Any] = Field(examples=[{"name": "Tumble mixer"}])


class Look(BaseModel):
    """On what paper, on one page, or with every working."""

    size: Size = "Letter"
    form: Form = "sheet"


REFUSED: dict[int | str, dict[str, Any]] = {
    code: {"model": Refusal} for code in (400, 401, 403, 404, 405, 409, 413, 422, 429, 503)
}
#: A machine as a program may send it: quantities as numbers in the units of the schema, or as text with their unit.
EXAMPLE: dict[str, Any] = {
    "name": "Tumble mixer",
    "need": {"last_shaft": "Drum", "speed_min_rpm": 16, "speed_max_rpm": 28, "running_torque_nm": "120 N*m"},
    "plans": [
        {
            "name": "One belt and a chain",
            "source": {"kind": "induction", "power_kw": "1 1/2 hp", "speed_rpm": 1740},
            "links": [
                {
                    "kind": "roller_chain",
                    "chain": "50",
                    "driver_teeth": 17,
                    "driven_teeth": 46,
                    "center_distance_mm": "18 in",
                }
            ],
        }
    ],
}


#: What a search may be told, and the inputs of the formula ``shaft_torque``.
WISH: dict[str, Any] = {"stages": 2, "rank": "price", "never": ["gear_pair"]}
SIZES: dict[str, Any] = {"power_kw": "2 kW", "speed_rpm": 1440}


def json_body(example: dict[str, Any]) -> dict[str, Any]:
    """What OpenAPI says of a body that is read by itself, with an example of it."""
    content = {"application/json": {"schema": {"type": "object"}, "example": example}}
    return {"requestBody": {"required": True, "content": content}}


async def json_of(request: Request) -> Any:
    """The JSON body; a page of another site cannot send this type without asking first."""
    if "application/json" not in request.headers.get("content-type", ""):
        raise InputErrors(
            [InputError("Content-Type", request.headers.get("content-type", ""), "is not application/json")]
        )
    try:
        return json.loads((await request.body()).decode("utf-8-sig"))
    except (ValueError, RecursionError) as error:
        raise InputErrors([InputError("Body", "", "is not JSON")]) from error


JsonBody = Annotated[Any, Depends(json_of)]


def _summary(stored: StoredMachine | UnreadableMachine) -> MachineSummary:
    if isinstance(stored, UnreadableMachine):
        return MachineSummary(id=stored.id, version=stored.version, name=stored.name, readable=False)
    return MachineSummary(id=stored.id, version=stored.version, name=stored.machine.name)


def kept_of(stored: StoredMachine) -> KeptMachine:
    """A machine as it is kept."""
    return KeptMachine(id=stored.id, version=stored.version, name=stored.machine.name, machine=stored.machine)


class RunConditions(BaseModel):
    """Volts over rated, share of the load that is on; seconds of a soft start, in star, or up a VFD's ramp."""

    volts: float = Field(1.0, ge=0.5, le=1.2)
    soft_s: float = Field(0.0, ge=0, le=20)
    load: float = Field(1.0, ge=0, le=2)
    star_s: float = Field(0.0, ge=0, le=20)
    vfd_s: float = Field(0.0, ge=0, le=60)
    then: Then = Field("stop", description="what happens once it is up to speed")

    def conditions(self) -> Conditions:
        """As the run takes them. Raises InputErrors where two ways to start are asked for at once."""
        return one_start(Conditions(**self.model_dump()))


@router.get("/machines", responses=REFUSED)
def list_machines(
    request: Request,
    response: Response,
    machines: Machines,
    limit: Annotated[int | None, Query(ge=1, le=500)] = None,
    after: Annotated[str, Query(max_length=60)] = "",
) -> list[MachineSummary]:
    """Every machine on the shop floor, last changed first.

    With a limit so many, beginning behind machine ``after``; the header Link leads to the next ones.
    """
    found = [_summary(stored) for stored in machines.all()]
    begin = next((place + 1 for place, one in enumerate(found) if one.id == after), 0 if not after else len(found))
    shown = found[begin : begin + limit] if limit else found[begin:]
    if shown and begin + len(shown) < len(found):
        following = request.url.include_query_params(limit=limit, after=shown[-1].id)
        response.headers["link"] = f'<{following.path}?{following.query}>; rel="next"'
    return shown


@router.post("/machines", status_code=201, responses=REFUSED, openapi_extra=json_body(EXAMPLE))
def create_machine(request: Request, machines: Machines, body: JsonBody) -> KeptMachine:
    """Keep a new machine, given as a machine file."""
    return kept_of(machines.create(read_machine(body, DEFAULT_UNITS, catalog_of(request))))


@router.get("/machines/{machine_id}", responses=REFUSED | {304: {"description": "As in If-None-Match"}})
def get_machine(request: Request, response: Response, machine_id: str, machines: Machines) -> KeptMachine:
    """One machine with its version, which is its ETag too; 304 where If-None-Match holds that."""
    stored = machines.get(machine_id)
    if is_known(request, stored.version):
        raise NotModified(stored.version)
    response.headers["etag"] = mark_of(stored.version)
    return kept_of(stored)


@router.put("/machines/{machine_id}", responses=REFUSED)
def replace_machine(
    request: Request, machine_id: str, machines: Machines, change: Annotated[Replacement, Body()]
) -> KeptMachine:
    """Keep a changed machine as the next step of its history; 409 if it was changed since ``version``."""
    machine = read_machine(change.machine, DEFAULT_UNITS, catalog_of(request))
    return kept_of(machines.save(machine_id, change.version, machine, "Changed by a program"))


@router.delete("/machines/{machine_id}", status_code=204, responses=REFUSED)
def remove_machine(
    machine_id: str, machines: Machines, version: Annotated[int | None, Query(ge=1, le=2**31 - 1)] = None
) -> Response:
    """Take a machine off the floor; with a version only as it was then, 409 if it was changed since."""
    machines.remove(machine_id, version)
    return Response(status_code=204)


@router.get("/machines/{machine_id}/result", responses=REFUSED, dependencies=HEAVY)
def machine_result(request: Request, machine_id: str, machines: Machines) -> dict[str, Any]:
    """Solve every plan of a kept machine."""
    return solve_report(machines.get(machine_id).machine, catalog_of(request))


@router.get("/machines/{machine_id}/compare", responses=REFUSED, dependencies=HEAVY)
def compare_plans(request: Request, machine_id: str, machines: Machines) -> dict[str, Any]:
    """The plans of a kept machine side by side; the same as ``pulltide compare``."""
    return compare_report(machines.get(machine_id).machine, catalog_of(request))


@router.get("/machines/{machine_id}/plans/{plan}/run", responses=REFUSED, dependencies=HEAVY)
def plan_run(
    machine_id: str, plan: int, machines: Machines, conditions: Annotated[RunConditions, Query()]
) -> dict[str, Any]:
    """A plan of a kept machine, counted from 1, run in time; the same as ``pulltide run``."""
    kept = machines.get(machine_id).machine
    return run_report(kept, plan_of(kept, plan), conditions.conditions())


@router.get("/machines/{machine_id}/plans/{plan}/log", responses=REFUSED, dependencies=HEAVY)
def plan_log(
    request: Request,
    machine_id: str,
    plan: int,
    machines: Machines,
    page: Annotated[int | None, Query(ge=1, le=999)] = None,
) -> dict[str, Any]:
    """A page of readings held against a plan, both counted from 1, and upkeep due; the same as ``pulltide log``."""
    kept = machines.get(machine_id).machine
    plan_of(kept, plan)
    return log_report(kept, plan - 1, page, date.today(), catalog_of(request))


@router.get("/machines/{machine_id}/plans/{plan}/sheet.{kind}", responses=REFUSED, dependencies=HEAVY)
def plan_sheet(
    request: Request, machine_id: str, plan: int, kind: SheetKind, machines: Machines, look: Annotated[Look, Query()]
) -> Response:
    """A plan of a kept machine, counted from 1, as a file; the same as ``pulltide sheet``."""
    stored, catalog = machines.get(machine_id), catalog_of(request)
    taken = taken_of(stored.machine, plan_of(stored.machine, plan), catalog, DEFAULT_UNITS, f"State {stored.version}")
    return Response(taken.file(kind, look.size, look.form), media_type=KINDS[kind])


@router.post("/solve", responses=REFUSED, openapi_extra=json_body(EXAMPLE), dependencies=HEAVY)
def solve(request: Request, body: JsonBody) -> dict[str, Any]:
    """Solve a machine file without keeping it; the same result as ``pulltide solve``."""
    catalog = catalog_of(request)
    return solve_report(read_machine(body, DEFAULT_UNITS, catalog), catalog)


@router.post("/machines/{machine_id}/search", responses=REFUSED, openapi_extra=json_body(WISH), dependencies=SEARCH)
def search(request: Request, machine_id: str, machines: Machines, body: JsonBody, plan: int = 1) -> dict[str, Any]:
    """Search the lists for drives of a kept machine behind a plan's motor.

    The body says what is allowed: ``never`` and ``must`` families, ``stages``, ``price``, ``turn``, ``rank``,
    ``motor``, a group of listed ones, ``speeds``, further ones, and ``list``: the best of each kind (``kinds``) or the
    best of all (``trains``).
    """
    machine, catalog = machines.get(machine_id).machine, catalog_of(request)
    if not isinstance(body, dict):
        raise InputErrors([InputError("Body", "", "is not a set of named values")])
    source = plan_of(machine, plan)
    searcher: Searcher = request.app.state.searcher
    wish = wish_from(body, catalog)
    found = ways_report(searcher.ways(machine, source, wish, catalog), source, wish)
    return {**found, "plans": plans_report(machine, wish, catalog)}


@router.get("/schema/machine")
def machine_schema() -> dict[str, Any]:
    """JSON Schema of the machine file."""
    return schema_of_record(Machine)


@router.get("/calc")
def list_methods() -> list[dict[str, str]]:
    """Every formula that can be called."""
    return [{"name": method.name, "title": worded(method.title)} for method in METHODS.values()]


@router.get("/calc/{method}/schema", responses=REFUSED)
def method_schema(method: str) -> Response:
    """JSON Schema of a formula's inputs."""
    if method not in METHODS:
        return _no_method(method)
    return JSONResponse(schema_of(METHODS[method]))


@router.post("/calc/{method}", responses=REFUSED, openapi_extra=json_body(SIZES), dependencies=HEAVY)
def calculate(method: str, body: JsonBody) -> Response:
    """Evaluate a formula; answers with the result and its working."""
    if method not in METHODS:
        return _no_method(method)
    return JSONResponse(run_method(METHODS[method], body, DEFAULT_UNITS))


def _no_method(method: str) -> Response:
    error = InputError("Method", method, "is not known", accepted=", ".join(METHODS))
    return JSONResponse({"error": error_text(error), "faults": [fault(error)]}, 404)
