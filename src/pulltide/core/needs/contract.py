"""What a worksheet must provide. A new kind of machine is one module under ``core/needs`` and one registry line.

A worksheet is evaluated three times, with every uncertain input at its low, typical and high end together
(the worst corner), so that the answer carries a band. What is not entered yet leaves its figures unknown.

1. ``model``: the frozen input record with ``kind``; a field's description says where its default comes from.
2. ``work(sheet, corner)``: an :class:`Outcome` for one corner, with every step of the working recorded.
3. ``sketch(sheet)``: the small drawing with its dimensions named.
4. ``say(sheet, speed_rpm)``: a speed of the last shaft in the machine's own words.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from math import pi
from typing import Any, ClassVar, Literal

from pydantic import Field, field_validator, model_validator

from pulltide.core.duty import Segment
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Finding, Rule, Source
from pulltide.core.labels import as_is, phrase
from pulltide.core.model import CoreModel, Rpm
from pulltide.core.sketch import Sketch
from pulltide.core.tables import Row, load_table
from pulltide.core.units import NM_RPM_PER_KW, RPM_PER_RAD_PER_S
from pulltide.core.working import Step, Working

Corner = Literal["low", "typical", "high"]
CORNERS: tuple[Corner, ...] = ("low", "typical", "high")
PACKAGE = "pulltide.core.needs"
ENTERED = Source("the worksheet", "as entered", "entered")


class StillUnknown(Exception):
    """An input that a figure needs is not entered yet."""


def known(*values: float | None) -> tuple[float, ...]:
    """The values as numbers. Raises StillUnknown if one is missing."""
    found = tuple(value for value in values if value is not None)
    if len(found) < len(values):
        raise StillUnknown
    return found


class Worksheet(CoreModel):
    """Base of every worksheet: a speed band of one's own, and inputs with a band."""

    #: Low, typical and high end of an uncertain input, by field name.
    BANDS: ClassVar[Mapping[str, tuple[float, float, float]]] = {}
    #: Pairs of inputs of which the first is never above the second.
    ORDER: ClassVar[tuple[tuple[str, str], ...]] = ()

    assumed: tuple[str, ...] = Field((), title="Starting values not corrected yet", max_length=60)
    speed_min_rpm: Rpm | None = Field(None, title="Slowest useful speed", gt=0, le=20_000)
    speed_ideal_rpm: Rpm | None = Field(None, title="Ideal speed", gt=0, le=20_000)
    speed_max_rpm: Rpm | None = Field(None, title="Fastest useful speed", gt=0, le=20_000)

    def at(self, name: str, corner: Corner) -> float:
        """An uncertain input at one end of its band: as entered, or in proportion to the typical value.

        Raises StillUnknown if the typical value is not entered.
        """
        (typical,) = known(getattr(self, name))
        if corner == "typical":
            return typical
        entered = getattr(self, end_name(name, corner), None)
        if entered is not None:
            return float(entered)
        low, middle, high = self.BANDS[name]
        return typical * (low if corner == "low" else high) / middle

    @field_validator("assumed")
    @classmethod
    def _of_inputs(cls, assumed: tuple[str, ...]) -> tuple[str, ...]:
        unknown = sorted(set(assumed) - set(cls.model_fields))
        if unknown:
            raise ValueError(f"{as_is(', '.join(unknown))} is no input of this worksheet")
        return tuple(dict.fromkeys(assumed))

    @model_validator(mode="after")
    def _bands_in_order(self) -> Worksheet:
        for name in self.BANDS:
            if getattr(self, name) is None:
                continue
            ends = [self.at(name, corner) for corner in CORNERS]
            if not ends[0] <= ends[1] <= ends[2]:
                title = type(self).model_fields[name].title or name
                raise ValueError(
                    f"{phrase(title)}: low, typical and high must rise; given {ends[0]:g}, {ends[1]:g}, {ends[2]:g}"
                )
        return self

    @model_validator(mode="after")
    def _in_order(self) -> Worksheet:
        fields = type(self).model_fields
        for low, high in self.ORDER:
            small, large = getattr(self, low), getattr(self, high)
            if small is not None and large is not None and small > large:
                names = phrase(fields[low].title or low), phrase(fields[high].title or high)
                raise ValueError(
                    f"{names[0]} ({small:g}) is above {names[1]} ({large:g}); lower the one or raise the other"
                )
        return self


def end_name(name: str, corner: Corner) -> str:
    """Name of the field for one end of a band: ``bed_angle_deg`` and ``bed_angle_low_deg``."""
    stem, _, unit = name.rpartition("_")
    return f"{stem}_{corner}_{unit}"


