"""How often a property is drawn: a share of all its draws, since every run draws others."""

from __future__ import annotations

import os

#: Share of the draws that a run makes; ``PULLTIDE_DRAWS=1`` makes them all.
SHARE = float(os.environ.get("PULLTIDE_DRAWS", "0.3"))


def draws(most: int) -> int:
    """So many of ``most`` draws."""
    return max(round(most * SHARE), 5)
