"""The JSON interface to the shelf and the shop's own lists: look through, take a file in, write one out."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from fastapi import APIRouter, Depends, HTTPException, Query, Request, Response
from pydantic import BaseModel, Field

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.holding import Holding
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.lists.look import Look, look
from pulltide.services.lists.sheet import RefusedFile
from pulltide.services.lists.taking import merged, report
from pulltide.services.lists.writing import as_csv, as_workbook
from pulltide.services.stock import SHELF, StockItem
from pulltide.web.api import HEAVY, REFUSED, JsonBody, json_body
from pulltide.web.api_calls import OnceRoute
from pulltide.web.stock import MAX_WRITTEN, list_name_of, part_from, stock_of

router = APIRouter(prefix="/api/v1", tags=["v1"], route_class=OnceRoute)
WORKBOOK = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
#: Types of a list that is sent, and the name it is read by. A page of another site cannot send either unasked.
KINDS = {"text/csv": "list.csv", WORKBOOK: "list.xlsx"}
#: A part as a program may send it.
PART: dict[str, Any] = {
    "family": "v_pulley",
    "designation": "from the old mixer",
    "section": "A",
    "outside_mm": "3 1/2 in",
    "grooves": 1,
    "on_hand": 2,
    "condition": "used_good",
}
LIST_BODY: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {
            kind: {"schema": {"type": "string", "format": "binary"}, "example": "Kind,Name,Section,On hand\n"}
            for kind in KINDS
        },
    }
}


class ListSummary(BaseModel):
    """A list, by its name; the shelf is one of them."""

    name: str
    parts: int


class KeptPart(BaseModel):
    """A part of a list."""

    id: str
    part: Holding


class PartsPage(BaseModel):
    """Some of the parts that were asked for, and how many there are in all."""

    total: int
    parts: list[KeptPart]


class Asked(BaseModel):
    """Which parts of a list: those whose name or note holds a text, of one kind, from where, how many at most."""

    find: str = Field("", max_length=60)
    family: str = Field("", max_length=20)
    start: int = Field(0, ge=0, le=1_000_000)
    most: int = Field(100, ge=1, le=1000)


class Way(BaseModel):
    """How a list is taken in: only looked at, rows that cannot be read left out, in place of what stood there."""

    dry_run: bool = False
    leave_out: bool = False
    afresh: bool = False
    twice: Literal["first", "add"] = "first"
    family: str = Field("", max_length=20)


async def sent_list(request: Request) -> tuple[str, bytes]:
    """Name by which it is read, and content of a list that is sent as it is."""
    kind = request.headers.get("content-type", "").partition(";")[0].strip().lower()
    if kind not in KINDS:
        raise InputErrors([InputError("Content-Type", kind, "is no list", accepted=" or ".join(KINDS))])
    return KINDS[kind], await request.body()


SentList = Annotated[tuple[str, bytes], Depends(sent_list)]


def _kept(item: StockItem) -> KeptPart:
    return KeptPart(id=item.id, part=item.holding)


@router.get("/lists", responses=REFUSED)
def lists(request: Request) -> list[ListSummary]:
    """Every list with the number of its parts; the shelf first."""
    counts = dict(stock_of(request).lists())
    shelf = counts.pop(SHELF, 0)
    return [ListSummary(name=name, parts=parts) for name, parts in ((SHELF, shelf), *sorted(counts.items()))]


@router.get("/lists/{name}", responses=REFUSED)
def list_parts(request: Request, name: str, asked: Annotated[Asked, Query()]) -> PartsPage:
    """Parts of a list, some at a time."""
    page = stock_of(request).page(list_name_of(name), asked.find, asked.family, asked.start, asked.most)
    return PartsPage(total=page.total, parts=[_kept(item) for item in page.items])


@router.get("/lists/{name}/file.{kind}", responses=REFUSED)
def list_file(request: Request, name: str, kind: Literal["csv", "xlsx"]) -> Response:
    """A whole list as CSV or as a workbook."""
    items = stock_of(request).page(list_name_of(name), "", "", 0, MAX_WRITTEN).items
    holdings = [item.holding for item in items]
    if kind == "csv":
        return Response(as_csv(holdings), media_type="text/csv; charset=utf-8")
    return Response(as_workbook(holdings), media_type=WORKBOOK)


@router.post("/lists/{name}", responses=REFUSED, openapi_extra=LIST_BODY, dependencies=HEAVY)
def take_list(request: Request, name: str, sent: SentList, way: Annotated[Way, Query()]) -> dict[str, Any]:
    """Take a list in, all of it or nothing; with ``dry_run`` only say what it holds, as ``pulltide list``."""
    stock, list_name = stock_of(request), list_name_of(name)
    found = _looked(sent, stock.said_of(list_name), way.family)
    if way.dry_run:
        return report(found)
    if found.refused and not way.leave_out:
        raise InputErrors([InputError(f"Line {one.line}, {one.column}", "", one.why) for one in found.faults[:20]])
    kept = stock.put(list_name, merged(found, way.twice), afresh=way.afresh)
    return {"added": kept.added, "updated": kept.updated, "left_out": len(found.refused)}


def _looked(sent: tuple[str, bytes], said: Any, family: str) -> Look:
    called, content = sent
    try:
        return look(content, called, said=said, family=family)
    except RefusedFile as refused:
        raise InputErrors([InputError("List", "", f"cannot be read: {refused}")]) from refused


@router.post("/lists/{name}/parts", status_code=201, responses=REFUSED, openapi_extra=json_body(PART))
def keep_part(request: Request, name: str, body: JsonBody) -> dict[str, int]:
    """Put one part on a list; one of the same kind, name and condition is replaced."""
    if not isinstance(body, dict):
        raise InputErrors([InputError("Body", "", "is not a JSON object")])
    holding = part_from({key: str(value) for key, value in body.items() if value is not None}, DEFAULT_UNITS)
    kept = stock_of(request).put(list_name_of(name), [holding])
    return {"added": kept.added, "updated": kept.updated}


@router.delete("/lists/parts/{part_id}", responses=REFUSED)
def remove_part(request: Request, part_id: str) -> KeptPart:
    """Take a part off its list; the answer is what it was."""
    stock = stock_of(request)
    item = stock.get(part_id)
    if item is None:
        raise HTTPException(404)
    stock.remove(part_id)
    return _kept(item)
