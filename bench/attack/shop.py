"""The program under attack: started in a folder of its own on loopback, killed piece by piece, started again."""

from __future__ import annotations

import json
import os
import re
import shutil
import signal
import subprocess
import sys
import time
from http.client import HTTPException
from pathlib import Path
from typing import Any
from urllib.error import HTTPError
from urllib.request import Request, urlopen

from pulltide.ops.cluster import Cluster, free_port, home_for

#: A crowded machine takes its time; how long it took is told beside the faults.
READY_SECONDS = 180.0
GONE = (OSError, HTTPException, ValueError)


class Shop:
    """One folder of data, and the program on it while it runs."""

    def __init__(self, folder: Path, first_port: int, workers: int = 2) -> None:
        self.folder, self.workers = folder, workers
        self.port = free_port(first_port)
        self.address = f"http://127.0.0.1:{self.port}"
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start without waiting."""
        options = ["--data", str(self.folder), "--port", str(self.port), "--workers", str(self.workers)]
        quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL, "stdin": subprocess.DEVNULL}
        self.process = subprocess.Popen([sys.executable, "-m", "pulltide.ops.start", *options], **quiet)

    def ready(self) -> float:
        """Wait until machines are read, starting anew where the program has ended; the seconds it took."""
        began = time.monotonic()
        while time.monotonic() < began + READY_SECONDS:
            if self.process is None or self.process.poll() is not None:
                self.start()
            try:
                self.call("/api/v1/machines")
            except GONE:
                time.sleep(0.05)
            else:
                return time.monotonic() - began
        raise RuntimeError(f"Not ready after {READY_SECONDS:g} s; see {self.folder / 'server.log'}")

    def stop(self) -> None:
        if self.process is not None and self.process.poll() is None:
            self.process.send_signal(signal.SIGINT)
            self.process.wait(30)

    def delete(self) -> None:
        """Stop and delete everything."""
        self.stop()
        Cluster(home_for(self.folder, "pg")).end_leftover()
        shutil.rmtree(home_for(self.folder, "pg"), ignore_errors=True)
        shutil.rmtree(self.folder, ignore_errors=True)

    def call(self, path: str, method: str = "GET", body: object = None) -> Any:
        """One call of the JSON interface."""
        data = None if body is None else json.dumps(body).encode()
        asked = Request(self.address + path, data, {"content-type": "application/json"}, method=method)
        with urlopen(asked, timeout=30) as answer:
            content = answer.read()
        return json.loads(content) if content else None

    def sure(self, path: str, method: str = "GET") -> Any:
        """The same, asked again for a while where a part has just been started anew."""
        for _ in range(100):
            try:
                return self.call(path, method)
            except GONE:
                time.sleep(0.1)
        return self.call(path, method)

    def status(self, path: str, seconds: float = 60.0) -> int:
        """The status of a page, also where it is refused."""
        try:
            with urlopen(self.address + path, timeout=seconds) as answer:
                return int(answer.status)
        except HTTPError as error:
            return error.code

    def parts(self) -> dict[str, list[int]]:
        """Process numbers of the program's parts."""
        assert self.process is not None
        web = [pid for pid in _children(self.process.pid) if b"uvicorn" in _line(pid)]
        workers = [pid for parent in web for pid in _children(parent) if b"multiprocessing" in _line(pid)]
        workers = [pid for pid in workers if b"resource_tracker" not in _line(pid)] or web
        postmaster = [pid for pid in _children(self.process.pid) if b"postgres" in _line(pid)]
        backends = [pid for parent in postmaster for pid in _children(parent) if b"shop" in _line(pid)]
        return {
            "starter": [self.process.pid],
            "web parent": web,
            "worker": workers,
            "backend": backends,
            "postmaster": postmaster,
        }


def _line(pid: int) -> bytes:
    try:
        return Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return b""


def _children(pid: int) -> list[int]:
    found = []
    for entry in Path("/proc").glob("[0-9]*/stat"):
        try:
            if entry.read_text().rsplit(")", 1)[1].split()[1] == str(pid):
                found.append(int(entry.parent.name))
        except OSError:
            continue
    return found


def memory_mb(pids: list[int]) -> float:
    """Resident memory of some processes together, MB."""
    text = "".join(Path(f"/proc/{pid}/status").read_text() for pid in pids if Path(f"/proc/{pid}").exists())
    return sum(int(kb) for kb in re.findall(r"VmRSS:\s+(\d+)", text)) / 1024.0


def kill(pids: list[int]) -> None:
    for pid in pids:
        try:
            os.kill(pid, signal.SIGKILL)
        except ProcessLookupError:
            continue
