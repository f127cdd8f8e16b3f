"""Asks instruments on a line of text over TCP, with a limit on time and size."""

from __future__ import annotations

import socket
from dataclasses import dataclass

from pulltide.words import say

#: How long an instrument is waited for [s], and how much it may say [bytes].
PATIENCE_S, MAX_BYTES = 0.8, 200


class NoReading(Exception):
    """An instrument gives no reading now; the message says why."""


@dataclass(frozen=True, slots=True)
class InstrumentClient:
    """Instruments by their address, ``host:port``; an empty one means that there are none."""

    address: str

    def read(self, name: str, aimed_at: float) -> str:
        """What an instrument shows, as it says it; a stand-in is told what it is aimed at. Raises NoReading."""
        if not self.address:
            raise NoReading(say("No instrument is connected."))
        host, _, port = self.address.rpartition(":")
        try:
            with socket.create_connection((host, int(port)), timeout=PATIENCE_S) as line:
                line.settimeout(PATIENCE_S)
                line.sendall(f"AIM {name} {aimed_at:.6g}\nREAD? {name}\n".encode("ascii"))
                answer = self._second_line(line)
        except TimeoutError as error:
            raise NoReading(say("The instrument does not answer.")) from error
        except (OSError, ValueError) as error:
            raise NoReading(say("The instrument cannot be reached.")) from error
        return answer

    @staticmethod
    def _second_line(line: socket.socket) -> str:
        said = b""
        while said.count(b"\n") < 2 and len(said) <= MAX_BYTES:
            part = line.recv(MAX_BYTES)
            if not part:
                break
            said += part
        lines = said.split(b"\n")
        return lines[1].decode("ascii", "replace").strip() if len(lines) > 1 else ""
