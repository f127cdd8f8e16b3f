"""A drive as it runs at a load, with every number that may be off, and what each instrument would then show."""

from __future__ import annotations

from collections.abc import Mapping
from copy import copy
from dataclasses import dataclass, replace

from pulltide.core.observed import BLOCK_W_PER_K, NOTHING_OBSERVED, PULLEY_W_PER_K, USUAL_SAG, Loop, Observed
from pulltide.core.run_log.meters import CASE_RISE_K, Meters, MotorState
from pulltide.core.units import RPM_PER_RAD_PER_S

#: What is read, and where: ``("speed", "shaft-2")``.
Quantity = tuple[str, str]
#: What is off, by name; a factor is 1 and an addition is 0 where nothing is said.
Offsets = Mapping[str, float]

#: What changes what instruments show, and not how the drive runs.
SHOWN = frozenset(
    (
        *("idle_amps", "breakaway", "coasting", "shake", "mass", "stiff", "sag", "play_times"),
        *("warmer_pulley", "warmer_case", "warmer_motor"),
    )
)

#: Beyond this share of the pull at which it lets go a belt slips outright, and no more of its speed is lost than this.
NEARLY_SLIPS, MAX_SLIP = 0.98, 0.5
#: How suddenly creep turns into slip: s = s_r F/F_r / (1 - (F/F_lim)^4). Common practice, no source.
KNEE = 4
#: Share of what a belt loses without load that warms its small pulley. Common practice, no source.
SMALL_SHARE = 0.6
#: What windage and bearings of a motor take of its rated power. Common practice, no source.
MOTOR_DRAG = 0.005
#: A load that changes with speed is followed down to this share of its speed.
MIN_SPEED = 0.05
#: Rounds in which speeds and torques settle, and how little they then move.
ROUNDS, SETTLED = 40, 1e-7
#: Drag of the bearings of one free shaft [N·m] up to a speed [rpm]: what warms a pillow block by some 17 K there;
#: faster, grease thins and the drag falls with the root of the speed. Common practice, no source.
BEARING_NM, BEARING_RPM = 0.092, 620.0


@dataclass(frozen=True, slots=True, kw_only=True)
class StageModel:
    """One stage: speed ratio without creep, what it loses turning idle [W] and of what it passes [-], what is seen."""

    ratio: float
    efficiency: float
    idle_w: float
    observed: Observed = NOTHING_OBSERVED


@dataclass(frozen=True, slots=True, kw_only=True)
class Running:
    """A whole drive. Shafts count from 1 at the motor; ``bearing_nm`` is the drag of each one's own bearings,
    ``taken_nm`` what take-offs and friction that was measured draw from them.
    """

    meters: Meters
    rated_w: float
    stages: tuple[StageModel, ...]
    bearing_nm: tuple[float, ...]
    load_nm: float
    load_exponent: float
    ideal_rad_s: float
    breakaway_nm: float | None
    inertia_kgm2: float | None
    taken_nm: tuple[float, ...] = ()
    base_volts: float = 1.0
    rated_volts: float | None = None
    is_motor: bool = True

    def settled(self, off: Offsets, share: float = 1.0, near: Settled | None = None) -> Settled:
        """The drive with what is off, at a share of the load; ``near`` is one much like it, to start from."""
        return Settled(self, off, share, near)

    def predict(self, off: Offsets, share: float = 1.0) -> dict[Quantity, float]:
        """Everything that can be read with what is off, at a share of the load."""
        return self.settled(off, share).readings()


@dataclass(slots=True)
class _Stage:
    """A stage with what is off about it."""

    ratio: float
    efficiency: float
    idle_w: float
    slip: float
    loop: Loop | None
    creep_factor: float