@dataclass(frozen=True, slots=True)
class SpeedBand:
    """Useful speeds of the last shaft [rpm] with the reason. An end may be open.

    ``max_is_limit``: past the fastest something bursts, or nothing works; no grace is given there.
    """

    min_rpm: float | None
    ideal_rpm: float | None
    max_rpm: float | None
    reason: str = "as entered"
    max_is_limit: bool = False


@dataclass(frozen=True, slots=True)
class Zone:
    """A stretch of speed and what the machine does in it."""

    from_rpm: float
    to_rpm: float
    name: str
    state: Literal["clear", "weigh", "fix", "note"]


#: The code of the figure that a page has a tile of its own for.
POWER = "power"


@dataclass(frozen=True, slots=True)
class Saying:
    """A figure in the machine's own words, by its code."""

    code: str
    label: str
    value: float | None
    unit: str


@dataclass(slots=True, kw_only=True)
class Outcome:
    """What one corner of a worksheet gives; None while something it needs is not entered."""

    running_nm: float | None = None
    peak_nm: float | None = None
    breakaway_nm: float | None = None
    holding_nm: float | None = None
    inertia_kgm2: float | None = None
    speeds: SpeedBand = field(default_factory=lambda: SpeedBand(None, None, None))
    zones: tuple[Zone, ...] = ()
    own: list[Saying] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)
    load_exponent: float = 0.0
    fluctuation: float | None = None
    cycle: tuple[Segment, ...] = ()
    steps: dict[str, list[Step]] = field(default_factory=dict)
    _figure: str = "running"

    @contextmanager
    def working(self, figure: str) -> Any:
        """Record the steps that follow under a figure; a missing input ends the block and leaves the rest unknown."""
        before, self._figure = self._figure, figure
        try:
            yield
        except StillUnknown:
            self.steps.pop(figure, None)
        finally:
            self._figure = before

    def step(
        self, name: str, written: str, value: float, unit: str, source: Source = EXACT, /, **put_in: float
    ) -> float:
        """Record one step, written ``T = F r``, and give its value back."""
        symbol, _, formula = written.partition(" = ")
        self.steps.setdefault(self._figure, []).append(Step(name, symbol, formula, put_in, value, unit, source))
        return value

    def times(
        self, figure: Literal["peak", "breakaway"], name: str, factor: float, source: Source = COMMON_PRACTICE
    ) -> None:
        """Set peak or breakaway torque to so many times the running torque; nothing while that is unknown."""
        if self.running_nm is None:
            return
        with self.working(figure):
            value = self.step(
                name, f"T = {factor:g} T_run", factor * self.running_nm, "N*m", source, T_run=self.running_nm
            )
        setattr(self, f"{figure}_nm", value)

    def say(self, code: str, label: str, value: float | None, unit: str) -> None:
        """Add a figure in the machine's own words."""
        self.own.append(Saying(code, label, value, unit))


@dataclass(frozen=True, slots=True, kw_only=True)
class Built:
    """What a solved plan gives the machine: speeds of the last shaft [rpm], in use and at its slowest and fastest
    setting; ratio; inertia of the rotor [kg·m²] and play at the last shaft [arcmin], None while unknown.
    """

    speed_rpm: float
    slowest_rpm: float
    fastest_rpm: float
    ratio: float
    rotor_inertia_kgm2: float | None = None
    play_arcmin: float | None = None


def as_planned(sheet: Any, built: Built) -> tuple[Finding, ...]:
    """A worksheet whose checks do not depend on the plan."""
    return ()


def not_held(sheet: Any) -> bool:
    """A worksheet that plans no brake."""
    return False


@dataclass(frozen=True, slots=True)
class Pulse:
    """What of the work comes in blows: so many in a turn of the last shaft, over an arc [rad] of it each, and which
    share of all the work they are.
    """

    per_turn: int
    arc_rad: float
    share: float


@dataclass(frozen=True, slots=True)
class Hanging:
    """What hangs raised in a machine at work: its weight times the arm of its center of gravity [N·m], and how far from
    its lowest place it is carried [rad].
    """

    weight_nm: float
    angle_rad: float


@dataclass(frozen=True, slots=True)
class Move:
    """A move of the last shaft and the rest after it: angle [rad], times [s], of which ``rising_s`` speeding up and as
    long slowing down; torque of gravity over the angle gone [N·m], friction while it moves [N·m].
    """

    angle_rad: float
    seconds: float
    rising_s: float
    dwell_s: float
    gravity_nm: Callable[[float], float]
    friction_nm: float


def no_move(sheet: Any) -> Move | None:
    """A machine that runs on, or nobody knows how it moves."""
    return None


def nothing_hangs(sheet: Any) -> Hanging | None:
    """A machine in which nothing stays raised, or nobody knows."""
    return None


def no_pulse(sheet: Any) -> Pulse | None:
    """A machine that works evenly, or nobody knows how it does not."""
    return None


