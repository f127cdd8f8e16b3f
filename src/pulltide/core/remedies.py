"""The smallest stock changes that clear a finding, each proved on the whole plan before it is offered."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from itertools import islice
from math import inf, prod

from pulltide.core.beginning import begin, other_ratio, wish_for
from pulltide.core.catalog import Catalog
from pulltide.core.family import Variant
from pulltide.core.findings import Finding, Remedy, Severity
from pulltide.core.labels import phrase
from pulltide.core.line import chosen_setting, solve_line, solve_plan, source_positions, step_counts
from pulltide.core.line_result import LineResult, PlanResult, Setting
from pulltide.core.links import FAMILIES, family_of
from pulltide.core.machine import MAX_LINKS, Machine, Plan
from pulltide.core.model import CoreModel
from pulltide.core.plan_checks import MOOT, OF_THE_CHOSEN, SPEEDS, as_built
from pulltide.core.shipped import shipped_catalog
from pulltide.core.sources import drive_of, source_kind

#: How many remedies a finding offers.
OFFERED = 3
#: How many changes in a row may be tried in vain once a remedy is found.
PATIENCE = 8
#: How many plans are solved for one page, whatever it finds.
MAX_TRIALS = 160
#: Work for one page: stages solved, over all settings of all changes that are tried. Not a time, so that the same plan
#: gets the same remedies on any machine.
MAX_WORK = 800
#: What a stage brought to another ratio takes, in stages solved.
SHAPED_WORK = 40
#: The same for an answer of several plans: the first ones get what they take, the rest what is left.
SHARED_TRIALS, SHARED_WORK = 120, 450
#: How much worse a finding may get by a change that clears another: so many per cent of its limit, and of its excess.
NO_WORSE, NO_WORSE_OF_EXCESS = 0.02, 1.02
#: Findings that say that too much torque comes through: less of it is the first cure.
TOO_MUCH = (".stall", ".stall_safety", ".jam", ".jam_shaft", ".peak", "fuse_late")
#: Findings of a source that does not start or pull through its load.
TOO_WEAK_AT_REST = ("motor.breakaway", "motor.pull_up", "motor.weak_start", "motor.run_up")


@dataclass(frozen=True, slots=True)
class Change:
    """One change to a plan, not yet solved. ``inserted`` links stand before those that were there."""

    direction: str
    label: str
    path: str
    value: CoreModel | tuple[CoreModel, ...]
    plan: Plan
    inserted: int = 0

    @property
    def as_data(self) -> object:
        """The value as it is stored."""
        if isinstance(self.value, tuple):
            return [item.model_dump(mode="json") for item in self.value]
        return self.value.model_dump(mode="json")


def _changes(plan: Plan, catalog: Catalog) -> dict[str, list[Change]]:
    """Every stock neighbor of a plan, by the part it changes: ``link-1`` and so on, then ``motor``."""
    groups: dict[str, list[Change]] = {}
    for index, link in enumerate(plan.links):
        groups[f"link-{index + 1}"] = list(_of_link(plan, index, family_of(link.kind).variants(link, catalog)))
    if plan.source is not None:
        groups["motor"] = list(_of_source(plan, "larger motor", source_kind(plan.source.kind).larger(plan.source)))
    return groups


def _of_link(plan: Plan, index: int, variants: Iterable[Variant]) -> Iterator[Change]:
    for variant in variants:
        links = (*plan.links[:index], variant.link, *plan.links[index + 1 :])
        changed = plan.model_copy(update={"links": links})
        yield Change(variant.direction, variant.label, f"links.{index}", variant.link, changed)


def _of_source(plan: Plan, direction: str, others: Iterable[tuple[str, CoreModel]]) -> Iterator[Change]:
    for label, source in islice(others, 5):
        yield Change(direction, label, "source", source, plan.model_copy(update={"source": source}))


def _limits(plan: Plan, result: PlanResult, catalog: Catalog) -> list[Change]:
    """Changes that let less torque through: a belt or pins that let go first, a lower limit, a smaller source."""
    found: list[Change] = []
    for index, (link, solved) in enumerate(zip(plan.links, result.chosen.links, strict=True)):
        found += _of_link(plan, index, family_of(link.kind).fuses(solved, catalog))
    running = result.chosen.shafts[0].running_torque_nm
    if running and len(plan.links) < MAX_LINKS and not plan.shafts:
        for family in FAMILIES:
            for variant in family.limiter(running, catalog):
                links = (variant.link, *plan.links)
                changed = plan.model_copy(update={"links": links})
                found.append(Change(variant.direction, variant.label, "links", links, changed, 1))
    if plan.source is not None:
        kind = source_kind(plan.source.kind)
        found += _of_source(plan, "torque limit", kind.limited(plan.source))
        found += _of_source(plan, "smaller motor", kind.smaller(plan.source))
    return found


#: Findings that the last shaft turns too slow or too fast, and kinds of stage that are offered to bridge the rest.
#: By how much slip and creep may take a speed off what the ratios say.
SLIPS = 1.15
WRONG_SPEED = ("need.speed_low", "need.speed_high")
BRIDGES = ("v_belt", "roller_chain", "gear_pair", "reducer")


def _other_ratios(machine: Machine, plan: Plan, line: LineResult, catalog: Catalog) -> Iterator[Change]:
    """One stage brought to the ratio that gives the ideal speed, each in turn; then one more stage at the end."""
    for index, link in enumerate(plan.links):
        family = family_of(link.kind)
        other = other_ratio(machine, plan, line, index, catalog)
        if other is not None and other != link:
            said = family.words(other, getattr(other, "chosen_step", 1))
            label = f"Make stage {index + 1}: {phrase(said.title)}, {phrase(said.chips[0])}"
            links = (*plan.links[:index], other, *plan.links[index + 1 :])
            changed = plan.model_copy(update={"links": links})
            yield Change(f"stage {index + 1}", label, f"links.{index}", other, changed)
    wish = wish_for(machine, plan, line, len(plan.links))
    if wish is None or len(plan.links) >= MAX_LINKS:
        return
    for kind in BRIDGES:
        family = family_of(kind)
        more = begin(family, catalog, wish)
        said = family.words(more, 1)
        links = (*plan.links, more)
        label = f"Add at the last shaft: {phrase(said.title)}, {phrase(said.chips[0])}"
        yield Change(f"add {kind}", label, "links", links, plan.model_copy(update={"links": links}))


def _nearest_first(subject: str, groups: dict[str, list[Change]]) -> list[str]:
    """The parts to change for a finding, its own first: a shaft is shared by the links on both its sides."""
    kind, _, number = subject.partition("-")
    order = list(groups)
    if kind == "shaft":
        near = [f"link-{int(number)}", f"link-{int(number) - 1}"]
    elif kind == "need":
        near = list(groups)[::-1]
    else:
        near = [subject]
    return [name for name in near if name in groups] + [name for name in order if name not in near]


#: A finding and the place it is about.
Place = tuple[str, str]


def _failed(result: PlanResult, inserted: int = 0) -> dict[Place, Finding]:
    """Everything that is not clear, by what it is and where, in the places before so many links were inserted."""
    failed = [finding for finding in result.findings if finding.severity is not Severity.CLEAR]
    return {(finding.code, _before(place, inserted)): finding for finding in failed for place in finding.places}


def _before(place: str, inserted: int) -> str:
    kind, _, number = place.partition("-")
    return f"{kind}-{int(number) - inserted}" if inserted and number.isdecimal() else place


@dataclass(slots=True)
class Budget:
    """What may still be spent on trying changes: plans solved, and stages solved over all their settings."""

    trials: int = MAX_TRIALS
    work: int = MAX_WORK

    @classmethod
    def of(cls, plans: int) -> Budget:
        """For an answer of so many plans."""
        return cls() if plans < 2 else cls(SHARED_TRIALS, SHARED_WORK)

    def within(self, most: Budget) -> Budget:
        """What of it one plan may take."""
        return Budget(min(self.trials, most.trials), min(self.work, most.work))


class Trial:
    """Solves changed plans once each, and only as many as are asked for."""

    def __init__(self, machine: Machine, plan: Plan, result: PlanResult, catalog: Catalog, budget: Budget) -> None:
        self.budget = budget
        self.machine = machine
        self.plan = plan
        self.result = result
        self.catalog = catalog
        self.before = _failed(result)
        self.groups = _changes(plan, catalog)
        self.limits = _limits(plan, result, catalog)
        self.stronger = self._stronger(plan)
        self.solved: dict[int, PlanResult | None] = {}
        self.alone: dict[int, dict[tuple[Setting, int], LineResult]] = {}
        self.work = 0
        self.stopped = False
        self._ratios: list[Change] = []
        self._more_ratios = _other_ratios(machine, plan, result.chosen, catalog)

    def ratios(self) -> Iterator[Change]:
        """Other ratios for a wrong speed, made as they are tried, and kept: what was solved is known by the change."""
        place = 0
        while True:
            if place == len(self._ratios):
                made = None if self._is_spent() else next(self._more_ratios, None)
                if made is None:
                    return
                self.work += SHAPED_WORK
                self._ratios.append(made)
            yield self._ratios[place]
            place += 1

    def _is_spent(self) -> bool:
        self.stopped = self.stopped or self.work > self.budget.work
        return self.work > self.budget.work

    @staticmethod
    def _stronger(plan: Plan) -> list[Change]:
        if plan.source is None:
            return []
        return list(_of_source(plan, "more torque at rest", source_kind(plan.source.kind).stronger(plan.source)))

    def outcome(self, change: Change) -> PlanResult | None:
        """The whole plan that a change gives: every setting, the need, the end, what gives first."""
        if id(change) not in self.solved:
            if len(self.solved) >= self.budget.trials:
                self.stopped = True
                return None
            known = self.alone.get(id(change))
            self.work += len(change.plan.links) * max(len(self.result.settings) - len(known or ()), 0)
            self.solved[id(change)] = solve_plan(self.machine, change.plan, known, catalog=self.catalog)
        return self.solved[id(change)]

    def remedies(self, finding: Finding) -> tuple[Remedy, ...]:
        """Up to three changes that clear a finding: of each direction the smallest that works.

        Once one is found, the search goes on only while others turn up soon; a page must not wait for the third.
        """
        taken: dict[tuple[str, str], Remedy] = {}
        for name, changes in self._tries(finding):
            vain = 0
            for change in changes:
                if (name, change.direction) in taken:
                    continue
                remedy = self._remedy(change, finding)
                vain = 0 if remedy else vain + 1
                if remedy is not None:
                    taken[(name, change.direction)] = remedy
                if len(taken) == OFFERED or (taken and vain > PATIENCE) or self.stopped:
                    return tuple(taken.values())
            if taken and name != "limit":
                break
        return tuple(taken.values())

    def _tries(self, finding: Finding) -> Iterator[tuple[str, Iterable[Change]]]:
        """Changes in the order they are tried, by group."""
        if finding.code.endswith(TOO_MUCH):
            yield "limit", self.limits
        if finding.code in TOO_WEAK_AT_REST:
            yield "motor", self.stronger
        for group in _nearest_first(finding.subject, self.groups):
            yield group, self.groups[group]
        if finding.code in WRONG_SPEED:
            yield "ratio", self.ratios()

    def _fails_still(self, change: Change, finding: Finding) -> bool:
        """Whether one setting alone shows the finding still, or a new one: the rest need not be solved.

        The settings that show the finding come first. What the worksheet finds of the plan as built gets no better by
        more settings.
        """
        other_length = len(change.plan.links) != len(self.plan.links)
        if other_length or id(change) in self.solved or len(self.result.settings) < 2:
            return False
        lines = self.alone.setdefault(id(change), {})
        for line in self._most_telling_first(finding):
            place = (line.setting, line.position)
            if place not in lines:
                solved = solve_line(self.machine, change.plan, *place) if self._has(change.plan, place) else None
                self.work += len(change.plan.links)
                if solved is None:
                    continue
                lines[place] = solved
            if self._shows(lines[place], finding, line is self.result.chosen):
                return True
        return False

    @staticmethod
    def _has(plan: Plan, place: tuple[Setting, int]) -> bool:
        """Whether a changed plan still has a setting."""
        within = all(1 <= step <= count for step, count in zip(place[0], step_counts(plan), strict=True))
        return within and place[1] <= len(source_positions(plan))

    def _shows(self, line: LineResult, finding: Finding, is_chosen: bool) -> bool:
        """Whether a changed line shows the finding, or something grave that was not there."""
        found = (*line.findings, *as_built(self.machine, line, (line,), ()))
        counted = [f for f in found if is_chosen or f.severity.rank >= Severity.WARNING.rank]
        if not is_chosen:
            counted = [f for f in counted if f.code not in OF_THE_CHOSEN | SPEEDS]
        if any(f.key == finding.key and f.severity is not Severity.CLEAR for f in counted):
            return True
        grave = [f for f in counted if f.severity.rank >= Severity.WARNING.rank and f.code not in SPEEDS]
        return any(f.key not in self.before for f in grave)

    def _most_telling_first(self, finding: Finding) -> list[LineResult]:
        """All settings, those first at which a finding shows: its own, or for one of the whole plan both ends."""
        settings = list(self.result.settings)
        if finding.step is not None:
            first = [settings[finding.step - 1]]
        elif any(found.key == finding.key for found in self.result.chosen.findings):
            first = [self.result.chosen]
        else:
            by_speed = sorted(settings, key=lambda line: line.last_shaft.speed_rpm)
            first = [by_speed[0], by_speed[-1]]
        return first + [line for line in settings if all(line is not other for other in first)]

    def _stays_off(self, change: Change, finding: Finding) -> bool:
        """Whether the ratios alone tell that the last shaft stays far outside its speed band: no need to solve it."""
        need = self.machine.need
        if finding.code not in WRONG_SPEED or finding.step is not None:
            return False
        steps = chosen_setting(change.plan)
        ratio = prod(
            family_of(link.kind).prepare(link, step).ratio for link, step in zip(change.plan.links, steps, strict=True)
        )
        drive = drive_of(change.plan.source)
        speed = (drive.speed_rpm if drive else self.result.chosen.shafts[0].speed_rpm) / ratio
        low, high = need.speed_min_rpm or 0.0, need.speed_max_rpm or inf
        return not low / SLIPS <= speed <= high * SLIPS

    def _remedy(self, change: Change, finding: Finding) -> Remedy | None:
        if self._is_spent():
            return None
        if self._stays_off(change, finding) or self._fails_still(change, finding):
            return None
        result = self.outcome(change)
        if result is None or not self._cures(finding, _failed(result, change.inserted)):
            return None
        return Remedy(change.label, ((change.path, change.as_data),), result.chosen.last_shaft.speed_rpm)

    def _cures(self, finding: Finding, after: dict[Place, Finding]) -> bool:
        """Whether the finding is gone everywhere, and nothing else is new or worse anywhere."""
        places = {place for code, place in after if code == finding.code}
        if places & set(finding.places):
            return False
        return all(self._no_worse(place, found, finding) for place, found in after.items())

    def _no_worse(self, place: Place, found: Finding, cured: Finding) -> bool:
        before = self.before.get(place)
        if before is None:
            return found.severity is Severity.NOTE and found.code not in MOOT
        if found.severity.rank > before.severity.rank:
            return False
        return (
            found.severity.rank < cured.severity.rank or found.excess <= NO_WORSE_OF_EXCESS * before.excess + NO_WORSE
        )


def may_be_cured(finding: Finding) -> bool:
    """Whether a change of a part is worth trying: a problem or a warning, of a kind that some part cures."""
    return finding.severity.rank >= Severity.WARNING.rank and finding.rule.curable


def with_remedies(
    machine: Machine, plan: Plan, result: PlanResult, catalog: Catalog | None = None, shared: Budget | None = None
) -> PlanResult:
    """The same result with remedies on each finding to fix or to weigh; each was tried and clears it.

    The part that the finding is about is changed first; other parts only if nothing there helps. Too much torque is
    first limited, before anything is made stronger. A change is judged on the whole plan: the finding is gone from
    every place, and nothing else is new or worse, but for a note that does not call the part too large. What no stock
    part cures has none; its advice says what does. Where it would be more work than a page is worth, the rest is not
    tried, and the result says so; what it took is taken off ``shared``, the budget of an answer of several plans. Parts
    come out of ``catalog``, the shipped lists by default.
    """
    wanting = [finding for finding in result.findings if may_be_cured(finding)]
    if not wanting:
        return result
    budget = Budget() if shared is None else shared.within(Budget())
    trial = Trial(machine, plan, result, catalog or shipped_catalog(), budget)
    found = {id(finding): trial.remedies(finding) for finding in wanting}
    if shared is not None:
        shared.trials, shared.work = shared.trials - len(trial.solved), max(shared.work - trial.work, 0)
    findings = tuple(
        replace(finding, remedies=found[id(finding)]) if id(finding) in found else finding
        for finding in result.findings
    )
    return replace(result, findings=findings, changes_tried=len(trial.alone | trial.solved), stopped=trial.stopped)
