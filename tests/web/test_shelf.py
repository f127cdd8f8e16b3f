"""Units on the shelf: put there from a stage, chosen for another, and what the lists say of a plan."""

from __future__ import annotations

import pytest
from fastapi.testclient import TestClient

from builders import SHIPPED, build_machine
from pulltide.core.catalog import Catalog, Item
from pulltide.core.errors import InputErrors
from pulltide.core.holding import Holding
from pulltide.quantities import DEFAULT_UNITS, Units
from pulltide.services.change import Change
from pulltide.services.editing import apply_change
from pulltide.services.shelf import ShelfItem, shop_catalog
from pulltide.services.stock import SHELF
from web.test_pages import keep, post, set_value

OWN = {"type": "helical", "ratio": 18.0, "turn": "same", "rated_torque_nm": 300.0, "rated_input_rpm": 1750.0}
WITH_OWN = [{"kind": "reducer", "designation": "own", "own": OWN}]
STAGE = "plans.0.links.1"


def test_a_unit_is_put_on_the_shelf_and_taken_for_another_machine(client: TestClient):
    first, second = keep(client, build_machine(links=WITH_OWN)), keep(client)
    answer = post(client, f"/machines/{first}/shelf", plan="0", stage="1", name="rack 2, gray one")
    assert answer.headers["location"] == f"/machines/{first}/train?at=link-1"
    assert "rack 2, gray one" in client.get(f"/machines/{second}/train?at=link-2").text
    page = set_value(client, second, f"{STAGE}.designation", "rack 2, gray one").text
    assert "18 : 1" in page
    assert "From your shelf" in client.get(f"/machines/{second}/train?at=link-2").text
    taken = client.app.state.machines.get(second).machine.plans[0].links[1]
    assert (taken.data.torque_1750_nm, taken.data.by_plate, taken.own) == (300.0, True, None)
    # taken off the shelf, the plan keeps what it was made with and says so
    (thing,) = client.app.state.shelf.items("reducer")
    post(client, f"/shelf/{thing.id}/remove", back="/")
    page = client.get(f"/machines/{second}/train").text
    assert "This part is on no list here" in page
    assert "18 : 1" in page
    result = client.get(f"/api/v1/machines/{second}/result").json()
    assert "catalog.not_listed" in {finding["code"] for finding in result["plans"][0]["findings"]}


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({"stage": "3"}, "no single part"),
        ({"stage": "9"}, "no single part"),
        ({"stage": "2", "name": ""}, "1 to 60"),
        ({"stage": "2", "plan": "7"}, "does not exist"),
        ({"stage": "x"}, "whole number"),
    ],
)
def test_what_cannot_lie_on_the_shelf_is_refused(client: TestClient, fields: dict, said: str):
    answer = post(client, f"/machines/{keep(client)}/shelf", **({"plan": "0", "name": "thing"} | fields))
    assert answer.status_code == 422
    assert said in answer.text


def test_a_list_that_changed_is_shown_beside_the_plan_and_taken_on_request(client: TestClient):
    machine_id = keep(client)
    other = SHIPPED.find("reducer", "PW-6 15:1").data.model_copy(update={"torque_1750_nm": 99.0, "mass_kg": 31.0})
    client.app.state.shelf.put("reducer", "PW-6 15:1", other.model_dump(mode="json"))
    page = client.get(f"/machines/{machine_id}/train?at=link-2").text
    assert "The list now has other data for this part" in page
    assert "The list now says otherwise" in page
    assert "99 N·m" in page
    page = post(client, f"/machines/{machine_id}/edit?at=link-2", version="1", operation="refresh_link", index="1").text
    assert "The list now" not in page
    assert client.app.state.machines.get(machine_id).machine.plans[0].links[1].data.torque_1750_nm == 99.0


def test_another_name_brings_other_data_and_an_unknown_one_is_refused_with_those_alike():
    machine = build_machine()
    after, _ = apply_change(machine, Change(sets={f"{STAGE}.designation": "PW-5 15:1"}), DEFAULT_UNITS)
    assert after.plans[0].links[1].data == SHIPPED.find("reducer", "PW-5 15:1").data
    with pytest.raises(InputErrors, match="PW-5 15:1"):
        apply_change(machine, Change(sets={f"{STAGE}.designation": "PW-5 16:1"}), DEFAULT_UNITS)
    with pytest.raises(InputErrors, match="no part that is on a list"):
        apply_change(machine, Change(operation="refresh_link", index=0), DEFAULT_UNITS)


