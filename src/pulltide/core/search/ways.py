"""The best kinds of train, or the best trains, as plans: each is solved as a whole before it is shown."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property, partial
from itertools import groupby
from typing import TypeVar

import numpy as np

from pulltide.core.bill import bill_of
from pulltide.core.catalog import Catalog
from pulltide.core.findings import Finding, Severity
from pulltide.core.line import solve_plan
from pulltide.core.line_result import PlanResult
from pulltide.core.line_rules import SPEED_HIGH, SPEED_LOW
from pulltide.core.links import family_of
from pulltide.core.machine import Machine, Plan
from pulltide.core.made.part import MadePart
from pulltide.core.piece import Piece
from pulltide.core.search.as_solved import solved_score
from pulltide.core.search.bounds import Group, Reach
from pulltide.core.search.engine import WORK, Asked, Train, order
from pulltide.core.search.freed import Freed
from pulltide.core.search.kinds import Kind, find_kinds
from pulltide.core.search.pace import Pace, at_once
from pulltide.core.search.rows import SHARED, Ints, Rows, under_duty
from pulltide.core.search.tables import EQUAL, Motors, Stock, Weights, Word
from pulltide.core.search.top import find_trains
from pulltide.core.search.wish import Source
from pulltide.core.sources import source_kind
from pulltide.core.transmission import LOUDNESS, Sizing

T = TypeVar("T")
#: What says that the last shaft runs out of its band.
OUT_OF_BAND = frozenset({SPEED_LOW.code, SPEED_HIGH.code})
#: Kinds of train on a list, and trains of a kind that are looked at and solved.
KINDS, EACH = 6, 8
#: The same of a kind that is to have change pulleys; where none of either will do, so many times as many.
STEPPED_EACH, DEEPER = 24, 4
#: Trains on a list of the best of all, and how many times as many are looked at while too few of them will do.
TOP, DEPTHS = 20, (2, 4, 8)
#: So many times less work goes into a first search within a price, and into one for the cheapest.
LITTLE = 20
#: How near a setting comes to a further speed, as a share: slip and creep follow the load. Common practice, no source.
REACHED = 0.05


@dataclass(frozen=True, slots=True)
class Way:
    """One train that has no problem as a plan, solved; on a list of kinds the best of its kind, and others like it.

    ``parts`` are to be bought, ``price`` is for all of them, change pulleys for further speeds among them. ``score`` is
    what it counts as solved, in price units.
    """

    train: Train
    plan: Plan
    result: PlanResult
    parts: tuple[str, ...]
    price: float
    score: float = 0.0
    alike: tuple[Train, ...] = ()

    @property
    def use(self) -> float:
        """How far its tightest part is used: as solved, or by the tables, which know motor and shaft loads, if more."""
        tightest = self.result.chosen.tightest
        return max(self.train.use, (tightest[1].use or 0.0) if tightest is not None else 0.0)


@dataclass(frozen=True, slots=True)
class Ways:
    """The best kinds of train, or the best trains; ``refused`` were found and had a problem as plans; ``unstepped`` had
    none, and no listed steps for the further speeds; ``stopped``: the work ran out.

    ``problems`` are what stood in the way of those, each with how many it stood in the way of, the most frequent first.
    """

    ways: tuple[Way, ...]
    refused: int
    stopped: bool
    looked_at: int
    problems: tuple[tuple[Finding, int], ...] = ()
    unstepped: int = 0


def holding(rows: tuple[Rows, ...], part: str) -> dict[str, Ints]:
    """By family the rows that a part is in; nothing where no stage is made of it."""
    found = {}
    for family in rows:
        at = [row for row, one in enumerate(family.candidates) if part in one.made_of]
        if at:
            found[family.family.kind] = np.array(at, dtype=np.int64)
    return found


def with_part(stocks: dict[str, Stock], at: Mapping[str, Ints]) -> dict[str, Stock]:
    """Stocks in which the families of a part have only stages with it, one of them in a train."""
    return {kind: replace(stock.taken(at[kind]), most=1) if kind in at else stock for kind, stock in stocks.items()}


def stocks_for(rows: tuple[Rows, ...], sizing: Sizing, peak: float, catalog: Catalog) -> dict[str, Stock]:
    """The rows of every family under a duty."""
    made = {}
    for family in rows:
        stages = family.family.stages
        if stages is None or not len(family):
            continue
        loaded = under_duty(family, sizing, peak, catalog)
        pulls = {"pull_in": loaded.pull_in, "pull_out": loaded.pull_out}
        made[family.family.kind] = Stock(
            kind=family.family.kind,
            rank=stages.rank,
            most=stages.most,
            id=np.arange(len(family)),
            ln_capacity=loaded.ln_capacity,
            ln_max=np.log(family.max_rpm),
            noise=_loudness(family, catalog),
            **{name: getattr(family, name) for name in SHARED} | pulls,
        )
    return made


def _loudness(rows: Rows, catalog: Catalog) -> int:
    """By how many classes the stages of a family are louder than a quiet one."""
    assert rows.family.stages is not None
    first = rows.family.stages.build(rows.candidates[0].shape, catalog)
    return LOUDNESS.index(rows.family.prepare(first, 1).noise)


def groups_for(stocks: Mapping[str, Stock], weights: Weights) -> dict[str, Group]:
    """The stocks made ready for some weights."""
    return {kind: Group(stock, weights) for kind, stock in stocks.items()}


def reach_of(motors: Motors, groups: Mapping[str, Group], never: frozenset[str], weights: Weights) -> Reach:
    """The bounds for some motors and the families that are allowed."""
    return Reach(motors, {kind: group for kind, group in groups.items() if kind not in never}, weights)


class Builder:
    """Makes plans of trains and solves them; ``any_speed`` where the band was opened beyond what the need says."""

    def __init__(
        self,
        machine: Machine,
        plan: Plan,
        sources: tuple[Source, ...],
        rows: tuple[Rows, ...],
        catalog: Catalog,
        *,
        any_speed: bool = False,
    ) -> None:
        self.machine, self.plan, self.sources, self.catalog = machine, plan, sources, catalog
        self.rows = {family.family.kind: family for family in rows}
        self.freed: Freed | None = None
        bare = solve_plan(machine, plan.model_copy(update={"links": (), "shafts": ()}), catalog=catalog)
        self.known = frozenset() if bare is None else _problems(bare)
        self.banned = frozenset[str]() if any_speed else OUT_OF_BAND
        self.known |= OUT_OF_BAND if any_speed else frozenset()
        self.in_the_way: dict[str, list[Finding]] = {}
        self.speeds: tuple[float, ...] = ()
        self.max_price: float | None = None
        #: Trains that were tried and will not do, and those of them that only lack change pulleys.
        self.refused: set[Train] = set()
        self.unstepped: set[Train] = set()

    def around(self, freed: Freed) -> Builder:
        """The same for one stage between others that stay, whose problems are not laid to it."""
        self.freed = freed
        self.known |= freed.known
        return self

    @property
    def first(self) -> int:
        """The shaft from which what is searched for begins, from 0."""
        return 0 if self.freed is None else len(self.freed.before)

    def plan_of(self, train: Train) -> Plan:
        """The plan that a train makes.

        Notes, accepted findings and wheels made for stages that go belong to the plan it is searched from.
        """
        links = []
        for kind, row in zip(train.word, train.stages, strict=True):
            family = self.rows[kind].family
            assert family.stages is not None
            links.append(family.stages.build(self.rows[kind].candidates[row].shape, self.catalog))
        name = ", ".join(_named(train.word))
        placed: dict[str, object] = {"note": "", "accepted": (), "pinned": ()}
        if self.freed is None:
            placed |= {"name": name[:60], "links": tuple(links), "source": self.sources[train.motor].model}
            placed |= {"shafts": (), "made": self._made(lambda number: None)}
        else:
            stage, more = self.first + 1, len(links) - 1
            placed |= {"name": f"{name} as stage {stage}"[:60]}
            placed |= {"links": (*self.freed.before, *links, *self.freed.after)}
            at = ((part, part.shaft + (more if part.shaft > stage else 0)) for part in self.plan.shafts)
            placed |= {"shafts": tuple(part.model_copy(update={"shaft": number}) for part, number in at)}
            placed |= {"made": self._made(lambda number: _behind(number, stage, more))}
        return self.plan.model_copy(update=placed)

    def _made(self, place: Callable[[int], int | None]) -> tuple[MadePart, ...]:
        """Wheels made in the shop by the new places of their stages, without those that go; the machine's end stays."""
        kept = []
        for part in self.plan.made:
            stage, _, side = part.wheel.partition("-")
            at = place(int(stage)) if stage.isdecimal() else stage
            if at is not None:
                kept.append(part.model_copy(update={"wheel": f"{at}-{side}"}))
        return tuple(kept)

    def parts_of(self, train: Train) -> tuple[str, ...]:
        """Names of what must be bought, motor first."""
        source = self.sources[train.motor].name
        bought = [source] if source else []
        for kind, row in zip(train.word, train.stages, strict=True):
            bought += self.rows[kind].candidates[row].parts
        return tuple(bought)

    def _will_do(self, result: PlanResult, stages: int) -> bool:
        """Whether a plan has no problem of its own, runs in the band asked for, and uses up none of the limits of its
        new stages.
        """
        first = self.first
        found = {finding.rule.code for finding in result.findings if finding.severity is not Severity.CLEAR}
        tightest = [link.tightest for link in result.chosen.links[first : first + stages]]
        fits = all(limit is None or (limit.use or 0.0) <= 1.0 for limit in tightest)
        return fits and _problems(result) <= self.known and not found & self.banned

    def _note(self, result: PlanResult | None) -> None:
        """Keep what stood in the way of a plan."""
        for finding in result.findings if result is not None else ():
            if finding.severity is Severity.ERROR and finding.code not in self.known:
                self.in_the_way.setdefault(finding.code, []).append(finding)

    def way_of(self, train: Train) -> Way | None:
        """A train that brings no problem of its own, by itself; what was refused once stays so."""
        way = None if train in self.refused else self._way(train)
        if way is None:
            self.refused.add(train)
        return way

    def _way(self, train: Train) -> Way | None:
        plan = self.plan_of(train)
        result = solve_plan(self.machine, plan, catalog=self.catalog)
        if result is None or not self._will_do(result, len(train.stages)):
            self._note(result)
            return None
        way = Way(train, plan, result, self.parts_of(train), train.price)
        left = unreached(plan, result, self.speeds)
        if not left:
            return way
        changed = self._changed(way, left)
        if changed is None:
            self.unstepped.add(train)
        return changed

    def _changed(self, way: Way, left: tuple[float, ...]) -> Way | None:
        """The same with change pulleys for further speeds, if there are any within the price."""
        stepped = self._stepped(way.plan, way.result, len(way.train.stages), left)
        if stepped is None:
            return None
        added = tuple(_added(way.plan, stepped[0], self.catalog))
        price = way.price + sum(piece.price or 0.0 for piece in added)
        if self.max_price is not None and price > self.max_price:
            return None
        parts = (*way.parts, *(piece.designation for piece in added))
        return replace(way, plan=stepped[0], result=stepped[1], parts=parts, price=price)

    def _stepped(
        self, plan: Plan, result: PlanResult, stages: int, left: tuple[float, ...]
    ) -> tuple[Plan, PlanResult] | None:
        """The plan with steps for the speeds its source does not give, in the first of its stages that has them, and no
        new problem.
        """
        now = result.chosen.last_shaft.speed_rpm
        for index, link in enumerate(plan.links):
            stepped = family_of(link.kind).stepped
            ratio = result.chosen.links[index].ratio
            made = stepped and stepped(link, [ratio * now / speed for speed in left], self.catalog)
            if not made:
                continue
            changed = plan.model_copy(update={"links": (*plan.links[:index], made, *plan.links[index + 1 :])})
            solved = solve_plan(self.machine, changed, catalog=self.catalog)
            if solved is not None and self._will_do(solved, stages) and not unreached(changed, solved, self.speeds):
                return changed, solved
            self._note(solved)
        return None


