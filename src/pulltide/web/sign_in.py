"""Signing in and out, links that let somebody begin or look at one machine, and what is a person's own."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Annotated, Any

import structlog
from fastapi import APIRouter, Depends, Form, HTTPException, Request, Response
from fastapi.responses import RedirectResponse
from pydantic import BaseModel, Field

from pulltide.core.errors import InputErrors
from pulltide.presentation.paper.label import code_svg
from pulltide.services.accounts import (
    LONGEST,
    MAX_DAYS,
    MAX_PASSWORD,
    Account,
    NoSuchAccount,
    Shown,
    SignInRefused,
    TooManyAttempts,
    hash_of,
    new_secret,
)
from pulltide.services.texts import MAX_NAME, checked_name
from pulltide.web.admission import GUEST_COOKIE, SESSION_COOKIE, Sharing, caller_address, now, sharing_of
from pulltide.web.pages import back_to, menu
from pulltide.web.person import AnyPerson, Person, SurePerson, keep_cookie
from pulltide.web.templating import render
from pulltide.words import error_text, say

router = APIRouter(include_in_schema=False)
log = structlog.get_logger("pulltide.people")


def shared(request: Request) -> Sharing:
    """How the shop is shared; where it is not, these pages are not there."""
    sharing = sharing_of(request)
    if sharing is None:
        raise HTTPException(404)
    return sharing


Shared = Annotated[Sharing, Depends(shared)]
Password = Annotated[str, Form(max_length=2 * MAX_PASSWORD)]


class Door(BaseModel):
    """What somebody types to be let in, and where they wanted to go."""

    name: str = Field(max_length=200)
    password: str = Field(max_length=2 * MAX_PASSWORD)
    code: str = Field("", max_length=40)
    back: str = Field("/", max_length=400)


class SecondStep(BaseModel):
    """A key that was put in an app, with a code that it shows, and the password of who does so."""

    key: str = Field(pattern="^[A-Z2-7]{32}$")
    code: str = Field("", max_length=40)
    old: str = Field("", max_length=2 * MAX_PASSWORD)


def signed_in(person: Person) -> Account:
    """The account of a person; a guest has none."""
    if person.bearer is None or person.bearer.account is None:
        raise HTTPException(404)
    return person.bearer.account


def device_of(request: Request) -> str:
    """What a person is signed in on, and where from: enough to know one's own."""
    agent = request.headers.get("user-agent", "")
    kind = (
        say("Phone")
        if "Mobi" in agent
        else say("Tablet")
        if "Tablet" in agent or "Android" in agent
        else say("Computer")
    )
    return f"{kind} at {caller_address(request)}"


def _let_in(request: Request, secret: str, back: str) -> Response:
    log.info("signed in", address=caller_address(request))
    response = RedirectResponse(back, 303)
    keep_cookie(request, response, SESSION_COOKIE, secret, int(LONGEST.total_seconds()))
    response.delete_cookie(GUEST_COOKIE, secure=True, httponly=True, samesite="lax")
    return response


@router.get("/sign-in")
def sign_in_page(request: Request, _: Shared, person: AnyPerson, back: Annotated[str, "address"] = "/") -> Response:
    """Name and password."""
    values = {"person": person, "back": back_to(back), "name": "", "failed": ""}
    return render(request, "pages/sign_in.html", values)


@router.post("/sign-in")
def sign_in(request: Request, sharing: Shared, person: SurePerson, shown: Annotated[Door, Form()]) -> Response:
    """Let somebody in; who is not stays on the page, with the name that was typed."""
    given, back = Shown(shown.name, shown.password, shown.code), back_to(shown.back)
    try:
        secret = sharing.sign_in.session(given, caller_address(request), device_of(request), now())
    except (SignInRefused, TooManyAttempts) as error:
        status = 429 if isinstance(error, TooManyAttempts) else 401
        log.warning("sign-in refused", address=caller_address(request), status=status)
        values = {"person": person, "back": back, "name": shown.name[:MAX_NAME], "failed": error_text(error)}
        return render(request, "pages/sign_in.html", values, status)
    _close(request, sharing)
    return _let_in(request, secret, back)


def _close(request: Request, sharing: Sharing) -> None:
    """End the session of this browser."""
    former = request.cookies.get(SESSION_COOKIE, "")
    if former:
        sharing.accounts.close_session(former)


@router.post("/sign-out")
def sign_out(request: Request, sharing: Shared, person: SurePerson) -> Response:
    """Out of this browser."""
    _close(request, sharing)
    response = RedirectResponse("/sign-in", 303)
    for name in (SESSION_COOKIE, GUEST_COOKIE):
        response.delete_cookie(name, secure=True, httponly=True, samesite="lax")
    response.headers["clear-site-data"] = '"cache", "storage"'
    return response


@router.get("/welcome/{secret}")
def welcome_page(request: Request, secret: str, sharing: Shared, person: AnyPerson) -> Response:
    """Where a person sets a password of their own."""
    account = sharing.accounts.welcomed(hash_of(secret), now())
    return render(request, "pages/welcome.html", {"person": person, "account": account, "failed": ""})


