"""The room that a drive has: its floor, what stands in the way, guards, and what the builder wants of its place.

Measured as it is drawn: from the axis of the motor's shaft to the right, and from the floor up.
"""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.labels import as_is, phrase, quantity
from pulltide.core.model import CoreModel, Mm

MAX_BOXES = 12


class Obstacle(CoreModel):
    """Something that stands in the way: a member of the frame, a wall, a place to be kept free."""

    name: str = Field("Frame", title="What stands there", min_length=1, max_length=40)
    kind: Literal["frame", "keep_out"] = Field("frame", title="It is")
    left_mm: Mm = Field(300.0, title="Left edge, from the motor's axis", ge=-20_000, le=20_000)
    bottom_mm: Mm = Field(0.0, title="Lower edge above the floor", ge=-5_000, le=20_000)
    wide_mm: Mm = Field(100.0, title="Width", gt=0, le=20_000)
    high_mm: Mm = Field(100.0, title="Height", gt=0, le=20_000)
    near_mm: Mm | None = Field(
        None, title="Near side, from the first wheel", ge=-20_000, le=20_000, description="empty: no end on this side"
    )
    far_mm: Mm | None = Field(
        None, title="Far side, from the first wheel", ge=-20_000, le=20_000, description="empty: no end on this side"
    )

    @model_validator(mode="after")
    def _sides(self) -> Obstacle:
        if self.near_mm is not None and self.far_mm is not None and self.near_mm >= self.far_mm:
            raise ValueError(
                f"{as_is(self.name)}: its near side, {quantity(self.near_mm, 'mm')}, is not nearer than its far side"
            )
        return self


class Room(CoreModel):
    """Where the drive stands, what is in its way, and what is wanted of its place. What is not known stays empty."""

    motor_height_mm: Mm | None = Field(None, title="Motor shaft above the floor", gt=0, le=20_000)
    guard_mm: Mm | None = Field(
        None, title="Guard clearance around belts and chains", ge=0, le=500, description="{20|mm} is usual"
    )
    hands_mm: Mm | None = Field(
        None, title="Room for hands at belts and chains", ge=0, le=1_000, description="{60|mm} lets a hand in"
    )
    height_low_mm: Mm | None = Field(None, title="Last shaft above the floor, at least", ge=0, le=20_000)
    height_high_mm: Mm | None = Field(None, title="Last shaft above the floor, at most", ge=0, le=20_000)
    beside_low_mm: Mm | None = Field(
        None, title="Last shaft beside the motor's, at least", ge=-20_000, le=20_000, description="0 is straight above"
    )
    beside_high_mm: Mm | None = Field(None, title="Last shaft beside the motor's, at most", ge=-20_000, le=20_000)
    in_line: bool = Field(False, title="Last shaft in line with the motor's")
    obstacles: tuple[Obstacle, ...] = Field((), title="Obstacles", max_length=MAX_BOXES)

    @model_validator(mode="after")
    def _rising(self) -> Room:
        for low, high, what in (
            (self.height_low_mm, self.height_high_mm, "height of the last shaft"),
            (self.beside_low_mm, self.beside_high_mm, "distance of the last shaft beside the motor's"),
        ):
            if low is not None and high is not None and low > high:
                raise ValueError(
                    f"{phrase(what)}: at least {quantity(low, 'mm')} is more than at most {quantity(high, 'mm')}"
                )
        return self


#: A drive of whose room nothing is known.
NO_ROOM = Room()
