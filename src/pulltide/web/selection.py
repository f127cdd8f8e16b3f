"""Where a machine's page is turned to, as an address, and a number that can be opened."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any
from urllib.parse import urlencode

from pulltide.quantities import Shown

#: The place that a machine opens at.
FIRST_PLACE = "train"


@dataclass(frozen=True, slots=True, kw_only=True)
class Selection:
    """What the page is turned to: its place, which plan, which part is open for editing, which figure is explained.

    ``pick`` is the field of the open part that a list is shown for, ``wish`` what a search may use.
    ``together`` has stages that are equal to the open one edited with it.
    """

    plan: int = 0
    at: str = ""
    figure: str = ""
    clear: bool = False
    place: str = FIRST_PLACE
    machine_id: str = ""
    pick: str = ""
    wish: str = ""
    together: bool = False

    def within(self, machine_id: str, plans: int) -> Selection:
        """The same on a machine with so many plans."""
        return replace(self, machine_id=machine_id, plan=min(max(self.plan, 0), plans - 1))

    def to(self, place: str = "", **changes: Any) -> str:
        """Address of the page turned elsewhere; another place forgets what was open in this one."""
        kept = self._kept if "at" not in changes else {**self._kept, "pick": "", "together": 0}
        state = {"plan": self.plan} if place and place != self.place else kept
        return f"/machines/{self.machine_id}/{place or self.place}{_query({**state, **changes})}"

    def action(self, path: str) -> str:
        """Address to post a change to, so that the answer is turned to the same."""
        return f"/machines/{self.machine_id}/{path}{_query({'in': self.place, **self._kept})}"

    @property
    def _kept(self) -> dict[str, Any]:
        state = {"plan": self.plan, "at": self.at, "show": self.figure, "clear": int(self.clear), "pick": self.pick}
        return {**state, "wish": self.wish, "together": int(self.together)}


def _query(state: dict[str, Any]) -> str:
    said = {name: value for name, value in state.items() if value not in ("", 0)}
    return f"?{urlencode(said, safe='/:;,')}" if said else ""


@dataclass(frozen=True, slots=True)
class Figured:
    """A number that can be opened: its text and the figure name of its working."""

    label: str
    shown: Shown
    figure: str
    note: str = ""
