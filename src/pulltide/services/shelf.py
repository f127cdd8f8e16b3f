"""What the shop owns: sources put on the shelf, to be taken for another plan. Storage is behind a small port."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Protocol


@dataclass(frozen=True, slots=True)
class ShelfItem:
    """One thing on the shelf: what kind of part, its name, and its document."""

    id: str
    family: str
    name: str
    document: dict[str, Any]


class Shelf(Protocol):
    """Keeps what the shop owns."""

    def items(self, family: str) -> Sequence[ShelfItem]:
        """Everything of a family, by name."""

    def put(self, family: str, name: str, document: dict[str, Any]) -> ShelfItem:
        """Put something on the shelf; a thing of the same name is replaced."""

    def remove(self, item_id: str) -> None:
        """Take something off the shelf for good; nothing happens if it is not there."""
