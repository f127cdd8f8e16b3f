"""One link at one position: what it does with speed and load, and everything known of it under a load.

A family derives :class:`Transmission` from its sizes. Cheap and free of findings, for whoever compares many, are
``ratio``, ``transmit``, ``capacity`` and ``max_driver_rpm``. ``rate`` puts it under a load; limits, findings, figures
of the :class:`LinkResult` are worked out when they are first asked for.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from math import radians
from typing import Any, ClassVar, Generic, Literal, TypeVar

from pulltide.core.drawing import LinkPicture
from pulltide.core.duty import FATIGUE_EXPONENTS, Duty, PrimeMover, Segment, root_mean_power
from pulltide.core.findings import Finding, Source
from pulltide.core.forces import NO_FORCE, Disc, ShaftForce
from pulltide.core.labels import as_is
from pulltide.core.observed import Observed
from pulltide.core.units import torque_nm

#: +1 same sense as the driver, -1 reversed, None when only the part itself can tell (worm hand).
Turn = Literal[1, -1] | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Flow:
    """Speed and torque on both sides of one link.

    Running and peak values come from the machine; the nameplate value is what the motor could press all day.
    """

    driver_speed_rpm: float
    driven_speed_rpm: float
    driver_torque_nm: float
    driven_torque_nm: float
    driver_peak_torque_nm: float | None
    driven_peak_torque_nm: float | None
    driver_nameplate_torque_nm: float
    power_in_kw: float
    power_out_kw: float
    driven_emergency_torque_nm: float | None = None


@dataclass(frozen=True, slots=True)
class ServiceFactor:
    """A service factor with the table, or the person, it comes from; ``is_floored`` where the table prints under 1."""

    value: float
    source: Source
    note: str = ""
    is_floored: bool = False


def own_factor(duty: Duty) -> ServiceFactor | None:
    """The person's own service factor, which replaces every table, or None where none is set."""
    if duty.service_factor_override is None:
        return None
    return ServiceFactor(
        duty.service_factor_override,
        Source("own choice", as_is(duty.override_reason) if duty.override_reason else "", "own choice"),
    )


@dataclass(frozen=True, slots=True)
class Sizing:
    """By which rule links are sized, for which duty, and how the load repeats (nothing: it runs steadily)."""

    duty: Duty
    prime_mover: PrimeMover = "motor"
    cycle: tuple[Segment, ...] = ()

    def repeats(self, exponent: float | None) -> float:
        """Torque share that ages a part as the cycle does [-]; 1 without a cycle or where none counts for the part."""
        if exponent is None or not self.cycle:
            return 1.0
        return root_mean_power(self.cycle, FATIGUE_EXPONENTS.get(self.duty.fatigue, exponent)) or 1.0

    def multiplier(self, service_factor: float, exponent: float | None = None) -> float:
        """Design torque over the torque that the margin rule starts from: running, or nameplate of the motor [-]."""
        by_rule = {
            "running_load": self.repeats(exponent) * service_factor,
            "motor_nameplate": service_factor,
            "flat_factor": self.repeats(exponent) * self.duty.flat_factor,
        }
        return by_rule[self.duty.margin_rule.value]

    @property
    def high_torque_motor(self) -> bool:
        """Whether belt tables count the source as a high-torque one. Source: RMA IP-20."""
        return self.prime_mover in ("high_torque_motor", "engine", "single_cylinder")

    @property
    def engine_driven(self) -> bool:
        """Whether an engine drives, for the tables that tell engines from motors."""
        return self.prime_mover in ("engine", "single_cylinder")


@dataclass(frozen=True, slots=True)
class Limit:
    """One thing a link can be short of: measured against allowed. ``allowed`` is None while unknown.

    ``is_load`` is false for a speed limit: being near it says nothing of how hard the link works.
    """

    code: str
    name: str
    measured: float
    allowed: float | None
    unit: str
    is_load: bool = True

    @property
    def use(self) -> float | None:
        """Measured over allowed: 1 is fully used. Infinite when nothing is allowed."""
        if self.allowed is None:
            return None
        return self.measured / self.allowed if self.allowed > 0 else float("inf")


#: Which torque a bound holds for: at the driver the one that the margin rule multiplies, the running one or the peak;
#: the peak at the driven shaft, for what is rated at its output.
Basis = Literal["sized", "running", "peak", "driven_peak"]


@dataclass(frozen=True, slots=True)
class Bound:
    """Torque [N·m] that just uses up the limit of this code, at a speed; None while unknown."""

    code: str
    basis: Basis
    torque_nm: float | None


