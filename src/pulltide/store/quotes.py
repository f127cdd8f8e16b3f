"""Quotes in PostgreSQL."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from datetime import UTC, datetime

from sqlalchemy import Engine, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pulltide.services.quotes import LastAsked, Quote
from pulltide.store.tables import QuoteRow, SettingRow

ASKED = "quotes_asked"


class PostgresQuotes:
    """Keeps quotes. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    def kept(self, names: Iterable[str]) -> Mapping[str, Quote]:
        """The last quote of each name that has one."""
        with Session(self.engine) as session:
            rows = session.scalars(select(QuoteRow).where(QuoteRow.name.in_(set(names))))
            return {row.name: Quote(row.name, row.price, row.lead_days, row.fetched_at) for row in rows}

    def keep(self, found: Sequence[tuple[str, float, int]]) -> None:
        """Keep quotes as of now."""
        if not found:
            return
        values = [{"name": name[:60], "price": price, "lead_days": days} for name, price, days in found]
        statement = insert(QuoteRow).values(values)
        said = statement.excluded
        changed = {"price": said.price, "lead_days": said.lead_days, "fetched_at": func.now()}
        with Session(self.engine) as session, session.begin():
            session.execute(statement.on_conflict_do_update(index_elements=["name"], set_=changed))

    def asked(self) -> LastAsked | None:
        """When the service was asked last, and what came of it."""
        with Session(self.engine) as session:
            kept = session.scalar(select(SettingRow.value).where(SettingRow.name == ASKED))
        if kept is None:
            return None
        at, outcome = json.loads(kept)
        return LastAsked(datetime.fromisoformat(at), outcome)

    def note(self, outcome: str) -> None:
        """Remember what came of asking, as of now."""
        value = json.dumps([datetime.now(UTC).isoformat(timespec="seconds"), outcome[:140]])
        statement = insert(SettingRow).values(name=ASKED, value=value)
        with Session(self.engine) as session, session.begin():
            session.execute(statement.on_conflict_do_update(index_elements=["name"], set_={"value": value}))
