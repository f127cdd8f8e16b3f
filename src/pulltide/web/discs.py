"""Loose parts: hole circles, crank discs, cams and motor bases, by their sizes alone, as drawings and files."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, HTTPException, Request
from starlette.responses import Response

from pulltide.core.errors import InputErrors
from pulltide.core.made.discs import LOOSE, Disc, LooseKind, loose_part
from pulltide.core.made.profile import MakingProfile
from pulltide.presentation.paper.pdf_file import Size
from pulltide.presentation.paper.wheel_file import (
    WHEEL_KINDS,
    Look,
    WheelKind,
    WheelPaper,
    shapes_offered,
    wheel_file,
    wheel_paper,
)
from pulltide.quantities import Units
from pulltide.services.typed import record_from
from pulltide.web.forms import FormField, record_field
from pulltide.web.pages import menu
from pulltide.web.person import AnyPerson
from pulltide.web.room import room
from pulltide.web.templating import render
from pulltide.words import error_text, say, worded

router = APIRouter(include_in_schema=False)
FIRST = "hole_circle"
#: No value is longer.
LONGEST = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class DiscView:
    """The page: kinds to choose from, the form, and the part with its files, or what is wrong."""

    kinds: tuple[tuple[str, str, bool], ...]
    kind: str
    title: str
    fields: tuple[FormField, ...]
    fault: str
    paper: WheelPaper | None
    files: tuple[tuple[str, str], ...]


def _kind(request: Request) -> tuple[str, LooseKind]:
    name = request.query_params.get("part", FIRST)
    if name not in LOOSE:
        raise HTTPException(404)
    return name, LOOSE[name]


def _typed(request: Request, kind: LooseKind) -> dict[str, str]:
    """What was typed, as far as the part has such a field."""
    given = ((name, request.query_params.get(f"set:{name}", "")) for name in kind.model.model_fields)
    return {name: value[:LONGEST] for name, value in given if value and name != "kind"}


def _made(request: Request, kind: LooseKind, units: Units) -> Disc:
    return record_from(kind.model, _typed(request, kind), units)


@router.get("/discs", dependencies=[Depends(room)])
def discs(request: Request, person: AnyPerson) -> Response:
    """A loose part: its form and its drawing."""
    name, kind = _kind(request)
    typed, profile = _typed(request, kind), request.app.state.making.get()
    fault, paper, made = "", None, None
    try:
        made = record_from(kind.model, typed, person.units)
        paper = wheel_paper(
            loose_part(made),
            (say("Loose part"), worded(kind.title), say("made to size")),
            person.units,
            Look(profile=profile),
        )
    except InputErrors as refused:
        fault = error_text(refused)
    fields = tuple(
        record_field(
            kind.model,
            field,
            getattr(made, field) if made else None,
            person.units,
            None if made else typed.get(field, ""),
        )
        for field in kind.model.model_fields
        if field != "kind"
    )
    view = DiscView(
        kinds=tuple((one, worded(each.title), one == name) for one, each in LOOSE.items()),
        kind=name,
        title=worded(kind.title),
        fields=fields,
        fault=fault,
        paper=paper,
        files=_files(name, typed, profile, made),
    )
    status = 422 if fault else 200
    return render(request, "pages/discs.html", {"person": person, "view": view, **menu(person)}, status)


def _files(name: str, typed: dict[str, str], profile: MakingProfile, made: Disc | None) -> tuple[tuple[str, str], ...]:
    """Words and address of every file."""
    if made is None:
        return ()
    query = urlencode({"part": name, **{f"set:{field}": value for field, value in typed.items()}})
    found = [(kind.upper(), f"/discs.{kind}?{query}") for kind in WHEEL_KINDS if kind != "pdf"]
    if "kerf" in shapes_offered(loose_part(made), profile):
        found += [(say("DXF, kerf allowed"), f"/discs.dxf?{query}&shape=kerf")]
    return (*found, *((say("PDF, {size}", size=size), f"/discs.pdf?{query}&size={size}") for size in ("Letter", "A4")))


@router.get("/discs.{file_kind}", dependencies=[Depends(room)])
def disc_file(
    request: Request,
    file_kind: WheelKind,
    person: AnyPerson,
    size: Size = "Letter",
    shape: Literal["drawn", "kerf"] = "drawn",
) -> Response:
    """A loose part as a file of a kind."""
    _, kind = _kind(request)
    wheel = loose_part(_made(request, kind, person.units))
    look = Look(size=size, profile=request.app.state.making.get(), shape=shape)
    paper = wheel_paper(wheel, (say("Loose part"), worded(kind.title), say("made to size")), person.units, look)
    body = wheel_file(wheel, file_kind, paper)
    name = kind.title.lower().replace(" ", "-")
    headers = {"content-disposition": f'attachment; filename="{name}.{file_kind}"'}
    return Response(body, media_type=WHEEL_KINDS[file_kind], headers=headers)
