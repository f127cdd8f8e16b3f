"""What solving a line gives."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.findings import Finding, Severity
from pulltide.core.transmission import AnyResult, Limit, Turn

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
    ``taken_nm`` is what a take-off and measured friction draw at every shaft [N·m], ``dragged_nm`` that friction alone,
    ``taken_share`` the part of the source's power that both draw. ``jam_torques_nm`` is the torque at every shaft when
    the machine is held fast, None while nobody knows. ``unbridged`` says that there is no stage yet and the motor is
    far from the speed that is needed: nothing that depends on load means anything then.
    """

    setting: Setting
    shafts: tuple[Shaft, ...]
    links: tuple[AnyResult, ...]
    ratio: float
    efficiency: float | None
    motor_load: float | None
    findings: tuple[Finding, ...]
    remarks: tuple[Finding, ...] = ()
    position: int = 1
    stalled: bool = False
    jam_torques_nm: tuple[float, ...] | None = None
    rotor_inertia_kgm2: float | None = None
    taken_nm: tuple[float, ...] = ()
    dragged_nm: tuple[float, ...] = ()
    taken_share: float = 0.0
    unbridged: bool = False

    @property
    def last_shaft(self) -> Shaft:
        """The machine's own shaft."""
        return self.shafts[-1]

    @property
    def need_torques_nm(self) -> tuple[float | None, float | None]:
        """Running and peak torque of the machine itself, without a take-off on its shaft."""
        last, taken = self.last_shaft, self.taken_nm[-1] if self.taken_nm else 0.0
        known = (last.running_torque_nm, last.peak_torque_nm)
        return None if known[0] is None else known[0] - taken, None if known[1] is None else known[1] - taken

    def at_source_nm(self, times: float) -> float | None:
        """Torque at the source with the need's torque so many times the running one, take-offs as they are [N·m]."""
        running = self.shafts[0].running_torque_nm
        return None if running is None else running * (times * (1 - self.taken_share) + self.taken_share)

    @property
    def tightest(self) -> tuple[int, Limit] | None:
        """Number of the link (from 1) and its limit with the greatest use in the line."""
        known = [(number, link.tightest) for number, link in enumerate(self.links, start=1)]
        present = [(number, limit) for number, limit in known if limit is not None]
        return max(present, key=lambda pair: pair[1].use or 0.0, default=None)


@dataclass(frozen=True, slots=True)
class PlanResult:
    """A plan at the setting in use, every setting, and all findings, worst first.

    ``changes_tried`` were tried as remedies; ``stopped`` where not all of them were. ``further`` are the lines in
    which further loads are worked, by their titles.
    """

    chosen: LineResult
    settings: tuple[LineResult, ...]
    findings: tuple[Finding, ...]
    step_counts: tuple[int, ...] = ()
    positions: tuple[str, ...] = ()
    changes_tried: int = 0
    stopped: bool = False
    further: tuple[tuple[str, LineResult], ...] = ()

    def count(self, severity: Severity) -> int:
        """How many findings have a severity."""
        return sum(finding.severity is severity for finding in self.findings)
