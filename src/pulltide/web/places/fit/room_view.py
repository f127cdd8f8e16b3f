"""The room round a drive: what is wanted of it, what stands in the way, and how far that is."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.fit.surroundings import Clear, clearances
from pulltide.core.room import Obstacle, Room
from pulltide.quantities import show
from pulltide.web import forms
from pulltide.web.places.contract import Context
from pulltide.words import say

WANTED = tuple(name for name in Room.model_fields if name != "obstacles")
EDGES = tuple(Obstacle.model_fields)


@dataclass(frozen=True, slots=True)
class ObstacleRow:
    """One obstacle: its fields, how far the drive is from it, and the state of that."""

    number: int
    fields: tuple[forms.FormField, ...]
    says: str
    state: str


@dataclass(frozen=True, slots=True)
class RoomView:
    """The card."""

    wanted: tuple[forms.FormField, ...]
    rows: tuple[ObstacleRow, ...]
    height_known: bool


def room_view(context: Context) -> RoomView:
    """Fields of the room of a plan, and each obstacle with its clearance."""
    base = f"plans.{context.selection.plan}.room"
    document = context.machine.model_dump(mode="json")
    return RoomView(
        wanted=tuple(forms.form_field(document, f"{base}.{name}", context.units) for name in WANTED),
        rows=tuple(_rows(context, document, base)),
        height_known=context.plan.room.motor_height_mm is not None,
    )


def _rows(context: Context, document: object, base: str) -> Iterator[ObstacleRow]:
    line, plan = context.line, context.plan
    found = clearances(plan, line) if line is not None and plan.links else ()
    for index, obstacle in enumerate(plan.room.obstacles):
        clear = next((one for one in found if one.obstacle is obstacle), None)
        fields = tuple(
            forms.form_field(document, f"{base}.obstacles.{index}.{name}", context.units, noted=False) for name in EDGES
        )
        yield ObstacleRow(index + 1, fields, _says(context, clear), _state(plan.room, clear))


def _says(context: Context, clear: Clear | None) -> str:
    if clear is None:
        return ""
    part = say("the motor") if clear.stage < 0 else say("stage {stage}", stage=clear.stage + 1)
    far = show(abs(clear.mm), "mm", context.units)
    return (
        say("{far} into {part}", far=far, part=part) if clear.mm < 0 else say("{far} from {part}", far=far, part=part)
    )


def _state(room: Room, clear: Clear | None) -> str:
    if clear is None:
        return ""
    if clear.mm < 0:
        return "fix"
    return "weigh" if clear.stage >= 0 and clear.mm < (room.guard_mm or 0.0) else "clear"
