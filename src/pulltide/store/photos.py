"""Photos in PostgreSQL, so that backups hold them."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import Engine, func, select, update
from sqlalchemy.orm import Session, defer

from pulltide.core.errors import InputError, InputErrors
from pulltide.services.photos import MAX_PHOTOS, NoSuchPhoto, Photo
from pulltide.store.tables import MachineRow, PhotoRow
from pulltide.words import say


class PostgresPhotos:
    """Keeps photos. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    def of(self, machine_id: str) -> Sequence[Photo]:
        """Those of a machine, the latest first, taken away ones too; without their content."""
        query = select(PhotoRow).options(defer(PhotoRow.content)).where(PhotoRow.machine_id == machine_id)
        with Session(self.engine) as session:
            return [
                Photo(row.id, row.caption, row.author, row.kept_at, row.removed)
                for row in session.scalars(query.order_by(PhotoRow.id.desc()))
            ]

    def content(self, machine_id: str, number: int) -> bytes:
        """One of them as JPEG. Raises NoSuchPhoto."""
        query = select(PhotoRow.content).where(PhotoRow.machine_id == machine_id, PhotoRow.id == number)
        with Session(self.engine) as session:
            found = session.scalar(query)
        if found is None:
            raise NoSuchPhoto(say("There is no such photo of this machine."))
        return found

    def keep(self, machine_id: str, content: bytes, caption: str, author: str, at: datetime | None = None) -> None:
        """Keep one, taken in now or at a moment. Raises InputErrors where there are too many."""
        with Session(self.engine) as session, session.begin():
            session.scalar(select(MachineRow.id).where(MachineRow.id == machine_id).with_for_update())
            count = session.scalar(select(func.count()).where(PhotoRow.machine_id == machine_id)) or 0
            if count >= MAX_PHOTOS:
                raise InputErrors([InputError("Photos", count + 1, "are too many", accepted=f"up to {MAX_PHOTOS}")])
            row = PhotoRow(machine_id=machine_id, content=content, caption=caption, author=author)
            if at is not None:
                row.kept_at = at
            session.add(row)

    def set_removed(self, machine_id: str, number: int, removed: bool) -> None:
        """Take one away, or put it back."""
        mine = (PhotoRow.machine_id == machine_id, PhotoRow.id == number)
        with Session(self.engine) as session, session.begin():
            session.execute(update(PhotoRow).where(*mine).values(removed=removed))
