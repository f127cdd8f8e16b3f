"""Where a plan and the lists at hand differ: a part that no list has, or one that the list now describes otherwise."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from pulltide.core.catalog import Catalog, Item, Use
from pulltide.core.findings import COMMON_PRACTICE, Finding, Remark, Severity, state
from pulltide.core.links import family_of
from pulltide.core.machine import Plan

#: How little two listed numbers may differ and still be the same figure, as a share: lists are rounded.
SAME = 1e-3

NOT_LISTED = Remark(
    code="catalog.not_listed",
    severity=Severity.NOTE,
    quantity="part",
    fact="This part is on no list here",
    advice="Make sure that it can be bought or is on hand. The plan carries its data, so nothing it says is lost.",
    source=COMMON_PRACTICE,
)
DIFFERS = Remark(
    code="catalog.differs",
    severity=Severity.NOTE,
    quantity="part",
    fact="The list now has other data for this part than the plan was made with",
    advice="Open the stage, compare the two, and take the data of the list if they are the right ones.",
    source=COMMON_PRACTICE,
)
RULES = (NOT_LISTED, DIFFERS)


@dataclass(frozen=True, slots=True)
class Difference:
    """One figure of a part that the list has otherwise than the plan."""

    field: str
    in_plan: Any
    in_list: Any


def differences(use: Use, listed: Item) -> tuple[Difference, ...]:
    """The figures in which a part of a plan differs from the list, in the order of the list."""
    own, other = use.data.model_dump(), listed.data.model_dump()
    return tuple(Difference(name, own.get(name), value) for name, value in other.items() if not _same(own[name], value))


def _same(first: Any, second: Any) -> bool:
    if isinstance(first, float) and isinstance(second, float):
        return abs(first - second) <= SAME * max(abs(first), abs(second))
    return bool(first == second)


def uses(plan: Plan) -> Iterator[tuple[int, Use]]:
    """Every part that a plan uses by name, with the place of its link."""
    for index, link in enumerate(plan.links):
        for use in family_of(link.kind).uses(link):
            yield index, use


def findings(plan: Plan, catalog: Catalog) -> Iterator[Finding]:
    """What the lists have to say of a plan. Without any list of a kind of part there is nothing to compare with."""
    for index, use in uses(plan):
        listed = catalog.find(use.part, use.id)
        if listed is not None:
            if differences(use, listed):
                yield state(DIFFERS, f"link-{index + 1}")
        elif any(item.group == use.group for item in catalog.of(use.part)):
            yield state(NOT_LISTED, f"link-{index + 1}")
