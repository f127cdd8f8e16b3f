"""What gives first as the load on the last shaft rises, and whether the wanted fuse gives before something breaks.

The torque at each shaft is known without load, under the running load and under a heavy one, and rises evenly between:
what a belt or a reducer loses turning idle does not grow. The motor is taken to hold the speed it has under the running
load.

When the machine is held fast, torque rises everywhere until the weakest thing that slips for certain lets go: motor,
driver, belt or pins. What breaks before that is told by the same rungs, so that no finding can say otherwise.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.findings import Check, Finding, Remark, Severity, jam_rule, judge, state
from pulltide.core.labels import as_is
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.shafts import ShaftPart
from pulltide.core.shafts import failure_points as shaft_failure_points
from pulltide.core.sources import Drive
from pulltide.core.transmission import FailurePoint

FUSE_LATE = Check(
    code="ladder.fuse_late",
    severity=Severity.WARNING,
    quantity="load at which the fuse slips or shears, times the running load",
    fact="Something breaks before the part that should slip or shear",
    clear="The fuse slips or shears before anything known breaks",
    base="load at which the first part breaks",
    advice="Slacken the belt or use a weaker pin, or strengthen what breaks.",
    needs_load=True,
)
FUSE_EARLY = Check(
    code="ladder.fuse_early",
    severity=Severity.WARNING,
    quantity="load at which the fuse slips or shears, times the running load",
    relation=">=",
    fact="The fuse may slip or shear at every normal peak",
    clear="The fuse holds through the machine's normal peaks",
    base="peak of the machine",
    advice="Tighten the belt or use a stronger pin.",
    needs_load=True,
)
FUSE_UNKNOWN = Remark(
    code="ladder.fuse_unknown",
    severity=Severity.WARNING,
    quantity="strength of the fuse",
    fact="The torque at which the fuse slips or shears is not known",
    advice="Enter the tension set on each belt, or the size, circle and steel of the pins.",
)
#: The heavy load, times the running one: as heavy as stalls the source, between these ends.
MIN_HEAVY, MAX_HEAVY = 2.0, 30.0
JAM_SHAFT = jam_rule(
    "ladder.jam_shaft",
    "A jam would twist this shaft or break its key",
    "Shaft and key survive a jam",
    base="torque that shears the key or twists the shaft",
    quantity="torque on it",
)


def heavy_times(line: LineResult, motor: Drive) -> float:
    """The heavy load that the torques are worked out under, times the running one."""
    running, most = line.shafts[0].running_torque_nm, motor.max_torque_nm
    if not running or most is None:
        return 4.0
    return min(max(most / running, MIN_HEAVY), MAX_HEAVY)


RULES = (FUSE_LATE, FUSE_EARLY, FUSE_UNKNOWN, JAM_SHAFT)


@dataclass(frozen=True, slots=True)
class Rung:
    """One thing that gives, at ``times`` the running load (None while unknown); ``subject`` is ``link-2``, say."""

    subject: str
    point: FailurePoint
    times: float | None


@dataclass(frozen=True, slots=True)
class Ladder:
    """Rungs from the lowest up, those of unknown strength apart; ``peak_times`` is the machine's own peak."""

    known: tuple[Rung, ...]
    unknown: tuple[Rung, ...]
    running_torque_nm: float
    peak_times: float | None
    heavy_times: float = 4.0
    idle_nm: tuple[float, ...] = ()
    light_nm: tuple[float, ...] = ()
    heavy_nm: tuple[float, ...] = ()

    def torques_at(self, times: float) -> tuple[float, ...]:
        """Torque at every shaft, motor first, under a load [N·m]: even between idling, running and heavy torque."""
        if times < 1:
            return tuple(a + times * (b - a) for a, b in zip(self.idle_nm, self.light_nm, strict=True))
        share = (times - 1) / (self.heavy_times - 1)
        return tuple(a + share * (b - a) for a, b in zip(self.light_nm, self.heavy_nm, strict=True))

    @property
    def lets_go(self) -> Rung | None:
        """What slips first for certain when the machine is held fast; None while nobody knows."""
        return next((rung for rung in self.known if rung.point.mode == "slips" and rung.point.certain), None)

    @property
    def jam_torques_nm(self) -> tuple[float, ...] | None:
        """Torque at every shaft when the machine is held fast [N·m]: as much as the first to slip lets through."""
        first = self.lets_go
        return None if first is None or first.times is None else self.torques_at(first.times)

    @property
    def fuse(self) -> Rung | None:
        """The wanted fuse that gives first; one of unknown strength only where no other is marked."""
        return next((rung for rung in (*self.known, *self.unknown) if rung.point.wanted), None)

    @property
    def fuse_is_late(self) -> bool:
        """Whether the wanted fuse is known to let go only after something breaks: one thing to mend, told once."""
        fuse, breaks = self.fuse, self.first_break
        return bool(fuse and breaks and fuse.times is not None and fuse.times > (breaks.times or 0.0))

    @property
    def first_break(self) -> Rung | None:
        """The first thing to break."""
        return next((rung for rung in self.known if rung.point.mode == "breaks"), None)


