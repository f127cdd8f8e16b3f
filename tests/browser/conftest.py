"""The real server with two workers, and a page that fails on any error the browser reports."""

from __future__ import annotations

import os
import ssl
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from urllib.error import URLError
from urllib.request import urlopen

import pytest
from playwright.sync_api import Browser, Page, expect

from pulltide.ops.cluster import free_port
from pulltide.ops.sharing import made
from pulltide.store.process import end_with_parent

# how long a page may take is not what is tested
expect.set_options(timeout=20_000)

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict) -> dict:
    return {**browser_type_launch_args, "executable_path": "/usr/bin/chromium", "args": FLAGS}


@pytest.fixture(scope="session")
def address(database_url: str, worker_id: str) -> Iterator[str]:
    """Address of a server process with two workers on the test database; test workers look for ports apart."""
    with serving(database_url, 18_420 + 700 * number_of(worker_id)) as where:
        yield where


def number_of(worker_id: str) -> int:
    return 0 if worker_id == "master" else int(worker_id.removeprefix("gw"))


@pytest.fixture(scope="session")
def shared_address(database_url: str, worker_id: str, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The same for a shared shop, over TLS with a certificate made on the spot."""
    certificate, key = made(tmp_path_factory.mktemp("tls"), ("127.0.0.1",))
    with serving(database_url, 22_900 + 700 * number_of(worker_id), (certificate, key)) as where:
        yield where


@contextmanager
def serving(database_url: str, first_port: int, tls: tuple[Path, Path] | None = None) -> Iterator[str]:
    """A server process with two workers, until it has ended."""
    port = free_port(first_port)
    environment = os.environ | {"PULLTIDE_DATABASE_URL": database_url, "PULLTIDE_SECRET": "test-secret"}
    environment["PULLTIDE_PATIENCE_S"] = "20"  # a crowded machine searches slowly; that is not what is tested
    where = f"{'http' if tls is None else 'https'}://127.0.0.1:{port}"
    command = [
        sys.executable,
        "-m",
        "uvicorn",
        "--factory",
        "pulltide.web.entry:app_from_environment",
        "--port",
        str(port),
        "--workers",
        "2",
        "--no-access-log",
        "--log-level",
        "warning",
        "--timeout-graceful-shutdown",
        "1",
    ]
    if tls is not None:
        environment |= {"PULLTIDE_SHARE_NAMES": "127.0.0.1", "PULLTIDE_SHARE_ADDRESS": f"{where}/"}
        command += ["--ssl-certfile", str(tls[0]), "--ssl-keyfile", str(tls[1])]
    server = subprocess.Popen(
        command, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, preexec_fn=end_with_parent
    )
    deadline = time.monotonic() + 60
    while time.monotonic() < deadline:
        try:
            urlopen(f"{where}/healthz", timeout=1, context=ssl._create_unverified_context()).close()
            break
        except (URLError, OSError):
            time.sleep(0.1)
    yield where
    server.terminate()
    server.wait(20)


def opening(browser: Browser, address: str) -> Iterator:
    """Opens windows that share nothing; afterwards none may have reported an error."""
    contexts, complaints = [], []

    def open_window(path: str = "/", **options) -> Page:
        look = {"base_url": address, "viewport": {"width": 1280, "height": 800}, "ignore_https_errors": True}
        context = browser.new_context(**{**look, **options})
        contexts.append(context)
        page = context.new_page()
        page.on("pageerror", lambda error: complaints.append(str(error)))
        page.on("console", lambda message: complaints.append(message.text) if message.type == "error" else None)
        page.goto(path)
        return page

    yield open_window
    for context in contexts:
        context.close()
    expected = [text for text in complaints if "422" in text or "409" in text or "401" in text or "ERR_" in text]
    assert not [text for text in complaints if text not in expected]


@pytest.fixture
def window(browser: Browser, address: str, empty_shop) -> Iterator:
    """Opens windows on the shop."""
    yield from opening(browser, address)


@pytest.fixture
def shared_window(browser: Browser, shared_address: str, empty_shop) -> Iterator:
    """Opens windows on the shared shop."""
    yield from opening(browser, shared_address)
