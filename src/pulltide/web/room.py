"""Room for work that takes long: a few such requests at a time. Nobody's reading waits for those that wait."""

from __future__ import annotations

from collections.abc import AsyncIterator

import anyio
from fastapi import Request

#: So many requests of one process solve, draw or search at a time. Python computes one thing at a time anyway; two
#: keep it busy while one waits for the database.
SEATS = 2


async def room(request: Request) -> AsyncIterator[None]:
    """A seat for as long as the request takes. Who waits holds no thread: lists and files are still answered."""
    async with request.app.state.room:
        yield


def seats() -> anyio.CapacityLimiter:
    """The seats of one process."""
    return anyio.CapacityLimiter(SEATS)
