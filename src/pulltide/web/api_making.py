"""The JSON interface to what is made in the shop: wheels of a machine, loose parts, the shop's profile."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel, Field

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.made.profile import MakingProfile
from pulltide.presentation.paper.pdf_file import Size
from pulltide.presentation.paper.wheel_file import (
    WHEEL_KINDS,
    Look,
    Shape,
    WheelKind,
    stage_words,
    wheel_file,
    wheel_paper,
)
from pulltide.presentation.wheel_report import loose_named, wheel_named, wheels_report
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.choosing import plan_of
from pulltide.services.typed import record_from
from pulltide.web.api import HEAVY, REFUSED, JsonBody, Machines, json_body
from pulltide.web.api_calls import OnceRoute

#: Sizes of a cam, and what a plasma cutter and a printer do to a part.
CAM: dict[str, Any] = {"lift_mm": "1 in", "rise_deg": 120}
PROFILE: dict[str, Any] = {"kerf_mm": "1.5 mm", "shrinkage": 0.003}
router = APIRouter(prefix="/api/v1", tags=["v1"], route_class=OnceRoute)


class Wanted(BaseModel):
    """On what paper, and in which shape an outline is wanted."""

    size: Size = "Letter"
    shape: Shape = "drawn"
    plan: int = Field(1, ge=1, le=20)


def _profile(request: Request) -> MakingProfile:
    profile: MakingProfile = request.app.state.making.get()
    return profile


@router.get("/machines/{machine_id}/plans/{plan}/wheels", responses=REFUSED, dependencies=HEAVY)
def plan_wheels(machine_id: str, plan: int, machines: Machines) -> list[dict[str, Any]]:
    """Every wheel of a plan, counted from 1, that can be made, with what it measures; as ``pulltide wheels``."""
    machine = machines.get(machine_id).machine
    return wheels_report(machine, plan_of(machine, plan))


@router.get("/machines/{machine_id}/wheels/{name}.{kind}", responses=REFUSED, dependencies=HEAVY)
def wheel(
    request: Request,
    machine_id: str,
    name: str,
    kind: WheelKind,
    machines: Machines,
    wanted: Annotated[Wanted, Query()],
) -> Response:
    """A wheel of a plan as a file; outlines as drawn, for the shop's kerf, or in sectors for its sheet."""
    machine = machines.get(machine_id).machine
    plan = plan_of(machine, wanted.plan)
    made = wheel_named(machine, plan, name)
    where = (machine.name, plan.name, stage_words(name))
    paper = wheel_paper(
        made, where, DEFAULT_UNITS, Look(size=wanted.size, profile=_profile(request), shape=wanted.shape)
    )
    return Response(wheel_file(made, kind, paper), media_type=WHEEL_KINDS[kind])


@router.post("/loose/{part}.{kind}", responses=REFUSED, openapi_extra=json_body(CAM), dependencies=HEAVY)
def loose(request: Request, part: str, kind: WheelKind, body: JsonBody, size: Size = "Letter") -> Response:
    """A loose part (``hole_circle``, ``crank``, ``cam``, ``base``) of the sizes in the body, as a file."""
    made, look = loose_named(part, body, DEFAULT_UNITS), Look(size=size, profile=_profile(request))
    paper = wheel_paper(made, ("Loose part", made.title, "made to size"), DEFAULT_UNITS, look)
    return Response(wheel_file(made, kind, paper), media_type=WHEEL_KINDS[kind])


@router.get("/making")
def making(request: Request) -> MakingProfile:
    """What the shop's own machines do to a part."""
    return _profile(request)


@router.put("/making", responses=REFUSED, openapi_extra=json_body(PROFILE))
def keep_making(request: Request, body: JsonBody) -> MakingProfile:
    """Keep what the shop's own machines do to a part."""
    if not isinstance(body, dict):
        raise InputErrors([InputError("Body", "", "is not a set of named values")])
    profile = record_from(MakingProfile, body, DEFAULT_UNITS)
    request.app.state.making.keep(profile)
    return profile
