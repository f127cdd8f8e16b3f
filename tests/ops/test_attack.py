"""A short version of every attack that ``bench/attack`` makes by hand in full size."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

PROJECT = Path(__file__).resolve().parents[2]


def test_a_short_attack_of_every_kind_finds_no_fault():
    attacks = ["kills", "fuzz", "imports", "editors", "soak", "disk"]
    command = [sys.executable, "bench/attack", *attacks, "--size", "0.002", "--port", "21700"]
    done = subprocess.run(command, capture_output=True, text=True, cwd=PROJECT, check=False)
    assert done.returncode == 0, done.stdout[-3000:] + done.stderr[-3000:]
    assert [line for line in done.stdout.splitlines() if line.endswith(":")] == [f"{name}:" for name in attacks]
    assert "0 faults" in done.stdout.splitlines()[-1]
