"""Pages and the changes made on them."""

from __future__ import annotations

import json
from dataclasses import replace
from threading import Thread
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Depends, File, Form, HTTPException, Query, Request, Response, UploadFile
from fastapi.responses import JSONResponse, PlainTextResponse, RedirectResponse
from pydantic import BaseModel, Field, ValidationError
from sqlalchemy import text
from starlette.datastructures import FormData

from pulltide.core.catalog import Catalog
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.shaft_bill import whole_bill
from pulltide.presentation.build_sheet import part_line
from pulltide.presentation.handbook_view import handbook_view
from pulltide.presentation.parts_file import CSV, WORKBOOK, parts_csv, parts_workbook
from pulltide.quantities import UNIT_CHOICES, Units
from pulltide.services.archive import file_name
from pulltide.services.beginning import Begin, begun
from pulltide.services.change import Change
from pulltide.services.choosing import copy_of
from pulltide.services.documents import UnreadableDocument, name_of
from pulltide.services.machines import MachineStore, StoredMachine, before_last_change, edit
from pulltide.services.matching import same_named
from pulltide.services.operations import moved_to
from pulltide.services.quotes import ask
from pulltide.services.raw_machines import read_machine
from pulltide.services.searching import Searcher
from pulltide.services.shelf import Shelf, kept_part, shop_catalog
from pulltide.services.texts import why_unusable
from pulltide.store.machines import PostgresMachines
from pulltide.store.people import Preferences
from pulltide.store.shop import PostgresShop, PostgresStarters
from pulltide.web.admission import bearer_in
from pulltide.web.guard import MAX_BYTES
from pulltide.web.import_view import import_view
from pulltide.web.new_view import TROUBLES, gallery
from pulltide.web.page_view import page_view
from pulltide.web.palette import Destination, destinations
from pulltide.web.person import AnyPerson, Person, SurePerson
from pulltide.web.places import Context, Helpers, place_of
from pulltide.web.places.ways.ways_view import speeds_from
from pulltide.web.room import room
from pulltide.web.selection import FIRST_PLACE, Selection
from pulltide.web.shop_view import floor_card, removed_rows
from pulltide.web.stock_view import claims_of
from pulltide.web.templating import render
from pulltide.web.tour import TOUR_COOKIE, tour_step
from pulltide.words import say

#: A price service that is well answers in this time, so that its quotes are there at once [s].
QUOTES_SOON_S = 0.5
HEAVY = [Depends(room)]
router = APIRouter(include_in_schema=False)
#: Longest name on the shelf.
MAX_NAME = 60
THEMES = ("auto", "light", "dark")
#: What comes first on a tablet beside a saw.
BENCH_PLACES = ("sheet", "log")


def machines_of(request: Request) -> MachineStore:
    """The store of this application; in a shared shop it notes who changes something."""
    store: PostgresMachines = request.app.state.machines
    bearer = bearer_in(request)
    return store if bearer is None else store.by(bearer.name)


Machines = Annotated[MachineStore, Depends(machines_of)]


def catalog_of(request: Request) -> Catalog:
    """The shipped lists and what lies on this shop's shelf, read once for a request."""
    known: Catalog | None = getattr(request.state, "catalog", None)
    if known is None:
        shelf: Shelf = request.app.state.shelf
        known = request.state.catalog = shop_catalog(shelf)
    return known


async def form_of(request: Request) -> FormData:
    """The posted form; reading it is the only thing done outside the thread pool."""
    return await request.form(max_files=1, max_fields=200)


Posted = Annotated[FormData, Depends(form_of)]


class Turned(BaseModel):
    """What an address says of where a page is turned to."""

    plan: int = Field(0, ge=0, le=20)
    at: str = Field("", max_length=20)
    show: str = Field("", max_length=60)
    clear: int = Field(0, ge=0, le=1)
    turned_to: str = Field("", alias="in", max_length=20)
    pick: str = Field("", max_length=60)
    wish: str = Field("", max_length=300)
    together: int = Field(0, ge=0, le=1)


