"""Quotes of a price service: asked for beside the pages, checked, kept with their date. Nothing waits for them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from math import isfinite
from typing import Any, Protocol

from pulltide.words import say

#: What a quote may say.
MAX_PRICE, MAX_DAYS = 10_000_000.0, 730


@dataclass(frozen=True, slots=True)
class Quote:
    """Price in price units and lead time in days of a part, as they were on a date."""

    name: str
    price: float
    lead_days: int
    fetched_at: datetime


@dataclass(frozen=True, slots=True)
class LastAsked:
    """When quotes were asked for last, and what came: ``outcome`` is a sentence."""

    at: datetime
    outcome: str


class Quotes(Protocol):
    """Keeps quotes."""

    def kept(self, names: Iterable[str]) -> Mapping[str, Quote]:
        """The last quote of each name that has one."""

    def keep(self, found: Sequence[tuple[str, float, int]]) -> None:
        """Keep quotes as of now."""

    def asked(self) -> LastAsked | None:
        """When the service was asked last, and what came of it."""

    def note(self, outcome: str) -> None:
        """Remember what came of asking, as of now."""


class NoAnswer(Exception):
    """The price service did not answer, or not in time; the message is the rest of a sentence."""


def ask(names: Sequence[str], fetch: Callable[[Sequence[str]], object], quotes: Quotes) -> None:
    """Ask for quotes and keep what is sound; whatever goes wrong is told and leaves the kept ones as they are."""
    quotes.note("asking")
    try:
        said = fetch(names)
    except NoAnswer as error:
        quotes.note(say("The price service {error}. The quotes that were kept stand.", error=error))
        return
    found = sound(said, frozenset(names))
    quotes.keep(found)
    left = len(set(names)) - len(found)
    quotes.note(say("{found} quotes came{left}.", found=len(found), left=f", {left} parts without one" if left else ""))


def sound(said: object, asked: frozenset[str]) -> tuple[tuple[str, float, int], ...]:
    """The quotes of an answer that can be believed: of parts that were asked for, with a price and a lead time."""
    listed = said.get("quotes") if isinstance(said, dict) else None
    found = {}
    for item in listed if isinstance(listed, list) else ():
        if isinstance(item, dict) and item.get("name") in asked and _is_sound(item.get("price"), item.get("lead_days")):
            found[item["name"]] = (item["name"], float(item["price"]), int(item["lead_days"]))
    return tuple(found.values())


def _is_sound(price: Any, days: Any) -> bool:
    numbers = all(isinstance(value, int | float) and not isinstance(value, bool) for value in (price, days))
    return numbers and isfinite(price) and 0 < price <= MAX_PRICE and 0 <= days <= MAX_DAYS
