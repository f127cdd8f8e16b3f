"""Ringed shafts that are dragged on the elevation: where each catches, and what is then set."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from math import hypot

from pulltide.core.layout import place
from pulltide.presentation.sheet import frame_of
from pulltide.quantities import show
from pulltide.web.places.fit.lengths import Length
from pulltide.web.places.frame import Context


@dataclass(frozen=True, slots=True)
class Stop:
    """A place where a ring catches: how far along its way, in units of the picture, and what it is called."""

    at: float
    says: str
    value: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Handle:
    """One ring: where it stands on the picture, its way as a unit vector, its stops in order, the one it is at."""

    stage: int
    x: float
    y: float
    along_x: float
    along_y: float
    stops: tuple[Stop, ...]
    now: int
    path: str

    @property
    def stop_data(self) -> list[dict[str, object]]:
        """The stops as the page keeps them."""
        return [asdict(stop) for stop in self.stops]

    @property
    def says(self) -> str:
        """The stop it is at."""
        return self.stops[self.now].says


def handles(context: Context, lengths: dict[int, tuple[Length, ...]]) -> tuple[Handle, ...]:
    """A ring on the driven shaft of every stage that something of a stock length runs round."""
    line, plan = context.line, context.plan
    if line is None or not plan.links:
        return ()
    placed, frame = place(plan, line), frame_of(plan, line)
    made = []
    for index, listed in lengths.items():
        a, b = frame.at(placed.centers[index]), frame.at(placed.centers[index + 1])
        long = hypot(b[0] - a[0], b[1] - a[1])
        ordered = sorted(listed, key=lambda length: length.center_mm)
        now = next((number for number, length in enumerate(ordered) if length.now), None)
        if now is None or long <= 0:
            continue
        present = ordered[now].center_mm
        stops = tuple(
            Stop(
                round((length.center_mm - present) * frame.scale, 2),
                f"{length.name}, {show(length.center_mm, 'mm', context.units)}",
                length.set_value,
            )
            for length in ordered
        )
        made.append(
            Handle(
                stage=index + 1,
                x=round(b[0], 2),
                y=round(b[1], 2),
                along_x=round((b[0] - a[0]) / long, 5),
                along_y=round((b[1] - a[1]) / long, 5),
                stops=stops,
                now=now,
                path=ordered[now].set_path,
            )
        )
    return tuple(made)
