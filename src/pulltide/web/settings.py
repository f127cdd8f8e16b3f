"""What the web server is told by its environment; read once, at start."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

from pulltide.language import DEFAULT_LOCALE


@dataclass(frozen=True, slots=True)
class Share:
    """How a shop is reached by others; ``quick_passwords`` is for tests, which hash many."""

    names: frozenset[str]
    address: str = ""
    fingerprint: str = ""
    quick_passwords: bool = False


@dataclass(frozen=True, slots=True)
class Hook:
    """Address of a program that is told of changes, empty for none, and the key that messages are signed with."""

    address: str = ""
    key: str = ""


@dataclass(frozen=True, slots=True)
class Settings:
    """Where the data is, the key that signs form tokens, whether to load the demo shop once, how many workers share.

    ``backups`` is the folder that dumps are kept in, made with ``database_programs``; None where nobody said.
    ``prices`` is the address of a price service, ``instruments`` that of instruments on a line; empty without.
    ``share`` holds the names that a shared shop goes by, with its address and the fingerprint of its certificate; None
    where only this machine is served.
    ``hook`` is a program that is told of changes.
    ``language`` is that of the whole shop, one that has a catalog.
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
    share: Share | None = None
    hook: Hook = Hook()
    language: str = DEFAULT_LOCALE


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
        _share(),
        Hook(os.environ.get("PULLTIDE_HOOK", ""), os.environ.get("PULLTIDE_HOOK_KEY", "")),
        os.environ.get("PULLTIDE_LANGUAGE", "") or DEFAULT_LOCALE,
    )


def _share() -> Share | None:
    names = os.environ.get("PULLTIDE_SHARE_NAMES", "").split()
    if not names:
        return None
    return Share(
        frozenset(names), os.environ.get("PULLTIDE_SHARE_ADDRESS", ""), os.environ.get("PULLTIDE_SHARE_PRINT", "")
    )


def _folder(name: str) -> Path | None:
    given = os.environ.get(name, "")
    return Path(given) if given else None
