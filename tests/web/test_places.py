"""Places: addresses of their own, former addresses, and one more place that nothing else knows of."""

from __future__ import annotations

import re

import pytest
from fastapi.testclient import TestClient
from jinja2 import ChoiceLoader, DictLoader

from builders import build_machine
from pulltide.demo import demo_machines
from pulltide.quantities import Units
from pulltide.web import page_view as shell
from pulltide.web import places
from pulltide.web.places import PLACES, Context, Place, Summary
from pulltide.web.selection import Selection
from pulltide.web.templating import environment
from pulltide.words import DEFAULT_LOCALE
from web.test_pages import post


@pytest.fixture
def machine_id(client: TestClient) -> str:
    return client.app.state.machines.create(build_machine()).id


@pytest.mark.parametrize("place", PLACES, ids=lambda place: place.key)
def test_a_place_has_its_address_and_its_mark_on_the_rail(client: TestClient, machine_id: str, place: Place):
    page = client.get(f"/machines/{machine_id}/{place.key}")
    assert page.status_code == 200
    (here,) = re.findall(r'<a href="([^"]+)"\s+data-live\s+data-shortcut="(\w)"\s+class="here"', page.text)
    assert here == (f"/machines/{machine_id}/{place.key}", place.shortcut)
    assert len(set(re.findall(r'data-shortcut="(\w)"', page.text))) == len(PLACES)


@pytest.mark.parametrize(
    ("former", "now"),
    [
        ("", "/train"),
        ("?at=need", "/need"),
        ("?plan=0&at=duty", "/duty"),
        ("?at=source&show=line/ratio", "/source?show=line/ratio"),
        ("?at=link-2&show=link-2/wrap", "/train?at=link-2&show=link-2/wrap"),
        ("?at=nonsense", "/train?at=nonsense"),
    ],
)
def test_a_former_address_leads_to_its_place(client: TestClient, machine_id: str, former: str, now: str):
    answer = client.get(f"/machines/{machine_id}{former}", follow_redirects=False)
    assert answer.status_code == 307
    assert answer.headers["location"] == f"/machines/{machine_id}{now}"
    assert client.get(answer.headers["location"]).status_code == 200


HIDDEN = re.compile(r"<(script|style|title|select|datalist)\b.*?</\1>", re.DOTALL)
#: A figure in a unit that a person may have chosen another for.
METRIC = re.compile(r"\d (mm|m/s|m/min|N|N·m|kg|kW|MPa|kPa)(?![\w²³/·])")
#: What a listed motor is called, what is written into a field, and the two lines of a working.
AS_WRITTEN = re.compile(r"0\.75 kW (three-phase )?motor|write 24 kg|^\S+ = ")


@pytest.mark.parametrize("name", ["Lofthook", "Bellwether"])
def test_every_place_is_told_in_a_persons_units(client: TestClient, name: str):
    demo = next(machine for machine in demo_machines() if name in machine.name)
    machine_id = client.app.state.machines.create(demo.model_copy(update={"note": ""})).id
    chosen = {"length": "in", "torque": "lbf*ft", "power": "hp", "force": "lbf", "rim_speed": "ft/min", "mass": "lb"}
    post(client, "/preferences", **chosen)
    shown = 0
    for place in PLACES:
        page = client.get(f"/machines/{machine_id}/{place.key}", headers={"x-remedies": "later"}).text
        shown += page.count("lb·ft")
        lines = (" ".join(line.split()) for line in re.sub(r"<[^>]+>", "\n", HIDDEN.sub(" ", page)).split("\n"))
        assert not [line for line in lines if METRIC.search(line) and not AS_WRITTEN.search(line)], place.key
    assert shown > 20


@pytest.mark.parametrize("path", ["/nowhere", "/need/more", "/train.html"])
def test_a_place_that_is_not_there_is_not_found(client: TestClient, machine_id: str, path: str):
    assert client.get(f"/machines/{machine_id}{path}").status_code == 404


@pytest.fixture
def toy(monkeypatch: pytest.MonkeyPatch) -> Place:
    """A place in one folder of templates and one name in the registry."""
    made = Place(
        "toy", "Toy", "y", lambda context: Summary(f"{len(context.plan.links)} stages", True), lambda c: c.names
    )
    templates = {
        "places/toy/main.html": "<p>{% for name in body %}{{ name }}; {% endfor %}</p>",
        "places/toy/side.html": "<aside>{{ view.place.title }}</aside>",
    }
    english = environment(DEFAULT_LOCALE)
    monkeypatch.setattr(english, "loader", ChoiceLoader([english.loader, DictLoader(templates)]))
    for module in (places, shell):
        monkeypatch.setattr(module, "PLACES", (*PLACES, made))
    return made


def test_a_place_more_is_walked_to_from_every_other(client: TestClient, machine_id: str, toy: Place):
    for place in PLACES:
        page = client.get(f"/machines/{machine_id}/{place.key}").text
        assert f'href="/machines/{machine_id}/toy"' in page
        assert "3 stages" in page
    page = client.get(f"/machines/{machine_id}/toy")
    assert "Motor; Reducer in; Reducer out; " in page.text
    assert "<aside>Toy</aside>" in page.text
    # what is posted from it is answered by it
    assert client.app.state.machines.get(machine_id).version == 1


def test_a_place_works_out_only_what_it_shows(monkeypatch: pytest.MonkeyPatch, client: TestClient, machine_id: str):
    stored = client.app.state.machines.get(machine_id)
    asked: list[str] = []
    monkeypatch.setattr("pulltide.web.places.contract.with_remedies", lambda *args: asked.append("remedies"))
    for key in ("need", "duty", "source"):
        context = Context(stored, Selection(place=key), Units())
        shell.page_view(context, "")
    assert asked == []
