"""Why not a drive with this part: any part of any list, by its name."""

from __future__ import annotations

import re
from html import unescape
from urllib.parse import unquote_plus

from fastapi.testclient import TestClient

from builders import LOOKED_UP
from pulltide.core.machine import Machine
from pulltide.demo import demo_machines
from web.test_pages import keep

MACHINE = next(machine for machine in demo_machines() if machine.name.startswith("Windrow"))


def asked(client: TestClient, machine_id: str, **said: str) -> str:
    answer = client.get(f"/machines/{machine_id}/with-part", params=said, follow_redirects=False)
    assert answer.status_code == 303
    return unquote_plus(answer.headers["location"])


def test_every_drive_shown_holds_the_part_that_is_named(client: TestClient):
    machine_id = keep(client, MACHINE)
    free = client.get(f"/machines/{machine_id}/ways?wish=stages:2").text
    listed = re.findall(r'<details class="aside"><summary>[^<]*</summary>([^<]*)</details>', free)
    name = re.sub(r"^\d+ × ", "", listed[-1].split(", ")[0])
    at = asked(client, machine_id, part=f"  {name} ", wish="stages:2")
    assert at == f"/machines/{machine_id}/ways?wish=stages:2;use:{name}"
    page = client.get(at).text
    articles = re.findall(r'<article class="way".*?</article>', page, re.S)
    assert articles
    assert all(name in one for one in articles)


def test_another_part_takes_the_place_of_the_first_and_none_lets_all_in_again(client: TestClient):
    machine_id = keep(client, MACHINE)
    assert asked(client, machine_id, part="A46", wish="use:A51;stages:1").endswith("wish=stages:1;use:A46")
    assert asked(client, machine_id, part=" ", wish="use:A51;stages:1").endswith("wish=stages:1")
    assert asked(client, machine_id, part="a;rank:price", wish="").endswith("wish=use:a rank:price")


def test_what_may_be_demanded_of_the_shelf_are_parts_of_stages(client: TestClient):
    """A bar or a pillow block is for the bill alone."""
    lying = [
        {"family": "v_pulley", "designation": "A 3.5", "section": "A", "grooves": 1, "outside_mm": 88.9},
        {"family": "bar", "designation": "round bar", "outside_mm": 30.0, "length_mm": 700.0},
        {"family": "bearing_block", "designation": "old block", "bore_mm": 30.0},
    ]
    kept = [client.post("/api/v1/lists/shelf/parts", json=one | {"on_hand": 4, "condition": "new"}) for one in lying]
    assert [answer.status_code for answer in kept] == [201, 201, 201], kept[0].text
    page = client.get(f"/machines/{keep(client, MACHINE)}/ways?wish=stages:1").text
    must_use = re.search(r"Must use.*?Stages", page, re.S).group()
    assert "A 3.5" in must_use
    assert "round bar" not in must_use
    assert "old block" not in must_use
    assert "is in no stage" not in client.get(f"/machines/{keep(client, MACHINE)}/ways?wish=stages:1;use:A 3.5").text


def test_more_like_this_leads_to_the_best_of_that_kind_alone(client: TestClient):
    machine_id = keep(client, MACHINE)
    page = client.get(f"/machines/{machine_id}/ways?wish=stages:2").text
    rows = re.findall(r'<article class="way".*?</article>', page, re.S)
    row = next(one for one in rows if "more like this" in one)
    name = re.search(r"</span> ([^<]*)</h2>", row)[1]
    link = unescape(re.search(r'<a href="([^"]*)" data-live>[^<]* more like this', row)[1])
    alike = client.get(link).text
    found = re.findall(r'<article class="way".*?</article>', alike, re.S)
    assert len(found) > 1
    assert all(f"</span> {name}</h2>" in one for one in found)
    assert f"{len(found)} drives" in alike
    stages = re.compile(r"</h2>\s*<p>([^<]*)</p>")
    assert stages.search(row)[1] in [stages.search(one)[1] for one in found], "the one it was like is among them"


def test_what_is_taken_on_the_way_is_said_not_to_be_counted(client: TestClient):
    raw = MACHINE.model_dump(mode="json")
    raw["plans"][0]["shafts"] = [{"shaft": 2, "take_off_nm": 0.4}, {"shaft": 3, "take_off_nm": 1.0}]
    machine_id = keep(client, Machine.model_validate(raw, context=LOOKED_UP))
    said = "not counted, add those to the drive you take: the take-off of shafts 2 and 3"
    assert said in client.get(f"/machines/{machine_id}/ways?wish=stages:1").text
    assert said not in client.get(f"/machines/{machine_id}/ways?wish=stages:1;free:1").text
    told = client.post(f"/api/v1/machines/{machine_id}/search", json={"stages": 1}).json()
    assert told["take_offs_left_out"] == [2, 3]
    assert "take-off" not in client.get(f"/machines/{keep(client, MACHINE)}/ways?wish=stages:1").text


def test_a_part_that_no_stage_is_made_of_is_said(client: TestClient):
    machine_id = keep(client, MACHINE)
    page = client.get(asked(client, machine_id, part="no such part", wish="stages:1")).text
    assert "no such part" in page
    assert "is in no stage that a search may take" in page


def test_further_speeds_are_read_with_their_unit_and_are_one_wish_among_others(client: TestClient):
    machine_id = keep(client, MACHINE)

    def led_to(**said: str):
        return client.get(f"/machines/{machine_id}/with-speeds", params=said, follow_redirects=False)

    at = unquote_plus(led_to(speeds="120, 4 Hz", wish="speeds:9;stages:1").headers["location"])
    assert at.endswith("wish=stages:1;speeds:120,240")
    assert unquote_plus(led_to(speeds=" ", wish="speeds:9").headers["location"]).endswith("/ways")
    refused = led_to(speeds="12 bananas", wish="stages:1").headers["location"]
    page = client.get(refused).text
    assert 'value="12 bananas"' in page, "what was typed stays"
    assert "Must also run at" in page[page.index('id="speeds-fault"') :]
    assert re.findall(r'aria-current="true">up to (\d)', page) == ["1"], "all else that is asked for too"
    many = client.get(f"/machines/{machine_id}/ways?wish=stages:1;speeds:1,2,3,4,5,6,7,8,9,10,11").text
    assert 'id="speeds-fault"' in many
    page = client.get(f"/machines/{machine_id}/ways?wish=stages:1;speeds:0.02").text
    assert "also 0.02 rpm" in page
