"""What can go wrong with an input, in one small tree.

PulltideError
├── InputError           one value: field, value, accepted range, reason
│   └── UnknownName      a designation that no table lists; the nearest known one is offered
├── InputErrors          every fault of one submission together
├── ImpossibleGeometry   sizes that no drive can have, in words
└── TableError           a packaged table is malformed: a fault of the program
"""

from __future__ import annotations

from collections.abc import Iterable

#: So much of a refused value is repeated in a message.
LONGEST_ECHO = 80


class PulltideError(Exception):
    """Root of every error that the program raises on purpose."""


class InputError(PulltideError, ValueError):
    """One value that cannot be used: which field, what was given, what is accepted."""

    def __init__(self, field: str, given: object, reason: str, *, accepted: str = "") -> None:
        self.field = field
        self.given = given
        self.reason = reason
        self.accepted = accepted
        self.path = ""
        super().__init__(self.sentence)

    @property
    def sentence(self) -> str:
        """The whole message: field, value, reason, accepted range."""
        tail = f" Accepted: {self.accepted}." if self.accepted else ""
        return f"{self.field}: {f'{self.shown} {self.reason}'.strip().removesuffix('.')}.{tail}"

    @property
    def shown(self) -> str:
        """What was given, as far as it is repeated."""
        given = str(self.given)
        return given if len(given) <= LONGEST_ECHO else f"{given[:LONGEST_ECHO]}…"


class UnknownName(InputError):
    """A designation that is in no table; carries the nearest known ones."""

    def __init__(self, field: str, given: object, known: Iterable[str]) -> None:
        super().__init__(field, given, "is not in the list", accepted=", ".join(known))


class InputErrors(PulltideError, ValueError):
    """All faults found in one submission."""

    def __init__(self, errors: Iterable[InputError]) -> None:
        self.errors = tuple(errors)
        super().__init__(" ".join(error.sentence for error in self.errors))


class ImpossibleGeometry(PulltideError, ValueError):
    """Sizes that no drive can have; the message says which and why."""


class TableError(PulltideError):
    """A packaged table is malformed."""
