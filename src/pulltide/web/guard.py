"""What stands before every request: size limit, same-origin check, security headers, request log."""

from __future__ import annotations

import time
from typing import Any
from urllib.parse import urlsplit
from uuid import uuid4

import structlog
from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

MOST_BYTES = 1_000_000
#: Names that this server goes by.
HOSTS = frozenset({"127.0.0.1", "localhost", "::1"})
CHANGING = {"POST", "PUT", "PATCH", "DELETE"}
POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; "
    "connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'; manifest-src 'self'"
)
HEADERS = {
    "content-security-policy": POLICY,
    "x-content-type-options": "nosniff",
    "referrer-policy": "same-origin",
    "cross-origin-opener-policy": "same-origin",
    "permissions-policy": "camera=(), microphone=(), geolocation=()",
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


def names_us(host: str) -> bool:
    """Whether a request is meant for this server: a page of another name that leads here must read nothing.

    >>> names_us("127.0.0.1:8420"), names_us("[::1]"), names_us("127.0.0.1.example"), names_us("")
    (True, True, False, False)
    """
    try:
        return (urlsplit(f"//{host}").hostname or "") in HOSTS
    except ValueError:
        return False


class Guard:
    """ASGI middleware round the whole application."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Check, pass on, mark the answer, log."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        started, status, request_id = time.perf_counter(), 500, uuid4().hex[:12]
        only_head = scope["method"] == "HEAD"
        if only_head:
            scope = {**scope, "method": "GET"}

        async def marked(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers[name] = value
                headers["x-request-id"] = request_id
                if not scope["path"].startswith("/static/"):
                    headers["cache-control"] = "no-store"
            elif only_head:
                message = {**message, "body": b""}
            await send(message)

        try:
            await self._checked(scope, receive, marked)
        finally:
            if not scope["path"].startswith("/static/"):
                log.info(
                    "request",
                    id=request_id,
                    method="HEAD" if only_head else scope["method"],
                    path=scope["path"],
                    status=status,
                    ms=round((time.perf_counter() - started) * 1000, 1),
                )

    async def _checked(self, scope: Scope, receive: Receive, send: Send) -> None:
        headers = Headers(scope=scope)
        refusal = self._refusal(scope, headers)
        if refusal is not None:
            await refusal(scope, receive, send)
            return
        try:
            await self.app(scope, _limited(receive), send)
        except TooLarge:
            await _too_large()(scope, receive, send)

    def _refusal(self, scope: Scope, headers: Headers) -> PlainTextResponse | None:
        if not names_us(headers.get("host", "")):
            return PlainTextResponse("This server goes by 127.0.0.1 or localhost only.", 421)
        if "\0" in scope["path"]:
            return PlainTextResponse("There is nothing at this address.", 404)
        if scope["method"] in CHANGING and is_foreign(headers, scope["scheme"]):
            return PlainTextResponse("This change came from another site and was refused.", 403)
        length = headers.get("content-length", "0")
        if not length.isdecimal() or int(length) > MOST_BYTES:
            return _too_large()
        return None


def _too_large() -> PlainTextResponse:
    return PlainTextResponse(f"What was sent is larger than {MOST_BYTES:,} bytes and was refused.", 413)


def _limited(receive: Receive) -> Receive:
    read = 0

    async def limited() -> Message:
        nonlocal read
        message: Any = await receive()
        read += len(message.get("body", b""))
        if read > MOST_BYTES:
            raise TooLarge
        return dict(message)

    return limited
