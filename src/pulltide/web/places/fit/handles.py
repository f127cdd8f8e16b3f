"""Rings that are dragged: shafts on the elevation, wheels and bearings along their shaft; where each catches."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass
from math import hypot

from pulltide.core.fit.shaft import ShaftAnswer
from pulltide.core.layout import place
from pulltide.core.shafts import Span
from pulltide.core.space import ABOVE, FRONT, Point, View
from pulltide.core.views import side_of
from pulltide.presentation.painting import Frame
from pulltide.presentation.plan_sheet import plan_frame
from pulltide.presentation.sheet import frame_of, side_frame
from pulltide.quantities import show
from pulltide.web.places.contract import Context
from pulltide.web.places.fit.lengths import Length
from pulltide.words import say, worded


@dataclass(frozen=True, slots=True)
class Stop:
    """A place where a ring catches: how far along its way, in units of the picture, and what it is called."""

    at: float
    says: str
    value: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Handle:
    """One ring: where it stands on the picture, its way as a unit vector, its stops in order, the one it is at."""

    key: str
    label: str
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


@dataclass(frozen=True, slots=True)
class Rings:
    """The rings of every picture of the drive."""

    front: tuple[Handle, ...] = ()
    above: tuple[Handle, ...] = ()
    side: tuple[Handle, ...] = ()


def handles(context: Context, lengths: dict[int, tuple[Length, ...]]) -> Rings:
    """A ring on the driven shaft of every stage that something of a stock length runs round, where its end is seen."""
    line, plan = context.line, context.plan
    if line is None or not plan.links:
        return Rings()
    placed = place(plan, line)
    side = side_of(placed)
    pictures: list[tuple[str, View, Frame | None]] = [
        ("front", FRONT, frame_of(plan, line)),
        ("above", ABOVE, plan_frame(plan, line)),
    ]
    if side is not None:
        pictures.append(("side", side, side_frame(plan, line)))
    made: dict[str, list[Handle]] = {name: [] for name, _, _ in pictures}
    for index, listed in lengths.items():
        stand = placed.stands[index]
        for name, view, frame in pictures:
            if frame is not None and view.along(stand.axes):
                ends = frame.at(view.at(stand.driver)), frame.at(view.at(stand.driven))
                made[name] += _ring(context, index, listed, ends, frame.scale)
                break
    return Rings(**{name: tuple(rings) for name, rings in made.items()})


def _ring(
    context: Context, index: int, listed: tuple[Length, ...], ends: tuple[Point, Point], scale: float
) -> Iterator[Handle]:
    a, b = ends
    long = hypot(b[0] - a[0], b[1] - a[1])
    ordered = sorted(listed, key=lambda length: length.center_mm)
    now = next((number for number, length in enumerate(ordered) if length.now), None)
    if now is None or long <= 0:
        return
    present = ordered[now].center_mm
    stops = tuple(
        Stop(
            round((length.center_mm - present) * scale, 2),
            f"{worded(length.name)}, {show(length.center_mm, 'mm', context.units)}",
            length.set_value,
        )
        for length in ordered
    )
    yield Handle(
        key=str(index + 1),
        label=say("Centers of stage {index}", index=index + 1),
        x=round(b[0], 2),
        y=round(b[1], 2),
        along_x=round((b[0] - a[0]) / long, 5),
        along_y=round((b[1] - a[1]) / long, 5),
        stops=stops,
        now=now,
        path=ordered[now].set_path,
    )


#: What is dragged along a shaft, in words.
ALONG = {
    "bearing_1_mm": "First bearing",
    "bearing_2_mm": "Second bearing",
    "bearing_3_mm": "Third bearing",
    "driven_at_mm": "Wheel of the stage before",
    "driver_at_mm": "Wheel of the stage after",
    "load_at_mm": "Other load",
}
#: It catches at every so many millimeters or quarters of an inch, coarser on a long shaft: so many places at most.
CATCHES, MAX_STOPS = {"mm": 5.0, "in": 6.35}, 120


def grips(
    answer: ShaftAnswer, span: Span, base: str, context: Context, x: Callable[[float], float]
) -> Iterator[Handle]:
    """A ring on every wheel and bearing of a shaft that is drawn, ``x`` where a station stands across it."""
    low, high = answer.case.pieces[0].start_mm, answer.case.pieces[-1].end_mm
    step = CATCHES.get(context.units.length, CATCHES["mm"])
    while (high - low) / step > MAX_STOPS:
        step *= 2
    for name, label in ALONG.items():
        at = getattr(span, name)
        if at is None:
            continue
        places = sorted({at, *(step * k for k in range(int(high / step) + 1) if step * k >= low)})
        stops = tuple(
            Stop(round(x(one) - x(at), 2), str(show(one, "mm", context.units)), say("{one:.6g} mm", one=one))
            for one in places
        )
        yield Handle(
            key=f"s-{name}",
            label=say("{label}, along the shaft", label=label),
            x=x(at),
            y=GRIP_Y,
            along_x=1.0,
            along_y=0.0,
            stops=stops,
            now=places.index(at),
            path=f"{base}.span.{name}",
        )


#: How far down the drawing of a shaft its rings stand: clear of its wheels' names and of its bearings'.
GRIP_Y = 62.0
