"""Makes a database ready: tables up to date, demo shop loaded the first time only."""

from __future__ import annotations

from sqlalchemy import Engine, text

from pulltide.core.machine import Machine
from pulltide.demo import demo_machines
from pulltide.store.database import MIGRATION_LOCK, migrate
from pulltide.store.machines import PostgresMachines
from pulltide.store.people import is_done, mark_done

DEMO = "demo_loaded"


def prepare(engine: Engine, demo: bool) -> None:
    """Migrate, then load the demo once. Workers that start together wait for each other."""
    migrate(engine)
    if not demo or is_done(engine, DEMO):
        return
    with engine.connect() as connection, connection.begin():
        connection.execute(text("SELECT pg_advisory_xact_lock(:key)"), {"key": MIGRATION_LOCK + 1})
        if not is_done(engine, DEMO):
            load(engine, demo_machines())
            mark_done(engine, DEMO)


def load(engine: Engine, machines: list[Machine]) -> None:
    """Put machines on the shop floor, the first one on top."""
    store = PostgresMachines(engine)
    for machine in reversed(machines):
        store.create(machine)
