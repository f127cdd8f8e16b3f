"""The page "Keeping": backups of the shop, and all its machines as one archive, out and in."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from tempfile import TemporaryFile
from typing import Annotated, Any

from fastapi import APIRouter, File, Request, UploadFile
from sqlalchemy import text
from starlette.background import BackgroundTask
from starlette.responses import RedirectResponse, Response, StreamingResponse

from pulltide.core.errors import InputError, InputErrors
from pulltide.services.archive import NoArchive, Picture, Taken, pack, unpacked
from pulltide.services.machines import MachineStore, StoredMachine
from pulltide.services.matching import same_named
from pulltide.services.photos import Photos, cleaned
from pulltide.services.raw_machines import read_machine
from pulltide.store.dumps import Dump, DumpFailed, Dumps
from pulltide.web.pages import Machines, catalog_of, menu
from pulltide.web.person import AnyPerson, SurePerson
from pulltide.web.photo_pages import photos_of
from pulltide.web.templating import render
from pulltide.words import error_text, say

router = APIRouter(include_in_schema=False)

#: An archive is sent in pieces of so many bytes; so many photos of one are drawn anew while a person waits.
CHUNK, MAX_READ_PHOTOS = 1 << 16, 600
#: Why a dump was made, in words.
REASONS = {"asked": "asked for", "before-upgrade": "before an upgrade", "before-fresh": "before starting afresh"}


@router.get("/keeping")
def keeping(request: Request, machines: Machines, person: AnyPerson) -> Response:
    """Backups, sizes, and what to do with them."""
    return _page(request, machines, person)


def _page(request: Request, machines: Machines, person: AnyPerson, **more: Any) -> Response:
    dumps: Dumps | None = request.app.state.dumps
    listed = dumps.listed() if dumps is not None else ()
    with request.app.state.engine.connect() as connection:
        size = connection.execute(text("SELECT pg_database_size(current_database())")).scalar() or 0
    values = {
        "person": person,
        "dumps": [_row(dump) for dump in listed],
        "may_back_up": dumps is not None,
        "last": _when(listed[0].made_at) if listed else "",
        "folder": str(dumps.folder) if dumps is not None else "",
        "count": len(machines.all()),
        "off_floor": len(machines.removed()),
        "size": _size(size),
        "hook": request.app.state.hook.address,
        "sent": [
            (_when(datetime.fromisoformat(one.happened.at)), one.happened.label, one.came)
            for one in request.app.state.hook.deliveries
        ],
        "failed": "",
        "read": None,
        **menu(person),
        **more,
    }
    return render(request, "pages/keeping.html", values)


def _row(dump: Dump) -> dict[str, str]:
    whole = dump.is_whole
    return {
        "name": dump.file.name,
        "when": _when(dump.made_at),
        "size": _size(dump.size_bytes),
        "reason": say(REASONS.get(dump.reason, dump.reason)),
        "state": "clear" if whole else "fix",
        "condition": "whole" if whole else say("changed since it was made: do not rely on it"),
    }


def _when(moment: datetime) -> str:
    return moment.astimezone().strftime("%b %-d, %Y, %H:%M")


def _size(count: int) -> str:
    """A size for reading.

    >>> _size(900), _size(48_200), _size(7_340_000)
    ('900 bytes', '48 kB', '7.3 MB')
    """
    if count < 1000:
        return say("{count} bytes", count=count)
    return (
        say("{count:.0f} kB", count=count / 1000)
        if count < 1_000_000
        else say("{count:.1f} MB", count=count / 1_000_000)
    )


@router.post("/keeping/backup")
def back_up(request: Request, machines: Machines, person: SurePerson) -> Response:
    """Make a backup now."""
    dumps: Dumps | None = request.app.state.dumps
    if dumps is None:
        return _page(request, machines, person, failed=say("This server was started without a folder for backups."))
    try:
        dumps.make("asked")
    except DumpFailed as error:
        return _page(request, machines, person, failed=error_text(error))
    return RedirectResponse("/keeping", 303)


@router.get("/keeping/machines.zip")
def all_machines(request: Request, machines: Machines) -> Response:
    """Every machine on the floor as its file, with its photos, in one archive; one that cannot be read as stored."""
    made = TemporaryFile()  # noqa: SIM115 closed once it is sent
    pack(made, _to_pack(machines, photos_of(request)))
    size = made.tell()
    made.seek(0)
    headers = {"content-disposition": 'attachment; filename="machines.pulltide.zip"', "content-length": str(size)}
    parts = iter(lambda: made.read(CHUNK), b"")
    return StreamingResponse(parts, 200, headers, "application/zip", BackgroundTask(made.close))


def _to_pack(machines: MachineStore, photos: Photos) -> Iterator[tuple[str, object, Iterator[Picture]]]:
    for stored in machines.all():
        pictures = _pictures(photos, stored.id)
        if isinstance(stored, StoredMachine):
            yield stored.machine.name, stored.machine.model_dump(mode="json"), pictures
        else:
            yield stored.name, machines.document(stored.id), pictures


def _pictures(photos: Photos, machine_id: str) -> Iterator[Picture]:
    """Its photos as they came, without those taken away."""
    for one in reversed(photos.of(machine_id)):
        if not one.removed:
            yield Picture("", photos.content(machine_id, one.id), one.caption, one.author, one.at)


@router.post("/keeping/read-in")
def read_in(request: Request, machines: Machines, person: SurePerson, file: Annotated[UploadFile, File()]) -> Response:
    """Read every machine of an archive; one already on the floor exactly so is skipped, any other is added."""
    catalog = catalog_of(request)
    floor = list(machines.all())
    added, there, refused = list[str](), list[str](), list[tuple[str, str]]()
    photos, room, kept = photos_of(request), MAX_READ_PHOTOS, 0
    try:
        for taken in unpacked(file.file, lambda raw: read_machine(raw, person.units, catalog)):
            if taken.machine is None:
                refused.append((taken.name, taken.why))
                continue
            match = same_named(taken.machine, floor)
            is_there = match is not None and match.machine == taken.machine
            (there if is_there else added).append(taken.machine.name)
            machine_id = match.id if match is not None and is_there else machines.create(taken.machine).id
            if not photos.of(machine_id):  # what is there already only gets photos where it has none
                tried, without = _keep(photos, machine_id, taken, room)
                room, kept, refused = room - tried, kept + tried - len(without), refused + without
    except NoArchive as error:
        raise InputErrors([InputError(say("File"), file.filename or "", error_text(error))]) from error
    read = {"added": added, "there": there, "refused": refused, "photos": kept}
    return _page(request, machines, person, read=read)


def _keep(photos: Photos, machine_id: str, taken: Taken, room: int) -> tuple[int, list[tuple[str, str]]]:
    """Keep the photos of a machine that was read in, drawn anew; how many were tried, and which not kept, and why."""
    tried, refused = 0, []
    for photo in taken.photos():
        name, tried = say("{name}, photo {photo}", name=taken.name, photo=photo.name), tried + 1
        if tried > room:
            why = say(
                "and the rest are over the {max_read_photos} photos that are read in at once",
                max_read_photos=MAX_READ_PHOTOS,
            )
            refused.append((name, why))
            break
        try:
            photos.keep(machine_id, cleaned(photo.content, photo.name), photo.caption, photo.by, photo.at)
        except InputErrors as error:
            refused.append((name, error.errors[0].reason))
    return tried, refused
