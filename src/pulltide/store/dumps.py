"""Dumps of the shop's database: made beside and renamed, with a checksum, the newest kept."""

from __future__ import annotations

import os
import subprocess
from dataclasses import dataclass
from datetime import datetime
from hashlib import sha256
from pathlib import Path

from sqlalchemy import make_url

#: So many dumps are kept; the oldest go first. Of those, ones older than so many days go too, but never the newest few.
KEPT, KEPT_DAYS, ALWAYS_KEPT = 20, 400, 5


class DumpFailed(RuntimeError):
    """The shop could not be backed up; the message is a plain sentence."""


@dataclass(frozen=True, slots=True)
class Dump:
    """One dump: its file, when it was made, its size, and what for (``asked``, ``before-upgrade``)."""

    file: Path
    made_at: datetime
    size_bytes: int
    reason: str

    @property
    def is_whole(self) -> bool:
        """Whether it is what it was when it was made; a dump without a checksum counts as whole."""
        noted = self.file.with_suffix(".sha256")
        return not noted.exists() or noted.read_text().split()[:1] == [checksum(self.file)]


@dataclass(frozen=True, slots=True)
class Dumps:
    """The dumps of one database: its URL, the folder they lie in, where the database's programs are."""

    url: str
    folder: Path
    programs: Path

    def listed(self) -> tuple[Dump, ...]:
        """Every dump, the newest first."""
        found = []
        for file in sorted(self.folder.glob("*.dump"), reverse=True):
            known, reason = file.stat(), file.stem[len("2000-01-01-000000-") :]
            found.append(Dump(file, datetime.fromtimestamp(known.st_mtime).astimezone(), known.st_size, reason))
        return tuple(found)

    def make(self, reason: str) -> Dump:
        """Dump the shop as it is now, while it runs. Raises DumpFailed; one that failed leaves nothing behind."""
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            self.folder.chmod(0o700)
            target = self.folder / f"{datetime.now().astimezone():%Y-%m-%d-%H%M%S}-{reason}.dump"
            made = target.with_suffix(".part")
            self._run(made)
            made.chmod(0o600)
            target.with_suffix(".sha256").write_text(f"{checksum(made)}  {target.name}\n")
            made.rename(target)
        except OSError as error:
            raise DumpFailed(f"The shop could not be backed up: {error.strerror or error}.") from error
        self._clear_out()
        return next(dump for dump in self.listed() if dump.file == target)

    def _clear_out(self) -> None:
        """Delete the dumps that are too many, and those that are too old."""
        files = sorted(self.folder.glob("*.dump"), reverse=True)
        oldest = datetime.now().timestamp() - KEPT_DAYS * 24 * 3600
        for number, old in enumerate(files):
            if number >= KEPT or (number >= ALWAYS_KEPT and old.stat().st_mtime < oldest):
                old.unlink()
                old.with_suffix(".sha256").unlink(missing_ok=True)

    def _run(self, made: Path) -> None:
        where = make_url(self.url)
        address = [f"--host={where.host}", f"--port={where.port}", f"--username={where.username}"]
        done = subprocess.run(
            [str(self.programs / "pg_dump"), *address, "--format=custom", f"--file={made}", str(where.database)],
            env=os.environ | {"PGPASSWORD": where.password or ""},
            capture_output=True,
            text=True,
            stdin=subprocess.DEVNULL,
            check=False,
        )
        if done.returncode != 0:
            made.unlink(missing_ok=True)
            said = [line for line in done.stderr.splitlines() if line.strip()]
            full = any("No space left" in line for line in said)
            raise DumpFailed(
                f"The shop could not be backed up: {'the disk is full' if full else (said or ['no reason given'])[-1]}"
            )


def checksum(file: Path) -> str:
    """SHA-256 of a file's content."""
    with file.open("rb") as content:
        digest = sha256()
        while block := content.read(1 << 20):
            digest.update(block)
    return digest.hexdigest()
