"""Where a drive parts: a belt or limiter that slips, a one-way clutch that its load overruns, a pin that shears."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import inf
from typing import Literal

from pulltide.core.run_up.train import Group

#: What is left of the torque that a belt or clutch passes once it slips. Common practice, no source.
KINETIC_SHARE = 0.8

ContactKind = Literal["slips", "overruns", "shears"]


@dataclass(frozen=True, slots=True)
class Contact:
    """What holds a stage, from 0, together: up to ``torque_nm`` at its driver shaft, and with a one-way clutch only
    while the driver pushes. ``name`` is the part, ``clutch`` the one-way clutch.
    """

    stage: int
    kind: ContactKind
    torque_nm: float = inf
    name: str = ""
    clutch: str = ""

    def friction_nm(self, lead: float) -> float:
        """What it passes while it is open [N·m], below 0 where the driven side pulls its driver along.

        Nothing once a pin is gone or a one-way clutch is overrun.
        """
        if lead == 0 or self.kind != "slips" or (lead < 0 and self.clutch):
            return 0.0
        return lead * KINETIC_SHARE * self.torque_nm

    def strain(self, into_nm: float) -> float:
        """Over 0 once a torque into it is too much, or pushes back through a one-way clutch."""
        if not self.clutch:
            return abs(into_nm) / self.torque_nm - 1
        return max(into_nm / self.torque_nm - 1, -into_nm)

    def lead(self, into_nm: float) -> float:
        """Which side runs ahead as it opens under a torque into it [N·m]: 1 the driver, -1 the driven one."""
        # a one-way clutch opens at no torque, where its sign is that of a rounding
        backward = into_nm < 0.5 * self.torque_nm if self.clutch else into_nm < 0
        return -1.0 if backward else 1.0

    def stays_open(self, lead: float) -> bool:
        """Whether it never holds again."""
        return self.kind == "shears" and not (lead < 0 and self.clutch)

    def opens(self, lead: float) -> ContactKind:
        """What happens as it opens."""
        return "overruns" if lead < 0 and self.clutch else self.kind


@dataclass(frozen=True, slots=True)
class Piece:
    """Shafts that turn as one: from which shaft, after and before which open contact; None at an end of the drive."""

    group: Group
    first: int
    left: int | None
    right: int | None

    def held(self, brakes_nm: tuple[float, ...]) -> tuple[float, ...]:
        """Torques of the brakes on its shafts [N·m]."""
        return brakes_nm[self.first : self.first + len(self.group.inertias_kgm2)]


def pieces(whole: Group, contacts: Sequence[Contact], is_open: Sequence[bool]) -> tuple[Piece, ...]:
    """A drive cut at its open contacts, in order from the motor."""
    return tuple(_cut(whole, contacts, is_open))


def _cut(whole: Group, contacts: Sequence[Contact], is_open: Sequence[bool]) -> Iterator[Piece]:
    first, left = 0, None
    for number, contact in enumerate(contacts):
        if is_open[number]:
            end = contact.stage + 1
            group = Group(whole.inertias_kgm2[first:end], whole.stages[first : contact.stage])
            yield Piece(group, first, left, number)
            first, left = end, number
    yield Piece(Group(whole.inertias_kgm2[first:], whole.stages[first:]), first, left, None)
