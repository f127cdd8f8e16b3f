"""The shelf and the shop's lists as pages: added, refused, read in, written out."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from builders import build_machine
from pulltide.demo import demo_shelf
from pulltide.services.lists.look import look
from pulltide.services.stock import SHELF
from web.test_pages import keep, post, token

LISTS = Path(__file__).parents[1] / "data" / "lists"
PART = {"list": "shelf", "family": "v_pulley", "designation": "old fan pulley", "section": "A", "on_hand": "1"}


def send(client: TestClient, name: str, content: bytes, **fields: str):
    data = {"form_token": token(client), "list": "Yard", **fields}
    files = {"file": (name, content, "text/csv")}
    return client.post("/stock/import", data=data, files=files, follow_redirects=False).headers["location"]


def words(page: str) -> str:
    return re.sub(r"<[^>]+>|\s+", " ", page)


def test_a_part_is_measured_and_put_on_the_shelf_in_any_unit(client: TestClient):
    post(client, "/stock/part", **PART, outside_mm="3 1/2 in", bore_mm='5/8"', grooves="1", condition="used_good")
    page = client.get("/stock").text
    assert "old fan pulley" in page
    assert "88.9 mm outside" in page
    (item,) = client.app.state.stock.page(SHELF).items
    assert item.holding.bore_mm == pytest.approx(15.875)
    post(client, "/stock/part", **PART, id=item.id, outside_mm="90 mm", grooves="1")
    (item,) = client.app.state.stock.page(SHELF).items
    assert item.holding.outside_mm == 90


def test_a_part_changed_in_inches_keeps_the_sizes_that_nobody_touched(client: TestClient):
    post(client, "/stock/part", **PART, outside_mm="100 mm", bore_mm="19.3 mm", grooves="1")
    (item,) = client.app.state.stock.page(SHELF).items
    post(client, "/preferences", length="in")
    form = re.findall(r'name="(outside_mm|bore_mm)"[^>]*value="([^"]*)"', client.get(f"/stock?part={item.id}").text)
    assert form == [("outside_mm", "3.937 in"), ("bore_mm", "0.7598 in")]
    post(client, "/stock/part", **PART, id=item.id, grooves="2", **dict(form))
    (item,) = client.app.state.stock.page(SHELF).items
    assert (item.holding.outside_mm, item.holding.bore_mm, item.holding.grooves) == (100.0, 19.3, 2)
    post(client, "/stock/part", **PART, id=item.id, grooves="2", outside_mm="4 in")
    (item,) = client.app.state.stock.page(SHELF).items
    assert item.holding.outside_mm == pytest.approx(101.6)


@pytest.mark.parametrize(
    ("field", "text", "said"),
    [
        ("outside_mm", "3 pints", "a length in mm"),
        ("outside_mm", "3 furlongs", "up to 5000 mm"),
        ("outside_mm", "-4", "more than 0 mm"),
        ("teeth", "17.5", "whole number"),
        ("section", "Q", "not known"),
        ("grooves", "0", "Accepted: 1 to "),
        ("bore_mm", "200", "over the root"),
        ("designation", "", "missing"),
    ],
)
def test_a_part_that_cannot_be_keeps_what_was_typed(client: TestClient, field: str, text: str, said: str):
    fields = {**PART, "outside_mm": "88.9", "grooves": "1", "note": "typed before", field: text}
    answer = post(client, "/stock/part", **fields)
    assert answer.status_code == 422
    assert said in words(answer.text)
    assert "typed before" in answer.text
    assert client.app.state.stock.page(SHELF).total == 0


def test_a_part_taken_off_can_be_put_back(client: TestClient):
    client.app.state.stock.put(SHELF, demo_shelf()[:3])
    item = client.app.state.stock.page(SHELF).items[0]
    page = post(client, "/stock/part/remove", list="shelf", id=item.id).text
    assert client.app.state.stock.page(SHELF).total == 2
    kept = re.search(r'name="part"\s+value="([^"]+)"', page)[1].replace("&#34;", '"')
    post(client, "/stock/part/put-back", list="shelf", part=kept)
    assert [one.holding for one in client.app.state.stock.page(SHELF).items].count(item.holding) == 1
    assert post(client, "/stock/part/put-back", list="shelf", part="{").status_code == 422


def test_a_list_is_looked_at_taken_and_written_out_the_same(client: TestClient):
    good = (LISTS / "good.csv").read_bytes()
    address = send(client, "good.csv", good)
    page = words(client.get(address).text)
    assert "14 good rows" in page
    assert client.app.state.stock.page("Yard").total == 0, "nothing is kept before it is taken"
    post(client, f"{address}/take")
    assert "Added: 14" in words(client.get(address).text)
    wanted = sorted((holding for _, holding in look(good).holdings), key=lambda one: (one.family, one.designation))
    for name in ("list.csv", "list.xlsx"):
        written = client.get(f"/stock/{name}?list=Yard")
        again = look(written.content, name)
        assert again.faults == ()
        assert sorted((one for _, one in again.holdings), key=lambda one: (one.family, one.designation)) == wanted
    post(client, "/stock/clear", list="Yard", sure="yard")
    assert client.app.state.stock.page("Yard").total == 0


def test_rows_with_a_fault_go_only_where_that_is_said(client: TestClient):
    address = send(client, "bad_unit.csv", (LISTS / "bad_unit.csv").read_bytes())
    page = words(client.get(address).text)
    assert "3 that cannot be read" in page
    assert "4 furlongs" in page
    assert post(client, f"{address}/take").status_code == 422
    assert client.app.state.stock.page("Yard").total == 0
    post(client, f"{address}/take", rest="yes")
    assert client.app.state.stock.page("Yard").total == 4


@pytest.mark.parametrize(
    "name", ["bad_encoding_latin1.csv", "bad_workbook.csv", "bad_unclosed_quote.csv", "bad_empty.csv"]
)
def test_a_file_that_is_refused_says_why_and_where(client: TestClient, name: str):
    address = send(client, name, (LISTS / name).read_bytes())
    page = words(client.get(address).text)
    assert "Nothing of this file was read" in page
    assert post(client, f"{address}/take").status_code == 422


def test_the_same_item_twice_is_asked_about(client: TestClient):
    content = (LISTS / "odd_duplicate_rows.csv").read_bytes()
    for choice, count in (("first", 2), ("add", 4)):
        address = send(client, "odd.csv", content)
        assert "stands there already" in client.get(address).text
        post(client, f"{address}/take", twice=choice, afresh="yes")
        found = client.app.state.stock.page("Yard", "VP-A-3.50-1F").items
        assert [one.holding.on_hand for one in found if one.holding.condition == "new"] == [count]


def test_columns_are_matched_once_and_remembered_for_the_list(client: TestClient):
    good = (LISTS / "good.csv").read_bytes().replace(b"designation", b"Artikel", 1)
    address = send(client, "a.csv", good)
    state = client.app.state.stock.received(address.rsplit("/", 1)[1]).state
    headers = [header for header, *_ in state["columns"]] + state["unused"]
    fields = {header: field for header, field, _ in state["columns"]} | {"Artikel": "designation"}
    post(client, f"{address}/match", **{f"column:{at}": fields[header] for at, header in enumerate(headers)})
    assert "14 good rows" in words(client.get(address).text)
    again = send(client, "b.csv", good)
    assert "14 good rows" in words(client.get(again).text)


def test_markup_and_formulas_in_a_list_are_plain_text_everywhere(client: TestClient):
    address = send(client, "odd_markup.csv", (LISTS / "odd_markup.csv").read_bytes())
    post(client, f"{address}/take")
    page = client.get("/stock?list=Yard").text
    assert "<script>alert" not in page
    assert "<img src=x" not in page
    post(client, "/stock/part", **{**PART, "designation": "-1+cmd", "outside_mm": "88.9", "grooves": "1"})
    written = client.get("/stock/list.csv?list=shelf").text
    assert ",'-1+cmd," in written


def test_plans_that_count_on_the_same_part_are_told(client: TestClient):
    chain = {"kind": "roller_chain", "chain": "40", "driver_teeth": 15, "driven_teeth": 36, "pitches": 90}
    client.app.state.stock.put(SHELF, demo_shelf())
    for _ in range(3):
        keep(client, build_machine(links=[chain]))
    page = words(client.get("/stock?family=sprocket").text)
    assert re.search(r"40, 15 teeth.*?2\s+used, good\s+not enough: Test rig, Test rig, Test rig|not enough", page)


def test_what_is_not_there_is_not_found_and_large_files_are_refused(client: TestClient):
    assert client.get("/stock/import/none").status_code == 404
    assert client.get("/stock?start=-1").status_code == 422
    big = client.post("/stock/import", content=b"x" * 8_300_000, headers={"content-type": "text/csv"})
    assert big.status_code == 413
    assert client.post("/machines/import", content=b"x" * 1_100_000).status_code == 413


def test_a_measured_wheel_is_looked_up_and_starts_the_form(client: TestClient):
    page = client.get("/stock?what=v_pulley&outside=3+1/2+in&second=1/2+in").text
    assert all(f">{name}</a>" in page for name in ("4L", "A", "SPA"))
    link = re.search(r'href="([^"]+section=A#part)"', page)[1].replace("&amp;", "&")
    form = client.get(link.split("#")[0]).text
    assert 'name="section" value="A"' in re.sub(r"\s+", " ", form)
    assert 'value="3 1/2 in"' in form
    assert "write a plain number" in client.get("/stock?what=sprocket&outside=73&second=many").text
    assert "comes near" in client.get("/stock?what=sprocket&outside=900&second=9").text
    for query, fault in (
        ("what=sprocket&outside=-4&second=9", "Outside diameter: -4 mm is out of range; accepted: more than 0"),
        ("what=sprocket&outside=73&second=1", "Teeth: 1 is out of range; accepted: a whole number from 5 to 2000"),
        ("what=spur_gear&outside=73&second=20.5", "Teeth: 20.5 is out of range"),
        (
            "what=v_pulley&outside=73&second=9+in",
            "Groove width: 229 mm is out of range; accepted: more than 0, up to 100 mm",
        ),
    ):
        assert fault in client.get(f"/stock?{query}").text
