"""What a tachometer, an ammeter and a wattmeter show of a motor under a torque."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt
from typing import Protocol

from pulltide.core.sources import AnySource, Drive
from pulltide.core.sources.curves import InductionCurve
from pulltide.core.sources.induction import InductionMotor
from pulltide.core.sources.permanent_magnet import DcMotor
from pulltide.core.units import RPM_PER_RAD_PER_S

#: No-load over plate current, three-phase and one-phase. Common practice, no source.
IDLE_AMPS_THREE, IDLE_AMPS_ONE = 0.55, 0.75
#: Locked-rotor over plate current. Common practice, no source.
LOCKED_TIMES = 6.0
#: Losses that do not follow the load, over those at full load. Common practice, no source.
STEADY_LOSS = 0.35
#: How warm a motor's case gets above the air at full load [K]. Common practice, no source.
CASE_RISE_K = 38.0


@dataclass(frozen=True, slots=True, kw_only=True)
class MotorState:
    """What may be off about a motor: volts at its winding over rated, its slip and idle current over what is taken,
    the speed of its field over rated.
    """

    volts: float = 1.0
    slip: float = 1.0
    idle_amps: float = 1.0
    field: float = 1.0


RATED = MotorState()


class Meters(Protocol):
    """A motor as instruments see it; None where its plate does not tell. Torque [N·m] >= 0."""

    def speed_rpm(self, torque_nm: float, state: MotorState) -> float:
        """Speed [rpm]."""
        ...

    def amps(self, torque_nm: float, state: MotorState) -> float | None:
        """Current in one lead [A]."""
        ...

    def watts(self, torque_nm: float, state: MotorState) -> float | None:
        """Power drawn [W]."""
        ...

    def heating(self, torque_nm: float, state: MotorState) -> float:
        """Its losses over those at full load [-]."""
        ...


@dataclass(frozen=True, slots=True, kw_only=True)
class InductionMeters:
    """An induction motor by its plate: ``amps_a`` at full load, ``idle_share`` of it without load.

    Slip by Kloss, T/T_b = 2/(s/s_b + s_b/s), torques with the square of the volts; I = u √(I_0² + I_x² s²/(s² + s_b²)).
    Source: equivalent circuit without stator resistance.

    >>> motor = InductionMeters(
    ...     synchronous_rpm=1800, rated_rpm=1730, rated_nm=8.28, breakdown=2.4, amps_a=5.6, idle_share=3.1 / 5.6,
    ...     efficiency=0.84, power_kw=1.5,
    ... )
    >>> round(motor.speed_rpm(5.705, RATED)), round(motor.amps(5.705, RATED), 2), round(motor.watts(5.705, RATED))
    (1753, 4.44, 1264)
    """

    synchronous_rpm: float
    rated_rpm: float
    rated_nm: float
    breakdown: float
    power_kw: float
    amps_a: float | None = None
    idle_share: float = IDLE_AMPS_THREE
    efficiency: float | None = None
    locked_a: float | None = None

    def amps_at(self, speed_rpm: float, volts: float) -> float:
        """Current at any speed [A], from locked rotor on: the circuit up to breakdown, then straight in the slip.

        Six times the plate's where the locked current is not known: common practice, no source.
        """
        assert self.amps_a is not None
        most, slip = self._breakdown_slip(RATED), min(max(1 - speed_rpm / self.synchronous_rpm, 0.0), 1.0)
        if slip <= most:
            return volts * self._circuit(slip, RATED)
        at_breakdown, locked = self._circuit(most, RATED), self.locked_a or LOCKED_TIMES * self.amps_a
        return volts * (at_breakdown + (locked - at_breakdown) * (slip - most) / max(1 - most, 1e-9))

    def _circuit(self, slip: float, state: MotorState) -> float:
        assert self.amps_a is not None
        rated, most = self._rated_slip(state), self._breakdown_slip(state)
        idle = self.idle_share * self.amps_a * state.idle_amps
        working = max(self.amps_a**2 - idle**2, 0.0) * (rated**2 + most**2) / rated**2
        return sqrt(idle**2 + working * slip**2 / (slip**2 + most**2))

    def _rated_slip(self, state: MotorState) -> float:
        return (self.synchronous_rpm - self.rated_rpm) / self.synchronous_rpm * state.slip

    def _breakdown_slip(self, state: MotorState) -> float:
        most = self.breakdown
        return self._rated_slip(state) * (most + sqrt(most**2 - 1))

    def _slip(self, torque_nm: float, state: MotorState) -> float:
        breakdown_slip = self._breakdown_slip(state)
        most = self.breakdown * self.rated_nm * state.volts**2 / state.field
        share = most / max(torque_nm, 1e-9)
        if share <= 1:
            return breakdown_slip  # it would stall; what is shown is the last speed it holds
        return breakdown_slip * (share - sqrt(share**2 - 1))

    def speed_rpm(self, torque_nm: float, state: MotorState) -> float:
        """Speed [rpm]."""
        return self.synchronous_rpm * state.field * (1 - self._slip(torque_nm, state))

    def amps(self, torque_nm: float, state: MotorState) -> float | None:
        """Current in one lead [A]; None where the plate says none."""
        if self.amps_a is None:
            return None
        return state.volts * self._circuit(self._slip(torque_nm, state), state)

    def heating(self, torque_nm: float, state: MotorState) -> float:
        """Losses over those at full load: a steady part with the volts, the rest with the current."""
        current = self.amps(torque_nm, state)
        share = current / self.amps_a if current is not None and self.amps_a else torque_nm / self.rated_nm
        return STEADY_LOSS * state.volts**2 + (1 - STEADY_LOSS) * share**2

    def watts(self, torque_nm: float, state: MotorState) -> float | None:
        """Shaft power and losses [W]; None where the plate says no efficiency."""
        if self.efficiency is None:
            return None
        shaft = torque_nm * self.speed_rpm(torque_nm, state) / RPM_PER_RAD_PER_S
        return shaft + 1000 * self.power_kw * (1 / self.efficiency - 1) * self.heating(torque_nm, state)


@dataclass(frozen=True, slots=True, kw_only=True)
class MagnetMeters:
    """A permanent-magnet motor: I = I_0 + T/K; speed follows the volts less what the winding takes."""

    drive: Drive
    k: float
    no_load_a: float
    no_load_rpm: float
    volts: float

    def speed_rpm(self, torque_nm: float, state: MotorState) -> float:
        """Speed [rpm]."""
        at_rated = self.drive.speed_under(torque_nm)
        under = self.drive.speed_rpm if at_rated is None else at_rated
        return max(under + (state.volts - 1) * self.no_load_rpm, 0.0)

    def amps(self, torque_nm: float, state: MotorState) -> float | None:
        """Current of the motor [A]."""
        return self.no_load_a + torque_nm / self.k

    def watts(self, torque_nm: float, state: MotorState) -> float | None:
        """Volts times amps [W]."""
        return self.volts * state.volts * (self.no_load_a + torque_nm / self.k)

    def heating(self, torque_nm: float, state: MotorState) -> float:
        """Losses go with the square of the current."""
        full = self.no_load_a + self.drive.torque_nm / self.k
        return ((self.no_load_a + torque_nm / self.k) / full) ** 2


@dataclass(frozen=True, slots=True)
class CurveMeters:
    """A source of which speed alone can be told: an engine, a crank, a universal motor."""

    drive: Drive

    def speed_rpm(self, torque_nm: float, state: MotorState) -> float:
        """Speed [rpm]."""
        found = self.drive.speed_under(torque_nm)
        return self.drive.speed_rpm if found is None else found

    def amps(self, torque_nm: float, state: MotorState) -> float | None:
        """Not told."""
        return None

    def watts(self, torque_nm: float, state: MotorState) -> float | None:
        """Not told."""
        return None

    def heating(self, torque_nm: float, state: MotorState) -> float:
        """Losses with the square of the torque."""
        return (torque_nm / self.drive.torque_nm) ** 2


def meters_of(source: AnySource, drive: Drive) -> Meters:
    """The meters of a source, by what its plate tells."""
    if isinstance(source, InductionMotor) and not source.inverter.fitted:
        return _induction(source, drive)
    if isinstance(source, DcMotor):
        constants = drive.details
        return MagnetMeters(
            drive=drive,
            k=constants.k,
            no_load_a=constants.no_load_a,
            no_load_rpm=constants.volts * constants.kv_rpm_v,
            volts=constants.volts,
        )
    return CurveMeters(drive)


def _induction(source: InductionMotor, drive: Drive) -> Meters:
    plate, curve = drive.details, drive.curve
    if not isinstance(curve, InductionCurve):
        return CurveMeters(drive)
    return InductionMeters(
        synchronous_rpm=curve.synchronous_rpm,
        rated_rpm=min(curve.rated_rpm, 0.999 * curve.synchronous_rpm),
        rated_nm=curve.rated_nm,
        breakdown=curve.breakdown_ratio,
        power_kw=drive.power_kw,
        amps_a=plate.amps_a,
        idle_share=IDLE_AMPS_THREE if source.phases == 3 else IDLE_AMPS_ONE,
        efficiency=plate.efficiency,
        locked_a=plate.locked_amps_a,
    )
