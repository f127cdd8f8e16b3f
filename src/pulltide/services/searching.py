"""Searches for a machine's drive, with what many searches share made once: the rows of the lists, and their bounds."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from threading import Lock, Thread
from typing import Any, Protocol, TypeVar, get_args

from pulltide.core.catalog import Catalog
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.findings import Severity
from pulltide.core.links import family_of
from pulltide.core.machine import MAX_LINKS, Machine, Plan
from pulltide.core.search import rows as stages
from pulltide.core.search.freed import freed
from pulltide.core.search.pace import Pace, at_once
from pulltide.core.search.rows import Rows
from pulltide.core.search.ways import (
    KINDS,
    TOP,
    Builder,
    Way,
    Ways,
    find_top,
    find_ways,
    groups_for,
    holding,
    reach_of,
    stocks_for,
    with_part,
)
from pulltide.core.search.why_not import why_not
from pulltide.core.search.wish import (
    MAX_STAGES,
    RANKINGS,
    Shown,
    Wish,
    left_out,
    motor_groups,
    motors_of,
    peak_over_running,
    relaxed,
    sizing_for,
    sources_for,
    supply_of,
    what_is_asked,
)
from pulltide.core.shipped import shipped_catalog
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.search_jobs import Searching, SearchJobs
from pulltide.words import filled, say

#: What of each kind is kept in memory: rows of lists, bounds under a duty, answers.
KEPT = {"rows": 2, "groups": 1, "reach": 1, "ways": 40}
T = TypeVar("T")


class RowStore(Protocol):
    """Keeps the rows of lists from one start of the program to the next."""

    def prepare(self) -> None:
        """Have those of the shipped lists made, without holding up anything else."""

    def rows(self, catalog: Catalog) -> tuple[Rows, ...]:
        """The rows of a catalog, made where they are not kept."""


@dataclass(frozen=True, slots=True)
class Relaxed:
    """One thing let go, by its name, the wish with it, and the best way that it allows."""

    name: str
    wish: Wish
    way: Way


@dataclass(frozen=True, slots=True)
class Looked:
    """What a search found, and where that is nothing, what would have to give."""

    ways: Ways
    nearest: tuple[Relaxed, ...]


@dataclass(frozen=True, slots=True)
class _Sought:
    """What is searched for behind a plan's motor, at a pace: the best ``most``, or as many as a list holds."""

    machine: Machine
    plan: Plan
    wish: Wish
    lists: Catalog
    pace: Pace = at_once
    most: int | None = None


