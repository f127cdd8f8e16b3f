"""Who is asking: a random cookie, its preferences, and the token that a form must carry."""

from __future__ import annotations

import secrets
from dataclasses import dataclass, replace
from hmac import compare_digest
from typing import Annotated

from fastapi import Depends, Form, Header, Request, Response
from itsdangerous import Signer

from pulltide.quantities import Units
from pulltide.services.accounts import Bearer, Role
from pulltide.store.people import PostgresPeople, Preferences
from pulltide.web.admission import SESSION_COOKIE, bearer_in, sharing_of

COOKIE = "pulltide_person"
#: The same in a shop that is shared over TLS.
SHARED_COOKIE = f"__Host-{COOKIE}"
YEAR_SECONDS = 365 * 24 * 3600


@dataclass(frozen=True, slots=True)
class Person:
    """The person of a request."""

    cookie: str
    preferences: Preferences
    token: str
    is_new: bool
    bearer: Bearer | None = None
    money: str = ""

    @property
    def key(self) -> str:
        """What preferences are kept under: of somebody signed in, the same in every browser."""
        account = self.bearer.account if self.bearer is not None else None
        return self.cookie if account is None else f"account {account.id}"

    @property
    def is_guest(self) -> bool:
        """Whether this is somebody from outside, with a link to one machine."""
        return self.bearer is not None and self.bearer.account is None

    @property
    def reads_only(self) -> bool:
        """Whether this person changes nothing here."""
        return self.bearer is not None and not self.bearer.role.may(Role.BUILDER)

    @property
    def units(self) -> Units:
        """Units to read and show in, with what the shop counts prices in."""
        units = self.preferences.units
        return units.model_copy(update={"money": self.money}) if self.money else units


class TokenMissing(Exception):
    """A change without the token of its own page."""


def token_for(secret: str, cookie: str) -> str:
    """The form token that belongs to a cookie."""
    return Signer(secret, salt="form").get_signature(cookie).decode()


def person_of(request: Request) -> Person:
    """The person of a request; a new one gets a cookie with the answer.

    Who is signed in has a form token that goes with the session, and ends with it.
    """
    people: PostgresPeople = request.app.state.people
    money = request.app.state.shop.lately().price_unit
    secret, bearer = request.app.state.secret, bearer_in(request)
    if bearer is not None and bearer.account is not None:
        session = request.cookies.get(SESSION_COOKIE, "")
        found = Person(session, Preferences(), token_for(secret, session), False, bearer, money)
        return replace(found, preferences=people.get(found.key))
    cookie = request.cookies.get(_cookie_name(request), "")
    is_new = not 20 <= len(cookie) <= 100
    cookie = secrets.token_urlsafe(24) if is_new else cookie
    preferences = Preferences() if is_new else people.get(cookie)
    return Person(cookie, preferences, token_for(secret, cookie), is_new, bearer, money)


def _cookie_name(request: Request) -> str:
    return COOKIE if sharing_of(request) is None else SHARED_COOKIE


AnyPerson = Annotated[Person, Depends(person_of)]


def sure_person(
    person: AnyPerson, x_form_token: Annotated[str, Header()] = "", form_token: Annotated[str, Form()] = ""
) -> Person:
    """The person of a change; refuses a change that does not carry the token of its own page."""
    if person.is_new or not compare_digest((x_form_token or form_token).encode(), person.token.encode()):
        raise TokenMissing
    return person


SurePerson = Annotated[Person, Depends(sure_person)]


def remember(request: Request, response: Response, person: Person) -> None:
    """Give a new person its cookie."""
    if person.is_new:
        keep_cookie(request, response, _cookie_name(request), person.cookie, YEAR_SECONDS)


def keep_cookie(request: Request, response: Response, name: str, value: str, seconds: int) -> None:
    """A cookie that no script reads, for this host alone; in a shared shop over TLS only."""
    secure = sharing_of(request) is not None
    response.set_cookie(name, value, max_age=seconds, httponly=True, samesite="lax", path="/", secure=secure)