def selection_of(said: Annotated[Turned, Query()]) -> Selection:
    """What the page is turned to, from its address; a former address names its place where a part stands now."""
    turned_to, at = said.turned_to, said.at
    if place_of(turned_to) is None:
        turned_to, at = (at, "") if place_of(at) is not None else (FIRST_PLACE, at)
    return Selection(
        plan=said.plan,
        at=at,
        figure=said.show,
        clear=bool(said.clear),
        place=turned_to,
        pick=said.pick,
        wish=said.wish,
        together=bool(said.together),
    )


Selected = Annotated[Selection, Depends(selection_of)]


@router.get("/")
def shop_floor(request: Request, machines: Machines, person: AnyPerson, removed: str = "") -> Response:
    """All machines as cards."""
    found = machines.all()
    cards = [floor_card(stored, person.units) for stored in found]
    gone = removed_rows(machines.removed())
    offered = bool(cards) and TOUR_COOKIE not in request.cookies
    values = {
        "person": person,
        "cards": cards,
        "removed": removed,
        "gone": gone,
        "tour_offered": offered,
        **menu(person),
    }
    return render(request, "pages/shop.html", values)


@router.get("/new")
def new_page(request: Request, person: AnyPerson) -> Response:
    """Three ways to begin a machine, and a gallery of what it does."""
    starters: PostgresStarters = request.app.state.starters
    own = [(one.id, one.name) for one in starters.all() if one.part == "machine"]
    # who begins a machine will search soon: what that takes is made ready meanwhile
    request.app.state.searcher.prepared(0)
    values = {"person": person, "gallery": gallery(), "troubles": TROUBLES, "starters": own, **menu(person)}
    return render(request, "pages/new.html", values)


@router.get("/methods")
def methods(request: Request, person: AnyPerson) -> Response:
    """Formulas, tables and checks with their sources."""
    return render(request, "pages/methods.html", {"person": person, "chapters": handbook_view(), **menu(person)})


@router.get("/find", dependencies=HEAVY)
def find(
    request: Request, machines: Machines, person: AnyPerson, selection: Selected, machine: str = ""
) -> list[Destination]:
    """Everything that can be gone to by its name, from a machine's page or from none."""
    context = None
    if machine:
        context = Context(machines.get(machine), replace(selection, place=FIRST_PLACE), person.units)
    return destinations(machines.all(), context)


def menu(person: Person) -> dict[str, Any]:
    """What the menu of units and theme is drawn with."""
    choices = {"unit_choices": UNIT_CHOICES, "themes": THEMES, "units": person.units}
    return {**choices, "first_places": BENCH_PLACES if person.preferences.at_bench else ()}


def _page(request: Request, stored: StoredMachine, selection: Selection, person: Person) -> Response:
    """The page of a machine, whole or as the fragment that a change swaps in."""
    saved_at = stored.updated_at.astimezone().strftime("%H:%M")
    shelf: Shelf = request.app.state.shelf
    later = request.headers.get("x-remedies") == "later"
    state = request.app.state
    helpers = Helpers(
        searcher=state.searcher,
        quotes=state.quotes,
        making=state.making,
        shop=state.shop,
        photos=state.photos,
        claims=lambda: claims_of(
            (one for one in machines_of(request).all() if one.id != stored.id), catalog_of(request)
        ),
        former=lambda: before_last_change(machines_of(request), stored.id),
        revisions=state.revisions,
        patience_s=state.patience_s,
    )
    context = Context(stored, selection, person.units, shelf, remedies_later=later, helpers=helpers)
    context.lists = lambda: catalog_of(request)
    view = page_view(context, saved_at)
    name = "partials/_machine.html" if request.headers.get("x-fragment") == "1" else "pages/machine.html"
    tour = tour_step(stored.id, context.selection.place, request.query_params.get("tour", ""))
    return render(request, name, {"person": person, "view": view, "tour": tour, **menu(person)})


