"""Every formula that is called by name, over the whole range of its inputs."""

from __future__ import annotations

from math import isfinite
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import BaseModel, ValidationError

from anything import any_of
from draws import draws
from formulas import agrees
from pulltide.core.errors import InputErrors, PulltideError
from pulltide.core.family import Method
from pulltide.core.methods import METHODS
from pulltide.core.needs.assess import assess
from pulltide.core.working import Working
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.calculate import published, run_method, schema_of
from worksheets import WORKSHEETS


def asked(method: Method, inputs: BaseModel) -> Working | None:
    """The working, None where it is refused in words."""
    try:
        return method.run(inputs)
    except PulltideError as refusal:
        assert len(str(refusal)) > 20, str(refusal)  # noqa: PT017
        return None


def allowed(method: Method, raw: dict[str, Any]) -> BaseModel | None:
    """The inputs, None where they are refused together."""
    try:
        return method.inputs.model_validate(raw)
    except ValidationError:
        return None


STEPPED = {"sun_teeth": 20, "first_planet_teeth": 40}


@pytest.mark.parametrize("name", METHODS)
@settings(
    max_examples=draws(30), deadline=None, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much]
)
@given(data=st.data())
def test_any_allowed_inputs_give_figures_or_a_refusal(name: str, data: st.DataObject):
    method = METHODS[name]
    inputs = allowed(method, data.draw(any_of(method.inputs)))
    made = None if inputs is None else asked(method, inputs)
    for step in made.steps if made else ():
        assert isfinite(step.value), (step.symbol, step.formula, dict(step.inputs))
        assert agrees(step) is not False, (step.symbol, step.formula, dict(step.inputs), step.value)


@pytest.mark.parametrize(
    ("name", "raw", "words"),
    [
        ("motor_slip", {"speed_rpm": 3000, "frequency_hz": 50}, "not below 3000 rpm"),
        ("v_belt_center", {"small_diameter_mm": 76.2, "large_diameter_mm": 609.6, "pitch_length_mm": 1955.8}, "touch"),
        (
            "planetary_speeds",
            {"sun_teeth": 40, "ring_teeth": 40, "sun_speed_rpm": 9, "ring_speed_rpm": 0},
            "more teeth",
        ),
        (
            "v_belt_slip",
            {"section": "A", "static_tension_n": 5, "wrap_deg": 180, "small_diameter_mm": 90, "belt_speed_m_s": 9},
            r"carries nothing: at \{9\|m/s\} it is thrown outward with \{[78][.0-9]+\|N\}, all of the \{5\|N\}",
        ),
    ],
)
def test_what_cannot_be_is_refused_in_words(name: str, raw: dict[str, Any], words: str):
    """The 3 and 24 in pulleys on 77 in of belt would stand 12.57 in apart. Exact."""
    with pytest.raises((PulltideError, ValidationError), match=words):
        METHODS[name].run(METHODS[name].inputs.model_validate(raw))


@pytest.mark.parametrize(
    ("name", "raw", "words"),
    [
        (
            "roller_chain_rating",
            {"chain": "51", "small_teeth": 17, "small_speed_rpm": 60},
            "Chain: 51 is not offered. Ac",
        ),
        ("roller_chain_rating", {"chain": "50", "small_teeth": 3, "small_speed_rpm": 60}, "Accepted: 6 to 120."),
        (
            "roller_chain_rating",
            {"chain": "50", "small_teeth": 17},
            "is missing. Accepted: more than 0 rpm, up to 6000",
        ),
        ("roller_chain_rating", {"chain": "50", "small_teeth": 17, "small_speed_rpm": 9, "x": 1}, "no input of this"),
        ("roller_chain_rating", [], "is not a set of named values"),
        ("roller_chain_name", {"designation": "foo"}, "Chain: foo is not in the list. Accepted: 25, 35"),
        ("belt_open", {"small_diameter_mm": 80, "large_diameter_mm": 200, "center_distance_mm": 130}, "would touch"),
        (
            "v_belt_cone",
            {"center_distance_mm": 150, "driver_diameter_mm": 80, "driven_diameter_mm": 240, "ratio": 2},
            "would touch at 150 mm",
        ),
        ("belt_strum", {"span_mm": 400, "mass_kg_per_m": 0.1}, "one of the two"),
        ("speed_after_blow", {"inertia_kgm2": 1, "speed_rpm": 60, "energy_j": "1 kJ"}, "holds 19.7 J"),
        ("planetary_stepped", STEPPED | {"ring_teeth": 22, "second_planet_teeth": 30}, "does not go round"),
    ],
)
def test_a_fault_names_field_value_and_range_in_words(name: str, raw: Any, words: str):
    with pytest.raises(InputErrors) as refusal:
        run_method(METHODS[name], raw, DEFAULT_UNITS)
    said = str(refusal.value)
    assert words in said
    assert not any(sign in said for sign in ("Ge(", "Gt(", "input should", "ratinginputs", "..", ":  "))


