"""What a source must provide. A new kind of source is one module under ``core/sources`` and one registry line.

1. ``model``: the frozen input record with ``kind``; every figure of a nameplate may be missing.
2. ``drive(source)``: what the line is solved with, or None while power or speed can't be told.
3. ``judge(source, drive, demand)``: its own findings under a load.
4. ``facts(source, drive, demand)``: what a builder wants to know beside them, grouped.
5. ``larger(source)`` and ``smaller(source)``: neighbors of stock size, nearest first.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any, Literal

from pulltide.core.duty import Duty, PrimeMover
from pulltide.core.findings import EXACT, Finding, Rule, Source
from pulltide.core.model import CoreModel, Mm
from pulltide.core.sources.curves import Curve
from pulltide.core.tables import interpolated
from pulltide.core.units import torque_nm

PACKAGE = "pulltide.core.sources"
PLATE = Source("motor nameplate", "", "entered")

#: How sure a figure is: read off the plate, follows exactly, follows from a table, or little more than a guess.
Sure = Literal["read", "follows", "likely", "guess"]


#: Power left in warm air, by temperature [°C]. Common practice, no source.
WARM = ((40.0, 1.0), (45.0, 0.96), (50.0, 0.92), (55.0, 0.87), (60.0, 0.82))


def warm_share(ambient_c: float) -> float:
    """Share of its power that a motor gives in warm air: 1 up to 40 °C, 0.82 at 60 °C. Common practice."""
    return interpolated(WARM, ambient_c)


@dataclass(frozen=True, slots=True)
class Reading:
    """One figure of a plate: read off it, or inferred, with how and how sure."""

    code: str
    value: float | str
    unit: str
    how: str
    sure: Sure
    source: Source = EXACT


@dataclass(frozen=True, slots=True)
class Fact:
    """One line of a report on a source, by its code; ``group`` gathers lines. Text stands where no number does."""

    code: str
    group: str
    name: str
    value: float | str | None
    unit: str = ""
    note: str = ""
    source: Source = EXACT


@dataclass(frozen=True, slots=True, kw_only=True)
class Drive:
    """What a source gives a line: the speed and torque it is solved with, and what the source can do beyond.

    ``power_kw`` is continuous shaft power at ``speed_rpm``, the speed of its plate. Where it runs under a load is told
    by ``speed_under``. Unknown strengths are None. ``curve`` holds for the start, ``running`` beyond it where a start
    sags the supply. ``heats_by`` says what its continuous rating limits. ``standstill`` is what a second of rest counts
    for its cooling: 2 means half. ``cooled_share`` is what too slow a fan leaves of its torque.
    """

    title: str
    power_kw: float
    speed_rpm: float
    prime_mover: PrimeMover = "motor"
    max_torque_nm: float | None = None
    start_torque_nm: float | None = None
    overload: float = 1.0
    shaft_diameter_mm: float | None = None
    rotor_inertia_kgm2: float | None = None
    curve: Curve | None = None
    slip: float | None = None
    max_torque_inferred: bool = False
    speed_note: str = "Motor at full load, from its plate"
    readings: tuple[Reading, ...] = ()
    details: Any = field(default=None, compare=False)
    running: Curve | None = None
    heats_by: Literal["power", "torque"] = "power"
    standstill: float = 1.0
    cooled_share: float = 1.0
    stalls: str = "motor stalls"
    is_pull_out: bool = False
    own_load_check: bool = False

    def speed_under(self, torque_nm: float) -> float | None:
        """Speed [rpm] at which its curve meets a torque [N·m]; the plate's without a curve; None if it stalls."""
        curve = self.running or self.curve
        return self.speed_rpm if curve is None else curve.speed_rpm(torque_nm)

    def continuous_kw(self, speed_rpm: float, ambient_c: float) -> float:
        """Power [kW] it gives all day at a speed, in air of a temperature."""
        power = self.power_in_air_kw(ambient_c)
        return power if self.heats_by == "power" else power * speed_rpm / self.speed_rpm

    @property
    def torque_nm(self) -> float:
        """Continuous torque at the speed of the line [N·m]: T = 60000 P / (2 pi n)."""
        return torque_nm(self.power_kw, self.speed_rpm)

    @property
    def starts_with_high_torque(self) -> bool:
        """Whether belt tables count this as a high-torque source. Source: RMA IP-20."""
        return self.prime_mover in ("high_torque_motor", "engine", "single_cylinder")

    def power_in_air_kw(self, ambient_c: float) -> float:
        """Continuous power in air of a temperature [kW]: less from 40 °C on for a motor."""
        return self.power_kw * (warm_share(ambient_c) if self.is_electric else 1.0)

    @property
    def is_electric(self) -> bool:
        """Whether it is a motor on a supply."""
        return self.prime_mover in ("motor", "high_torque_motor")


