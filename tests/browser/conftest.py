"""The real server with two workers, and a page that fails on any error the browser reports."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from collections.abc import Iterator
from urllib.error import URLError
from urllib.request import urlopen

import pytest
from playwright.sync_api import Browser, Page

from pulltide.ops.cluster import free_port
from pulltide.store.process import end_with_parent

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
    port = free_port(18_420 + 700 * (0 if worker_id == "master" else int(worker_id.removeprefix("gw"))))
    environment = os.environ | {"PULLTIDE_DATABASE_URL": database_url, "PULLTIDE_SECRET": "test-secret"}
    environment["PULLTIDE_PATIENCE_S"] = "20"  # a crowded machine searches slowly; that is not what is tested
    command = [
        sys.executable,
        "-m",
        "uvicorn",
        "--factory",
        "pulltide.web.app:app_from_environment",
        "--port",
        str(port),
        "--workers",
        "2",
        "--no-access-log",
        "--log-level",
        "warning",
    ]
    server = subprocess.Popen(
        command, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, preexec_fn=end_with_parent
    )
    where = f"http://127.0.0.1:{port}"
    deadline = time.monotonic() + 60
    while time.monotonic() < deadline:
        try:
            urlopen(f"{where}/healthz", timeout=1).close()
            break
        except (URLError, OSError):
            time.sleep(0.1)
    yield where
    server.terminate()
    server.wait(20)


@pytest.fixture
def window(browser: Browser, address: str, empty_shop) -> Iterator:
    """Opens windows that share nothing; afterwards none may have reported an error."""
    contexts, complaints = [], []

    def open_window(path: str = "/", **options) -> Page:
        context = browser.new_context(base_url=address, viewport={"width": 1280, "height": 800}, **options)
        contexts.append(context)
        page = context.new_page()
        page.on("pageerror", lambda error: complaints.append(str(error)))
        page.on("console", lambda message: complaints.append(message.text) if message.type == "error" else None)
        page.goto(path)
        return page

    yield open_window
    for context in contexts:
        context.close()
    expected = [text for text in complaints if "422" in text or "409" in text or "ERR_FAILED" in text]
    assert not [text for text in complaints if text not in expected]
