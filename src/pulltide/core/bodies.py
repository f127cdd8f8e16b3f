"""Bodies of motors by their frame, for drawing them to scale. Source: NEMA MG 1 part 4 and IEC 60072-1, from memory."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from pulltide.core.tables import load_table, number


@dataclass(frozen=True, slots=True, kw_only=True)
class MotorBody:
    """Height of the axis over the feet, between the holes of the feet across and along, shaft, body with feet [mm].

    ``long_mm`` is the body's length without its shaft; outsides are common practice, within 8 %.
    """

    frame: str
    axis_height_mm: float
    foot_across_mm: float
    foot_along_mm: float
    shaft_mm: float
    shaft_long_mm: float
    body_mm: float
    long_mm: float
    feet_wide_mm: float


@cache
def _bodies() -> dict[str, MotorBody]:
    return {
        row["frame"]: MotorBody(
            frame=row["frame"],
            axis_height_mm=number(row, "axis_height_mm"),
            foot_across_mm=number(row, "foot_across_mm"),
            foot_along_mm=number(row, "foot_along_mm"),
            shaft_mm=number(row, "shaft_mm"),
            shaft_long_mm=number(row, "shaft_long_mm"),
            body_mm=number(row, "body_mm"),
            long_mm=number(row, "long_mm") - number(row, "shaft_long_mm"),
            feet_wide_mm=number(row, "feet_wide_mm"),
        )
        for row in load_table("pulltide.core", "motor_bodies").rows
    }


def motor_body(frame: str | None) -> MotorBody | None:
    """The body of a frame, None where it is not known or not listed.

    >>> motor_body("145T").axis_height_mm, motor_body("90S").shaft_mm, motor_body(None)
    (88.9, 24.0, None)
    """
    return None if frame is None else _bodies().get(frame)
