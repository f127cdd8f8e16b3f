"""A shared shop under attack: who is let in, what each role may do on every route, what a link shows."""

from __future__ import annotations

import re
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from urllib.parse import urlsplit

import anyio
import pyotp
import pytest
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient
from sqlalchemy import Engine

from pulltide.demo import demo_machines
from pulltide.services.accounts import Account, Bearer, Role, hash_of, welcome_link
from pulltide.store.accounts import PostgresAccounts
from pulltide.store.machines import PostgresMachines
from pulltide.store.passwords import Argon2Hasher
from pulltide.web import admission
from pulltide.web.admission import GUEST_COOKIE, SESSION_COOKIE, now
from pulltide.web.app import create_app
from pulltide.web.rights import OPEN, least_role
from pulltide.web.room import Desks
from pulltide.web.settings import Settings, Share

BASE = "https://shop.test"
WORDS = {role: f"the {role} has a long one" for role in ("owner", "builder", "reader")}
#: What a path parameter is in the walk over all routes.
FILLED = {"place": "train", "kind": "csv", "size": "A4", "plan": "1", "method": "reducer", "name": "stock"}


@pytest.fixture(scope="module")
def app(database_url: str):
    share = Share(frozenset({"shop.test"}), f"{BASE}/", "AB:CD", quick_passwords=True)
    return create_app(Settings(database_url, "test-secret", share=share))


@pytest.fixture(scope="module")
def running(app) -> Iterator[TestClient]:
    with TestClient(app, base_url=BASE) as client:
        yield client


@pytest.fixture
def door(running: TestClient, empty_shop: Engine) -> TestClient:
    """A browser that nobody has signed in on, in front of a shop with three people and one machine."""
    running.cookies.clear()
    running.app.state.sharing.allowance.left.clear()
    accounts, hasher = PostgresAccounts(empty_shop), Argon2Hasher(quick=True)
    for role, words in WORDS.items():
        accounts.add(role.title(), Role(role), hasher.hash(words))
    return running


@pytest.fixture
def machine_id(empty_shop: Engine) -> str:
    return PostgresMachines(empty_shop).create(demo_machines()[0]).id


def token_of(page: str) -> str:
    return re.search(r'name="form-token" content="([^"]*)"', page)[1]


def come_in(client: TestClient, who: str, password: str = "") -> object:
    page = client.get("/sign-in")
    data = {"name": who, "password": password or WORDS[who], "form_token": token_of(page.text)}
    return client.post("/sign-in", data=data, follow_redirects=False)


def posted(client: TestClient, path: str, **data: str):
    token = token_of(client.get("/me").text)
    return client.post(path, data={"form_token": token, **data}, follow_redirects=False)


def test_a_second_step_is_asked_for_once_it_is_set_up_and_a_new_link_ends_it(door, empty_shop):
    come_in(door, "owner")
    shown = posted(door, "/me/second/begin").text
    key = re.search(r'name="key" value="([A-Z2-7]{32})"', shown)[1]
    assert "<svg" in shown
    wrong = posted(door, "/me/second", key=key, code="000000", old=WORDS["owner"])
    assert wrong.status_code == 422
    assert key in wrong.text, "the same key stays, as it may be in the app by now"
    assert posted(door, "/me/second", key=key, code=pyotp.TOTP(key).now(), old=WORDS["owner"]).status_code == 303
    posted(door, "/sign-out")
    assert come_in(door, "owner").status_code == 401
    page = door.get("/sign-in")
    data = {"name": "owner", "password": WORDS["owner"], "form_token": token_of(page.text)}
    assert door.post("/sign-in", data={**data, "code": pyotp.TOTP(key).now()}, follow_redirects=False).is_redirect
    posted(door, "/sign-out")
    accounts = PostgresAccounts(empty_shop)
    link = welcome_link(accounts, accounts.named("owner").id, now())
    token = token_of(door.get(f"/welcome/{link}").text)
    new = "whoever lost the phone begins anew"
    assert door.post(
        f"/welcome/{link}", data={"form_token": token, "password": new}, follow_redirects=False
    ).is_redirect
    posted(door, "/sign-out")
    assert come_in(door, "owner", new).is_redirect


# -- the door --------------------------------------------------------------------------------------------------------


def test_nobody_sees_anything_before_signing_in_and_comes_back_to_where_they_were_going(door, machine_id):
    answer = door.get(f"/machines/{machine_id}/train?plan=0", follow_redirects=False)
    assert answer.status_code == 303
    assert answer.headers["location"] == f"/sign-in?back=%2Fmachines%2F{machine_id}%2Ftrain%3Fplan%3D0"
    assert door.get("/api/v1/machines").status_code == 401
    assert door.get("/", headers={"x-fragment": "1"}).status_code == 401
    assert door.get("/healthz").status_code == 200
    page = door.get(answer.headers["location"])
    back = re.search(r'name="back" value="([^"]*)"', page.text)[1].replace("&amp;", "&")
    assert back == f"/machines/{machine_id}/train?plan=0"


