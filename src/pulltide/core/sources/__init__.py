"""Registry of sources: one line each."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Discriminator, Tag

from pulltide.core.sources.contract import Demand, Drive, Fact, Reading, SourceKind, SourceModel, position_of
from pulltide.core.sources.induction import InductionMotor
from pulltide.core.sources.mains import INDUCTION
from pulltide.core.sources.others import ENGINE, HAND, UNIVERSAL, Engine, HandCrank, UniversalMotor
from pulltide.core.sources.permanent_magnet import BRUSHLESS, DC, BrushlessMotor, DcMotor


def _kind_of(raw: Any) -> str:
    """Files written before there were other sources name no kind: they hold induction motors."""
    return str(raw.get("kind", "induction") if isinstance(raw, dict) else getattr(raw, "kind", "nothing"))


AnySource = Annotated[
    Annotated[InductionMotor, Tag("induction")]
    | Annotated[DcMotor, Tag("dc")]
    | Annotated[BrushlessMotor, Tag("brushless")]
    | Annotated[UniversalMotor, Tag("universal")]
    | Annotated[HandCrank, Tag("hand")]
    | Annotated[Engine, Tag("engine")],
    Discriminator(_kind_of),
]

SOURCE_KINDS: tuple[SourceKind, ...] = (INDUCTION, DC, BRUSHLESS, UNIVERSAL, HAND, ENGINE)
_BY_KIND = {kind.kind: kind for kind in SOURCE_KINDS}
SOURCE_RULES = tuple(dict.fromkeys(rule for kind in SOURCE_KINDS for rule in kind.rules))


def source_kind(kind: str) -> SourceKind:
    """The kind of a source. Raises KeyError if there is none."""
    return _BY_KIND[kind]


def drive_of(source: Any | None) -> Drive | None:
    """What a source gives a line, or None while there is none or it can't be told."""
    return None if source is None else _BY_KIND[source.kind].drive(source)


__all__ = [
    "SOURCE_KINDS",
    "SOURCE_RULES",
    "AnySource",
    "Demand",
    "Drive",
    "Fact",
    "InductionMotor",
    "Reading",
    "SourceKind",
    "SourceModel",
    "drive_of",
    "position_of",
    "source_kind",
]
