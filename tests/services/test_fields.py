"""Every field is declared whole: a label, a unit that agrees with its name, a range where it is a number."""

from __future__ import annotations

import importlib
import pkgutil
import re
from importlib import resources
from typing import Any, get_args, get_origin

import pytest
from babel.messages.pofile import read_po
from pydantic import BaseModel

import pulltide.core
import pulltide.services
from pulltide.core.duty import Duty, Segment
from pulltide.core.links import FAMILIES
from pulltide.core.links.reducer.inputs import ReducerPlate
from pulltide.core.links.v_belt.inputs import PulleyStep
from pulltide.core.methods import METHODS
from pulltide.core.model import CoreModel, Measure
from pulltide.core.need import Need
from pulltide.core.needs import NEED_KINDS
from pulltide.core.needs.drum import DrumSheet
from pulltide.core.sources import SOURCE_KINDS
from pulltide.core.sources import InductionMotor as Motor
from pulltide.core.sources.induction import Inverter
from pulltide.core.sources.permanent_magnet import Battery
from pulltide.core.sources.supply import Supply
from pulltide.quantities import Units
from pulltide.quantities.reading import ASKED_FOR, read_quantity
from pulltide.services.fields import NoSuchField, _models, describe, described, group_of
from pulltide.services.schema import schema_of_record
from pulltide.words import filled
from worksheets import WORKSHEETS

MODELS: list[type[BaseModel]] = [Need, Duty, Motor, PulleyStep, ReducerPlate, *(family.model for family in FAMILIES)]
MODELS += [method.inputs for method in METHODS.values()]
MODELS += [kind.model for kind in SOURCE_KINDS if kind.model is not Motor] + [Supply, Inverter, Battery, Segment]
SUFFIX = {"mm": "_mm", "rpm": "_rpm", "N*m": "_nm", "kW": "_kw", "N": "_n", "deg": "_deg", "degC": "_c", "Hz": "_hz"}


def measures(annotation: Any, metadata: list[Any]) -> list[Measure]:
    found = [item for item in metadata if isinstance(item, Measure)]
    for part in get_args(annotation):
        found += [item for item in getattr(part, "__metadata__", ()) if isinstance(item, Measure)]
    return found


@pytest.mark.parametrize("model", MODELS, ids=lambda model: f"{model.__module__.split('.')[-2]}.{model.__name__}")
def test_every_field_is_declared_whole(model: type[BaseModel]):
    for name, field in model.model_fields.items():
        if name == "kind":
            continue
        assert field.title, name
        for measure in measures(field.annotation, field.metadata):
            assert measure.unit in ASKED_FOR, name
            assert name.endswith(SUFFIX.get(measure.unit, "")), (name, measure.unit)


@pytest.mark.parametrize("model", MODELS, ids=lambda model: f"{model.__module__.split('.')[-2]}.{model.__name__}")
def test_every_number_has_both_ends_of_its_range(model: type[BaseModel]):
    schema = model.model_json_schema()
    for name, field in schema["properties"].items():
        options = [field, *field.get("anyOf", [])]
        options += [inner for option in options for inner in option.get("anyOf", [])]
        numbers = [item for item in options if item.get("type") in ("number", "integer")]
        for number in numbers:
            assert {"minimum", "exclusiveMinimum"} & set(number), name
            assert {"maximum", "exclusiveMaximum"} & set(number), name


def records() -> list[type[CoreModel]]:
    """Every record that a person fills in, wherever it is declared."""
    for package in (pulltide.core, pulltide.services):
        for module in pkgutil.walk_packages(package.__path__, f"{package.__name__}."):
            importlib.import_module(module.name)
    waiting, found = [CoreModel], []
    while waiting:
        found += (more := [one for one in waiting.pop().__subclasses__() if one.__module__.startswith("pulltide.")])
        waiting += more
    return [*dict.fromkeys(found)]


def titled(record: type[CoreModel]) -> list[tuple[str, str]]:
    return [(group_of(record), name) for name, info in record.model_fields.items() if info.title]