def change_from(form: FormData) -> Change:
    """The change a form asks for: ``set:PATH``, ``json:PATH`` and at most one operation."""
    texts = [(key, value) for key, value in form.multi_items() if isinstance(value, str)]
    values = dict(texts)

    def part(prefix: str) -> dict[str, str]:
        return {key.removeprefix(prefix): value for key, value in texts if key.startswith(prefix)}

    return Change(
        sets=part("set:"),
        replacements=part("json:"),
        operation=values.get("operation", ""),
        plan=_whole(values, "plan"),
        index=_whole(values, "index"),
        kind=values.get("kind", ""),
        label="".join(char for char in values.get("label", "")[:120] if char.isprintable()),
        seen=part("was:"),
        shape=values.get("shape", ""),
        part=values.get("part", ""),
        by=values.get("by", ""),
        question=values.get("question", "") == "yes",
    )


def _whole(values: dict[str, str], name: str) -> int:
    return whole_number(name, values.get(name, "0"))


def whole_number(name: str, written: str) -> int:
    """A whole number as a form sends it. Raises InputErrors."""
    if not written.isdecimal() or len(written) > 9:
        raise InputErrors([InputError(name, written, say("is not a whole number"))])
    return int(written)


@router.post("/machines/{machine_id}/edit", dependencies=HEAVY)
def edit_machine(
    request: Request, machine_id: str, machines: Machines, person: SurePerson, selection: Selected, form: Posted
) -> Response:
    """Apply a change; answer with the new fragment, or send a plain form back to the page."""
    change = replace(change_from(form), together=selection.together)
    if person.bearer is not None:
        change = replace(change, by=person.bearer.name)
    shop: PostgresShop = request.app.state.shop
    change = shop.get().adds(change)
    stored = edit(machines, machine_id, version_of(form), change, person.units, catalog=catalog_of(request))
    return _answer(request, stored, _after(selection, change, stored), person)


@router.post("/machines/{machine_id}/history/undo", dependencies=HEAVY)
def undo(
    request: Request, machine_id: str, machines: Machines, person: SurePerson, selection: Selected, form: Posted
) -> Response:
    """Take back the last change."""
    return _answer(request, machines.step(machine_id, version_of(form), -1), selection, person)


@router.post("/machines/{machine_id}/history/redo", dependencies=HEAVY)
def redo(
    request: Request, machine_id: str, machines: Machines, person: SurePerson, selection: Selected, form: Posted
) -> Response:
    """Make the change again that was taken back last."""
    return _answer(request, machines.step(machine_id, version_of(form), 1), selection, person)


def version_of(form: FormData) -> int:
    """The version that a form was drawn for."""
    return _whole(_texts(form), "version")


def _texts(form: FormData) -> dict[str, str]:
    return {key: value for key, value in form.multi_items() if isinstance(value, str)}


def _after(selection: Selection, change: Change, stored: StoredMachine) -> Selection:
    """Where the page is turned after an operation: to what was added, away from what was removed."""
    if change.operation == "add_link":
        return replace(selection, at=f"link-{change.index + 1}", figure="")
    if change.operation == "copy_link":
        return replace(selection, at=f"link-{change.index + 2}", figure="")
    if change.operation == "move_link":
        place = moved_to(change, len(stored.machine.plans[change.plan].links))
        return replace(selection, at=f"link-{place + 1}", figure="")
    if change.operation in ("duplicate_plan", "add_plan"):
        return replace(selection, plan=len(stored.machine.plans) - 1, figure="")
    if change.operation == "pick_plan":
        return replace(selection, plan=0, at="", figure="")
    if change.operation in ("remove_link", "swap_link"):
        return replace(selection, at="" if change.operation == "remove_link" else selection.at, figure="")
    return replace(selection, plan=0, at="", figure="") if change.operation == "remove_plan" else selection


