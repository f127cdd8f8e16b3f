"""Dumps of the shop: made while it runs and before anything is deleted, kept by count, checked before they are used."""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
from datetime import datetime
from pathlib import Path

from pulltide.ops.cluster import Cluster, ClusterError, home_for, why
from pulltide.ops.home import data_folder
from pulltide.store.dumps import DumpFailed, Dumps, checksum

DATABASE = "pulltide"


def folder_of(data: Path) -> Path:
    """Where the dumps of a data folder lie."""
    return data / "backups"


def dump(cluster: Cluster, data: Path, reason: str) -> Path:
    """Dump a running cluster's shop into the data folder's backups, with its checksum beside it.

    Raises ClusterError in a plain sentence; a dump that failed leaves nothing behind.
    """
    try:
        return Dumps(cluster.url(DATABASE), folder_of(data), cluster.programs).make(reason).file
    except DumpFailed as error:
        raise ClusterError(str(error)) from error


def check(file: Path) -> None:
    """Refuse a dump that is not there, or is not what its checksum says."""
    if not file.is_file():
        raise ClusterError(f"There is no dump at {file}.")
    noted = file.with_suffix(".sha256")
    if noted.exists() and noted.read_text().split()[:1] != [checksum(file)]:
        raise ClusterError(
            f"{file.name} is not what it was when it was made: its checksum differs. Nothing was changed."
        )


def restore(file: Path, data: Path) -> Path:
    """Put a dump in the place of the shop, which must not be running. Gives where the shop of before lies now.

    The dump is read into a cluster beside, and only then are the two exchanged: a fault leaves all as it was.
    """
    check(file)
    home = home_for(data, "pg")
    beside, before = home.with_name("pg-restoring"), home.with_name(f"pg-{datetime.now().astimezone():%Y%m%d%H%M%S}")
    Cluster(beside).destroy()
    cluster = Cluster(beside)
    try:
        cluster.start()
        cluster.create_database()
        _run(cluster, "pg_restore", "--exit-on-error", "--no-owner", f"--dbname={DATABASE}", str(file))
    except ClusterError:
        cluster.destroy()
        raise
    cluster.stop()
    Cluster(home).end_leftover()
    if home.exists():
        home.rename(before)
    beside.rename(home)
    return before


def _run(cluster: Cluster, program: str, *arguments: str) -> None:
    password = (cluster.home / "password").read_text().strip()
    where = ["--host=127.0.0.1", f"--port={cluster.port}", "--username=pulltide"]
    done = subprocess.run(
        [str(cluster.programs / program), *where, *arguments],
        env=os.environ | {"PGPASSWORD": password},
        capture_output=True,
        text=True,
        stdin=subprocess.DEVNULL,
        check=False,
    )
    if done.returncode != 0:
        raise ClusterError(f"The shop could not be {WORDS[program]}: {why(done.stdout + done.stderr)}")


WORDS = {"pg_restore": "restored"}


def running(data: Path) -> Cluster | None:
    """The cluster of a data folder while its server runs, with the port it has; None while it does not."""
    cluster = Cluster(home_for(data, "pg"))
    try:
        lines = (cluster.data / "postmaster.pid").read_text().splitlines()
        cluster.port = int(lines[3])
    except (OSError, ValueError, IndexError):
        return None
    return cluster if cluster.answers() else None


def backup_now(data: Path) -> Path:
    """Dump the shop, whether it runs or not."""
    cluster = running(data)
    if cluster is not None:
        return dump(cluster, data, "asked")
    cluster = Cluster(home_for(data, "pg"))
    if not (cluster.data / "PG_VERSION").exists():
        raise ClusterError(f"There is no shop in {data} yet.")
    cluster.start()
    try:
        return dump(cluster, data, "asked")
    finally:
        cluster.stop()


def main() -> int:
    """Entry of ``./script/backup`` and ``./script/restore``."""
    from pulltide.ops.start import StartError, only_one, settled

    parser = argparse.ArgumentParser(
        prog="script/backup", description="Back up the shop, or put a backup in its place."
    )
    parser.add_argument("--data", type=Path, help=f"folder that holds the data ({data_folder()})")
    parser.add_argument("--restore", type=Path, metavar="FILE", help="put this dump in the place of the shop")
    options = parser.parse_args()
    try:
        data = options.data.resolve() if options.data else settled(print)
        if options.restore is None:
            print(f"Backed up to {backup_now(data)}")
            return 0
        with only_one(data):
            kept = restore(options.restore.resolve(), data)
        print(f"Restored from {options.restore}. The shop of before lies in {kept}.")
    except (ClusterError, StartError) as error:
        print(error, file=sys.stderr)
        return 1
    except OSError as error:
        print(f"Could not be done: {error.strerror or error}.", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
