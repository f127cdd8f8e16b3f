"""Codes stay inside: every page and every report says its choices in words."""

from __future__ import annotations

import html
import json
import re
from collections.abc import Iterator
from enum import Enum
from typing import Any, Literal, get_args, get_origin

import pytest
from fastapi.testclient import TestClient
from pydantic import BaseModel, ValidationError

from builders import SHIPPED, build_machine
from pulltide.core.ends import END_KINDS
from pulltide.core.family import Family
from pulltide.core.findings import judge, judge_two
from pulltide.core.holding import Holding
from pulltide.core.links import FAMILIES
from pulltide.core.machine import Machine
from pulltide.core.made.discs import LOOSE
from pulltide.core.methods import METHODS
from pulltide.core.needs import NEED_KINDS
from pulltide.core.needs.door import BALANCE, SPEED
from pulltide.core.practice.tasks import task
from pulltide.core.sources import SOURCE_KINDS, source_kind
from pulltide.demo import demo_machines
from pulltide.presentation.words import finding_line
from pulltide.quantities import Units
from pulltide.services.calculate import schema_of
from pulltide.services.documents import upgraded
from pulltide.services.reporting import solve_report
from pulltide.words import DEFAULT_LOCALE, choice, filled, reading, translations
from worksheets import WORKSHEETS

HIDDEN = re.compile(r"<(script|style|title)\b.*?</\1>|<datalist.*?</datalist>", re.DOTALL)
MARK = re.compile(r"\{[^{}|]*\|[^{}|]*\}")


def choices_of(annotation: Any) -> Iterator[str]:
    if isinstance(annotation, type) and issubclass(annotation, Enum):
        yield from (item.value for item in annotation)
    if get_origin(annotation) is Literal:
        yield from (item for item in get_args(annotation) if isinstance(item, str))
        return
    for part in get_args(annotation):
        yield from choices_of(part)


def models_of(annotation: Any) -> Iterator[type[BaseModel]]:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        yield annotation
    for part in get_args(annotation):
        yield from models_of(part)


def every_model(model: type[BaseModel], seen: dict[type[BaseModel], None]) -> None:
    if model in seen:
        return
    seen[model] = None
    for info in model.model_fields.values():
        for inner in models_of(info.annotation):
            every_model(inner, seen)


def all_models() -> list[type[BaseModel]]:
    seen: dict[type[BaseModel], None] = {}
    loose = (kind.model for kind in LOOSE.values())
    for model in (Machine, Holding, *loose, *(method.inputs for method in METHODS.values())):
        every_model(model, seen)
    return list(seen)


CODES = sorted(
    {code for model in all_models() for info in model.model_fields.values() for code in choices_of(info.annotation)}
)


def test_a_choice_is_a_code_never_a_sentence():
    assert len(CODES) > 300
    assert [code for code in CODES if not re.fullmatch(r"[A-Za-z0-9_.]+|pulltide-machine", code)] == []


def test_every_code_made_of_words_has_its_words():
    said = translations(DEFAULT_LOCALE, "choices")._catalog
    assert [code for code in CODES if "_" in code and code not in said] == []
    known = set(CODES) | {"shoulder", "middle", "end"}
    assert [code for code in said if code and code not in known] == [], "words for a code that is gone"


def test_another_language_falls_back_to_english_and_that_to_the_code():
    assert choice("bare_metal") == choice("bare_metal", "xx") == "steel or iron, no lining"
    assert choice("SPA", "xx") == "SPA"


def test_labels_are_filled_in_a_persons_units():
    assert filled("{25.4|mm} of {pressed_fiber|choice}", Units(length="in")) == "1 in of pressed fiber"


def told(page: str) -> str:
    """What a person reads of a page, outside of fields."""
    return re.sub(r"<[^>]*>", " ", HIDDEN.sub(" ", page))


#: Two sentences with nothing between them.
JOINED = re.compile(r"\S*[a-z0-9%)]\.[A-Z][a-z]+")
LEAKS = re.compile(r"\b(" + "|".join(re.escape(code) for code in CODES if "_" in code) + r")\b")


