"""A train of gear pairs under a load: every pair is rated at its own torque and speed."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import pi, radians, tan

from pulltide.core.drawing import DrawnWheel, LinkPicture, Stands, polar
from pulltide.core.duty import SHOP_LIFE_H
from pulltide.core.findings import Finding, judge, judge_two
from pulltide.core.forces import Disc, ShaftForce, ToothForce, density_kg_m3, mesh_forces
from pulltide.core.labels import phrase
from pulltide.core.links.gear_train import checks
from pulltide.core.links.gear_train.inputs import GearTrain
from pulltide.core.spur import geometry
from pulltide.core.spur.gear_case import BESIDE_MM, SHAFT_MPA, GearCase, Pair, gear_case
from pulltide.core.spur.judging import LoadedTeeth, safety_figures, tooth_bounds, tooth_findings
from pulltide.core.spur.kinds import SHAFT_FACTOR, mesh_efficiency
from pulltide.core.spur.mesh import Mesh, MeshStrength, mesh_strength
from pulltide.core.spur.rating import QUALITY, max_speed_m_per_s
from pulltide.core.spur.toothed import ToothedTransmission
from pulltide.core.transmission import Bound, Figure, LinkResult, Loading, Sizing, Turn
from pulltide.core.units import rim_speed_m_per_s


@dataclass(frozen=True, slots=True)
class LoadedPair:
    """One pair: its strength, torque of its driver for one of the train's driver, forces at its pitch line [N]."""

    strength: MeshStrength
    driver_mm: float
    gain: float
    force_n: float
    design_force_n: float

    @property
    def newtons_per_nm(self) -> float:
        """Tooth force for each newton meter at the train's driver."""
        return 2000 * self.gain / self.driver_mm


@dataclass(frozen=True, slots=True)
class TrainDetails:
    """Intermediate figures of a rated train, for cards and workings."""

    link: GearTrain
    pairs: tuple[LoadedPair, ...]
    overload_factor: float
    case: GearCase
    other_case: GearCase
    wanted_life_h: float | None
    reliability: int
    loaded: tuple[Pair, ...]

    @property
    def weakest(self) -> LoadedPair:
        """The pair that bends first as the load rises."""
        return min(self.pairs, key=lambda pair: pair.strength.bending_n / pair.newtons_per_nm)

    @property
    def soonest_worn(self) -> LoadedPair | None:
        """The pair whose flanks wear first, None where one is not rated for wear."""
        if any(pair.strength.wear_n is None for pair in self.pairs):
            return None
        return min(self.pairs, key=lambda pair: (pair.strength.wear_n or 0.0) / pair.newtons_per_nm)

    @property
    def number(self) -> int:
        """Number of the weakest pair, from 1."""
        return self.pairs.index(self.weakest) + 1

    @property
    def wear_n(self) -> float | None:
        """Force at the weakest pair at which the first flanks wear [N]; None where no hardness rates them."""
        worn = self.soonest_worn
        if worn is None or worn.strength.wear_n is None:
            return None
        return worn.strength.wear_n * self.weakest.newtons_per_nm / worn.newtons_per_nm

    @property
    def moment_n(self) -> float:
        """Force at the weakest pair at which the first teeth break at rest [N]."""
        least = min(pair.strength.moment_n / pair.newtons_per_nm for pair in self.pairs)
        return least * self.weakest.newtons_per_nm

    @property
    def teeth(self) -> LoadedTeeth:
        """The loaded teeth, as they are judged: everything told at the weakest pair."""
        weak = self.weakest
        return LoadedTeeth(
            force_n=weak.force_n,
            design_force_n=weak.design_force_n,
            bending_n=weak.strength.bending_n,
            wear_n=self.wear_n,
            speed_m_per_s=max(pair.strength.speed_m_per_s for pair in self.pairs),
            made=self.link.made,
            materials=(self.link.driver_material, self.link.driven_material),
            moment_n=self.moment_n,
        )