#: How the load fails a part: it ages before its time, lets go and can carry on, or is done for.
FailureMode = Literal["wears", "slips", "breaks"]


@dataclass(frozen=True, slots=True)
class FailurePoint:
    """Torque [N·m at the link's driver shaft] at which something fails as the load rises.

    ``torque_nm`` is None while unknown, and ``missing`` then says what would tell. ``wanted`` marks the fuse: what
    the builder means to fail first. ``certain`` is false for what may slip but need not: nothing is protected by it.
    ``parts`` is true for what lets go for good: pins.
    """

    name: str
    mode: FailureMode
    torque_nm: float | None
    missing: str = ""
    wanted: bool = False
    certain: bool = True
    parts: bool = False


@dataclass(frozen=True, slots=True)
class Figure:
    """A number shown on a card; ``key`` names its working."""

    key: str
    label: str
    value: float | None
    unit: str
    needs_load: bool = False


@dataclass(frozen=True, slots=True)
class DesignTorque:
    """Torque a link is sized for, at its driver shaft, by each margin rule; ``chosen_nm`` is in force.

    ``repeats`` is the share of the running torque that the duty cycle amounts to.
    """

    chosen_nm: float
    by_rule_nm: Mapping[str, float]
    repeats: float = 1.0


def design_torque(flow: Flow, sizing: Sizing, service_factor: float, exponent: float | None = None) -> DesignTorque:
    """Torque to size a link for [N·m at its driver shaft], by each margin rule.

    Running load x service factor; motor nameplate x service factor; running load x flat factor.
    The service factor is applied once, here. ``exponent`` is by how much repeating loads age the part: the running load
    is then the equivalent of the duty cycle.
    """
    repeats = sizing.repeats(exponent)
    running = flow.driver_torque_nm * repeats
    by_rule = {
        "running_load": running * service_factor,
        "motor_nameplate": flow.driver_nameplate_torque_nm * service_factor,
        "flat_factor": running * sizing.duty.flat_factor,
    }
    return DesignTorque(by_rule[sizing.duty.margin_rule.value], by_rule, repeats)