def _answer(request: Request, stored: StoredMachine, selection: Selection, person: Person) -> Response:
    if request.headers.get("x-fragment") == "1":
        return _page(request, stored, selection, person)
    return RedirectResponse(selection.within(stored.id, len(stored.machine.plans)).to(), 303)


class Beginning(BaseModel):
    """How a person begins a machine."""

    name: str = Field("", max_length=200)
    kind: str = Field("", max_length=40)
    begin: Begin = "know"
    trouble: list[str] = Field(default_factory=list, max_length=len(TROUBLES))


@router.post("/machines")
def new_machine(
    request: Request, machines: Machines, person: SurePerson, asked: Annotated[Beginning, Form()]
) -> Response:
    """A machine with the worksheet of its kind, or a blank one; starting values only where it is still to be built."""
    troubles = [one for one in asked.trouble if one in TROUBLES]
    shop: PostgresShop = request.app.state.shop
    machine = shop.get().begins(begun(asked.name.strip(), asked.kind, asked.begin, troubles, person.units))
    searcher: Searcher = request.app.state.searcher
    searcher.prepared(0)
    place = "need" if asked.begin == "know" else "source"
    return RedirectResponse(f"/machines/{machines.create(machine).id}/{place}", 303)


@router.post("/machines/import")
def import_machine(
    request: Request, machines: Machines, person: SurePerson, file: Annotated[UploadFile, File()]
) -> Response:
    """A machine from its JSON file; where one of its name stands already, the person says what is meant."""
    text_given = file.file.read()
    machine = read_machine(_json_of(text_given, file.filename or ""), person.units, catalog_of(request))
    match = same_named(machine, machines.all())
    if match is None:
        return RedirectResponse(f"/machines/{machines.create(machine).id}", 303)
    view = import_view(machine, match, person.units)
    values = {"person": person, "view": view, "document": machine.model_dump_json(), **menu(person)}
    return render(request, "pages/import.html", values)


def _json_of(given: bytes | str, name: str) -> object:
    try:
        return json.loads(given.decode("utf-8-sig") if isinstance(given, bytes) else given)
    except (ValueError, RecursionError) as error:
        raise InputErrors([InputError(say("File"), name, say("is not a JSON file"))]) from error


@router.post("/machines/import/decided")
def decide_import(
    request: Request,
    machines: Machines,
    person: SurePerson,
    document: Annotated[str, Form(max_length=MAX_BYTES)],
    machine_id: Annotated[str, Form(max_length=60)] = "",
    version: Annotated[int, Form(ge=0, le=2**31 - 1)] = 0,
) -> Response:
    """Keep both, or let the file be the next state of the machine that is there, which undo takes back."""
    machine = read_machine(_json_of(document, ""), person.units, catalog_of(request))
    if machine_id:
        stored = machines.save(machine_id, version, machine, say("Replaced by a file"))
    else:
        stored = machines.create(machine)
    return RedirectResponse(f"/machines/{stored.id}", 303)


@router.get("/machines/{machine_id}/file")
def export_machine(machine_id: str, machines: Machines) -> Response:
    """The machine as a JSON file; one that cannot be read as it is stored, so that nothing of it is lost."""
    try:
        document: object = machines.get(machine_id).machine.model_dump(mode="json")
    except UnreadableDocument:
        document = machines.document(machine_id)
    body = json.dumps(document, indent=2, ensure_ascii=False) + "\n"
    headers = {"content-disposition": f'attachment; filename="{file_name(name_of(document))}"'}
    return Response(body, media_type="application/json", headers=headers)