class Searcher:
    """Finds ways; safe to share between threads, of which one searches at a time."""

    def __init__(self, store: RowStore, busy: Callable[[], bool] = lambda: False) -> None:
        self._store = store
        self._kept: dict[str, OrderedDict[Any, Any]] = {name: OrderedDict() for name in KEPT}
        self._lock = Lock()
        self._starting = Lock()
        self._preparing: Thread | None = None
        self._jobs: SearchJobs[Looked] = SearchJobs(busy)

    @property
    def ready(self) -> bool:
        """Whether the rows of the shipped lists are at hand: else a first search makes them, which takes long."""
        return bool(self._kept["rows"])

    def prepared(self, within_s: float) -> bool:
        """Have the rows of the shipped lists made ready in the background; whether they are within some seconds."""
        with self._starting:
            if self._preparing is None or not (self.ready or self._preparing.is_alive()):
                self._preparing = Thread(target=self._prepare, daemon=True)
                self._preparing.start()
        self._preparing.join(within_s)
        return self.ready

    def _prepare(self) -> None:
        self._store.prepare()
        with self._lock:
            self.rows(shipped_catalog())

    def looked_for(
        self, machine: Machine, plan: Plan, wish: Wish, catalog: Catalog, *, within_s: float
    ) -> Looked | Searching:
        """The best ways, and without any what would have to give, if that is found within some seconds.

        Else how far the search is: it goes on for those who ask again. Raises InputError where need or motor do not
        say enough.
        """
        key = (_mark(catalog), self._document(machine), plan.model_dump_json(exclude={"name", "note"}), wish)

        def look(pace: Pace) -> Looked:
            return self._look(_Sought(machine, plan, wish, catalog, pace))

        return self._jobs.looked_for(key, look, within_s)

    def _look(self, sought: _Sought) -> Looked:
        ways = self._ways(sought)
        return Looked(ways, () if ways.ways else self._nearest(sought))

    @staticmethod
    def _document(machine: Machine) -> str:
        return machine.model_dump_json(exclude={"plans", "name", "note", "log"})

    def nearest(self, machine: Machine, plan: Plan, wish: Wish, catalog: Catalog | None = None) -> tuple[Relaxed, ...]:
        """What lets something be found where a wish finds nothing: each one thing alone, searched, what helps kept."""
        return self._nearest(_Sought(machine, plan, wish, catalog or shipped_catalog()))

    def _nearest(self, sought: _Sought) -> tuple[Relaxed, ...]:
        found = []
        for name, other in relaxed(sought.wish, supply_of(sought.plan.source, sought.lists)):
            ways = self._ways(replace(sought, wish=other, most=1)).ways
            if ways:
                found.append(Relaxed(name, other, ways[0]))
        return tuple(found)

    def ways(self, machine: Machine, plan: Plan, wish: Wish, catalog: Catalog | None = None) -> Ways:
        """The best drives for a machine behind a plan's motor, as a wish allows them.

        Raises InputError where need or motor do not say enough.
        """
        return self._ways(_Sought(machine, plan, wish, catalog or shipped_catalog()))

    def _ways(self, sought: _Sought) -> Ways:
        plan, wish = sought.plan, sought.wish
        what_is_asked(sought.machine, wish)
        document = self._document(sought.machine)
        with self._lock:
            key = (_mark(sought.lists), document, _told_of(plan, wish), wish, sought.most)
            return self._known("ways", key, lambda: self._search(sought))

    def _search(self, sought: _Sought) -> Ways:
        machine, plan, wish, lists = sought.machine, sought.plan, sought.wish, sought.lists
        asked, sources = what_is_asked(machine, wish), sources_for(plan, wish, lists)
        rows = self.rows(lists)
        sizing, peak = sizing_for(machine, sources), peak_over_running(machine)
        weights = asked.weights
        under = (_mark(lists), machine.duty.model_dump_json(), sizing.prime_mover, round(peak, 6), weights, wish.use)
        held = holding(rows, wish.use) if wish.use else {}
        if wish.use and not held:
            raise InputError(say("Part"), wish.use, say("is in no stage that a search may take"))
        asked = replace(asked, must=asked.must | held.keys())
        groups = self._known(
            "groups", under, lambda: groups_for(with_part(stocks_for(rows, sizing, peak, lists), held), weights)
        )
        motors = motors_of(sources, machine)
        part = freed(machine, plan, wish.free, (asked, motors), lists) if wish.free else None
        if part is not None:
            asked, motors = part.asked, part.motors
        behind = (under, wish.never, motors.key)
        reach = self._known("reach", behind, lambda: reach_of(motors, groups, wish.never, weights))
        builder = Builder(machine, plan, sources, rows, lists, any_speed=wish.widen > 0)
        builder.speeds, builder.max_price = wish.speeds, wish.max_price
        if part is not None:
            builder = builder.around(part)
        if wish.shown == "trains":
            return find_top(reach, asked, builder, sought.most or TOP, sought.pace)
        return find_ways(reach, asked, builder, sought.most or KINDS, sought.pace)

    def rows(self, catalog: Catalog) -> tuple[Rows, ...]:
        """The rows of a catalog."""
        return self._known("rows", _mark(catalog), lambda: self._store.rows(catalog))

    def _known(self, name: str, key: Any, make: Callable[[], T]) -> T:
        kept = self._kept[name]
        if key not in kept:
            # what is to go goes first: two sets of bounds at a time would be the most memory of the program
            while len(kept) >= KEPT[name]:
                kept.popitem(last=False)
            if name == "groups":
                self._kept["reach"].clear()
            kept[key] = make()
        kept.move_to_end(key)
        found: T = kept[key]
        return found


def _told_of(plan: Plan, wish: Wish) -> str:
    """What a search is told of a plan: its source, and its stages too where they stay."""
    return plan.model_dump_json(exclude={"name", "note"} if wish.free else {"name", "note", "links", "shafts"})


def _mark(catalog: Catalog) -> tuple[tuple[str, str, str], ...]:
    """What tells a catalog from the shipped lists alone."""
    added = (item for item in catalog.items if item.origin != "shipped")
    return tuple((item.part, item.id, item.data.model_dump_json()) for item in added)


#: What a wish may say, with its values; families and motors are looked up.
TURNS = ("either", "same", "opposite")
SHOWN: tuple[Shown, ...] = get_args(Shown)
SEARCHED = tuple(family.kind for family in stages.SEARCHED)


#: Further speeds that one search may be told.
MAX_SPEEDS = 5


