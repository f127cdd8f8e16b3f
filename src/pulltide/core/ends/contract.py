"""What a simple machine on a shaft must provide. A new one is one file here and one name in ``END_KINDS``.

Whatever it is, it turns torque into force at a fixed number of newtons per newton meter, and loses a share of it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from math import pi
from typing import Any

from pulltide.core.findings import EXACT, Finding, Rule, Source
from pulltide.core.made.wheel import MadeWheel
from pulltide.core.model import CoreModel
from pulltide.core.working import Step


@dataclass(frozen=True, slots=True)
class Pull:
    """What a shaft's torque does at the end, per newton meter, and the steps that show it.

    ``per_metre`` is force over torque without loss [1/m]; speed is ω / per_metre. ``efficiency`` is what loss leaves
    when the shaft drives, ``back_efficiency`` when the load drives the shaft; zero or less: it does not.
    """

    per_metre: float
    efficiency: float
    back_efficiency: float
    steps: tuple[Step, ...]


@dataclass(frozen=True, slots=True)
class EndKind:
    """All that a kind of simple machine provides. ``does`` completes the sentence 'It ...'.

    ``makes`` are the wheels of it that can be made in the shop; its driver is on the last shaft.
    ``across`` gives newtons across the last shaft for each newton meter on it; None where nothing bends it.
    """

    kind: str
    title: str
    does: str
    model: type[CoreModel]
    pull: Callable[[Any], Pull]
    inspect: Callable[[Any, EndResult], Iterator[Finding]]
    rules: tuple[Rule, ...]
    caution: str = ""
    across: Callable[[Any], float | None] = lambda end: None
    makes: Callable[[Any], Iterable[MadeWheel]] = lambda end: ()


@dataclass(frozen=True, slots=True, kw_only=True)
class EndResult:
    """Force and speed at the end for a torque and a speed of its shaft. Torque and forces None while unknown."""

    kind: str
    title: str
    does: str
    pull: Pull
    torque_nm: float | None
    speed_rpm: float | None
    ideal_force_n: float | None
    force_n: float | None
    peak_force_n: float | None
    speed_m_per_s: float | None
    caution: str

    @property
    def travel_per_turn_mm(self) -> float:
        """How far the end moves for one turn of the shaft [mm]: 2000 π / per_metre."""
        return 2000 * pi / self.pull.per_metre


def force_steps(pull: Pull, torque_nm: float, speed_rpm: float) -> tuple[Step, ...]:
    """How the force and speed at the end come about, after the end's own steps. Source: balance of power."""
    ideal = torque_nm * pull.per_metre
    speed = speed_rpm * pi / 30 / pull.per_metre
    return (
        *pull.steps,
        Step("Speed at the end", "v", "2 π n / (60 k)", {"n": speed_rpm, "k": pull.per_metre}, speed, "m/s", EXACT),
        Step("Force without loss", "F_0", "T k", {"T": torque_nm, "k": pull.per_metre}, ideal, "N", EXACT),
        Step("Force", "F", "F_0 η", {"F_0": ideal, "η": pull.efficiency}, ideal * pull.efficiency, "N", EXACT),
    )


def lever_step(formula: str, numbers: dict[str, float], value: float, source: Source = EXACT) -> Step:
    """The step that gives newtons per newton meter."""
    return Step("Newtons per newton meter, without loss", "k", formula, numbers, value, "1/m", source)
