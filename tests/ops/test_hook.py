"""A program is told of changes, signed and in order; one that is slow, wrong or dead holds up nobody."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from urllib.error import HTTPError
from urllib.request import Request, urlopen

import pytest

from pulltide.ops.hook_stand_in import MODES
from pulltide.store import hook_client
from pulltide.store.hook_client import SIGNATURE, HookClient, signed

KEY = "a key of the test"


@pytest.fixture
def receiver() -> Iterator[Callable[[str], str]]:
    """Starts a receiver in a mode and gives its address."""
    running = []

    def begin(mode: str) -> str:
        command = [sys.executable, "-m", "pulltide.ops.hook_stand_in", "--mode", mode]
        environment = os.environ | {"PULLTIDE_HOOK_KEY": KEY}
        running.append(subprocess.Popen(command, env=environment, stdout=subprocess.PIPE))
        return f"http://127.0.0.1:{running[-1].stdout.readline().decode().strip()}/"

    yield begin
    for one in running:
        one.kill()
        one.stdout.close()
        one.wait(10)


def until(so: Callable[[], bool]) -> None:
    end = time.monotonic() + 30
    while not so():
        assert time.monotonic() < end
        time.sleep(0.02)


def received(address: str) -> list[dict]:
    with urlopen(address, timeout=10) as answer:
        return json.load(answer)


def test_changes_are_told_in_order_and_signed(receiver):
    address = receiver("fine")
    hook = HookClient(address, KEY)
    for version in range(1, 6):
        hook.tell("changed", "m1", version, f"Change {version}", "Ada")
    until(lambda: len(hook.deliveries) == 5)
    found = received(address)
    assert [one["version"] for one in found] == [5, 4, 3, 2, 1]
    assert (found[0]["event"], found[0]["label"], found[0]["author"]) == ("changed", "Change 5", "Ada")
    assert {one.came for one in hook.deliveries} == {"received"}


def test_a_message_with_another_signature_is_not_taken(receiver):
    address = receiver("fine")
    for signature in ("", signed("another key", b"{}")):
        with pytest.raises(HTTPError, match="401"):
            urlopen(Request(address, b"{}", {SIGNATURE: signature}, method="POST"), timeout=10).close()
    assert received(address) == []


@pytest.mark.parametrize("mode", [mode for mode in MODES if mode != "fine"])
def test_a_receiver_that_fails_holds_up_nobody_and_is_told_of(receiver, mode: str, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setattr(hook_client, "PATIENCE_S", 0.2)
    monkeypatch.setattr(hook_client, "AGAIN_S", (0.01,))
    hook = HookClient(receiver(mode), KEY)
    for version in range(300):
        hook.tell("changed", "m1", version, "Change", None)
    assert len(hook._waiting) <= hook_client.MAX_WAITING
    until(lambda: bool(hook.deliveries))
    assert hook.deliveries[0].came.startswith("not received: ")


def test_nobody_is_told_where_there_is_nobody():
    hook = HookClient("", KEY)
    hook.tell("changed", "m1", 1, "Change", None)
    assert not hook._waiting


def test_a_signature_is_what_rfc_2104_and_4231_say():
    """RFC 4231, test case 2: key "Jefe", data "what do ya want for nothing?"."""
    expected = "5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843"
    assert signed("Jefe", b"what do ya want for nothing?") == f"sha256={expected}"
