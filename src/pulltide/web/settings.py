"""What the web server is told by its environment; read once, at start."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True, slots=True)
class Settings:
    """Where the data is, the key that signs form tokens, whether to load the demo shop once, how many workers share.

    ``backups`` is the folder that dumps are kept in, made with ``database_programs``; None where nobody said.
    ``prices`` is the address of a price service, ``instruments`` that of instruments on a line; empty without.
    ``patience_s`` is how long a page waits for a search before it says that it goes on.
    """

    database_url: str
    secret: str
    demo: bool = False
    workers: int = 1
    backups: Path | None = None
    database_programs: Path | None = None
    prices: str = ""
    instruments: str = ""
    patience_s: float = 1.0


def from_environment() -> Settings:
    """Settings from PULLTIDE_DATABASE_URL and what else begins with PULLTIDE_, as it stands below."""
    workers = os.environ.get("PULLTIDE_WORKERS", "1")
    return Settings(
        os.environ["PULLTIDE_DATABASE_URL"],
        os.environ["PULLTIDE_SECRET"],
        os.environ.get("PULLTIDE_DEMO") == "1",
        int(workers) if workers.isdecimal() else 1,
        _folder("PULLTIDE_BACKUPS"),
        _folder("PULLTIDE_DATABASE_PROGRAMS"),
        os.environ.get("PULLTIDE_PRICES", ""),
        os.environ.get("PULLTIDE_INSTRUMENTS", ""),
        float(os.environ.get("PULLTIDE_PATIENCE_S", "1")),
    )


def _folder(name: str) -> Path | None:
    given = os.environ.get(name, "")
    return Path(given) if given else None
