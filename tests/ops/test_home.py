"""A shop's data outside the program's folder, and the one move that brings it there."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest

from pulltide.ops.cluster import Cluster, home_for
from pulltide.ops.home import FORMER, data_folder, holds_a_shop, moved


@pytest.fixture
def folders(tmp_path: Path) -> Iterator[tuple[Path, Path]]:
    """A former folder that holds a shop with one row, and where it is to go."""
    former, folder = tmp_path / "checkout" / ".run", tmp_path / "state" / "pulltide-gear"
    former.mkdir(parents=True)
    cluster = Cluster(home_for(former, "pg"))
    cluster.start()
    cluster.create_database()
    with psycopg.connect(cluster.url().replace("+psycopg", "")) as connection:
        connection.execute("CREATE TABLE kept (word text)")
        connection.execute("INSERT INTO kept VALUES ('hammer')")
    cluster.stop()
    (former / "secret").write_text("key")
    (former / "backups").mkdir()
    (former / "backups" / "one.dump").write_text("dump")
    yield former, folder
    for place in (former, folder):
        Cluster(home_for(place, "pg")).end_leftover()
        shutil.rmtree(home_for(place, "pg").parent, ignore_errors=True)


def word_in(folder: Path) -> str:
    cluster = Cluster(home_for(folder, "pg"))
    cluster.start()
    try:
        with psycopg.connect(cluster.url().replace("+psycopg", "")) as connection:
            return connection.execute("SELECT word FROM kept").fetchone()[0]
    finally:
        cluster.stop()


def test_a_shop_is_moved_once_and_whole(folders: tuple[Path, Path]):
    former, folder = folders
    said: list[str] = []
    assert moved(former, folder, said.append) == folder
    assert word_in(folder) == "hammer"
    assert (folder / "secret").read_text() == "key"
    assert (folder / "backups" / "one.dump").read_text() == "dump"
    assert not holds_a_shop(former)
    assert len(said) == 1
    assert str(folder) in said[0]
    assert moved(former, folder, said.append) == folder
    assert len(said) == 1


def test_a_move_cut_short_goes_on(folders: tuple[Path, Path]):
    former, folder = folders
    folder.mkdir(parents=True)
    target = home_for(folder, "pg")
    target.parent.mkdir(parents=True, exist_ok=True)
    home_for(former, "pg").rename(target)
    assert moved(former, folder, print) == folder
    assert word_in(folder) == "hammer"


def test_what_cannot_be_moved_stays(folders: tuple[Path, Path], monkeypatch: pytest.MonkeyPatch):
    former, folder = folders

    def refuse(self: Path, target: Path) -> Path:
        raise OSError(18, "Invalid cross-device link")

    said: list[str] = []
    monkeypatch.setattr(Path, "rename", refuse)
    assert moved(former, folder, said.append) == former
    monkeypatch.undo()
    assert "stays in" in said[0]
    assert word_in(former) == "hammer"


def test_the_folder_is_the_accounts_own_and_outside_the_program(monkeypatch: pytest.MonkeyPatch, tmp_path: Path):
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    assert data_folder() == tmp_path / "pulltide-gear"
    monkeypatch.setenv("XDG_STATE_HOME", "not/absolute")
    monkeypatch.setenv("HOME", str(tmp_path))
    assert data_folder() == tmp_path / ".local" / "state" / "pulltide-gear"
    assert FORMER.parent not in data_folder().parents