class _Said:
    """Values of a wish as they were said, and what is wrong with them."""

    def __init__(self, said: Mapping[str, Any]) -> None:
        self.said = said
        self.faults: list[InputError] = []

    def one_of(self, name: str, default: str, accepted: tuple[str, ...]) -> Any:
        """One of some words."""
        value = self.said.get(name) or default
        if value not in accepted:
            self._fault(name, value, say("is not offered"), ", ".join(accepted))
        return value

    def number(self, name: str, least: float, most: float) -> float | None:
        """A number in a range, None where nothing is said."""
        value = self.said.get(name)
        if value in (None, ""):
            return None
        try:
            read = float("nan") if isinstance(value, bool) else float(value)
        except (TypeError, ValueError):
            read = float("nan")
        if not least <= read <= most:
            self._fault(name, value, say("is out of range"), say("{least:g} to {most:g}", least=least, most=most))
            return None
        return read

    def speeds(self, name: str) -> tuple[float, ...]:
        """Some speeds [rpm], as a list or with commas between."""
        value = self.said.get(name) or ()
        parts = value.split(",") if isinstance(value, str) else value if isinstance(value, list | tuple) else [value]
        try:
            read = tuple(float(part) for part in parts if not isinstance(part, bool))
        except (TypeError, ValueError):
            read = (float("nan"),)
        if len(parts) > MAX_SPEEDS or not all(0.01 <= speed <= 100_000 for speed in read):
            self._fault(
                name,
                value,
                say("are no speeds"),
                say("up to {max_speeds} of 0.01 to 100,000 rpm", max_speeds=MAX_SPEEDS),
            )
            return ()
        return read

    def kinds(self, name: str) -> frozenset[str]:
        """Families, as a list or with commas between."""
        value = self.said.get(name) or ()
        named = value.split(",") if isinstance(value, str) else value if isinstance(value, list | tuple) else [value]
        wrong = [kind for kind in named if kind not in SEARCHED]
        if wrong:
            self._fault(name, wrong[0], say("is not searched"), ", ".join(SEARCHED))
        return frozenset(map(str, named))

    def _fault(self, name: str, value: object, reason: str, accepted: str) -> None:
        self.faults.append(InputError(name, str(value)[:40], reason, accepted=accepted))


def wish_from(said: Mapping[str, Any], catalog: Catalog) -> Wish:
    """A wish from plain values, as an address or a JSON body has them. Raises InputErrors naming every fault."""
    read = _Said(said)
    wish = Wish(
        never=read.kinds("never"),
        must=read.kinds("must"),
        max_stages=int(read.number("stages", 1, MAX_STAGES) or Wish().max_stages),
        max_price=read.number("price", 0, 1_000_000),
        turn=read.one_of("turn", "either", TURNS),
        rank_by=read.one_of("rank", "balance", tuple(RANKINGS)),
        motor=read.one_of("motor", "", ("", *motor_groups(catalog))),
        use=str(said.get("use") or "")[:60],
        free=int(read.number("free", 1, MAX_LINKS) or 0),
        speeds=read.speeds("speeds"),
        shown=read.one_of("list", "kinds", SHOWN),
    )
    if wish.free and wish.motor:
        read.faults.append(InputError("free", wish.free, say("leaves the motor as it is: take “motor” out")))
    unknown = sorted(set(said) - NAMES)
    for name in unknown:
        read.faults.append(
            InputError(
                str(name)[:40], "", say("is nothing that a search can be told"), accepted=", ".join(sorted(NAMES))
            )
        )
    if read.faults:
        raise InputErrors(read.faults)
    return wish


#: What a search can be told.
NAMES = frozenset({"never", "must", "stages", "price", "turn", "rank", "motor", "use", "free", "speeds", "list"})


def ways_report(found: Ways, plan: Plan, wish: Wish) -> dict[str, Any]:
    """What a search from a plan found as plain data: the same for the command line and the API."""
    return {
        "ways": [_way(way) for way in found.ways],
        "refused": found.refused,
        "unstepped": found.unstepped,
        "complete": not found.stopped,
        "looked_at": found.looked_at,
        "take_offs_left_out": list(left_out(plan, wish)),
    }


def plans_report(machine: Machine, wish: Wish, catalog: Catalog) -> list[dict[str, Any]]:
    """The first thing that keeps each plan of a machine off the list of a search, as plain data."""
    found = []
    for plan in machine.plans:
        refusal = why_not(machine, plan, wish, catalog)
        finding = None if refusal.finding is None else refusal.finding.code
        found.append(
            {
                "plan": plan.name,
                "fails": refusal.failed,
                "families": list(refusal.families),
                "measured": refusal.measured,
                "allowed": refusal.allowed,
                "finding": finding,
                "limit": refusal.limit,
            }
        )
    return found


def _way(way: Way) -> dict[str, Any]:
    line, tightest = way.result.chosen, way.result.chosen.tightest
    return {
        "name": way.plan.name,
        "stages": [words_of(link) for link in way.plan.links],
        "score": way.score,
        "last_speed_rpm": line.last_shaft.speed_rpm,
        "ratio": line.ratio,
        "efficiency": line.efficiency,
        "price": round(way.price, 1),
        "parts": list(way.parts),
        "tightest": None
        if tightest is None
        else {"stage": tightest[0], "name": tightest[1].name, "use": tightest[1].use},
        "warnings": way.result.count(Severity.WARNING),
        "at_least_more_like_it": len(way.alike),
        "plan": way.plan.model_dump(mode="json"),
    }


def words_of(link: Any) -> str:
    """A stage in a few words."""
    words = family_of(link.kind).words(link, 1)
    return " ".join(filled(text, DEFAULT_UNITS) for text in (words.title, *words.chips))
