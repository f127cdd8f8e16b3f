"""What solving a line gives."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.family import Limit, LinkResult, Turn
from pulltide.core.findings import Finding, Severity

#: Position in use at each link, from 1.
Setting = tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Shaft:
    """One shaft. Torques and power are None while the running torque is unknown."""

    number: int
    name: str
    speed_rpm: float
    turn: Turn
    running_torque_nm: float | None
    design_torque_nm: float | None
    peak_torque_nm: float | None
    power_kw: float | None


@dataclass(frozen=True, slots=True)
class LineResult:
    """One plan at one setting: shafts, links, and what was found.

    ``remarks`` describe its parts and are shown with them. ``position`` counts the speeds of the source from 1.
    ``jam_torques_nm`` is the torque at every shaft when the machine is held fast, None while nobody knows.
    """

    setting: Setting
    shafts: tuple[Shaft, ...]
    links: tuple[LinkResult, ...]
    ratio: float
    efficiency: float | None
    motor_load: float | None
    findings: tuple[Finding, ...]
    remarks: tuple[Finding, ...] = ()
    position: int = 1
    stalled: bool = False
    jam_torques_nm: tuple[float, ...] | None = None
    rotor_inertia_kgm2: float | None = None

    @property
    def last_shaft(self) -> Shaft:
        """The machine's own shaft."""
        return self.shafts[-1]

    @property
    def tightest(self) -> tuple[int, Limit] | None:
        """Number of the link (from 1) and its limit with the greatest use in the line."""
        known = [(number, link.tightest) for number, link in enumerate(self.links, start=1)]
        present = [(number, limit) for number, limit in known if limit is not None]
        return max(present, key=lambda pair: pair[1].use or 0.0, default=None)


@dataclass(frozen=True, slots=True)
class PlanResult:
    """A plan at the setting in use, every setting, and all findings, worst first."""

    chosen: LineResult
    settings: tuple[LineResult, ...]
    findings: tuple[Finding, ...]
    step_counts: tuple[int, ...] = ()
    positions: tuple[str, ...] = ()

    def count(self, severity: Severity) -> int:
        """How many findings have a severity."""
        return sum(finding.severity is severity for finding in self.findings)
