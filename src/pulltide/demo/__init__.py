"""The demo shop: made-up machines of a made-up shop, as machine files beside this module."""

from __future__ import annotations

import json
from importlib import resources

from pulltide.core.machine import Machine

FILES = ("lofthook", "marlpit", "hempwalk", "bellwether", "windrow", "spindlewood")


def demo_machines() -> list[Machine]:
    """The machines of the demo shop, in the order they are shown."""
    folder = resources.files("pulltide.demo")
    return [Machine.model_validate(json.loads(folder.joinpath(f"{name}.json").read_text("utf-8"))) for name in FILES]
