"""A pair of helical gears under a load."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi, radians, sin, tan

from pulltide.core.drawing import LinkPicture, polar
from pulltide.core.findings import Finding, judge, judge_two, state
from pulltide.core.forces import ShaftForce, ToothForce, mesh_forces
from pulltide.core.links.helical_pair import checks
from pulltide.core.links.helical_pair.inputs import HelicalPair
from pulltide.core.links.helical_pair.mesh import NORMAL_DEG, HelicalMesh, transverse_angle
from pulltide.core.spur import geometry
from pulltide.core.spur.judging import tooth_findings
from pulltide.core.spur.kinds import mesh_efficiency
from pulltide.core.spur.single import LoadedMesh, SingleMesh, force_figures
from pulltide.core.transmission import Figure, LinkResult, Turn


class HelicalTransmission(SingleMesh):
    """One pair of helical gears."""

    kind = "helical_pair"
    link: HelicalPair

    def __init__(self, link: HelicalPair, step: int) -> None:
        self.link = link
        self.step = step
        self.driver_mm = link.transverse_mm * link.driver_teeth
        self.driven_mm = link.transverse_mm * link.driven_teeth
        self.center_mm = (self.driver_mm + self.driven_mm) / 2
        self.axial_pitch_mm = pi * link.module / sin(radians(link.helix_deg))
        self.kept = link.own_efficiency or mesh_efficiency(link.running, link.made)

    @property
    def acting_mm(self) -> float:
        """The driver acts at its pitch diameter [mm]."""
        return self.driver_mm

    @property
    def center_distance_mm(self) -> float:
        """Center distance [mm]."""
        return self.center_mm

    @property
    def turn(self) -> Turn:
        """Gears side by side reverse."""
        return -1

    def picture(self) -> LinkPicture:
        """Pitch circles that touch."""
        link, offset = self.link, polar(self.center_mm, self.link.angle_deg)
        sizes = (self.driver_mm / 2, self.driven_mm / 2, link.driver_teeth, link.driven_teeth)
        return LinkPicture("gear", offset, *sizes, over_mm=link.module)

    @property
    def mesh(self) -> HelicalMesh:
        """The mesh, smaller gear first."""
        link = self.link
        metals, counts = (link.driver_material, link.driven_material), (link.driver_teeth, link.driven_teeth)
        return HelicalMesh(
            link.transverse_mm,
            (min(counts), max(counts)),
            "20",
            link.face_width_mm,
            metals if counts[0] <= counts[1] else (metals[1], metals[0]),
            link.made,
            link.running,
            helix_deg=link.helix_deg,
            overlap=link.one_face_mm / self.axial_pitch_mm,
        )

    def findings(self, result: LinkResult[LoadedMesh]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return self._findings(result.details, result.load.subject)

    def figures(self, result: LinkResult[LoadedMesh]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        return self._figures(result.details)

    def forces(self, result: LinkResult[LoadedMesh]) -> tuple[ShaftForce, ShaftForce]:
        """Around, apart, and along: the thrusts of both gears are opposite; a right-hand driver's is positive."""
        around = result.details.force_n
        along = self.thrust_n(around)
        force = ToothForce(around, around * tan(transverse_angle(self.link.helix_deg)), along, -along)
        return mesh_forces(force, (self.driver_mm / 2, self.driven_mm / 2), self.link.angle_deg)

    def thrust_n(self, force_n: float) -> float:
        """Push along each shaft [N]: W tan ψ, none with a double helix. Source: Shigley Eq. 13-40."""
        return 0.0 if self.link.helices == "double" else force_n * tan(radians(self.link.helix_deg))

    def _findings(self, d: LoadedMesh, subject: str) -> Iterator[Finding]:
        link, mesh = self.link, self.mesh
        yield from tooth_findings(checks.TEETH, d.teeth, subject)
        yield judge(checks.OVERLAP, subject, link.one_face_mm, of=self.axial_pitch_mm)
        yield judge(checks.WIDE, subject, link.face_width_mm, of=min(self.driver_mm, self.driven_mm))
        if link.helices == "single":
            yield judge(checks.STEEP, subject, link.helix_deg)
            yield state(checks.THRUST, subject, self.thrust_n(d.design_force_n))
        yield judge(checks.UNDERCUT, subject, mesh.tooth(0).teeth, float(geometry.min_teeth(NORMAL_DEG)))
        yield judge_two(checks.CONTACT, subject, mesh.contact_ratio)
        yield judge_two(checks.RATIO, subject, mesh.teeth[1] / mesh.teeth[0])

    def _figures(self, d: LoadedMesh) -> tuple[Figure, ...]:
        link, tip = self.link, 2 * self.link.module
        separating = d.force_n * tan(transverse_angle(link.helix_deg))
        return (
            Figure("ratio", "Ratio", self.ratio, ""),
            Figure("center", "Center distance", self.center_mm, "mm"),
            Figure("driver_pitch", "Driver pitch diameter", self.driver_mm, "mm"),
            Figure("driven_pitch", "Driven pitch diameter", self.driven_mm, "mm"),
            Figure("driver_outside", "Driver tip diameter", self.driver_mm + tip, "mm"),
            Figure("driven_outside", "Driven tip diameter", self.driven_mm + tip, "mm"),
            Figure("axial_pitch", "Axial pitch", self.axial_pitch_mm, "mm"),
            Figure("contact_ratio", "Contact ratio, in the plane of rotation", self.mesh.contact_ratio, ""),
            *force_figures(d),
            Figure("separating", "Separating force", separating, "N", needs_load=True),
            Figure("thrust", "Thrust on each shaft", self.thrust_n(d.force_n), "N", needs_load=True),
        )