@router.post("/machines/{machine_id}/quotes")
def ask_for_quotes(request: Request, machine_id: str, machines: Machines, person: SurePerson, form: Posted) -> Response:
    """Ask the price service for what a plan must buy; the page does not wait for it."""
    machine, plan = machines.get(machine_id).machine, _whole(_texts(form), "plan")
    if plan >= len(machine.plans):
        raise HTTPException(404)
    pieces = whole_bill(machine.plans[plan], catalog_of(request))
    names = tuple(dict.fromkeys(piece.designation for piece in pieces if piece.designation and not piece.owned))
    fetch, quotes = request.app.state.prices.fetch, request.app.state.quotes
    thread = Thread(target=ask, args=(names, fetch, quotes), daemon=True)
    thread.start()
    thread.join(QUOTES_SOON_S)
    return RedirectResponse(Selection(plan=plan, place="sheet", machine_id=machine_id).to(), 303)


@router.get("/machines/{machine_id}/parts.{kind}")
def parts_list(
    request: Request,
    machine_id: str,
    kind: Literal["csv", "xlsx"],
    machines: Machines,
    person: AnyPerson,
    plan: int = 0,
) -> Response:
    """The parts list of a plan as a file."""
    machine = machines.get(machine_id).machine
    if not 0 <= plan < len(machine.plans):
        raise HTTPException(404)
    pieces = whole_bill(machine.plans[plan], catalog_of(request))
    rows = [part_line(piece, person.units) for piece in pieces]
    body, media = (parts_csv(rows), CSV) if kind == "csv" else (parts_workbook(rows), WORKBOOK)
    name = file_name(machine.name).removesuffix(".pulltide.json")
    headers = {"content-disposition": f'attachment; filename="{name}-parts.{kind}"'}
    return Response(body, media_type=media, headers=headers)


@router.post("/machines/{machine_id}/duplicate")
def duplicate_machine(machine_id: str, machines: Machines, person: SurePerson) -> Response:
    """A copy of a machine, with a run log of its own: what was read on the one was not read on the other."""
    copy = machines.create(copy_of(machines.get(machine_id).machine))
    return RedirectResponse(f"/machines/{copy.id}", 303)


@router.post("/machines/{machine_id}/remove")
def remove_machine(machine_id: str, machines: Machines, person: SurePerson, form: Posted) -> Response:
    """Take a machine off the floor, as it was seen; the floor then offers to put it back."""
    machines.remove(machine_id, version_of(form) or None)
    return RedirectResponse(f"/?removed={machine_id}", 303)


@router.post("/machines/{machine_id}/put-back")
def put_back_machine(machine_id: str, machines: Machines, person: SurePerson) -> Response:
    """Undo a removal."""
    machines.put_back(machine_id)
    return RedirectResponse("/", 303)


@router.post("/machines/{machine_id}/shelf")
def put_on_shelf(request: Request, machine_id: str, machines: Machines, person: SurePerson, form: Posted) -> Response:
    """Put the source of a plan, or the unit of one of its stages, on the shop's shelf."""
    texts, plan = _texts(form), _whole(_texts(form), "plan")
    machine, name, stage = machines.get(machine_id).machine, texts.get("name", "").strip(), texts.get("stage", "")
    if not 1 <= len(name) <= MAX_NAME:
        raise InputErrors(
            [
                InputError(
                    say("Name on the shelf"),
                    name[:80],
                    say("is not usable"),
                    accepted=say("1 to {max_name}", max_name=MAX_NAME),
                )
            ]
        )
    unusable = why_unusable(name, is_name=True)
    if unusable:
        raise InputErrors([InputError(say("Name on the shelf"), "", unusable)])
    use = kept_part(machine, plan, _whole(texts, "stage") if stage else None, name)
    request.app.state.shelf.put(use.part, name, use.data.model_dump(mode="json"))
    place, at = ("train", f"link-{stage}") if stage else ("source", "")
    return RedirectResponse(Selection(plan=plan, at=at, place=place, machine_id=machine_id).to(), 303)


@router.post("/shelf/{item_id}/remove")
def take_off_shelf(request: Request, item_id: str, person: SurePerson, form: Posted) -> Response:
    """Take something off the shelf for good."""
    request.app.state.shelf.remove(item_id)
    return RedirectResponse(back_to(_texts(form).get("back", "/")), 303)


