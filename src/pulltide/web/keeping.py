"""The page "Keeping": backups of the shop, and all its machines as one archive, out and in."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from fastapi import APIRouter, File, Request, UploadFile
from sqlalchemy import text
from starlette.responses import RedirectResponse, Response

from pulltide.core.errors import InputError, InputErrors
from pulltide.services.archive import NoArchive, packed, unpacked
from pulltide.services.machines import StoredMachine
from pulltide.services.matching import same_named
from pulltide.services.raw_machines import read_machine
from pulltide.store.dumps import Dump, DumpFailed, Dumps
from pulltide.web.pages import Machines, catalog_of, menu
from pulltide.web.person import AnyPerson, SurePerson
from pulltide.web.templating import render

router = APIRouter(include_in_schema=False)

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
        "told": [
            (_when(datetime.fromisoformat(one.told.at)), one.told.label, one.came)
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
        "reason": REASONS.get(dump.reason, dump.reason),
        "state": "clear" if whole else "fix",
        "told": "whole" if whole else "changed since it was made: do not rely on it",
    }


def _when(moment: datetime) -> str:
    return moment.astimezone().strftime("%b %-d, %Y, %H:%M")


def _size(count: int) -> str:
    """A size for reading.

    >>> _size(900), _size(48_200), _size(7_340_000)
    ('900 bytes', '48 kB', '7.3 MB')
    """
    if count < 1000:
        return f"{count} bytes"
    return f"{count / 1000:.0f} kB" if count < 1_000_000 else f"{count / 1_000_000:.1f} MB"


@router.post("/keeping/backup")
def back_up(request: Request, machines: Machines, person: SurePerson) -> Response:
    """Make a backup now."""
    dumps: Dumps | None = request.app.state.dumps
    if dumps is None:
        return _page(request, machines, person, failed="This server was started without a folder for backups.")
    try:
        dumps.make("asked")
    except DumpFailed as error:
        return _page(request, machines, person, failed=str(error))
    return RedirectResponse("/keeping", 303)


@router.get("/keeping/machines.zip")
def all_machines(machines: Machines) -> Response:
    """Every machine on the floor as its file, in one archive; one that cannot be read as it is stored."""
    documents: list[tuple[str, object]] = []
    for stored in machines.all():
        if isinstance(stored, StoredMachine):
            documents.append((stored.machine.name, stored.machine.model_dump(mode="json")))
        else:
            documents.append((stored.name, machines.document(stored.id)))
    headers = {"content-disposition": 'attachment; filename="machines.pulltide.zip"'}
    return Response(packed(documents), media_type="application/zip", headers=headers)


@router.post("/keeping/read-in")
def read_in(request: Request, machines: Machines, person: SurePerson, file: Annotated[UploadFile, File()]) -> Response:
    """Read every machine of an archive; one already on the floor exactly so is skipped, any other is added."""
    catalog = catalog_of(request)
    floor = list(machines.all())
    added, there, refused = [], [], []
    try:
        for taken in unpacked(file.file.read(), lambda raw: read_machine(raw, person.units, catalog)):
            if taken.machine is None:
                refused.append((taken.name, taken.why))
                continue
            match = same_named(taken.machine, floor)
            if match is not None and match.machine == taken.machine:
                there.append(taken.machine.name)
                continue
            added.append(machines.create(taken.machine).machine.name)
    except NoArchive as error:
        raise InputErrors([InputError("File", file.filename or "", str(error))]) from error
    return _page(request, machines, person, read={"added": added, "there": there, "refused": refused})