def no_pull(sheet: Any) -> float | None:
    """A machine whose last shaft is not pulled across, or nobody knows how."""
    return None


def no_words(sheet: Any, speed_rpm: float) -> tuple[Saying, ...]:
    """A machine whose own words are turns a minute."""
    return ()


@dataclass(frozen=True, slots=True, kw_only=True)
class NeedKind:
    """All that a kind of worksheet provides. ``duty`` names its row in the table of duty classes.

    ``judge_built`` judges the plan's own figures in place of what the sheet assumes, by the same rules. ``held`` says
    whether a brake is planned; ``pull_per_metre`` gives newtons across the last shaft for each newton meter on it.
    ``pulse`` is what of the work comes in blows, ``hangs`` what stays raised and swings back with the power off,
    ``move`` one that a controller makes it follow.
    ``words`` are those by which a person looks for it; ``starter`` are plausible values to begin from, made up, none
    where it is all about measuring.
    """

    kind: str
    title: str
    group: str
    question: str
    model: type[Worksheet]
    work: Callable[[Any, Corner], Outcome]
    sketch: Callable[[Any], Sketch]
    say: Callable[[Any, float], tuple[Saying, ...]] = no_words
    last_shaft: str = "Last shaft"
    duty: str = ""
    caution: str = ""
    advice: str = ""
    rules: tuple[Rule, ...] = ()
    hides: Callable[[Any], frozenset[str]] = lambda sheet: frozenset()
    duty_by_sheet: Callable[[Any], str] | None = None
    judge_built: Callable[[Any, Built], Iterable[Finding]] = as_planned
    held: Callable[[Any], bool] = not_held
    pull_per_metre: Callable[[Any], float | None] = no_pull
    pulse: Callable[[Any], Pulse | None] = no_pulse
    hangs: Callable[[Any], Hanging | None] = nothing_hangs
    move: Callable[[Any], Move | None] = no_move
    words: str = ""
    starter: Mapping[str, Any] = field(default_factory=dict)

    def duty_of(self, sheet: Any) -> str:
        """Its row in the table of duty classes, which may depend on what the sheet says."""
        return self.duty if self.duty_by_sheet is None else self.duty_by_sheet(sheet)


def power_from_torque_kw(outcome: Outcome, torque: float, speed_rpm: float) -> float:
    """Record and give power P = T n / 9549.3 [kW]."""
    return outcome.step("Power", "P = T n / 9549.3", torque * speed_rpm / NM_RPM_PER_KW, "kW", T=torque, n=speed_rpm)


def say_power(sheet: Worksheet, outcome: Outcome, label: str, code: str = "shaft_power") -> None:
    """Say the power of the running torque at the ideal speed, where both are known."""
    speed = sheet.speed_ideal_rpm or outcome.speeds.ideal_rpm
    if speed and outcome.running_nm is not None:
        with outcome.working("power"):
            outcome.say(code, label, power_from_torque_kw(outcome, outcome.running_nm, speed), "kW")


def speed_at_rim(outcome: Outcome, band: tuple[float, float, float], diameter_mm: float) -> tuple[float, float, float]:
    """Speeds [rpm] at which a diameter runs at the rim speeds of a band [m/s]; the middle one is recorded."""
    low, ideal, high = (60_000 * speed / (pi * diameter_mm) for speed in band)
    outcome.step("Rim speed wanted", "n = 60000 v / (π D)", ideal, "rpm", COMMON_PRACTICE, v=band[1], D=diameter_mm)
    return low, ideal, high


def torque_from_power_nm(outcome: Outcome, power_kw: float, speed_rpm: float) -> float:
    """Record and give torque T = 9549.3 P / n [N·m]."""
    value = NM_RPM_PER_KW * power_kw / speed_rpm
    return outcome.step("Torque", "T = 9549.3 P / n", value, "N*m", P=power_kw, n=speed_rpm)


def rad_per_s(speed_rpm: float) -> float:
    """Angular speed [rad/s] of n [rpm]."""
    return speed_rpm / RPM_PER_RAD_PER_S


def table_rows(name: str, key: str) -> dict[str, Row]:
    """The rows of a table of this package by one of their cells."""
    return {row[key]: row for row in load_table(PACKAGE, name).rows}


def table_source(name: str) -> Source:
    """The table as the source of a figure."""
    return load_table(PACKAGE, name).as_source


def row_band(name: str, key: str, wanted: str) -> tuple[float, float, float]:
    """Low, typical and high cell of one row."""
    row = table_rows(name, key)[wanted]
    return float(row["low"]), float(row["typical"]), float(row["high"])


def pick(band: tuple[float, float, float], corner: Corner) -> float:
    """One end of a band."""
    return band[CORNERS.index(corner)]


def working_of(title: str, steps: list[Step]) -> Working:
    """Recorded steps as a working."""
    return Working(title, tuple(steps))