@router.post("/preferences")
def keep_preferences(request: Request, person: SurePerson, form: Posted) -> Response:
    """Units and theme of this person."""
    texts = _texts(form)
    try:
        units = Units.model_validate({name: texts.get(name, getattr(person.units, name)) for name in UNIT_CHOICES})
    except ValidationError as error:
        raise InputErrors([InputError(say("Units"), str(texts)[:60], say("are not offered"))]) from error
    theme = texts.get("theme", person.preferences.theme)
    at_bench = texts.get("bench", "yes" if person.preferences.at_bench else "no") == "yes"
    kept = Preferences(units, theme if theme in THEMES else "auto", at_bench)
    request.app.state.people.keep(person.key, kept)
    return RedirectResponse(back_to(texts.get("back", "/")), 303)


def back_to(back: str) -> str:
    r"""The page a form came from, or the shop floor where that is not one of ours.

    >>> back_to("/stock?list=x"), back_to("//elsewhere"), back_to("/\\elsewhere"), back_to("https://elsewhere")
    ('/stock?list=x', '/', '/', '/')
    """
    ours = back.startswith("/") and not back.startswith(("//", "/\\")) and back.isprintable()
    return back[:400] if ours else "/"


@router.get("/healthz")
def health(request: Request) -> Response:
    """Whether the database answers."""
    with request.app.state.engine.connect() as connection:
        connection.execute(text("SELECT 1"))
    return JSONResponse({"status": "ok"})


@router.get("/favicon.ico")
def favicon() -> Response:
    """Browsers ask for it whatever the page says."""
    return RedirectResponse("/static/img/mark.svg", 308)


@router.get("/robots.txt")
def robots() -> Response:
    """Nothing here is for crawlers."""
    return PlainTextResponse("User-agent: *\nDisallow: /\n")


@router.get("/machines/{machine_id}")
def former_address(request: Request, machine_id: str, person: AnyPerson, selection: Selected) -> Response:
    """A machine opens at its train, at the bench at its sheet; a former address leads to the place in its query."""
    if person.preferences.at_bench and not request.url.query:
        selection = replace(selection, place=BENCH_PLACES[0])
    return RedirectResponse(replace(selection, machine_id=machine_id).to(), 307)


@router.get("/machines/{machine_id}/with-part")
def with_part(machine_id: str, selection: Selected, part: Annotated[str, Query(max_length=60)] = "") -> Response:
    """The ways that hold a part of any list, by its name; without a name, all ways."""
    others = [one for one in selection.wish.split(";") if one and not one.startswith("use:")]
    name = " ".join(part.replace(";", " ").split())
    wish = ";".join([*others, f"use:{name}"] if name else others)
    return RedirectResponse(replace(selection, place="ways", wish=wish, machine_id=machine_id).to(), 303)


@router.get("/machines/{machine_id}/with-speeds")
def with_speeds(
    machine_id: str, person: AnyPerson, selection: Selected, speeds: Annotated[str, Query(max_length=80)] = ""
) -> Response:
    """The ways that give further speeds too, in any unit; without any, all ways. What cannot be read is said there."""
    try:
        given = ",".join(f"{speed:g}" for speed in speeds_from(speeds, person.units))
    except InputErrors:
        given = speeds.replace(";", ",")
    others = [one for one in selection.wish.split(";") if one and not one.startswith("speeds:")]
    wish = ";".join([*others, f"speeds:{given}"] if given else others)
    return RedirectResponse(replace(selection, place="ways", wish=wish, machine_id=machine_id).to(), 303)


@router.get("/machines/{machine_id}/{place}", dependencies=HEAVY)
def machine_page(
    request: Request, machine_id: str, place: str, machines: Machines, person: AnyPerson, selection: Selected
) -> Response:
    """One place of a machine, whole or as a fragment."""
    if place_of(place) is None:
        raise HTTPException(404)
    return _page(request, machines.get(machine_id), replace(selection, place=place), person)
