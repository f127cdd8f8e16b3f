"""How a long search behaves beside other work: it says how far it is, makes way, and ends where nobody waits."""

from __future__ import annotations

from collections.abc import Callable

#: Called now and then with how many trains were looked at so far; may wait, or raise GivenUp.
Pace = Callable[[int], None]


class GivenUp(Exception):
    """Nobody waits for this search any longer."""


def at_once(looked_at: int) -> None:
    """As fast as it goes, to the end."""
