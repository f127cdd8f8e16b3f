"""A duty cycle over time, again and again: what is told of each stretch, and the speed that a drive follows."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import pairwise

from pulltide.core.duty import Segment

#: Two times nearer than this are one [s].
ONE_S = 1e-9


@dataclass(frozen=True, slots=True)
class Stretches:
    """A cycle from a time until another [s]; ``ramp_s`` is what a change by all of the speed takes."""

    parts: tuple[Segment, ...]
    began_s: float
    until_s: float
    ramp_s: float
    path: tuple[tuple[float, float], ...] = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "path", tuple(self._path()))

    @property
    def changes_speed(self) -> bool:
        """Whether any stretch is at another speed than the ideal one."""
        return any(part.speed_share != 1 or _speed_end(part) != 1 for part in self.parts)

    def stretches(self) -> Iterator[tuple[float, float, Segment]]:
        """When each begins and ends [s], over and over."""
        at = self.began_s
        while at < self.until_s - ONE_S:
            for part in self.parts:
                end = min(at + part.seconds, self.until_s)
                if end > at:
                    yield at, end, part
                at = end

    def speed(self, now: float) -> float:
        """Speed that a drive follows: the one told, each jump of it as a ramp."""
        if now <= self.path[0][0]:
            return self.path[0][1]
        for (t0, n0), (t1, n1) in pairwise(self.path):
            if now <= t1:
                return n0 + (n1 - n0) * (now - t0) / (t1 - t0)
        return self.path[-1][1]

    def bends(self, begin: float, end: float) -> Iterator[float]:
        """Times after one and up to another at which torque or speed may bend [s]."""
        yield from (at for at, _ in self.path if begin + ONE_S < at < end - ONE_S)
        yield end

    def _path(self) -> Iterator[tuple[float, float]]:
        """Times [s] and speeds of a line that follows what is told, at most by so much in a second."""
        at, speed = self.began_s, 1.0
        yield at, speed
        for begin, end, part in self.stretches():
            slope = (_speed_end(part) - part.speed_share) / part.seconds
            gap = part.speed_share - speed
            closing = (1 if gap > 0 else -1) / self.ramp_s - slope
            if gap:
                meets = min(gap / closing, end - begin) if closing * gap > 0 else end - begin
                at = begin + meets
                speed += (1 if gap > 0 else -1) * meets / self.ramp_s
                yield at, speed
            if end - at > ONE_S:
                at, speed = end, part.speed_share + slope * (end - begin)
                yield at, speed


def torque_and_speed(part: Segment, after_s: float) -> tuple[float, float]:
    """Torque over the running one, and speed over the ideal one, so long after a stretch began."""
    gone = min(max(after_s / part.seconds, 0.0), 1.0)
    torque = part.torque_share if part.torque_share_end is None else part.torque_share_end
    speed = part.speed_share + gone * (_speed_end(part) - part.speed_share)
    return part.torque_share + gone * (torque - part.torque_share), speed


def _speed_end(part: Segment) -> float:
    return part.speed_share if part.speed_share_end is None else part.speed_share_end
