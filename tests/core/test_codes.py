"""What is told of a machine goes by codes: a fact of its source, a figure in its own words."""

from __future__ import annotations

import re

import pytest

from builders import build_machine
from core.test_sources import SANE
from pulltide.core.line import solve_line
from pulltide.core.line_checks import demand_of
from pulltide.core.machine import Machine
from pulltide.core.need import Need
from pulltide.core.sources import SOURCE_KINDS, drive_of
from pulltide.core.sources.contract import SourceKind
from worksheets import WORKSHEETS

CODE = re.compile(r"[a-z][a-z0-9]*(_[a-z0-9]+)*")


def all_different(codes: list[str]) -> bool:
    return len(set(codes)) == len(codes) and all(CODE.fullmatch(code) for code in codes)


@pytest.mark.parametrize("kind", SOURCE_KINDS, ids=lambda kind: kind.kind)
def test_facts_of_a_source_have_codes_of_their_own(kind: SourceKind):
    raw = build_machine().model_dump(mode="json")
    raw["plans"][0]["source"] = {"kind": kind.kind, **SANE[kind.kind]}
    machine = Machine.model_validate(raw)
    source = machine.plans[0].source
    drive, line = drive_of(source), solve_line(machine, machine.plans[0])
    assert drive is not None
    codes = [fact.code for fact in kind.facts(source, drive, demand_of(machine, line) if line else None)]
    assert codes
    assert all_different(codes), codes


@pytest.mark.parametrize("kind", WORKSHEETS)
def test_figures_of_a_worksheet_have_codes_of_their_own(kind: str):
    raw = {"kind": kind, **WORKSHEETS[kind]}
    need = Need.model_validate({"last_shaft": "Shaft", "worksheet": raw})
    asked = need.requirement()
    assert asked is not None
    said = [item.code for item in asked.kind.say(need.worksheet, 60.0)] if asked.kind.say else []
    assert all_different([item.code for item in asked.own]), asked.own
    assert all_different(said), said
