"""A shaft of a solved line between its bearings: forces in two planes, bending, fatigue, whirl and bearing life.

x is to the right and y up in the elevation, for a motor that turns clockwise there, as it is drawn; stations run from
one end.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise
from math import cos, degrees, hypot, radians, sin

from pulltide.core.duty import SHOP_LIFE_H
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import Finding, judge, judge_two, state
from pulltide.core.fit import bearings, checks
from pulltide.core.fit.beam import Bent, Load, Piece, bend, twist_deg
from pulltide.core.fit.strength import (
    Shoulder,
    Stressed,
    code_diameter_mm,
    endurance_mpa,
    goodman_diameter_mm,
    notch,
    steel,
)
from pulltide.core.fit.whirl import critical_rpm
from pulltide.core.forces import ShaftForce
from pulltide.core.labels import phrase
from pulltide.core.layout import place
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.shafts import BearingType, ShaftPart, Span
from pulltide.core.space import Axes, Vec, Y, dot
from pulltide.core.units import G_M_PER_S2 as G

#: Safety that a least diameter is told for. Common practice, no source: 2 where the steel is a guess.
SAFETY = 2.0
#: Radius of a corner that nobody rounded, over the diameter. Source: Shigley Table 7-1, sharp shoulder, from memory.
SHARP = 0.02
#: A moment below this is none [N·mm].
MIN_NMM = 1e-6
#: Where weight pulls a level shaft: to its right, up, and toward its far end.
LEVEL: Vec = (0.0, -1.0, 0.0)
#: Stations along the shaft that are read for its strips.
READ = 60


@dataclass(frozen=True, slots=True)
class WheelOn:
    """One wheel on a shaft: where, what pulls it, how heavy it is at most, and what it is called."""

    at_mm: float
    force: ShaftForce
    mass_kg: float
    name: str


@dataclass(frozen=True, slots=True)
class CouplingOn:
    """A coupling on a shaft: where, the angle and offset that use up what it takes, and the share that is entered."""

    at_mm: float
    angle_deg: float
    parallel_mm: float
    entered: float

    def used(self, slope_deg: float, bent_mm: float) -> float:
        """Share of what it takes, with what the bent shaft adds."""
        return self.entered + slope_deg / self.angle_deg + bent_mm / self.parallel_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftCase:
    """A shaft that can be solved. ``twisted_mm`` is the stretch that carries the torque [N·m].

    ``bearings_mm`` are where its bearings hold it, ``stations_mm`` where they stand, ``inserts`` what is listed for
    their bores, None where nothing is.

    ``reliability`` is the share of bearings that reach the life told [%], ``down`` where weight pulls: to the right of
    the shaft, up, and toward its far end.
    """

    number: int
    name: str
    speed_rpm: float
    pieces: tuple[Piece, ...]
    bearings_mm: tuple[float, ...]
    stations_mm: tuple[float, ...]
    inserts: tuple[bearings.Bearing | None, ...]
    bearing: BearingType
    locked: str
    fillet_mm: float | None
    wheels: tuple[WheelOn, ...]
    twisted_mm: tuple[float, float]
    torque_nm: float
    peak_over_running: float
    steel: str
    fixing: str
    life_h: float
    reliability: int = 90
    couplings: tuple[CouplingOn, ...] = ()
    down: Vec = LEVEL

    def diameter_mm(self, at_mm: float) -> float:
        """Diameter at a station, the smaller one at a shoulder [mm]."""
        return min(piece.diameter_mm for piece in self.pieces if piece.start_mm - 1e-6 <= at_mm <= piece.end_mm + 1e-6)

    @property
    def shoulders(self) -> tuple[tuple[float, Shoulder], ...]:
        """Where the diameter steps, and how [mm]."""
        found = []
        for one, other in pairwise(self.pieces):
            thin, thick = sorted((one.diameter_mm, other.diameter_mm))
            if thick > thin:
                radius = self.fillet_mm if self.fillet_mm is not None else SHARP * thin
                found.append((one.end_mm, Shoulder(thick / thin, min(radius / thin, (thick / thin - 1) / 2))))
        return tuple(found)

    @property
    def thickest_mm(self) -> float:
        """The diameter that it is cut from [mm]."""
        return max(piece.diameter_mm for piece in self.pieces)

    @property
    def along_n(self) -> float:
        """Thrust of all wheels on the shaft, and their weight where it is not level, over 0 toward its far end [N]."""
        return sum(G * wheel.mass_kg * self.down[2] - wheel.force.thrust_n for wheel in self.wheels)

    @property
    def span_mm(self) -> float:
        """Between the outer bearings [mm]."""
        return self.bearings_mm[-1] - self.bearings_mm[0]


@dataclass(frozen=True, slots=True, kw_only=True)
class Section:
    """One place that may break: what stands there with its notch, and its safety against fatigue and first yield."""

    at_mm: float
    name: str
    notch: str | Shoulder
    diameter_mm: float
    moment_nmm: float
    torque_nmm: float
    goodman: float
    elliptic: float
    yields: float


@dataclass(frozen=True, slots=True, kw_only=True)
class OnBearing:
    """One bearing: its reaction in both planes [N], slope of the shaft [deg].

    Without an insert its life [h] and its static safety at the peak are None; the latter without a load too.
    """

    at_mm: float
    x_n: float
    y_n: float
    slope_deg: float
    thrust_n: float
    life_h: float | None
    static_safety: float | None

    @property
    def radial_n(self) -> float:
        """Resultant of both planes."""
        return hypot(self.x_n, self.y_n)


@dataclass(frozen=True, slots=True)
class Strip:
    """What is drawn under a shaft, at rising stations [mm]: shear [N], moment [N·mm] and deflection [mm]."""

    at_mm: tuple[float, ...]
    shear_n: tuple[float, ...]
    moment_nmm: tuple[float, ...]
    deflection_mm: tuple[float, ...]


@dataclass(frozen=True, kw_only=True)
class ShaftAnswer:
    """A solved shaft. What only its page shows is worked out when it is first asked for."""

    case: ShaftCase
    bearings: tuple[OnBearing, ...]
    sections: tuple[Section, ...]
    wheels_mm: tuple[float, ...]
    critical_rpm: float
    findings: tuple[Finding, ...]
    couplings: tuple[float, ...] = ()
    either_way: bool = False

    @property
    def twist_deg(self) -> float:
        """How far its wheels turn against each other [degrees]; 0 where no torque goes along it."""
        return twist_deg(self.case.pieces, self.case.twisted_mm, self.case.torque_nm)

    @cached_property
    def strip(self) -> Strip:
        """Shear, moment and deflection along it."""
        case, read = self.case, _stations(self.case)
        planes = [bend(case.pieces, case.bearings_mm, loads, nodes_mm=read) for loads in _loads(case)]
        return _strip(planes, read)

    @cached_property
    def code_mm(self) -> float:
        """Least diameter by the older code [mm]."""
        return code_diameter_mm(max(one.moment_nmm for one in self.sections), 1000 * self.case.torque_nm)

    @cached_property
    def goodman_mm(self) -> float:
        """Least diameter by fatigue, at the section that needs most [mm]."""
        of = steel(self.case.steel)
        return max(goodman_diameter_mm(one.moment_nmm, one.torque_nmm, of, SAFETY, one.notch) for one in self.sections)

    @property
    def weakest(self) -> Section:
        """The section with the least safety against fatigue."""
        return min(self.sections, key=lambda section: section.goodman)


def is_free(plan: Plan, number: int) -> bool:
    """Whether a shaft, counted from the motor at 1, has bearings of its own: it is no shaft of a motor or a case."""
    before = family_of(plan.links[number - 2].kind).housing if number > 1 else "motor"
    after = family_of(plan.links[number - 1].kind).housing if number <= len(plan.links) else ""
    return not before and not after


def _half_entered(span: Span) -> Iterator[tuple[str, bool]]:
    """What an end that is turned down still lacks."""
    for name, long, thick in (
        ("first", span.end_1_mm, span.end_1_diameter_mm),
        ("second", span.end_2_mm, span.end_2_diameter_mm),
    ):
        yield f"the diameter its {phrase(name)} end is turned to", long is not None and thick is None
        yield f"how far its {phrase(name)} end is turned down", thick is not None and long is None
    yield "its length, for the end that is turned down", span.end_2_mm is not None and span.length_mm is None


def missing(part: ShaftPart | None, *, driven: bool, driver: bool) -> tuple[str, ...]:
    """What must still be entered before a shaft can be worked out."""
    part = part or ShaftPart(shaft=1)
    span = part.span or Span()
    lacks = (
        ("its diameter", part.diameter_mm is None),
        *_half_entered(span),
        ("where two bearings stand", len(span.bearings_mm) < 2),
        ("where the wheel of the stage before stands", driven and span.driven_at_mm is None),
        ("where the wheel of the stage after stands", driver and span.driver_at_mm is None),
    )
    return tuple(what for what, is_missing in lacks if is_missing)


def has_wheel(line: LineResult, index: int, side: str) -> bool:
    """Whether a stage has a wheel on one of its shafts; a coupling only passes torque on."""
    link = line.links[index]
    if link.transmission.picture().role == "coupling":
        return False
    force = link.forces[0 if side == "driver" else 1]
    return bool(force.x_n or force.y_n or force.thrust_n) or not link.load_known


def wheels_of(line: LineResult, number: int) -> tuple[bool, bool]:
    """Whether the stage before and the stage after have a wheel on a shaft, counted from the motor at 1."""
    driven = number > 1 and has_wheel(line, number - 2, "driven")
    return driven, number <= len(line.links) and has_wheel(line, number - 1, "driver")


def case_of(machine: Machine, plan: Plan, line: LineResult, number: int, *, back: bool = False) -> ShaftCase | None:
    """The case of a shaft, None while something is missing; ``back`` with everything turning the other way."""
    part, shaft = plan.shaft_part(number), line.shafts[number - 1]
    driven, driver = wheels_of(line, number)
    running = shaft.running_torque_nm
    if part is None or part.span is None or missing(part, driven=driven, driver=driver) or running is None:
        return None
    span = part.span
    wheels = [_wheel(line, number - 2, "driven", (span.driven_at_mm or 0.0, back))] if driven else []
    wheels += [_wheel(line, number - 1, "driver", (span.driver_at_mm or 0.0, back))] if driver else []
    others = tuple(_other(span))
    start, end = _ends(span, [*span.bearings_mm, *(wheel.at_mm for wheel in (*wheels, *others))])
    peak = running if shaft.peak_torque_nm is None else shaft.peak_torque_nm
    pieces, stations = _pieces(part, span, (start, end)), span.bearings_mm
    listed = tuple(bearings.bearing_for(_diameter_at(pieces, at), span.bearing) for at in stations)
    held = tuple(
        bearings.support_mm(at, one, is_first=k == 0) if len(stations) == 2 else at
        for k, (at, one) in enumerate(zip(stations, listed, strict=True))
    )
    return ShaftCase(
        number=number,
        name=shaft.name,
        speed_rpm=shaft.speed_rpm,
        pieces=pieces,
        bearings_mm=held,
        stations_mm=stations,
        inserts=listed,
        bearing=span.bearing,
        locked=span.locked,
        fillet_mm=span.fillet_mm,
        wheels=(*wheels, *others),
        twisted_mm=_twisted(wheels, (start, end)),
        torque_nm=running,
        peak_over_running=max(peak / running, 1.0) if running > 0 else 1.0,
        steel=part.steel,
        fixing=span.fixing,
        life_h=machine.duty.life_h or SHOP_LIFE_H,
        reliability=int(machine.duty.bearing_reliability),
        couplings=tuple(_couplings(line, number, span, (start, end))),
        down=_down(place(plan, line).axes(number - 1)),
    )


def _down(axes: Axes) -> Vec:
    """Where weight pulls a shaft: to its right, up and toward its far end."""
    return -dot(axes.right, Y), -dot(axes.up, Y), -dot(axes.away, Y)


def _couplings(line: LineResult, number: int, span: Span, ends_mm: tuple[float, float]) -> Iterator[CouplingOn]:
    """Couplings of the stages before and after: where they are placed, or at the end of the shaft that is theirs."""
    places = ((number - 2, span.driven_at_mm, ends_mm[0]), (number - 1, span.driver_at_mm, ends_mm[1]))
    for index, at, end in places:
        if not 0 <= index < len(line.links):
            continue
        takes = line.links[index].transmission.misalignment
        if takes is not None:
            yield CouplingOn(end if at is None else at, *takes)


def _pieces(part: ShaftPart, span: Span, ends_mm: tuple[float, float]) -> tuple[Piece, ...]:
    """The shaft with its ends as they are turned down."""
    (start, end), middle = ends_mm, part.diameter_mm or 0.0
    first = start if span.end_1_mm is None else min(start + span.end_1_mm, end)
    second = end if span.end_2_mm is None else max(end - span.end_2_mm, first)
    parts = (
        (start, first, span.end_1_diameter_mm or middle),
        (first, second, middle),
        (second, end, span.end_2_diameter_mm or middle),
    )
    return tuple(Piece(low, high, thick) for low, high, thick in parts if high > low)


def _diameter_at(pieces: Sequence[Piece], at_mm: float) -> float:
    inside = (one.diameter_mm for one in pieces if one.start_mm - 1e-6 <= at_mm <= one.end_mm + 1e-6)
    return min(inside, default=pieces[0].diameter_mm)


def _other(span: Span) -> Iterator[WheelOn]:
    """What else pulls across the shaft, as it is entered."""
    if span.load_n and span.load_at_mm is not None:
        angle = radians(span.load_deg)
        force = ShaftForce(span.load_n * cos(angle), span.load_n * sin(angle))
        yield WheelOn(span.load_at_mm, force, 0.0, "other load")


def _ends(span: Span, stations: Sequence[float]) -> tuple[float, float]:
    """Both ends of the shaft [mm]: of its length, or of what stands on it where that is not entered."""
    if span.length_mm is not None:
        return 0.0, span.length_mm
    return min(0.0, *stations), max(stations)


def _wheel(line: LineResult, index: int, side: str, placed: tuple[float, bool]) -> WheelOn:
    """A wheel of a stage where it stands [mm], with its force as it turns, or turning back."""
    (at_mm, back), link = placed, line.links[index]
    mass = sum(disc.mass_kg for disc in link.transmission.discs if disc.side == side)
    force = link.forces[0 if side == "driver" else 1]
    if (line.shafts[index].turn == 1) != back:
        # forces are told for a driver that turns counterclockwise; the motor is drawn turning clockwise
        force = force.reversed_turn(thrust_turns=link.transmission.thrust_turns)
    name = family_of(link.kind).title
    return WheelOn(at_mm, force, mass, f"{phrase(name)}, stage {index + 1}")


def _twisted(wheels: Sequence[WheelOn], ends_mm: tuple[float, float]) -> tuple[float, float]:
    """From wheel to wheel; with one, to the farther end, where the torque goes out."""
    stations = [wheel.at_mm for wheel in wheels]
    if len(stations) == 1:
        stations.append(max(ends_mm, key=lambda end: abs(end - stations[0])))
    return (min(stations), max(stations)) if stations else ends_mm


def solve(case: ShaftCase) -> ShaftAnswer:
    """Bend the shaft in both planes and judge it. Raises ImpossibleGeometry for one that is not held."""
    planes = [bend(case.pieces, case.bearings_mm, loads) for loads in _loads(case)]
    sections = tuple(_sections(case, planes))
    answer = ShaftAnswer(
        case=case,
        bearings=tuple(_on_bearings(case, planes)),
        sections=sections,
        wheels_mm=tuple(_both(planes, "deflection_at", wheel.at_mm) for wheel in case.wheels),
        critical_rpm=critical_rpm(
            case.pieces, case.bearings_mm, [(wheel.at_mm, wheel.mass_kg) for wheel in case.wheels if wheel.mass_kg]
        ),
        findings=(),
        couplings=tuple(
            one.used(degrees(_both(planes, "slope_at", one.at_mm)), _both(planes, "deflection_at", one.at_mm))
            for one in case.couplings
        ),
    )
    return replace(answer, findings=tuple(_findings(answer)))


def _stations(case: ShaftCase) -> list[float]:
    low, high = case.pieces[0].start_mm, case.pieces[-1].end_mm
    return [low + (high - low) * k / READ for k in range(READ + 1)]


def _loads(case: ShaftCase) -> tuple[list[Load], list[Load]]:
    """Forces and the couples of thrusts off the axis, right and up; wheels hang by their weight."""
    right, up = [], []
    down_x, down_y, _ = case.down
    for wheel in case.wheels:
        away = -wheel.force.thrust_n
        rho_x, rho_y = wheel.force.at_mm
        weight = G * wheel.mass_kg
        right.append(Load(wheel.at_mm, wheel.force.x_n + weight * down_x, -rho_x * away))
        up.append(Load(wheel.at_mm, wheel.force.y_n + weight * down_y, -rho_y * away))
    return right, up


def _both(planes: Sequence[Bent], name: str, at_mm: float) -> float:
    return hypot(*(getattr(plane, name)(at_mm) for plane in planes))


def _sections(case: ShaftCase, planes: Sequence[Bent]) -> Iterator[Section]:
    """Every wheel with its fixing, every bearing and every shoulder, on the side that carries more."""
    of = steel(case.steel)
    low, high = case.twisted_mm
    seat = "insert" if case.bearing == "insert" else "plain"
    places: list[tuple[float, str, str | Shoulder]] = [(wheel.at_mm, wheel.name, case.fixing) for wheel in case.wheels]
    places += [(at, f"bearing {k}", seat) for k, at in enumerate(case.stations_mm, start=1)]
    places += [(at, f"shoulder {k}", step) for k, (at, step) in enumerate(case.shoulders, start=1)]
    for at, name, notched in places:
        diameter = case.diameter_mm(at)
        moment = _both(planes, "moment_at", at)
        # what is left of rounding at a free end is none
        moment = moment if moment > MIN_NMM else 0.0
        torque = 1000 * case.torque_nm if low - 1e-6 <= at <= high + 1e-6 else 0.0
        section = Stressed(moment, torque, diameter, notch(notched, diameter, of.sut_mpa))
        endurance = endurance_mpa(of.sut_mpa, diameter)
        yield Section(
            at_mm=at,
            name=name,
            notch=notched,
            diameter_mm=diameter,
            moment_nmm=moment,
            torque_nmm=torque,
            goodman=section.goodman(endurance, of.sut_mpa),
            elliptic=section.elliptic(endurance, of.sy_mpa),
            yields=section.yields(of.sy_mpa) / case.peak_over_running,
        )


def _on_bearings(case: ShaftCase, planes: Sequence[Bent]) -> Iterator[OnBearing]:
    """Reactions, and which bearing takes the thrust of all wheels."""
    reactions = list(zip(*(plane.reactions_n.tolist() for plane in planes), strict=True))
    thrusts = bearings.thrusts_n(case.inserts, [hypot(*one) for one in reactions], case.along_n)
    seats = zip(case.stations_mm, case.bearings_mm, case.inserts, strict=True)
    for (station, at, insert), (x, y), along in zip(seats, reactions, thrusts, strict=True):
        life = static = None
        if insert is not None:
            load = insert.equivalent_n(hypot(x, y), along)
            peak = insert.static_load_n(hypot(x, y), along) * case.peak_over_running
            static = insert.static_n / peak if peak > 0 else None
            life = insert.life_h(load, case.speed_rpm, case.reliability)
        yield OnBearing(
            at_mm=station,
            x_n=x,
            y_n=y,
            slope_deg=degrees(_both(planes, "slope_at", at)),
            thrust_n=along,
            life_h=life,
            static_safety=static,
        )


def _strip(planes: Sequence[Bent], read: Iterable[float]) -> Strip:
    """Both planes seen across the direction in which the shaft is bent most."""
    nodes = planes[0].nodes_mm
    moments = [(plane.moment_left_nmm + plane.moment_right_nmm) / 2 for plane in planes]
    worst = int((moments[0] ** 2 + moments[1] ** 2).argmax())
    size = hypot(moments[0][worst], moments[1][worst]) or 1.0
    along = moments[0][worst] / size, moments[1][worst] / size

    def seen(name: str) -> tuple[float, ...]:
        x, y = (getattr(plane, name) for plane in planes)
        return tuple((along[0] * x + along[1] * y).tolist())

    return Strip(tuple(nodes.tolist()), seen("shear_n"), seen("moment_right_nmm"), seen("deflection_mm"))


#: Twist is told on a length of so many diameters.
TWENTY = 20.0


def _findings(answer: ShaftAnswer) -> Iterator[Finding]:
    case, subject = answer.case, f"shaft-{answer.case.number}"
    yield judge_two(checks.FATIGUE, subject, 1 / answer.weakest.goodman)
    yield judge_two(checks.YIELD, subject, 1 / min(section.yields for section in answer.sections))
    yield judge_two(checks.CRITICAL, subject, case.speed_rpm / answer.critical_rpm)
    if answer.wheels_mm:
        yield judge(checks.SAG, subject, max(answer.wheels_mm) / (case.span_mm / 1000))
    if answer.twist_deg:
        long = case.twisted_mm[1] - case.twisted_mm[0]
        yield judge(checks.TWIST, subject, answer.twist_deg * TWENTY * case.thickest_mm / long)
    tilt = checks.TILT_TAPERED if case.bearing.startswith("tapered") else checks.TILT
    yield judge(tilt, subject, max(bearing.slope_deg for bearing in answer.bearings))
    bare = [at for at, one in zip(case.stations_mm, case.inserts, strict=True) if one is None]
    if bare:
        yield state(NONE_MADE[case.bearing == "insert"], subject, case.diameter_mm(bare[0]))
    else:
        yield from _of_bearings(answer)
    if case.bearing.startswith("tapered") and len(case.stations_mm) != 2:
        yield state(checks.PAIR, subject, float(len(case.stations_mm)))
    if answer.couplings:
        yield judge(checks.COUPLED, subject, max(answer.couplings))
    if case.locked == "both" and not case.bearing.startswith("tapered"):
        yield judge(checks.LOCKED, subject, case.span_mm)


#: What is said where nothing is listed for a bore, by whether inserts are asked for.
NONE_MADE = {True: checks.NO_INSERT, False: checks.NO_BEARING}


def _of_bearings(answer: ShaftAnswer) -> Iterator[Finding]:
    case, subject = answer.case, f"shaft-{answer.case.number}"
    shortest = min(bearing.life_h or 0.0 for bearing in answer.bearings)
    yield judge(checks.LIFE, subject, shortest, case.life_h)
    yield from _static(answer)
    known = [one for one in case.inserts if one is not None]
    if case.bearing == "insert":
        pairs = zip(answer.bearings, known, strict=True)
        yield judge(checks.HEAVY, subject, max(bearing.radial_n / one.dynamic_n for bearing, one in pairs))
    yield judge(checks.FAST, subject, case.speed_rpm, min(one.speed_rpm for one in known))


def _static(answer: ShaftAnswer) -> Iterator[Finding]:
    safeties = [bearing.static_safety for bearing in answer.bearings if bearing.static_safety is not None]
    if safeties:
        yield judge_two(checks.STATIC, f"shaft-{answer.case.number}", min(safeties))


def harder(machine: Machine, plan: Plan, line: LineResult, number: int) -> ShaftAnswer | None:
    """A shaft as it is loaded harder: turning either way where the duty reverses or the sense is not known.

    Each finding is the graver of both. None while something is missing; raises ImpossibleGeometry for one not held.
    """
    case = case_of(machine, plan, line, number)
    if case is None:
        return None
    answer = solve(case)
    either = machine.duty.reversing or any(shaft.turn is None for shaft in line.shafts[:number])
    other = case_of(machine, plan, line, number, back=True) if either else None
    if other is None or other == case:
        return answer
    both = sorted((answer, solve(other)), key=lambda one: one.weakest.goodman)
    graver = {finding.code: finding for finding in both[1].findings}
    found = tuple(
        graver[one.code] if one.code in graver and graver[one.code].severity.rank > one.severity.rank else one
        for one in both[0].findings
    )
    return replace(both[0], findings=found, either_way=True)


def findings(machine: Machine, plan: Plan, line: LineResult) -> Iterator[Finding]:
    """What is found at every shaft of a line whose span is entered and says enough."""
    if line.unbridged:
        return
    for part in plan.shafts:
        if part.span is None or part.shaft > len(line.shafts) or not is_free(plan, part.shaft):
            continue
        try:
            answer = harder(machine, plan, line, part.shaft)
            yield from () if answer is None else answer.findings
        except ImpossibleGeometry:
            yield state(checks.IMPOSSIBLE, f"shaft-{part.shaft}")
