"""Stages of listed sprockets and chain, for a search."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import Any, get_args

from pulltide.core.candidates import Candidate, Stages
from pulltide.core.catalog import Catalog
from pulltide.core.links.roller_chain import geometry
from pulltide.core.links.roller_chain.bill import long_enough, price_of_chain
from pulltide.core.links.roller_chain.inputs import ChainNumber, RollerChain
from pulltide.core.stock import cheapest, is_owned, list_rows, names, pairs, price_with_bushings, stock_rows, to_buy
from pulltide.core.tables import Row, number

#: Centers of 30 to 50 pitches are usual; the near end of that, or clear of both wheels. Common practice, no source.
CENTER_PITCHES = 32.0
#: Fewer teeth run rough at any speed. Common practice, no source.
MIN_TEETH = 11
KNOWN = frozenset(get_args(get_args(ChainNumber)[0]))


def candidates(catalog: Catalog) -> Iterator[Candidate]:
    """Every pair of listed sprockets of one chain and number of strands, on an even number of links."""
    chains = {(row["chain"], row["strands"]): row for row in stock_rows("chain")}
    lying = {(row["chain"], row["strands"]): row for row in list_rows(catalog, "chain") if is_owned(row)}
    kinds: dict[tuple[str, str], list[Row]] = {}
    for row in list_rows(catalog, "sprockets"):
        kinds.setdefault((row["chain"], row["strands"]), []).append(row)
    for (chain, strands), rows in kinds.items():
        if chain not in KNOWN or (chain, strands) not in chains:
            continue
        sold = chains[(chain, strands)]
        hubs = [row for row in rows if row["kind"] != "plate" and number(row, "teeth") >= MIN_TEETH]
        for driver, first, driven, second in pairs(cheapest(hubs, "teeth")):
            center = max(CENTER_PITCHES, 0.65 * (driver + driven) / 3.1416 + 2)
            links = 2 * ceil(geometry.length_pitches(center, int(driver), int(driven)) / 2)
            at_hand = long_enough(lying.get((chain, strands)), links)
            roll = at_hand if at_hand is not None else sold
            bought = 0.0 if at_hand is not None else price_of_chain(sold, links)
            yield Candidate(
                parts=to_buy(first, second, roll),
                price=round(price_with_bushings(first, second) + bought, 1),
                shape=(chain, int(strands), int(driver), int(driven), links),
                alike=chain,
                made_of=names(first, second, roll),
            )


def build(shape: tuple[Any, ...], catalog: Catalog) -> RollerChain:
    """The link of a candidate."""
    chain, strands, driver, driven, links = shape
    return RollerChain(chain=chain, strands=strands, driver_teeth=driver, driven_teeth=driven, pitches=links)


STAGES = Stages(3, candidates, build)