@pytest.mark.parametrize("back", ["https://elsewhere.test/", "//elsewhere.test", "/\\elsewhere.test", "javascript:x"])
def test_signing_in_leads_nowhere_else(door, back):
    page = door.get("/sign-in", params={"back": back})
    data = {"name": "owner", "password": WORDS["owner"], "form_token": token_of(page.text), "back": back}
    assert door.post("/sign-in", data=data, follow_redirects=False).headers["location"] == "/"


def test_the_cookie_of_a_session_is_for_this_host_over_tls_and_for_no_script(door):
    cookie = come_in(door, "owner").headers["set-cookie"]
    assert cookie.startswith(f"{SESSION_COOKIE}=")
    for part in ("HttpOnly", "Secure", "Path=/", "SameSite=lax"):
        assert part.lower() in cookie.lower()
    assert "domain" not in cookie.lower()


def test_a_session_that_was_brought_along_is_not_the_one_that_is_let_in(door):
    """Session fixation (OWASP ASVS 4.0.3, 3.2.1)."""
    planted = "planted-by-somebody-else-0123456789"
    door.cookies.set(SESSION_COOKIE, planted, domain="shop.test")
    given = come_in(door, "owner").headers["set-cookie"].split(";")[0].split("=", 1)[1]
    assert given != planted
    door.cookies.clear()
    door.cookies.set(SESSION_COOKIE, planted)
    assert door.get("/me", follow_redirects=False).status_code == 303


def test_signing_in_again_ends_the_session_before_and_signing_out_ends_the_last(door):
    come_in(door, "owner")
    first = door.cookies[SESSION_COOKIE]
    come_in(door, "builder")
    second = door.cookies[SESSION_COOKIE]
    posted(door, "/sign-out")
    for secret in (first, second):
        door.cookies.clear()
        door.cookies.set(SESSION_COOKIE, secret)
        assert door.get("/me", follow_redirects=False).status_code == 303


def test_guessing_is_slowed_down_and_told_so(door):
    answers = [come_in(door, "owner", f"guess number {k} of many").status_code for k in range(7)]
    assert answers == [401] * 5 + [429] * 2
    assert come_in(door, "owner").status_code == 429, "the right one waits too"


def test_a_page_says_nothing_of_whether_a_name_is_known(door):
    known, unknown = (come_in(door, name, "a wrong password").text for name in ("owner", "nobody"))
    shown = [re.sub(r'value="[^"]*"|content="[^"]*"', "", page) for page in (known, unknown)]
    assert shown[0] == shown[1]


@pytest.mark.parametrize("change", [lambda s: s[:-2] + "AB", lambda s: s[:20], lambda s: "x" * 4000, lambda s: "é"])
def test_a_tampered_cookie_lets_nobody_in(door, change):
    come_in(door, "owner")
    secret = change(door.cookies[SESSION_COOKIE])
    answer = door.get("/me", headers={"cookie": f"{SESSION_COOKIE}={secret}".encode("latin-1")}, follow_redirects=False)
    door.cookies.clear()
    answer = door.get("/me", headers={"cookie": f"{SESSION_COOKIE}={secret}".encode("latin-1")}, follow_redirects=False)
    assert answer.status_code == 303


def test_a_form_of_one_session_is_no_good_in_another(door):
    come_in(door, "owner")
    token = token_of(door.get("/me").text)
    come_in(door, "builder")
    assert door.post("/machines", data={"form_token": token, "name": "x"}, follow_redirects=False).status_code == 403


def test_too_many_calls_are_told_to_wait(door, monkeypatch):
    come_in(door, "reader")
    monkeypatch.setattr(admission, "INSIDE", (0.01, 20.0))
    door.app.state.sharing.allowance.left.clear()
    answers = [door.get("/me") for _ in range(25)]
    assert [answer.status_code for answer in answers] == [200] * 20 + [429] * 5
    assert answers[-1].headers["retry-after"] == "5"
    door.cookies.clear()
    come_in(door, "builder")
    assert door.get("/me").status_code == 200, "another person waits for nobody"


# -- what each role may do --------------------------------------------------------------------------------------------


def routes(app) -> list[tuple[str, str]]:
    """Every method and address of the router."""
    included = [one for part in app.routes for one in getattr(part, "original_router", app).routes]
    found = [(method, one.path) for one in included if isinstance(one, APIRoute) for method in one.methods]
    assert len(found) > 80
    return sorted(found)


