"""A part on the shop's shelf or on a list of its own: what it is, its sizes, how many, what state it is in.

Unknown stays unknown: a rating that nobody knows is carried and shown as such.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache
from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.labels import as_is, phrase, quantity
from pulltide.core.model import CoreModel, Kw, Mm, Plain, Rpm
from pulltide.core.stock import stock_rows
from pulltide.core.tables import number

PartFamily = Literal[
    "motor",
    "reducer",
    "v_pulley",
    "cone_pulley",
    "v_belt",
    "toothed_pulley",
    "toothed_belt",
    "sprocket",
    "chain",
    "spur_gear",
    "coupling",
    "bushing",
    "bearing_block",
    "bar",
    "key",
    "motor_base",
    "other",
]
Condition = Literal["new", "used_good", "used_worn", "unknown"]
#: What a size of these is of: a section, a profile, a chain.
SECTIONED: dict[str, str] = {
    "v_pulley": "v_pulleys",
    "v_belt": "v_belts",
    "toothed_pulley": "toothed_pulleys",
    "toothed_belt": "toothed_belts",
    "sprocket": "sprockets",
    "chain": "chain",
}
COLUMN = {
    "v_pulleys": "section",
    "v_belts": "section",
    "toothed_pulleys": "profile",
    "toothed_belts": "profile",
    "sprockets": "chain",
    "chain": "chain",
}
#: A pulley under this share of the least listed one of its section is a slip of the pen. Common practice, no source.
FAR_UNDER = 0.6


@cache
def sections_of(family: str) -> tuple[str, ...]:
    """The sections, profiles or chains that the lists know for a family; none where any name will do."""
    listed = SECTIONED.get(family)
    if listed is None:
        return ()
    return tuple(dict.fromkeys(row[COLUMN[listed]] for row in stock_rows(listed)))


@cache
def _v_sizes() -> dict[str, tuple[float, float, float]]:
    """By section: twice the groove's depth, outside less pitch, and the least listed outside diameter [mm]."""
    found: dict[str, tuple[float, float, float]] = {}
    for row in stock_rows("v_pulleys"):
        outside = number(row, "outside_mm")
        deep, less = outside - number(row, "root_mm"), outside - number(row, "pitch_mm")
        least = min(outside, found.get(row["section"], (0.0, 0.0, outside))[2])
        found[row["section"]] = deep, less, least
    return found


class Holding(CoreModel):
    """One kind of part: owned, or to be had from a list. ``on_hand`` is 0 for what is only listed.

    ``rating`` is in ``rating_unit``; both empty mean that nobody knows it.
    """

    family: PartFamily = Field(title="Kind of part")
    designation: str = Field(title="Name", min_length=1, max_length=60)
    section: str | None = Field(None, title="Section, profile or chain", max_length=12)
    outside_mm: Mm | None = Field(None, title="Outside diameter", gt=0, le=5000)
    pitch_mm: Mm | None = Field(None, title="Pitch diameter", gt=0, le=5000)
    teeth: int | None = Field(None, title="Teeth", ge=1, le=2000)
    grooves: int | None = Field(None, title="Grooves", ge=1, le=12)
    width_mm: Mm | None = Field(None, title="Width", gt=0, le=2000)
    length_mm: Mm | None = Field(None, title="Length", gt=0, le=100_000)
    bore_mm: Mm | None = Field(None, title="Bore or shaft", gt=0, le=500)
    ratio: Plain | None = Field(None, title="Ratio", gt=0, le=10_000)
    power_kw: Kw | None = Field(None, title="Power", gt=0, le=1000)
    speed_rpm: Rpm | None = Field(None, title="Speed", gt=0, le=30_000)
    rating: Plain | None = Field(None, title="Rating", gt=0, le=1_000_000, description="empty or “unknown”: not known")
    rating_unit: str | None = Field(None, title="Unit of the rating", max_length=12)
    on_hand: int = Field(0, title="On hand", ge=0, le=100_000)
    condition: Condition = Field("unknown", title="Condition")
    price: Plain | None = Field(None, title="Price", ge=0, le=10_000_000)
    place: str | None = Field(None, title="Where it lies", max_length=60)
    note: str | None = Field(None, title="Note", max_length=400)

    @model_validator(mode="after")
    def _possible(self) -> Holding:
        for fault in self._faults():
            raise ValueError(fault)
        return self

    def _faults(self) -> Iterator[str]:
        known = sections_of(self.family)
        if self.section is None and self._is_grooved:
            yield f"section is empty; accepted: {as_is(', '.join(known))}"
        if self.section is not None and known and self.section not in known:
            yield f"section {as_is(self.section)} is not known; accepted: {as_is(', '.join(known))}"
        if self.outside_mm is not None and self.pitch_mm is not None:
            yield from self._pitch_faults(self.pitch_mm, self.outside_mm)
        if self.family == "v_pulley" and self.section in _v_sizes():
            yield from self._v_faults()

    def _pitch_faults(self, pitch_mm: float, outside_mm: float) -> Iterator[str]:
        """A timing belt bends outside the pulley's teeth; all other wheels reach over their pitch circle."""
        pitch, outside = quantity(pitch_mm, "mm"), quantity(outside_mm, "mm")
        if self.family == "toothed_pulley" and pitch_mm < outside_mm * 0.999:
            yield f"pitch diameter {pitch} is under the outside, {outside}; that of a timing pulley is over it"
        elif self.family != "toothed_pulley" and pitch_mm > outside_mm * 1.001:
            yield f"pitch diameter {pitch} is over the outside, {outside}"

    @property
    def _is_grooved(self) -> bool:
        """Whether it means nothing without its section; a flat rim has none."""
        return self.family == "v_belt" or (self.family == "v_pulley" and self.grooves is not None)

    def _v_faults(self) -> Iterator[str]:
        deep, less, least = _v_sizes()[self.section or ""]
        outside = self.outside_mm
        if outside is None and self.pitch_mm is not None:
            outside = self.pitch_mm + less
        if outside is None:
            return
        if outside < FAR_UNDER * least:
            listed = f"the least listed is {quantity(least, 'mm')}"
            yield f"outside {quantity(outside, 'mm')} is far under any {as_is(self.section)} pulley; {phrase(listed)}"
        elif self.bore_mm is not None and self.bore_mm > outside - deep:
            root = quantity(outside - deep, "mm")
            yield f"bore {quantity(self.bore_mm, 'mm')} is over the root of the groove, {root}"

    @property
    def outside_or_from_pitch_mm(self) -> float | None:
        """Outside diameter of a V-pulley [mm]: as measured, or what its section adds to the pitch diameter."""
        if self.outside_mm is not None or self.pitch_mm is None:
            return self.outside_mm
        less = _v_sizes().get(self.section or "", (0.0, 0.0, 0.0))[1]
        return self.pitch_mm + less
