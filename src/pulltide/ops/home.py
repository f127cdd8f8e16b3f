"""Where a shop's data lies: a folder of the person's own, outside what the program is unpacked or checked out in."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable
from pathlib import Path

from pulltide.ops.cluster import Cluster, home_for

#: Where the data lay before: inside the program's own folder.
FORMER = Path(__file__).resolve().parents[3] / ".run"
#: What marks a folder that holds a shop; it is moved last.
MARK = "secret"
#: What is moved beside the database and the mark.
BESIDE = ("backups", "server.log")


def data_folder() -> Path:
    """The state folder of this account: ``$XDG_STATE_HOME`` or ``~/.local/state``, with the program's name in it."""
    given = os.environ.get("XDG_STATE_HOME", "")
    base = Path(given) if given and Path(given).is_absolute() else Path.home() / ".local" / "state"
    return base / "pulltide-gear"


def holds_a_shop(folder: Path) -> bool:
    """Whether a shop's data lies in a folder."""
    return (folder / MARK).exists()


def moved(former: Path, folder: Path, say: Callable[[str], None]) -> Path:
    """Move a shop from its former folder once; the folder that its data lies in from now on.

    Nothing is copied: each part is renamed, the mark last, so that a move cut short goes on at the next start. Where
    the two lie on different disks, or something stands in the way, the data stays where it is, and that is said.
    """
    if not holds_a_shop(former) or holds_a_shop(folder):
        return folder
    old, new = home_for(former, "pg"), home_for(folder, "pg")
    Cluster(old).end_leftover()
    try:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        new.parent.mkdir(parents=True, exist_ok=True)
        _renamed(((old, new), *((former / name, folder / name) for name in (*BESIDE, MARK))))
    except OSError as error:
        say(f"The data stays in {former}: it could not be moved to {folder} ({error.strerror}).")
        return former
    say(f"The shop's data was moved from {former} to {folder}, out of the program's own folder.")
    return folder


def _renamed(pairs: Iterable[tuple[Path, Path]]) -> None:
    """Rename what is still there and has not been."""
    for source, target in pairs:
        if source.exists() and not target.exists():
            source.rename(target)
