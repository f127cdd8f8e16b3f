"""Documents of every released version are read, solved as before, and never lost."""

from __future__ import annotations

import json
from copy import deepcopy
from pathlib import Path
from typing import Any

import pytest

from pulltide.core.errors import InputErrors
from pulltide.core.line import solve_plan
from pulltide.core.machine import FORMAT_VERSION, Machine
from pulltide.demo import demo_machines
from pulltide.quantities import Units
from pulltide.services.documents import STEPS, UnreadableDocument, loaded, upgraded
from pulltide.services.raw_machines import read_machine

SAMPLES = sorted((Path(__file__).parents[1] / "data").glob("version_*/*.json"))


def sample(name: str = "marlpit") -> dict[str, Any]:
    (path,) = (path for path in SAMPLES if path.stem == name and path.parent.name == "version_1")
    return json.loads(path.read_text("utf-8"))


def test_every_version_has_samples_and_a_step():
    assert {path.parent.name for path in SAMPLES} == {f"version_{number}" for number in range(1, FORMAT_VERSION)}
    assert sorted(STEPS) == list(range(1, FORMAT_VERSION))


@pytest.mark.parametrize("path", SAMPLES, ids=lambda path: f"{path.parent.name} {path.stem}")
def test_a_document_of_a_former_version_is_read_and_solved(path: Path):
    raw = json.loads(path.read_text("utf-8"))
    before = deepcopy(raw)
    machine = read_machine(raw, Units())
    assert raw == before, "reading changes nothing that is stored"
    assert machine.format_version == FORMAT_VERSION
    # a stored document holds plain numbers; a file may hold text with units
    assert loaded(machine.model_dump(mode="json")) == machine
    for plan in machine.plans:
        assert solve_plan(machine, plan) is not None


@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
@pytest.mark.parametrize("version", [f"version_{number}" for number in STEPS])
def test_the_demo_of_every_version_is_the_demo_of_today(version: str, machine: Machine):
    samples = [p for p in SAMPLES if p.parent.name == version and p.stem in machine.name.lower()]
    (old,) = (loaded(json.loads(path.read_text("utf-8"))) for path in samples)
    # what is known of shafts, a coupling to the last one, and further plans came later
    bare = [
        plan.model_copy(update={"shafts": (), "links": plan.links[: len(before.links)]})
        for plan, before in zip(machine.plans, old.plans, strict=False)
    ]
    assert [plan.model_copy(update={"shafts": ()}) for plan in old.plans] == bare
    assert old.need == machine.need


def test_the_step_to_version_2_turns_words_into_codes_but_no_free_text():
    raw = {"format_version": 1, "name": "flat drum", "note": "open, greased", "plans": [{"name": "as listed"}]}
    raw["need"] = {"last_shaft": "tin bronze", "worksheet": {"kind": "mill", "material": "C45 normalised"}}
    raw["plans"][0]["links"] = [{"kind": "v_belt", "driven_rim": "flat drum", "idler": "tight strand, inside"}]
    found = upgraded(raw)
    assert (found["name"], found["note"], found["plans"][0]["name"]) == ("flat drum", "open, greased", "as listed")
    assert found["need"]["last_shaft"] == "tin bronze"
    assert found["need"]["worksheet"]["material"] == "C45_normalized"
    assert found["plans"][0]["links"][0]["driven_rim"] == "flat_drum"
    assert found["plans"][0]["links"][0]["idler"] == "tight_strand_inside"
    assert upgraded(found) == found


@pytest.mark.parametrize(
    ("change", "reason"),
    [
        ({"format_version": FORMAT_VERSION + 1}, "newer version"),
        ({"plans": []}, "plans"),
        ({"need": {"last_shaft": "x", "blades": 4}}, "need.blades"),
        ({"duty": {"shock": "none at all"}}, "duty.shock"),
    ],
)
def test_what_cannot_be_read_says_why(change: dict[str, Any], reason: str):
    with pytest.raises(UnreadableDocument) as refused:
        loaded({**sample(), **change})
    assert reason in str(refused.value)
    assert refused.value.name == sample()["name"]


@pytest.mark.parametrize("raw", [None, [], "x", {}, {"name": 4}, {"format_version": True}, {"format_version": -1}])
def test_no_document_at_all_is_told_apart(raw: object):
    with pytest.raises(UnreadableDocument):
        loaded(raw)


def test_a_file_of_a_newer_program_is_refused_by_name():
    with pytest.raises(InputErrors, match="newer version of this program"):
        read_machine({**sample(), "format_version": FORMAT_VERSION + 1}, Units())