@pytest.mark.parametrize(
    "units", [Units(), Units(length="in", torque="lbf*in", power="hp", force="lbf", rim_speed="ft/min", mass="lb",
                             temperature="degF"), Units(torque="kgf*cm", power="W", force="kgf")], ids=str
)  # fmt: skip
def test_the_ends_of_every_range_are_accepted_as_they_are_told(units: Units):
    """In inches 0.2 mm is 0.00787, which is less: an end is rounded inward, and by less than a thousandth."""
    told = 0
    for record in records():
        for name, info in record.model_fields.items():
            field = described(info, name, record) if info.title else None
            if field is None or field.kind != "quantity" or field.low is None or field.high is None:
                continue
            least, most = (read_quantity(text, field.unit) for text in field.limits(units))
            assert field.low <= least <= most <= field.high, (record, name, field.accepted(units))
            wide = max(abs(field.low), abs(field.high))
            assert least - field.low <= 1e-3 * max(abs(field.low), 1e-6 * wide), (record, name)
            assert field.high - most <= 1e-3 * max(abs(field.high), 1e-6 * wide), (record, name)
            told += 1
    assert told > 500


def test_every_field_has_a_sentence_that_says_what_it_is():
    filled_in = 0
    for record in records():
        for group, name in titled(record):
            info = record.model_fields[name]
            if any(_models(info.annotation)) or get_origin(info.annotation) in (tuple, dict):
                continue
            sentence = described(info, name, record).help
            assert re.fullmatch(r"[A-Z0-9].{12,109}[^.]\.", sentence), (group, name, sentence)
            assert sentence.rstrip(".").lower() != info.title.lower(), (group, name)
            filled_in += 1
    assert filled_in > 1000


#: A figure in one of the units that a person may have chosen others for.
METRIC = re.compile(r"\d ?(mm|m/s|m/min|N|N·m|kg|kW|kPa|m)\b(?!/)")
SHOP_UNITS = Units(
    length="in", torque="lbf*ft", power="hp", force="lbf", rim_speed="ft/min", mass="lb", temperature="degF"
)
#: What a listed motor is called, and what is typed.
AS_WRITTEN = {"on a scale where a 0.75 kW motor is 100", "write 15 m"}


def test_where_a_first_value_comes_from_is_told_in_a_persons_units():
    told = {described(info, name, record).origin for record in records() for name, info in record.model_fields.items()}
    marked = {origin for origin in told if "|" in origin}
    assert len(marked) > 12
    assert {one for one in told if METRIC.search(filled(one, SHOP_UNITS))} == AS_WRITTEN
    assert filled("one hand {50|N} to {100|N}", SHOP_UNITS) == "one hand 11.2 lb to 22.5 lb"


@pytest.mark.parametrize("kind", NEED_KINDS, ids=lambda kind: kind.kind)
def test_why_a_speed_is_what_it_is_is_told_in_a_persons_units(kind):
    sheet = kind.model.model_validate(WORKSHEETS[kind.kind])
    asked = Need(worksheet=sheet).requirement()
    said = [asked.speeds.reason, *(item.label for item in kind.say(sheet, 60.0))]
    assert not [one for one in said if METRIC.search(filled(one, SHOP_UNITS))]


def test_no_sentence_is_left_over():
    known = {code for record in records() for group, name in titled(record) for code in (name, f"{group}.{name}")}
    source = resources.files("pulltide.language").joinpath("locale", "en", "LC_MESSAGES", "help.po")
    with source.open("rb") as file:
        codes = {message.id for message in read_po(file) if message.id}
    assert codes - known == set()


def test_the_sentence_of_a_group_goes_before_that_of_the_name():
    assert described(DrumSheet.model_fields["length_mm"], "length_mm", DrumSheet).help == (
        "Inside length that the batch fills."
    )
    schema = schema_of_record(DrumSheet)
    assert schema["properties"]["length_mm"]["description"] == "Inside length that the batch fills. (measured)"


@pytest.mark.parametrize(
    ("path", "kind", "accepted"),
    [
        ("need.running_torque_nm", "quantity", "more than 0 N·m, up to 100000 N·m"),
        ("duty.hours_per_day", "quantity", "more than 0 h, up to 24 h"),
        ("duty.reversing", "yes_no", ""),
        ("duty.margin_rule", "choice", "running_load, motor_nameplate, flat_factor"),
        ("plans.0.name", "text", "1 to 60 characters"),
    ],
)
def test_a_field_is_described_for_form_and_message(path: str, kind: str, accepted: str):
    described = describe({"plans": [{"name": "A", "links": []}]}, path)
    assert described.kind == kind
    assert described.accepted(Units()) == accepted


@pytest.mark.parametrize(
    "path", ["nothing", "need.nothing", "plans.0.links.0.nothing", "0", "need.running_torque_nm.more"]
)
def test_a_path_to_nothing_is_refused(path: str):
    with pytest.raises((NoSuchField, LookupError, TypeError)):
        describe({"plans": [{"links": [{"kind": "roller_chain"}]}]}, path)
