"""What a straight bevel mesh bears: the virtual spur gears of its back cones, at the middle of the face (Tredgold)."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos
from typing import ClassVar

from pulltide.core.findings import Source
from pulltide.core.spur import form, rating, tables
from pulltide.core.spur.mesh import Mesh
from pulltide.core.working import Step

TREDGOLD = Source("Shigley's Mechanical Engineering Design", "section 13-9, Tredgold's virtual teeth", "formula")
#: Load distribution at the least, one gear overhung. Common practice, no source.
OVERHUNG_FACE = 1.4


@dataclass(frozen=True, slots=True)
class BevelMesh(Mesh):
    """Two bevel gears, smaller first; ``module_mm`` is the mean module, ``cones`` the pitch cone angles [radians]."""

    MIN_FACE_FACTOR: ClassVar[float] = OVERHUNG_FACE
    FORM_NOTE: ClassVar[str] = "load at the tip of the virtual tooth N / cos γ"
    cones: tuple[float, float] = (0.0, 0.0)

    def virtual_teeth(self, member: int) -> float:
        """Teeth of the back cone: N / cos γ. Source: Shigley Eq. 13-15."""
        return self.teeth[member] / cos(self.cones[member])

    def tooth(self, member: int) -> form.Tooth:
        """The tooth of the back cone."""
        return form.Tooth(self.virtual_teeth(member), float(self.pressure_angle))

    @property
    def contact_ratio(self) -> float:
        """Of the back cones."""
        return form.contact_path(self.tooth(0), self.tooth(1)).ratio

    def geometry_factor(self, member: int) -> float:
        """J under a load at the tip: bevel teeth seldom share it. On the safe side of the published charts."""
        return form.geometry_factor(self.tooth(member), self.tooth(1 - member), 0.0, False)

    def lewis_form(self, member: int) -> float:
        """Y of the virtual tooth."""
        return tables.lewis_form(round(self.virtual_teeth(member), 6), self.pressure_angle)

    def form_values(self, member: int) -> dict[str, float]:
        """What the form of a tooth follows from, for workings."""
        return {"N_v": self.virtual_teeth(member)}

    @property
    def contact_shape(self) -> Step:
        """Contact geometry factor I of the back cones."""
        ratio, angle = self.virtual_teeth(1) / self.virtual_teeth(0), float(self.pressure_angle)
        value = rating.contact_geometry(ratio, angle, False)
        put_in = {"φ": angle, "m_G": ratio}
        note = "m_G: ratio of the virtual teeth"
        return Step("Contact geometry", "I", "cos φ sin φ / 2 · m_G / (m_G + 1)", put_in, value, "", TREDGOLD, note)

    @property
    def rolling_mm(self) -> float:
        """Diameter of the smaller back cone at the middle of the face [mm]."""
        return self.pinion_mm / cos(self.cones[0])
