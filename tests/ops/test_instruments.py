"""Instruments well, dropping out, in other units, showing nonsense and dead: a reading is right or there is none."""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Iterator

import pytest

from pulltide.core.errors import InputError
from pulltide.demo import demo_machines
from pulltide.ops.instrument_stand_in import INSTRUMENTS, MODES, NONSENSE, Instruments
from pulltide.quantities import Units
from pulltide.services.instruments import BY, understood
from pulltide.store.instrument_client import InstrumentClient, NoReading

AIMED = {
    "speed": ("shaft-2", 1099.8),
    "amps": ("shaft-1", 2.53),
    "press": ("link-1", 7.2),
    "motor_case": ("shaft-1", 41.0),
}
UNITS = Units()


@pytest.fixture(params=MODES)
def service(request: pytest.FixtureRequest) -> Iterator[tuple[str, InstrumentClient]]:
    command = [sys.executable, "-m", "pulltide.ops.instrument_stand_in", "--mode", request.param]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    yield request.param, InstrumentClient(f"127.0.0.1:{process.stdout.readline().strip()}")
    process.kill()
    process.wait()
    process.stdout.close()


def number(shown: str) -> float:
    return float(shown.replace("°C", "").split()[0])


def test_a_reading_is_right_or_there_is_none(service):
    mode, client = service
    began, taken = time.monotonic(), 0
    for kind, (at, value) in AIMED.items():
        for _ in range(4 if mode != "dead" else 1):
            try:
                shown = understood(kind, at, client.read(BY[kind], value), UNITS)
            except (NoReading, InputError):
                continue
            taken += 1
            assert number(shown) == pytest.approx(value, rel=0.15), (mode, kind, shown)
    assert taken == {"fine": 16, "units": 16, "wild": 0, "dead": 0}.get(mode, taken)
    if mode == "drops":
        assert 0 < taken < 16
    if mode == "dead":
        assert time.monotonic() - began < 20, "nothing waits for what does not answer"


def test_no_instrument_is_said_and_one_that_is_gone_too():
    with pytest.raises(NoReading, match="No instrument"):
        InstrumentClient("").read("tachometer", 1.0)
    with pytest.raises(NoReading, match="cannot be reached"):
        InstrumentClient("127.0.0.1:1").read("tachometer", 1.0)


@pytest.mark.parametrize("shown", [*NONSENSE, "", "----", "1099 N", "rpm", "1e6 rpm"])
def test_nonsense_is_no_speed(shown):
    with pytest.raises(InputError):
        understood("speed", "shaft-1", shown, UNITS)


def test_the_line_protocol_as_it_is_written_down():
    instruments = Instruments("fine")
    assert instruments.answer("LIST?").count(",") == len(INSTRUMENTS) - 1
    assert instruments.answer("READ? tachometer") == "----", "aimed at nothing yet"
    assert instruments.answer("AIM tachometer 1099.8") == "OK"
    assert number(instruments.answer("READ? tachometer")) == pytest.approx(1099.8, rel=0.01)
    for odd in ("", "READ?", "READ? sundial", "AIM tachometer fast", "AIM", "x" * 150):
        assert instruments.answer(odd) == "ERROR"


def test_the_page_asks_for_what_it_can_read(client):
    machine = demo_machines()[4]
    identity = client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()["id"]
    where = f"/machines/{identity}/log/live?named="
    assert client.get(f"{where}speed@shaft-2").json() == {"shows": "", "why": "No instrument is connected."}
    assert client.get(f"{where}sag@link-3").json()["why"] == "No instrument reads this."
    assert client.get(f"{where}speed@shaft-9").json()["why"] == "No instrument reads this."
    before, client.app.state.instruments = client.app.state.instruments, Steady()
    try:
        assert client.get(f"{where}speed@shaft-2").json() == {"shows": "1099 rpm", "why": ""}
    finally:
        client.app.state.instruments = before


class Steady:
    """An instrument that always shows the same."""

    def read(self, name: str, aimed_at: float) -> str:
        return "1099 rpm"
