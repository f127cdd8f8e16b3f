"""A pair of straight bevel gears under a load, rated at the middle of its face."""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, degrees, radians, sin, tan

from pulltide.core.drawing import POINTS, LinkPicture, Stands
from pulltide.core.findings import Finding, judge, judge_two, state
from pulltide.core.forces import ShaftForce, ToothForce, mesh_forces
from pulltide.core.links.bevel_pair import checks
from pulltide.core.links.bevel_pair.inputs import BevelPair
from pulltide.core.links.bevel_pair.mesh import BevelMesh
from pulltide.core.spur import geometry
from pulltide.core.spur.judging import tooth_findings, tooth_limits
from pulltide.core.spur.kinds import mesh_efficiency
from pulltide.core.spur.single import LoadedMesh, SingleMesh, force_figures
from pulltide.core.transmission import Figure, Limit, LinkResult, Turn

PRESSURE_DEG = 20.0
#: What a bevel mesh loses beside a spur one, and its largest usual face. Common practice, no source.
MORE_LOSS, CONE_SHARE, MODULES_WIDE = 0.01, 0.3, 10.0


class BevelTransmission(SingleMesh):
    """One pair of straight bevel gears."""

    kind = "bevel_pair"
    thrust_turns = False
    link: BevelPair
    noise = "loud"

    def __init__(self, link: BevelPair, step: int) -> None:
        self.link = link
        self.step = step
        self.mean_module_mm = link.module * link.mean_share
        self.kept = link.own_efficiency or mesh_efficiency(link.running, link.made) - MORE_LOSS

    @property
    def acting_mm(self) -> float:
        """The driver acts at the middle of its face [mm]."""
        return float(self.mean_module_mm * self.link.driver_teeth)

    @property
    def turn(self) -> Turn:
        """Axes that cross have no common sense."""
        return None

    def picture(self) -> LinkPicture:
        """Pitch circles of the large ends; as they are, cones that share their tip."""
        link = self.link
        radii = link.module * link.driver_teeth / 2, link.module * link.driven_teeth / 2
        note = f"shafts at {link.shafts_deg:g}°, drawn unfolded"
        return LinkPicture(
            "gear",
            (sum(radii), 0.0),
            *radii,
            link.driver_teeth,
            link.driven_teeth,
            note=note,
            stands=self._stands(radii),
            tip_share=2 * link.mean_share - 1,
            over_mm=link.module * max(cos(cone) for cone in link.cones),
        )

    def _stands(self, radii: tuple[float, float]) -> Stands:
        """The driver shaft points at the tip of both cones, the driven shaft away from it."""
        link = self.link
        aside, on = sin(radians(link.shafts_deg)), cos(radians(link.shafts_deg))
        right, up, _ = POINTS[link.output_points]
        back, out = (radius / tan(cone) for radius, cone in zip(radii, link.cones, strict=True))
        half = link.face_width_mm / 2
        return Stands(
            back_mm=back - half * cos(link.cones[0]),
            toward=(right * aside, up * aside, on),
            out_mm=out - half * cos(link.cones[1]),
        )

    @property
    def mesh(self) -> BevelMesh:
        """The mesh, smaller gear first."""
        link = self.link
        pair = ((link.driver_teeth, link.driver_material), (link.driven_teeth, link.driven_material))
        small, large = (0, 1) if link.driver_teeth <= link.driven_teeth else (1, 0)
        return BevelMesh(
            self.mean_module_mm,
            (pair[small][0], pair[large][0]),
            "20",
            link.face_width_mm,
            (pair[small][1], pair[large][1]),
            link.made,
            link.running,
            cones=(link.cones[small], link.cones[large]),
        )

    def limits(self, result: LinkResult[LoadedMesh]) -> Iterator[Limit]:
        """Bending of the weaker tooth, wear of the flanks, speed where it acts."""
        return tooth_limits(self.kind, result.details.teeth, "speed at the middle of the face")

    def findings(self, result: LinkResult[LoadedMesh]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return self._findings(result.details, result.load.subject)

    def figures(self, result: LinkResult[LoadedMesh]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return self._figures(result.details)

    def forces(self, result: LinkResult[LoadedMesh]) -> tuple[ShaftForce, ShaftForce]:
        """Each gear in its own plane, the driver's mate at its right: around, off the mate, and away from the apex."""
        around = result.details.force_n
        apart = around * tan(radians(PRESSURE_DEG))
        along = self.thrusts_n(around)
        radii = self.acting_mm / 2, self.acting_mm * self.ratio / 2
        driver, _ = mesh_forces(ToothForce(around, apart * cos(self.link.cones[0]), along[0]), radii, 0.0)
        _, driven = mesh_forces(ToothForce(around, apart * cos(self.link.cones[1]), 0.0, along[1]), radii, 0.0)
        return driver, driven

    def thrusts_n(self, force_n: float) -> tuple[float, float]:
        """Push along driver and driven shaft [N]: W tan φ sin γ, away from the apex. Source: Shigley Eq. 13-38."""
        apart = force_n * tan(radians(PRESSURE_DEG))
        return apart * sin(self.link.cones[0]), apart * sin(self.link.cones[1])

    def _findings(self, d: LoadedMesh, subject: str) -> Iterator[Finding]:
        link, mesh = self.link, self.mesh
        yield from tooth_findings(checks.TEETH, d.teeth, subject)
        widest = min(CONE_SHARE * link.cone_mm, MODULES_WIDE * link.module)
        yield judge(checks.FACE, subject, link.face_width_mm, widest)
        yield judge_two(checks.RATIO, subject, mesh.teeth[1] / mesh.teeth[0])
        yield judge(checks.UNDERCUT, subject, mesh.virtual_teeth(0), float(geometry.min_teeth(PRESSURE_DEG)))
        yield judge_two(checks.CONTACT, subject, mesh.contact_ratio)
        yield state(checks.THRUST, subject, max(self.thrusts_n(d.design_force_n)))

    def _figures(self, d: LoadedMesh) -> tuple[Figure, ...]:
        link, cones = self.link, [degrees(cone) for cone in self.link.cones]
        pitch = link.module * link.driver_teeth, link.module * link.driven_teeth
        tips = [size + 2 * link.module * cos(cone) for size, cone in zip(pitch, link.cones, strict=True)]
        thrusts = self.thrusts_n(d.force_n)
        return (
            Figure("ratio", "Ratio", self.ratio, ""),
            Figure("driver_pitch", "Driver pitch diameter, large end", pitch[0], "mm"),
            Figure("driven_pitch", "Driven pitch diameter, large end", pitch[1], "mm"),
            Figure("driver_outside", "Driver tip diameter", tips[0], "mm"),
            Figure("driven_outside", "Driven tip diameter", tips[1], "mm"),
            Figure("driver_cone", "Driver pitch cone", cones[0], "deg"),
            Figure("driven_cone", "Driven pitch cone", cones[1], "deg"),
            Figure("cone", "Cone distance", link.cone_mm, "mm"),
            Figure("mean_driver", "Driver diameter, middle of the face", d.driver_mm, "mm"),
            Figure("contact_ratio", "Contact ratio", self.mesh.contact_ratio, ""),
            *force_figures(d),
            Figure("driver_thrust", "Thrust on the driver shaft", thrusts[0], "N", needs_load=True),
            Figure("driven_thrust", "Thrust on the driven shaft", thrusts[1], "N", needs_load=True),
        )