@dataclass(frozen=True, slots=True, kw_only=True)
class Demand:
    """What a line asks of its source, all at the source's shaft. None while unknown.

    ``inertia_kgm2`` is that of the machine, ``wheels_kgm2`` that of every wheel of the stages, as solid discs.
    """

    running_nm: float | None
    peak_nm: float | None
    breakaway_nm: float | None
    inertia_kgm2: float | None
    load_exponent: float
    efficiency: float
    duty: Duty
    wheels_kgm2: float = 0.0
    high_nm: float | None = None
    fluctuation: float | None = None
    running_rpm: float | None = None

    @property
    def load_inertia_kgm2(self) -> float | None:
        """All that the motor has to bring up to speed besides its rotor; None while the machine's is unknown."""
        return None if self.inertia_kgm2 is None else self.inertia_kgm2 + self.wheels_kgm2

    @property
    def breakaway_at_motor_nm(self) -> float | None:
        """Torque to move the load from rest: as needed, or the running torque while that is unknown."""
        return self.breakaway_nm if self.breakaway_nm is not None else self.running_nm

    def torque_at(self, share: float) -> float | None:
        """Torque of the load [N·m] at a share of running speed: breakaway at rest falls to the running law.

        From a tenth of the speed on, T = T_run x^k; a load that grows with speed keeps a tenth of it as friction.
        """
        if self.running_nm is None:
            return None
        law = self.running_nm * (share**self.load_exponent if self.load_exponent > 0 else 1.0)
        law = max(law, 0.1 * self.running_nm)
        start = self.breakaway_at_motor_nm or 0.0
        if share >= 0.1 or start <= law:
            return float(law)
        return float(start + (law - start) * share / 0.1)


class SourceModel(CoreModel):
    """Base of every source."""

    shaft_diameter_mm: Mm | None = None


Neighbor = tuple[str, SourceModel]


def only_one(source: Any) -> tuple[tuple[str, SourceModel], ...]:
    """A source with one speed."""
    return (("", source),)


def position_of(positions: tuple[tuple[str, SourceModel], ...], source: SourceModel) -> int:
    """Which of its positions a source is in, from 1."""
    return next((index for index, (_, item) in enumerate(positions, 1) if item == source), 1)


def none_of(source: Any) -> Iterator[Neighbor]:
    """A source without neighbors in stock."""
    return iter(())


@dataclass(frozen=True, slots=True)
class SourceKind:
    """All that a kind of source provides. ``sections`` groups the fields of its form.

    ``positions`` are the speeds it can be set to, as sources with their words: both of a two-speed motor, the ends of a
    speed control. ``control`` says whether it can be set anywhere between the first and the last of them.
    ``lever_m`` is the radius at which a hand turns it. ``stronger`` and ``limited`` are changes that start harder, or
    press less.
    """

    kind: str
    title: str
    model: type[SourceModel]
    drive: Callable[[Any], Drive | None]
    judge: Callable[[Any, Drive, Demand], Iterator[Finding]]
    facts: Callable[[Any, Drive, Demand | None], Iterator[Fact]]
    sections: tuple[tuple[str, tuple[str, ...]], ...]
    rules: tuple[Rule, ...]
    wants: str
    starter: dict[str, Any]
    cautions: tuple[str, ...] = ()
    readings: Callable[[Any], tuple[Reading, ...]] = lambda source: ()
    hides: Callable[[Any], frozenset[str]] = lambda source: frozenset()
    larger: Callable[[Any], Iterator[Neighbor]] = none_of
    smaller: Callable[[Any], Iterator[Neighbor]] = none_of
    stronger: Callable[[Any], Iterator[Neighbor]] = none_of
    limited: Callable[[Any], Iterator[Neighbor]] = none_of
    positions: Callable[[Any], tuple[tuple[str, SourceModel], ...]] = only_one
    control: Callable[[Any], bool] = lambda source: False
    lever_m: Callable[[Any], float | None] = lambda source: None
