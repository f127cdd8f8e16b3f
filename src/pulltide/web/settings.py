"""What the web server is told by its environment; read once, at start."""

from __future__ import annotations

import os
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Settings:
    """Where the data is, the key that signs form tokens, whether to load the demo shop once, how many workers share."""

    database_url: str
    secret: str
    demo: bool = False
    workers: int = 1


def from_environment() -> Settings:
    """Settings from PULLTIDE_DATABASE_URL, PULLTIDE_SECRET, PULLTIDE_DEMO and PULLTIDE_WORKERS."""
    workers = os.environ.get("PULLTIDE_WORKERS", "1")
    return Settings(
        os.environ["PULLTIDE_DATABASE_URL"],
        os.environ["PULLTIDE_SECRET"],
        os.environ.get("PULLTIDE_DEMO") == "1",
        int(workers) if workers.isdecimal() else 1,
    )
