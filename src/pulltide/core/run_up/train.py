"""Shafts tied by ratios: their acceleration under a torque at both ends, stage by stage, whichever way power flows."""

from __future__ import annotations

from dataclasses import dataclass

#: What a stage still passes back where friction would lock it.
MIN_BACK = 0.02


@dataclass(frozen=True, slots=True)
class Stage:
    """Speed ratio (driver over driven) > 0 and efficiency 0 to 1 of one stage."""

    ratio: float
    efficiency: float

    @property
    def back_efficiency(self) -> float:
        """Efficiency with power flowing backward: 2 - 1/η, the same loss at the same load; little where it locks."""
        return max(2 - 1 / self.efficiency, MIN_BACK)

    def to_driver(self, driven_nm: float, forward: bool) -> float:
        """Torque on its driver shaft that a torque on its driven shaft takes [N·m]."""
        if forward:
            return driven_nm / (self.ratio * self.efficiency)
        return driven_nm * self.back_efficiency / self.ratio


@dataclass(frozen=True, slots=True)
class Motion:
    """Acceleration of the first shaft [rad/s²], torque into each stage at its driver shaft [N·m], and the power that
    the stages turn to heat [W].
    """

    acceleration: float
    into_nm: tuple[float, ...]
    lost_w: float


@dataclass(frozen=True, slots=True)
class Group:
    """Shafts from first to last with their inertias [kg·m²], one more than there are stages."""

    inertias_kgm2: tuple[float, ...]
    stages: tuple[Stage, ...]

    @property
    def ratio(self) -> float:
        """First over last speed."""
        ratio = 1.0
        for stage in self.stages:
            ratio *= stage.ratio
        return ratio

    def kinetic_j(self, speed: float) -> float:
        """Energy of all its shafts with the first at a speed [rad/s]."""
        total, here = 0.0, speed
        for inertia, stage in zip(self.inertias_kgm2, (*self.stages, None), strict=True):
            total += 0.5 * inertia * here**2
            here = here / stage.ratio if stage else here
        return total

    def motion(self, first_nm: float, last_nm: float, speed: float, held: tuple[float, ...] = ()) -> Motion:
        """Under a torque that drives the first shaft and one that holds the last back, at a speed of the first [rad/s].

        ``held`` are torques of brakes that hold each shaft back [N·m], none where it is empty.

        The sign of the torque in a stage decides which way its power flows, so that it is found by trying: from all
        forward, whichever stage disagrees is turned round, at most once for each.
        """
        flows = [True] * len(self.stages)
        for _ in range(len(self.stages) + 2):
            acceleration = self._acceleration(first_nm, last_nm, flows, held)
            into = self._into(last_nm, acceleration, flows, held)
            agreed = [torque >= 0 for torque in into]
            if agreed == flows:
                break
            flows = agreed
        return Motion(acceleration, tuple(into), self._lost_w(into, flows, speed))

    def needed_nm(self, last_nm: float, acceleration: float) -> float:
        """Torque at the first shaft for an acceleration of it [rad/s²] against one at the last [N·m]."""
        flows = [True] * len(self.stages)
        into: tuple[float, ...] | list[float] = ()
        for _ in range(len(self.stages) + 2):
            into = self._into(last_nm, acceleration, flows, ())
            agreed = [torque >= 0 for torque in into]
            if agreed == flows:
                break
            flows = agreed
        return (into[0] if into else last_nm) + self.inertias_kgm2[0] * acceleration

    def passed(self, first_nm: float, stages: int | None = None) -> float:
        """Torque at the last shaft, or after so many stages, with one at the first and nothing speeding up [N·m]."""
        for stage in self.stages[:stages]:
            first_nm *= stage.ratio * stage.efficiency
        return first_nm

    def braked_w(self, held: tuple[float, ...], speed: float) -> float:
        """Power that brakes turn to heat with the first shaft at a speed [rad/s]."""
        total, here = 0.0, speed
        for brake, stage in zip(held, (*self.stages, None), strict=bool(held)):
            total += brake * here
            here = here / stage.ratio if stage else here
        return total

    def _acceleration(self, first_nm: float, last_nm: float, flows: list[bool], held: tuple[float, ...]) -> float:
        """Torque from the load to the first shaft is a + b α: solved for α."""
        brakes = held or (0.0,) * len(self.inertias_kgm2)
        a, b, share = last_nm + brakes[-1], self.inertias_kgm2[-1], 1.0
        shares = [1.0]
        for stage in self.stages:
            share /= stage.ratio
            shares.append(share)
        b *= shares[-1]
        for number in range(len(self.stages) - 1, -1, -1):
            stage, forward = self.stages[number], flows[number]
            a, b = stage.to_driver(a, forward) + brakes[number], stage.to_driver(b, forward)
            b += self.inertias_kgm2[number] * shares[number]
        return (first_nm - a) / b if b > 0 else 0.0

    def _into(self, last_nm: float, acceleration: float, flows: list[bool], held: tuple[float, ...]) -> list[float]:
        brakes = held or (0.0,) * len(self.inertias_kgm2)
        accelerations = [acceleration]
        for stage in self.stages:
            accelerations.append(accelerations[-1] / stage.ratio)
        torque = last_nm + brakes[-1] + self.inertias_kgm2[-1] * accelerations[-1]
        into = []
        for number in range(len(self.stages) - 1, -1, -1):
            torque = self.stages[number].to_driver(torque, flows[number])
            into.append(torque)
            torque += self.inertias_kgm2[number] * accelerations[number] + brakes[number]
        return into[::-1]

    def _lost_w(self, into: list[float], flows: list[bool], speed: float) -> float:
        lost, here = 0.0, speed
        for torque, stage, forward in zip(into, self.stages, flows, strict=True):
            share = 1 - stage.efficiency if forward else 1 / stage.back_efficiency - 1
            lost += abs(torque * here) * share
            here /= stage.ratio
        return lost
