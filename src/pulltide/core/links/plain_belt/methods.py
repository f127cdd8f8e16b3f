"""Formulas of where a belt runs and how tight it is, callable by name."""

from __future__ import annotations

from math import asin, cos, degrees, pi, radians, sqrt

from pydantic import Field, model_validator

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.family import Method
from pulltide.core.findings import EXACT, Source
from pulltide.core.labels import quantity
from pulltide.core.model import CoreModel, Degrees, Hertz, KgPerM, Mm, Newton
from pulltide.core.working import Step, Working

STRING = Source("mechanics", "lowest note of a string fixed at both ends", "exact")


class OpenInputs(CoreModel):
    """An open belt on two pulleys."""

    small_diameter_mm: Mm = Field(title="Small pulley, pitch diameter", ge=10, le=3000)
    large_diameter_mm: Mm = Field(title="Large pulley, pitch diameter", ge=10, le=3000)
    center_distance_mm: Mm = Field(title="Center distance", ge=10, le=10_000)


def open_working(inputs: OpenInputs) -> Working:
    """Length and wraps of an open belt from its center distance.

    Raises ImpossibleGeometry where the pulleys would touch.
    """
    d, large = sorted((inputs.small_diameter_mm, inputs.large_diameter_mm))
    c = inputs.center_distance_mm
    if c <= (d + large) / 2:
        raise ImpossibleGeometry(
            f"The pulleys would touch: {quantity(c, 'mm')} apart is no more than half of both, "
            f"{quantity((d + large) / 2, 'mm')}."
        )
    gamma = asin((large - d) / (2 * c))
    length = 2 * c * cos(gamma) + pi * (large + d) / 2 + gamma * (large - d)
    numbers = {"D": large, "d": d, "C": c}
    small = 180 - 2 * degrees(gamma)
    return Working(
        "Length of an open belt",
        (
            Step("Wrap of the small pulley", "θ", "180 - 2 asin((D - d) / (2 C))", numbers, small, "deg", EXACT),
            Step("Wrap of the large pulley", "θ_D", "360 - θ", {"θ": small}, 360 - small, "deg", EXACT),
            Step(
                "Pitch length",
                "L",
                "2 C cos γ + π (D + d)/2 + γ (D - d), sin γ = (D - d)/(2 C)",
                numbers,
                length,
                "mm",
                EXACT,
            ),
        ),
    )


class WrapInputs(CoreModel):
    """A wanted wrap of the small pulley."""

    small_diameter_mm: Mm = Field(title="Small pulley, pitch diameter", ge=10, le=3000)
    large_diameter_mm: Mm = Field(title="Large pulley, pitch diameter", ge=10, le=3000)
    wrap_deg: Degrees = Field(title="Wrap of the small pulley", ge=60, lt=180)


def wrap_working(inputs: WrapInputs) -> Working:
    """Center distance that gives a wrap.

    Raises ImpossibleGeometry for equal pulleys, and where the pulleys would touch.
    """
    d, large = inputs.small_diameter_mm, inputs.large_diameter_mm
    if large <= d:
        raise ImpossibleGeometry("Equal pulleys have 180° of wrap at any center distance; enter the larger one second.")
    c = (large - d) / (2 * cos(radians(inputs.wrap_deg / 2)))
    if c <= (d + large) / 2:
        raise ImpossibleGeometry(
            f"So little wrap needs {quantity(c, 'mm')} of center distance, where the pulleys touch at "
            f"{quantity((d + large) / 2, 'mm')}."
        )
    numbers = {"D": large, "d": d, "θ": inputs.wrap_deg}
    step = Step("Center distance", "C", "(D - d) / (2 cos(θ / 2))", numbers, c, "mm", EXACT)
    return Working("Center distance for a wrap", (step,))


class StrumInputs(CoreModel):
    """A span that is plucked, with its frequency or its tension."""

    span_mm: Mm = Field(title="Free span", ge=20, le=6000)
    mass_kg_per_m: KgPerM = Field(title="Mass of one belt a meter", gt=0, le=10)
    frequency_hz: Hertz | None = Field(None, title="Frequency heard", gt=0, le=2000)
    tension_n: Newton | None = Field(None, title="Tension wanted", gt=0, le=50_000)

    @model_validator(mode="after")
    def _one_of_two(self) -> StrumInputs:
        if (self.frequency_hz is None) == (self.tension_n is None):
            raise ValueError("give the frequency or the tension, one of the two")
        return self


def strum_working(inputs: StrumInputs) -> Working:
    """Tension of a belt from the note of its span, or the note that a tension gives."""
    numbers = {"m": inputs.mass_kg_per_m, "s": inputs.span_mm}
    if inputs.frequency_hz is not None:
        tension = 4 * inputs.mass_kg_per_m * (inputs.span_mm / 1000) ** 2 * inputs.frequency_hz**2
        put_in = {**numbers, "f": inputs.frequency_hz}
        step = Step("Tension of one belt", "T", "4 m (s / 1000)² f²", put_in, tension, "N", STRING)
    else:
        tension = inputs.tension_n or 0.0
        heard = 1000 / (2 * inputs.span_mm) * sqrt(tension / inputs.mass_kg_per_m)
        step = Step("Frequency", "f", "1000 √(T / m) / (2 s)", {**numbers, "T": tension}, heard, "Hz", STRING)
    return Working("Strum of a belt", (step,))


class CrossedInputs(CoreModel):
    """A crossed flat belt; a V-belt does not run crossed."""

    small_diameter_mm: Mm = Field(title="Small pulley", ge=10, le=1500)
    large_diameter_mm: Mm = Field(title="Large pulley", ge=10, le=2000)
    center_distance_mm: Mm = Field(title="Center distance", ge=20, le=10_000)


def crossed_working(inputs: CrossedInputs) -> Working:
    """Length and wrap of a crossed flat belt, which turns the driven shaft against the driver."""
    d, large, c = inputs.small_diameter_mm, inputs.large_diameter_mm, inputs.center_distance_mm
    if c <= (d + large) / 2:
        raise ImpossibleGeometry("The pulleys would touch at this center distance.")
    beta = asin((d + large) / (2 * c))
    length = 2 * c * cos(beta) + (d + large) * (pi / 2 + beta)
    wrap = 180 + 2 * degrees(beta)
    numbers = {"d": d, "D": large, "C": c}
    note = "flat belts alone: the strands of a V-belt rub where they cross"
    return Working(
        "Crossed flat belt",
        (
            Step("Wrap of both pulleys", "θ", "180 + 2 asin((D + d) / (2 C))", numbers, wrap, "deg", EXACT),
            Step("Length", "L", "2 C cos β + (D + d)(π/2 + β)", numbers, length, "mm", EXACT, note),
        ),
    )


METHODS = (
    Method("belt_crossed", "Length of a crossed flat belt", CrossedInputs, crossed_working),
    Method("belt_open", "Length of an open belt from its center distance", OpenInputs, open_working),
    Method("belt_wrap_center", "Center distance for a wrap", WrapInputs, wrap_working),
    Method("belt_strum", "Belt tension from its note, and back", StrumInputs, strum_working),
)
