"""Revisions of sheets in PostgreSQL."""

from __future__ import annotations

from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session

from pulltide.services.change import Document
from pulltide.services.revisions import Revision
from pulltide.store.tables import MachineRow, RevisionRow


class PostgresRevisions:
    """Keeps revisions. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    def last(self, machine_id: str, plan_name: str) -> Revision | None:
        """The last one of a plan."""
        wanted = select(RevisionRow).where(RevisionRow.machine_id == machine_id, RevisionRow.plan_name == plan_name)
        with Session(self.engine) as session:
            row = session.scalar(wanted.order_by(RevisionRow.number.desc()).limit(1))
            return None if row is None else Revision(row.number, row.plan_name, row.note, row.document, row.issued_at)

    def issue(self, machine_id: str, plan_name: str, document: Document, note: str) -> int:
        """Give out the next one of a machine; two at a time get two numbers."""
        with Session(self.engine) as session, session.begin():
            # the machine's row is what two wait for in turn
            session.scalar(select(MachineRow.id).where(MachineRow.id == machine_id).with_for_update())
            count = select(func.max(RevisionRow.number)).where(RevisionRow.machine_id == machine_id)
            number = (session.scalar(count) or 0) + 1
            values = {"plan_name": plan_name, "note": note[:200], "document": document}
            session.add(RevisionRow(machine_id=machine_id, number=number, **values))
        return number
