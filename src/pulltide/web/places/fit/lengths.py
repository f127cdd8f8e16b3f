"""Stock lengths of every stage, and the center distances they make."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.errors import PulltideError
from pulltide.core.links import family_of
from pulltide.quantities import show
from pulltide.web.places.contract import Context
from pulltide.words import worded


@dataclass(frozen=True, slots=True, kw_only=True)
class Length:
    """A stock length, the center distance it makes, and how far that is from the present one."""

    name: str
    center_mm: float
    center: str
    moved: str
    now: bool
    set_path: str
    set_value: str


def lengths_of(context: Context) -> dict[int, tuple[Length, ...]]:
    """What runs round the wheels of a stage and has a stock length, by the stage's place from 0."""
    line, units = context.line, context.units
    found: dict[int, tuple[Length, ...]] = {}
    for index, (link, result) in enumerate(zip(context.plan.links, line.links if line else (), strict=False)):
        family, now = family_of(link.kind), result.center_distance_mm
        lengths = []
        for name, other in family.lengths(link, context.catalog):
            center = _center_mm(family.prepare, other, result.step)
            if center is None or now is None:
                continue
            field = "belt" if hasattr(link, "belt") else "pitches" if hasattr(link, "pitches") else "belt_teeth"
            sign, off = "+" if center > now else "−", abs(center - now)
            moved = "" if off < 0.05 else f"{sign}{show(off, 'mm', units)}"
            lengths.append(
                Length(
                    name=worded(name),
                    center_mm=center,
                    center=str(show(center, "mm", units)),
                    moved=moved,
                    now=not moved,
                    set_path=f"plans.{context.selection.plan}.links.{index}.{field}",
                    set_value=str(getattr(other, field)),
                )
            )
        if lengths:
            found[index] = tuple(lengths)
    return found


def _center_mm(prepare: object, link: object, step: int) -> float | None:
    try:
        center: float | None = prepare(link, step).center_distance_mm  # type: ignore[operator]
    except PulltideError:
        return None
    return center