class TrainTransmission(ToothedTransmission[TrainDetails]):
    """Two or three pairs of gears in one case."""

    kind = "gear_train"
    link: GearTrain

    def __init__(self, link: GearTrain, step: int) -> None:
        self.link = link
        self.step = step
        self.mesh_kept = link.own_efficiency or mesh_efficiency(link.running, link.made)
        self.kept = float(self.mesh_kept ** len(link.pairs))

    @property
    def ratio(self) -> float:
        """Driver over driven speed."""
        return self.link.ratio

    @property
    def turn(self) -> Turn:
        """Each pair reverses."""
        return 1 if len(self.link.pairs) % 2 == 0 else -1

    @property
    def in_line(self) -> bool:
        """Whether both its shafts lie on one axis."""
        return self.link.layout == "back_and_forth" and len(self.link.pairs) == 2

    @property
    def center_mm(self) -> float:
        """Distance of its shafts [mm]: 0 in line."""
        if self.in_line:
            return 0.0
        return self.link.centers_mm[0] if self.link.layout == "back_and_forth" else sum(self.link.centers_mm)

    def picture(self) -> LinkPicture:
        """Every gear on its axis; a driven shaft in line is drawn beside the driver."""
        link, back = self.link, self.link.layout == "back_and_forth"
        at, back_mm, before_mm, wheels = 0.0, 0.0, None, []
        for index, (pair, module, center) in enumerate(zip(link.pairs, link.modules_mm, link.centers_mm, strict=True)):
            there = at + (-center if back and index % 2 else center)
            face_mm = link.face_modules * module
            back_mm += 0.0 if before_mm is None else (before_mm + face_mm) / 2 + BESIDE_MM
            wheels += [(at, module * pair[0] / 2, pair[0], back_mm), (there, module * pair[1] / 2, pair[1], back_mm)]
            at, before_mm = there, face_mm
        reach = max(place + radius for place, radius, _, _ in wheels)
        offset = (reach + 25.0, 0.0) if self.in_line else polar(self.center_mm, link.angle_deg)
        angle = 0.0 if self.in_line else link.angle_deg
        drawn = tuple(DrawnWheel(polar(place, angle), radius, teeth, back) for place, radius, teeth, back in wheels)
        stands = Stands(offset_mm=polar(self.center_mm, link.angle_deg), back_mm=back_mm)
        over_mm = max(link.modules_mm)
        return LinkPicture("gear", offset, extra=drawn, in_line=self.in_line, stands=stands, over_mm=over_mm)

    @property
    def center_distance_mm(self) -> float | None:
        """Distance of its shafts [mm]; None in line."""
        return self.center_mm or None

    @property
    def discs(self) -> tuple[Disc, ...]:
        """Every gear by its pitch diameter; those between turn at their own speed."""
        link, last = self.link, len(self.link.pairs) - 1
        metals = density_kg_m3(link.driver_material), density_kg_m3(link.driven_material)
        found = []
        for index, (pair, module) in enumerate(zip(link.pairs, link.modules_mm, strict=True)):
            face = link.face_modules * module
            found.append(Disc("between" if index else "driver", module * pair[0], face, metals[0]))
            found.append(Disc("driven" if index == last else "between", module * pair[1], face, metals[1]))
        return tuple(found)

    @property
    def max_driver_rpm(self) -> float:
        """Speed at which the fastest pair runs as fast as its teeth may [rpm]."""
        fastest, gain = 0.0, 1.0
        for (driver, driven), module in zip(self.link.pairs, self.link.modules_mm, strict=True):
            fastest, gain = max(fastest, rim_speed_m_per_s(module * driver, gain)), gain * driver / driven
        return max_speed_m_per_s(QUALITY[self.link.made]) / fastest

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Bending and wear of the pairs, whichever comes first."""
        factor = sizing.multiplier(self.service_factor(sizing).value, self.fatigue_exponent)
        rated = [(made.strength, made.newtons_per_nm) for made in self._pairs(driver_speed_rpm, (0.0, 0.0), sizing)]
        worn = [None if s.wear_n is None else s.wear_n / per_nm for s, per_nm in rated]
        first_worn = None if None in worn else min(value or 0.0 for value in worn)
        return tooth_bounds(self.kind, min(s.bending_n / per_nm for s, per_nm in rated), first_worn, 1.0, factor)

    def details(self, load: Loading) -> TrainDetails:
        """Every pair under its load."""
        torques = load.flow.driver_torque_nm, load.design.chosen_nm
        pairs = self._pairs(load.flow.driver_speed_rpm, torques, load.sizing)
        folded = self.link.layout == "back_and_forth"
        return TrainDetails(
            self.link,
            tuple(pairs),
            load.sizing_factor,
            self.case(load, folded=folded),
            self.case(load, folded=not folded),
            load.sizing.duty.life_h,
            int(load.sizing.duty.bearing_reliability),
            tuple(self.loaded_pairs(load)),
        )

    def findings(self, result: LinkResult[TrainDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return _findings(result.details, result.load.subject)

    def figures(self, result: LinkResult[TrainDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return _figures(result.details)

    def case(self, load: Loading, *, folded: bool) -> GearCase:
        """The least case that holds it, as it is laid out or the other way."""
        return gear_case(
            self.loaded_pairs(load),
            folded=folded,
            pressure_angle_deg=float(self.link.pressure_angle),
            reliability=int(load.sizing.duty.bearing_reliability),
        )

    def loaded_pairs(self, load: Loading) -> list[Pair]:
        """Every pair at its speed, under the running torque."""
        link, speed, torque = self.link, load.flow.driver_speed_rpm, load.flow.driver_torque_nm
        pairs = []
        for teeth, module in zip(link.pairs, link.modules_mm, strict=True):
            pairs.append(Pair(module, teeth, link.face_modules * module, torque, speed))
            speed, torque = speed * teeth[0] / teeth[1], torque * teeth[1] / teeth[0] * self.mesh_kept
        return pairs

    def pulls_n(self, result: LinkResult[TrainDetails]) -> tuple[float, float]:
        """Design force of the first and of the last pair."""
        pairs = result.details.pairs
        return SHAFT_FACTOR * pairs[0].design_force_n, SHAFT_FACTOR * pairs[-1].design_force_n

    def forces(self, result: LinkResult[TrainDetails]) -> tuple[ShaftForce, ShaftForce]:
        """The first mesh on the driver, the last on the driven shaft."""
        link, pairs, last = self.link, result.details.pairs, len(self.link.pairs) - 1
        back = 180.0 if link.layout == "back_and_forth" and last % 2 else 0.0
        slope = tan(radians(float(link.pressure_angle)))
        ends = []
        for index, side in ((0, 0), (last, 1)):
            around = pairs[index].force_n
            radii = tuple(link.modules_mm[index] * teeth / 2 for teeth in link.pairs[index])
            angle = link.angle_deg + (back if index else 0.0)
            force = ToothForce(around, around * slope)
            ends.append(mesh_forces(force, (radii[0], radii[1]), angle, turn=(-1.0) ** index)[side])
        return ends[0], ends[1]

    def _pairs(self, driver_speed_rpm: float, torques_nm: tuple[float, float], sizing: Sizing) -> Iterator[LoadedPair]:
        """Every pair at its speed, under a running and a design torque [N·m at the train's driver]."""
        link, speed, gain = self.link, driver_speed_rpm, 1.0
        running, design = torques_nm
        for (driver, driven), module in zip(link.pairs, link.modules_mm, strict=True):
            diameter = module * driver
            mesh = _mesh(link, (driver, driven), module)
            per_nm = 2000 * gain / diameter
            strength = mesh_strength(mesh, rim_speed_m_per_s(diameter, speed), sizing.duty.life_h)
            yield LoadedPair(strength, diameter, gain, running * per_nm, design * per_nm)
            speed, gain = speed * driver / driven, gain * driven / driver * self.mesh_kept


def _mesh(link: GearTrain, pair: tuple[int, int], module: float) -> Mesh:
    driver, driven = pair
    materials = (link.driver_material, link.driven_material)
    return Mesh(
        module,
        (min(pair), max(pair)),
        link.pressure_angle,
        link.face_modules * module,
        materials if driver <= driven else (materials[1], materials[0]),
        link.made,
        link.running,
    )


def _findings(d: TrainDetails, subject: str) -> Iterator[Finding]:
    link = d.link
    yield from tooth_findings(checks.TEETH, d.teeth, subject)
    if link.layout == "back_and_forth":
        yield judge(checks.CENTERS, subject, max(link.centers_mm) - min(link.centers_mm))
    else:
        room, needed = min(_rooms(d), key=lambda found: found[0] - found[1])
        yield judge(checks.CLEAR, subject, room, needed)
    yield judge(checks.SEATS, subject, d.case.seat_mm)
    if d.case.life_h is not None:
        yield judge(checks.CASE_BEARINGS, subject, d.case.life_h, d.wanted_life_h or SHOP_LIFE_H)
    if link.wanted_ratio is not None:
        yield judge(checks.WANTED, subject, abs(link.ratio / link.wanted_ratio - 1))
    yield judge_two(checks.RATIO, subject, max(max(pair) / min(pair) for pair in link.pairs))
    least = geometry.min_teeth(float(link.pressure_angle))
    yield judge(checks.UNDERCUT, subject, float(min(min(pair) for pair in link.pairs)), float(least))
    contact = min(pair.strength.mesh.contact_ratio for pair in d.pairs)
    yield judge_two(checks.CONTACT, subject, contact)


def _rooms(d: TrainDetails) -> Iterator[tuple[float, float]]:
    """For trains in a row: room between a wheel's tip and the next shaft but its own, and what it must be [mm].

    The shaft counts as thick as its torque needs at 40 MPa; half a module and 2 mm stay free. Common practice.
    """
    link = d.link
    for index in range(len(link.pairs) - 1):
        torque = 1000 * d.pairs[index + 1].design_force_n * d.pairs[index + 1].driver_mm / 2000
        passed_on = torque * link.pairs[index + 1][1] / link.pairs[index + 1][0]
        for module, teeth, center, twist in (
            (link.modules_mm[index], link.pairs[index][1], link.centers_mm[index + 1], passed_on),
            (link.modules_mm[index + 1], link.pairs[index + 1][0], link.centers_mm[index], torque),
        ):
            shaft_mm = float((16 * twist / (pi * SHAFT_MPA)) ** (1 / 3))
            yield center - module * (teeth + 2) / 2, shaft_mm / 2 + 0.5 * module + 2.0


def _figures(d: TrainDetails) -> tuple[Figure, ...]:
    link, weak = d.link, d.weakest
    ratios = [Figure(f"ratio_{k}", f"Ratio of pair {k}", b / a, "") for k, (a, b) in enumerate(link.pairs, start=1)]
    centers = [Figure(f"center_{k}", f"Centers of pair {k}", c, "mm") for k, c in enumerate(link.centers_mm, start=1)]
    wanted = () if link.wanted_ratio is None else (Figure("wanted", "Wanted ratio", link.wanted_ratio, ""),)
    return (
        Figure("ratio", "Ratio", link.ratio, ""),
        *wanted,
        *ratios,
        *centers,
        Figure("bending", f"Tooth force, bending, pair {d.number}", weak.strength.bending_n, "N"),
        Figure("wear", "Tooth force, wear, at the weakest pair", d.wear_n, "N"),
        Figure("force", f"Tooth force, running, pair {d.number}", weak.force_n, "N", needs_load=True),
        Figure("design_force", "Tooth force with overload", weak.design_force_n, "N", needs_load=True),
        *safety_figures(d.teeth),
        *_case_figures(d),
    )


def _case_figures(d: TrainDetails) -> Iterator[Figure]:
    """The least case, and what the other way to lay the shafts would take."""
    along, up, across = d.case.inside_mm
    yield Figure("case_along", "Least case, inside, along the centers", along, "mm", needs_load=True)
    yield Figure("case_up", "Least case, inside, up", up, "mm", needs_load=True)
    yield Figure("case_across", "Least case, inside, along the shafts", across, "mm", needs_load=True)
    yield Figure("case_wall", "Its wall, cast iron", d.case.wall_mm, "mm")
    yield Figure("case_volume", "Inside volume", d.case.volume_l, "L", needs_load=True)
    yield Figure("case_mass", "Weight of case, gears and shafts", d.case.mass_kg, "kg", needs_load=True)
    yield Figure("case_oil", "Oil fill", d.case.oil_l, "L", needs_load=True)
    yield Figure("case_dip", "Oil dip of the largest gear", d.case.dip_mm, "mm")
    yield Figure("case_life", "Life of its first bearing to wear", d.case.life_h, "h", needs_load=True)
    other = "in a row" if d.link.layout == "back_and_forth" else "back and forth"
    yield Figure("other_volume", f"Inside volume, laid {phrase(other)}", d.other_case.volume_l, "L", needs_load=True)
    yield Figure("other_mass", f"Weight, laid {phrase(other)}", d.other_case.mass_kg, "kg", needs_load=True)
    if d.link.iron_price_kg is not None:
        yield Figure("case_cost", "Cost of its iron", d.link.iron_price_kg * d.case.case_kg, "", needs_load=True)
        cost = d.link.iron_price_kg * d.other_case.case_kg
        yield Figure("other_cost", f"Cost of iron, laid {phrase(other)}", cost, "", needs_load=True)
