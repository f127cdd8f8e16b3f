"""Stages of listed V-pulleys and belts, for a search."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from typing import Any

from pulltide.core.candidates import Candidate, Stages
from pulltide.core.catalog import Catalog
from pulltide.core.links.v_belt.inputs import PulleyStep, VBelt
from pulltide.core.open_belt import compact_length_mm
from pulltide.core.stock import cheapest, pairs, stock_rows
from pulltide.core.tables import Row, number

#: A belt may also speed up: a lathe or a saw turns faster than its motor.
FASTEST = 0.5


def _belts(section: str) -> list[tuple[float, str, float]]:
    """Pitch length, name and price of the plain belts of a section, shortest first."""
    rows = [row for row in stock_rows("v_belts") if row["section"] == section and row["cogged"] == "no"]
    return sorted((number(row, "pitch_length_mm"), row["designation"], number(row, "price")) for row in rows)


def _measured(section: str) -> str:
    """How the list names pulleys of a section: inch sections by their outside, metric ones by their datum diameter."""
    return "pitch" if section.startswith("SP") else "outside"


def candidates(catalog: Catalog) -> Iterator[Candidate]:
    """Every pair of listed pulleys of one section and one number of grooves, with the next belt that fits."""
    kinds: dict[tuple[str, str], list[Row]] = {}
    for row in stock_rows("v_pulleys"):
        kinds.setdefault((row["section"], row["grooves"]), []).append(row)
    for (section, grooves), rows in kinds.items():
        belts, count = _belts(section), int(grooves)
        lengths = [length for length, _, _ in belts]
        column = f"{_measured(section)}_mm"
        for driver, first, driven, second in pairs(cheapest(rows, column), FASTEST):
            wanted = compact_length_mm(number(first, "pitch_mm"), number(second, "pitch_mm"))
            at = bisect_left(lengths, wanted)
            if at == len(belts):
                continue
            _, belt, price = belts[at]
            yield Candidate(
                parts=(first["designation"], second["designation"], *((belt,) * count)),
                price=number(first, "price") + number(second, "price") + count * price,
                shape=(section, count, driver, driven, belt),
                alike=section,
            )


def build(shape: tuple[Any, ...], catalog: Catalog) -> VBelt:
    """The link of a candidate."""
    section, belts, driver, driven, belt = shape
    step = PulleyStep(driver_diameter_mm=driver, driven_diameter_mm=driven)
    kind: Any = _measured(section)
    return VBelt(section=section, measured_as=kind, steps=(step,), belts=belts, belt=belt)


STAGES = Stages(1, candidates, build)
