"""A made-up receiver on loopback, to stand in for a program that is told of changes: it keeps what it was sent.

    python -m pulltide.ops.hook_stand_in --mode fine|slow|wrong|dead [--port 0]

``POST /`` takes one message and answers 204, or 401 where its signature is not right; ``GET /`` gives the last ones.
The key is in ``PULLTIDE_HOOK_KEY``. The other modes answer late, with a fault, and not at all.
"""

from __future__ import annotations

import argparse
import json
import os
import sys
import time
from collections import deque
from functools import partial
from hmac import compare_digest
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

from pulltide.store.hook_client import SIGNATURE, signed
from pulltide.store.process import end_with_parent

MODES = ("fine", "slow", "wrong", "dead")
SLOW_SECONDS, MAX_BYTES, MAX_KEPT = 30.0, 20_000, 50


class Receiving(BaseHTTPRequestHandler):
    """Receives in one of the modes."""

    def __init__(self, mode: str, key: str, kept: deque[Any], *rest: Any) -> None:
        self.mode, self.key, self.kept = mode, key, kept
        super().__init__(*rest)

    def do_POST(self) -> None:
        """One message."""
        if self.mode == "dead":
            self.close_connection = True
            return
        if self.mode == "slow":
            time.sleep(SLOW_SECONDS)
        length = self.headers.get("content-length", "0")
        body = self.rfile.read(min(int(length) if length.isdecimal() else 0, MAX_BYTES))
        known = compare_digest(self.headers.get(SIGNATURE, ""), signed(self.key, body))
        if known and self.mode != "wrong":
            self.kept.appendleft(json.loads(body))
        self._answer(500 if self.mode == "wrong" else 204 if known else 401, b"")

    def do_GET(self) -> None:
        """What was received, the last first."""
        self._answer(200, json.dumps(list(self.kept)).encode())

    def _answer(self, status: int, body: bytes) -> None:
        self.send_response(status)
        self.send_header("content-type", "application/json")
        self.send_header("content-length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, format: str, *args: Any) -> None:
        """Nothing is logged."""


def main() -> int:
    """Receive until stopped; the port is printed once it is open."""
    parser = argparse.ArgumentParser(description="A made-up receiver on loopback.")
    parser.add_argument("--mode", choices=MODES, default="fine")
    parser.add_argument("--port", type=int, default=0)
    options = parser.parse_args()
    end_with_parent()
    kept: deque[Any] = deque(maxlen=MAX_KEPT)
    made = partial(Receiving, options.mode, os.environ.get("PULLTIDE_HOOK_KEY", ""), kept)
    server = ThreadingHTTPServer(("127.0.0.1", options.port), made)
    server.daemon_threads = True
    print(server.server_port, flush=True)
    server.serve_forever()
    return 0


if __name__ == "__main__":
    sys.exit(main())
