"""Shared fixtures: a throwaway database cluster, a client without a socket, and builders with sane defaults."""

from __future__ import annotations

import gc

# nothing is garbage while the program and its tests are taken in
gc.disable()

import os
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from hypothesis import settings
from sqlalchemy import Engine, text
from sqlalchemy.exc import OperationalError

from draws import draws
from pulltide.ops.cluster import Cluster, home_for
from pulltide.store.account_tables import Base
from pulltide.store.database import connect, migrate
from pulltide.store.stock import MARK
from pulltide.web.app import create_app
from pulltide.web.settings import Settings

# nothing is timed: the machine may be busy
settings.register_profile("untimed", deadline=None, max_examples=draws(100))
settings.load_profile("untimed")


def pytest_collection_finish() -> None:
    """What is there by now stays: it is not looked through for garbage again and again."""
    gc.freeze()
    gc.enable()


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption(
        "--quick", action="store_true", help="leave out drawn properties, the browser, servers and whatever takes long"
    )


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """What ``--quick`` leaves out: whatever draws its inputs, drives a browser, starts a server or takes long."""
    if not config.getoption("--quick"):
        return
    slow = [item for item in items if _draws(item) or _starts(item) or item.get_closest_marker("long")]
    config.hook.pytest_deselected(items=slow)
    items[:] = [item for item in items if item not in set(slow)]


def _draws(item: pytest.Item) -> bool:
    return hasattr(getattr(item, "obj", None), "hypothesis")


def _starts(item: pytest.Item) -> bool:
    return item.path.parent.name in ("browser", "ops") or "database_url" in getattr(item, "fixturenames", ())


PROJECT = Path(__file__).resolve().parents[1]
#: What is rated once is kept between runs and shared by all workers.
os.environ["PULLTIDE_CACHE"] = str(PROJECT / ".run" / "rows")


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    """A private cluster without durability, deleted afterwards."""
    made = Cluster(home_for(PROJECT / ".run", f"test-pg-{os.getpid()}"), durable=False)
    made.start()
    yield made
    made.destroy()


@pytest.fixture(scope="session")
def database_url(cluster: Cluster) -> Iterator[str]:
    """A migrated database."""
    cluster.create_database("pulltide_test")
    url = cluster.url("pulltide_test")
    engine = connect(url)
    migrate(engine)
    engine.dispose()
    yield url
    cluster.drop_database("pulltide_test")


@pytest.fixture(scope="session")
def engine(database_url: str) -> Iterator[Engine]:
    """An engine on the test database."""
    made = connect(database_url)
    yield made
    made.dispose()


@pytest.fixture
def empty_shop(engine: Engine) -> Engine:
    """The test database without machines, people or anything on the shelf."""
    tables = ", ".join(table.name for table in Base.metadata.sorted_tables if table.name != "setting")
    for tries_left in range(9, -1, -1):
        try:
            with engine.begin() as connection:
                connection.execute(text(f"TRUNCATE {tables} CASCADE"))
                # the mark of the lists goes on counting: what was read under an old one is known by it
                connection.execute(text("DELETE FROM setting WHERE name <> :mark"), {"mark": MARK})
        except OperationalError:  # the streams of the last test's windows still look at these tables
            if not tries_left:
                raise
        else:
            break
    return engine


@pytest.fixture(scope="session")
def session_client(database_url: str) -> Iterator[TestClient]:
    with TestClient(create_app(Settings(database_url, "test-secret")), base_url="http://127.0.0.1") as client:
        client.app.state.patience_s = 120.0  # a crowded machine searches slowly; that is not what is tested
        yield client


@pytest.fixture
def client(session_client: TestClient, empty_shop: Engine) -> TestClient:
    """The application in process, on an empty shop, as a person nobody has seen."""
    session_client.cookies.clear()
    return session_client
