"""A planetary set: ratio and torques by Willis, strength of the mesh of sun and planet and of planet and ring."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import inf

from pulltide.core.drawing import DrawnWheel, LinkPicture, polar
from pulltide.core.findings import Finding, judge, judge_two, state
from pulltide.core.labels import phrase
from pulltide.core.links.planetary import checks, motion
from pulltide.core.links.planetary.inputs import Planetary
from pulltide.core.spur import geometry
from pulltide.core.spur.form import TOOLS
from pulltide.core.spur.judging import LoadedTeeth, safety_figures, tooth_bounds, tooth_findings
from pulltide.core.spur.kinds import mesh_efficiency
from pulltide.core.spur.mesh import Mesh, MeshStrength, mesh_strength
from pulltide.core.spur.rating import QUALITY, max_speed_m_per_s
from pulltide.core.spur.toothed import ToothedTransmission
from pulltide.core.transmission import Bound, Figure, LinkResult, Loading, Sizing, Turn
from pulltide.core.units import rim_speed_m_per_s

#: Load of the worst planet over the mean: three or fewer with a floating sun, else. Common practice, no source.
EVEN_SHARE, UNEVEN_SHARE, RIGID_SHARE = 1.0, 1.2, 1.5


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanetaryDetails:
    """Intermediate figures of a rated set, for cards and workings. Forces are at one planet of the hardest stage."""

    link: Planetary
    stage: motion.Balance
    locked_efficiency: float
    sun_mesh: MeshStrength
    ring_mesh: MeshStrength
    speed_m_per_s: float
    planet_speed_rpm: float
    sun_speed_rpm: float
    carrier_speed_rpm: float
    sun_torque_nm: float
    held_torque_nm: float
    sharing: float
    force_n: float
    design_force_n: float
    overload_factor: float

    @property
    def weakest(self) -> MeshStrength:
        """The mesh whose teeth bear least in bending."""
        return min((self.sun_mesh, self.ring_mesh), key=lambda mesh: mesh.bending_n)

    @property
    def soonest_worn(self) -> MeshStrength | None:
        """The mesh whose flanks bear least, None where one is not rated for wear."""
        meshes = (self.sun_mesh, self.ring_mesh)
        return None if any(m.wear_n is None for m in meshes) else min(meshes, key=lambda mesh: mesh.wear_n or 0.0)

    @property
    def wear_n(self) -> float | None:
        """Tooth force that every mesh bears in wear [N]."""
        return None if self.soonest_worn is None else self.soonest_worn.wear_n

    @property
    def teeth(self) -> LoadedTeeth:
        """The loaded teeth of one planet, as they are judged."""
        link = self.link
        return LoadedTeeth(
            force_n=self.force_n,
            design_force_n=self.design_force_n,
            bending_n=self.weakest.bending_n,
            wear_n=self.wear_n,
            speed_m_per_s=self.speed_m_per_s,
            made=link.made,
            materials=(link.sun_material, link.planet_material, link.ring_material),
            moment_n=min(self.sun_mesh.moment_n, self.ring_mesh.moment_n),
        )


def sharing_factor(link: Planetary) -> float:
    """Load of the worst planet over the mean [-]. Common practice, no source."""
    if link.planets == 1:
        return EVEN_SHARE
    if link.sharing != "floating_sun":
        return RIGID_SHARE
    return EVEN_SHARE if link.planets <= 3 else UNEVEN_SHARE


@dataclass(frozen=True, slots=True)
class Motion:
    """Speeds of the members, and of the teeth in the carrier."""

    sun_rpm: float
    carrier_rpm: float
    planet_rpm: float
    speed_m_per_s: float


class PlanetaryTransmission(ToothedTransmission[PlanetaryDetails]):
    """One planetary set, or several equal ones in a row."""

    kind = "planetary"
    link: Planetary

    def __init__(self, link: Planetary, step: int) -> None:
        self.link = link
        self.step = step
        external = mesh_efficiency(link.running, link.made)
        #: A mesh inside a ring slides about half as much and loses half as much.
        self.locked_efficiency = external * (1 - (1 - external) / 2)
        self.stage = motion.balance(link.sun_teeth, link.ring_teeth, link.driver, link.driven, self.locked_efficiency)
        self.kept = float(self.stage.efficiency**link.stages)

    @property
    def ratio(self) -> float:
        """Driver over driven speed, without its sign, of all stages."""
        return float(abs(self.stage.ratio) ** self.link.stages)

    @property
    def turn(self) -> Turn:
        """Reversed once for each stage with its carrier held."""
        return -1 if self.stage.ratio < 0 and self.link.stages % 2 else 1

    def picture(self) -> LinkPicture:
        """The set in end view about the driver shaft; the driven shaft is drawn beside it though it is in line."""
        link, m = self.link, self.link.module_mm
        ring, orbit = m * link.ring_teeth / 2, m * (link.sun_teeth + link.planet_teeth) / 2
        wheels = [DrawnWheel((0.0, 0.0), ring, link.ring_teeth), DrawnWheel((0.0, 0.0), m * link.sun_teeth / 2)]
        for index in range(link.planets):
            at = polar(orbit, 90.0 + 360.0 * index / link.planets)
            wheels.append(DrawnWheel(at, m * link.planet_teeth / 2, link.planet_teeth))
        offset = (ring * 1.25 + 25.0, 0.0)
        # a ring is at least as large as the floor of its gaps
        over_mm = TOOLS[float(link.pressure_angle)][0] * m
        return LinkPicture("gear", offset, extra=tuple(wheels), in_line=True, over_mm=over_mm)

    @property
    def max_driver_rpm(self) -> float:
        """Speed at which the teeth run as fast as they may in the carrier [rpm]."""
        return max_speed_m_per_s(QUALITY[self.link.made]) / self._motion(1.0).speed_m_per_s

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Bending and wear of the worst planet of the hardest stage."""
        factor = sizing.multiplier(self.service_factor(sizing).value, self.fatigue_exponent)
        meshes = self._strengths(self._motion(driver_speed_rpm).speed_m_per_s, sizing.duty.life_h)
        worn = None if any(m.wear_n is None for m in meshes) else min(m.wear_n or 0.0 for m in meshes)
        bent = min(mesh.bending_n for mesh in meshes)
        return tooth_bounds(self.kind, bent, worn, 1 / self._force_n(1.0), factor)

    def pulls_n(self, result: LinkResult[PlanetaryDetails]) -> tuple[float, float]:
        """Planets around a sun pull it nowhere."""
        return 0.0, 0.0

    def _strengths(self, speed_m_per_s: float, life_h: float | None) -> tuple[MeshStrength, MeshStrength]:
        meshes = self._sun_mesh(), self._ring_mesh()
        return mesh_strength(meshes[0], speed_m_per_s, life_h), mesh_strength(meshes[1], speed_m_per_s, life_h)

    def _motion(self, driver_speed_rpm: float) -> Motion:
        """How sun, carrier and planets turn, and how fast the teeth run in the carrier."""
        link = self.link
        speeds: dict[motion.Member, float] = {link.driver: driver_speed_rpm, link.held: 0.0}
        speeds[link.driven] = motion.third_speed(link.sun_teeth, link.ring_teeth, speeds, link.driven)
        in_carrier = abs(speeds["sun"] - speeds["carrier"])
        planet = motion.planet_speed(link.sun_teeth, link.planet_teeth, speeds["sun"], speeds["carrier"])
        speed = rim_speed_m_per_s(link.module_mm * link.sun_teeth, in_carrier)
        return Motion(speeds["sun"], speeds["carrier"], planet, speed)

    def _force_n(self, driver_nm: float) -> float:
        """Tooth force of the worst planet of the hardest stage [N]."""
        link = self.link
        sun_nm = abs(self.stage.torques["sun"]) * self._hardest(driver_nm)
        return 2000 * sun_nm / (link.module_mm * link.sun_teeth * link.planets) * sharing_factor(link)

    def findings(self, result: LinkResult[PlanetaryDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return Inspection(result.details, result.load.subject).findings()

    def figures(self, result: LinkResult[PlanetaryDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return figures(result.details)

    def _hardest(self, driver_nm: float) -> float:
        """Driver torque of the stage that carries most [N·m]: the last of a reduction, the first of an overdrive."""
        gain = abs(self.stage.ratio) * self.stage.efficiency
        return driver_nm * float(max(gain, 1.0) ** (self.link.stages - 1))

    def details(self, load: Loading) -> PlanetaryDetails:
        """Motion, strength and forces under a load."""
        link, flow = self.link, load.flow
        moving = self._motion(flow.driver_speed_rpm)
        running = self._hardest(flow.driver_torque_nm)
        meshes = self._strengths(moving.speed_m_per_s, load.sizing.duty.life_h)
        return PlanetaryDetails(
            link=link,
            stage=self.stage,
            locked_efficiency=self.locked_efficiency,
            sun_mesh=meshes[0],
            ring_mesh=meshes[1],
            speed_m_per_s=moving.speed_m_per_s,
            planet_speed_rpm=moving.planet_rpm,
            sun_speed_rpm=moving.sun_rpm,
            carrier_speed_rpm=moving.carrier_rpm,
            sun_torque_nm=abs(self.stage.torques["sun"]) * running,
            held_torque_nm=abs(self.stage.torques[link.held]) * running,
            sharing=sharing_factor(link),
            force_n=self._force_n(flow.driver_torque_nm),
            design_force_n=self._force_n(load.design.chosen_nm),
            overload_factor=load.sizing_factor,
        )

    def _sun_mesh(self) -> Mesh:
        link = self.link
        sun_small = link.sun_teeth <= link.planet_teeth
        teeth = (link.sun_teeth, link.planet_teeth) if sun_small else (link.planet_teeth, link.sun_teeth)
        metals = (link.sun_material, link.planet_material)
        return Mesh(
            link.module_mm,
            teeth,
            link.pressure_angle,
            link.face_width_mm,
            metals if sun_small else (metals[1], metals[0]),
            link.made,
            link.running,
            bent_both_ways=(not sun_small, sun_small),
        )

    def _ring_mesh(self) -> Mesh:
        link = self.link
        return Mesh(
            link.module_mm,
            (link.planet_teeth, max(link.ring_teeth, link.planet_teeth + 1)),
            link.pressure_angle,
            link.face_width_mm,
            (link.planet_material, link.ring_material),
            link.made,
            link.running,
            internal=True,
            bent_both_ways=(True, False),
        )


class Inspection:
    """Runs the checks on one rated set."""

    def __init__(self, details: PlanetaryDetails, subject: str) -> None:
        self.details = details
        self.subject = subject

    def findings(self) -> Iterator[Finding]:
        """Every check, passed ones included."""
        yield from tooth_findings(checks.TEETH, self.details.teeth, self.subject)
        yield from self._assembly()
        yield from self._teeth()
        d, subject = self.details, self.subject
        i = d.stage.ratio
        yield judge_two(checks.RATIO, subject, max(abs(i), 1 / abs(i)))
        if abs(i) < 1:
            yield state(checks.OVERDRIVE, subject, abs(i))
        if i < 0:
            yield state(checks.REVERSED, subject)

    def _assembly(self) -> Iterator[Finding]:
        link, subject, m = self.details.link, self.subject, self.details.link.module_mm
        off = abs(link.ring_teeth - link.sun_teeth - 2 * link.planet_teeth)
        yield judge(checks.SIZES, subject, float(off))
        yield judge(checks.ASSEMBLY, subject, float((link.sun_teeth + link.ring_teeth) % link.planets))
        if link.planets > 1:
            apart = m * motion.planets_apart(link.sun_teeth, link.planet_teeth, link.planets)
            yield judge(checks.NEIGHBORS, subject, apart, m * motion.room_needed(link.planet_teeth))
        yield judge(checks.FEW, subject, float(link.planets))

    def _teeth(self) -> Iterator[Finding]:
        link, subject = self.details.link, self.subject
        angle = float(link.pressure_angle)
        small, large = sorted((link.sun_teeth, link.planet_teeth))
        if link.made == "cast":
            most = geometry.largest_mate(small, angle)
            yield judge(checks.INTERFERENCE, subject, float(large), min(most, 1e6) if most != inf else 1e6)
        yield judge(checks.UNDERCUT, subject, float(small), float(geometry.min_teeth(angle)))
        yield judge(checks.RING, subject, float(link.ring_teeth - link.planet_teeth))


def figures(d: PlanetaryDetails) -> tuple[Figure, ...]:
    """The numbers of the card, in reading order."""
    link, m = d.link, d.link.module_mm
    return (
        Figure("ratio", "Ratio, its sign the sense", d.stage.ratio**link.stages, ""),
        Figure("sun_pitch", "Sun pitch diameter", m * link.sun_teeth, "mm"),
        Figure("planet_pitch", "Planet pitch diameter", m * link.planet_teeth, "mm"),
        Figure("ring_pitch", "Ring pitch diameter", m * link.ring_teeth, "mm"),
        Figure("orbit", "Circle of the planet pins", m * (link.sun_teeth + link.planet_teeth), "mm"),
        Figure("planet_speed", "Planets turn", abs(d.planet_speed_rpm), "rpm"),
        Figure("pitch_speed", "Pitch-line speed in the carrier", d.speed_m_per_s, "m/s"),
        Figure("bending", "Tooth force, bending", d.weakest.bending_n, "N"),
        Figure("wear", "Tooth force, wear", d.wear_n, "N"),
        Figure("force", "Tooth force of one planet", d.force_n, "N", needs_load=True),
        Figure("design_force", "The same with overload", d.design_force_n, "N", needs_load=True),
        *safety_figures(d.teeth),
        Figure("held_torque", f"Torque that holds the {phrase(link.held)}", d.held_torque_nm, "N*m", needs_load=True),
    )
