"""What every call of the JSON interface may rely on: a key that makes it once, a mark of what was read."""

from __future__ import annotations

from collections.abc import Callable, Coroutine
from hashlib import sha256
from typing import Any

import anyio
from fastapi import Request, Response
from fastapi.responses import JSONResponse
from fastapi.routing import APIRoute

from pulltide.store.answers import Answer, PostgresAnswers
from pulltide.web.admission import admitted, now

#: The header of a call that is to be done once (draft-ietf-httpapi-idempotency-key-header).
KEY_HEADER, MAX_KEY = "idempotency-key", 200


class NotModified(Exception):
    """The asker has this version already."""

    def __init__(self, version: int) -> None:
        self.version = version
        super().__init__(str(version))


class OnceRoute(APIRoute):
    """A route whose changing calls are done once for each key that comes with them."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """The handler, with the keeping of answers round it."""
        handle = super().get_route_handler()

        async def handled(request: Request) -> Response:
            key = request.headers.get(KEY_HEADER, "")
            if not key or request.method not in ("POST", "PUT", "DELETE"):
                return await handle(request)
            if len(key) > MAX_KEY:
                return _refusal(422, f"Idempotency-Key is longer than {MAX_KEY} characters.")
            await admitted(request)  # a kept answer is for whom it was made, and only while they may come in
            return await _once(request, handle, key)

        return handled


async def _once(request: Request, handle: Callable[[Request], Coroutine[Any, Any, Response]], key: str) -> Response:
    answers: PostgresAnswers = request.app.state.answers
    bearer = request.state.bearer
    who = "" if bearer is None or bearer.account is None else bearer.account.id
    mark = _hash(who.encode(), key.encode("utf-8", "replace"))
    call = _hash(request.method.encode(), str(request.url).encode("utf-8", "replace"), await request.body())
    found = await anyio.to_thread.run_sync(answers.begun, mark, call, now())
    if found is not None:
        return _again(found, call)
    try:
        response = await handle(request)
    except BaseException:
        with anyio.CancelScope(shield=True):
            await anyio.to_thread.run_sync(answers.dropped, mark)
        raise
    body = bytes(getattr(response, "body", b""))
    await anyio.to_thread.run_sync(answers.ended, mark, response.status_code, response.media_type or "", body)
    return response


def _again(found: Answer, call: str) -> Response:
    if found.call != call:
        return _refusal(422, "This Idempotency-Key came with another call before. Take a new key for a new call.")
    if found.status is None:
        return _refusal(409, "The first call with this Idempotency-Key is still being worked out. Try again.")
    headers = {"idempotency-replayed": "true"}
    return Response(found.body, found.status, headers, media_type=found.media_type or None)


def _hash(*parts: bytes) -> str:
    return sha256(b"\0".join(sha256(part).digest() for part in parts)).hexdigest()


def _refusal(status: int, sentence: str) -> Response:
    return JSONResponse({"error": sentence, "faults": []}, status)


def mark_of(version: int) -> str:
    """The entity tag of a machine at a version (RFC 9110, 8.8.3)."""
    return f'"{version}"'


def is_known(request: Request, version: int) -> bool:
    """Whether the asker has this version already (RFC 9110, 13.1.2)."""
    given = request.headers.get("if-none-match", "")
    return given.strip() == "*" or mark_of(version) in [one.strip().removeprefix("W/") for one in given.split(",")]
