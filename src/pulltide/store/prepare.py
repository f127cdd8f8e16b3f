"""Makes a database ready: tables up to date, demo shop loaded the first time only."""

from __future__ import annotations

from sqlalchemy import Engine, text

from pulltide.core.machine import Machine
from pulltide.demo import demo_machines, demo_shelf
from pulltide.services.stock import SHELF
from pulltide.store.database import MIGRATION_LOCK, migrate
from pulltide.store.machines import PostgresMachines
from pulltide.store.people import is_done, mark_done
from pulltide.store.stock import PostgresStock

DEMO, DEMO_SHELF = "demo_loaded", "demo_shelf_loaded"


def prepare(engine: Engine, demo: bool) -> None:
    """Migrate, then load the demo once. Workers that start together wait for each other."""
    migrate(engine)
    if not demo or (is_done(engine, DEMO) and is_done(engine, DEMO_SHELF)):
        return
    with engine.connect() as connection, connection.begin():
        connection.execute(text("SELECT pg_advisory_xact_lock(:key)"), {"key": MIGRATION_LOCK + 1})
        if not is_done(engine, DEMO):
            load(engine, demo_machines())
            mark_done(engine, DEMO)
        if not is_done(engine, DEMO_SHELF):
            PostgresStock(engine).put(SHELF, demo_shelf())
            mark_done(engine, DEMO_SHELF)


def load(engine: Engine, machines: list[Machine]) -> None:
    """Put machines on the shop floor, the first one on top."""
    store = PostgresMachines(engine)
    for machine in reversed(machines):
        store.create(machine)
