"""The private cluster: where it lives, what it leaves alone, what it says."""

from __future__ import annotations

import os
import shutil
import socket
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest

from pulltide.ops.cluster import (
    LONGEST_SOCKET_FOLDER,
    Cluster,
    ClusterError,
    account,
    free_port,
    home_for,
    open_log,
    put_aside_when_large,
    server_programs,
    why,
)

PROJECT = Path(__file__).resolve().parents[2]


@pytest.fixture
def home() -> Iterator[Path]:
    made = home_for(PROJECT / ".run", f"test-cluster-{os.getpid()}")
    yield made
    shutil.rmtree(made, ignore_errors=True)


def test_a_taken_port_is_passed_over():
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        assert free_port(port) > port


def test_a_long_path_gets_a_short_socket_folder(tmp_path: Path):
    deep = Cluster(tmp_path / ("x" * 100))
    assert len(str(deep.sockets)) <= LONGEST_SOCKET_FOLDER
    assert Cluster(Path("/srv/short")).sockets == Path("/srv/short/socket")


def test_a_folder_closed_to_others_is_not_used_by_root(tmp_path: Path):
    closed = tmp_path / "closed"
    closed.mkdir(mode=0o700)
    home = home_for(closed, "pg")
    if account().drops:
        assert home.is_relative_to("/var/lib")
        assert home != home_for(tmp_path / "other", "pg")
    else:
        assert home == closed / "pg"


def test_the_newest_server_is_taken():
    assert int(server_programs().parent.name) >= 15


def test_a_log_is_private_and_put_aside_when_it_is_large(tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr("pulltide.ops.cluster.LOG_BYTES", 100)
    path = tmp_path / "server.log"
    for words in (b"a" * 60, b"b" * 60, b"c" * 60):
        with open_log(path) as log:
            log.write(words)
    assert path.stat().st_mode & 0o777 == 0o600
    assert path.read_bytes() == b"c" * 60
    assert path.with_suffix(".old.log").read_bytes() == b"a" * 60 + b"b" * 60
    with open_log(path) as log:
        log.write(b"d" * 60)
        log.flush()
        put_aside_when_large(path)
        log.write(b"e" * 10)
    assert path.read_bytes() == b"e" * 10
    assert path.with_suffix(".old.log").read_bytes() == b"c" * 60 + b"d" * 60


def test_what_a_broken_first_start_left_is_made_anew(home: Path):
    cluster = Cluster(home, durable=False)
    cluster.data.mkdir(parents=True)
    (cluster.data / "half").write_text("made")
    cluster.start()
    cluster.create_database("one")
    cluster.create_database("one")
    assert not (cluster.data / "half").exists()
    with psycopg.connect(cluster.url("one").replace("+psycopg", "")) as connection:
        settings = dict(
            connection.execute("SELECT name, setting FROM pg_settings WHERE name IN ('listen_addresses', 'port')")
        )
    assert settings == {"listen_addresses": "127.0.0.1", "port": str(cluster.port)}
    with pytest.raises(psycopg.OperationalError):
        psycopg.connect(cluster.url("one").replace("+psycopg", "").replace("pulltide:", "pulltide:wrong"))
    cluster.drop_database("one")
    cluster.stop()
    assert cluster.process.poll() is not None


def test_two_clusters_stand_side_by_side(home: Path, cluster: Cluster):
    other = Cluster(home, durable=False)
    other.start()
    assert other.port != cluster.port
    other.destroy()
    assert not home.exists()
    with psycopg.connect(cluster.url("postgres").replace("+psycopg", "")) as connection:
        assert connection.execute("SELECT 1").fetchone() == (1,)


def test_a_port_that_another_takes_first_is_left_to_it(home: Path, cluster: Cluster, monkeypatch: pytest.MonkeyPatch):
    """Two starts at once find the same port free: the second must not take the first one's server for its own."""
    offered = iter((cluster.port, free_port(cluster.port + 1)))
    monkeypatch.setattr("pulltide.ops.cluster.free_port", lambda first: next(offered))
    other = Cluster(home, durable=False)
    other.start()
    try:
        assert other.port != cluster.port
        other.create_database("theirs")
    finally:
        other.destroy()


def test_durable_data_is_durable(home: Path):
    """What people save is written with fsync; only throwaway clusters go without."""
    kept = Cluster(home)
    kept.start()
    with psycopg.connect(kept.url("postgres").replace("+psycopg", "")) as connection:
        names = ("fsync", "synchronous_commit", "full_page_writes")
        found = [connection.execute(f"SHOW {name}").fetchone() for name in names]
    kept.destroy()
    assert found == [("on",)] * 3


def test_a_data_folder_that_cannot_be_made_is_said_plainly():
    with pytest.raises(ClusterError, match="cannot be made"):
        Cluster(Path("/proc/nowhere/pg")).start()


@pytest.mark.parametrize(
    ("words", "reason"),
    [
        (
            "initdb: error: could not write: No space left on device\ninitdb: removing data directory",
            "the disk is full",
        ),
        ("LOG: starting\nFATAL: could not create lock file\nLOG: bye", "FATAL: could not create lock file"),
        ("just words", "just words"),
        ("", "no reason given"),
    ],
)
def test_the_reason_is_picked_from_many_words(words: str, reason: str):
    assert why(words) == reason
