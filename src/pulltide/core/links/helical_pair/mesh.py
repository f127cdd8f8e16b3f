"""What a helical mesh bears: virtual teeth across the helix, load shared along slanting lines of contact.

Source: Shigley's Mechanical Engineering Design, section 13-10, chapter 14; J by the procedure of AGMA 908, from memory.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import atan, cos, degrees, pi, radians, sin, sqrt, tan
from typing import ClassVar

from pulltide.core.findings import Source
from pulltide.core.spur import form, tables
from pulltide.core.spur.mesh import Mesh
from pulltide.core.working import Step

#: Normal pressure angle [degrees].
NORMAL_DEG = 20.0
#: Share of the face along which lines of contact lie on average. Source: Shigley Eq. 14-21.
CONTACT_SHARE = 0.95
CONTACT = Source("Shigley's Mechanical Engineering Design", "Eq. 14-21 and 14-23", "formula")


def transverse_angle(helix_deg: float) -> float:
    """Transverse pressure angle [radians]: tan φ_t = tan φ_n / cos ψ. Source: Shigley Eq. 13-19.

    >>> round(degrees(transverse_angle(30.0)), 3)
    22.796
    """
    return atan(tan(radians(NORMAL_DEG)) / cos(radians(helix_deg)))


@dataclass(frozen=True, slots=True)
class HelicalMesh(Mesh):
    """Two helical gears; ``module_mm`` is the transverse module, ``overlap`` face over axial pitch of one helix."""

    FORM_NOTE: ClassVar[str] = "load at the tip of the virtual tooth, shared by m_N where the helices overlap"
    helix_deg: float = 15.0
    overlap: float = 1.0

    @property
    def _psi(self) -> float:
        return radians(self.helix_deg)

    def tooth(self, member: int) -> form.Tooth:
        """The virtual tooth across the helix: z / cos³ψ. Source: Shigley Eq. 13-20."""
        return form.Tooth(self.teeth[member] / cos(self._psi) ** 3, NORMAL_DEG)

    @property
    def path(self) -> float:
        """Length of the path of contact in the plane of rotation [normal modules]. Source: Shigley Eq. 14-25."""
        phi = transverse_angle(self.helix_deg)
        radii = [n / (2 * cos(self._psi)) for n in self.teeth]
        along = [min(sqrt((r + 1) ** 2 - (r * cos(phi)) ** 2), sum(radii) * sin(phi)) for r in radii]
        return sum(along) - sum(radii) * sin(phi)

    @property
    def contact_ratio(self) -> float:
        """Transverse contact ratio: path over base pitch π cos φ_t / cos ψ."""
        return self.path * cos(self._psi) / (pi * cos(transverse_angle(self.helix_deg)))

    @property
    def load_share(self) -> float:
        """Load-sharing ratio m_N = p_N / (0.95 Z), 1 where the face is under one axial pitch. Shigley Eq. 14-21."""
        if self.overlap < 1:
            return 1.0
        return min(pi * cos(radians(NORMAL_DEG)) / (CONTACT_SHARE * self.path), 1.0)

    def geometry_factor(self, member: int) -> float:
        """J for the transverse module [-]: cos²ψ / [(cos φ_L / cos φ_n)(6h / (s² C_h) - tan φ_L / s) K_f m_N]."""
        tooth = self.tooth(member)
        bent, load = form.bending(tooth, tooth.tip_radius), form.load_angle(tooth, tooth.tip_radius)
        slant = degrees(atan(tan(self._psi) * sin(radians(NORMAL_DEG)))) / 100
        helical = 1 / (1 - sqrt(slant * (1 - slant)))
        lever = 6 * bent.lever / (bent.thickness**2 * helical) - tan(load) / bent.thickness
        lean = cos(load) / cos(radians(NORMAL_DEG))
        return cos(self._psi) ** 2 / (lean * lever * bent.notch * self.load_share)

    def lewis_form(self, member: int) -> float:
        """Y of the virtual tooth, times cos ψ: for the transverse module as the normal one has it."""
        return tables.lewis_form(round(self.tooth(member).teeth, 6), self.pressure_angle) * cos(self._psi)

    def form_values(self, member: int) -> dict[str, float]:
        """What the form of a tooth follows from, for workings."""
        return {"N": float(self.teeth[member]), "ψ": self.helix_deg, "m_N": self.load_share}

    @property
    def contact_shape(self) -> Step:
        """Contact geometry factor I: cos φ_t sin φ_t / (2 m_N) · m_G / (m_G + 1)."""
        phi, ratio, share = transverse_angle(self.helix_deg), self.teeth[1] / self.teeth[0], self.load_share
        value = cos(phi) * sin(phi) / (2 * share) * ratio / (ratio + 1)
        put_in = {"φ_t": degrees(phi), "m_N": share, "m_G": ratio}
        return Step("Contact geometry", "I", "cos φ_t sin φ_t / (2 m_N) · m_G / (m_G + 1)", put_in, value, "", CONTACT)
