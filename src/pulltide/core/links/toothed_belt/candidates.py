"""Stages of listed toothed pulleys and timing belts, for a search."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from typing import Any

from pulltide.core.candidates import Candidate, Stages
from pulltide.core.catalog import Catalog
from pulltide.core.links.toothed_belt import tables
from pulltide.core.links.toothed_belt.inputs import ToothedBelt
from pulltide.core.open_belt import compact_length_mm
from pulltide.core.stock import cheapest, list_rows, names, pairs, price_with_bushings, to_buy
from pulltide.core.tables import Row, number

#: A pulley has the teeth that its belt needs behind a four-pole motor.
FASTEST_RPM = 1800.0


def candidates(catalog: Catalog) -> Iterator[Candidate]:
    """Every pair of listed pulleys of one profile and width, with the next belt that fits."""
    kinds: dict[tuple[str, str], list[Row]] = {}
    for row in list_rows(catalog, "toothed_pulleys"):
        kinds.setdefault((row["profile"], row["belt_width_mm"]), []).append(row)
    belts: dict[tuple[str, str], list[Row]] = {}
    for row in list_rows(catalog, "toothed_belts"):
        belts.setdefault((row["profile"], row["width_mm"]), []).append(row)
    for (profile, width), rows in kinds.items():
        by_teeth = cheapest(belts.get((profile, width), []), "teeth")
        listed = sorted(by_teeth.values(), key=lambda row: number(row, "pitch_length_mm"))
        lengths = [number(row, "pitch_length_mm") for row in listed]
        least = tables.profiles()[profile].min_teeth_at(FASTEST_RPM)
        large = [row for row in rows if number(row, "teeth") >= least]
        for driver, first, driven, second in pairs(cheapest(large, "teeth")):
            wanted = compact_length_mm(number(first, "pitch_mm"), number(second, "pitch_mm"))
            at = bisect_left(lengths, wanted)
            if at == len(listed):
                continue
            belt = listed[at]
            yield Candidate(
                parts=to_buy(first, second, belt),
                price=price_with_bushings(first, second, belt),
                shape=(profile, float(width), int(driver), int(driven), int(belt["teeth"])),
                alike=profile,
                made_of=names(first, second, belt),
            )


def build(shape: tuple[Any, ...], catalog: Catalog) -> ToothedBelt:
    """The link of a candidate."""
    profile, width_mm, driver, driven, belt = shape
    return ToothedBelt(profile=profile, width_mm=width_mm, driver_teeth=driver, driven_teeth=driven, belt_teeth=belt)


STAGES = Stages(1, candidates, build)
