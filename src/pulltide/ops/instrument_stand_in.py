"""Instruments on loopback that stand in for real ones: a tachometer, a clip-on ammeter, a luggage scale, a thermometer.

    python -m pulltide.ops.instrument_stand_in --mode fine|drops|units|wild|dead [--port 0]

One line asks, one line answers, in ASCII::

    LIST?                  tachometer rpm, ammeter A, scale N, thermometer degC
    AIM tachometer 1099.8  OK
    READ? tachometer       1099.2 rpm

A real instrument needs no AIM: it sees what it is held to. The other modes show what the program has to bear: readings
that drop out (``----``), another unit, nonsense, no answer at all.
"""

from __future__ import annotations

import argparse
import random
import sys
import time
from functools import partial
from socketserver import StreamRequestHandler, ThreadingTCPServer
from typing import Any

from pulltide.store.process import end_with_parent

MODES = ("fine", "drops", "units", "wild", "dead")
#: Unit, relative and absolute noise (one sigma), and the other unit with its factor, of each instrument.
INSTRUMENTS: dict[str, tuple[str, float, float, str, float, float]] = {
    "tachometer": ("rpm", 0.0005, 0.3, "Hz", 1 / 60, 0.0),
    "ammeter": ("A", 0.01, 0.02, "mA", 1000.0, 0.0),
    "scale": ("N", 0.03, 0.1, "lbf", 0.224809, 0.0),
    "thermometer": ("degC", 0.0, 0.7, "degF", 1.8, 32.0),
}
NO_READING = "----"
NONSENSE = ("OVER", "-1 rpm", "1e309 A", "12", "\x00\x07", "9" * 500, "NaN rpm")
DEAD_SECONDS, MAX_LINE = 30.0, 200


class Instruments:
    """What every instrument is aimed at, and how it answers."""

    def __init__(self, mode: str, seed: int = 1) -> None:
        self.mode, self.chance = mode, random.Random(seed)
        self.aimed: dict[str, float] = {}
        self.asked = 0

    def answer(self, line: str) -> str:
        """One line for a line."""
        words = line.split()
        if words == ["LIST?"]:
            return ", ".join(f"{name} {data[0]}" for name, data in INSTRUMENTS.items())
        if len(words) == 3 and words[0] == "AIM" and words[1] in INSTRUMENTS:
            try:
                self.aimed[words[1]] = float(words[2])
            except ValueError:
                return "ERROR"
            return "OK"
        if len(words) == 2 and words[0] == "READ?" and words[1] in INSTRUMENTS:
            return self._read(words[1])
        return "ERROR"

    def _read(self, name: str) -> str:
        self.asked += 1
        unit, relative, absolute, other, factor, offset = INSTRUMENTS[name]
        if name not in self.aimed or (self.mode == "drops" and self.asked % 3):
            return NO_READING
        if self.mode == "wild":
            return NONSENSE[self.asked % len(NONSENSE)]
        value = self.aimed[name]
        value += self.chance.gauss(0.0, relative * abs(value) + absolute)
        return f"{value * factor + offset:.4g} {other}" if self.mode == "units" else f"{value:.4g} {unit}"


class Answering(StreamRequestHandler):
    """Answers line by line until the other side is gone."""

    def __init__(self, instruments: Instruments, *rest: Any) -> None:
        self.instruments = instruments
        super().__init__(*rest)

    def handle(self) -> None:
        """One caller."""
        while line := self.rfile.readline(MAX_LINE):
            if self.instruments.mode == "dead":
                time.sleep(DEAD_SECONDS)
                return
            self.wfile.write(self.instruments.answer(line.decode("ascii", "replace")).encode("ascii") + b"\n")


class Server(ThreadingTCPServer):
    """A thread for each caller, which ends with the process."""

    daemon_threads = True
    allow_reuse_address = True


def main() -> int:
    """Serve until stopped; the port is printed once it is open."""
    parser = argparse.ArgumentParser(description="Instruments that stand in for real ones, on loopback.")
    parser.add_argument("--mode", choices=MODES, default="fine")
    parser.add_argument("--port", type=int, default=0)
    options = parser.parse_args()
    end_with_parent()
    with Server(("127.0.0.1", options.port), partial(Answering, Instruments(options.mode))) as server:
        print(server.server_address[1], flush=True)
        server.serve_forever()
    return 0


if __name__ == "__main__":
    sys.exit(main())
