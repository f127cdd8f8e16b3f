"""Who has which machine open, and which of its fields, seen from every worker."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import Engine, and_, delete, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pulltide.store.tables import MachineRow, MachineStateRow, PresenceRow

#: Whoever was not heard of for so long is gone.
GONE = timedelta(seconds=30)


@dataclass(frozen=True, slots=True)
class Present:
    """A window on a machine: whose it is, and which field is being filled in."""

    window: str
    name: str
    field: str


@dataclass(frozen=True, slots=True)
class Seen:
    """A machine as it stands: version, what led there and by whom, and who has it open."""

    version: int
    label: str
    author: str
    present: tuple[Present, ...]


class PostgresPresence:
    """Keeps who is here. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    def look(self, machine_ids: Sequence[str], now: datetime) -> dict[str, Seen]:
        """Each of some machines that is on the floor."""
        here = and_(MachineStateRow.machine_id == MachineRow.id, MachineStateRow.place == MachineRow.cursor)
        machines = (
            select(MachineRow.id, MachineRow.version, MachineStateRow.label, MachineStateRow.author)
            .join(MachineStateRow, here)
            .where(MachineRow.id.in_(machine_ids), MachineRow.removed_at.is_(None))
        )
        windows = select(PresenceRow).where(PresenceRow.machine_id.in_(machine_ids), PresenceRow.seen_at > now - GONE)
        with Session(self.engine) as session:
            present: dict[str, list[Present]] = {}
            for row in session.scalars(windows.order_by(PresenceRow.window)):
                present.setdefault(row.machine_id, []).append(Present(row.window, row.name, row.field))
            return {
                machine_id: Seen(version, label, author or "", tuple(present.get(machine_id, ())))
                for machine_id, version, label, author in session.execute(machines)
            }

    def arrive(self, machine_id: str, window: str, name: str, now: datetime) -> None:
        """Somebody opens a machine; windows long gone are forgotten."""
        row = {"window": window, "machine_id": machine_id, "name": name, "field": "", "seen_at": now}
        with Session(self.engine) as session, session.begin():
            session.execute(delete(PresenceRow).where(PresenceRow.seen_at < now - GONE))
            session.execute(insert(PresenceRow).values(**row).on_conflict_do_nothing())

    def still_here(self, windows: Sequence[str], now: datetime) -> None:
        """Some windows are open still."""
        with Session(self.engine) as session, session.begin():
            session.execute(update(PresenceRow).where(PresenceRow.window.in_(windows)).values(seen_at=now))

    def hold(self, machine_id: str, window: str, field: str) -> None:
        """A window's field is being filled in; none where it is empty."""
        mine = (PresenceRow.window == window, PresenceRow.machine_id == machine_id)
        with Session(self.engine) as session, session.begin():
            session.execute(update(PresenceRow).where(*mine).values(field=field))

    def leave(self, window: str) -> None:
        """A window was closed."""
        with Session(self.engine) as session, session.begin():
            session.execute(delete(PresenceRow).where(PresenceRow.window == window))
