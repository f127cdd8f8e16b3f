"""The plan of a line as a drawing: the drive from above, on the verticals of its elevation, the near side at the foot.

Where stations along the shafts are entered the wheels stand there; elsewhere each stage stands behind the one before.
"""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core import views
from pulltide.core.layout import Placed, place
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Plan
from pulltide.core.sketch import Axle, Dimension, Line, Sketch, Text
from pulltide.core.space import ABOVE


def plan_view(plan: Plan, line: LineResult) -> tuple[Sketch, Placed]:
    """Draw a solved line from above: x as in the elevation, y away from the viewer."""
    placed = place(plan, line)
    shafts = range(len(placed.spots))
    drawing = Sketch("Plan of the drive, from above")
    drawing.shapes += [views.seen(views.rod(plan, placed, index), ABOVE, "rod") for index in shafts]
    _motor(drawing, plan, placed)
    for index in range(len(placed.stands)):
        drawing.shapes += views.stage(placed, index, ABOVE)
    blocks = (block for index in shafts for block in views.bearings(plan, placed, index))
    drawing.shapes += [Line(block.seen(ABOVE), "bearing", closed=True) for block in blocks]
    upright = (index for index in shafts if ABOVE.along(placed.axes(index)))
    drawing.shapes += [Axle(ABOVE.at(placed.spots[index])) for index in upright]
    _measures(drawing, placed)
    return drawing, placed


def _motor(drawing: Sketch, plan: Plan, placed: Placed) -> None:
    """The motor with its feet, on its base where one is drawn."""
    base = views.slide_base(plan, placed)
    if base is not None:
        drawing.shapes.append(Line(base.plate.seen(ABOVE), "plate", closed=True))
    body, *feet = views.motor(placed)
    drawing.shapes.append(Line(body.seen(ABOVE), "motor", closed=True, part="motor"))
    drawing.shapes += [Line(foot.seen(ABOVE), "feet", closed=True) for foot in feet]
    if base is not None:
        drawing.shapes += [Line(slot.seen(ABOVE), "slot", closed=True) for slot in base.slots]
        left, right = (ABOVE.at(end) for end in base.travel)
        drawing.shapes.append(Dimension(left, right, "slide", base.travel_mm, "mm", 0.0))


def _measures(drawing: Sketch, placed: Placed) -> None:
    """From stage to stage along the shafts they share, and which of these are no more than assumed."""
    for near, far, apart in views.offsets(placed):
        drawing.shapes.append(Dimension(ABOVE.at(near), ABOVE.at(far), "", apart, "mm", 0.0))
    says = "; ".join(_guesses(placed))
    if says:
        drawing.shapes.append(Text((0.0, 0.0), says[0].upper() + says[1:], "note"))


def _guesses(placed: Placed) -> Iterator[str]:
    """What is drawn by a guess."""
    if placed.assumed:
        numbers = ", ".join(str(number) for number in placed.assumed)
        yield f"places along shaft {numbers} are assumed until entered below"
    guessed = [number for number, stand in enumerate(placed.stands, start=1) if stand.block and not stand.known]
    if guessed:
        yield f"the outside of the case in stage {', '.join(map(str, guessed))} is a guess"
