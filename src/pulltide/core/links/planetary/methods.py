"""Formulas of planetary sets beyond one stage, callable by name: what goes together, sets with two suns."""

from __future__ import annotations

from pydantic import Field, model_validator

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.family import Method
from pulltide.core.findings import EXACT, Source
from pulltide.core.links.planetary import motion
from pulltide.core.links.planetary.working import SpeedsInputs, SteppedInputs, speeds_working, stepped_working
from pulltide.core.model import CoreModel
from pulltide.core.working import Step, Working

WILLIS = Source("Shigley's Mechanical Engineering Design", "section 13-13, planetary trains", "formula")
MAX_PLANETS = 8


class PlanetsInputs(CoreModel):
    """A set whose planets are counted."""

    sun_teeth: int = Field(title="Sun teeth", ge=8, le=300)
    planet_teeth: int = Field(title="Planet teeth", ge=8, le=300)
    ring_teeth: int = Field(title="Ring teeth", ge=20, le=600)

    @model_validator(mode="after")
    def _in_line(self) -> PlanetsInputs:
        if self.ring_teeth != self.sun_teeth + 2 * self.planet_teeth:
            raise ValueError(
                f"a ring of {self.sun_teeth + 2 * self.planet_teeth} teeth goes round this sun and these planets"
            )
        return self


def planets_working(inputs: PlanetsInputs) -> Working:
    """Quotient (S + R)/n for each number of planets, and the most that goes together."""
    s, p, r = inputs.sun_teeth, inputs.planet_teeth, inputs.ring_teeth
    steps = []
    most = 1
    for n in range(2, MAX_PLANETS + 1):
        clear = motion.planets_apart(s, p, n) >= motion.room_needed(p)
        fits = motion.goes_together(s, p, r, n)
        most = n if fits else most
        note = "goes together" if fits else "planets touch" if not clear else "not whole: does not go together"
        numbers = {"S": float(s), "R": float(r), "n": float(n)}
        steps.append(Step(f"Quotient with {n} planets", f"q_{n}", "(S + R) / n", numbers, (s + r) / n, "", EXACT, note))
    steps.append(Step("Most planets that go together", "n_p", "whole quotient, tips clear", {}, float(most), "", EXACT))
    return Working("Planets that go together", tuple(steps))


class TwoSunsInputs(CoreModel):
    """Two suns, joined by planets with two gears on one pin; the first sun is held and the carrier drives."""

    held_sun_teeth: int = Field(title="Held sun, teeth", ge=8, le=300)
    first_planet_teeth: int = Field(title="Planet teeth on the held sun", ge=8, le=300)
    second_planet_teeth: int = Field(title="Planet teeth on the driven sun", ge=8, le=300)
    driven_sun_teeth: int = Field(title="Driven sun, teeth", ge=8, le=300)


def two_suns_working(inputs: TwoSunsInputs) -> Working:
    """Ratio of carrier to driven sun with the other sun held: large where both pairs are nearly alike.

    Raises ImpossibleGeometry where both pairs are alike: the driven sun then stands still.
    """
    s1, p1 = float(inputs.held_sun_teeth), float(inputs.first_planet_teeth)
    p2, s2 = float(inputs.second_planet_teeth), float(inputs.driven_sun_teeth)
    train = s1 * p2 / (p1 * s2)
    if abs(1 - train) < 1e-9:
        raise ImpossibleGeometry("Both pairs have the same ratio: the driven sun stands still.")
    numbers = {"S_1": s1, "P_1": p1, "P_2": p2, "S_2": s2}
    note = "held against the teeth's own loss such a train is weak: a large ratio here is mostly friction"
    return Working(
        "Train with two suns",
        (
            Step("Ratio with the carrier held", "e", "S_1 P_2 / (P_1 S_2)", numbers, train, "", WILLIS),
            Step("Ratio, carrier over driven sun", "i", "1 / (1 - e)", {"e": train}, 1 / (1 - train), "", WILLIS, note),
        ),
    )


METHODS = (
    Method("planetary_speeds", "Speeds of a planetary set, one or two inputs", SpeedsInputs, speeds_working),
    Method("planetary_stepped", "Ratio of a set with stepped planets", SteppedInputs, stepped_working),
    Method("planetary_planets", "Planets that go together, with the quotient", PlanetsInputs, planets_working),
    Method("planetary_two_suns", "Ratio of a train with two suns", TwoSunsInputs, two_suns_working),
)
