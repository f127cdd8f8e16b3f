"""What a machine's need, duty and motor mean for a search, and what a person allows."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from math import exp, inf, log
from typing import Any, Literal

import numpy as np

from pulltide.core.catalog import Catalog
from pulltide.core.errors import InputError
from pulltide.core.line_checks import min_motor_pulley_mm
from pulltide.core.machine import Machine, Plan
from pulltide.core.need import Need
from pulltide.core.search.engine import Asked
from pulltide.core.search.rows import Floats
from pulltide.core.search.tables import Motors, Weights
from pulltide.core.sources import Drive, SourceModel, drive_of
from pulltide.core.sources.stock import SOURCE, prices
from pulltide.core.transmission import Sizing
from pulltide.core.units import power_kw, torque_nm

RankBy = Literal["balance", "price", "year", "parts", "speed", "loss", "margin", "noise"]
#: What a list holds: the best of each kind, or the best of all.
Shown = Literal["kinds", "trains"]
#: What the list is ranked by: price units that a bought part, an e-fold of loss or error, and use beyond plenty count.
RANKINGS: dict[RankBy, Weights] = {
    "balance": Weights(warning=3.0),
    "price": Weights(part=0.5, loss=5.0, error=10.0, use=2.0),
    # its loss counts what it costs in a year: weights_for puts that in
    "year": Weights(part=0.5, loss=0.0, error=10.0, use=2.0),
    "parts": Weights(price=0.1, part=40.0, loss=5.0, error=10.0, use=5.0),
    "speed": Weights(price=0.2, part=0.5, loss=5.0, error=2000.0, use=5.0),
    "loss": Weights(price=0.2, part=0.5, loss=600.0, error=20.0, use=5.0),
    "margin": Weights(price=0.3, part=0.5, loss=5.0, error=20.0, use=150.0),
    "noise": Weights(price=0.3, part=0.5, loss=5.0, error=20.0, use=10.0, noise=150.0),
}
#: Days a year that a shop works. Common practice, no source.
DAYS_A_YEAR = 250
#: A band is opened so far around an ideal speed that has none [-]. Common practice, no source.
OPEN = 0.1
#: Stages of a train at most.
MAX_STAGES = 4
#: What is left of power behind a train that nobody knows yet [-]. Common practice, no source.
LEFT = 0.9
#: Needs whose power lies within this of each other find a source at one speed: bounds are made once for them, ln.
ALIKE = log(1.1)
#: No need counts as less.
MIN_NM = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class Wish:
    """What is allowed: families never used or to be used, most stages and price, sense, what to rank by.

    ``motor`` is empty for the plan's own, which is at hand and costs nothing; else a group of listed ones, by supply.
    ``widen`` opens the speed band at both ends by a share. ``use`` names a part that must be in the train, which then
    has one stage of that part's family. ``speeds`` are further speeds of the last shaft [rpm] that a stepped stage must
    give. ``shown`` are the best of each kind of train, or the best trains whatever their kind. ``free`` is the stage,
    from 1, that is searched anew while the others stay; 0 for the whole drive.
    """

    never: frozenset[str] = frozenset()
    must: frozenset[str] = frozenset()
    max_stages: int = 2
    max_price: float | None = None
    turn: Literal["either", "same", "opposite"] = "either"
    rank_by: RankBy = "balance"
    motor: str = ""
    widen: float = 0.0
    use: str = ""
    free: int = 0
    speeds: tuple[float, ...] = ()
    shown: Shown = "kinds"


def left_out(plan: Plan, wish: Wish) -> tuple[int, ...]:
    """Shafts of a plan whose take-off a search does not count: a drive that is not built yet does not have them."""
    return () if wish.free else tuple(part.shaft for part in plan.shafts if part.take_off_nm is not None)


def relaxed(wish: Wish, supply: str) -> Iterator[tuple[str, Wish]]:
    """The wish with one thing let go at a time, by its name; ``supply`` is the group that the plan's motor is of."""
    if wish.max_stages < MAX_STAGES:
        yield "stages", replace(wish, max_stages=wish.max_stages + 1)
    if wish.max_price is not None:
        yield "price", replace(wish, max_price=None)
    if wish.never or wish.must:
        yield "families", replace(wish, never=frozenset(), must=frozenset())
    if wish.use:
        yield "use", replace(wish, use="")
    if wish.speeds:
        yield "speeds", replace(wish, speeds=())
    if wish.turn != "either":
        yield "turn", replace(wish, turn="either")
    if not wish.motor and supply and not wish.free:
        yield "motor", replace(wish, motor=supply)
    if not wish.widen:
        yield "speed", replace(wish, widen=WIDER)


