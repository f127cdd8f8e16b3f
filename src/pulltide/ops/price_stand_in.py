"""A made-up price service on loopback, to stand in for a real one: prices and lead times by the names of the lists.

    python -m pulltide.ops.price_stand_in --mode fine|slow|wrong|dead [--port 0]

``GET /quotes?name=A46&name=SK-40-15-1F`` answers {"quotes": [{"name", "price", "lead_days"}]}. Nothing of it is a real
price. The other modes show that the program does not need it: one answers late, one nonsense, one not at all.
"""

from __future__ import annotations

import argparse
import json
import sys
import time
from collections.abc import Iterator
from functools import cache, partial
from hashlib import sha256
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from importlib import resources
from typing import Any
from urllib.parse import parse_qs, urlsplit

from pulltide.core.tables import load_table
from pulltide.store.process import end_with_parent

MODES = ("fine", "slow", "wrong", "dead")
SLOW_SECONDS, MAX_NAMES = 30.0, 200
LEAD_DAYS = {"counter": 1, "days": 5, "weeks": 15}
NONSENSE: tuple[Any, ...] = (-4, "cheap", None, 1e300, float("nan"), {"price": 3}, True)


@cache
def listed() -> dict[str, tuple[float, int]]:
    """List price and lead time of every part."""
    names = [
        item.name.removesuffix(".csv") for item in resources.files("pulltide.core.stock").joinpath("lists").iterdir()
    ]
    rows = (row for name in names for row in load_table("pulltide.core.stock", name, "lists").rows)
    return {
        row["designation"]: (float(row["price" if "price" in row else "price_per_m"]), LEAD_DAYS.get(row["lead"], 10))
        for row in rows
    }


def quotes(names: list[str]) -> Iterator[dict[str, Any]]:
    """A quote for every name that is listed, within a tenth of its list price, always the same."""
    for name in names[:MAX_NAMES]:
        if name in listed():
            price, days = listed()[name]
            share = int(sha256(name.encode()).hexdigest()[:4], 16) / 0xFFFF
            yield {"name": name, "price": round(price * (0.9 + 0.2 * share), 1), "lead_days": days}


def nonsense(names: list[str]) -> Iterator[dict[str, Any]]:
    """What a broken service may say, for names that were asked for and one that was not."""
    for place, name in enumerate([*names, "never asked for"]):
        yield {"name": name, "price": NONSENSE[place % len(NONSENSE)], "lead_days": -place}


class Answering(BaseHTTPRequestHandler):
    """Answers in one of the modes."""

    mode = "fine"

    def __init__(self, mode: str, *rest: Any) -> None:
        self.mode = mode
        super().__init__(*rest)

    def do_GET(self) -> None:
        """One request."""
        names = parse_qs(urlsplit(self.path).query).get("name", [])
        if self.mode == "dead":
            self.close_connection = True
            return
        if self.mode == "slow":
            time.sleep(SLOW_SECONDS)
        said = nonsense(names) if self.mode == "wrong" else quotes(names)
        body = json.dumps({"quotes": list(said)}).encode()
        self.send_response(200)
        self.send_header("content-type", "application/json")
        self.send_header("content-length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, format: str, *args: Any) -> None:
        """Nothing is logged."""


def main() -> int:
    """Serve until stopped; the port is printed once it is open."""
    parser = argparse.ArgumentParser(description="A made-up price service on loopback.")
    parser.add_argument("--mode", choices=MODES, default="fine")
    parser.add_argument("--port", type=int, default=0)
    options = parser.parse_args()
    end_with_parent()
    server = ThreadingHTTPServer(("127.0.0.1", options.port), partial(Answering, options.mode))
    server.daemon_threads = True
    listed()
    print(server.server_port, flush=True)
    server.serve_forever()
    return 0


if __name__ == "__main__":
    sys.exit(main())
