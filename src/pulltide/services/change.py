"""One edit of a machine, as it is asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

Document = dict[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One edit: values to set by path, and at most one operation on links, steps or plans.

    ``seen`` are the texts that stood at those paths when they were changed, and ``shape`` what the plans were made of.
    ``part`` is what an operation adds, as JSON. ``together`` makes the same change to every stage equal to the one that
    is set. ``by`` is who says so, where an operation needs a name, ``question`` whether a note is one.
    """

    sets: Mapping[str, str] = field(default_factory=dict)
    replacements: Mapping[str, str] = field(default_factory=dict)
    operation: str = ""
    plan: int = 0
    index: int = 0
    kind: str = ""
    label: str = ""
    seen: Mapping[str, str] = field(default_factory=dict)
    shape: str = ""
    part: str = ""
    together: bool = False
    by: str = ""
    question: bool = False
