"""A list that was sent: looked at, then taken as a whole or not at all. Both run beside the pages and tell how far."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass
from typing import Any, Literal

from pulltide.core.holding import Holding
from pulltide.services.lists.look import Look, identity, look
from pulltide.services.lists.sheet import RefusedFile
from pulltide.services.stock import Stock

#: What to do with a part that stands on a list twice.
Twice = Literal["add", "first"]
#: So many faults and parts are shown; more are counted.
MAX_SHOWN = 200
Tell = Callable[[Mapping[str, Any]], None]


@dataclass(frozen=True, slots=True)
class Upload:
    """A list that was sent: its file's name, the list it is for, its content, and how far it is."""

    id: str
    name: str
    list_name: str
    content: bytes
    state: dict[str, Any]


def looked_at(upload: Upload, said: Mapping[str, str], family: str, tell: Tell) -> None:
    """Look at a list and tell what it holds, or why nothing of it can be read."""

    def far(done: int, total: int) -> None:
        tell({"stage": "reading", "done": done, "total": total})

    try:
        found = look(upload.content, upload.name, said=said, family=family, tell=far)
    except RefusedFile as refused:
        tell({"stage": "refused", "why": str(refused), "said": dict(said), "family": family})
        return
    tell({"stage": "read", "said": dict(said), "family": family, **report(found)})


def report(found: Look) -> dict[str, Any]:
    """What a look found, as plain data."""
    return {
        "good": len(found.holdings),
        "refused": len(found.refused),
        "twice": len(found.twice),
        "columns": [[column.header, column.field, column.unit] for column in found.columns.used],
        "unused": list(found.columns.unused),
        "decimal": found.decimal,
        "faults": [asdict(fault) for fault in found.faults[:MAX_SHOWN]],
        "sample": [[line, holding.model_dump(mode="json")] for line, holding in found.holdings[:MAX_SHOWN]],
    }


def taken(upload: Upload, stock: Stock, *, twice: Twice, afresh: bool, tell: Tell) -> None:
    """Keep the rows of a list that are good; ``afresh`` takes what stood on it off first."""
    state = upload.state

    def far(done: int, total: int) -> None:
        tell({**state, "stage": "storing", "done": done, "total": total})

    said, family = state.get("said", {}), state.get("family", "")
    found = look(upload.content, upload.name, said=said, family=family, tell=far)
    kept = stock.put(upload.list_name, merged(found, twice), afresh=afresh)
    tell({**state, "stage": "stored", "added": kept.added, "updated": kept.updated, "left": len(found.refused)})


def merged(found: Look, twice: Twice) -> list[Holding]:
    """Each part once: of one that stands there twice the counts together, or the first alone."""
    whole: dict[tuple[str, str, str], Holding] = {}
    for _, holding in found.holdings:
        key = identity(holding)
        if key not in whole:
            whole[key] = holding
        elif twice == "add":
            together = min(whole[key].on_hand + holding.on_hand, 100_000)
            whole[key] = whole[key].model_copy(update={"on_hand": together})
    return list(whole.values())