class Settled:
    """One prediction: speeds forward, torques backward, repeated until nothing moves."""

    def __init__(self, running: Running, off: Offsets, share: float, near: Settled | None = None) -> None:
        self.running, self.off, self.share = running, off, share
        self.state = MotorState(
            volts=running.base_volts * self.get("volts") * self.get("phase_volts"),
            slip=self.get("slip"),
            idle_amps=self.get("idle_amps"),
            field=self.get("field"),
        )
        self.stages = [self._stage(number, stage) for number, stage in enumerate(running.stages, 1)]
        self.speeds: list[float] = [0.0] * (len(self.stages) + 1) if near is None else list(near.speeds)
        self.torques: list[float] = [0.0] * (len(self.stages) + 1) if near is None else list(near.torques)
        self.creeps: list[float] = [0.0] * len(self.stages) if near is None else list(near.creeps)
        self._reconcile()

    def showing(self, off: Offsets) -> Settled:
        """The drive at the same speeds and torques where nothing but names of ``SHOWN`` is off otherwise."""
        made = copy(self)
        made.off, made.state = off, replace(self.state, idle_amps=off.get("idle_amps", 1.0))
        return made

    def get(self, name: str, otherwise: float = 1.0) -> float:
        """What is off by a name."""
        return self.off.get(name, otherwise)

    def _stage(self, number: int, stage: StageModel) -> _Stage:
        at = f"@{number}"
        loop, ratio = stage.observed.loop, stage.ratio
        if loop is not None:
            both, wheels = self.get(f"riding{at}", 0.0), loop.wheel_ratio
            loop = loop.scaled(
                self.get(f"tension{at}"), both + self.get(f"driver_mm{at}", 0.0), both, self.get(f"friction{at}")
            )
            ratio *= loop.wheel_ratio / wheels
        losses = self.get(f"loss{at}")
        return _Stage(
            ratio * self.get(f"ratio{at}"),
            max(1 - (1 - stage.efficiency) * losses - self.get(f"lossier{at}", 0.0), 0.05),
            stage.idle_w * self.get(f"drag{at}") * losses + self.get(f"extra_w{at}", 0.0),
            min(self.get(f"slips{at}", 0.0), 1.0),
            loop,
            self.get(f"creep{at}"),
        )

    def _reconcile(self) -> None:
        for _ in range(ROUNDS):
            speed, torque, creeps = self.speeds[-1], self.torques[0], tuple(self.creeps)
            self._forward()
            self._backward()
            moved = abs(self.speeds[-1] - speed) / max(speed, 1e-9), abs(self.torques[0] - torque) / max(torque, 1e-9)
            # a creep that has just changed moves nothing before the next round
            crept = (abs(now - before) for now, before in zip(self.creeps, creeps, strict=True))
            if max(*moved, *crept) <= SETTLED:
                break

    def _forward(self) -> None:
        self.speeds[0] = self.running.meters.speed_rpm(self.torques[0], self.state) / RPM_PER_RAD_PER_S
        for number, stage in enumerate(self.stages):
            kept = (1 - self.creeps[number]) * (1 - stage.slip)
            self.speeds[number + 1] = self.speeds[number] / stage.ratio * kept

    def _drag_nm(self, shaft: int) -> float:
        tight = self.get(f"bearing_times@{shaft + 1}")
        return self.running.bearing_nm[shaft] * tight + self.get(f"bearing@{shaft + 1}", 0.0)

    def _holds_nm(self, shaft: int) -> float:
        """What holds a shaft back beside the load [N·m]."""
        taken = self.running.taken_nm[shaft] if self.running.taken_nm else 0.0
        return self._drag_nm(shaft) + taken

    def _backward(self) -> None:
        running, last = self.running, len(self.stages)
        share = max(self.speeds[last] / running.ideal_rad_s, MIN_SPEED)
        grown = share**running.load_exponent if running.load_exponent else 1.0
        self.torques[last] = running.load_nm * self.share * self.get("load") * grown + self._holds_nm(last)
        for number in range(last - 1, -1, -1):
            stage = self.stages[number]
            into = self.torques[number + 1] / (stage.ratio * stage.efficiency)
            speed = max(self.speeds[number], 1e-6)
            self.creeps[number] = self._creep(stage, self.torques[number + 1], speed)
            self.torques[number] = into + stage.idle_w / speed + self._holds_nm(number)

    @staticmethod
    def _creep(stage: _Stage, driven_nm: float, driver_rad_s: float) -> float:
        """Share of the speed that a belt loses under its pull."""
        loop = stage.loop
        if loop is None or loop.creep <= 0:
            return 0.0
        pull = 2000 * driven_nm / loop.driven_pitch_mm
        linear = loop.creep * stage.creep_factor * pull / loop.creep_pull_n
        most = loop.slip_pull_n(loop.speed_m_per_s(driver_rad_s))
        if most is None:
            return min(linear, MAX_SLIP)
        used = pull / most if most > 0 else 2.0
        bent = linear / (1 - min(used, NEARLY_SLIPS) ** KNEE)
        return min(bent + max(used - NEARLY_SLIPS, 0.0), MAX_SLIP)

    def loss_nm(self, number: int) -> float:
        """What a stage, from 1, loses, as torque at its driver shaft [N·m]."""
        stage = self.stages[number - 1]
        passed = self.torques[number] * self.speeds[number]
        return (stage.idle_w + passed * (1 / stage.efficiency - 1)) / max(self.speeds[number - 1], 1e-9)

    @property
    def friction_nm(self) -> float:
        """What all that turns without load rubs, as torque at the first shaft [N·m]."""
        return self._lost_w() / max(self.speeds[0], 1e-9)

    def bearing_nm(self, shaft: int) -> float:
        """Drag of the bearings of a shaft, from 1 [N·m]."""
        return self._drag_nm(shaft - 1)

    def _lost_w(self) -> float:
        lost = MOTOR_DRAG * self.running.rated_w + sum(stage.idle_w for stage in self.stages)
        return lost + sum(self._holds_nm(shaft) * speed for shaft, speed in enumerate(self.speeds))

    # -- what is read -------------------------------------------------------------------------------------------------

    def readings(self) -> dict[Quantity, float]:
        """Every reading by what and where."""
        found: dict[Quantity, float] = {}
        for shaft, speed in enumerate(self.speeds, 1):
            found["speed", f"shaft-{shaft}"] = speed * RPM_PER_RAD_PER_S
        found.update(self._motor())
        for number, stage in enumerate(self.stages, 1):
            found.update(self._seen(number, stage))
        for shaft, nm in enumerate(self.running.bearing_nm):
            if nm > 0:
                heat = self._drag_nm(shaft) * self.speeds[shaft]
                found["bearing", f"shaft-{shaft + 1}"] = heat / BLOCK_W_PER_K
        found.update(self._whole())
        return found

    def _motor(self) -> dict[Quantity, float]:
        running, torque = self.running, self.torques[0]
        found: dict[Quantity, float] = {}
        amps = running.meters.amps(torque, self.state)
        watts = running.meters.watts(torque, self.state)
        if amps is not None:
            found["amps", "shaft-1"] = amps * self.get("amps_times")
        if watts is not None:
            found["watts", "shaft-1"] = watts * self.get("watts_times") / 1000
        if running.rated_volts is not None:
            found["volts", "shaft-1"] = running.rated_volts * running.base_volts * self.get("volts")
        if running.is_motor:
            heating = running.meters.heating(torque, self.state) * self.get("amps_times") ** 2
            found["motor_case", "shaft-1"] = CASE_RISE_K * heating * self.get("warmer_motor")
        return found

    def _seen(self, number: int, stage: _Stage) -> dict[Quantity, float]:
        at, seen = f"link-{number}", self.running.stages[number - 1].observed
        found: dict[Quantity, float] = {}
        if stage.loop is not None:
            found.update(self._belt(number, stage, stage.loop))
        if seen.case is not None:
            passed = self.torques[number] * self.speeds[number]
            heat = stage.idle_w + passed * (1 / stage.efficiency - 1)
            found["gear_case", at] = heat / seen.case.w_per_k * self.get("warmer_case") + self.get(
                f"case_k@{number}", 0.0
            )
        if seen.play_deg is not None:
            found["play", at] = max(
                seen.play_deg * self.get(f"play_times@{number}") + self.get(f"play@{number}", 0.0), 0.0
            )
        if seen.chain is not None:
            found["stretch", at] = self.get(f"stretch@{number}", 0.0)
            found["sag", at] = seen.chain.span_mm * USUAL_SAG * self.get(f"sag@{number}")
        return found

    def _belt(self, number: int, stage: _Stage, loop: Loop) -> dict[Quantity, float]:
        at = f"link-{number}"
        mass = loop.mass_kg_per_m * self.get(f"mass@{number}")
        stiff = self.get(f"stiff@{number}")
        speed = loop.speed_m_per_s(self.speeds[number - 1])
        pull = 2000 * self.torques[number] / loop.driven_pitch_mm
        heat = pull * speed * self.creeps[number - 1] + SMALL_SHARE * stage.idle_w
        return {
            ("strum", at): loop.strum_hz * (loop.mass_kg_per_m / mass) ** 0.5 * stiff,
            ("press", at): loop.press_n * stiff,
            ("small_pulley", at): heat / PULLEY_W_PER_K * self.get(f"warmer_pulley@{number}"),
        }

    def _whole(self) -> dict[Quantity, float]:
        running, found = self.running, {}
        if running.breakaway_nm is not None:
            found["breakaway", f"shaft-{len(self.speeds)}"] = running.breakaway_nm * self.get("breakaway")
        if running.inertia_kgm2 is not None:
            stored = running.inertia_kgm2 * self.speeds[0] ** 2
            found["run_down", "shaft-1"] = stored / max(self._lost_w(), 1e-9) * self.get("coasting")
        found["vibration", "shaft-1"] = max(QUIET_MM_S * self.get("shake") + self.get("vibration", 0.0), 0.0)
        return found


#: Once-per-turn speed of a machine in good order [mm/s]. Source: ISO 10816 zone B for small machines, from memory.
QUIET_MM_S = 1.8
