"""Connection to PostgreSQL, and bringing its tables up to date."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from sqlalchemy import Engine, create_engine, event, inspect, text

from pulltide.store.patient import PatientConnection

#: Any number; it only has to be the same in every worker, so that one of them migrates at a time.
MIGRATION_LOCK = 7_320_114
MIGRATIONS = Path(__file__).parent / "migrations"
POOL = 20


#: Connections that all web workers together may hold; the server allows some more.
MAX_CONNECTIONS = 100
#: How long is waited to be let in [s], for a statement and a lock, and with a transaction left open [ms].
CONNECT_S, STATEMENT_MS, LOCK_MS, IDLE_MS = 5, 10_000, 8_000, 30_000


def pool_size(workers: int) -> int:
    """Connections, and threads that serve requests, of one of so many workers.

    >>> pool_size(1), pool_size(8), pool_size(200)
    (20, 12, 2)
    """
    return max(min(POOL, MAX_CONNECTIONS // max(workers, 1)), 2)


def connect(url: str, workers: int = 1) -> Engine:
    """An engine for a database URL; nothing waits on it for ever."""
    limits = {
        "statement_timeout": STATEMENT_MS,
        "lock_timeout": LOCK_MS,
        "idle_in_transaction_session_timeout": IDLE_MS,
    }
    options = " ".join(f"-c {name}={value}" for name, value in limits.items())
    engine = create_engine(
        url,
        pool_size=pool_size(workers),
        max_overflow=0,
        pool_timeout=CONNECT_S,
        pool_pre_ping=True,
        connect_args={"connect_timeout": CONNECT_S, "options": options},
    )

    @event.listens_for(engine, "do_connect")
    def patiently(_dialect: Any, _record: Any, arguments: Any, named: dict[str, Any]) -> PatientConnection:
        return PatientConnection.connect(*arguments, **named)

    return engine


def revisions() -> tuple[str, ...]:
    """Every migration in the folder, oldest first; files are numbered."""
    return tuple(sorted(path.stem.split("_")[0] for path in (MIGRATIONS / "versions").glob("[0-9]*.py")))


def newest_revision() -> str:
    """The newest migration in the folder."""
    return revisions()[-1]


def current_revision(engine: Engine) -> str | None:
    """The migration a database is at, or None for an empty one."""
    with engine.connect() as connection:
        if not inspect(connection).has_table("alembic_version"):
            return None
        return connection.execute(text("SELECT version_num FROM alembic_version")).scalar()


def migrate(engine: Engine) -> bool:
    """Bring the tables up to date; safe when several workers start at once. Returns whether anything was done."""
    if current_revision(engine) == newest_revision():
        return False
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.connect() as connection, connection.begin():
        connection.execute(text("SELECT pg_advisory_xact_lock(:key)"), {"key": MIGRATION_LOCK})
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
    return True