def _behind(number: int, stage: int, more: int) -> int | None:
    """Where a stage comes to be when another is put anew, as so many more; nowhere for that one."""
    return None if number == stage else number + (more if number > stage else 0)


def _added(plan: Plan, stepped: Plan, catalog: Catalog) -> Iterator[Piece]:
    """What a plan with change pulleys takes beyond the same without them, and nobody has."""
    known = Counter((piece.subject, piece.what) for piece in bill_of(plan, catalog))
    for piece in bill_of(stepped, catalog):
        known[piece.subject, piece.what] -= 1
        if known[piece.subject, piece.what] < 0 and not piece.owned:
            yield piece


def unreached(plan: Plan, result: PlanResult, speeds: tuple[float, ...]) -> tuple[float, ...]:
    """The speeds that no setting of a plan comes near: no step, no speed of its motor, nothing a control gives."""
    given = [line.last_shaft.speed_rpm for line in result.settings]
    if plan.source is not None and source_kind(plan.source.kind).control(plan.source):
        low, high = min(given), max(given)
        return tuple(speed for speed in speeds if not low * (1 - REACHED) <= speed <= high * (1 + REACHED))
    return tuple(speed for speed in speeds if not any(abs(one / speed - 1) <= REACHED for one in given))


def _named(word: Word) -> Iterator[str]:
    """The stages of an order of families in words, equal ones that follow each other together."""
    for kind, alike in groupby(word):
        times = len(tuple(alike))
        yield family_of(kind).title + (f" × {times}" if times > 1 else "")


