"""What a jam does to each stage: the torque that the moving masses drive through it, over what breaks it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import prod

from pulltide.core.elasticity import in_series, jam_peak_nm, shaft_nm_rad
from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.run_up.drive_train import KINETIC_SHARE, DriveTrain
from pulltide.core.run_up.simulate import Jam
from pulltide.core.shafts import Span


@dataclass(frozen=True, slots=True)
class JamPeak:
    """Torque at the driver shaft of a stage, from 0, and the least that breaks something there [N·m]; ``name`` is what
    breaks.
    """

    stage: int
    name: str
    peak_nm: float
    breaks_nm: float

    @property
    def use(self) -> float:
        """Peak over what breaks it."""
        return self.peak_nm / self.breaks_nm


@dataclass(frozen=True, slots=True)
class Springs:
    """Stiffness of each stage at its driver shaft, of each shaft between its wheels [N·m/rad]; None: taken as rigid."""

    stages: tuple[float | None, ...]
    shafts: tuple[float | None, ...]


def springs_of(plan: Plan, line: LineResult) -> Springs:
    """What of a plan is known to be springy."""
    made = [family_of(link.kind).prepare(link, step) for link, step in zip(plan.links, line.setting, strict=True)]
    known = {part.shaft: _shaft(part.diameter_mm, part.span) for part in plan.shafts}
    return Springs(
        tuple(one.stiffness_nm_rad for one in made), tuple(known.get(number) for number in range(1, len(made) + 2))
    )


def _shaft(diameter_mm: float | None, span: Span | None) -> float | None:
    """Of the shaft between its two wheels; None where a place or the diameter is not known."""
    if diameter_mm is None or span is None or span.driven_at_mm is None or span.driver_at_mm is None:
        return None
    between = abs(span.driven_at_mm - span.driver_at_mm)
    return shaft_nm_rad(diameter_mm, between) if between > 0 else None


def jam_peaks(train: DriveTrain, line: LineResult, springs: Springs, jam: Jam) -> Iterator[JamPeak]:
    """Stages that something is known to break in, with the torque of the jam; none where nothing is springy.

    Only what turns behind a stage that slips drives into the jam, and that stage drives on with its friction.
    """
    first = 0 if train.slip_stage is None else train.slip_stage + 1
    ratios = [stage.ratio for stage in train.whole.stages]
    for stage in range(first, len(ratios)):
        breaks = [
            (point.torque_nm, point.name)
            for point in family_of(line.links[stage].kind).failure_points(line.links[stage])
            if point.mode == "breaks" and point.torque_nm
        ]
        peak = _peak_nm(train, springs, jam, stage)
        if breaks and peak is not None:
            least, name = min(breaks)
            yield JamPeak(stage, name, peak, least)


def _peak_nm(train: DriveTrain, springs: Springs, jam: Jam, stage: int) -> float | None:
    """Torque at the driver shaft of a stage; all is told at the last shaft first."""
    ratios = [one.ratio for one in train.whole.stages]
    first = 0 if train.slip_stage is None else train.slip_stage + 1
    inertia = sum(train.whole.inertias_kgm2[k] * prod(ratios[k:]) ** 2 for k in range(first, stage + 1))
    parts = [(k, springs.stages[k]) for k in range(stage, len(ratios))]
    parts += [(k, springs.shafts[k]) for k in range(stage + 1, len(ratios) + 1)]
    spring = in_series(one * prod(ratios[k:]) ** 2 for k, one in parts if one is not None)
    if spring is None:
        return None
    drive = jam.last_nm
    if train.slip_stage is not None:
        slips = train.whole.stages[train.slip_stage]
        drive = train.after.passed(KINETIC_SHARE * train.slip_nm * slips.ratio * slips.efficiency)
    return jam_peak_nm(jam.speed_rad_s, inertia, spring, jam.last_nm, drive) / prod(ratios[stage:])