#: By how much a speed band is opened at both ends to see what would nearly do. Common practice, no source.
WIDER = 0.25


def weights_for(machine: Machine, wish: Wish) -> Weights:
    """What the list is ranked by. Over a year a share of loss costs what it takes of the running power: kW · h · price.

    Raises InputError where hours or the price of energy are not known.
    """
    plain = RANKINGS[wish.rank_by]
    if wish.rank_by != "year":
        return plain
    duty, need = machine.duty, machine.need
    if duty.energy_price is None or duty.hours_per_day is None:
        missing = "Price of a kWh" if duty.energy_price is None else "Hours a day"
        raise InputError(missing, "", "is needed to rank by what a year costs", accepted="a figure under Duty")
    power = power_kw(need.running_torque_nm or 0.0, need.aimed_rpm or 0.0)
    return replace(plain, loss=power * duty.hours_per_day * DAYS_A_YEAR * duty.energy_price)


def what_is_asked(machine: Machine, wish: Wish) -> Asked:
    """Speed band and torque at the last shaft. Raises InputError where the need does not say them yet."""
    need = machine.need
    known = [speed for speed in (need.speed_min_rpm, need.speed_ideal_rpm, need.speed_max_rpm) if speed]
    if not known:
        raise InputError("Speed", "", "is needed before drives can be searched for", accepted="a speed under Need")
    if not need.running_torque_nm:
        raise InputError("Torque", "", "is needed before drives can be searched for", accepted="a torque under Need")
    ideal = need.speed_ideal_rpm or sum(known) / len(known)
    low = need.speed_min_rpm or ideal / (1 + OPEN)
    high = need.speed_max_rpm or ideal * (1 + OPEN)
    sense = wish.turn if wish.turn != "either" else need.turn
    return Asked(
        low_rpm=low / (1 + wish.widen),
        ideal_rpm=min(max(ideal, low), high),
        high_rpm=max(high, low) * (1 + wish.widen),
        torque_nm=need.running_torque_nm,
        turn={"same": 1, "opposite": -1}.get(sense, 0),
        max_stages=wish.max_stages,
        max_price=wish.max_price,
        must=wish.must,
        weights=weights_for(machine, wish),
    )


@dataclass(frozen=True, slots=True)
class Source:
    """A source that a search may take: its name on the lists, empty for the plan's own, and what it costs."""

    name: str
    model: SourceModel
    drive: Drive
    price: float


def sources_for(plan: Plan, wish: Wish, catalog: Catalog) -> tuple[Source, ...]:
    """The plan's own motor at no cost, or the listed ones of a group. Raises InputError where there is none."""
    found: list[Source] = []
    listed: Any
    if not wish.motor:
        drive = drive_of(plan.source)
        if plan.source is not None and drive is not None:
            found.append(Source("", plan.source, drive, 0.0))
    else:
        listed = ((item, drive_of(item.data)) for item in catalog.of(SOURCE) if item.group == wish.motor)
        for item, drive in listed:
            price = 0.0 if item.origin == "shelf" else prices().get(item.id)
            if drive is not None and price is not None:
                found.append(Source(item.id, item.data, drive, price))
    if not found:
        raise InputError(
            "Motor", wish.motor, "is needed before drives can be searched for", accepted="a motor under Source"
        )
    return tuple(found)


def motor_groups(catalog: Catalog) -> tuple[str, ...]:
    """Groups of listed sources, by supply."""
    return tuple(dict.fromkeys(item.group for item in catalog.of(SOURCE) if item.group))


