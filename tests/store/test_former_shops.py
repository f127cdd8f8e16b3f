"""The database of every version of the program, put back from its dump, brought up to date and read."""

from __future__ import annotations

import os
import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest
from sqlalchemy import Engine, text

from pulltide.core.line import solve_plan
from pulltide.core.machine import FORMAT_VERSION
from pulltide.ops.cluster import Cluster
from pulltide.quantities import Units
from pulltide.services.change import Change
from pulltide.services.documents import loaded
from pulltide.services.machines import StoredMachine, edit
from pulltide.store.database import connect, migrate
from pulltide.store.machines import PostgresMachines
from pulltide.store.shelf import PostgresShelf

DATA = Path(__file__).parents[1] / "data"
DUMPS = sorted(DATA.glob("version_*/*.dump"))


def test_every_version_has_a_dump():
    assert {path.parent.name for path in DUMPS} == {f"version_{number}" for number in range(1, FORMAT_VERSION + 1)}


@pytest.fixture(params=DUMPS, ids=lambda path: f"{path.parent.name} {path.stem}")
def former(request: pytest.FixtureRequest, cluster: Cluster) -> Iterator[Engine]:
    """A database as that version left it, not yet brought up to date."""
    cluster.drop_database("former")
    cluster.create_database("former")
    where = ["--host=127.0.0.1", f"--port={cluster.port}", "--username=pulltide", "--no-owner", "--exit-on-error"]
    subprocess.run(
        [str(cluster.programs / "pg_restore"), *where, "--dbname=former", str(request.param)],
        env=os.environ | {"PGPASSWORD": (cluster.home / "password").read_text().strip()},
        check=True,
    )
    engine = connect(cluster.url("former"))
    yield engine
    engine.dispose()
    cluster.drop_database("former")


@pytest.mark.long
def test_a_shop_of_a_former_version_is_read_whole_and_goes_on(former: Engine):
    current = "SELECT m.id, s.document, m.version FROM machine m JOIN machine_state s ON s.machine_id = m.id "
    with former.connect() as connection:
        then = connection.execute(text(f"{current} AND s.place = m.cursor")).fetchall()
    assert len(then) >= 3
    migrate(former)
    machines = PostgresMachines(former)
    listed = {stored.id: stored for stored in machines.all() if isinstance(stored, StoredMachine)}
    assert set(listed) == {row.id for row in then}, "none is lost, none is unreadable"
    for row in then:
        stored = machines.get(row.id)
        assert stored.version == row.version
        assert stored.machine == loaded(row.document)
        assert stored.machine.name == row.document["name"]
        assert stored.machine.note == row.document["note"] != "", "the words a person typed"
        for plan in stored.machine.plans:
            assert solve_plan(stored.machine, plan).chosen.shafts
        undone = machines.step(row.id, stored.version, -1)
        assert undone.machine.note != stored.machine.note
        renamed = edit(machines, row.id, undone.version, Change(sets={"name": "Goes on"}), Units())
        assert renamed.machine.name == "Goes on"
    assert not PostgresShelf(former).items(), "the shelf of those shops was empty, and is there"