def test_what_cannot_be_read_on_the_shelf_stays_there_unused():
    class Odd:
        def own(self) -> tuple[Item, ...]:
            return ()

        def items(self, family: str = "") -> list[ShelfItem]:
            good = SHIPPED.find("reducer", "PW-5 15:1").data.model_dump(mode="json")
            return [
                ShelfItem("1", "reducer", "broken", {"ratio": "many"}),
                ShelfItem("2", "flux_capacitor", "odd", {}),
                ShelfItem("3", "reducer", "good", {**good, "designation": "good"}),
            ]

    shop = shop_catalog(Odd())
    assert shop.names("reducer")[-1] == "good"
    assert shop.find("reducer", "broken") is None


def test_a_motor_of_the_shelf_is_no_stock_motor(client: TestClient):
    """The shelf has its own list on the page."""
    machine_id = keep(client)
    post(client, f"/machines/{machine_id}/shelf", plan="0", name="under the bench")
    page = client.get(f"/machines/{machine_id}/source").text
    assert page.count("under the bench") == page.count("under the bench taken from the shelf") + 1 + 1
    assert '<option value="under the bench"' not in page
    lists = Catalog((*SHIPPED.items, Item("source", "x", SHIPPED.of("source")[0].data, "shelf")))
    assert lists.find("source", "x").origin == "shelf"
    assert Units()


def test_a_part_is_picked_by_what_it_does(client: TestClient):
    """The list of reducers for a stage: each row a whole line; taking one leaves the list open, with it marked."""
    machine_id = keep(client)
    page = client.get(f"/machines/{machine_id}/train?at=link-2").text
    assert "at=link-2&amp;pick=designation#picker" in page
    page = client.get(f"/machines/{machine_id}/train?at=link-2&pick=designation").text
    assert "Nearest to the ideal speed first" in page
    assert page.count('class="chosen"') >= 1
    assert 'aria-label="Take PW-7 15:1"' in page
    page = set_value(client, machine_id, "plans.0.links.1.designation", "PW-7 15:1").text
    assert client.app.state.machines.get(machine_id).machine.plans[0].links[1].designation == "PW-7 15:1"


@pytest.mark.parametrize(
    "pick", ["nothing", "steps.9.driven_diameter_mm", "steps.x.y", "designation", "a" * 60, "steps", "."]
)
def test_a_list_that_does_not_exist_is_not_shown(client: TestClient, pick: str):
    answer = client.get(f"/machines/{keep(client)}/train?at=link-1&pick={pick}")
    assert answer.status_code == 200
    assert 'id="picker"' not in answer.text


def test_compare_says_which_other_machine_counts_on_a_part_of_the_shelf(client: TestClient):
    machine = build_machine()
    belt = machine.plans[0].links[0].belt
    assert belt
    client.app.state.stock.put(
        SHELF, [Holding(family="v_belt", designation=belt, section="A", on_hand=6, condition="new")]
    )
    mixer, sifter = (keep(client, machine.model_copy(update={"name": name})) for name in ("Mixer", "Sifter"))
    page = client.get(f"/machines/{mixer}/compare").text
    assert "also counted on by Sifter" in page
    assert "also counted on by Mixer" not in page
    assert "also counted on by Mixer" in client.get(f"/machines/{sifter}/compare").text


def test_a_spare_that_is_built_in_is_counted_down_and_up_again(client: TestClient):
    machine = build_machine()
    belt = machine.plans[0].links[0].belt
    assert belt
    holding = Holding(family="v_belt", designation=belt, section="A", on_hand=1, condition="new")
    client.app.state.stock.put(SHELF, [holding])
    machine_id = keep(client, machine)

    def step(what: str):
        fields = {"part": belt, "step": what}
        return post(client, f"/machines/{machine_id}/log/spare", fragment=False, **fields).status_code

    def shown() -> str:
        return client.get(f"/machines/{machine_id}/log").text

    assert f"<b>{belt}</b> · 1 on hand" in shown()
    assert step("used") == 303
    assert f"<b>{belt}</b> · 1 on hand" not in shown()
    assert step("used") == 422
    assert step("back") == 303
    assert f"<b>{belt}</b> · 1 on hand" in shown()
