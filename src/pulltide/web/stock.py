"""The pages of the shelf and of the shop's own lists: look through, add by measuring, read in, write out."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from threading import Thread
from typing import Annotated, Any, Literal
from urllib.parse import quote

from fastapi import APIRouter, Depends, File, HTTPException, Query, Request, UploadFile
from pydantic import BaseModel, Field, ValidationError
from starlette.responses import RedirectResponse, Response

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.holding import Holding
from pulltide.core.identify import identify
from pulltide.quantities import Units, show
from pulltide.quantities.reading import NotUnderstood, read_quantity
from pulltide.services.lists.columns import FIELDS
from pulltide.services.lists.taking import Upload, looked_at, taken
from pulltide.services.lists.writing import as_csv, as_workbook
from pulltide.services.stock import SHELF, StockItem
from pulltide.services.texts import why_unusable
from pulltide.services.typed import record_from
from pulltide.store.stock import PostgresStock
from pulltide.web.pages import Machines, Posted, catalog_of, menu
from pulltide.web.person import AnyPerson, SurePerson
from pulltide.web.stock_view import (
    MAX_ON_PAGE,
    UNITS,
    GuessLine,
    address,
    claims_of,
    part_form,
    spoken,
    stock_view,
    title_of,
)
from pulltide.web.stock_view import kinds as part_kinds
from pulltide.web.templating import render
from pulltide.words import error_text, filled, say, worded

router = APIRouter(include_in_schema=False)
#: How long a page waits for a list to be looked at before it shows how far it is [s].
PATIENCE_S = 1.5
MAX_WRITTEN = 60_000


def stock_of(request: Request) -> PostgresStock:
    """The parts of this application."""
    stock: PostgresStock = request.app.state.stock
    return stock


class Asked(BaseModel):
    """Which parts are to be shown."""

    list_name: str = Field(SHELF, alias="list", max_length=60, min_length=1)
    find: str = Field("", max_length=60)
    family: str = Field("", max_length=20)
    start: int = Field(0, ge=0, le=1_000_000)
    part: str = Field("", max_length=36)
    what: Literal["", "v_pulley", "sprocket", "toothed_pulley", "spur_gear"] = ""
    outside: str = Field("", max_length=60)
    second: str = Field("", max_length=60)
    section: str = Field("", max_length=12)


Shown = Annotated[Asked, Query()]
PLAIN = {"typed": {}, "fault": "", "notice": "", "gone": ""}


@router.get("/stock")
def stock_page(request: Request, machines: Machines, person: AnyPerson, asked: Shown) -> Response:
    """A page of a list, with the form of a part."""
    return _page(request, machines, person, asked)


def _page(request: Request, machines: Machines, person: AnyPerson, asked: Asked, **more: Any) -> Response:
    stock = stock_of(request)
    page = stock.page(asked.list_name, asked.find, asked.family, asked.start, MAX_ON_PAGE)
    claims = claims_of(machines.all(), catalog_of(request)) if asked.list_name == SHELF else {}
    said = {"list": asked.list_name, "find": asked.find, "family": asked.family}
    chosen = stock.get(asked.part) if asked.part else None
    values = {**PLAIN, **more}
    guessed, refused = _guessed(asked, person.units)
    raw = values["typed"] or (chosen.holding.model_dump() if chosen else _begun(asked))
    values |= {"guessed": guessed, "guess_fault": refused, "asked": asked}
    view = stock_view(page, said, asked.start, stock.lists(), claims, person.units)
    values |= {"person": person, "view": view, "chosen": chosen, "fields": part_form(raw, person.units), **menu(person)}
    return render(request, "pages/stock.html", values)


def _begun(asked: Asked) -> dict[str, Any]:
    """What the form of a new part starts with: what was measured, where it was."""
    begun: dict[str, Any] = {"on_hand": 1, "family": asked.what or asked.family}
    if asked.what and asked.section:
        measured = {"outside_mm": asked.outside, "section": asked.section}
        begun |= measured | ({"grooves": 1} if asked.what == "v_pulley" else {"teeth": asked.second})
    return begun


#: The largest wheel, groove [mm] and number of teeth that are looked for.
MAX_OUTSIDE_MM, MAX_GROOVE_MM, MIN_TEETH, MAX_TEETH = 5000.0, 100.0, 5, 2000


def _out_of_range(outside_mm: float, second: float, *, length: bool) -> str:
    """Which measure of a wheel cannot be one; ``length``: the second is the width of a groove, not a count."""
    if not 0 < outside_mm <= MAX_OUTSIDE_MM:
        accepted = f"more than 0, up to {{{MAX_OUTSIDE_MM}|mm}}"
        return f"Outside diameter: {{{outside_mm}|mm}} is out of range; accepted: {accepted}."
    if length and not 0 < second <= MAX_GROOVE_MM:
        return f"Groove width: {{{second}|mm}} is out of range; accepted: more than 0, up to {{{MAX_GROOVE_MM}|mm}}."
    if not length and not (MIN_TEETH <= second <= MAX_TEETH and second == int(second)):
        return f"Teeth: {second:g} is out of range; accepted: a whole number from {MIN_TEETH} to {MAX_TEETH}."
    return ""


def _guessed(asked: Asked, units: Units) -> tuple[tuple[GuessLine, ...], str]:
    """What a measured wheel may be, or why that cannot be told."""
    if not asked.what or not asked.outside:
        return (), ""
    try:
        outside = read_quantity(asked.outside, "mm", units.unit_for("mm"))
        length = asked.what == "v_pulley"
        second = read_quantity(asked.second, "mm" if length else "", units.unit_for("mm") if length else "")
    except NotUnderstood as error:
        return (), error_text(error)
    fault = _out_of_range(outside, second, length=length)
    if fault:
        return (), filled(fault, units)
    found = identify(asked.what, outside, second)
    measured = {"what": asked.what, "outside": asked.outside, "second": asked.second}
    lines = tuple(
        GuessLine(
            guess.name,
            str(show(guess.pitch_mm, "mm", units)),
            f"{100 * guess.off:.1f} %",
            address(asked.list_name, **measured, section=guess.name) + "#part",
        )
        for guess in found
    )
    return lines, "" if lines else say("Nothing on the lists comes near: measure again, or enter it as it is.")


def _texts(form: Mapping[str, Any]) -> dict[str, str]:
    return {name: value for name, value in form.items() if isinstance(value, str)}


def _list_name(texts: Mapping[str, str]) -> str:
    return list_name_of(texts.get("list") or "")


def list_name_of(text: str) -> str:
    """A list's name as it is kept, the shelf where none is said. Raises InputErrors for one that cannot be."""
    name = text.strip() or SHELF
    if name.lower() == SHELF:
        return SHELF
    unusable = why_unusable(name, is_name=True)
    if len(name) > 60 or unusable:
        raise InputErrors(
            [InputError(say("List"), name[:80], unusable or say("is too long"), accepted=say("1 to 60 letters"))]
        )
    return name


