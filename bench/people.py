"""Fifty people who each make an edit a second on the page, in pairs on a machine, beside one person alone. By hand.

    .venv/bin/python bench/people.py [ADDRESS]

Every person holds a stream of events as a page does. Measured are the time of an edit, page drawn anew and all, and the
time until the other of a pair is told of it. The baseline is one pair on the same server in the same run.
"""

from __future__ import annotations

import json
import re
import sys
import threading
import time
from html import unescape
from http.client import HTTPConnection, HTTPException
from statistics import median, quantiles
from urllib.parse import urlencode, urlsplit
from urllib.request import Request, urlopen

PEOPLE, SECONDS = 50, 20


class Window:
    """One person's page: a connection for edits, another for what it is told."""

    def __init__(self, where: str, machine_id: str, field: str) -> None:
        self.where, self.machine_id, self.field = urlsplit(where), machine_id, field
        self.connection = self._connection()
        self.connection.request("GET", f"/machines/{machine_id}/duty")
        answer = self.connection.getresponse()
        page = answer.read().decode()
        self.cookie = answer.headers["set-cookie"].split(";")[0]
        self.token = re.search(r'name="form-token" content="([^"]+)"', page)[1]
        self._drawn(page)
        self.edits: list[float] = []
        self.seen: dict[int, float] = {}
        self.saved: dict[int, float] = {}
        self.ended = False
        threading.Thread(target=self._listen, daemon=True).start()

    def _drawn(self, page: str) -> None:
        """What the page holds: its version, what its plans are made of, and this person's field."""
        self.version = int(re.search(r'data-version="(\d+)"', page)[1])
        self.shape = unescape(re.search(r'data-shape="([^"]*)"', page)[1])
        field = re.search(rf'name="set:{re.escape(self.field)}"\s+value="([^"]*)"', page)
        self.was = unescape(field[1])

    def _connection(self) -> HTTPConnection:
        return HTTPConnection(self.where.hostname or "", self.where.port, timeout=60)

    def _listen(self) -> None:
        stream = self._connection()
        stream.request("GET", f"/machines/{self.machine_id}/events", headers={"cookie": self.cookie})
        answer = stream.getresponse()
        while not self.ended:
            line = answer.readline().decode()
            if line.startswith("data: {"):
                self.seen.setdefault(json.loads(line[6:])["version"], time.monotonic())

    def edit(self, value: int) -> None:
        """One edit of this person's field; a version that is behind is no hindrance to it."""
        fields = {"form_token": self.token, "version": str(self.version), f"set:{self.field}": str(value)}
        fields |= {f"was:{self.field}": self.was, "shape": self.shape}
        headers = {"cookie": self.cookie, "x-fragment": "1", "x-remedies": "later"}
        headers["content-type"] = "application/x-www-form-urlencoded"
        began = time.monotonic()
        address = f"/machines/{self.machine_id}/edit?in=duty"
        try:
            self.connection.request("POST", address, urlencode(fields), headers)
            answer = self.connection.getresponse()
        except (OSError, HTTPException):  # unused for a while, the connection was closed
            self.connection = self._connection()
            self.connection.request("POST", address, urlencode(fields), headers)
            answer = self.connection.getresponse()
        page = answer.read().decode()
        assert answer.status == 200, page[:200]
        self.edits.append(time.monotonic() - began)
        self._drawn(page)
        self.saved[self.version] = time.monotonic()


def called(where: str, path: str, body: object | None = None, method: str = "POST") -> dict:
    data = None if body is None else json.dumps(body).encode()
    request = Request(where + path, data, {"content-type": "application/json"}, method=method)
    with urlopen(request, timeout=60) as answer:
        content = answer.read()
        return json.loads(content) if content else {}


def measured(where: str, people: int) -> tuple[list[float], list[float]]:
    """Times of edits, and until the other one was told [s]."""
    machines = [called(where, "/api/v1/machines", {"name": f"For the bench {k}"})["id"] for k in range(people // 2)]
    fields = ("duty.hours_per_day", "duty.starts_per_hour")
    pairs = [[Window(where, machine_id, field) for field in fields] for machine_id in machines]
    time.sleep(2)

    def work(window: Window, offset: float) -> None:
        time.sleep(offset)
        for second in range(SECONDS):
            began = time.monotonic()
            window.edit(1 + second % 20)
            time.sleep(max(1.0 - (time.monotonic() - began), 0.0))

    windows = [window for pair in pairs for window in pair]
    threads = [threading.Thread(target=work, args=(one, k / len(windows))) for k, one in enumerate(windows)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    time.sleep(2)
    told = []
    for pair in pairs:
        for mine, other in (pair, pair[::-1]):
            mine.ended = True
            # a version that was passed over is known by the next one
            later = [
                min((at for seen, at in other.seen.items() if seen >= version), default=None) for version in mine.saved
            ]
            told += [at - saved for at, saved in zip(later, mine.saved.values(), strict=True) if at is not None]
    for machine_id in machines:
        called(where, f"/api/v1/machines/{machine_id}", method="DELETE")
    return [one for window in windows for one in window.edits], told


def main() -> None:
    """Print the figures."""
    where = (sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8420").rstrip("/")
    base = 0.0
    for people in (2, PEOPLE):
        edits, told = measured(where, people)
        p95, p95_told = quantiles(edits, n=20)[-1], quantiles(told, n=20)[-1]
        base = base or median(edits)
        print(
            f"{people} people: {len(edits)} edits, median {1000 * median(edits):.0f} ms, p95 {1000 * p95:.0f} ms "
            f"({p95 / base:.1f} times a pair's median); the other is told after {1000 * median(told):.0f} ms, "
            f"p95 {1000 * p95_told:.0f} ms"
        )


if __name__ == "__main__":
    main()