def filled(path: str, machine_id: str) -> str:
    return re.sub(r"\{(\w+)\}", lambda part: machine_id if part[1] == "machine_id" else FILLED.get(part[1], "1"), path)


def call(client: TestClient, method: str, path: str, machine_id: str) -> int:
    """What a call is answered; to be sent anywhere but to the door is to be let in."""
    token = {"x-form-token": client.form_token} if hasattr(client, "form_token") else {}
    answer = client.request(method, filled(path, machine_id), headers=token, follow_redirects=False)
    location = answer.headers.get("location", "")
    return 200 if answer.status_code == 303 and not location.startswith("/sign-in") else answer.status_code


def test_every_route_refuses_whoever_is_not_signed_in(door, app, machine_id):
    for method, path in routes(app):
        door.app.state.sharing.allowance.left.clear()
        if path in OPEN:
            continue
        assert call(door, method, path, machine_id) in (303, 401), (method, path)


@pytest.mark.parametrize("who", ["reader", "builder", "owner"])
def test_every_route_refuses_whoever_may_not_and_nobody_else(door, app, machine_id, who):
    """What is refused for a role is refused with 403 before anything is read; what is allowed never is."""
    come_in(door, who)
    for method, path in routes(app):
        least = least_role(method, path)
        if least is None or path == "/sign-out" or (path.startswith("/me") and method == "POST"):
            continue
        door.app.state.sharing.allowance.left.clear()
        if Role(who).may(least):
            if method == "GET" and not path.endswith("/events"):  # a stream has no end
                assert call(door, method, path, machine_id) not in (303, 401, 403), (method, path)
        else:
            assert call(door, method, path, machine_id) == 403, (method, path)


def test_a_new_route_that_changes_something_is_not_for_readers_by_default():
    for method in ("POST", "PUT", "PATCH", "DELETE"):
        assert least_role(method, "/something/new") is Role.BUILDER


def test_a_reader_sees_a_machine_and_changes_nothing(door, machine_id):
    come_in(door, "reader")
    page = door.get(f"/machines/{machine_id}/train").text
    assert "You have read-only access" in page
    assert posted(door, f"/machines/{machine_id}/remove", version="1").status_code == 403
    assert door.get(f"/machines/{machine_id}").status_code == 200


# -- people ----------------------------------------------------------------------------------------------------------


def test_an_owner_lets_somebody_in_who_sets_a_password_once(door):
    come_in(door, "owner")
    page = posted(door, "/people", name="Tam Weir", role="builder").text
    link = urlsplit(re.search(r'<code class="secret">(https://shop\.test/welcome/[^<]+)</code>', page)[1]).path
    door.cookies.clear()
    welcome = door.get(link)
    assert "Welcome, Tam Weir" in welcome.text
    data = {"form_token": token_of(welcome.text), "password": "too short"}
    refused = door.post(link, data=data)
    assert refused.status_code == 422
    assert "12 to 128" in refused.text
    data["password"] = "seven herons by the weir"
    assert door.post(link, data=data, follow_redirects=False).headers["location"] == "/"
    assert "Tam Weir" in door.get("/").text
    door.cookies.clear()
    assert door.get(link).status_code == 404, "it works once"
    assert come_in(door, "Tam Weir", "seven herons by the weir").status_code == 303


def test_who_loses_a_role_or_is_let_out_loses_it_at_once(door, empty_shop):
    come_in(door, "builder")
    accounts = PostgresAccounts(empty_shop)
    builder = accounts.named("builder")
    assert posted(door, "/machines", name="Mixer").status_code == 303
    accounts.set_role(builder.id, Role.READER)
    assert posted(door, "/machines", name="Mixer").status_code == 403
    accounts.set_ended(builder.id, True)
    assert door.get("/", follow_redirects=False).status_code == 303


def test_a_changed_password_signs_out_everywhere_else(door):
    come_in(door, "reader")
    elsewhere = door.cookies[SESSION_COOKIE]
    answer = posted(door, "/me/password", old=WORDS["reader"], new="another long one to read")
    assert answer.headers["location"] == "/me"
    assert door.get("/me").status_code == 200
    door.cookies.clear()
    door.cookies.set(SESSION_COOKIE, elsewhere)
    assert door.get("/me", follow_redirects=False).status_code == 303
    assert come_in(door, "reader").status_code == 401


def test_units_are_those_of_the_person_in_every_browser(door):
    come_in(door, "builder")
    posted(door, "/preferences", theme="dark")
    door.cookies.clear()
    come_in(door, "builder")
    assert 'data-theme="dark"' in door.get("/").text
    come_in(door, "reader")
    assert 'data-theme="auto"' in door.get("/").text