@router.post("/welcome/{secret}")
def welcome(request: Request, secret: str, sharing: Shared, person: SurePerson, password: Password) -> Response:
    """Set the password and begin; the link is used up. Whoever lost the phone begins without a second step."""
    account = sharing.accounts.welcomed(hash_of(secret), now())
    try:
        sharing.sign_in.set_password(account, password)
        sharing.accounts.set_second(account.id, None)
    except InputErrors as error:
        values = {"person": person, "account": account, "failed": error_text(error)}
        return render(request, "pages/welcome.html", values, 422)
    return _let_in(request, sharing.sign_in.begun(account, device_of(request), now()), "/")


@router.get("/guest/{secret}")
def guest(request: Request, secret: str, sharing: Shared) -> Response:
    """A look at one machine."""
    bearer = sharing.accounts.of_guest_link(secret[:200], now())
    if bearer is None:
        raise NoSuchAccount(say("This link has ended. Whoever sent it can make a new one."))
    response = RedirectResponse(f"/machines/{bearer.machine_id}", 303)
    keep_cookie(request, response, GUEST_COOKIE, secret, int(LONGEST.total_seconds()))
    return response


# -- a person's own -------------------------------------------------------------------------------------------------


def _me(request: Request, sharing: Sharing, person: Person, **more: Any) -> Response:
    account = signed_in(person)
    values = {
        "person": person,
        "account": account,
        "sessions": [(one.device, moment(one.seen_at)) for one in sharing.accounts.sessions(account.id)],
        "tokens": [
            (one.id, one.name, one.changes, moment(one.ends_at), moment(one.used_at))
            for one in sharing.accounts.tokens(account.id, now())
        ],
        "made": "",
        "second": sharing.accounts.second_of(account.id) is not None,
        "key": "",
        "failed": "",
        **menu(person),
        **more,
    }
    return render(request, "pages/me.html", values, 422 if more.get("failed") else 200)


def moment(at: datetime | None) -> str:
    """A moment for reading."""
    return "never" if at is None else at.astimezone().strftime("%b %-d, %Y, %H:%M")


@router.get("/me")
def me(request: Request, sharing: Shared, person: AnyPerson) -> Response:
    """Password, where one is signed in, tokens."""
    return _me(request, sharing, person)


@router.post("/me/password")
def change_password(request: Request, sharing: Shared, person: SurePerson, old: Password, new: Password) -> Response:
    """Another password: everywhere else this person is signed out."""
    account = signed_in(person)
    try:
        sharing.sign_in.change_password(account, old, new)
    except InputErrors as error:
        return _me(request, sharing, person, failed=error_text(error))
    return _let_in(request, sharing.sign_in.begun(account, device_of(request), now()), "/me")


def _key_shown(sharing: Sharing, account: Account, key: str) -> dict[str, Any]:
    """A key to put in an app: to be read as a picture, or typed."""
    grouped = " ".join(key[at : at + 4] for at in range(0, len(key), 4))
    return {"key": key, "key_shown": grouped, "picture": code_svg(sharing.sign_in.second_address(key, account))}


@router.post("/me/second/begin")
def begin_second(request: Request, sharing: Shared, person: SurePerson) -> Response:
    """A key for a second step; nothing is asked for until a code has shown that the app has it."""
    return _me(request, sharing, person, **_key_shown(sharing, signed_in(person), sharing.sign_in.second_key()))


@router.post("/me/second")
def set_second(request: Request, sharing: Shared, person: SurePerson, shown: Annotated[SecondStep, Form()]) -> Response:
    """From now on a code is asked for when signing in."""
    account = signed_in(person)
    try:
        sharing.sign_in.set_second(account, shown.key, Shown(account.name, shown.old, shown.code), now())
    except InputErrors as error:
        return _me(request, sharing, person, failed=error_text(error), **_key_shown(sharing, account, shown.key))
    log.info("second step set up", account=account.id)
    return RedirectResponse("/me", 303)


@router.post("/me/second/end")
def end_second(request: Request, sharing: Shared, person: SurePerson, old: Password) -> Response:
    """No code any more."""
    try:
        sharing.sign_in.end_second(signed_in(person), old)
    except InputErrors as error:
        return _me(request, sharing, person, failed=error_text(error))
    log.info("second step ended", account=signed_in(person).id)
    return RedirectResponse("/me", 303)


@router.post("/me/sign-out-everywhere")
def sign_out_everywhere(sharing: Shared, person: SurePerson) -> Response:
    """Out of every browser."""
    log.info("signed out everywhere", account=signed_in(person).id)
    sharing.accounts.close_sessions(signed_in(person).id)
    return RedirectResponse("/sign-in", 303)


@router.post("/me/tokens")
def make_token(
    request: Request,
    sharing: Shared,
    person: SurePerson,
    name: Annotated[str, Form(max_length=200)],
    days: Annotated[int, Form(ge=1, le=MAX_DAYS)],
    changes: Annotated[str, Form(max_length=5)] = "",
) -> Response:
    """A token for a program, shown once."""
    secret = new_secret()
    try:
        called = checked_name(name)
    except InputErrors as error:
        return _me(request, sharing, person, failed=error_text(error))
    ends = now() + timedelta(days=days)
    log.info("token made", account=signed_in(person).id, changes=changes == "yes", days=days)
    sharing.accounts.add_token(signed_in(person).id, hash_of(secret), called, changes == "yes", ends)
    return _me(request, sharing, person, made=secret)


@router.post("/me/tokens/{token_id}/end")
def end_token(sharing: Shared, person: SurePerson, token_id: int) -> Response:
    """The token lets nobody in any more."""
    sharing.accounts.end_token(signed_in(person).id, token_id)
    return RedirectResponse("/me", 303)
