"""A machine as it begins."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pulltide.core.machine import Machine
from pulltide.core.needs import NEED_KINDS
from pulltide.quantities import Units
from pulltide.services.change import Change
from pulltide.services.editing import apply_change
from pulltide.services.raw_machines import read_machine
from pulltide.words import say

#: By which question it is begun.
Begin = Literal["know", "parts", "wrong"]
#: What a trouble lets one notice; it stands on the first page of the run log.
NOTICED_BY = {
    "noisy": "hum",
    "slips": "squeal",
    "trips": "trips",
    "will not start": "no_start",
    "eats belts": "dust",
    "shakes": "tick",
}
TITLES = {kind.kind: kind.title for kind in NEED_KINDS}


def begun(name: str, kind: str, begin: Begin, troubles: Sequence[str], units: Units) -> Machine:
    """A new machine. One still to be built opens with starting values, one that stands there with what is measured.

    Raises InputErrors for a kind that is not known.
    """
    noticed = tuple(dict.fromkeys(NOTICED_BY[one] for one in troubles if one in NOTICED_BY)) if begin == "wrong" else ()
    note = (
        say("What is wrong: {troubles}.", troubles=", ".join(say(one) for one in troubles))
        if begin == "wrong" and troubles
        else ""
    )
    machine = read_machine({"name": name or TITLES.get(kind, say("New machine")), "note": note}, units)
    if kind:
        machine, _ = apply_change(machine, Change(operation="choose_worksheet", kind=kind), units)
        if begin == "know":
            machine, _ = apply_change(machine, Change(operation="fill_typical"), units)
    if noticed:
        machine, _ = apply_change(machine, Change(operation="add_visit"), units)
        for code in noticed:
            machine, _ = apply_change(machine, Change(operation="toggle_noticed", kind=code), units)
    return machine
