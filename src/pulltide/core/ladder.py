"""What gives first as the load on the last shaft rises, and whether the wanted fuse gives before something breaks.

The torque at each shaft is known under the running load and under a heavy one, and rises evenly with the load: what a
belt loses turning idle does not grow. The motor is taken to hold its full-load speed.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.family import GivePoint
from pulltide.core.findings import COMMON_PRACTICE, Finding, Rule, Severity, judge, state
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.shafts import ShaftPart
from pulltide.core.shafts import gives as shaft_gives
from pulltide.core.sources import Drive

FUSE_LATE = Rule(
    "ladder.fuse_late",
    "load at which the fuse lets go, times the running load",
    "<=",
    Severity.WARNING,
    "Something breaks before the part that should let go",
    "The fuse lets go before anything known breaks",
    "",
    COMMON_PRACTICE,
    "Set the belt slacker or use a weaker pin, or make what breaks stronger.",
    True,
)
FUSE_EARLY = Rule(
    "ladder.fuse_early",
    "load at which the fuse lets go, times the running load",
    ">=",
    Severity.WARNING,
    "The part that should let go only in need may do so at every peak",
    "The fuse carries the machine's own peaks",
    "",
    COMMON_PRACTICE,
    "Set the belt tighter or use a stronger pin.",
    True,
)
FUSE_UNKNOWN = Rule(
    "ladder.fuse_unknown",
    "strength of the fuse",
    ">=",
    Severity.WARNING,
    "Nobody knows when the part meant to let go will do so",
    "",
    "",
    COMMON_PRACTICE,
    "Enter the tension set on each belt, or size, circle and steel of the pins.",
)
#: The heavy load, times the running one.
HEAVY = 4.0
RULES = (FUSE_LATE, FUSE_EARLY, FUSE_UNKNOWN)


@dataclass(frozen=True, slots=True)
class Rung:
    """One thing that gives, at ``times`` the running load (None while unknown); ``subject`` is ``link-2``, say."""

    subject: str
    point: GivePoint
    times: float | None


@dataclass(frozen=True, slots=True)
class Ladder:
    """Rungs from the lowest up, those of unknown strength apart; ``peak_times`` is the machine's own peak."""

    known: tuple[Rung, ...]
    unknown: tuple[Rung, ...]
    running_torque_nm: float
    peak_times: float | None
    light_nm: tuple[float, ...] = ()
    heavy_nm: tuple[float, ...] = ()

    def torques_at(self, times: float) -> tuple[float, ...]:
        """Torque at every shaft, motor first, under a load [N·m]: even between its light and heavy torque."""
        share = (times - 1) / (HEAVY - 1)
        return tuple(max(a + share * (b - a), 0.0) for a, b in zip(self.light_nm, self.heavy_nm, strict=True))

    @property
    def fuse(self) -> Rung | None:
        """The wanted fuse that gives first; one of unknown strength only where no other is marked."""
        return next((rung for rung in (*self.known, *self.unknown) if rung.point.wanted), None)

    @property
    def first_break(self) -> Rung | None:
        """The first thing to break."""
        return next((rung for rung in self.known if rung.point.gives == "breaks"), None)


def _motor_points(motor: Drive) -> Iterator[GivePoint]:
    yield GivePoint("motor at its rated power", "wears", motor.torque_nm)
    most = motor.most_torque_nm
    yield GivePoint("motor stalls", "slips", most, "its breakdown torque" if most is None else "")


def _shaft_rungs(line: LineResult, parts: tuple[ShaftPart, ...], heavy_nm: tuple[float, ...]) -> Iterator[Rung]:
    """Shafts and keys whose sizes are entered; of the others it is said that nothing is known, not left out."""
    unknown = []
    for index, shaft in enumerate(line.shafts):
        part = next((part for part in parts if part.shaft == index + 1 and part.diameter_mm is not None), None)
        if part is None:
            unknown.append(str(index + 1))
            continue
        torques = (shaft.running_torque_nm or 0.0, heavy_nm[index])
        for point in shaft_gives(part):
            yield _rung(f"shaft-{index + 1}", point, torques)
    if unknown:
        some = len(unknown) < len(line.shafts)
        missing = f"sizes of keys and shafts {', '.join(unknown)}" if some else "sizes of keys and shafts"
        yield Rung("line", GivePoint("keys shear, shafts twist", "breaks", None, missing), None)


def ladder(
    line: LineResult, motor: Drive, heavy_torques_nm: tuple[float, ...], parts: tuple[ShaftPart, ...] = ()
) -> Ladder | None:
    """All that gives in a solved line, or None while its running torque is unknown or nothing.

    ``heavy_torques_nm``: torque at every shaft, motor first, under ``HEAVY`` times the running load. ``parts``: what is
    known of shafts and keys.
    """
    running, peak = line.last_shaft.running_torque_nm, line.last_shaft.peak_torque_nm
    first = line.shafts[0].running_torque_nm
    if not running or not first:
        return None
    rungs = [_rung("motor", point, (first, heavy_torques_nm[0])) for point in _motor_points(motor)]
    for index, link in enumerate(line.links):
        torques = (link.flow.driver_torque_nm, heavy_torques_nm[index])
        rungs += [_rung(f"link-{index + 1}", point, torques) for point in family_of(link.kind).gives(link)]
    rungs += _shaft_rungs(line, parts, heavy_torques_nm)
    known = sorted((rung for rung in rungs if rung.times is not None), key=lambda rung: rung.times or 0.0)
    unknown = tuple(rung for rung in rungs if rung.times is None)
    light = tuple(shaft.running_torque_nm or 0.0 for shaft in line.shafts)
    over = None if peak is None else peak / running
    return Ladder(tuple(known), unknown, running, over, light, heavy_torques_nm)


def _rung(subject: str, point: GivePoint, torques_nm: tuple[float, float]) -> Rung:
    """Load at which a shaft's torque meets the point: on the line through its running and its heavy torque."""
    light, heavy = torques_nm
    if point.torque_nm is None or heavy <= light:
        return Rung(subject, point, None)
    times = 1 + (HEAVY - 1) * (point.torque_nm - light) / (heavy - light)
    return Rung(subject, point, max(times, 0.0))


def findings(found: Ladder | None) -> Iterator[Finding]:
    """Whether the belt that is meant to slip does so before anything breaks, and not at every peak."""
    fuse = found.fuse if found else None
    if found is None or fuse is None:
        return
    if fuse.times is None:
        yield state(FUSE_UNKNOWN, fuse.subject)
        return
    breaks = found.first_break
    if breaks is not None and breaks.times is not None:
        yield judge(FUSE_LATE, fuse.subject, fuse.times, breaks.times)
    slips = [rung.times for rung in found.known if rung.subject == fuse.subject and rung.point.gives == "slips"]
    if found.peak_times is not None:
        yield judge(FUSE_EARLY, fuse.subject, min(times for times in slips if times is not None), found.peak_times)
