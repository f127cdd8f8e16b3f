"""Rows of the lists kept in a file between starts of the program: making them anew takes half a minute."""

from __future__ import annotations

import fcntl
import os
import subprocess
import sys
import zlib
from collections.abc import Iterator, Sequence
from contextlib import ExitStack, contextmanager, suppress
from dataclasses import dataclass, field, fields
from functools import cache
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
from pulltide.core.search.rows import SEARCHED, Make, Rows, rows_again, rows_of
from pulltide.core.shipped import shipped_catalog
from pulltide.store.process import end_with_parent

#: What of a row is an array of its own in the file.
COLUMNS = tuple(one.name for one in fields(Rows) if one.name not in ("family", "candidates", "ln_limit"))
#: So many files of a family are kept: another program makes another.
KEPT = 3


@dataclass(frozen=True, slots=True)
class RowFile:
    """Keeps the rows of each family's shipped parts in a file, named after them and the program that rated them."""

    folder: Path
    #: Of each family what the shipped lists have, and its rows, once they are read.
    _shipped: dict[str, tuple[tuple[Candidate, ...], Rows]] = field(default_factory=dict, repr=False, compare=False)

    def rows(self, catalog: Catalog, make: Make = rows_of) -> tuple[Rows, ...]:
        """The rows of a catalog: of each family read where they are kept, else made and kept; what the shop's own lists
        add is made on top.
        """
        with self._alone():
            return tuple(self._with_own(family, catalog, make) for family in SEARCHED)

    def _with_own(self, family: Family, catalog: Catalog, make: Make) -> Rows:
        listed, rows = self._of_shipped(family, make)
        own = listed if catalog is shipped_catalog() else _listed(family, catalog)
        if own == listed:
            return rows
        if family.stages is not None and not family.stages.by_shape:
            return make(family, own, catalog)
        return rows_again(rows, own, catalog, make)

    def _of_shipped(self, family: Family, make: Make) -> tuple[tuple[Candidate, ...], Rows]:
        if family.kind not in self._shipped:
            listed = _listed(family, shipped_catalog())
            self._shipped[family.kind] = listed, self._rows(family, listed, make)
        return self._shipped[family.kind]

    def _rows(self, family: Family, listed: tuple[Candidate, ...], make: Make) -> Rows:
        file = self._file(family, listed)
        with suppress(OSError, ValueError, KeyError, EOFError, BadZipFile, zlib.error):
            return _read(file, family, listed)
        made = make(family, listed, shipped_catalog())
        with suppress(OSError):
            self._write(file, made, listed)
        return made

    def _file(self, family: Family, listed: Sequence[Candidate]) -> Path:
        mark = sha256(_program() + repr(listed).encode()).hexdigest()[:16]
        return self.folder / f"rows-{family.kind}-{mark}.npz"

    def prepare(self) -> None:
        """Have the rows of the shipped lists made by a process of low priority, so that pages do not wait for it."""
        if all(self._file(family, _listed(family, shipped_catalog())).exists() for family in SEARCHED):
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

    def _write(self, file: Path, rows: Rows, listed: Sequence[Candidate]) -> None:
        place = {one: k for k, one in enumerate(listed)}
        arrays: dict[str, Any] = {name: getattr(rows, name) for name in COLUMNS}
        arrays["kept"] = np.array([place[one] for one in rows.candidates], dtype=np.int64)
        arrays["limits"] = np.array([f"{code} {basis}" for code, basis, _ in rows.ln_limit])
        for number, (_, _, values) in enumerate(rows.ln_limit):
            arrays[f"limit {number}"] = values
        beside = file.with_name(f".{os.getpid()}-{file.name}")
        with beside.open("wb") as target:
            np.savez_compressed(target, **arrays)
        beside.rename(file)
        files = sorted(self.folder.glob(f"rows-{rows.family.kind}-*.npz"), key=lambda one: one.stat().st_mtime)
        for old in files[:-KEPT]:
            old.unlink(missing_ok=True)


def cache_folder() -> Path:
    """Where what can be made anew is kept: ``PULLTIDE_CACHE``, or the account's cache folder."""
    named = os.environ.get("PULLTIDE_CACHE")
    if named:
        return Path(named)
    return Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache") / "pulltide-gear"


def _read(file: Path, family: Family, listed: Sequence[Candidate]) -> Rows:
    with file.open("rb") as source, np.load(source, allow_pickle=False) as kept:
        names = [str(name).split(" ") for name in kept["limits"]]
        return Rows(
            family=family,
            candidates=tuple(listed[k] for k in kept["kept"].tolist()),
            ln_limit=tuple((code, basis, kept[f"limit {number}"]) for number, (code, basis) in enumerate(names)),
            **{name: kept[name] for name in COLUMNS},
        )


def _listed(family: Family, catalog: Catalog) -> tuple[Candidate, ...]:
    return () if family.stages is None else tuple(family.stages.candidates(catalog))


@cache
def _program() -> bytes:
    """What tells ratings apart: every file of the engineering."""
    digest = sha256()
    for file in _files(resources.files("pulltide.core")):
        digest.update(file.read_bytes())
    return digest.digest()


def _files(folder: Traversable) -> list[Traversable]:
    found: list[Traversable] = []
    for entry in sorted(folder.iterdir(), key=lambda item: item.name):
        if entry.is_dir() and entry.name != "__pycache__":
            found += _files(entry)
        elif entry.name.endswith((".py", ".csv", ".json")):
            found.append(entry)
    return found


if __name__ == "__main__":
    RowFile(cache_folder()).rows(shipped_catalog())
