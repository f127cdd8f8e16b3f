"""The shop floor: every machine as a card."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.presentation.painting import Picture
from pulltide.presentation.sheet import small_sheet
from pulltide.presentation.words import counted
from pulltide.quantities import Units, show
from pulltide.services.machines import RemovedMachine, StoredMachine, UnreadableMachine
from pulltide.words import say, worded


@dataclass(frozen=True, slots=True, kw_only=True)
class MachineCard:
    """One machine at a glance."""

    id: str
    name: str
    note: str
    plans: int
    runs_at: str
    wants: str
    state: str
    verdict: str
    tightest: str
    drawing: Picture | None
    readable: bool = True


@dataclass(frozen=True, slots=True)
class UnreadableCard:
    """A machine that cannot be read: why, and where its file is."""

    id: str
    name: str
    reasons: tuple[str, ...]
    readable: bool = False


def floor_card(stored: StoredMachine | UnreadableMachine, units: Units) -> MachineCard | UnreadableCard:
    """The card of a machine, readable or not."""
    if isinstance(stored, UnreadableMachine):
        return UnreadableCard(stored.id, stored.name, stored.reasons)
    return machine_card(stored, units)


def machine_card(stored: StoredMachine, units: Units) -> MachineCard:
    """Solve the first plan of a machine for its card."""
    machine = stored.machine
    plan = machine.plans[0]
    result = solve_plan(machine, plan)
    need = machine.need
    low, high = (None if v is None else show(v, "rpm", units).number for v in (need.speed_min_rpm, need.speed_max_rpm))
    wants = say("{low}–{high} rpm needed", low=low, high=high) if low and high else say("speed range not entered")
    if result is None:
        return MachineCard(
            id=stored.id,
            name=machine.name,
            note=machine.note,
            plans=len(machine.plans),
            runs_at=say("no motor yet"),
            wants=wants,
            state="note",
            verdict=say("Enter the motor to begin"),
            tightest="",
            drawing=None,
        )
    errors, warnings = result.count(Severity.ERROR), result.count(Severity.WARNING)
    state = "fix" if errors else "weigh" if warnings else "clear"
    verdict = {"fix": counted(errors, "problem"), "weigh": counted(warnings, "warning"), "clear": say("no problems")}[
        state
    ]
    if errors and warnings:
        verdict += f", {counted(warnings, 'warning')}"
    line = result.chosen
    tight = line.tightest
    tightest = (
        say(
            "tightest: stage {tight}, {name} {use}",
            tight=tight[0],
            name=worded(tight[1].name),
            use=show(tight[1].use, "share", units),
        )
        if tight
        else ""
    )
    return MachineCard(
        id=stored.id,
        name=machine.name,
        note=machine.note,
        plans=len(machine.plans),
        runs_at=str(show(line.last_shaft.speed_rpm, "rpm", units)),
        wants=wants,
        state=state,
        verdict=verdict,
        tightest=tightest,
        drawing=small_sheet(plan, line, units),
    )


def removed_rows(removed: Sequence[RemovedMachine]) -> list[tuple[str, str, str]]:
    """What was taken off the floor: its id, its name, when."""
    return [(item.id, item.name, item.removed_at.astimezone().strftime("%b %-d, %Y, %H:%M")) for item in removed]
