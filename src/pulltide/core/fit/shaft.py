"""A shaft of a solved line between its bearings: forces in two planes, bending, fatigue, whirl and bearing life.

x is to the right and y up in the elevation, for a motor that turns clockwise there, as it is drawn; stations run from
one end.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import cos, degrees, hypot, radians, sin

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import Finding, judge, judge_two, state
from pulltide.core.fit import bearings, checks
from pulltide.core.fit.beam import Bent, Load, Piece, bend
from pulltide.core.fit.strength import Stressed, code_diameter_mm, endurance_mpa, goodman_diameter_mm, notch, steel
from pulltide.core.fit.whirl import critical_rpm
from pulltide.core.forces import ShaftForce
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.shafts import ShaftPart, Span

G = 9.80665
#: Wanted life where none is entered [h]. Common practice, no source: a shop machine.
SHOP_LIFE_H = 10_000.0
#: Safety that a least diameter is told for. Common practice, no source: 2 where the steel is a guess.
SAFETY = 2.0
#: A moment below this is none [N·mm].
LEAST_NMM = 1e-6
#: Stations along the shaft that are read for its strips.
READ = 60


@dataclass(frozen=True, slots=True)
class WheelOn:
    """One wheel on a shaft: where, what pulls it, how heavy it is at most, and what it is called."""

    at_mm: float
    force: ShaftForce
    mass_kg: float
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftCase:
    """A shaft that can be solved. ``twisted_mm`` is the stretch that carries the torque [N·m].

    ``reliability`` is the share of bearings that reach the life told [%].
    """

    number: int
    name: str
    speed_rpm: float
    pieces: tuple[Piece, ...]
    bearings_mm: tuple[float, ...]
    wheels: tuple[WheelOn, ...]
    twisted_mm: tuple[float, float]
    torque_nm: float
    peak_over_running: float
    steel: str
    fixing: str
    life_h: float
    reliability: int = 90

    @property
    def span_mm(self) -> float:
        """Between the outer bearings [mm]."""
        return self.bearings_mm[-1] - self.bearings_mm[0]


@dataclass(frozen=True, slots=True, kw_only=True)
class Section:
    """One place that may break: what stands there with its notch, and its safety against fatigue and first yield."""

    at_mm: float
    name: str
    notch: str
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
    either_way: bool = False

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


def missing(part: ShaftPart | None, *, driven: bool, driver: bool) -> tuple[str, ...]:
    """What must still be entered before a shaft can be worked out."""
    part = part or ShaftPart(shaft=1)
    span = part.span or Span()
    lacks = (
        ("its diameter", part.diameter_mm is None),
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
    return ShaftCase(
        number=number,
        name=shaft.name,
        speed_rpm=shaft.speed_rpm,
        pieces=(Piece(start, end, part.diameter_mm or 0.0),),
        bearings_mm=span.bearings_mm,
        wheels=(*wheels, *others),
        twisted_mm=_twisted(wheels, (start, end)),
        torque_nm=running,
        peak_over_running=max(peak / running, 1.0) if running > 0 else 1.0,
        steel=part.steel,
        fixing=span.fixing,
        life_h=machine.duty.life_h or SHOP_LIFE_H,
        reliability=int(machine.duty.bearing_reliability),
    )


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
    return WheelOn(at_mm, force, mass, f"{name}, stage {index + 1}")


def _twisted(wheels: Sequence[WheelOn], ends_mm: tuple[float, float]) -> tuple[float, float]:
    """From wheel to wheel; with one, to the farther end, where the torque goes out."""
    stations = [wheel.at_mm for wheel in wheels]
    if len(stations) == 1:
        stations.append(max(ends_mm, key=lambda end: abs(end - stations[0])))
    return (min(stations), max(stations)) if stations else ends_mm


def solve(case: ShaftCase) -> ShaftAnswer:
    """Bend the shaft in both planes and judge it. Raises ImpossibleGeometry for one that is not held."""
    diameter = case.pieces[0].diameter_mm
    planes = [bend(case.pieces, case.bearings_mm, loads) for loads in _loads(case)]
    sections = tuple(_sections(case, planes, diameter))
    answer = ShaftAnswer(
        case=case,
        bearings=tuple(_on_bearings(case, planes, diameter)),
        sections=sections,
        wheels_mm=tuple(_both(planes, "deflection_at", wheel.at_mm) for wheel in case.wheels),
        critical_rpm=critical_rpm(
            case.pieces, case.bearings_mm, [(wheel.at_mm, wheel.mass_kg) for wheel in case.wheels if wheel.mass_kg]
        ),
        findings=(),
    )
    return replace(answer, findings=tuple(_findings(answer)))


def _stations(case: ShaftCase) -> list[float]:
    low, high = case.pieces[0].start_mm, case.pieces[-1].end_mm
    return [low + (high - low) * k / READ for k in range(READ + 1)]


def _loads(case: ShaftCase) -> tuple[list[Load], list[Load]]:
    """Forces and the couples of thrusts off the axis, right and up; wheels hang by their weight."""
    right, up = [], []
    for wheel in case.wheels:
        away = -wheel.force.thrust_n
        rho_x, rho_y = wheel.force.at_mm
        right.append(Load(wheel.at_mm, wheel.force.x_n, -rho_x * away))
        up.append(Load(wheel.at_mm, wheel.force.y_n - G * wheel.mass_kg, -rho_y * away))
    return right, up


def _both(planes: Sequence[Bent], name: str, at_mm: float) -> float:
    return hypot(*(getattr(plane, name)(at_mm) for plane in planes))


def _sections(case: ShaftCase, planes: Sequence[Bent], diameter: float) -> Iterator[Section]:
    """Every wheel with its fixing and every bearing with its set screws, on the side that carries more."""
    of = steel(case.steel)
    low, high = case.twisted_mm
    places = [(wheel.at_mm, wheel.name, case.fixing) for wheel in case.wheels]
    places += [(at, f"bearing {k}", "insert") for k, at in enumerate(case.bearings_mm, start=1)]
    for at, name, notched in places:
        moment = _both(planes, "moment_at", at)
        # what is left of rounding at a free end is none
        moment = moment if moment > LEAST_NMM else 0.0
        torque = 1000 * case.torque_nm if low - 1e-6 <= at <= high + 1e-6 else 0.0
        section = Stressed(moment, torque, diameter, notch(notched, diameter, of.sut_mpa))
        endurance = endurance_mpa(of.sut_mpa, diameter)
        yield Section(
            at_mm=at,
            name=name,
            notch=notched,
            moment_nmm=moment,
            torque_nmm=torque,
            goodman=section.goodman(endurance, of.sut_mpa),
            elliptic=section.elliptic(endurance, of.sy_mpa),
            yields=section.yields(of.sy_mpa) / case.peak_over_running,
        )


def _on_bearings(case: ShaftCase, planes: Sequence[Bent], diameter: float) -> Iterator[OnBearing]:
    """Reactions; the bearing that carries more takes the thrust of all wheels."""
    insert = bearings.insert_for(diameter)
    reactions = list(zip(*(plane.reactions_n.tolist() for plane in planes), strict=True))
    thrust = abs(sum(wheel.force.thrust_n for wheel in case.wheels))
    most = max(range(len(reactions)), key=lambda k: hypot(*reactions[k]))
    for k, (at, (x, y)) in enumerate(zip(case.bearings_mm, reactions, strict=True)):
        life = static = None
        if insert is not None:
            along = thrust if k == most else 0.0
            load = bearings.equivalent_n(hypot(x, y), along, insert.static_n)
            peak = bearings.static_load_n(hypot(x, y), along) * case.peak_over_running
            static = insert.static_n / peak if peak > 0 else None
            life = bearings.life_h(insert.dynamic_n, load, case.speed_rpm, case.reliability)
        slope = degrees(_both(planes, "slope_at", at))
        yield OnBearing(at_mm=at, x_n=x, y_n=y, slope_deg=slope, life_h=life, static_safety=static)


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


def _findings(answer: ShaftAnswer) -> Iterator[Finding]:
    case, subject = answer.case, f"shaft-{answer.case.number}"
    yield judge_two(checks.FATIGUE, subject, 1 / answer.weakest.goodman)
    yield judge_two(checks.YIELD, subject, 1 / min(section.yields for section in answer.sections))
    yield judge_two(checks.CRITICAL, subject, case.speed_rpm / answer.critical_rpm)
    if answer.wheels_mm:
        yield judge(checks.SAG, subject, max(answer.wheels_mm) / (case.span_mm / 1000))
    yield judge(checks.TILT, subject, max(bearing.slope_deg for bearing in answer.bearings))
    insert = bearings.insert_for(case.pieces[0].diameter_mm)
    if insert is None:
        yield state(checks.NO_INSERT, subject, case.pieces[0].diameter_mm)
    else:
        yield from _of_inserts(answer, insert)


def _of_inserts(answer: ShaftAnswer, insert: bearings.Insert) -> Iterator[Finding]:
    subject = f"shaft-{answer.case.number}"
    shortest = min(bearing.life_h or 0.0 for bearing in answer.bearings)
    yield judge(checks.LIFE, subject, shortest, answer.case.life_h)
    safeties = [bearing.static_safety for bearing in answer.bearings if bearing.static_safety is not None]
    if safeties:
        yield judge_two(checks.STATIC, subject, min(safeties))
    heaviest = max(bearing.radial_n for bearing in answer.bearings)
    yield judge(checks.HEAVY, subject, heaviest / insert.dynamic_n)


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
