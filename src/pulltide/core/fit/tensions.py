"""What a belt is set to, new and run in, by each way of measuring."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

from pulltide.core.observed import Loop

#: A new belt that grips by friction is set so much tighter: it loses that in a day. Set it again under the other
#: share of what it should have. Common practice, no source.
NEW_SHARE, AGAIN_SHARE = 1.3, 0.8
#: Deflection over the free span. Common practice, no source.
DIP = 1 / 64


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """One tension of each belt at rest [N]: the force that deflects the span by 1/64 [N], that dip [mm], its strum [Hz]
    and the pull of all belts on a shaft at rest [N].
    """

    when: Literal["new", "run_in", "again", "now"]
    static_n: float
    press_n: float
    dip_mm: float
    strum_hz: float
    rest_pull_n: float


def settings(loop: Loop) -> Iterator[Setting]:
    """New, run in, the least before it is set again, and as it is where that was measured."""
    shares: tuple[tuple[Literal["new", "run_in", "again"], float], ...] = (("run_in", 1.0),)
    if loop.friction is not None:
        shares = (("new", NEW_SHARE), ("run_in", 1.0), ("again", AGAIN_SHARE))
    for when, share in shares:
        yield _setting(loop, when, share * loop.wanted_n)
    if loop.known:
        yield _setting(loop, "now", loop.static_n)


def _setting(loop: Loop, when: Literal["new", "run_in", "again", "now"], static_n: float) -> Setting:
    held = replace(loop, static_n=max(static_n, 1e-3))
    return Setting(
        when=when,
        static_n=static_n,
        press_n=held.press_n,
        dip_mm=DIP * loop.span_mm,
        strum_hz=held.strum_hz,
        rest_pull_n=held.rest_pull_n,
    )
