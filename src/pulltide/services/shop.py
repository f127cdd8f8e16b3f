"""What a shop is called and takes for granted, and its own starters: a machine, plan or stage to begin others from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Protocol

from pydantic import Field

from pulltide.core.catalog import Catalog
from pulltide.core.duty import Environment
from pulltide.core.errors import InputError, InputErrors, PulltideError
from pulltide.core.machine import Machine
from pulltide.core.model import CoreModel, Hours, Plain
from pulltide.core.run_log.log import Log
from pulltide.core.shafts import Steel
from pulltide.quantities import Units
from pulltide.services.change import Change
from pulltide.services.choosing import plan_of
from pulltide.services.editing import apply_change
from pulltide.services.texts import MOST_NAME


class ShopSettings(CoreModel):
    """What stands on every sheet, and what a new machine begins with; what is empty is not known."""

    name: str = Field("", title="Name of the shop", max_length=MOST_NAME, description="on every sheet and label")
    hours_per_day: Hours | None = Field(None, title="Hours a day", gt=0, le=24, description="of a machine in use")
    environment: Environment | None = Field(None, title="Location", description="where machines stand")
    energy_price: Plain | None = Field(
        None, title="Energy, price units a kWh", gt=0, le=1000, description="100 price units are a 0.75 kW motor"
    )
    steel: Steel | None = Field(None, title="Shaft steel at hand", description="what a shaft begins with that is added")

    def begins(self, machine: Machine) -> Machine:
        """A new machine with what the shop takes for granted, where nothing else is known."""
        known = {name: getattr(self, name) for name in ("hours_per_day", "environment", "energy_price")}
        open_ = {name: value for name, value in known.items() if value is not None and not getattr(machine.duty, name)}
        return machine.model_copy(update={"duty": machine.duty.model_copy(update=open_)})


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
        raise InputErrors([InputError("Part", part, "is not known", accepted="machine, plan-1, stage-1-1")])
    plan = plan_of(machine, numbers[0])
    if kind == "stage":
        if not 1 <= numbers[1] <= len(plan.links):
            raise InputErrors([InputError("Stage", numbers[1], "does not exist", accepted=f"1 to {len(plan.links)}")])
        alone = {"links": (plan.links[numbers[1] - 1],), "shafts": (), "made": (), "accepted": (), "pinned": ()}
        plan = plan.model_copy(update=alone)
    return kind, bare.model_copy(update={"plans": (plan,)})


def begun_from(starter: Starter, name: str) -> Machine:
    """A new machine from a starter. Raises InputErrors for one that is not a whole machine."""
    if starter.part != "machine":
        raise InputErrors([InputError("Starter", starter.name, f"is a {starter.part}; add it to a machine instead")])
    return starter.machine.model_copy(update={"name": name or starter.machine.name, "log": Log()})


def added(machine: Machine, starter: Starter, plan: int, units: Units, catalog: Catalog) -> tuple[Machine, str]:
    """A machine with a plan more, or with a stage more at the end of a plan (from 0), and what to call the change.

    Raises InputErrors.
    """
    label = f"“{starter.name}” added"[:120]
    first = starter.machine.plans[0]
    if starter.part == "plan":
        whole = machine.model_copy(update={"plans": (*machine.plans, first)})
        made, _ = apply_change(whole, Change(), units, catalog)
        return made, label
    if starter.part != "stage":
        raise InputErrors([InputError("Starter", starter.name, "is a whole machine; begin a new one from it")])
    index, link = len(plan_of(machine, plan + 1).links), first.links[0]
    add = Change(operation="add_link", plan=plan, index=index, kind=link.kind)
    longer, _ = apply_change(machine, add, units, catalog)
    put = Change(replacements={f"plans.{plan}.links.{index}": link.model_dump_json()})
    made, _ = apply_change(longer, put, units, catalog)
    return made, label
