"""Rows of the lists kept in a file between starts of the program: making them anew takes half a minute."""

from __future__ import annotations

import fcntl
import os
import subprocess
import sys
import zlib
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager, suppress
from dataclasses import dataclass, fields
from hashlib import sha256
from importlib import resources
from importlib.resources.abc import Traversable
from pathlib import Path
from typing import Any
from zipfile import BadZipFile

import numpy as np

from pulltide.core.candidates import Candidate
from pulltide.core.catalog import Catalog
from pulltide.core.family import Family
from pulltide.core.links import FAMILIES
from pulltide.core.search.rows import Rows, all_rows
from pulltide.core.shipped import shipped_catalog
from pulltide.store.process import end_with_parent

#: What of a row is an array of its own in the file.
COLUMNS = tuple(field.name for field in fields(Rows) if field.name not in ("family", "candidates", "ln_limit"))


@dataclass(frozen=True, slots=True)
class RowFile:
    """Keeps rows in a folder, under a name that follows from the parts and from the program that rated them."""

    folder: Path

    def rows(self, catalog: Catalog, make: Callable[[Catalog], tuple[Rows, ...]]) -> tuple[Rows, ...]:
        """The rows of a catalog, read where they are kept, else made and kept; also where the file cannot be read."""
        listed = _listed(catalog)
        file = self._file(listed)
        with self._alone():
            with suppress(OSError, ValueError, KeyError, EOFError, BadZipFile, zlib.error):
                return _read(file, listed)
            made = make(catalog)
            with suppress(OSError):
                self._write(file, made, listed)
        return made

    def _file(self, listed: dict[str, tuple[Candidate, ...]]) -> Path:
        return self.folder / f"rows-{_mark(listed)}.npz"

    def prepare(self) -> None:
        """Have the rows of the shipped lists made by a process of low priority, so that pages do not wait for it."""
        if self._file(_listed(shipped_catalog())).exists():
            return
        environment = os.environ | {"PULLTIDE_CACHE": str(self.folder)}
        command = ["nice", "-n", "10", sys.executable, "-m", "pulltide.store.row_file"]
        with suppress(OSError):
            subprocess.run(
                command,
                env=environment,
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                preexec_fn=end_with_parent,
                check=False,
            )

    @contextmanager
    def _alone(self) -> Iterator[None]:
        """One process makes the rows, others wait for them; where the folder cannot be written each makes its own."""
        with ExitStack() as held:
            with suppress(OSError):
                self.folder.mkdir(parents=True, exist_ok=True)
                lock = held.enter_context((self.folder / "rows.lock").open("w"))
                fcntl.flock(lock, fcntl.LOCK_EX)
            yield

    def _write(self, file: Path, rows: tuple[Rows, ...], listed: dict[str, tuple[Candidate, ...]]) -> None:
        arrays: dict[str, Any] = {}
        for family in rows:
            kind, place = family.family.kind, {one: k for k, one in enumerate(listed[family.family.kind])}
            arrays[f"{kind}/kept"] = np.array([place[one] for one in family.candidates], dtype=np.int64)
            arrays[f"{kind}/limits"] = np.array([f"{code} {basis}" for code, basis, _ in family.ln_limit])
            for number, (_, _, values) in enumerate(family.ln_limit):
                arrays[f"{kind}/limit {number}"] = values
            arrays |= {f"{kind}/{name}": getattr(family, name) for name in COLUMNS}
        beside = file.with_name(f".{os.getpid()}-{file.name}")
        with beside.open("wb") as target:
            np.savez_compressed(target, **arrays)
        for old in self.folder.glob("rows-*.npz"):
            old.unlink(missing_ok=True)
        beside.rename(file)


def cache_folder() -> Path:
    """Where what can be made anew is kept: ``PULLTIDE_CACHE``, or the account's cache folder."""
    named = os.environ.get("PULLTIDE_CACHE")
    if named:
        return Path(named)
    return Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache") / "pulltide-gear"


def _read(file: Path, listed: dict[str, tuple[Candidate, ...]]) -> tuple[Rows, ...]:
    with file.open("rb") as source, np.load(source, allow_pickle=False) as kept:
        return tuple(_rows(family, kept, listed[family.kind]) for family in FAMILIES if family.stages is not None)


def _rows(family: Family, kept: Any, candidates: tuple[Candidate, ...]) -> Rows:
    kind = family.kind
    names = [str(name).split(" ") for name in kept[f"{kind}/limits"]]
    limits = tuple((code, basis, kept[f"{kind}/limit {number}"]) for number, (code, basis) in enumerate(names))
    taken = tuple(candidates[k] for k in kept[f"{kind}/kept"].tolist())
    columns = {name: kept[f"{kind}/{name}"] for name in COLUMNS}
    return Rows(family=family, candidates=taken, ln_limit=limits, **columns)


def _listed(catalog: Catalog) -> dict[str, tuple[Candidate, ...]]:
    return {f.kind: tuple(f.stages.candidates(catalog)) for f in FAMILIES if f.stages is not None}


def _mark(listed: dict[str, tuple[Candidate, ...]]) -> str:
    """What tells lists and ratings apart: every candidate, and every file of the engineering."""
    digest = sha256(repr(listed).encode())
    for file in _files(resources.files("pulltide.core")):
        digest.update(file.read_bytes())
    return digest.hexdigest()[:16]


def _files(folder: Traversable) -> list[Traversable]:
    found: list[Traversable] = []
    for entry in sorted(folder.iterdir(), key=lambda item: item.name):
        if entry.is_dir() and entry.name != "__pycache__":
            found += _files(entry)
        elif entry.name.endswith((".py", ".csv", ".json")):
            found.append(entry)
    return found


if __name__ == "__main__":
    RowFile(cache_folder()).rows(shipped_catalog(), all_rows)
