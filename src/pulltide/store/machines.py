"""Machines in PostgreSQL: the current document, its version, and a history to walk through."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from uuid import uuid4

from sqlalchemy import Engine, and_, case, delete, func, or_, select
from sqlalchemy.orm import Session

from pulltide.core.machine import Machine
from pulltide.services.documents import UnreadableDocument, loaded
from pulltide.services.machines import (
    ChangedElsewhere,
    NoSuchMachine,
    PastState,
    RemovedMachine,
    StoredMachine,
    UnreadableMachine,
)
from pulltide.store.hook_client import HookClient
from pulltide.store.tables import MachineRow, MachineStateRow
from pulltide.words import say

#: States kept per machine; older ones are dropped.
KEPT_STATES = 200


class PostgresMachines:
    """The shop's machines. Every method is one transaction."""

    def __init__(self, engine: Engine, author: str | None = None, hook: HookClient | None = None) -> None:
        self.engine = engine
        self.author = author
        self.hook = hook

    def by(self, author: str) -> PostgresMachines:
        """The same store as somebody changes it."""
        return PostgresMachines(self.engine, author, self.hook)

    def _announced(self, event: str, stored: StoredMachine, label: str) -> StoredMachine:
        """Tell of a change once it is saved."""
        if self.hook is not None:
            self.hook.tell(event, stored.id, stored.version, label, self.author)
        return stored

    def all(self) -> Sequence[StoredMachine | UnreadableMachine]:
        """Every machine, last changed first, in one query; of each the current state alone."""
        here = and_(MachineStateRow.machine_id == MachineRow.id, MachineStateRow.place == MachineRow.cursor)
        query = (
            select(MachineRow, MachineStateRow.document)
            .join(MachineStateRow, here)
            .where(MachineRow.removed_at.is_(None))
            .order_by(MachineRow.updated_at.desc())
        )
        with Session(self.engine) as session:
            return [_current(row, document) for row, document in session.execute(query)]

    def get(self, machine_id: str) -> StoredMachine:
        """One machine. Raises NoSuchMachine, or UnreadableDocument."""
        with Session(self.engine) as session:
            return _stored(session, _row(session, machine_id))

    def document(self, machine_id: str) -> object:
        """The document of a machine as it is stored, readable or not. Raises NoSuchMachine."""
        with Session(self.engine) as session:
            row = _row(session, machine_id)
            here = (MachineStateRow.machine_id == row.id, MachineStateRow.place == row.cursor)
            return session.scalar(select(MachineStateRow.document).where(*here))

    def create(self, machine: Machine) -> StoredMachine:
        """Keep a new machine."""
        with Session(self.engine) as session, session.begin():
            row = MachineRow(id=str(uuid4()), version=1, cursor=1)
            session.add(row)
            session.flush()
            session.add(self._state(row, 1, machine, say("Machine made")))
            session.flush()
            session.refresh(row)
            made = _stored(session, row)
        return self._announced("made", made, say("Machine made"))

    def save(self, machine_id: str, version: int, machine: Machine, label: str) -> StoredMachine:
        """Keep a changed machine as the next step of its history; steps that were undone are dropped."""
        with Session(self.engine) as session, session.begin():
            row = _locked(session, machine_id, version)
            outside = or_(MachineStateRow.place > row.cursor, MachineStateRow.place <= row.cursor - KEPT_STATES)
            session.execute(delete(MachineStateRow).where(MachineStateRow.machine_id == row.id, outside))
            session.add(self._state(row, row.cursor + 1, machine, label[:120]))
            _advance(row, 1)
            saved = StoredMachine(row.id, row.version, machine, row.updated_at, label[:120], None)
        return self._announced("changed", saved, label[:120])

    def step(self, machine_id: str, version: int, direction: int) -> StoredMachine:
        """Go back (-1) or forward (+1) one step of history; at the end nothing changes."""
        with Session(self.engine) as session, session.begin():
            row = _locked(session, machine_id, version)
            if _label_at(session, row.id, row.cursor + direction) is not None:
                _advance(row, direction)
                session.flush()
            stepped = _stored(session, row)
        return self._announced("changed", stepped, "Undo" if direction < 0 else "Redo")

    def remove(self, machine_id: str, version: int | None = None) -> None:
        """Take a machine off the floor; its rows stay, so that it can be put back."""
        with Session(self.engine) as session, session.begin():
            row = _row(session, machine_id) if version is None else _locked(session, machine_id, version)
            row.removed_at = func.now()
            gone = row.version
        if self.hook is not None:
            self.hook.tell("removed", machine_id, gone, "Taken off the floor", self.author)

    def removed(self) -> Sequence[RemovedMachine]:
        """What was taken off the floor, the latest first."""
        here = and_(MachineStateRow.machine_id == MachineRow.id, MachineStateRow.place == MachineRow.cursor)
        query = (
            select(MachineRow.id, MachineRow.removed_at, MachineStateRow.document["name"].as_string())
            .join(MachineStateRow, here)
            .where(MachineRow.removed_at.is_not(None))
            .order_by(MachineRow.removed_at.desc())
        )
        with Session(self.engine) as session:
            return [RemovedMachine(row_id, name or "a machine without a name", at) for row_id, at, name in
                    session.execute(query)]  # fmt: skip

    def put_back(self, machine_id: str) -> StoredMachine:
        """Undo a removal."""
        with Session(self.engine) as session, session.begin():
            row = session.get(MachineRow, machine_id)
            if row is None:
                raise NoSuchMachine(say("There is no such machine."))
            row.removed_at = None
            back = _stored(session, row)
        return self._announced("put-back", back, "Put back")

    def _state(self, row: MachineRow, place: int, machine: Machine, label: str) -> MachineStateRow:
        document = machine.model_dump(mode="json")
        return MachineStateRow(machine_id=row.id, place=place, label=label, author=self.author, document=document)

    def history(self, machine_id: str, most: int) -> Sequence[PastState]:
        """The latest states of a machine, the last first, and which one it is at. Raises NoSuchMachine."""
        with Session(self.engine) as session:
            row = _row(session, machine_id)
            query = select(MachineStateRow).where(MachineStateRow.machine_id == row.id)
            found = session.scalars(query.order_by(MachineStateRow.place.desc()).limit(most))
            return [
                PastState(one.place, one.label, one.author or "", one.created_at, one.document, one.place == row.cursor)
                for one in found
            ]


