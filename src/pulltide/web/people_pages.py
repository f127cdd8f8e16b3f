"""Who comes into a shared shop, seen by its owner: everyone, their roles, links, and how it is reached."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import structlog
from fastapi import APIRouter, Form, Request, Response
from fastapi.responses import RedirectResponse

from pulltide.core.errors import InputErrors
from pulltide.presentation.paper.label import code_svg
from pulltide.services.accounts import ROLES, Role, welcome_link
from pulltide.services.texts import checked_name
from pulltide.web.admission import Sharing, now
from pulltide.web.pages import menu
from pulltide.web.person import AnyPerson, Person, SurePerson
from pulltide.web.sign_in import Shared, moment, signed_in
from pulltide.web.templating import render
from pulltide.words import error_text, say

router = APIRouter(include_in_schema=False)
log = structlog.get_logger("pulltide.people")
RoleSaid = Annotated[Literal["reader", "builder", "owner"], Form()]
#: What each role may do, in words.
MAY = {
    Role.READER: "reads everything, changes nothing",
    Role.BUILDER: "changes machines, lists and logs",
    Role.OWNER: "also manages people and backups",
}


def _page(request: Request, sharing: Sharing, person: Person, **more: Any) -> Response:
    people = [(one, moment(one.seen_at)) for one in sharing.accounts.all()]
    values = {
        "person": person,
        "people": people,
        "roles": [(role.value, say(MAY[role])) for role in ROLES],
        "address": sharing.address,
        "fingerprint": sharing.fingerprint,
        "code": code_svg(sharing.address) if sharing.address else "",
        "link": "",
        "link_code": "",
        "link_for": "",
        "failed": "",
        **menu(person),
        **more,
    }
    return render(request, "pages/people.html", values, 422 if more.get("failed") else 200)


@router.get("/people")
def people(request: Request, sharing: Shared, person: AnyPerson) -> Response:
    """Everyone, and how the shop is reached."""
    return _page(request, sharing, person)


@router.post("/people")
def add(
    request: Request, sharing: Shared, person: SurePerson, name: Annotated[str, Form(max_length=200)], role: RoleSaid
) -> Response:
    """Somebody new, and the link with which they begin."""
    try:
        account = sharing.accounts.add(checked_name(name), Role(role), None)
    except InputErrors as error:
        return _page(request, sharing, person, failed=error_text(error))
    return _with_link(request, sharing, person, account.id)


def _with_link(request: Request, sharing: Sharing, person: Person, account_id: str) -> Response:
    """The page with a new link on it, shown once."""
    account = sharing.accounts.get(account_id)
    log.info("link made", account=account.id, by=signed_in(person).id)
    secret = welcome_link(sharing.accounts, account_id, now())
    link = f"{sharing.address or str(request.base_url)}welcome/{secret}"
    return _page(request, sharing, person, link=link, link_code=code_svg(link), link_for=account.name)


@router.post("/people/{account_id}/link")
def new_link(request: Request, account_id: str, sharing: Shared, person: SurePerson) -> Response:
    """A link for somebody who has lost a password; the password stays good until it is used."""
    return _with_link(request, sharing, person, account_id)


@router.post("/people/{account_id}/role")
def change_role(request: Request, account_id: str, sharing: Shared, person: SurePerson, role: RoleSaid) -> Response:
    """More or less that a person may do, from the next request on."""
    try:
        sharing.accounts.set_role(account_id, Role(role))
    except InputErrors as error:
        return _page(request, sharing, person, failed=error_text(error))
    log.info("role changed", account=account_id, role=role, by=signed_in(person).id)
    return RedirectResponse("/people", 303)


@router.post("/people/{account_id}/{step}")
def leave_or_come_back(
    request: Request, account_id: str, step: Literal["leave", "come-back"], sharing: Shared, person: SurePerson
) -> Response:
    """Out at once and everywhere, or in again; the name stays on what was done under it."""
    try:
        sharing.accounts.set_ended(account_id, step == "leave")
    except InputErrors as error:
        return _page(request, sharing, person, failed=error_text(error))
    log.info("access ended" if step == "leave" else "access restored", account=account_id, by=signed_in(person).id)
    return RedirectResponse("/people", 303)
