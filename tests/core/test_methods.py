"""Every formula that is called by name, over the whole range of its inputs."""

from __future__ import annotations

from math import isfinite
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import BaseModel, ValidationError

from anything import any_of
from formulas import agrees
from pulltide.core.errors import PulltideError
from pulltide.core.family import Method
from pulltide.core.methods import METHODS
from pulltide.core.working import Working


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


@pytest.mark.parametrize("name", METHODS)
@settings(max_examples=30, deadline=None, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
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
        ("v_belt_centre", {"small_diameter_mm": 76.2, "large_diameter_mm": 609.6, "pitch_length_mm": 1955.8}, "touch"),
        (
            "planetary_speeds",
            {"sun_teeth": 40, "ring_teeth": 40, "sun_speed_rpm": 9, "ring_speed_rpm": 0},
            "more teeth",
        ),
        (
            "v_belt_slip",
            {"section": "A", "static_tension_n": 5, "wrap_deg": 180, "small_diameter_mm": 90, "belt_speed_m_s": 9},
            "carries nothing: at 9 m/s it is thrown outward with 8 N, all of the 5 N",
        ),
    ],
)
def test_what_cannot_be_is_refused_in_words(name: str, raw: dict[str, Any], words: str):
    """The 3 and 24 in pulleys on 77 in of belt would stand 12.57 in apart. Exact."""
    with pytest.raises((PulltideError, ValidationError), match=words):
        METHODS[name].run(METHODS[name].inputs.model_validate(raw))


def test_a_force_of_ones_own_is_not_shown_as_computed():
    """A press whose cutting force is entered says so, and does not print a product of sizes left empty."""
    raw = {"kind": "press", "own_force_n": 20_000, "thickness_mm": 3, "speed_ideal_rpm": 30, "stroke_mm": 40}
    made = METHODS["need_press"].run(METHODS["need_press"].inputs.model_validate(raw))
    assert made.steps[0].formula == "as entered"
    assert made.steps[0].value == 20_000
