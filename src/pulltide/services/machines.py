"""What can be done with the machines of the shop. Storage is behind a small port."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Protocol

from pulltide.core.catalog import Catalog
from pulltide.core.errors import PulltideError
from pulltide.core.machine import Machine
from pulltide.quantities import Units
from pulltide.services.change import Change
from pulltide.services.documents import UnreadableDocument, loaded
from pulltide.services.editing import apply_change, touches_nothing_new
from pulltide.words import say


class NoSuchMachine(PulltideError, LookupError):
    """No machine has this number, or it was removed."""


class ChangedElsewhere(PulltideError):
    """The machine was changed in another window since it was read; nothing was saved."""

    def __init__(self, given: int, current: int) -> None:
        self.given = given
        self.current = current
        super().__init__(say("This machine was changed in another window. Nothing of yours was saved over it."))


@dataclass(frozen=True, slots=True)
class StoredMachine:
    """A machine with its place in the shop and in its own history; ``before`` is it before its last change."""

    id: str
    version: int
    machine: Machine
    updated_at: datetime
    undo_label: str | None
    redo_label: str | None
    before: Machine | None = None


@dataclass(frozen=True, slots=True)
class UnreadableMachine:
    """A machine whose stored document this program cannot read: why, and the document as it is."""

    id: str
    version: int
    name: str
    reasons: tuple[str, ...]
    document: object
    updated_at: datetime


@dataclass(frozen=True, slots=True)
class RemovedMachine:
    """A machine that was taken off the floor and can be put back."""

    id: str
    name: str
    removed_at: datetime


@dataclass(frozen=True, slots=True)
class PastState:
    """One state of a machine's history: what led to it, who did it (empty where nobody signs in) and when."""

    place: int
    label: str
    author: str
    at: datetime
    document: object
    is_now: bool


class MachineStore(Protocol):
    """Keeps machines, each call in one transaction.

    ``version`` must be the current one, or ChangedElsewhere is raised and nothing is saved.
    """

    def all(self) -> Sequence[StoredMachine | UnreadableMachine]:
        """Every machine, last changed first; of each the current state alone."""

    def get(self, machine_id: str) -> StoredMachine:
        """One machine. Raises NoSuchMachine, or UnreadableDocument."""

    def document(self, machine_id: str) -> object:
        """The document of a machine as it is stored, readable or not. Raises NoSuchMachine."""

    def create(self, machine: Machine) -> StoredMachine:
        """Keep a new machine."""

    def save(self, machine_id: str, version: int, machine: Machine, label: str) -> StoredMachine:
        """Keep a changed machine as the next step of its history; steps that were undone are dropped."""

    def step(self, machine_id: str, version: int, direction: int) -> StoredMachine:
        """Go back (-1) or forward (+1) one step of history; at the end nothing changes."""

    def history(self, machine_id: str, most: int) -> Sequence[PastState]:
        """The latest states of a machine, the last first. Raises NoSuchMachine."""

    def remove(self, machine_id: str, version: int | None = None) -> None:
        """Take a machine off the floor. Raises ChangedElsewhere where a version is given and is not the current one."""

    def removed(self) -> Sequence[RemovedMachine]:
        """What was taken off the floor, the latest first."""

    def put_back(self, machine_id: str) -> StoredMachine:
        """Undo a removal."""


#: So often an edit is made anew where somebody else saved between its reading and its saving.
MAX_TRIES = 5
#: So many states of a machine are listed.
MAX_STATES = 200


def before_last_change(store: MachineStore, machine_id: str) -> Machine | None:
    """A machine as it was before its last change; None without one, or where this program cannot read it.

    Raises NoSuchMachine.
    """
    states = store.history(machine_id, MAX_STATES)
    now = next((k for k, one in enumerate(states) if one.is_now), len(states))
    if now + 1 >= len(states):
        return None
    try:
        return loaded(states[now + 1].document)
    except UnreadableDocument:
        return None


def gone_back(store: MachineStore, machine_id: str, version: int, place: int) -> StoredMachine:
    """Make a former state the next one, so that nothing is lost and undo takes it back.

    Raises NoSuchMachine, ChangedElsewhere, or UnreadableDocument for a state that this program cannot read.
    """
    state = next((one for one in store.history(machine_id, MAX_STATES) if one.place == place), None)
    if state is None:
        raise NoSuchMachine(say("This state of the machine is not kept any more."))
    label = say("Back to {time:%b %-d, %Y, %H:%M}", time=state.at.astimezone())
    return store.save(machine_id, version, loaded(state.document), label)


def edit(
    store: MachineStore, machine_id: str, version: int, change: Change, units: Units, *, catalog: Catalog | None = None
) -> StoredMachine:
    """Apply a change to the version it was made for, and keep it. Parts come out of the catalog.

    Where the machine has moved on meanwhile, a change of fields that nobody else touched is applied to what it is now.

    Raises InputErrors (nothing saved), ChangedElsewhere or NoSuchMachine.
    """
    for tries_left in range(MAX_TRIES, -1, -1):
        stored = store.get(machine_id)
        if stored.version != version and not touches_nothing_new(stored.machine, change, units):
            raise ChangedElsewhere(version, stored.version)
        machine, label = apply_change(stored.machine, change, units, catalog)
        if machine == stored.machine:
            return stored
        try:
            return replace(store.save(machine_id, stored.version, machine, label), before=stored.machine)
        except ChangedElsewhere:  # somebody was quicker between reading and saving: look at what they changed
            if not tries_left:
                raise
    raise AssertionError
