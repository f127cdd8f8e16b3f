"""Tells another program what changes on the floor, in the background: no page and no edit waits for it."""

from __future__ import annotations

import json
from collections import deque
from dataclasses import asdict, dataclass
from datetime import UTC, datetime
from hashlib import sha256
from hmac import new as hmac
from http.client import HTTPException
from threading import Condition, Thread
from time import sleep
from urllib.request import Request, urlopen

#: How long an answer is waited for, and the pauses before a message is sent again [s].
PATIENCE_S, AGAIN_S = 3.0, (1.0, 5.0)
#: So many messages wait at most; older ones are dropped, and so many deliveries are remembered.
MAX_WAITING, MAX_TOLD = 200, 20
#: Its HMAC with SHA-256 over the body (RFC 2104), as hex behind the name of the hash.
SIGNATURE = "x-pulltide-signature"


def signed(key: str, body: bytes) -> str:
    """The signature of a message under a key."""
    return "sha256=" + hmac(key.encode(), body, sha256).hexdigest()


@dataclass(frozen=True, slots=True)
class Happened:
    """One change: what kind, to which machine, what it is called, and who made it."""

    event: str
    machine_id: str
    version: int
    label: str
    author: str
    at: str


@dataclass(frozen=True, slots=True)
class Delivery:
    """What became of a message."""

    happened: Happened
    came: str


class HookClient:
    """A receiver by its address; an empty one means that nobody is told."""

    def __init__(self, address: str, key: str) -> None:
        self.address, self._key = address, key
        self._waiting: deque[Happened] = deque(maxlen=MAX_WAITING)
        self._more = Condition()
        self._thread: Thread | None = None
        self.deliveries: deque[Delivery] = deque(maxlen=MAX_TOLD)

    def tell(self, event: str, machine_id: str, version: int, label: str, author: str | None) -> None:
        """Put a change in line; returns at once."""
        if not self.address:
            return
        happened = Happened(event, machine_id, version, label, author or "", datetime.now(UTC).isoformat())
        with self._more:
            self._waiting.append(happened)
            if self._thread is None or not self._thread.is_alive():
                self._thread = Thread(target=self._send_all, daemon=True)
                self._thread.start()

    def _send_all(self) -> None:
        while True:
            with self._more:
                if not self._waiting:
                    self._thread = None
                    return
                happened = self._waiting.popleft()
            self.deliveries.appendleft(Delivery(happened, self._sent(happened)))

    def _sent(self, happened: Happened) -> str:
        """Send it, again after pauses; what became of it."""
        body = json.dumps(asdict(happened), ensure_ascii=False).encode()
        headers = {"content-type": "application/json", SIGNATURE: signed(self._key, body)}
        came = ""
        for pause in (*AGAIN_S, 0.0):
            try:
                with urlopen(Request(self.address, body, headers, method="POST"), timeout=PATIENCE_S):
                    return "received"
            except (OSError, HTTPException) as error:
                came = f"not received: {getattr(error, 'reason', error) or type(error).__name__}"
            sleep(pause)
        return came
