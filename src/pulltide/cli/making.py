"""``pulltide wheel`` and ``part``: what is made in the shop, written as files."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.made.profile import MakingProfile
from pulltide.core.made.wheel import MadeWheel
from pulltide.presentation.paper.pdf_file import Size
from pulltide.presentation.paper.wheel_file import WHEEL_KINDS, Look, Shape, wheel_file, wheel_paper
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.typed import record_from

#: What can be said of the shop's machines, by the name of its field.
SAID = {"kerf": "kerf_mm", "clearance": "clearance_mm", "shrinkage": "shrinkage"}


def profile_of(words: Iterable[str]) -> MakingProfile:
    """What the machines do to a part, out of ``kerf=1.2mm`` and the like. Raises InputErrors."""
    typed: dict[str, str] = {}
    for word in words:
        name, _, value = word.partition("=")
        wide, by, high = value.partition("x")
        if name == "sheet" and by:
            typed |= {"sheet_width_mm": wide, "sheet_height_mm": high}
        elif name in SAID and value:
            typed[SAID[name]] = value
        else:
            accepted = "kerf=, clearance=, shrinkage=, sheet=300x200"
            raise InputErrors([InputError("--with", word[:40], "is not understood", accepted=accepted)])
    return record_from(MakingProfile, typed, DEFAULT_UNITS)


def write(wheel: MadeWheel, where: tuple[str, str, str], to: list[str], size: Size, words: list[str]) -> None:
    """Write a wheel as every file that is asked for. Raises InputErrors and OSError."""
    profile = profile_of(words)
    shape: Shape = "sectors" if profile.sheet_mm else "kerf" if profile.kerf_mm else "drawn"
    paper = wheel_paper(wheel, where, DEFAULT_UNITS, Look(size=size, profile=profile, shape=shape))
    for target in map(Path, to):
        kind = next((known for known in WHEEL_KINDS if target.suffix == f".{known}"), None)
        if kind is None:
            raise InputErrors([InputError("--to", target.name, "is no kind of file", accepted=", ".join(WHEEL_KINDS))])
        target.write_bytes(wheel_file(wheel, kind, paper))