def _problems(result: PlanResult) -> frozenset[str]:
    return frozenset(finding.rule.code for finding in result.findings if finding.severity is Severity.ERROR)


def find_ways(reach: Reach, asked: Asked, builder: Builder, most: int = KINDS, pace: Pace = at_once) -> Ways:
    """The best kinds of train for what is asked, each shown to have no problem as a plan.

    A search for fewer kinds may look at fewer rows. Raises what its pace raises.
    """
    hunt = _Hunt(reach, asked, builder, pace)
    hunt.for_kinds(most)
    if not hunt.found and not hunt.stopped:
        hunt.for_trains(min(EACH * most, TOP))
    if not hunt.found and hunt.stopped:
        hunt.for_cheapest()
    return hunt.answer(most, folded=True)


def find_top(reach: Reach, asked: Asked, builder: Builder, most: int = TOP, pace: Pace = at_once) -> Ways:
    """The best trains of all orders of families, whatever their kind, each shown to have no problem as a plan.

    Raises what its pace raises.
    """
    hunt = _Hunt(reach, asked, builder, pace)
    hunt.for_trains(most)
    if not hunt.found and not hunt.stopped:
        hunt.for_kinds(KINDS)
    if not hunt.found and hunt.stopped:
        hunt.for_cheapest()
    return hunt.answer(most, folded=False)


