"""What a link family must provide. A new family is one folder under ``core/links`` and one registry line.

1. ``model``: the frozen input record, with ``kind``.
2. ``step_count(link)``: how many positions it has (a stepped pulley), at least 1.
3. ``prepare(link, step)``: a :class:`Transmission`, all that does not depend on load.
4. ``variants(link, catalog)``: neighboring links of listed sizes, smallest change first.
5. ``settle(before, raw, catalog)``: raw data of an edited link made consistent (a belt of the right section, say).
6. ``starter(catalog)``: the link a new one begins as.
7. ``workings(result)``: for each figure key, a function that makes its working.
8. ``shipped()``: the items of its lists; ``uses(link)``: the parts that a link names, with the data it carries;
   ``stock(link, catalog)``: values on the lists, by field name, to step through and to suggest.
9. ``words(link, step)``: its title and what distinguishes it; quantities are written ``{value|unit}``.
10. ``methods``: its formulas, for ``pulltide calc`` and the API.
11. ``factors(sizing)``: what its table of service factors says, by name.
12. ``rules``: its checks.
13. ``gives(result)``: what wears, slips or breaks as the load rises, and at which torque.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, Literal, Protocol

from pulltide.core.catalog import Catalog, Item, Use
from pulltide.core.drawing import LinkPicture
from pulltide.core.duty import FATIGUE_EXPONENTS, Duty, PrimeMover, Segment, root_mean_power
from pulltide.core.findings import Check, Finding, Rule, Source
from pulltide.core.model import CoreModel
from pulltide.core.units import torque_nm
from pulltide.core.working import Working

#: +1 same sense as the driver, -1 reversed, None when only the part itself can tell (worm hand).
Turn = Literal[1, -1] | None


@dataclass(frozen=True, slots=True)
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
    """A service factor with the table, or the person, it comes from."""

    value: float
    source: Source
    note: str = ""


def own_factor(duty: Duty) -> ServiceFactor | None:
    """The person's own service factor, which replaces every table, or None where none is set."""
    if duty.service_factor_override is None:
        return None
    return ServiceFactor(duty.service_factor_override, Source("own choice", duty.override_reason, "own choice"))


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


#: What happens: the part ages before its time, lets go and can carry on, or is done for.
Gives = Literal["wears", "slips", "breaks"]


@dataclass(frozen=True, slots=True)
class GivePoint:
    """Torque [N·m at the link's driver shaft] at which something gives as the load rises.

    ``torque_nm`` is None while unknown, and ``missing`` then says what would tell. ``wanted`` marks the fuse: what
    the builder means to give first. ``certain`` is false for what may slip but need not: nothing is protected by it.
    """

    name: str
    gives: Gives
    torque_nm: float | None
    missing: str = ""
    wanted: bool = False
    certain: bool = True


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


@dataclass(frozen=True, slots=True)
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
class LinkResult:
    """Everything known about one link at one position and one load.

    ``start_efficiency`` is what is left of it before oil films form, where that differs. ``may_hold`` marks a worm that
    a load at rest may not turn back. ``play_arcmin`` is the backlash at its driven shaft, None while unknown.
    """

    kind: str
    step: int
    ratio: float
    turn: Turn
    flow: Flow
    efficiency: float
    service_factor: ServiceFactor
    design: DesignTorque
    limits: tuple[Limit, ...]
    findings: tuple[Finding, ...]
    figures: tuple[Figure, ...]
    details: Any
    center_distance_mm: float | None = None
    driver_pull_n: float = 0.0
    driven_pull_n: float = 0.0
    shafts: ShaftLimits = NO_SHAFT_LIMITS
    start_efficiency: float | None = None
    may_hold: bool = False
    play_arcmin: float | None = None

    @property
    def tightest(self) -> Limit | None:
        """The load limit with the greatest use, or a speed limit once it is passed; unknown ones do not count."""
        known = [limit for limit in self.limits if limit.use is not None and (limit.is_load or limit.use > 1)]
        return max(known, key=lambda limit: limit.use or 0.0, default=None)

    @property
    def sizing_factor(self) -> float:
        """Design over running torque by the first margin rule: service factor times what the cycle amounts to."""
        return self.service_factor.value * self.design.repeats

    @property
    def loss_kw(self) -> float:
        """Power lost in the link [kW]."""
        return self.flow.power_in_kw - self.flow.power_out_kw


@dataclass(frozen=True, slots=True)
class Carried:
    """What a transmission does with a driver speed and a delivered power."""

    driven_speed_rpm: float
    power_in_kw: float


class Transmission(Protocol):
    """One link at one position: its geometry is fixed, its load is not."""

    @property
    def ratio(self) -> float:
        """Driver speed over driven speed without creep, > 0."""

    @property
    def turn(self) -> Turn:
        """Sense of the driven shaft against the driver."""

    def carry(self, driver_speed_rpm: float, power_out_kw: float) -> Carried:
        """Driven speed and power taken in, for a driver speed [rpm] > 0 and a delivered power [kW] >= 0."""

    def rate(self, flow: Flow, sizing: Sizing, subject: str) -> LinkResult:
        """Limits, findings and figures under a load."""

    def picture(self) -> LinkPicture:
        """What to draw, to scale."""


@dataclass(frozen=True, slots=True)
class Variant:
    """A neighboring stock choice: ``direction`` groups changes of one kind, nearest first."""

    direction: str
    label: str
    link: CoreModel


