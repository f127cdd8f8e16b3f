"""Who is asking: a random cookie, its preferences, and the token that a form must carry."""

from __future__ import annotations

import secrets
from dataclasses import dataclass
from hmac import compare_digest
from typing import Annotated

from fastapi import Depends, Form, Header, Request, Response
from itsdangerous import Signer

from pulltide.quantities import Units
from pulltide.store.people import PostgresPeople, Preferences

COOKIE = "pulltide_person"
YEAR_SECONDS = 365 * 24 * 3600


@dataclass(frozen=True, slots=True)
class Person:
    """The person of a request."""

    cookie: str
    preferences: Preferences
    token: str
    is_new: bool

    @property
    def units(self) -> Units:
        """Units to read and show in."""
        return self.preferences.units


class TokenMissing(Exception):
    """A change without the token of its own page."""


def token_for(secret: str, cookie: str) -> str:
    """The form token that belongs to a cookie."""
    return Signer(secret, salt="form").get_signature(cookie).decode()


def person_of(request: Request) -> Person:
    """The person of a request; a new one gets a cookie with the answer."""
    cookie = request.cookies.get(COOKIE, "")
    is_new = not 20 <= len(cookie) <= 100
    cookie = secrets.token_urlsafe(24) if is_new else cookie
    people: PostgresPeople = request.app.state.people
    preferences = Preferences() if is_new else people.get(cookie)
    return Person(cookie, preferences, token_for(request.app.state.secret, cookie), is_new)


AnyPerson = Annotated[Person, Depends(person_of)]


def sure_person(
    person: AnyPerson, x_form_token: Annotated[str, Header()] = "", form_token: Annotated[str, Form()] = ""
) -> Person:
    """The person of a change; refuses a change that does not carry the token of its own page."""
    if person.is_new or not compare_digest((x_form_token or form_token).encode(), person.token.encode()):
        raise TokenMissing
    return person


SurePerson = Annotated[Person, Depends(sure_person)]


def remember(response: Response, person: Person) -> None:
    """Give a new person its cookie."""
    if person.is_new:
        response.set_cookie(COOKIE, person.cookie, max_age=YEAR_SECONDS, httponly=True, samesite="lax", path="/")
