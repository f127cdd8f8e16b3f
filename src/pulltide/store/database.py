"""Connection to PostgreSQL, and bringing its tables up to date."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy import Engine, create_engine, inspect, text

#: Any number; it only has to be the same in every worker, so that one of them migrates at a time.
MIGRATION_LOCK = 7_320_114
MIGRATIONS = Path(__file__).parent / "migrations"
POOL = 20


def connect(url: str) -> Engine:
    """An engine for a database URL. The pool is as large as the threads that serve requests."""
    return create_engine(url, pool_size=POOL, max_overflow=POOL, pool_pre_ping=True)


def newest_revision() -> str:
    """The newest migration in the folder; files are numbered."""
    return max(path.stem.split("_")[0] for path in (MIGRATIONS / "versions").glob("[0-9]*.py"))


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
