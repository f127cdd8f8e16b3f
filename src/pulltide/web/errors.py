"""Every refusal as a plain sentence, in the form the asker can use: a page, a fragment or JSON."""

from __future__ import annotations

from typing import Any
from urllib.parse import quote

import structlog
from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse, PlainTextResponse, RedirectResponse
from sqlalchemy.exc import SQLAlchemyError
from starlette.exceptions import HTTPException

from pulltide.core.errors import LONGEST_ECHO, InputError, InputErrors
from pulltide.services.accounts import NoSuchAccount
from pulltide.services.documents import UnreadableDocument
from pulltide.services.machines import ChangedElsewhere, NoSuchMachine
from pulltide.services.photos import NoSuchPhoto
from pulltide.services.shop import NoSuchStarter
from pulltide.web.admission import NotAllowed, NotSignedIn, TooFast
from pulltide.web.api_calls import NotModified, mark_of
from pulltide.web.person import TokenMissing
from pulltide.web.templating import render
from pulltide.words import error_part, error_text, say

log = structlog.get_logger("pulltide.error")


def fault(error: InputError) -> dict[str, Any]:
    """One fault as data, in text that can be sent: half a character is shown as a question mark."""
    problem = {
        "path": error.path,
        "field": error_part(error.field),
        "given": str(error.given)[:LONGEST_ECHO],
        "reason": error_part(error.reason),
        "accepted": error_part(error.accepted),
        "sentence": error_text(error),
    }
    return {name: sendable(text) for name, text in problem.items()}


def sendable(text: str) -> str:
    """A text that can be encoded."""
    return text.encode("utf-8", "replace").decode()


def wants_json(request: Request) -> bool:
    """Whether the asker is a program or our own script rather than a page load."""
    return request.url.path.startswith("/api/") or request.headers.get("x-fragment") == "1"


def refuse(request: Request, status: int, sentence: str, faults: list[dict[str, Any]] | None = None) -> Response:
    """A refusal as JSON or as a page."""
    number, sentence = getattr(request.state, "request_id", ""), sendable(sentence)
    if wants_json(request):
        return JSONResponse({"error": sentence, "faults": faults or [], "id": number}, status)
    values = {"sentence": sentence, "faults": faults or [], "number": number}
    return render(request, "pages/refused.html", values, status)


def unexpected(request: Request) -> Response:
    """What is said when the program itself is at fault: nothing of the fault, and the number it is logged under."""
    sentence = say("The program has a fault here. What was saved before is as it was.")
    try:
        return refuse(request, 500, sentence)
    except Exception:  # the page of the fault may fail from the same cause
        log.exception("fault of the fault page")
        return PlainTextResponse(
            say("{sentence} Reference number {request_id}.", sentence=sentence, request_id=request.state.request_id),
            500,
        )


def install(app: FastAPI) -> None:
    """Register a handler for everything that can be refused."""
    _install_door(app)

    @app.exception_handler(InputErrors)
    def bad_input(request: Request, error: InputErrors) -> Response:
        return refuse(request, 422, error_text(error), [fault(item) for item in error.errors])

    @app.exception_handler(InputError)
    def bad_value(request: Request, error: InputError) -> Response:
        return refuse(request, 422, error_text(error), [fault(error)])

    @app.exception_handler(ChangedElsewhere)
    def changed(request: Request, error: ChangedElsewhere) -> Response:
        return refuse(request, 409, error_text(error))

    @app.exception_handler(NoSuchMachine)
    def missing(request: Request, error: NoSuchMachine) -> Response:
        return refuse(request, 404, error_text(error))

    @app.exception_handler(UnreadableDocument)
    def unreadable(request: Request, error: UnreadableDocument) -> Response:
        return refuse(request, 409, say("{error} Nothing of it is lost: its file is on the shop floor.", error=error))

    @app.exception_handler(RequestValidationError)
    def malformed(request: Request, error: RequestValidationError) -> Response:
        items = [
            fault(InputError(".".join(str(part) for part in item["loc"]), str(item.get("input", ""))[:60], item["msg"]))
            for item in error.errors()
        ]
        return refuse(request, 422, say("The data sent cannot be read."), items)

    @app.exception_handler(HTTPException)
    def plain(request: Request, error: HTTPException) -> Response:
        sentence = {404: say("There is nothing at this address."), 405: say("This address does not accept that.")}
        answer = refuse(request, error.status_code, sentence.get(error.status_code, str(error.detail)))
        answer.headers.update(error.headers or {})
        return answer

    @app.exception_handler(SQLAlchemyError)
    def database(request: Request, error: SQLAlchemyError) -> Response:
        log.error("database", error=type(error).__name__, detail=str(error)[:300])
        return refuse(request, 503, say("The database does not answer, so nothing was saved. Try again in a moment."))


def _install_door(app: FastAPI) -> None:
    """What is said to whoever is not let in."""

    @app.exception_handler(NotSignedIn)
    def not_signed_in(request: Request, error: NotSignedIn) -> Response:
        if request.method == "GET" and not wants_json(request):
            query = f"?{request.url.query}" if request.url.query else ""
            return RedirectResponse(f"/sign-in?back={quote(request.url.path + query, safe='')}", 303)
        answer = refuse(request, 401, say("You are not signed in, or not any longer. Sign in, then repeat this."))
        answer.headers["www-authenticate"] = "Bearer"
        return answer

    @app.exception_handler(NotAllowed)
    def not_allowed(request: Request, error: NotAllowed) -> Response:
        return refuse(request, 403, error_text(error))

    @app.exception_handler(TooFast)
    def too_fast(request: Request, error: TooFast) -> Response:
        answer = refuse(request, 429, say("Too many requests. Wait a few seconds."))
        answer.headers["retry-after"] = "5"
        return answer

    @app.exception_handler(NoSuchPhoto)
    @app.exception_handler(NoSuchStarter)
    @app.exception_handler(NoSuchAccount)
    def nobody(request: Request, error: NoSuchAccount | NoSuchStarter | NoSuchPhoto) -> Response:
        return refuse(request, 404, error_text(error))

    @app.exception_handler(NotModified)
    def not_modified(request: Request, error: NotModified) -> Response:
        return Response(status_code=304, headers={"etag": mark_of(error.version)})

    @app.exception_handler(TokenMissing)
    def no_token(request: Request, error: TokenMissing) -> Response:
        return refuse(
            request, 403, say("This page is out of date or cookies are off. Reload it, then repeat the change.")
        )