@pytest.mark.parametrize("name", METHODS)
def test_a_schema_says_units_and_results(name: str):
    schema = schema_of(METHODS[name])
    assert schema["results"]
    assert all(result["key"] and result["name"] for result in schema["results"])
    keys = [result["key"] for result in schema["results"]]
    assert len(keys) == len(set(keys))
    for example in schema.get("examples", ()):
        report = run_method(METHODS[name], example, DEFAULT_UNITS)
        assert [result["key"] for result in report["results"]] == keys


@pytest.mark.parametrize("kind", WORKSHEETS)
def test_a_worksheet_gives_all_that_its_page_gives(kind: str):
    raw = WORKSHEETS[kind]
    asked = assess(METHODS[f"need_{kind}"].inputs.model_validate({"kind": kind, **raw}))
    report = run_method(METHODS[f"need_{kind}"], raw, DEFAULT_UNITS)
    found = {result["key"]: result["value"] for result in report["results"]}
    assert found["peak_torque_nm"] == asked.figures()["peak_torque_nm"]
    assert found["inertia_kgm2"] == asked.inertia_kgm2
    assert {told["check"] for told in report["findings"]} == {finding.code for finding in asked.findings}
    assert len(report["more"]) == len(asked.workings) - 1


def test_tension_comes_with_what_to_press():
    """Dip of 1/64 of the span, a sixteenth of the tension to press it. Exact; common practice."""
    raw = {"section": "A", "design_power_kw": 2.0, "belt_speed_m_per_s": 8.0, "wrap_deg": 150, "span_mm": 640}
    found = {one["key"]: one["value"] for one in run_method(METHODS["v_belt_tension"], raw, DEFAULT_UNITS)["results"]}
    assert found["q"] == pytest.approx(10.0)
    assert found["F_q"] == pytest.approx(found["T"] / 16)


def test_a_force_of_ones_own_is_not_shown_as_computed():
    """A press whose cutting force is entered says so, and does not print a product of sizes left empty."""
    raw = {"kind": "press", "own_force_n": 20_000, "thickness_mm": 3, "speed_ideal_rpm": 30, "stroke_mm": 40}
    made = METHODS["need_press"].run(METHODS["need_press"].inputs.model_validate(raw))
    assert made.steps[0].formula == "as entered"
    assert made.steps[0].value == 20_000


@pytest.mark.parametrize("name", sorted(METHODS))
def test_figures_beyond_all_reason_are_refused_or_give_numbers(name: str):
    """Each number of an example by itself next to nothing, then next to everything: never a fault of the program."""
    method = METHODS[name]
    example = next((case["inputs"] for case in published() if case["method"] == name), None)
    if example is None:
        example = schema_of(method).get("examples", [{}])[0]
    for field, value in example.items():
        if isinstance(value, bool) or not isinstance(value, int | float):
            continue
        for odd in (3e-308, 1e-150, 1e150):
            told = answer_of(method, {**example, field: odd})
            assert told is None or isfinite(told["result"]["value"])


def answer_of(method: Method, raw: dict[str, Any]) -> dict[str, Any] | None:
    """What a formula says, None where it refuses in words."""
    try:
        return run_method(method, raw, DEFAULT_UNITS)
    except InputErrors:
        return None
