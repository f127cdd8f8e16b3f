"""A machine's past: who changed what and when, what differs between two states, and the way back to any of them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import Annotated, Any

from fastapi import APIRouter, Form, HTTPException, Query, Request, Response
from fastapi.responses import RedirectResponse

from pulltide.core.machine import Machine
from pulltide.presentation.paper.label import code_svg
from pulltide.quantities import Units
from pulltide.services.accounts import MAX_DAYS, hash_of, new_secret
from pulltide.services.documents import UnreadableDocument, loaded
from pulltide.services.machines import MAX_STATES, PastState, gone_back
from pulltide.services.matching import MAX_TOLD, differences
from pulltide.web.admission import now, sharing_of
from pulltide.web.import_view import DifferenceLine, difference_line
from pulltide.web.pages import HEAVY, Machines, menu
from pulltide.web.person import AnyPerson, Person, SurePerson
from pulltide.web.sign_in import Shared, moment, signed_in
from pulltide.web.templating import render
from pulltide.words import say

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True, slots=True)
class StateRow:
    """One state: what led to it, who did that and when."""

    place: int
    label: str
    author: str
    at: str
    is_now: bool
    looked_at: bool


@dataclass(frozen=True, slots=True)
class Shown:
    """Which state is looked at, 0 for none, and what it is compared with: ``before`` it, or ``now``."""

    look: int = 0
    against: str = "before"


@dataclass(frozen=True, slots=True)
class Compared:
    """What one state has otherwise than the one before it, or the present one; ``more`` are not told."""

    words: str
    lines: tuple[DifferenceLine, ...]
    more: int
    unreadable: bool = False


@router.get("/machines/{machine_id}/history", dependencies=HEAVY)
def history_page(
    request: Request,
    machine_id: str,
    machines: Machines,
    person: AnyPerson,
    look: Annotated[int, Query(ge=0, le=2**31 - 1)] = 0,
    against: Annotated[str, Query(max_length=6)] = "before",
) -> Response:
    """Every state that is kept, and what one of them changed."""
    return _page(request, machine_id, machines, person, Shown(look, against))


def _page(
    request: Request, machine_id: str, machines: Machines, person: Person, shown: Shown = Shown(), **more: Any
) -> Response:
    look, against = shown.look, shown.against
    states = machines.history(machine_id, MAX_STATES)
    sharing = sharing_of(request)
    links = sharing.accounts.guest_links(machine_id, now()) if sharing is not None else ()
    values = {
        "person": person,
        "machine_id": machine_id,
        "name": next((_name(state.document) for state in states if state.is_now), ""),
        "version": machines.get(machine_id).version,
        "states": [_row(state, look) for state in states],
        "look": look,
        "against": against,
        "compared": _compared(states, look, against, person.units),
        "guests": [(number, by, moment(ends)) for number, by, ends in links],
        "link": "",
        "link_code": "",
        **menu(person),
        **more,
    }
    return render(request, "pages/history.html", values)


def _row(state: PastState, look: int) -> StateRow:
    return StateRow(state.place, state.label, state.author, moment(state.at), state.is_now, state.place == look)


def _name(document: object) -> str:
    return str(document.get("name", "")) if isinstance(document, dict) else ""


def _read(state: PastState | None) -> Machine | None:
    try:
        return None if state is None else loaded(state.document)
    except UnreadableDocument:
        return None


def _compared(states: Any, look: int, against: str, units: Units) -> Compared | None:
    """What a state has otherwise than the one before it, or the present one has otherwise than it."""
    at = {state.place: state for state in states}
    if look not in at:
        return None
    present = next(state for state in states if state.is_now)
    first, second = (at[look], present) if against == "now" else (at.get(look - 1), at[look])
    words = say("Changed since then") if against == "now" else say("What “{label}” changed", label=second.label)
    one, other = _read(first), _read(second)
    if one is None or other is None:
        return Compared(words, (), 0, unreadable=first is not None)
    found = differences(one, other)
    lines = tuple(difference_line(item, units) for item in found[:MAX_TOLD])
    return Compared(words, lines, max(len(found) - MAX_TOLD, 0))


@router.post("/machines/{machine_id}/history/back-to", dependencies=HEAVY)
def back_to_state(
    machine_id: str,
    machines: Machines,
    person: SurePerson,
    place: Annotated[int, Form(ge=1, le=2**31 - 1)],
    version: Annotated[int, Form(ge=0, le=2**31 - 1)],
) -> Response:
    """Make a former state the next one: nothing is lost, and undo takes it back."""
    gone_back(machines, machine_id, version, place)
    return RedirectResponse(f"/machines/{machine_id}/history", 303)


@router.post("/machines/{machine_id}/guests")
def make_guest_link(
    request: Request,
    machine_id: str,
    machines: Machines,
    sharing: Shared,
    person: SurePerson,
    days: Annotated[int, Form(ge=1, le=MAX_DAYS)],
) -> Response:
    """A link that shows this machine to whoever has it, shown once."""
    machines.get(machine_id)
    secret = new_secret()
    ends = now() + timedelta(days=days)
    sharing.accounts.add_guest_link(signed_in(person).id, machine_id, hash_of(secret), ends)
    link = f"{sharing.address or str(request.base_url)}guest/{secret}"
    return _page(request, machine_id, machines, person, link=link, link_code=code_svg(link))


@router.post("/machines/{machine_id}/guests/{number}/end")
def end_guest_link(machine_id: str, number: int, sharing: Shared, person: SurePerson) -> Response:
    """The link shows nothing any more."""
    if not 0 < number < 2**31:
        raise HTTPException(404)
    sharing.accounts.end_guest_link(machine_id, number)
    return RedirectResponse(f"/machines/{machine_id}/history", 303)
