"""What the shop's own machines do to a part: kept once for the shop."""

from __future__ import annotations

from typing import Protocol

from pulltide.core.made.profile import MakingProfile


class Making(Protocol):
    """Where the profile is kept."""

    def get(self) -> MakingProfile:
        """The profile as it was last kept."""
        ...

    def keep(self, profile: MakingProfile) -> None:
        """Keep a profile."""
        ...