class _Hunt:
    """Looks for trains that will do as plans, and keeps those found."""

    def __init__(self, reach: Reach, asked: Asked, builder: Builder, pace: Pace) -> None:
        self.reach, self.asked, self.builder, self._pace = reach, asked, builder, pace
        self.found: dict[Train, Way] = {}
        self.stopped, self.looked_at = False, 0
        with_steps = {kind for kind in reach.groups if family_of(kind).stepped is not None}
        #: Families of which one must be in the train for its further speeds, unless the source gives them.
        self.steps = sorted(with_steps - asked.must) if builder.speeds and not with_steps & asked.must else []
        self.stepped = bool(builder.speeds and with_steps & asked.must)

    def _kinds(self, most: int, each: int, family: str = "") -> tuple[Kind, ...]:
        """The best kinds, with a family in them."""
        must = replace(self.asked, must=self.asked.must | {family}) if family else self.asked
        return self._within_price(partial(find_kinds, self.reach, must, (most, each)), WORK * most // KINDS)

    def _trains(self, asked: Asked, enough: int) -> tuple[Train, ...]:
        return self._within_price(partial(find_trains, self.reach, asked, enough), WORK)

    def _within_price(self, find: Callable[[int, Pace], tuple[tuple[T, ...], bool, int]], work: int) -> tuple[T, ...]:
        """What is found with so much work. With a limit of price, that no bound knows of, little work comes first, and
        where that finds nothing a look whether anything is as cheap.
        """
        limited = self.asked.max_price is not None
        found, cut, looked_at = find(work // LITTLE if limited else work, self._pace)
        self.looked_at += looked_at
        if limited and cut:
            if not found and self._nothing_is_cheap:
                return ()
            found, cut, looked_at = find(work, self._pace)
            self.looked_at += looked_at
        self.stopped = self.stopped or cut
        return found

    @cached_property
    def _cheapest(self) -> tuple[tuple[Train, ...], bool]:
        """The cheapest trains for what is asked, whatever may be spent, and whether they are known to be."""
        price = Weights(part=0.0, loss=0.0, error=0.0, use=0.0)
        groups = groups_for({kind: group.stock for kind, group in self.reach.groups.items()}, price)
        asked = replace(self.asked, max_price=None, weights=price)
        reach = Reach(self.reach.motors, groups, price)
        found, cut, looked_at = find_trains(reach, asked, TOP, WORK // LITTLE, self._pace)
        self.looked_at += looked_at
        return found, not cut

    def _affordable(self) -> list[Train]:
        """Those of the cheapest that cost no more than may be spent."""
        limit = self.asked.max_price
        return [train for train in self._cheapest[0] if limit is None or train.price <= limit + EQUAL]

    @property
    def _nothing_is_cheap(self) -> bool:
        return self._cheapest[1] and not self._affordable()

    def for_cheapest(self) -> None:
        """The cheapest, where a search was stopped before it met any that will do."""
        for train in self._affordable():
            self._try(Kind(train.word, (train,)))

    def _try(self, kind: Kind) -> bool:
        """Whether any of a kind will do: those are kept. Of trains with change pulleys, which take long, the first."""
        for train in kind.trains:
            self._pace(self.looked_at)
            way = self.found.get(train) or self.builder.way_of(train)
            if way is not None:
                bought, first = (way.price, len(way.parts)), self.builder.first
                score = solved_score(train, way.result, bought, self.asked, self.reach, first)
                self.found[train] = replace(way, score=score)
                if self.builder.speeds:
                    return True
        return not self.found.keys().isdisjoint(kind.trains)

    def for_kinds(self, most: int) -> None:
        """The best of each kind; further down in a kind whose best will not do."""
        kinds = self._kinds(most, STEPPED_EACH if self.stepped else EACH)
        given_up = [kind.word for kind in kinds if not self._try(kind)]
        # kinds without a stage that has steps may have taken up all places, and the best of a kind may all lack them
        for each in (STEPPED_EACH, DEEPER * STEPPED_EACH):
            for family in self.steps:
                if len(self.found) < most and not (self.found and each > STEPPED_EACH):
                    known = {train.word for train in self.found}
                    for kind in self._kinds(most, each, family):
                        if kind.word not in known:
                            self._try(kind)
        for word in given_up if not self.steps else ():
            trains = self._trains(replace(self.asked, only=word), DEEPER * EACH)
            self._try(Kind(word, trains))

    def for_trains(self, most: int) -> None:
        """The best of all, further down until enough of them will do."""
        # for further speeds those with change pulleys may all lie behind others that have none
        for must in (self.asked.must, *(self.asked.must | {family} for family in self.steps)):
            for times in DEPTHS:
                trains = self._trains(replace(self.asked, must=must), times * most)
                for train in trains:
                    self._try(Kind(train.word, (train,)))
                if len(self.found) >= most or len(trains) < times * most or self.stopped:
                    break

    def answer(self, most: int, folded: bool) -> Ways:
        """The best of what will do, those of a kind together or not, with what stood in the way of the others."""
        best = sorted(self.found.values(), key=lambda way: (way.score, order(way.train)))
        builder = self.builder
        problems = sorted(builder.in_the_way.values(), key=len, reverse=True)
        met = tuple((findings[0], len(findings)) for findings in problems)
        refused, unstepped = len(builder.refused - builder.unstepped), len(builder.unstepped)
        shown = tuple(_folded(best) if folded else best)[:most]
        return Ways(shown, refused, self.stopped, self.looked_at, met, unstepped)


def _folded(ways: Iterable[Way]) -> Iterable[Way]:
    """The first of each kind, with the others of it as what is alike."""
    kinds: dict[Word, Way] = {}
    for way in ways:
        first = kinds.get(way.train.word)
        kinds[way.train.word] = way if first is None else replace(first, alike=(*first.alike, way.train))
    return kinds.values()
