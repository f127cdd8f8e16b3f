"""What a shop is called and takes for granted, and its own starters: a machine, plan or stage to begin others from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Literal, Protocol

from pydantic import Field, field_validator

from pulltide.core.catalog import Catalog
from pulltide.core.duty import Duty, Environment, MarginRule
from pulltide.core.errors import InputError, InputErrors, PulltideError
from pulltide.core.links import FAMILIES
from pulltide.core.machine import Machine
from pulltide.core.model import Celsius, CoreModel, Hours, Mm, Plain
from pulltide.core.run_log.log import Log
from pulltide.core.shafts import Steel
from pulltide.quantities import Units
from pulltide.services.change import Change
from pulltide.services.choosing import plan_of
from pulltide.services.editing import apply_change
from pulltide.services.fields import described
from pulltide.services.texts import MAX_NAME, why_unusable
from pulltide.words import say

#: What a new machine's duty takes over; letters of what prices are counted in.
TAKEN_OVER = (
    "hours_per_day",
    "environment",
    "energy_price",
    "ambient_c",
    "margin_rule",
    "flat_factor",
    "service_factor_override",
    "bearing_reliability",
)
MAX_PRICE_UNIT = 12


class ShopSettings(CoreModel):
    """What stands on every sheet, and what a new machine begins with; what is empty is not known."""

    name: str = Field("", title="Name of the shop", max_length=MAX_NAME, description="on every sheet and label")
    hours_per_day: Hours | None = Field(None, title="Hours a day", gt=0, le=24, description="of a machine in use")
    environment: Environment | None = Field(None, title="Location", description="where machines stand")
    ambient_c: Celsius | None = Field(None, title="Ambient temperature", ge=-20, le=60, description="on a hot day")
    margin_rule: MarginRule | None = Field(None, title="Margin rule")
    flat_factor: Plain | None = Field(
        None, title="Flat safety factor", ge=1, le=6, description="where that is the rule"
    )
    service_factor_override: Plain | None = Field(
        None, title="The shop's own service factor", ge=1, le=6, description="in place of the tables"
    )
    bearing_reliability: Literal["90", "95", "96", "97", "98", "99"] | None = Field(
        None, title="Bearings that reach their life, percent", description="catalogs say 90"
    )
    price_unit: str = Field(
        "", title="Prices are in", max_length=MAX_PRICE_UNIT, description="$ or hours of work; empty: price units"
    )
    energy_price: Plain | None = Field(
        None, title="Price of a kWh", gt=0, le=1000, description="on a scale where a 0.75 kW motor is 100"
    )
    steel: Steel | None = Field(None, title="Shaft steel at hand", description="what a shaft begins with that is added")
    saw_kerf_mm: Mm | None = Field(
        None, title="Kerf of the saw", gt=0, le=12, description="what sawing off a bar takes; empty: {3|mm}"
    )
    favorites: dict[str, str] = Field(default_factory=dict)

    @field_validator("price_unit")
    @classmethod
    def _shows(cls, unit: str) -> str:
        if why := why_unusable(unit, is_name=True):
            raise ValueError(why)
        return unit

    @field_validator("favorites")
    @classmethod
    def _offered(cls, favorites: dict[str, str]) -> dict[str, str]:
        """Those of this program: a family or size that it knows no longer is let go."""
        return {kind: size for kind, size in favorites.items() if size in favorites_of(kind)}

    def begins(self, machine: Machine) -> Machine:
        """A new machine with what the shop takes for granted, where nothing else is known."""
        plain, known = Duty(), {name: getattr(self, name) for name in TAKEN_OVER}
        open_ = {
            name: value
            for name, value in known.items()
            if value is not None and getattr(machine.duty, name) == getattr(plain, name)
        }
        if "service_factor_override" in open_:
            open_["override_reason"] = say("the shop's own")
        return machine.model_copy(update={"duty": machine.duty.model_copy(update=open_)})

    def adds(self, change: Change) -> Change:
        """A change with what the shop likes best for what is added: a shaft's steel, a stage's section or chain."""
        liked: str | None = self.steel if change.operation == "add_shaft" else None
        if change.operation in ("add_link", "swap_link"):
            liked = self.favorites.get(change.kind)
        return replace(change, part=liked) if liked and not change.part else change


def favorites_of(kind: str) -> tuple[str, ...]:
    """Of what a shop may have a favorite in a kind of stage: its sections, profiles or chains; none where it has none.

    >>> favorites_of("toothed_belt")[:3], favorites_of("nothing")
    (('XL', 'L', 'H'), ())
    """
    family = next((one for one in FAMILIES if one.kind == kind and one.favorite), None)
    if family is None:
        return ()
    return described(family.model.model_fields[family.favorite], family.favorite, family.model).choices


class Shop(Protocol):
    """Where the settings are kept."""

    def get(self) -> ShopSettings:
        """As they were last kept."""

    def keep(self, settings: ShopSettings) -> None:
        """Keep them."""


class NoSuchStarter(PulltideError, LookupError):
    """No starter has this number, or it was thrown away."""


@dataclass(frozen=True, slots=True)
class Starter:
    """Something to begin from: ``part`` is ``machine``, ``plan`` or ``stage``; the document holds just that."""

    id: int
    name: str
    part: str
    machine: Machine
    kept_at: datetime


class Starters(Protocol):
    """Where starters are kept."""

    def all(self) -> Sequence[Starter]:
        """Every starter that can be read, by name."""

    def get(self, number: int) -> Starter:
        """One of them. Raises NoSuchStarter."""

    def keep(self, name: str, part: str, machine: Machine) -> None:
        """Keep one; of a name there is one, the last."""

    def throw_away(self, number: int) -> None:
        """Keep it no longer."""


def cut_out(machine: Machine, part: str) -> tuple[str, Machine]:
    """What a starter keeps of a machine: all of it, or ``plan-1``, or ``stage-1-2`` of a plan, counted from 1.

    The kind of part, and a machine that holds just that. Raises InputErrors.
    """
    kind, _, rest = part.partition("-")
    numbers = [int(one) for one in rest.split("-") if one.isdecimal() and len(one) < 4]
    bare = machine.model_copy(update={"log": Log()})
    if kind == "machine" and not rest:
        return kind, bare
    if kind not in ("plan", "stage") or len(numbers) != (1 if kind == "plan" else 2):
        raise InputErrors(
            [InputError(say("Part"), part, say("is not known"), accepted=say("machine, plan-1, stage-1-1"))]
        )
    plan = plan_of(machine, numbers[0])
    if kind == "stage":
        if not 1 <= numbers[1] <= len(plan.links):
            raise InputErrors(
                [
                    InputError(
                        say("Stage"),
                        numbers[1],
                        say("does not exist"),
                        accepted=say("1 to {links}", links=len(plan.links)),
                    )
                ]
            )
        alone = {"links": (plan.links[numbers[1] - 1],), "shafts": (), "made": (), "accepted": (), "pinned": ()}
        plan = plan.model_copy(update=alone)
    return kind, bare.model_copy(update={"plans": (plan,)})


def begun_from(starter: Starter, name: str) -> Machine:
    """A new machine from a starter. Raises InputErrors for one that is not a whole machine."""
    if starter.part != "machine":
        raise InputErrors(
            [
                InputError(
                    say("Starter"), starter.name, say("is a {part}; add it to a machine instead", part=starter.part)
                )
            ]
        )
    return starter.machine.model_copy(update={"name": name or starter.machine.name, "log": Log()})


def added(machine: Machine, starter: Starter, plan: int, units: Units, catalog: Catalog) -> tuple[Machine, str]:
    """A machine with a plan more, or with a stage more at the end of a plan (from 0), and what to call the change.

    Raises InputErrors.
    """
    label = say("“{name}” added", name=starter.name)[:120]
    first = starter.machine.plans[0]
    if starter.part == "plan":
        whole = machine.model_copy(update={"plans": (*machine.plans, first)})
        made, _ = apply_change(whole, Change(), units, catalog)
        return made, label
    if starter.part != "stage":
        raise InputErrors(
            [InputError(say("Starter"), starter.name, say("is a whole machine; begin a new one from it"))]
        )
    index, link = len(plan_of(machine, plan + 1).links), first.links[0]
    add = Change(operation="add_link", plan=plan, index=index, kind=link.kind)
    longer, _ = apply_change(machine, add, units, catalog)
    put = Change(replacements={f"plans.{plan}.links.{index}": link.model_dump_json()})
    made, _ = apply_change(longer, put, units, catalog)
    return made, label