def _motor_points(motor: Drive) -> Iterator[FailurePoint]:
    yield FailurePoint("source at rated power", "wears", motor.torque_nm)
    most = motor.max_torque_nm
    yield FailurePoint(motor.stalls, "slips", most, "its maximum torque" if most is None else "")


#: Torque at one shaft without load, under the running load and under the heavy one [N·m].
Known = tuple[float, float, float]


def _shaft_rungs(
    line: LineResult, parts: tuple[ShaftPart, ...], known: tuple[Known, ...], times: float
) -> Iterator[Rung]:
    """Shafts and keys whose sizes are entered; of the others it is said that nothing is known, not left out."""
    unknown = []
    for index in range(len(line.shafts)):
        part = next((part for part in parts if part.shaft == index + 1 and part.diameter_mm is not None), None)
        if part is None:
            unknown.append(str(index + 1))
            continue
        for point in shaft_failure_points(part):
            yield _rung(f"shaft-{index + 1}", point, known[index], times)
    if unknown:
        some = len(unknown) < len(line.shafts)
        missing = f"sizes of keys and shafts {as_is(', '.join(unknown))}" if some else "sizes of keys and shafts"
        yield Rung("line", FailurePoint("keys shear, shafts twist", "breaks", None, missing), None)


def ladder(
    line: LineResult,
    motor: Drive,
    others_nm: tuple[tuple[float, ...], tuple[float, ...]],
    times: float,
    parts: tuple[ShaftPart, ...] = (),
) -> Ladder | None:
    """All that gives in a solved line, or None while its running torque is unknown or nothing.

    ``others_nm``: torque at every shaft, motor first, without load and under ``times`` the running load.
    ``parts``: what is known of shafts and keys.
    """
    running = line.last_shaft.running_torque_nm
    first = line.shafts[0].running_torque_nm
    if not running or not first:
        return None
    idle, heavy = others_nm
    light = tuple(shaft.running_torque_nm or 0.0 for shaft in line.shafts)
    at = tuple(zip(idle, light, heavy, strict=True))
    rungs = [_rung("motor", point, at[0], times) for point in _motor_points(motor)]
    for index, (link, taken) in enumerate(zip(line.links, line.taken_nm, strict=False)):
        through = (at[index][0] - taken, at[index][1] - taken, at[index][2] - taken)
        rungs += [
            _rung(f"link-{index + 1}", point, through, times) for point in family_of(link.kind).failure_points(link)
        ]
    rungs += _shaft_rungs(line, parts, at, times)
    known = sorted((rung for rung in rungs if rung.times is not None), key=lambda rung: rung.times or 0.0)
    unknown = tuple(rung for rung in rungs if rung.times is None)
    own, own_peak = line.need_torques_nm
    over = None if not own or own_peak is None else own_peak / own
    return Ladder(tuple(known), unknown, running, over, times, idle, light, heavy)


def _rung(subject: str, point: FailurePoint, torques_nm: Known, times: float) -> Rung:
    """Load at which a shaft's torque meets the point: between idling and running torque, or running and heavy."""
    idle, light, heavy = torques_nm
    if point.torque_nm is None or heavy <= light:
        return Rung(subject, point, None)
    if point.torque_nm < light:
        return Rung(subject, point, max((point.torque_nm - idle) / (light - idle), 0.0) if light > idle else 1.0)
    return Rung(subject, point, 1 + (times - 1) * (point.torque_nm - light) / (heavy - light))


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
    slips = [rung.times for rung in found.known if rung.subject == fuse.subject and rung.point.mode == "slips"]
    if found.peak_times is not None:
        yield judge(FUSE_EARLY, fuse.subject, min(times for times in slips if times is not None), found.peak_times)
