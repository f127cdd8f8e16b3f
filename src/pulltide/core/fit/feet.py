"""Forces on the bolts of what stands on feet: motor, reducers, pillow blocks. A first look: rigid base, equal springs.

A foot pushes up with

    Y = -F_y / n - M_z x / Σx² + M_x z / Σz²

where all loads are moved to the middle of the feet, x to the right, y up, z toward the viewer; below 0 its bolt pulls.
In the plane each takes F / n and its share of the twist about the middle. Source: statics.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product
from math import hypot

from pulltide.core.fit.shaft import ShaftAnswer
from pulltide.core.layout import Placed
from pulltide.core.line_result import LineResult
from pulltide.core.space import BASE, Axes, Block, Vec, cross, dot, moved
from pulltide.core.units import G_M_PER_S2
from pulltide.core.views import feet, motor

NOWHERE: Vec = (0.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class Push:
    """A force [N] at a place [mm] and a couple [N·mm], z away from the viewer as everywhere in a layout.

    A couple points toward whoever sees it turn counter-clockwise.
    """

    at: Vec
    force: Vec = NOWHERE
    couple: Vec = NOWHERE


@dataclass(frozen=True, slots=True)
class Foot:
    """What one foot pushes up with, below 0 where its bolt pulls, and the shear on it [N]."""

    up_n: float
    shear_n: float


def feet_forces(feet_mm: Sequence[Vec], pushes: Sequence[Push]) -> tuple[Foot, ...]:
    """What every foot takes of loads on a rigid body."""
    count = len(feet_mm)
    holes = [_toward(one) for one in feet_mm]
    middle = (sum(x for x, _, _ in holes) / count, holes[0][1], sum(z for _, _, z in holes) / count)
    total, moment = NOWHERE, NOWHERE
    for push in pushes:
        force = _toward(push.force)
        total = moved(total, force, 1.0)
        moment = moved(moment, cross(moved(_toward(push.at), middle, -1.0), force), 1.0)
        moment = moved(moment, _toward(push.couple), 1.0)
    placed = [(x - middle[0], z - middle[2]) for x, _, z in holes]
    xs, zs = sum(x * x for x, _ in placed), sum(z * z for _, z in placed)
    return tuple(
        Foot(
            -total[1] / count - moment[2] * x / xs + moment[0] * z / zs,
            hypot(total[0] / count + moment[1] * z / (xs + zs), total[2] / count - moment[1] * x / (xs + zs)),
        )
        for x, z in placed
    )


def _toward(vector: Vec) -> Vec:
    """With z toward the viewer, which makes a right-handed frame."""
    return vector[0], vector[1], -vector[2]


@dataclass(frozen=True, slots=True)
class Standing:
    """What stands on feet: ``motor`` or ``link-2``, what each foot takes, whether its weight is in it."""

    subject: str
    feet: tuple[Foot, ...]
    weighed: bool

    @property
    def pull_n(self) -> float:
        """The most that a bolt is pulled with [N]; 0 where every foot is pressed down."""
        return max(0.0, *(-foot.up_n for foot in self.feet))

    @property
    def shear_n(self) -> float:
        """The largest shear on one foot [N]."""
        return max(foot.shear_n for foot in self.feet)


def standings(line: LineResult, placed: Placed) -> Iterator[Standing]:
    """Motor and reducers on their feet under the running load, turned either way where a sense is not known."""
    if not line.links or any(not link.load_known for link in line.links):
        return
    body, *under = motor(placed)
    if under:
        yield _worst("motor", under, _on_motor(line, placed, body), weighed=False)
    for index in range(len(placed.stands)):
        strips = feet(placed, index)
        if strips:
            weighed = line.links[index].transmission.mass_kg is not None
            yield _worst(f"link-{index + 1}", strips, _on_case(line, placed, index), weighed=weighed)


def _worst(subject: str, under: Sequence[Block], ways: Sequence[Sequence[Push]], *, weighed: bool) -> Standing:
    """The way of turning that pulls hardest on a bolt, as the feet see it: on a wall, or on an upright shaft, too."""
    axes = under[0].axes
    holes = [_seen(axes, hole) for hole in _holes(under)]
    turned = [
        [Push(_seen(axes, push.at), _seen(axes, push.force), _seen(axes, push.couple)) for push in way] for way in ways
    ]
    return max((Standing(subject, feet_forces(holes, way), weighed) for way in turned), key=lambda one: one.pull_n)


def _seen(axes: Axes, vector: Vec) -> Vec:
    """A vector to the right, up and away of whoever looks along some axes."""
    return dot(vector, axes.right), dot(vector, axes.up), dot(vector, axes.away)


def _holes(under: Sequence[Block]) -> list[Vec]:
    """Holes at both ends of every strip of feet, at its lower face."""
    ends = [(block, side * block.half[2]) for block in under for side in (-1, 1)]
    return [block.axes.at(block.middle, up=-block.half[1], away=end) for block, end in ends]


def _pull(line: LineResult, stage: int, side: int, at: Vec, axes: Axes) -> Push:
    """What a wheel pulls its shaft with, at the middle of its face; what it turns is counted by itself."""
    force = line.links[stage].forces[side]
    return Push(at, axes.at(NOWHERE, force.x_n, force.y_n, -force.thrust_n))


def _ways(turn: int | None) -> tuple[int, ...]:
    return (1, -1) if turn is None else (turn,)


def _couple(axes: Axes, clockwise_nmm: float) -> Vec:
    """A couple that turns clockwise for whoever looks along a shaft: it points away from them."""
    return moved(NOWHERE, axes.away, clockwise_nmm)


def _on_motor(line: LineResult, placed: Placed, body: Block) -> list[list[Push]]:
    """The pull of the first wheel, and what the load turns the motor back with."""
    pull = _pull(line, 0, 0, placed.stands[0].driver, BASE)
    shaft = line.shafts[0]
    torque = 1000 * (shaft.running_torque_nm or 0.0)
    return [[pull, Push(body.middle, couple=_couple(BASE, -way * torque))] for way in _ways(shaft.turn)]


def _on_case(line: LineResult, placed: Placed, index: int) -> list[list[Push]]:
    """Its weight, the pulls of the wheels before and after, and what turns it at its input and its output."""
    stand = placed.stands[index]
    assert stand.block is not None
    pushes, mass = [], line.links[index].transmission.mass_kg
    if mass is not None:
        pushes.append(Push(stand.block.middle, (0.0, -G_M_PER_S2 * mass, 0.0)))
    if index:
        pushes.append(_pull(line, index - 1, 1, placed.stands[index - 1].driven, stand.axes))
    if index + 1 < len(placed.stands):
        pushes.append(_pull(line, index + 1, 0, placed.stands[index + 1].driver, stand.turned))
    first, second = (1000 * (line.shafts[k].running_torque_nm or 0.0) for k in (index, index + 1))
    ways = product(_ways(line.shafts[index].turn), _ways(line.shafts[index + 1].turn))
    return [
        [
            *pushes,
            Push(stand.block.middle, couple=_couple(stand.axes, way_in * first)),
            Push(stand.block.middle, couple=_couple(stand.turned, -way_out * second)),
        ]
        for way_in, way_out in ways
    ]


@dataclass(frozen=True, slots=True)
class BlockBolts:
    """A pillow block by its number on the shaft: the most that a bolt is pulled with, and the shear of both [N]."""

    number: int
    pull_n: float
    shear_n: float


def on_blocks(answer: ShaftAnswer) -> Iterator[BlockBolts]:
    """Two bolts of every pillow block on a level base: Y = F_y / 2 + h |F_x| / j.

    The shaft pushes on the block against its reaction; h is the height of its axis, j from bolt to bolt [mm].
    """
    for number, (bearing, insert) in enumerate(zip(answer.bearings, answer.case.inserts, strict=True), start=1):
        if insert is not None and insert.block_bolts_mm:
            pull = -bearing.y_n / 2 + insert.block_height_mm * abs(bearing.x_n) / insert.block_bolts_mm
            yield BlockBolts(number, max(0.0, pull), abs(bearing.x_n))
