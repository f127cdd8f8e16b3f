"""Several people on one machine: each sees within a second who else is there, what they have open and what they change.

Server-sent events, one stream a window. A process asks the database for all its windows together, twice a second, so
that what happens in another process is seen as well.
"""

from __future__ import annotations

import asyncio
import json
import secrets
from collections.abc import AsyncIterator
from contextlib import suppress
from time import monotonic
from typing import Annotated

import anyio
from fastapi import APIRouter, Form, Request, Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.responses import StreamingResponse

from pulltide.store.presence import PostgresPresence, Seen
from pulltide.web.admission import now
from pulltide.web.pages import Machines
from pulltide.web.person import AnyPerson, SurePerson

router = APIRouter(include_in_schema=False)
#: How often the database is asked, and asked again after it did not answer [s].
LOOK_S, PATIENCE_S = 0.5, 3.0
#: How often it is told who is here still, and a silent stream shows that it lives [s].
TOLD_S, ALIVE_S = 10.0, 15.0
#: A stream ends after so long, and the browser opens another: whoever may not come in any more is out by then [s].
LONGEST_S = 300.0
#: So many windows of a process are streamed to; more see changes as before, when they save.
MAX_WINDOWS = 150
NOBODY = "Another window"


class Together:
    """The windows of this process, and what is known of their machines."""

    def __init__(self, presence: PostgresPresence) -> None:
        self.presence = presence
        self._machine_of: dict[str, str] = {}
        self._seen: dict[str, Seen] = {}
        self._looked = anyio.Event()
        self._looking: asyncio.Task[None] | None = None

    @property
    def is_full(self) -> bool:
        """Whether no more windows are streamed to."""
        return len(self._machine_of) >= MAX_WINDOWS

    async def watch(self, machine_id: str, name: str) -> AsyncIterator[str]:
        """What a new window is told, as events."""
        window = secrets.token_urlsafe(9)
        await anyio.to_thread.run_sync(self.presence.arrive, machine_id, window, name, now())
        self._machine_of[window] = machine_id
        if self._looking is None or self._looking.done():
            self._looking = asyncio.create_task(self._keep_looking())
        try:
            yield _event("window", window)
            async for event in self._changes(machine_id, window):
                yield event
        finally:
            del self._machine_of[window]
            with anyio.CancelScope(shield=True), suppress(SQLAlchemyError):
                await anyio.to_thread.run_sync(self.presence.leave, window)

    async def _changes(self, machine_id: str, window: str) -> AsyncIterator[str]:
        sent, until, last = "", monotonic() + LONGEST_S, monotonic()
        while monotonic() < until:
            looked, seen = self._looked, self._seen.get(machine_id)
            event = _seen_by(window, seen) if seen is not None else ""
            if event and event != sent:
                sent, last = event, monotonic()
                yield event
            elif monotonic() - last > ALIVE_S:
                last = monotonic()
                yield ": here\n\n"
            with anyio.move_on_after(ALIVE_S):
                await looked.wait()

    async def _keep_looking(self) -> None:
        """Ask as long as there is a window; a database that does not answer is asked more seldom."""
        said = 0.0
        while self._machine_of:
            pause = LOOK_S
            try:
                if monotonic() - said > TOLD_S:
                    said = monotonic()
                    await anyio.to_thread.run_sync(self.presence.still_here, list(self._machine_of), now())
                machines = sorted(set(self._machine_of.values()))
                self._seen = await anyio.to_thread.run_sync(self.presence.look, machines, now())
            except SQLAlchemyError:
                pause = PATIENCE_S
            self._looked, looked = anyio.Event(), self._looked
            looked.set()
            await asyncio.sleep(pause)


def _seen_by(window: str, seen: Seen) -> str:
    """What is told of a machine to one of its windows: the others, not itself."""
    others = [{"name": one.name, "field": one.field} for one in seen.present if one.window != window]
    data = {"version": seen.version, "label": seen.label, "author": seen.author, "others": others}
    return _event("seen", data)


def _event(name: str, data: object) -> str:
    return f"event: {name}\ndata: {json.dumps(data, ensure_ascii=False)}\n\n"


@router.get("/machines/{machine_id}/events")
async def events(request: Request, machine_id: str, machines: Machines, person: AnyPerson) -> Response:
    """The stream of a window."""
    await anyio.to_thread.run_sync(machines.get, machine_id)
    together: Together = request.app.state.together
    if together.is_full:
        return Response("Too many windows are open.", 503, {"retry-after": "60"})
    name = NOBODY if person.bearer is None else person.bearer.name
    return StreamingResponse(together.watch(machine_id, name), media_type="text/event-stream")


@router.post("/machines/{machine_id}/here", status_code=204)
def here(
    request: Request,
    machine_id: str,
    person: SurePerson,
    window: Annotated[str, Form(max_length=20)],
    field: Annotated[str, Form(max_length=120)] = "",
) -> Response:
    """Which field a window is filling in."""
    together: Together = request.app.state.together
    together.presence.hold(machine_id, window, field if field.isprintable() else "")
    return Response(status_code=204)
