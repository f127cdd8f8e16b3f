"""Stages of listed V-pulleys and belts, for a search."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from typing import Any

from pulltide.core.candidates import Candidate, Stages
from pulltide.core.catalog import Catalog
from pulltide.core.links.v_belt.inputs import PulleyStep, VBelt
from pulltide.core.open_belt import compact_length_mm
from pulltide.core.stock import cheapest, is_owned, list_rows, names, pairs, price_with_bushings, to_buy
from pulltide.core.tables import Row, number

#: A belt may also speed up: a lathe or a saw turns faster than its motor.
FASTEST = 0.5


def _belts(catalog: Catalog, section: str, count: int) -> list[tuple[float, str, float, int]]:
    """Pitch length, name, price of all and number to buy of the plain belts of a section, shortest first; of one name
    the cheapest. Owned ones count where there are enough of them.
    """
    found: dict[str, tuple[float, str, float, int]] = {}
    for row in list_rows(catalog, "v_belts"):
        if row["section"] != section or row["cogged"] != "no":
            continue
        owned = is_owned(row) and int(row["on_hand"]) >= count
        if is_owned(row) and not owned:
            continue
        belt = (number(row, "pitch_length_mm"), row["designation"], count * number(row, "price"), 0 if owned else count)
        if belt[1] not in found or belt[2] < found[belt[1]][2]:
            found[belt[1]] = belt
    return sorted(found.values())


def _measured(section: str) -> str:
    """How the list names pulleys of a section: inch sections by their outside, metric ones by their datum diameter."""
    return "pitch" if section.startswith("SP") else "outside"


def candidates(catalog: Catalog) -> Iterator[Candidate]:
    """Every pair of listed pulleys of one section and one number of grooves, with the next belt that fits."""
    kinds: dict[tuple[str, str], list[Row]] = {}
    for row in list_rows(catalog, "v_pulleys"):
        kinds.setdefault((row["section"], row["grooves"]), []).append(row)
    for (section, grooves), rows in kinds.items():
        count = int(grooves)
        belts = _belts(catalog, section, count)
        lengths = [belt[0] for belt in belts]
        column = f"{_measured(section)}_mm"
        for driver, first, driven, second in pairs(cheapest(rows, column), FASTEST):
            wanted = compact_length_mm(number(first, "pitch_mm"), number(second, "pitch_mm"))
            at = bisect_left(lengths, wanted)
            if at == len(belts):
                continue
            _, belt, price, bought = belts[at]
            yield Candidate(
                parts=(*to_buy(first, second), *((belt,) * bought)),
                price=price_with_bushings(first, second) + price,
                shape=(section, count, driver, driven, belt),
                alike=section,
                made_of=(*names(first, second), belt),
            )


def build(shape: tuple[Any, ...], catalog: Catalog) -> VBelt:
    """The link of a candidate."""
    section, belts, driver, driven, belt = shape
    step = PulleyStep(driver_diameter_mm=driver, driven_diameter_mm=driven)
    kind: Any = _measured(section)
    return VBelt(section=section, measured_as=kind, steps=(step,), belts=belts, belt=belt)


STAGES = Stages(1, candidates, build)