@dataclass(frozen=True, slots=True)
class LinkWords:
    """A link in a few words: its title and the chips of its card."""

    title: str
    chips: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Method:
    """One formula of the handbook, callable by name with checked inputs.

    ``results`` names key, name and unit of what it always gives; empty where its example shows them.
    """

    name: str
    title: str
    inputs: type[CoreModel]
    run: Callable[[Any], Working]
    results: tuple[tuple[str, str, str], ...] = ()


def nothing_shipped() -> Iterable[Item]:
    """A family without lists of its own."""
    return ()


def nothing_named(link: Any) -> tuple[Use, ...]:
    """A link that uses no part by its name."""
    return ()


def nothing_kept(link: Any, name: str) -> Use | None:
    """A link that is no one part that could be put on a shelf."""
    return None


def no_seeds(catalog: Catalog, ratio: float) -> Iterable[CoreModel]:
    """A family whose neighbors lead from its plain start to any ratio."""
    return ()


def no_limit(result: LinkResult, catalog: Catalog) -> Iterable[Variant]:
    """A link that cannot be made to let go first."""
    return ()


def no_limiter(torque_nm: float, catalog: Catalog) -> Iterable[Variant]:
    """A family of which nothing can be added to limit the torque."""
    return ()


def all_shown(link: Any) -> frozenset[str]:
    """A link whose every field means something."""
    return frozenset()


def one_step(link: Any) -> int:
    """Steps of a link that has one speed only."""
    return 1


@dataclass(frozen=True, slots=True)
class Family:
    """All that a link family provides. ``housing`` names a part that both its shafts belong to.

    ``step_count`` is needed where a link has speeds to choose from. ``samples`` are links beside the starter whose
    workings use other formulas of the family. ``jam`` is what is said when the machine is held fast and the torque left
    then would break the link, ``jam_safety`` how far it must stay below. ``fuses`` are changes by which a link lets go
    before anything breaks; ``limiter`` are links to add that do so, for a running torque at their shaft. ``explains``
    names the figure that explains a check, by the end of its code, where it is not called the same. ``hides`` are
    fields that mean nothing as the link stands; ``empty`` says what a field left empty means, where it is not unknown.
    ``by_length`` finds, for a field that names a part, the listed one nearest to a length [mm] for a link's raw data.
    ``usual_ratios`` are the ratios that one stage is commonly built for, ``seeds`` links near a ratio to begin from
    where the neighbors of its plain start do not lead there. ``parts`` says what the data of each kind of part on its
    lists look like; ``kept`` is the part that a link puts on the shelf under a name.
    """

    kind: str
    title: str
    model: type[CoreModel]
    prepare: Callable[[Any, int], Transmission]
    variants: Callable[[Any, Catalog], Iterable[Variant]]
    settle: Callable[[Any, dict[str, Any], Catalog], dict[str, Any]]
    starter: Callable[[Catalog], CoreModel]
    workings: Callable[[LinkResult], Mapping[str, Callable[[], Working]]]
    stock: Callable[[Any, Catalog], Mapping[str, tuple[float | str, ...]]]
    words: Callable[[Any, int], LinkWords]
    methods: tuple[Method, ...]
    factors: Callable[[Sizing], tuple[tuple[str, ServiceFactor], ...]]
    gives: Callable[[LinkResult], Iterable[GivePoint]]
    rules: tuple[Rule, ...]
    step_count: Callable[[Any], int] = one_step
    jam: Check | None = None
    jam_safety: float = 1.0
    fuses: Callable[[LinkResult, Catalog], Iterable[Variant]] = no_limit
    limiter: Callable[[float, Catalog], Iterable[Variant]] = no_limiter
    shipped: Callable[[], Iterable[Item]] = nothing_shipped
    uses: Callable[[Any], tuple[Use, ...]] = nothing_named
    parts: Mapping[str, type[CoreModel]] = field(default_factory=dict)
    kept: Callable[[Any, str], Use | None] = nothing_kept
    by_length: Mapping[str, Callable[[Any, float, Catalog], str | None]] = field(default_factory=dict)
    usual_ratios: tuple[float, float] = (0.2, 5.0)
    seeds: Callable[[Catalog, float], Iterable[CoreModel]] = no_seeds
    caution: str = ""
    housing: str = ""
    samples: tuple[CoreModel, ...] = ()
    explains: Mapping[str, str] = field(default_factory=dict)
    hides: Callable[[Any], frozenset[str]] = all_shown
    empty: Mapping[str, str] = field(default_factory=dict)

    def explaining(self, code: str, result: LinkResult) -> str:
        """The figure of a solved link that explains a finding of this family; empty where none does."""
        kind, _, tail = code.partition(".")
        key = self.explains.get(tail, tail)
        known = any(figure.key == key and figure.value is not None for figure in result.figures)
        return key if kind == self.kind and known else ""


def whole(value: object) -> int | None:
    """A whole number as an edit carries it, typed or stored; None for anything else.

    >>> whole("18"), whole(24), whole("24.5"), whole(None)
    (18, 24, None, None)
    """
    if isinstance(value, int) and not isinstance(value, bool):
        return value
    text = value.strip() if isinstance(value, str) else ""
    return int(text) if text.isdecimal() else None


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


def rated_torque_nm(result: LinkResult, capacity_kw: float) -> float:
    """Running torque [N·m at the driver] that uses up a power rating, service factor in: 9549 P / (K_s n)."""
    return torque_nm(capacity_kw, result.flow.driver_speed_rpm) / result.sizing_factor
