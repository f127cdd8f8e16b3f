"""Room for work that takes long: a few such requests at a time. Nobody's reading waits for those that wait."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import AbstractAsyncContextManager, nullcontext
from weakref import WeakValueDictionary

import anyio
from fastapi import Request

from pulltide.services.accounts import Bearer
from pulltide.web.admission import bearer_in
from pulltide.web.places import place_of

#: So many requests of one process solve, draw or search at a time. Python computes one thing at a time anyway; two
#: keep it busy while one waits for the database.
SEATS = 2


async def room(request: Request) -> AsyncIterator[None]:
    """A seat for as long as the request takes. Who waits holds no thread: lists and files are still answered.

    A page of a place that searches takes the seat kept for searches, so that the others are free meanwhile.
    """
    async with request.app.state.desks.of(bearer_in(request)), _seat(request):
        yield


def _seat(request: Request) -> anyio.CapacityLimiter:
    place = place_of(request.path_params.get("place") or request.query_params.get("in", ""))
    searches = place is not None and place.searches
    limiter: anyio.CapacityLimiter = request.app.state.search_room if searches else request.app.state.room
    return limiter


async def search_room(request: Request) -> AsyncIterator[None]:
    """The seat for a search: one at a time."""
    async with request.app.state.desks.of(bearer_in(request)), request.app.state.search_room:
        yield


class Desks:
    """One desk for each person of a shared shop: whoever asks for much waits for themselves, not others for them."""

    def __init__(self) -> None:
        self._desks: WeakValueDictionary[str, anyio.CapacityLimiter] = WeakValueDictionary()

    def of(self, bearer: Bearer | None) -> AbstractAsyncContextManager[object]:
        """The desk of a person; none where nobody signs in."""
        if bearer is None:
            return nullcontext()
        name = bearer.account.id if bearer.account is not None else bearer.machine_id
        desk = self._desks.get(name)
        if desk is None:
            desk = self._desks[name] = anyio.CapacityLimiter(1)
        return desk


def seats(count: int = SEATS) -> anyio.CapacityLimiter:
    """The seats of one process."""
    return anyio.CapacityLimiter(count)


def taken(room: anyio.CapacityLimiter) -> bool:
    """Whether anyone sits: a search beside makes way."""
    return room.borrowed_tokens > 0
