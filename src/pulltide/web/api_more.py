"""The JSON interface to what a page does with a machine as a whole, and to the shafts of a plan."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from pulltide.services.choosing import copy_of, plan_of
from pulltide.services.fitting import fit_report
from pulltide.services.machines import MAX_STATES, gone_back
from pulltide.web.api import HEAVY, REFUSED, KeptMachine, Machines, kept_of
from pulltide.web.api_calls import OnceRoute

router = APIRouter(prefix="/api/v1", tags=["v1"], route_class=OnceRoute)


class Seen(BaseModel):
    """The version of a machine that the step is taken from."""

    version: int = Field(ge=1, le=2**31 - 1, examples=[1])


@router.get("/machines/{machine_id}/plans/{plan}/fit", responses=REFUSED, dependencies=HEAVY)
def plan_fit(machine_id: str, plan: int, machines: Machines) -> dict[str, Any]:
    """Shafts, bearings and tensions of a plan of a kept machine, counted from 1; the same as ``pulltide fit``."""
    kept = machines.get(machine_id).machine
    return fit_report(kept, plan_of(kept, plan))


@router.post("/machines/{machine_id}/undo", responses=REFUSED)
def undo(machine_id: str, seen: Seen, machines: Machines) -> KeptMachine:
    """Take back the last change; 409 if the machine was changed since that version."""
    return kept_of(machines.step(machine_id, seen.version, -1))


@router.post("/machines/{machine_id}/redo", responses=REFUSED)
def redo(machine_id: str, seen: Seen, machines: Machines) -> KeptMachine:
    """Make the change again that was taken back last."""
    return kept_of(machines.step(machine_id, seen.version, 1))


@router.post("/machines/{machine_id}/copy", status_code=201, responses=REFUSED)
def copy(machine_id: str, machines: Machines) -> KeptMachine:
    """A copy of a machine, with an empty run log."""
    return kept_of(machines.create(copy_of(machines.get(machine_id).machine)))


@router.post("/machines/{machine_id}/put-back", responses=REFUSED)
def put_back(machine_id: str, machines: Machines) -> KeptMachine:
    """Undo a removal."""
    return kept_of(machines.put_back(machine_id))


class Past(BaseModel):
    """One state of a machine: what led to it, who did it and when."""

    place: int
    label: str
    author: str
    at: datetime
    is_now: bool


@router.get("/machines/{machine_id}/history", responses=REFUSED)
def machine_history(machine_id: str, machines: Machines) -> list[Past]:
    """The latest states of a machine that are kept, the last first."""
    found = machines.history(machine_id, MAX_STATES)
    return [Past(place=one.place, label=one.label, author=one.author, at=one.at, is_now=one.is_now) for one in found]


class Wanted(Seen):
    """The version that is gone back from, and the state that is gone back to."""

    place: int = Field(ge=1, le=2**31 - 1, examples=[1])


@router.post("/machines/{machine_id}/back-to", responses=REFUSED)
def back_to(machine_id: str, wanted: Wanted, machines: Machines) -> KeptMachine:
    """Make a former state the next one; undo takes it back."""
    return kept_of(gone_back(machines, machine_id, wanted.version, wanted.place))
