"""What stands before every request: size limit, same-origin check, security headers, request log, the last net."""

from __future__ import annotations

import time
from typing import Any
from urllib.parse import unquote_to_bytes, urlsplit
from uuid import uuid4

import anyio
import structlog
from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import ClientDisconnect, Request
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send
from structlog.contextvars import bound_contextvars

from pulltide.web.errors import unexpected

MAX_BYTES = 1_000_000
#: A photo, and a list of parts, may be larger than anything else that is sent.
PHOTOS = "/photos"
LISTS, MAX_LIST_BYTES = ("/stock/import", "/api/v1/lists/"), 8_200_000
#: So is an archive of all machines with their photos; it lies in a file, not in memory.
ARCHIVE, MAX_ARCHIVE_BYTES = "/keeping/read-in", 250_000_000
#: Names that this server goes by.
HOSTS = frozenset({"127.0.0.1", "localhost", "::1"})
CHANGING = {"POST", "PUT", "PATCH", "DELETE"}
POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; "
    "connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'; manifest-src 'self'"
)
#: What follows here in an address lets somebody in.
SECRET = ("/welcome/", "/guest/")
HEADERS = {
    "content-security-policy": POLICY,
    "x-content-type-options": "nosniff",
    "referrer-policy": "same-origin",
    "cross-origin-opener-policy": "same-origin",
    "permissions-policy": "camera=(), microphone=(self), geolocation=()",
}
log = structlog.get_logger("pulltide.request")


class TooLarge(Exception):
    """The body is larger than the limit."""


def is_foreign(headers: Headers, scheme: str) -> bool:
    """Whether a changing request comes from a page of another site."""
    if headers.get("sec-fetch-site") in ("cross-site", "same-site"):
        return True
    origin = headers.get("origin")
    return origin is not None and origin != f"{scheme}://{headers.get('host', '')}"


def names_us(host: str, names: frozenset[str] = HOSTS) -> bool:
    """Whether a request is meant for this server: a page of another name that leads here must read nothing.

    >>> names_us("127.0.0.1:8420"), names_us("[::1]"), names_us("127.0.0.1.example"), names_us("")
    (True, True, False, False)
    """
    try:
        return (urlsplit(f"//{host}").hostname or "") in names
    except ValueError:
        return False


def loggable(path: str) -> str:
    """An address as the log may hold it: without the secret of a link.

    >>> loggable("/welcome/abc"), loggable("/machines/7/train")
    ('/welcome/…', '/machines/7/train')
    """
    secret = next((start for start in SECRET if path.startswith(start)), "")
    return f"{secret}…" if secret else path


class Answer:
    """An answer on its way out: marked with our headers, without its body where only the head is asked for."""

    def __init__(self, scope: Scope, send: Send, only_head: bool) -> None:
        self.status = 0
        self._scope, self._send, self._only_head = scope, send, only_head

    async def __call__(self, message: Message) -> None:
        """Pass one message on."""
        if message["type"] == "http.response.start":
            self.status = message["status"]
            headers = MutableHeaders(scope=message)
            headers.update(HEADERS)
            headers["x-request-id"] = self._scope["state"]["request_id"]
            if not self._scope["path"].startswith("/static/"):
                headers["cache-control"] = "no-store"
        elif self._only_head:
            message = {**message, "body": b""}
        await self._send(message)


class Guard:
    """ASGI middleware round the whole application."""

    def __init__(self, app: ASGIApp, names: frozenset[str] = frozenset()) -> None:
        self.app, self.names = app, HOSTS | names

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Check, pass on, mark the answer, log."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        started, method, request_id = time.perf_counter(), scope["method"], uuid4().hex[:12]
        scope = {**scope, "state": {**scope.get("state", {}), "request_id": request_id}}
        scope["method"] = "GET" if method == "HEAD" else method
        answer = Answer(scope, send, method == "HEAD")
        with bound_contextvars(id=request_id):
            await self._answered(scope, receive, answer)
            if not scope["path"].startswith("/static/"):
                taken_ms = round((time.perf_counter() - started) * 1000, 1)
                log.info("request", method=method, path=loggable(scope["path"]), status=answer.status, ms=taken_ms)

    async def _answered(self, scope: Scope, receive: Receive, answer: Answer) -> None:
        """Whatever happens is answered: a fault of ours in plain words, and logged under the request's number."""
        try:
            await self._checked(scope, receive, answer)
        except ClientDisconnect:
            log.info("left", path=loggable(scope["path"]))
        except Exception:
            log.exception("fault", method=scope["method"], path=loggable(scope["path"]))
            if not answer.status:
                apology = await anyio.to_thread.run_sync(unexpected, Request(scope))
                await apology(scope, receive, answer)

    async def _checked(self, scope: Scope, receive: Receive, send: Send) -> None:
        headers = Headers(scope=scope)
        refusal = self._refusal(scope, headers)
        if refusal is not None:
            await refusal(scope, receive, send)
            return
        try:
            await self.app(scope, _limited(receive, _most(scope)), send)
        except TooLarge:
            await _too_large(_most(scope))(scope, receive, send)

    def _refusal(self, scope: Scope, headers: Headers) -> PlainTextResponse | None:
        if not names_us(headers.get("host", ""), self.names):
            return PlainTextResponse("This server does not go by that name. It is at 127.0.0.1 or localhost.", 421)
        if "\0" in scope["path"] or b"\0" in unquote_to_bytes(scope["query_string"]):
            return PlainTextResponse("There is nothing at this address.", 404)
        if scope["method"] in CHANGING and is_foreign(headers, scope["scheme"]):
            return PlainTextResponse("This change came from another site and was refused.", 403)
        length = headers.get("content-length", "0")
        if not length.isdecimal() or int(length) > _most(scope):
            return _too_large(_most(scope))
        return None


def _most(scope: Scope) -> int:
    """How much may be sent to an address [bytes]."""
    if scope["path"] == ARCHIVE:
        return MAX_ARCHIVE_BYTES
    large = scope["path"].startswith(LISTS) or scope["path"].endswith(PHOTOS)
    return MAX_LIST_BYTES if large else MAX_BYTES


def _too_large(most: int) -> PlainTextResponse:
    return PlainTextResponse(f"What was sent is larger than {most:,} bytes and was refused.", 413)


def _limited(receive: Receive, most: int) -> Receive:
    read = 0

    async def limited() -> Message:
        nonlocal read
        message: Any = await receive()
        read += len(message.get("body", b""))
        if read > most:
            raise TooLarge
        return dict(message)

    return limited
