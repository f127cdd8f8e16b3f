"""The demo shop: made-up machines of a made-up shop, as machine files beside this module."""

from __future__ import annotations

import json
from importlib import resources

from pulltide.core.catalog import CATALOG
from pulltide.core.holding import Holding
from pulltide.core.machine import Machine
from pulltide.core.shipped import shipped_catalog
from pulltide.services.lists.look import look

FILES = ("lofthook", "marlpit", "hempwalk", "bellwether", "windrow", "spindlewood")


def demo_machines() -> list[Machine]:
    """The machines of the demo shop, in the order they are shown; their parts are those of the shipped lists."""
    return [_machine(name) for name in FILES]


def demo_shelf() -> list[Holding]:
    """What the demo shop owns: odds and ends, some of unknown rating, read as any shop's list is."""
    given = resources.files("pulltide.demo").joinpath("shelf.csv").read_bytes()
    return [holding for _, holding in look(given, "shelf.csv").holdings]


def _machine(name: str) -> Machine:
    text = resources.files("pulltide.demo").joinpath(f"{name}.json").read_text("utf-8")
    return Machine.model_validate(json.loads(text), context={CATALOG: shipped_catalog()})
