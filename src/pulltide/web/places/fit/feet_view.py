"""What the bolts of motor, reducers and pillow blocks take, and how every belt comes off, in words."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.fit.feet import on_blocks, standings
from pulltide.core.fit.passing import Passing, passings
from pulltide.core.fit.shaft import harder, is_free
from pulltide.core.layout import place
from pulltide.quantities import show
from pulltide.web.places.contract import Context
from pulltide.words import say


@dataclass(frozen=True, slots=True)
class BoltLine:
    """One thing that is bolted down: its name, the pull on its hardest bolt, the shear, what is not counted."""

    name: str
    pull: str
    shear: str
    note: str


def bolts(context: Context) -> tuple[BoltLine, ...]:
    """Motor and reducers on their feet, then pillow blocks of shafts that are worked out."""
    line, plan = context.line, context.plan
    if line is None or not plan.links:
        return ()
    return (*_feet(context), *_blocks(context))


def _shown(context: Context, pull_n: float, shear_n: float) -> tuple[str, str]:
    pull = str(show(pull_n, "N", context.units)) if pull_n >= 1 else say("pressed down")
    return pull, str(show(shear_n, "N", context.units))


def _feet(context: Context) -> Iterator[BoltLine]:
    assert context.line is not None
    for one in standings(context.line, place(context.plan, context.line)):
        _, _, number = one.subject.partition("-")
        name = say("Motor") if one.subject == "motor" else say("Reducer, stage {number}", number=number)
        note = "" if one.weighed else say("without its weight")
        yield BoltLine(name, *_shown(context, one.pull_n, one.shear_n), note)


def _blocks(context: Context) -> Iterator[BoltLine]:
    assert context.line is not None
    for number in range(1, len(context.line.shafts) + 1):
        if not is_free(context.plan, number):
            continue
        try:
            answer = harder(context.machine, context.plan, context.line, number)
        except ImpossibleGeometry:
            continue
        for block in on_blocks(answer) if answer is not None else ():
            name = say("Pillow block {number}, shaft {shaft}", number=block.number, shaft=number)
            yield BoltLine(name, *_shown(context, block.pull_n, block.shear_n), "")


def comes_off(context: Context) -> dict[int, str]:
    """How the belt of a stage, from 1, comes off its wheels, where that is known."""
    line, plan = context.line, context.plan
    if line is None or not plan.links:
        return {}
    return {one.stage: _says(one) for one in passings(plan, line, place(plan, line))}


def _says(one: Passing) -> str:
    if one.captive:
        return say("only when a bearing is off")
    if not one.both:
        return say("one end here, one there")
    return say("over either end") if len(one.both) == 2 else say("over the {both} end", both=min(one.both))