def check(client: TestClient, machine: Machine, *places: str) -> None:
    answer = client.post("/api/v1/machines", json=machine.model_dump(mode="json"))
    assert answer.status_code == 201, answer.text
    for place in places:
        page = told(client.get(f"/machines/{answer.json()['id']}?{place}").text)
        assert not LEAKS.search(page), (place, LEAKS.findall(page))
        assert not MARK.search(page), (place, MARK.findall(page))
        assert not JOINED.search(page), (place, JOINED.findall(page))


def varied(model: BaseModel) -> Iterator[dict[str, Any]]:
    """A model, then with the next choice of every field at once, as far as they go together."""
    raw = model.model_dump(mode="json")
    choices = {name: list(choices_of(info.annotation)) for name, info in type(model).model_fields.items()}
    offered = {name: codes for name, codes in choices.items() if codes and name != "kind"}
    yield raw
    for turn in range(max(map(len, offered.values()), default=0)):
        made = raw
        for name, codes in offered.items():
            tried = {**made, name: codes[turn % len(codes)]}
            try:
                made = type(model).model_validate(tried).model_dump(mode="json")
            except ValidationError:
                continue
        yield made


@pytest.mark.parametrize("family", FAMILIES, ids=lambda family: family.kind)
def test_links_are_told_in_words(client: TestClient, family: Family):
    links = [raw for sample in (family.starter(SHIPPED), *family.samples[:1]) for raw in varied(sample)]
    for raw in links[:5]:
        machine = build_machine(links=[raw])
        check(client, machine, "at=link-1&show=link-1/bending", "at=link-1&show=link-1/friction")


@pytest.mark.long
@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_reports_hold_no_marks(machine: Machine):
    """What a program is given is filled in as well: labels of remedies, names of steps, reasons."""
    report = json.dumps(solve_report(machine))
    assert not MARK.search(report), MARK.findall(report)


@pytest.mark.parametrize("kind", [kind.kind for kind in NEED_KINDS])
def test_worksheets_are_told_in_words(client: TestClient, kind: str):
    sheet = build_machine(need={"worksheet": {"kind": kind, **WORKSHEETS[kind]}}).need.worksheet
    for raw in list(varied(sheet))[:4]:
        check(client, build_machine(need={"worksheet": raw, "running_torque_nm": None}), "at=need")


@pytest.mark.parametrize("kind", SOURCE_KINDS, ids=lambda kind: kind.kind)
def test_sources_are_told_in_words(client: TestClient, kind: Any):
    source = build_machine().plans[0].source
    if kind.kind != "induction":
        source = kind.model.model_validate({"kind": kind.kind, **kind.starter})
    for raw in list(varied(source))[:4]:
        document = build_machine().model_dump(mode="json")
        document["plans"][0]["source"] = raw
        check(client, Machine.model_validate(document), "at=source", "at=duty")


@pytest.mark.parametrize("kind", END_KINDS, ids=lambda kind: kind.kind)
def test_ends_are_told_in_words(client: TestClient, kind: Any):
    for raw in varied(kind.model(kind=kind.kind)):
        check(client, build_machine(need={"end": raw}), "at=need", "at=")


def test_the_methods_page_is_told_in_words(client: TestClient):
    page = told(client.get("/methods").text)
    assert sorted(set(LEAKS.findall(page)) - set(METHODS)) == []


def test_words_of_old_files_are_still_codes_of_today():
    """Every word that version 1 stored leads to a code that is offered."""
    old = {"format_version": 1, "need": {"worksheet": {"material": "C45 normalised"}}, "plans": []}
    assert upgraded(old)["need"]["worksheet"]["material"] in CODES


def test_every_reading_of_a_plate_has_its_words():
    """Readings are told apart by codes; sources in the demo and bare ones give nearly all of them."""
    sources = [plan.source for machine in demo_machines() for plan in machine.plans]
    sources += [kind.model.model_validate({"kind": kind.kind, **kind.starter}) for kind in SOURCE_KINDS]
    codes = {item.code for source in sources for item in source_kind(source.kind).readings(source)}
    said = translations(DEFAULT_LOCALE, "readings")._catalog
    assert len(codes) > 12
    assert codes <= set(said)
    assert all(re.fullmatch(r"[a-z_]+", code) for code in codes)
    assert reading("breakdown_torque") == "Breakdown torque"