# -- programs and guests ---------------------------------------------------------------------------------------------


def test_a_token_reads_or_changes_as_it_was_made_until_it_ends(door, machine_id):
    come_in(door, "builder")
    tokens = []
    for changes in ("", "yes"):
        page = posted(door, "/me/tokens", name=f"sheet {changes}", days="1", changes=changes).text
        tokens.append(re.search(r'<code class="secret">([^<]+)</code>', page)[1])
    number = re.search(r'action="/me/tokens/(\d+)/end"', door.get("/me").text)[1]
    posted(door, f"/me/tokens/{number}/end")
    door.cookies.clear()
    reads, ended = ({"authorization": f"Bearer {one}"} for one in tokens)
    assert door.get("/api/v1/machines", headers=reads).status_code == 200
    path = f"/api/v1/machines/{machine_id}/undo"
    assert door.post(path, json={"version": 1}, headers=reads).status_code == 403
    assert door.get("/api/v1/machines", headers=ended).status_code == 401
    assert door.get("/", headers=reads, follow_redirects=False).status_code == 303, "a token is for the interface alone"


def test_a_guest_sees_one_machine_and_nothing_else(door, app, machine_id, empty_shop):
    other = PostgresMachines(empty_shop).create(demo_machines()[1]).id
    come_in(door, "builder")
    page = posted(door, f"/machines/{machine_id}/guests", days="3").text
    link = urlsplit(re.search(r'<code class="secret">([^<]+)</code>', page)[1]).path
    door.cookies.clear()
    assert door.get(link).status_code == 200
    assert door.cookies[GUEST_COOKIE]
    assert door.get(f"/machines/{machine_id}/sheet").status_code == 200
    assert door.get(f"/machines/{other}/sheet").status_code == 403
    for method, path in routes(app):
        least = least_role(method, path)
        if least not in (None, Role.GUEST):
            door.app.state.sharing.allowance.left.clear()
            assert call(door, method, path, machine_id) == 403, (method, path)
    door.cookies.clear()
    come_in(door, "builder")
    page = door.get(f"/machines/{machine_id}/history").text
    number = re.search(rf'action="/machines/{machine_id}/guests/(\d+)/end"', page)[1]
    posted(door, f"/machines/{machine_id}/guests/{number}/end")
    door.cookies.clear()
    assert door.get(link).status_code == 404


def test_an_ended_link_shows_nothing(door, machine_id, empty_shop):
    accounts = PostgresAccounts(empty_shop)
    accounts.add_guest_link(accounts.named("owner").id, machine_id, hash_of("secret"), now() - timedelta(seconds=1))
    assert door.get("/guest/secret").status_code == 404


# -- names -----------------------------------------------------------------------------------------------------------


def test_who_changed_what_is_in_the_history_by_name(door, machine_id):
    for who, name in (("builder", "Trommel of the builder"), ("owner", "Trommel of the owner")):
        come_in(door, who)
        version = re.search(r'data-version="(\d+)"', door.get(f"/machines/{machine_id}/train").text)[1]
        assert posted(door, f"/machines/{machine_id}/edit", **{"version": version, "set:name": name}).status_code == 303
    page = door.get(f"/machines/{machine_id}/history").text
    assert page.index("· Owner") < page.index("· Builder")


def test_a_shared_shop_answers_to_its_names_and_to_no_other(door):
    for host, status in (("shop.test", 200), ("127.0.0.1", 200), ("elsewhere.test", 421)):
        assert door.get("/healthz", headers={"host": host}).status_code == status


def test_without_sharing_nobody_signs_in_and_none_of_these_pages_is_there(client):
    assert client.get("/").status_code == 200
    for path in ("/sign-in", "/people", "/me", "/welcome/x", "/guest/x"):
        assert client.get(path).status_code == 404


def test_one_person_works_out_one_thing_at_a_time():
    desks = Desks()
    ada, bo = (Bearer(Account(str(k), f"name {k}", Role.BUILDER, True, False), Role.BUILDER, f"name {k}") for k in "ab")

    async def both(first: Bearer | None, second: Bearer | None) -> int:
        """How many of two were at it at once at most."""
        at_it = most = 0

        async def one(who: Bearer | None) -> None:
            nonlocal at_it, most
            async with desks.of(who):
                at_it += 1
                most = max(most, at_it)
                await anyio.sleep(0.02)
                at_it -= 1

        async with anyio.create_task_group() as group:
            group.start_soon(one, first)
            group.start_soon(one, second)
        return most

    with ThreadPoolExecutor(1) as apart:  # a browser test may have a loop running in this thread
        for pair, most in (((ada, ada), 1), ((ada, bo), 2), ((None, None), 2)):
            assert apart.submit(anyio.run, both, *pair).result() == most
