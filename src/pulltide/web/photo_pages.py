"""Photos of a machine: taken in, shown, taken away and put back."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, Form, HTTPException, Request, Response, UploadFile
from fastapi.responses import RedirectResponse

from pulltide.core.errors import InputError, InputErrors
from pulltide.services.photos import MAX_LETTERS, cleaned
from pulltide.services.texts import why_unusable
from pulltide.store.photos import PostgresPhotos
from pulltide.web.pages import HEAVY, Machines
from pulltide.web.person import SurePerson
from pulltide.words import say

router = APIRouter(include_in_schema=False)


def photos_of(request: Request) -> PostgresPhotos:
    """Where photos are kept."""
    photos: PostgresPhotos = request.app.state.photos
    return photos


def _number(written: int) -> int:
    if not 0 < written < 2**31:
        raise HTTPException(404)
    return written


@router.get("/machines/{machine_id}/photos/{number}.jpg")
def photo(request: Request, machine_id: str, number: int, machines: Machines) -> Response:
    """One photo; it never changes under its number."""
    machines.document(machine_id)
    return Response(photos_of(request).content(machine_id, _number(number)), media_type="image/jpeg")


@router.post("/machines/{machine_id}/photos", dependencies=HEAVY)
def keep_photo(
    request: Request,
    machine_id: str,
    machines: Machines,
    person: SurePerson,
    file: Annotated[UploadFile, File()],
    caption: Annotated[str, Form(max_length=2 * MAX_LETTERS)] = "",
) -> Response:
    """Take a photo in, without what the camera wrote beside it."""
    machines.document(machine_id)
    text = " ".join(caption.split())
    why = why_unusable(text)
    if why or len(text) > MAX_LETTERS:
        accepted = say("up to {max_letters} characters", max_letters=MAX_LETTERS)
        raise InputErrors([InputError(say("What it shows"), text[:40], why or say("is too long"), accepted=accepted)])
    content = cleaned(file.file.read(), file.filename or "")
    photos_of(request).keep(machine_id, content, text, person.bearer.name if person.bearer is not None else "")
    return RedirectResponse(f"/machines/{machine_id}/log#photos", 303)


@router.post("/machines/{machine_id}/photos/{number}/{step}")
def take_away_or_put_back(
    request: Request, machine_id: str, number: int, step: str, machines: Machines, person: SurePerson
) -> Response:
    """Out of sight, and back again."""
    if step not in ("take-away", "put-back"):
        raise HTTPException(404)
    machines.document(machine_id)
    photos_of(request).set_removed(machine_id, _number(number), step == "take-away")
    return RedirectResponse(f"/machines/{machine_id}/log#photos", 303)