def test_words_quote_the_limit_that_was_judged_by():
    off = judge_two(BALANCE, "need", 0.6)
    assert finding_line(off, Units()).fact == "The counterbalance is off by more than 50% of the weight"
    assert finding_line(judge_two(BALANCE, "need", 0.2), Units()).fact.endswith("more than 8% of the weight")
    edge = finding_line(judge(SPEED, "need", 0.5), Units(rim_speed="ft/min"))
    assert edge.fact == "The edge is faster than 59.1 ft/min"


def strings_of(data: Any) -> Iterator[str]:
    if isinstance(data, dict | list):
        for item in data.values() if isinstance(data, dict) else data:
            yield from strings_of(item)
    elif isinstance(data, str):
        yield data


def test_what_other_programs_are_told_of_a_field_holds_no_mark(client: TestClient):
    """Where a first value comes from is told in the units of the interface: "one hand 50 N to 100 N"."""
    told = list(strings_of(client.get("/api/v1/openapi.json").json()))
    told += [text for method in METHODS.values() for text in strings_of(schema_of(method))]
    assert not [text for text in told if MARK.search(text)]
    assert [text for text in told if "one hand 50 N to 100 N" in text]


@pytest.mark.parametrize("name", ["{7|mm}", "{abc|mm}", "{limit} {0}", "{bare_metal|choice}"])
def test_a_name_that_looks_like_a_mark_is_shown_as_it_was_typed(client: TestClient, name: str):
    """Whatever a person may call a shaft or a part of the shop's own: on pages, in workings, reports and files."""
    raw = build_machine().model_dump(mode="json")
    raw["need"]["last_shaft"] = raw["plans"][0]["name"] = name
    raw["plans"][0]["room"] = {"motor_height_mm": 200, "obstacles": [{"name": name}]}
    for link in raw["plans"][0]["links"]:
        if "designation" in (link.get("data") or {}):
            link["designation"] = link["data"]["designation"] = name
    answer = client.post("/api/v1/machines", json=raw)
    assert answer.status_code == 201, answer.text
    address = f"/machines/{answer.json()['id']}"
    last = f"shaft-{len(raw['plans'][0]['links']) + 1}"
    figures = [f"train?at={last}&show={last}/{figure}" for figure in ("speed", "torque", "design")]
    for place in ("need", "train", "train?at=link-2&show=link-2/torque", "fit", "runup", "sheet", *figures):
        page = html.unescape(told(client.get(f"{address}/{place}").text))
        assert name in page, place
        assert "\ufdd0" not in page
        assert not re.search(r"(?<![{.\d])7 mm|steel or iron, no lining", page), place
    assert name in str(client.get(f"/api/v1{address}/result").json())
    assert name in client.get(f"{address}/parts.csv").text
    assert client.get(f"{address}/plan.pdf?plan=0").status_code == 200


@pytest.mark.parametrize("level", [1, 2, 3])
def test_questions_to_practice_on_are_told_in_words(level: int):
    for number in range(60):
        asked = task(level, number)
        for text in (asked.question, *(part for step in asked.steps for part in (step.name, step.note))):
            assert not re.search(r"[{}|]", filled(text, Units())), text


def test_no_answer_of_the_interface_holds_a_mark(client: TestClient):
    """Every address of the interface that is read, for every machine of the demo."""
    paths = client.get("/api/v1/openapi.json").json()["paths"]
    read = sorted(path for path, methods in paths.items() if "get" in methods)
    assert len(read) > 15
    asked = 0
    for machine in demo_machines():
        made = client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()["id"]
        put_in = {"machine_id": made, "plan": "0", "method": "belt_length", "name": "1-driver", "kind": "svg"}
        for path in read:
            for name, value in put_in.items():
                path = path.replace(f"{{{name}}}", value)
            answer = client.get(path)
            if answer.status_code == 200 and "json" in answer.headers["content-type"]:
                asked += 1
                assert not [text for text in strings_of(answer.json()) if MARK.search(text)], path
    assert asked > 50