def _row(session: Session, machine_id: str) -> MachineRow:
    row = session.get(MachineRow, machine_id)
    if row is None or row.removed_at is not None:
        raise NoSuchMachine(say("There is no such machine on the shop floor."))
    return row


def _locked(session: Session, machine_id: str, version: int) -> MachineRow:
    row = session.get(MachineRow, machine_id, with_for_update=True)
    if row is None or row.removed_at is not None:
        raise NoSuchMachine(say("There is no such machine on the shop floor."))
    if row.version != version:
        raise ChangedElsewhere(version, row.version)
    return row


def _advance(row: MachineRow, by: int) -> None:
    row.cursor += by
    row.version += 1
    row.updated_at = datetime.now(UTC)


def _label_at(session: Session, machine_id: str, place: int) -> str | None:
    query = select(MachineStateRow.label).where(
        MachineStateRow.machine_id == machine_id, MachineStateRow.place == place
    )
    return session.scalar(query)


def _stored(session: Session, row: MachineRow) -> StoredMachine:
    """The machine with what undo would take back (the current state's own label) and what redo would make again."""
    document = case((MachineStateRow.place <= row.cursor, MachineStateRow.document))
    query = (
        select(MachineStateRow.place, MachineStateRow.label, document)
        .where(MachineStateRow.machine_id == row.id)
        .where(MachineStateRow.place.between(row.cursor - 1, row.cursor + 1))
    )
    near = {place: (label, found) for place, label, found in session.execute(query)}
    label, current = near[row.cursor]
    earlier = near.get(row.cursor - 1)
    redo = near[row.cursor + 1][0] if row.cursor + 1 in near else None
    return StoredMachine(
        row.id,
        row.version,
        loaded(current),
        row.updated_at,
        label if earlier else None,
        redo,
        _readable(earlier[1]) if earlier else None,
    )


def _current(row: MachineRow, document: object) -> StoredMachine | UnreadableMachine:
    """A machine as a list shows it: neither its undo nor its redo."""
    try:
        return StoredMachine(row.id, row.version, loaded(document), row.updated_at, None, None)
    except UnreadableDocument as error:
        return UnreadableMachine(row.id, row.version, error.name, error.reasons, document, row.updated_at)


def _readable(document: object) -> Machine | None:
    """A former state; one that cannot be read any more is left out of what a change is compared with."""
    try:
        return loaded(document)
    except UnreadableDocument:
        return None