def supply_of(source: SourceModel | None, catalog: Catalog) -> str:
    """The group of listed motors that run on the supply of a source; empty where it says none, or none is listed."""
    asked = _supply(source)
    if None in asked:
        return ""
    return next((item.group for item in catalog.of(SOURCE) if _supply(item.data) == asked), "")


def _supply(source: object) -> tuple[float | None, float | None, bool]:
    """Volts, hertz, and whether it has three phases."""
    three = getattr(source, "start", "") == "three_phase"
    return getattr(source, "volts", None), getattr(source, "frequency_hz", None), three


def motors_of(sources: tuple[Source, ...], machine: Machine) -> Motors:
    """The sources as a search sees them: the speed at which they run under about the load of the need, and the running
    torque at which they stand it all day, and its peak and its start as well.
    """
    drives = [source.drive for source in sources]

    def column(of: Callable[[Drive], float | None]) -> Floats:
        return np.array([of(drive) or 0.0 for drive in drives])

    def all_day(drive: Drive) -> float:
        power_kw = drive.continuous_kw(drive.speed_rpm, machine.duty.ambient_c)
        return max(
            min(torque_nm(power_kw, drive.speed_rpm), _for_peak(machine, drive), _for_start(machine, drive)), MIN_NM
        )

    return Motors(
        id=np.arange(len(sources)),
        ln_speed=np.log(column(lambda drive: speed_under(machine.need, drive))),
        ln_torque=np.log(column(all_day)),
        price=np.array([source.price for source in sources]),
        parts=np.array([bool(source.name) for source in sources], dtype=np.int64),
        shaft_mm=column(lambda drive: drive.shaft_diameter_mm),
        min_mm=column(min_motor_pulley_mm),
    )


def speed_under(need: Need, drive: Drive) -> float:
    """At which speed a source runs under about the power of a need [rpm]: an induction motor far from full load by its
    slip faster than its plate says. That of the plate where the power is not known, or too much.
    """
    power = power_kw(need.running_torque_nm or 0.0, need.aimed_rpm or 0.0) / LEFT
    if not power:
        return drive.speed_rpm
    power = exp(ALIKE * round(log(power) / ALIKE))
    near = drive.speed_under(torque_nm(power, drive.speed_rpm))
    return (near and drive.speed_under(torque_nm(power, near))) or drive.speed_rpm


def _for_peak(machine: Machine, drive: Drive) -> float:
    """Running torque at which the peak takes all that a source has [N·m]; no limit where that is not known.

    With a flywheel the motor gives only what its slip lets, as ``line.peak_over_running`` has it.
    """
    most, asked = drive.max_torque_nm, machine.need.requirement()
    if most is None:
        return inf
    plain = most / peak_over_running(machine)
    if asked is None or asked.fluctuation is None or not drive.slip:
        return plain
    return max(plain, most - drive.torque_nm * asked.fluctuation / (2 * drive.slip))


def _for_start(machine: Machine, drive: Drive) -> float:
    """Running torque at which breaking away takes all that a source has at rest [N·m]."""
    over = start_over_running(machine)
    return inf if drive.start_torque_nm is None or over is None else drive.start_torque_nm / over


def start_over_running(machine: Machine) -> float | None:
    """Breakaway over running torque at the last shaft; None where it is not known."""
    need = machine.need
    if not need.breakaway_torque_nm or not need.running_torque_nm:
        return None
    return need.breakaway_torque_nm / need.running_torque_nm


def sizing_for(machine: Machine, sources: tuple[Source, ...]) -> Sizing:
    """By which rule stages are sized: as the machine's duty has it, behind the roughest of the sources."""
    movers = [source.drive.prime_mover for source in sources]
    rough = next((mover for mover in ("single_cylinder", "engine", "high_torque_motor") if mover in movers), "motor")
    return Sizing(machine.duty, rough, machine.duty.cycle)  # type: ignore[arg-type]


def peak_over_running(machine: Machine) -> float:
    """Peak over running torque at the last shaft; 1 where no peak is known."""
    need = machine.need
    if not need.peak_torque_nm or not need.running_torque_nm:
        return 1.0
    return max(need.peak_torque_nm / need.running_torque_nm, 1.0)
