"""What is remembered of a person: units and theme. The cookie itself is not stored, only its hash."""

from __future__ import annotations

from dataclasses import dataclass
from hashlib import sha256

from sqlalchemy import Engine
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pulltide.quantities import DEFAULT_UNITS, Units
from pulltide.store.tables import PersonRow, SettingRow


@dataclass(frozen=True, slots=True)
class Preferences:
    """Units and theme of one person, and whether the page is for gloves and a tablet at the bench."""

    units: Units = DEFAULT_UNITS
    theme: str = "auto"
    at_bench: bool = False


class PostgresPeople:
    """Preferences by cookie."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    def get(self, cookie: str) -> Preferences:
        """Preferences of a person; the defaults for one not seen before."""
        with Session(self.engine) as session:
            row = session.get(PersonRow, _hash(cookie))
            return (
                Preferences() if row is None else Preferences(Units.model_validate(row.units), row.theme, row.at_bench)
            )

    def keep(self, cookie: str, preferences: Preferences) -> None:
        """Remember a person's preferences."""
        values = {"units": preferences.units.model_dump(), "theme": preferences.theme, "at_bench": preferences.at_bench}
        with Session(self.engine) as session, session.begin():
            statement = insert(PersonRow).values(cookie_hash=_hash(cookie), **values)
            session.execute(statement.on_conflict_do_update(index_elements=["cookie_hash"], set_=values))


def _hash(cookie: str) -> str:
    return sha256(cookie.encode()).hexdigest()


def is_done(engine: Engine, name: str) -> bool:
    """Whether a thing that is done once was done."""
    with Session(engine) as session:
        return session.get(SettingRow, name) is not None


def mark_done(engine: Engine, name: str) -> None:
    """Remember that a thing was done."""
    with Session(engine) as session, session.begin():
        session.merge(SettingRow(name=name, value="done"))
