"""Answers to calls that carry a key, so that a program that was cut off may call again without doing it twice."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import Engine, delete, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pulltide.store.tables import AnswerRow

#: An answer is kept for so long.
KEPT = timedelta(hours=24)


@dataclass(frozen=True, slots=True)
class Answer:
    """What was answered: ``status`` None while it is being worked out; ``call`` tells one call from another."""

    call: str
    status: int | None
    media_type: str
    body: bytes


class PostgresAnswers:
    """Keeps answers. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    def begun(self, key: str, call: str, now: datetime) -> Answer | None:
        """The answer under a key, there or on its way; None where this call is the first, and is noted."""
        with Session(self.engine) as session, session.begin():
            session.execute(delete(AnswerRow).where(AnswerRow.made_at < now - KEPT))
            row = {"key": key, "call": call, "media_type": "", "body": b"", "made_at": now}
            first = session.execute(insert(AnswerRow).values(**row).on_conflict_do_nothing().returning(AnswerRow.key))
            if first.scalar() is not None:
                return None
            found = session.get(AnswerRow, key)
            assert found is not None
            return Answer(found.call, found.status, found.media_type, found.body)

    def ended(self, key: str, status: int, media_type: str, body: bytes) -> None:
        """What the first call was answered."""
        with Session(self.engine) as session, session.begin():
            values = {"status": status, "media_type": media_type, "body": body}
            session.execute(update(AnswerRow).where(AnswerRow.key == key).values(**values))

    def dropped(self, key: str) -> None:
        """The first call came to nothing: the next one is a first again."""
        with Session(self.engine) as session, session.begin():
            session.execute(delete(AnswerRow).where(AnswerRow.key == key))
