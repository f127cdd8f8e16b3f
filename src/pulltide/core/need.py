"""What the last shaft must do: entered directly, or by a worksheet that is kept so that it can be reopened.

Unknown stays unknown: every figure may be missing until it is entered.
"""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, field_validator, model_validator

from pulltide.core.ends import AnyEnd
from pulltide.core.labels import as_is, phrase
from pulltide.core.model import CoreModel, KgM2, Nm, Plain, Rpm
from pulltide.core.needs import NEED_KINDS, AnyWorksheet, need_kind
from pulltide.core.needs.assess import Requirement, assess

MAX_KINDS = len(NEED_KINDS)
#: Loads beside the leading one.
MAX_FURTHER = 4
#: How figures that were entered directly are named among the further loads.
DIRECT = "direct"
FOLLOWS = "follows from the worksheet while there is one"


class Need(CoreModel):
    """Speed band and torque at the last shaft. With a worksheet, every figure follows from it, but for torques that
    were measured on the machine: those go before.
    """

    last_shaft: str = Field("Last shaft", title="Name of the last shaft", min_length=1, max_length=40)
    worksheet: AnyWorksheet | None = Field(None, title="Worksheet")
    speed_min_rpm: Rpm | None = Field(None, title="Slowest useful speed", gt=0, le=20_000, description=FOLLOWS)
    speed_ideal_rpm: Rpm | None = Field(None, title="Ideal speed", gt=0, le=20_000, description=FOLLOWS)
    speed_max_rpm: Rpm | None = Field(None, title="Fastest useful speed", gt=0, le=20_000, description=FOLLOWS)
    running_torque_nm: Nm | None = Field(None, title="Running torque", gt=0, le=100_000, description=FOLLOWS)
    running_torque_low_nm: Nm | None = Field(None, title="Running torque, low", gt=0, le=100_000, description=FOLLOWS)
    running_torque_high_nm: Nm | None = Field(None, title="Running torque, high", gt=0, le=200_000, description=FOLLOWS)
    peak_torque_nm: Nm | None = Field(None, title="Peak torque", gt=0, le=200_000, description=FOLLOWS)
    breakaway_torque_nm: Nm | None = Field(None, title="Breakaway torque", gt=0, le=200_000, description=FOLLOWS)
    holding_torque_nm: Nm | None = Field(None, title="Torque to hold", ge=0, le=200_000, description=FOLLOWS)
    inertia_kgm2: KgM2 | None = Field(None, title="Inertia at the last shaft", gt=0, le=100_000, description=FOLLOWS)
    measured_torque_nm: Nm | None = Field(
        None, title="Running torque, measured", gt=0, le=100_000, description="goes before the worksheet's"
    )
    measured_half_nm: Nm | None = Field(
        None, title="Measured torque, give or take", gt=0, le=100_000, description="two sigma"
    )
    measured_breakaway_nm: Nm | None = Field(
        None, title="Breakaway torque, measured", gt=0, le=200_000, description="goes before the worksheet's"
    )
    set_aside: tuple[AnyWorksheet, ...] = Field(
        (),
        title="Worksheets set aside",
        max_length=MAX_KINDS,
        description="what was entered for other kinds of machine",
    )
    also: tuple[str, ...] = Field(
        (),
        title="Further loads",
        max_length=MAX_FURTHER,
        description="worksheets set aside that the machine must do as well",
    )
    entered: dict[str, float | None] | None = Field(
        None, title="Figures set aside", description="as entered directly, while a worksheet gives the figures"
    )
    end: AnyEnd | None = Field(None, title="Moves")
    turn: Literal["either", "same", "opposite"] = Field(
        "either", title="Rotation of the last shaft", description="against the motor's, both seen from the same side"
    )
    load_exponent: Plain = Field(
        0.0,
        title="Torque grows with this power of speed",
        ge=-1,
        le=3,
        description="0 hoist or conveyor, 2 fan or hammer, -1 lathe",
    )

    @model_validator(mode="before")
    @classmethod
    def _figures_follow(cls, raw: Any) -> Any:
        """Leave out figures that the worksheet will give, so that an old answer is never judged as an entry."""
        if isinstance(raw, dict) and raw.get("worksheet") is not None:
            return {name: value for name, value in raw.items() if name not in FIGURES}
        return raw

    @field_validator("entered")
    @classmethod
    def _of_figures(cls, entered: dict[str, float | None] | None) -> dict[str, float | None] | None:
        unknown = sorted(set(entered or {}) - FIGURES)
        if unknown:
            raise ValueError(f"{as_is(', '.join(unknown))} is no figure of the need")
        return entered

    @model_validator(mode="after")
    def _further_are_kept(self) -> Need:
        kept = {sheet.kind for sheet in self.set_aside} | ({DIRECT} if self.entered else set())
        missing = sorted(set(self.also) - kept)
        if missing:
            raise ValueError(f"{as_is(', '.join(missing))} is no worksheet that was set aside")
        return self

    @model_validator(mode="after")
    def _filled(self) -> Need:
        if self.worksheet is not None:
            self.__dict__.update(self._as_measured(assess(self.worksheet).figures()))
        return self._in_order()

    def _as_measured(self, figures: dict[str, Any]) -> dict[str, Any]:
        """Figures of the worksheet with what was measured in their place; the peak goes with the running torque."""
        measured, sheet_nm, peak_nm = self.measured_torque_nm, figures["running_torque_nm"], figures["peak_torque_nm"]
        if measured is not None:
            half = min(self.measured_half_nm or 0.0, 0.99 * measured)
            figures |= {
                "running_torque_nm": measured,
                "running_torque_low_nm": measured - half,
                "running_torque_high_nm": measured + half,
                "peak_torque_nm": peak_nm * measured / sheet_nm if peak_nm and sheet_nm else peak_nm,
            }
        if self.measured_breakaway_nm is not None:
            figures["breakaway_torque_nm"] = self.measured_breakaway_nm
        return figures

    def _in_order(self) -> Need:
        pairs = (
            (self.speed_min_rpm, self.speed_ideal_rpm, "slowest useful speed", "ideal speed"),
            (self.speed_ideal_rpm, self.speed_max_rpm, "ideal speed", "fastest useful speed"),
            (self.speed_min_rpm, self.speed_max_rpm, "slowest useful speed", "fastest useful speed"),
            (self.running_torque_nm, self.peak_torque_nm, "running torque", "peak torque"),
            (self.running_torque_low_nm, self.running_torque_nm, "low running torque", "running torque"),
            (self.running_torque_nm, self.running_torque_high_nm, "running torque", "high running torque"),
        )
        for low, high, low_name, high_name in pairs:
            if low is not None and high is not None and low > high * (1 + 1e-9):
                raise ValueError(f"{phrase(low_name)} is above {phrase(high_name)}; lower the one or raise the other")
        return self

    @property
    def aimed_rpm(self) -> float | None:
        """Speed that a ratio is to be found for [rpm]: the ideal one, or the middle of a band without one."""
        if self.speed_ideal_rpm is not None or self.speed_min_rpm is None or self.speed_max_rpm is None:
            return self.speed_ideal_rpm
        return (self.speed_min_rpm + self.speed_max_rpm) / 2

    @property
    def fastest_is_limit(self) -> bool:
        """Whether the fastest useful speed is a limit without grace."""
        asked = self.requirement()
        return asked is not None and asked.speeds.max_is_limit

    def requirement(self) -> Requirement | None:
        """Findings, workings and the machine's own words, or None without a worksheet."""
        return None if self.worksheet is None else assess(self.worksheet)

    def further(self) -> tuple[tuple[str, Need], ...]:
        """Title and need of each further load; the last shaft and what it moves are the same."""
        shared = {"last_shaft": self.last_shaft, "turn": self.turn, "end": self.end}
        made = []
        for sheet in self.set_aside:
            if sheet.kind in self.also:
                made.append((need_kind(sheet.kind).title, Need(worksheet=sheet, **shared)))
        if DIRECT in self.also:
            made.append(("Entered directly", Need(**(self.entered or {}), **shared)))
        return tuple(made)

    def torque_at(self, speed_rpm: float) -> float | None:
        """Running torque at a speed [N·m]: T (n / n_ideal)^k. Constant while k is 0 or the ideal speed is unknown."""
        if self.running_torque_nm is None or self.speed_ideal_rpm is None or self.load_exponent == 0:
            return self.running_torque_nm
        return float(self.running_torque_nm * (speed_rpm / self.speed_ideal_rpm) ** self.load_exponent)


#: Torques that were measured on the machine, in place of the worksheet's.
MEASURED = ("measured_torque_nm", "measured_half_nm", "measured_breakaway_nm")
FIGURES = frozenset(Need.model_fields) - {
    "last_shaft", "worksheet", "set_aside", "also", "entered", "end", "turn", *MEASURED
}  # fmt: skip
