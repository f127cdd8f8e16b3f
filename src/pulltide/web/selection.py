"""What both halves of the Train view share: where the page is turned to, and a number that can be opened."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pulltide.quantities import Shown


@dataclass(frozen=True, slots=True)
class Selection:
    """What the page is turned to: which plan, which place is open for editing, which figure is explained."""

    plan: int = 0
    at: str = ""
    figure: str = ""
    clear: bool = False

    def query(self, **changes: Any) -> str:
        """A link to this page with some of it changed."""
        state = {"plan": self.plan, "at": self.at, "show": self.figure, "clear": int(self.clear), **changes}
        return "?" + "&".join(f"{key}={value}" for key, value in state.items() if value not in ("", 0))


@dataclass(frozen=True, slots=True)
class Figured:
    """A number that can be opened: its text and the figure name of its working."""

    label: str
    shown: Shown
    figure: str
    note: str = ""
