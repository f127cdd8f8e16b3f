"""What the shop's own machines do to a part, kept for all who work here."""

from __future__ import annotations

from pydantic import ValidationError
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from pulltide.core.made.profile import MakingProfile
from pulltide.store.tables import SettingRow

NAME = "making_profile"


class PostgresMaking:
    """The profile of the shop."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine

    def get(self) -> MakingProfile:
        """The profile as it was last kept; nothing known where there is none, or one that is not understood."""
        with Session(self.engine) as session:
            row = session.get(SettingRow, NAME)
        try:
            return MakingProfile() if row is None else MakingProfile.model_validate_json(row.value)
        except ValidationError:
            return MakingProfile()

    def keep(self, profile: MakingProfile) -> None:
        """Keep a profile."""
        with Session(self.engine) as session, session.begin():
            session.merge(SettingRow(name=NAME, value=profile.model_dump_json(exclude_none=True)))