@router.post("/stock/part")
def keep_part(request: Request, machines: Machines, person: SurePerson, form: Posted) -> Response:
    """Add a part, or change one; a refused one keeps what was typed."""
    texts, stock = _texts(form), stock_of(request)
    list_name, item_id = _list_name(texts), texts.get("id", "")
    typed = {name: texts.get(name, "").strip() for name in FIELDS if texts.get(name, "").strip()}
    kept = stock.get(item_id) if item_id else None
    try:
        holding = part_from(typed | (_exactly(kept.holding, typed, person.units) if kept else {}), person.units)
    except InputErrors as refused:
        asked = Asked.model_validate({"list": list_name, "part": item_id})
        answer = _page(request, machines, person, asked, typed=typed, fault=error_text(refused))
        answer.status_code = 422
        return answer
    if kept is not None:
        stock.change(item_id, holding)
    else:
        stock.put(list_name, [holding])
    return RedirectResponse(address(list_name), 303)


def _exactly(kept: Holding, typed: Mapping[str, str], units: Units) -> dict[str, Any]:
    """The sizes of a part that still read as their fields showed them, with the figures that were not shown."""
    sizes = {name: value for name, value in kept.model_dump().items() if name in UNITS and value is not None}
    shown = {field.name: field.text for field in part_form(sizes, units)}
    return {name: value for name, value in sizes.items() if typed.get(name) == shown[name]}


