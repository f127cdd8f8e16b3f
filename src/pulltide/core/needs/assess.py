"""Evaluates a worksheet at its three corners and puts the band together."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from pulltide.core.duty import Segment
from pulltide.core.findings import Finding
from pulltide.core.needs import need_kind
from pulltide.core.needs.contract import CORNERS, NeedKind, Outcome, Saying, SpeedBand, Worksheet, Zone
from pulltide.core.working import Working

TITLES = {
    "running": "Running torque",
    "peak": "Peak torque",
    "breakaway": "Breakaway torque",
    "holding": "Torque to hold",
    "inertia": "Inertia at the last shaft",
    "speed": "Useful speed",
    "power": "Power",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Requirement:
    """What a worksheet asks of the last shaft: torque low, typical, high; everything else at the typical corner."""

    kind: NeedKind
    speeds: SpeedBand
    running_nm: tuple[float | None, float | None, float | None]
    peak_nm: float | None
    breakaway_nm: float | None
    holding_nm: float | None
    inertia_kgm2: float | None
    load_exponent: float
    fluctuation: float | None
    cycle: tuple[Segment, ...]
    zones: tuple[Zone, ...]
    own: tuple[Saying, ...]
    findings: tuple[Finding, ...]
    workings: Mapping[str, Working]

    def figures(self) -> dict[str, Any]:
        """The figures of the need, by field name; unknown ones are None."""
        return {
            "speed_min_rpm": self.speeds.min_rpm,
            "speed_ideal_rpm": self.speeds.ideal_rpm,
            "speed_max_rpm": self.speeds.max_rpm,
            "running_torque_nm": _positive(self.running_nm[1]),
            "running_torque_low_nm": _positive(self.running_nm[0]),
            "running_torque_high_nm": _positive(self.running_nm[2]),
            "peak_torque_nm": _positive(self.peak_nm),
            "breakaway_torque_nm": _positive(self.breakaway_nm),
            "holding_torque_nm": self.holding_nm,
            "inertia_kgm2": self.inertia_kgm2,
            "load_exponent": self.load_exponent,
        }


def _positive(value: float | None) -> float | None:
    """A load that pushes the drive instead of being driven is no running load: it stays unknown."""
    return value if value is not None and value > 0 else None


def _own_band(sheet: Worksheet, found: SpeedBand) -> SpeedBand:
    """One's own entries in place of what follows from the worksheet."""
    low = sheet.speed_min_rpm if sheet.speed_min_rpm is not None else found.min_rpm
    ideal = sheet.speed_ideal_rpm if sheet.speed_ideal_rpm is not None else found.ideal_rpm
    high = sheet.speed_max_rpm if sheet.speed_max_rpm is not None else found.max_rpm
    own = (sheet.speed_min_rpm, sheet.speed_ideal_rpm, sheet.speed_max_rpm)
    reason = "your own band" if None not in own else found.reason
    return SpeedBand(low, ideal, high, reason, found.max_is_limit and sheet.speed_max_rpm is None)


def _peak(outcome: Outcome) -> float | None:
    """Peak torque, never under the running torque."""
    if outcome.peak_nm is None or outcome.running_nm is None:
        return outcome.peak_nm
    return max(outcome.peak_nm, outcome.running_nm)


@lru_cache(maxsize=512)
def assess(sheet: Worksheet) -> Requirement:
    """Evaluate a worksheet low, typical and high. A worksheet is frozen, so its answer is kept."""
    kind = need_kind(sheet.kind)  # type: ignore[attr-defined]
    low, typical, high = (kind.work(sheet, corner) for corner in CORNERS)
    return Requirement(
        kind=kind,
        speeds=_own_band(sheet, typical.speeds),
        running_nm=(low.running_nm, typical.running_nm, high.running_nm),
        peak_nm=_peak(typical),
        breakaway_nm=typical.breakaway_nm,
        holding_nm=typical.holding_nm,
        inertia_kgm2=typical.inertia_kgm2,
        load_exponent=typical.load_exponent,
        fluctuation=typical.fluctuation,
        cycle=typical.cycle,
        zones=typical.zones,
        own=tuple(typical.own),
        findings=tuple(typical.findings),
        workings={
            name: Working(TITLES.get(name, name.capitalize()), tuple(steps))
            for name, steps in typical.steps.items()
            if steps
        },
    )
