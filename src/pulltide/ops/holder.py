"""Which program holds a port on this machine, as far as the system tells."""

from __future__ import annotations

from pathlib import Path

#: State of a socket that listens, in the system's table.
LISTENS = "0A"


def holder_of(port: int) -> str:
    """The program that listens on a port, in words; another account's program is not told by the system."""
    sockets = {f"socket:[{inode}]" for inode in _listening(port)}
    for process in Path("/proc").glob("[0-9]*"):
        if sockets & _open_sockets(process):
            return f"{_name(process)} (process {process.name})"
    return "another program"


def _listening(port: int) -> list[str]:
    """Numbers of the sockets that listen on a port."""
    found = []
    for table in ("/proc/net/tcp", "/proc/net/tcp6"):
        try:
            lines = Path(table).read_text().splitlines()[1:]
        except OSError:
            continue
        for cells in map(str.split, lines):
            if cells[3] == LISTENS and int(cells[1].rsplit(":", 1)[1], 16) == port:
                found.append(cells[9])
    return found


def _open_sockets(process: Path) -> set[str]:
    try:
        return {str(entry.readlink()) for entry in (process / "fd").iterdir()}
    except OSError:
        return set()


def _name(process: Path) -> str:
    try:
        return (process / "comm").read_text().strip() or "a program"
    except OSError:
        return "a program"