def part_from(typed: Mapping[str, Any], units: Units) -> Holding:
    """A part out of typed values. Raises InputErrors with every field that is wrong."""
    raw: dict[str, Any] = dict(typed)
    if raw.get("rating", "").lower() in ("unknown", "not known", "?"):
        del raw["rating"]
    if "ratio" in raw:
        raw["ratio"] = raw["ratio"].removesuffix(":1").removesuffix(": 1").strip()
    return record_from(Holding, raw, units)


@router.post("/stock/part/remove")
def remove_part(request: Request, machines: Machines, person: SurePerson, form: Posted) -> Response:
    """Take a part off its list; the page then offers to put it back."""
    texts = _texts(form)
    gone = stock_of(request).remove(texts.get("id", ""))
    asked = Asked.model_validate({"list": _list_name(texts)})
    kept = "" if gone is None else gone.model_dump_json(exclude_none=True)
    return _page(
        request, machines, person, asked, gone=kept, notice=f"{gone.designation} is off the list." if gone else ""
    )


@router.post("/stock/part/put-back")
def put_part_back(request: Request, person: SurePerson, form: Posted) -> Response:
    """Undo a removal."""
    texts = _texts(form)
    try:
        holding = Holding.model_validate_json(texts.get("part", ""))
    except ValidationError as error:
        raise InputErrors([InputError(say("Part"), "", say("cannot be read"))]) from error
    stock_of(request).put(_list_name(texts), [holding])
    return RedirectResponse(address(_list_name(texts)), 303)


@router.post("/stock/clear")
def clear_list(request: Request, person: SurePerson, form: Posted) -> Response:
    """Take every part off a list; only with the list's name typed, since it cannot be taken back."""
    texts = _texts(form)
    name = _list_name(texts)
    if texts.get("sure", "").strip().lower() != title_of(name).lower():
        raise InputErrors(
            [InputError(say("Name of the list"), texts.get("sure", ""), say("does not match"), accepted=title_of(name))]
        )
    stock_of(request).clear(name)
    return RedirectResponse(address(SHELF), 303)


@router.get("/stock/list.csv")
def written_csv(request: Request, asked: Shown) -> Response:
    """A list as CSV."""
    return _file(as_csv(_holdings(request, asked)), "text/csv; charset=utf-8", asked, "csv")


@router.get("/stock/list.xlsx")
def written_workbook(request: Request, asked: Shown) -> Response:
    """A list as a workbook."""
    kind = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    return _file(as_workbook(_holdings(request, asked)), kind, asked, "xlsx")


def _holdings(request: Request, asked: Asked) -> list[Holding]:
    items: tuple[StockItem, ...] = stock_of(request).page(asked.list_name, "", "", 0, MAX_WRITTEN).items
    return [item.holding for item in items]


def _file(body: bytes, kind: str, asked: Asked, ending: str) -> Response:
    name = f"filename*=UTF-8''{quote(title_of(asked.list_name), safe='')}.{ending}"
    return Response(body, media_type=kind, headers={"content-disposition": f"attachment; {name}"})


# -- lists that are read in -------------------------------------------------------------------------------------------


@router.post("/stock/import")
def receive_list(request: Request, person: SurePerson, file: Annotated[UploadFile, File()], form: Posted) -> Response:
    """Take a list to look at it; nothing of it is kept yet."""
    texts, stock = _texts(form), stock_of(request)
    list_name = _list_name(texts)
    upload_id = stock.receive(file.filename or "", list_name, file.file.read())
    family = texts.get("family", "")
    _look(stock, upload_id, stock.said_of(list_name), family if family in part_kinds() else "")
    return RedirectResponse(f"/stock/import/{upload_id}", 303)


