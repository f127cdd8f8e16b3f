"""A walk of five steps round a machine of the demo shop, which any other press leaves."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.words import say

#: Set once somebody has taken the walk or declined it.
TOUR_COOKIE = "pulltide_walked"


@dataclass(frozen=True, slots=True)
class Step:
    """One step of the walk: where it stands, and what is seen there."""

    place: str
    words: str


#: The walk round the first machine of the demo.
STEPS = (
    Step(
        "need",
        "What the last shaft must do stands here: speed, torque, peaks. A worksheet works it out from what the machine "
        "does; every number can be changed, with any unit.",
    ),
    Step(
        "duty",
        "How hard and how long it works. Every table of service factors is looked up with it, and each says what it "
        "makes of it.",
    ),
    Step(
        "train",
        "The drive to scale, stage by stage. At the right the findings: what is wrong, by how much, and a change that "
        "cures it, tried on the whole drive. Press any number to see how it comes about.",
    ),
    Step(
        "ways",
        "Turned round: from the need and the motor to the best drives that listed parts allow. Try one beside yours, "
        "or adopt it; Undo takes it back.",
    ),
    Step(
        "sheet",
        "What goes to the bench: shafts, parts, set-up, checks. To print, as PDF, DXF, spreadsheet. Afterwards the run "
        "log holds what it really does against this.",
    ),
)


@dataclass(frozen=True, slots=True)
class TourStep:
    """What the bar of the walk says; ``onward`` is empty at the last step."""

    number: int
    count: int
    words: str
    onward: str


def tour_step(machine_id: str, place: str, said: str) -> TourStep | None:
    """The step of the walk that a page is at, as its address says it; None where it is at none."""
    number = int(said) if said.isdecimal() and len(said) < 3 else 0
    if not 1 <= number <= len(STEPS) or STEPS[number - 1].place != place:
        return None
    onward = f"/machines/{machine_id}/{STEPS[number].place}?tour={number + 1}" if number < len(STEPS) else ""
    return TourStep(number, len(STEPS), say(STEPS[number - 1].words), onward)
