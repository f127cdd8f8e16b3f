"""The manual that ships with the program, and a walk of five steps round a machine of the demo shop."""

from __future__ import annotations

from functools import cache

from fastapi import APIRouter, Request, Response
from fastapi.responses import RedirectResponse

from pulltide.core.line import solve_plan
from pulltide.demo import demo_machines
from pulltide.presentation.painting import Picture
from pulltide.presentation.sheet import small_sheet
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.machines import StoredMachine
from pulltide.web.pages import Machines, menu
from pulltide.web.person import YEAR_SECONDS, AnyPerson, SurePerson, keep_cookie
from pulltide.web.templating import render
from pulltide.web.tour import STEPS, TOUR_COOKIE
from pulltide.words import say

router = APIRouter(include_in_schema=False)
#: Chapters by the name of their template and address, in the order they are read.
CHAPTERS = (
    ("begin", "Begin a machine"),
    ("entries", "Entries and units"),
    ("need", "Need: what the last shaft must do"),
    ("duty", "Duty: how hard it is worked"),
    ("source", "Source: what turns it"),
    ("train", "Train: stages, findings, remedies"),
    ("ways", "Ways: from the need to a drive"),
    ("fit", "Fit: shafts, bearings, tension"),
    ("runup", "Run-up: before it exists"),
    ("sheet", "Build sheet and parts to make"),
    ("log", "Run log: what it really does"),
    ("stock", "Shelf, stock and prices"),
    ("people", "A shop that several people share"),
    ("keeping", "Keeping, files and programs"),
    ("trust", "How far to trust it"),
)
#: Which machine of the demo shop is drawn beside a chapter, by the beginning of its name.
DRAWN = {"train": "Bellwether", "ways": "Windrow", "fit": "Spindlewood", "sheet": "Lofthook"}


@cache
def drawings() -> dict[str, Picture]:
    """The machine beside each chapter that has one, drawn from the demo."""
    made = {}
    for chapter, name in DRAWN.items():
        machine = next(one for one in demo_machines() if one.name.startswith(name))
        result = solve_plan(machine, machine.plans[0])
        if result is not None:
            made[chapter] = small_sheet(machine.plans[0], result.chosen, DEFAULT_UNITS)
    return made


@router.get("/manual")
def manual(request: Request, person: AnyPerson) -> Response:
    """Every chapter on one page, to be searched."""
    values = {
        "person": person,
        "chapters": [(key, say(title)) for key, title in CHAPTERS],
        "drawings": drawings(),
        **menu(person),
    }
    return render(request, "pages/manual.html", values)


@router.get("/tour")
def tour(machines: Machines) -> Response:
    """Where the walk begins: at a machine of the demo, or at any that is on the floor, else at the manual."""
    floor = [stored for stored in machines.all() if isinstance(stored, StoredMachine)]
    named = {machine.name for machine in demo_machines()}
    shown = next((one for one in floor if one.machine.name in named), floor[0] if floor else None)
    where = "/manual" if shown is None else f"/machines/{shown.id}/{STEPS[0].place}?tour=1"
    return RedirectResponse(where, 303)


@router.post("/tour/leave")
def leave(request: Request, person: SurePerson) -> Response:
    """Walked, or declined: it is not offered again in this browser."""
    response = RedirectResponse("/", 303)
    keep_cookie(request, response, TOUR_COOKIE, "yes", YEAR_SECONDS)
    return response
