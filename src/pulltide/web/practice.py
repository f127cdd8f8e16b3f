"""Practice: tasks in three levels, with hints and what went wrong. Progress is kept in a signed cookie."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Annotated, Any, cast

from fastapi import APIRouter, Query, Request, Response
from fastapi.responses import RedirectResponse
from itsdangerous import BadSignature, Signer
from pydantic import BaseModel, Field

from pulltide.core.practice.contract import Level, Task
from pulltide.core.practice.tasks import MAKERS, is_right, task, why_wrong
from pulltide.core.working import Working
from pulltide.presentation.working_view import working_view
from pulltide.quantities import Units, reader_for, show
from pulltide.web.pages import Posted, menu
from pulltide.web.person import YEAR_SECONDS, AnyPerson, Person, SurePerson
from pulltide.web.templating import render
from pulltide.words import filled, say

router = APIRouter(include_in_schema=False)
COOKIE = "pulltide_practice"
LEVELS: dict[Level, str] = {1: "First steps", 2: "At the bench", 3: "With a watch and a scale"}
#: Highest number of a task that is kept.
MOST = 9999


class Turned(BaseModel):
    """Which task, and how many of its steps are shown."""

    level: int = Field(1, ge=1, le=3)
    number: int = Field(1, ge=1, le=MOST)
    hints: int = Field(0, ge=0, le=9)


@dataclass(frozen=True, slots=True)
class Progress:
    """Tasks answered rightly at the first try, and asked, at a level."""

    right: int = 0
    asked: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Answered:
    """What was answered, whether it is right, and what went wrong."""

    typed: str
    right: bool
    says: str
    answer: str


@router.get("/practice")
def practice(request: Request, person: AnyPerson, turned: Annotated[Turned, Query()]) -> Response:
    """One task."""
    return _page(request, person, turned, None, _progress(request))


@router.post("/practice")
def answer(request: Request, person: SurePerson, form: Posted) -> Response:
    """Judge an answer; an empty or unreadable one asks again."""
    texts = {key: value for key, value in form.multi_items() if isinstance(value, str)}
    turned = Turned.model_validate({name: texts[name] for name in Turned.model_fields if name in texts})
    asked, typed = task(cast(Level, turned.level), turned.number), texts.get("answer", "").strip()[:60]
    try:
        given = reader_for(person.units)(typed, asked.unit)
    except ValueError as error:
        outcome = Answered(typed=typed, right=False, says=say("That cannot be read: {error}.", error=error), answer="")
        return _page(request, person, turned, outcome, _progress(request))
    right = is_right(asked, given)
    says = "Right." if right else why_wrong(asked, given) or say("Not right. The working shows each step.")
    outcome = Answered(typed=typed, right=right, says=says, answer=_shown(asked, person.units))
    kept = _progress(request)
    known = kept.get(turned.level, Progress())
    first = texts.get("again", "") != "yes"
    if first:
        kept[turned.level] = Progress(known.right + int(right and turned.hints == 0), known.asked + 1)
    return _keep(request, _page(request, person, turned, outcome, kept), kept)


@router.post("/practice/forget")
def forget(person: SurePerson) -> Response:
    """Begin anew."""
    answered = RedirectResponse("/practice", 303)
    answered.delete_cookie(COOKIE, path="/")
    return answered


def _shown(asked: Task, units: Units) -> str:
    return str(show(asked.answer, asked.unit, units))


def _page(
    request: Request, person: Person, turned: Turned, outcome: Answered | None, kept: dict[int, Progress]
) -> Response:
    asked = task(cast(Level, turned.level), turned.number)
    answered, shown = bool(outcome and outcome.answer), asked.steps[: turned.hints]
    values: dict[str, Any] = {
        "person": person,
        "levels": [
            {"level": level, "words": say(words), "on": level == turned.level, "progress": kept.get(level, Progress())}
            for level, words in LEVELS.items()
        ],
        "level": turned.level,
        "number": turned.number,
        "question": filled(asked.question, person.units),
        "unit": show(1.0, asked.unit, person.units).unit,
        "outcome": outcome,
        "answered": answered,
        "hints": turned.hints,
        "more_hints": turned.hints < len(asked.steps),
        "hinted": [] if answered else working_view(Working("", shown), person.units).steps if shown else [],
        "working": working_view(Working(say("Working"), asked.steps), person.units) if answered else None,
        "kinds": len(MAKERS[cast(Level, turned.level)]),
        "following": turned.number % MOST + 1,
        **menu(person),
    }
    return render(request, "pages/practice.html", values)


def _progress(request: Request) -> dict[int, Progress]:
    """What the cookie holds; nothing where it is not one of ours."""
    try:
        raw = Signer(request.app.state.secret, salt="practice").unsign(request.cookies.get(COOKIE, ""))
        return {int(level): Progress(int(right), int(asked)) for level, (right, asked) in json.loads(raw).items()}
    except (BadSignature, ValueError, TypeError, AttributeError):
        return {}


def _keep(request: Request, response: Response, kept: dict[int, Progress]) -> Response:
    raw = json.dumps({str(level): (one.right, one.asked) for level, one in kept.items()}, separators=(",", ":"))
    signed = Signer(request.app.state.secret, salt="practice").sign(raw).decode()
    response.set_cookie(COOKIE, signed, max_age=YEAR_SECONDS, httponly=True, samesite="lax", path="/")
    return response