def _beside(work: Callable[[], None]) -> None:
    """Do something beside the pages, and wait a little for it: most lists are short."""
    thread = Thread(target=work, daemon=True)
    thread.start()
    thread.join(PATIENCE_S)


def _look(stock: PostgresStock, upload_id: str, said: Mapping[str, str], family: str) -> None:
    upload = stock.received(upload_id)
    if upload is None:
        return
    stock.progress(upload_id, {"stage": "reading", "done": 0, "total": 0})

    def work() -> None:
        looked_at(upload, said, family, lambda state: stock.progress(upload_id, state))

    _beside(work)


def _waiting(request: Request, upload_id: str) -> Upload:
    upload = stock_of(request).received(upload_id)
    if upload is None:
        raise HTTPException(404)
    return upload


Waiting = Annotated[Upload, Depends(_waiting)]


@router.get("/stock/import/{upload_id}")
def look_page(request: Request, person: AnyPerson, upload: Waiting) -> Response:
    """How far it is with a list, or what was found in it."""
    fields = [(name, worded(Holding.model_fields[name].title or name)) for name in FIELDS]
    kinds = [(kind, spoken(kind)) for kind in part_kinds()]
    sample = [(line, spoken(raw["family"]), raw) for line, raw in upload.state.get("sample", ())[:20]]
    values = {
        "person": person,
        "upload": upload,
        "title": title_of(upload.list_name),
        "back": address(upload.list_name),
        "state": upload.state,
        "fields": fields,
        "kinds": kinds,
        "sample": sample,
        **menu(person),
    }
    answer = render(request, "pages/stock_import.html", values)
    if upload.state.get("stage") in ("reading", "storing"):
        answer.headers["refresh"] = "1"
    return answer


@router.post("/stock/import/{upload_id}/match")
def match_again(request: Request, person: SurePerson, upload: Waiting, form: Posted) -> Response:
    """Look again, with the columns as the person says; what was said is remembered for this list."""
    texts, stock = _texts(form), stock_of(request)
    headers = [header for header, *_ in upload.state.get("columns", ())] + list(upload.state.get("unused", ()))
    said = {header: texts.get(f"column:{at}", "") for at, header in enumerate(headers)} or dict(
        upload.state.get("said", {})
    )
    stock.remember(upload.list_name, said)
    family = texts.get("family", "")
    _look(stock, upload.id, said, family if family in part_kinds() else "")
    return RedirectResponse(f"/stock/import/{upload.id}", 303)


@router.post("/stock/import/{upload_id}/take")
def take_list(request: Request, person: SurePerson, upload: Waiting, form: Posted) -> Response:
    """Keep a list that was looked at: all of it or nothing. Rows with a fault go only where that is said."""
    texts, stock = _texts(form), stock_of(request)
    if upload.state.get("stage") != "read":
        raise InputErrors([InputError(say("List"), upload.name, say("is not ready to be taken"))])
    if upload.state.get("refused") and texts.get("rest") != "yes":
        raise InputErrors(
            [
                InputError(
                    say("Rows"),
                    upload.state["refused"],
                    say("cannot be read: mend the file, or say that they may be left out"),
                )
            ]
        )

    def work() -> None:
        taken(
            upload,
            stock,
            twice="add" if texts.get("twice") == "add" else "first",
            afresh=texts.get("afresh") == "yes",
            tell=lambda state: stock.progress(upload.id, state),
        )

    stock.progress(upload.id, {**upload.state, "stage": "storing", "done": 0, "total": upload.state.get("good", 0)})
    _beside(work)
    return RedirectResponse(f"/stock/import/{upload.id}", 303)


@router.post("/stock/import/{upload_id}/forget")
def forget_list(request: Request, person: SurePerson, upload: Waiting) -> Response:
    """A list that is not wanted after all."""
    stock_of(request).forget(upload.id)
    return RedirectResponse(address(upload.list_name), 303)
