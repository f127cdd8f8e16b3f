"""The price service well, slow, lying and dead: quotes are kept with their date, nothing waits, nothing is spoiled."""

from __future__ import annotations

import subprocess
import sys
import threading
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import Engine

from builders import build_machine
from pulltide.ops.price_stand_in import MODES, quotes
from pulltide.services.quotes import NoAnswer, ask, sound
from pulltide.store import price_client
from pulltide.store.price_client import PriceClient
from pulltide.store.quotes import PostgresQuotes
from web.test_pages import keep, post

NAMES = ("A46", "SK-40-15-1F", "no such part")


@pytest.fixture(params=MODES)
def service(request: pytest.FixtureRequest) -> Iterator[tuple[str, PriceClient]]:
    command = [sys.executable, "-m", "pulltide.ops.price_stand_in", "--mode", request.param]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    port = process.stdout.readline().strip()
    yield request.param, PriceClient(f"http://127.0.0.1:{port}")
    process.kill()
    process.wait()
    process.stdout.close()


def test_in_every_mode_only_sound_quotes_are_kept_and_it_is_told(
    service: tuple[str, PriceClient], empty_shop: Engine, monkeypatch: pytest.MonkeyPatch
):
    mode, client = service
    monkeypatch.setattr(price_client, "PATIENCE_S", 3.0)
    store = PostgresQuotes(empty_shop)
    store.keep([("A46", 9.9, 3)])
    ask(NAMES, client.fetch, store)
    kept, told = store.kept(NAMES), store.asked().outcome
    if mode == "fine":
        assert set(kept) == {"A46", "SK-40-15-1F"}
        assert kept["A46"].price != 9.9
        assert told == "2 quotes came, 1 parts without one."
    else:
        assert kept["A46"].price == 9.9, "the kept quote stands"
        assert set(kept) == {"A46"}
        says = {"slow": "did not answer within", "dead": "cannot be reached", "wrong": "0 quotes came"}
        assert says[mode] in told


@pytest.mark.parametrize(
    "said",
    [
        None, [], {"quotes": 3}, {"quotes": [3, None, {"name": "A46"}]},
        {"quotes": [{"name": "A46", "price": float("inf"), "lead_days": 1}]},
        {"quotes": [{"name": "A46", "price": "2", "lead_days": 1}]},
        {"quotes": [{"name": "other", "price": 2, "lead_days": 1}]},
        {"quotes": [{"name": "A46", "price": True, "lead_days": 1}]},
        {"quotes": [{"name": "A46", "price": 2, "lead_days": -1}]},
    ],
)  # fmt: skip
def test_a_lying_answer_holds_no_quote(said: object):
    assert sound(said, frozenset({"A46"})) == ()


def test_a_listed_part_is_quoted_near_its_list_price_and_always_the_same():
    (first,), (again,) = list(quotes(["A46"])), list(quotes(["A46"]))
    assert first == again
    assert 0.9 * 2.7 < first["price"] < 1.1 * 2.9


def test_the_page_asks_does_not_wait_and_shows_what_came(client: TestClient):
    machine_id = keep(client)

    answered, done = threading.Event(), threading.Event()

    class Slow:
        def fetch(self, names):
            answered.wait(60)
            done.set()
            raise NoAnswer("did not answer")

    class Well:
        def fetch(self, names):
            return {"quotes": [{"name": name, "price": 7.5, "lead_days": 2} for name in names]}

    client.app.state.prices = Slow()
    answer = post(client, f"/machines/{machine_id}/quotes", plan="0")
    assert answer.status_code == 303
    assert not done.is_set(), "the page came while the service still had not answered"
    answered.set()
    assert done.wait(10)
    client.app.state.prices = Well()
    post(client, f"/machines/{machine_id}/quotes", plan="0")
    page = client.get(answer.headers["location"]).text
    assert "quotes came" in page
    assert "7.5, 2 days" in page
    assert post(client, f"/machines/{machine_id}/quotes", plan="9").status_code == 404
    assert build_machine().plans[0].links, "a plan with parts to ask for"
    client.app.state.prices = PriceClient("")
    post(client, f"/machines/{machine_id}/quotes", plan="0")
    assert "is switched off" in client.get(answer.headers["location"]).text
