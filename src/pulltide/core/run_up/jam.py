"""What a jam, or the first jerk of a start, does to each stage: its torque over what breaks it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pulltide.core.line_result import LineResult
from pulltide.core.links import family_of
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.core.run_up.run import Jam, Jerk
from pulltide.core.run_up.train import Group


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


def weakest(line: LineResult, stage: int) -> tuple[float, str] | None:
    """Least torque at the driver shaft that breaks something in a stage [N·m], and what; None while unknown."""
    points = family_of(line.links[stage].kind).failure_points(line.links[stage])
    return min(((one.torque_nm, one.name) for one in points if one.mode == "breaks" and one.torque_nm), default=None)


def start_peaks(line: LineResult, jerk: Jerk) -> Iterator[JamPeak]:
    """Stages that something is known to break in, with the torque of the first jerk."""
    for number, peak in enumerate(jerk.peaks_nm):
        breaks = weakest(line, number)
        if breaks is not None:
            yield JamPeak(number, breaks[1], peak, breaks[0])


def jam_peaks(train: DriveTrain, line: LineResult, jam: Jam) -> Iterator[JamPeak]:
    """Stages that something is known to break in, with the torque of the jam; none where nothing is springy.

    Only what turns behind the place that lets go drives into the jam, and what slips there drives on with its friction.
    """
    behind, drive = 0, jam.last_nm
    if jam.parted is not None:
        behind, stage = jam.parted.stage + 1, train.whole.stages[jam.parted.stage]
        after = Group(train.whole.inertias_kgm2[behind:], train.whole.stages[behind:])
        drive = after.passed(jam.parted.friction_nm(1.0) * stage.ratio * stage.efficiency)
    for number in range(behind, len(train.whole.stages)):
        breaks = weakest(line, number)
        peak = train.shock_nm((jam.speed_rad_s, jam.last_nm, drive), behind, number)
        if breaks is not None and peak is not None:
            yield JamPeak(number, breaks[1], peak, breaks[0])
