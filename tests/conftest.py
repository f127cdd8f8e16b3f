"""Shared fixtures: a throwaway database cluster, a client without a socket, and builders with sane defaults."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import Engine, text

from pulltide.core.machine import Machine
from pulltide.ops.cluster import Cluster, home_for
from pulltide.store.database import connect, migrate
from pulltide.web.app import create_app
from pulltide.web.settings import Settings

PROJECT = Path(__file__).resolve().parents[1]
INCH = 25.4


def build_machine(links: list[dict[str, Any]] | None = None, **changes: Any) -> Machine:
    """A 1 1/2 hp motor, A belt, worm and chain that works; a test states only what it varies."""
    need = {
        "speed_min_rpm": 14.0,
        "speed_ideal_rpm": 17.0,
        "speed_max_rpm": 20.0,
        "running_torque_nm": 120.0,
        "peak_torque_nm": 180.0,
        "breakaway_torque_nm": 150.0,
    }
    duty = {"shock": "light", "hours_per_day": 6.0}
    motor = {"power_kw": 1.1185, "speed_rpm": 1740.0, "breakdown_torque_ratio": 2.5, "locked_rotor_torque_ratio": 2.2}
    default_links = [
        build_belt(),
        {"kind": "reducer", "designation": "PW-6 15:1"},
        {"kind": "roller_chain", "chain": "50", "driver_teeth": 17, "driven_teeth": 46, "pitches": 90},
    ]
    return Machine.model_validate(
        {
            "name": "Test rig",
            "need": need | changes.get("need", {}),
            "duty": duty | changes.get("duty", {}),
            "plans": [
                {
                    "name": "Plan A",
                    "source": motor | changes.get("motor", {}),
                    "links": default_links if links is None else links,
                }
            ],
        }
    )


def build_belt(**changes: Any) -> dict[str, Any]:
    """An A belt from 3.4 to 8 in outside diameter."""
    step = {"driver_diameter_mm": 3.4 * INCH, "driven_diameter_mm": 8.0 * INCH}
    return {"kind": "v_belt", "section": "A", "measured_as": "outside", "steps": [step], "belt": "A51"} | changes


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    """A private cluster without durability, deleted afterwards."""
    made = Cluster(home_for(PROJECT, f"test-pg-{os.getpid()}"), durable=False)
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
    """The test database without machines or people."""
    with engine.begin() as connection:
        connection.execute(text("TRUNCATE machine, machine_state, person RESTART IDENTITY CASCADE"))
    return engine


@pytest.fixture(scope="session")
def session_client(database_url: str) -> Iterator[TestClient]:
    with TestClient(create_app(Settings(database_url, "test-secret")), base_url="http://127.0.0.1") as client:
        yield client


@pytest.fixture
def client(session_client: TestClient, empty_shop: Engine) -> TestClient:
    """The application in process, on an empty shop, as a person nobody has seen."""
    session_client.cookies.clear()
    return session_client
