"""A machine as it begins."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pulltide.core.machine import Machine
from pulltide.core.needs import NEED_KINDS
from pulltide.quantities import Units
from pulltide.services.editing import Change, apply_change, read_machine

#: By which question it is begun.
Begin = Literal["know", "parts", "wrong"]
TITLES = {kind.kind: kind.title for kind in NEED_KINDS}


def begun(name: str, kind: str, begin: Begin, troubles: Sequence[str], units: Units) -> Machine:
    """A new machine. One still to be built opens with starting values, one that stands there with what is measured.

    Raises InputErrors for a kind that is not known.
    """
    note = f"What is wrong: {', '.join(troubles)}." if begin == "wrong" and troubles else ""
    machine = read_machine({"name": name or TITLES.get(kind, "New machine"), "note": note}, units)
    if kind:
        machine, _ = apply_change(machine, Change(operation="choose_worksheet", kind=kind), units)
        if begin == "know":
            machine, _ = apply_change(machine, Change(operation="fill_typical"), units)
    return machine