@dataclass(frozen=True, slots=True)
class Loading:
    """What a link is under, and what it is then sized for; ``subject`` is ``link-2``, say."""

    flow: Flow
    sizing: Sizing
    subject: str
    service_factor: ServiceFactor
    design: DesignTorque

    @property
    def sizing_factor(self) -> float:
        """Design over running torque by the first margin rule: service factor times what the cycle amounts to."""
        return self.service_factor.value * self.design.repeats

    @property
    def peak_nm(self) -> tuple[float, float]:
        """Peak torque at driver and driven shaft [N·m]; the running one where no peak is known."""
        flow = self.flow
        return (
            flow.driver_torque_nm if flow.driver_peak_torque_nm is None else flow.driver_peak_torque_nm,
            flow.driven_torque_nm if flow.driven_peak_torque_nm is None else flow.driven_peak_torque_nm,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftLimits:
    """What a link asks of, or allows on, its two shafts. None where unknown or not its business."""

    driver_overhung_n: float | None = None
    driven_overhung_n: float | None = None
    driver_overhang_factor: float = 1.0
    driven_overhang_factor: float = 1.0
    driver_shaft_mm: float | None = None
    driven_shaft_mm: float | None = None
    driver_bore_max_mm: float | None = None
    driven_bore_max_mm: float | None = None
    driver_outside_mm: float | None = None
    is_belt: bool = False


NO_SHAFT_LIMITS = ShaftLimits()


@dataclass(frozen=True, slots=True)
class Transmitted:
    """What a transmission does with a driver speed and a delivered power."""

    driven_speed_rpm: float
    power_in_kw: float


#: Details of one family: its intermediate figures under a load.
D = TypeVar("D")
#: How it sounds beside the others, well made and at its usual speed.
Noise = Literal["quiet", "plain", "loud"]
LOUDNESS: tuple[Noise, ...] = ("quiet", "plain", "loud")


class Transmission(ABC, Generic[D]):
    """One link at one position: its geometry is fixed, its load is not.

    ``fatigue_exponent`` is by how much repeating loads age it, None where its rating has no life in it. ``noise`` is
    common practice, no source. ``step`` counts its positions from 1.
    """

    kind: ClassVar[str]
    fatigue_exponent: ClassVar[float | None] = None
    noise: ClassVar[Noise] = "plain"
    #: Whether the thrust on its shafts changes its sense with the rotation: a helix does, straight bevel teeth do not.
    thrust_turns: ClassVar[bool] = True
    step: int = 1

    # -- speed and power ------------------------------------------------------------------------------------------

    @property
    @abstractmethod
    def ratio(self) -> float:
        """Driver speed over driven speed without creep, > 0."""

    @property
    @abstractmethod
    def turn(self) -> Turn:
        """Sense of the driven shaft against the driver."""

    @abstractmethod
    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """Driven speed and power taken in, for a driver speed [rpm] > 0 and a delivered power [kW] >= 0."""

    # -- what it can carry ----------------------------------------------------------------------------------------

    @abstractmethod
    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """Its service factor for a duty."""

    @abstractmethod
    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Torque at the driver that uses up each load limit of :meth:`limits` at a speed [rpm] > 0."""

    @property
    def max_driver_rpm(self) -> float | None:
        """Driver speed at which the first speed limit is reached [rpm]; None where it has none, or none is known."""
        return None

    # -- room, mass and forces ------------------------------------------------------------------------------------

    @abstractmethod
    def picture(self) -> LinkPicture:
        """What to draw, to scale."""

    @property
    def center_distance_mm(self) -> float | None:
        """Distance between its shafts [mm]; None where it has no room of its own to say."""
        return None

    @property
    def discs(self) -> tuple[Disc, ...]:
        """Its wheels as solid discs, for inertia, mass and width: nothing where they are inside a case."""
        return ()

    def inertia_kgm2(self, side: Literal["driver", "driven"]) -> float | None:
        """Inertia of its wheels on a shaft [kg·m²], at most: as solid discs. None while unknown."""
        found = [disc.inertia_kgm2 for disc in self.discs if disc.side == side]
        return sum(found) if found else None

    @property
    def mass_kg(self) -> float | None:
        """Mass of its wheels [kg], at most: as solid discs. None while unknown."""
        return sum(disc.mass_kg for disc in self.discs) if self.discs else None

    @property
    def stiffness_nm_rad(self) -> float | None:
        """Torque over the turn of its driver shaft against its driven one [N·m/rad]; None: taken as rigid."""
        return None

    @property
    def play_arcmin(self) -> float | None:
        """Backlash at its driven shaft [arcmin]; None while unknown."""
        return None

    @property
    def slack_rad(self) -> float | None:
        """How far its driver shaft turns from one flank to the other [rad]; None while unknown."""
        return None if self.play_arcmin is None else radians(self.play_arcmin / 60) * self.ratio

    @property
    def misalignment(self) -> tuple[float, float, float] | None:
        """Angle [deg] and offset [mm] that it takes, each alone, and the share of both in use; None without one."""
        return None

    def observed(self, result: LinkResult[D]) -> Observed:
        """What instruments see of it: its play, and whatever else a family adds."""
        return Observed(play_deg=self.play_arcmin / 60 if self.play_arcmin else None)

    # -- under a load ---------------------------------------------------------------------------------------------

    def rate(self, flow: Flow, sizing: Sizing, subject: str) -> LinkResult[D]:
        """The link under a load."""
        factor = self.service_factor(sizing)
        design = design_torque(flow, sizing, factor.value, self.fatigue_exponent)
        return LinkResult(self, Loading(flow, sizing, subject, factor, design))

    @abstractmethod
    def details(self, load: Loading) -> D:
        """Its intermediate figures under a load."""

    @abstractmethod
    def limits(self, result: LinkResult[D]) -> Iterable[Limit]:
        """What it can be short of, and by how much that is used."""

    @abstractmethod
    def findings(self, result: LinkResult[D]) -> Iterable[Finding]:
        """Every check, passed ones included."""

    @abstractmethod
    def figures(self, result: LinkResult[D]) -> Iterable[Figure]:
        """The numbers of the card, in reading order."""

    def efficiency_at(self, load: Loading) -> float:
        """Power out over power in [-]."""
        flow = load.flow
        return flow.power_out_kw / flow.power_in_kw if flow.power_in_kw > 0 else 0.0

    def pulls_n(self, result: LinkResult[D]) -> tuple[float, float]:
        """Overhung load on driver and driven shaft as catalogs rate it [N]: a plain number with its factor."""
        return 0.0, 0.0

    def shafts(self, load: Loading) -> ShaftLimits:
        """What it asks of, or allows on, its shafts."""
        return NO_SHAFT_LIMITS

    def forces(self, result: LinkResult[D]) -> tuple[ShaftForce, ShaftForce]:
        """Running force on driver and driven shaft, for a driver that turns counterclockwise as it is drawn."""
        return NO_FORCE, NO_FORCE

    def start_efficiency(self, result: LinkResult[D]) -> float | None:
        """What is left of its efficiency before oil films form, where that differs."""
        return None

    def may_hold(self, result: LinkResult[D]) -> bool:
        """Whether a load at rest may fail to turn it back: a worm."""
        return False


@dataclass(frozen=True)
class LinkResult(Generic[D]):
    """Everything known about one link at one position and one load, worked out when it is first asked for.

    ``load_known`` is false while the torque is not: whatever depends on it is then left out.
    """

    transmission: Transmission[D]
    load: Loading
    load_known: bool = True

    @property
    def kind(self) -> str:
        """Kind of its family."""
        return self.transmission.kind

    @property
    def step(self) -> int:
        """Its position, from 1."""
        return self.transmission.step

    @property
    def ratio(self) -> float:
        """Driver speed over driven speed without creep."""
        return self.transmission.ratio

    @property
    def turn(self) -> Turn:
        """Sense of the driven shaft against the driver."""
        return self.transmission.turn

    @property
    def center_distance_mm(self) -> float | None:
        """Distance between its shafts [mm]."""
        return self.transmission.center_distance_mm

    @property
    def play_arcmin(self) -> float | None:
        """Backlash at its driven shaft [arcmin]; None while unknown."""
        return self.transmission.play_arcmin

    @property
    def flow(self) -> Flow:
        """Speed and torque on both sides."""
        return self.load.flow

    @property
    def service_factor(self) -> ServiceFactor:
        """The service factor in force."""
        return self.load.service_factor

    @property
    def design(self) -> DesignTorque:
        """What it is sized for."""
        return self.load.design

    @property
    def sizing_factor(self) -> float:
        """Design over running torque by the first margin rule."""
        return self.load.sizing_factor

    @cached_property
    def details(self) -> D:
        """Intermediate figures of its family."""
        return self.transmission.details(self.load)

    @cached_property
    def efficiency(self) -> float:
        """Power out over power in [-]."""
        return self.transmission.efficiency_at(self.load)

    @cached_property
    def limits(self) -> tuple[Limit, ...]:
        """What it can be short of; nothing while the torque is unknown."""
        return tuple(self.transmission.limits(self)) if self.load_known else ()

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """Every check, passed ones included; only those that need no load while the torque is unknown."""
        found = tuple(self.transmission.findings(self))
        return found if self.load_known else tuple(one for one in found if not one.rule.needs_load)

    @cached_property
    def figures(self) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order; without a value where that needs a load that is unknown."""
        found = tuple(self.transmission.figures(self))
        if self.load_known:
            return found
        return tuple(Figure(f.key, f.label, None, f.unit, True) if f.needs_load else f for f in found)

    @property
    def driver_pull_n(self) -> float:
        """Overhung load on the driver shaft, as catalogs rate it [N]."""
        return self._pulls_n[0]

    @property
    def driven_pull_n(self) -> float:
        """Overhung load on the driven shaft, as catalogs rate it [N]."""
        return self._pulls_n[1]

    @cached_property
    def _pulls_n(self) -> tuple[float, float]:
        return self.transmission.pulls_n(self)

    @cached_property
    def shafts(self) -> ShaftLimits:
        """What it asks of, or allows on, its shafts."""
        return self.transmission.shafts(self.load)

    @cached_property
    def forces(self) -> tuple[ShaftForce, ShaftForce]:
        """Running force on driver and driven shaft."""
        return self.transmission.forces(self)

    @property
    def start_efficiency(self) -> float | None:
        """Efficiency before oil films form, where that differs."""
        return self.transmission.start_efficiency(self)

    @property
    def may_hold(self) -> bool:
        """Whether a load at rest may fail to turn it back."""
        return self.transmission.may_hold(self)

    @property
    def tightest(self) -> Limit | None:
        """The load limit with the greatest use, or a speed limit once it is passed; unknown ones do not count."""
        known = [limit for limit in self.limits if limit.use is not None and (limit.is_load or limit.use > 1)]
        return max(known, key=lambda limit: limit.use or 0.0, default=None)

    @property
    def loss_kw(self) -> float:
        """Power lost in the link [kW]."""
        return self.flow.power_in_kw - self.flow.power_out_kw


#: A solved link of whatever family.
AnyResult = LinkResult[Any]
#: A link of whatever family at one position.
AnyTransmission = Transmission[Any]


def rated_torque_nm(result: AnyResult, capacity_kw: float) -> float:
    """Running torque [N·m at the driver] that uses up a power rating, service factor in: 9549 P / (K_s n)."""
    return torque_nm(capacity_kw, result.flow.driver_speed_rpm) / result.sizing_factor
