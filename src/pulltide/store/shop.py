"""What a shop takes for granted and its own starters, in PostgreSQL."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from datetime import UTC, datetime
from math import inf
from time import monotonic

from pydantic import ValidationError
from sqlalchemy import Engine, delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pulltide.core.machine import Machine
from pulltide.services.documents import UnreadableDocument, loaded
from pulltide.services.shop import NoSuchStarter, ShopSettings, Starter
from pulltide.store.tables import SettingRow, StarterRow
from pulltide.words import say

NAME = "shop_settings"
#: For so long they are not looked up again: every page is drawn with them.
FRESH_S = 2.0


class PostgresShop:
    """The settings of the shop, kept for all who work here."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self._read_at, self._read = -inf, ShopSettings()

    def lately(self) -> ShopSettings:
        """As they were a moment ago: for what every page is drawn with."""
        if monotonic() - self._read_at > FRESH_S:
            self._read, self._read_at = self.get(), monotonic()
        return self._read

    def get(self) -> ShopSettings:
        """As they were last kept; nothing known where there are none, or some that are not understood."""
        with Session(self.engine) as session:
            row = session.get(SettingRow, NAME)
        try:
            return ShopSettings() if row is None else ShopSettings.model_validate_json(row.value)
        except ValidationError:
            return ShopSettings()

    def keep(self, settings: ShopSettings) -> None:
        """Keep them."""
        with Session(self.engine) as session, session.begin():
            session.merge(SettingRow(name=NAME, value=settings.model_dump_json(exclude_none=True)))
        self._read, self._read_at = settings, monotonic()


class PostgresStarters:
    """Keeps starters. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    def all(self) -> Sequence[Starter]:
        """Every starter that can be read, by name."""
        found = []
        with Session(self.engine) as session:
            for row in session.scalars(select(StarterRow).order_by(StarterRow.name)):
                with suppress(UnreadableDocument):
                    found.append(_starter(row))
        return found

    def get(self, number: int) -> Starter:
        """One of them. Raises NoSuchStarter, or UnreadableDocument."""
        with Session(self.engine) as session:
            row = session.get(StarterRow, number)
            if row is None:
                raise NoSuchStarter(say("There is no such starter any more."))
            return _starter(row)

    def keep(self, name: str, part: str, machine: Machine) -> None:
        """Keep one; of a name there is one, the last."""
        values = {"part": part, "document": machine.model_dump(mode="json"), "kept_at": datetime.now(UTC)}
        put = insert(StarterRow).values(name=name, **values)
        with Session(self.engine) as session, session.begin():
            session.execute(put.on_conflict_do_update(index_elements=["name"], set_=values))

    def throw_away(self, number: int) -> None:
        """Keep it no longer."""
        with Session(self.engine) as session, session.begin():
            session.execute(delete(StarterRow).where(StarterRow.id == number))


def _starter(row: StarterRow) -> Starter:
    return Starter(row.id, row.name, row.part, loaded(row.document), row.kept_at)
