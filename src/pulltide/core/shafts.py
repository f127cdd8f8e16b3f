"""What a shaft and its key bear before they twist, shear or crush. Sizes are kept only where they were entered."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi
from typing import Literal

from pydantic import Field, model_validator

from pulltide.core.findings import Source
from pulltide.core.labels import quantity
from pulltide.core.model import CoreModel, Degrees, Mm, Newton, Nm, Rpm
from pulltide.core.tables import Table, load_table, number
from pulltide.core.transmission import FailurePoint

Steel = Literal["not_known", "mild_steel_1018", "steel_1045", "steel_4140_hardened", "stainless_304"]
#: Yield strength [MPa] by steel. Common practice, no source: the low end for bar as sold.
YIELD_MPA = {"mild_steel_1018": 250.0, "steel_1045": 310.0, "steel_4140_hardened": 650.0, "stainless_304": 205.0}
#: Shear over tensile yield (distortion energy), and what a keyseat leaves of a shaft (ASME B17c, from memory).
SHEAR_SHARE, KEYSEAT_SHARE = 0.577, 0.75
SHIGLEY = Source("Shigley's Mechanical Engineering Design", "sections 5-5 and 7-7", "formula")
MAX_SHAFTS = 9
TakeOffLaw = Literal["steady", "speed_squared"]
STEADY: TakeOffLaw = "steady"
#: Under which wheel of a shaft a one-way clutch sits: that of the stage before it, or after it.
OneWay = Literal["none", "driven_wheel", "driver_wheel"]


#: What a shaft runs in: inserts in pillow or flange blocks, deep-groove balls of a series, or a pair of tapered rollers
#: whose cups face each other or stand back to back.
BearingType = Literal["insert", "deep_60", "deep_62", "deep_63", "tapered_face", "tapered_back"]


class Span(CoreModel):
    """Where things stand along a shaft, measured from one of its ends, and how its wheels are fixed."""

    length_mm: Mm | None = Field(None, title="Length", ge=10, le=6000)
    bearing_1_mm: Mm | None = Field(None, title="First bearing at", ge=0, le=6000, description="middle of the bearing")
    bearing_2_mm: Mm | None = Field(None, title="Second bearing at", ge=0, le=6000)
    bearing_3_mm: Mm | None = Field(None, title="Third bearing at", ge=0, le=6000, description="most shafts have two")
    driven_at_mm: Mm | None = Field(
        None, title="Wheel of the stage before at", ge=0, le=6000, description="middle of its face"
    )
    driver_at_mm: Mm | None = Field(None, title="Wheel of the stage after at", ge=0, le=6000)
    load_n: Newton | None = Field(
        None, title="Other load across the shaft", ge=0, le=500_000, description="a drum's weight, a cutting force"
    )
    load_at_mm: Mm | None = Field(None, title="It acts at", ge=0, le=6000)
    load_deg: Degrees = Field(-90.0, title="Its direction", ge=-180, le=180, description="0 right, 90 up, -90 down")
    fixing: Literal["keyseat", "sled_keyseat", "set_screw"] = Field("keyseat", title="Wheels are fixed by")
    bearing: BearingType = Field("insert", title="Bearings are")
    locked: Literal["not_said", "one", "both"] = Field("not_said", title="Locked along the shaft")
    end_1_mm: Mm | None = Field(
        None, title="First end turned down for", gt=0, le=6000, description="up to its shoulder"
    )
    end_1_diameter_mm: Mm | None = Field(None, title="First end, diameter", ge=3, le=300)
    end_2_mm: Mm | None = Field(None, title="Second end turned down for", gt=0, le=6000)
    end_2_diameter_mm: Mm | None = Field(None, title="Second end, diameter", ge=3, le=300)
    fillet_mm: Mm | None = Field(
        None, title="Fillet at the shoulders", gt=0, le=50, description="empty: a sharp corner, 2 % of the diameter"
    )

    @model_validator(mode="after")
    def _load_has_a_place(self) -> Span:
        if self.load_n and self.load_at_mm is None:
            raise ValueError("a load across the shaft needs the place where it acts")
        return self

    @model_validator(mode="after")
    def _ends_find_room(self) -> Span:
        turned = (self.end_1_mm or 0.0) + (self.end_2_mm or 0.0)
        if self.length_mm is not None and turned >= self.length_mm:
            raise ValueError(f"the ends that are turned down, {quantity(turned, 'mm')}, take up the whole length")
        return self

    @property
    def bearings_mm(self) -> tuple[float, ...]:
        """Stations of the bearings that are placed [mm]."""
        found = (self.bearing_1_mm, self.bearing_2_mm, self.bearing_3_mm)
        return tuple(sorted(at for at in found if at is not None))


class ShaftPart(CoreModel):
    """Size, steel and key of one shaft of a plan, counted from the motor at 1."""

    shaft: int = Field(title="Shaft", ge=1, le=MAX_SHAFTS)
    diameter_mm: Mm | None = Field(None, title="Least diameter", ge=3, le=300)
    steel: Steel = Field("not_known", title="Shaft steel")
    key_width_mm: Mm | None = Field(None, title="Key width", ge=1, le=60)
    key_length_mm: Mm | None = Field(None, title="Effective key length", ge=2, le=400)
    key_steel: Steel = Field("not_known", title="Key steel")
    span: Span | None = Field(None, title="Along the shaft")
    brake_nm: Nm | None = Field(
        None, title="Brake torque on this shaft", gt=0, le=50_000, description="sets with the power off"
    )
    take_off_nm: Nm | None = Field(
        None, title="Take-off torque", gt=0, le=50_000, description="a second machine, a fan, driven from this shaft"
    )
    take_off_rpm: Rpm | None = Field(None, title="Take-off speed", gt=0, le=50_000)
    take_off_law: TakeOffLaw = Field("steady", title="Take-off torque varies")
    drag_nm: Nm | None = Field(
        None, title="Friction on this shaft", gt=0, le=50_000, description="measured, over what is reckoned with"
    )
    loss_nm: Nm | None = Field(
        None,
        title="Loss in the stage it drives",
        gt=0,
        le=50_000,
        description="measured, at this shaft, over what is reckoned with",
    )
    one_way: OneWay = Field(
        "none", title="One-way clutch", description="drives one way only; the load may run ahead of its drive"
    )

    @model_validator(mode="after")
    def _law_has_a_speed(self) -> ShaftPart:
        if self.take_off_nm is not None and self.take_off_rpm is None and self.take_off_law != STEADY:
            raise ValueError(
                "a torque that grows with the speed needs the speed it is told at: enter “Take-off, at speed”"
            )
        return self

    @property
    def one_way_stage(self) -> int | None:
        """Stage, from 0, that its one-way clutch is in; None without one."""
        return {"none": None, "driven_wheel": self.shaft - 2, "driver_wheel": self.shaft - 1}[self.one_way]

    @property
    def is_taken_from(self) -> bool:
        """Whether a take-off or measured friction draws torque from it."""
        return self.take_off_nm is not None or self.dragged_nm > 0

    @property
    def dragged_nm(self) -> float:
        """Measured friction on it, and loss of the stage it drives [N·m]; 0 where none was measured."""
        return (self.drag_nm or 0.0) + (self.loss_nm or 0.0)

    def taken_nm(self, speed_rpm: float) -> float:
        """Torque that its take-off and measured friction draw at a speed of this shaft [N·m]; 0 without either."""
        return self._taken_off_nm(speed_rpm) + self.dragged_nm

    def _taken_off_nm(self, speed_rpm: float) -> float:
        if self.take_off_nm is None or self.take_off_rpm is None or self.take_off_law == STEADY:
            return self.take_off_nm or 0.0
        return self.take_off_nm * (speed_rpm / self.take_off_rpm) ** 2


def shaft_yield_nm(diameter_mm: float, yield_mpa: float, keyed: bool) -> float:
    """Torque at which a round shaft yields [N·m]: 0.577 S_y π d³ / 16, three quarters of it with a keyseat.

    Source: Shigley section 5-5 (distortion energy); keyseat by ASME B17c, from memory.

    >>> round(shaft_yield_nm(25.0, 310.0, keyed=False))
    549
    """
    share = KEYSEAT_SHARE if keyed else 1.0
    return share * SHEAR_SHARE * yield_mpa * pi * diameter_mm**3 / 16_000


def key_shear_nm(diameter_mm: float, width_mm: float, length_mm: float, yield_mpa: float) -> float:
    """Torque at which a key shears [N·m]: 0.577 S_y b L d / 2. Source: Shigley section 7-7.

    >>> round(key_shear_nm(25.0, 8.0, 30.0, 250.0))
    433
    """
    return SHEAR_SHARE * yield_mpa * width_mm * length_mm * diameter_mm / 2000


def key_crush_nm(diameter_mm: float, height_mm: float, length_mm: float, yield_mpa: float) -> float:
    """Torque at which a key or its seat crushes [N·m]: S_y (h / 2) L d / 2, the softer of both. Shigley section 7-7.

    >>> round(key_crush_nm(25.0, 7.0, 30.0, 250.0))
    328
    """
    return yield_mpa * height_mm / 2 * length_mm * diameter_mm / 2000


def keys() -> Table:
    """Standard parallel keys."""
    return load_table("pulltide.core", "keys")


def key_height_mm(width_mm: float) -> float:
    """Height of the standard key nearest in width [mm]; a key of another width is taken square.

    >>> key_height_mm(8.0), key_height_mm(6.35), key_height_mm(7.2)
    (7.0, 6.35, 7.2)
    """
    for row in keys().rows:
        if abs(number(row, "width_mm") - width_mm) < 0.03:
            return number(row, "height_mm")
    return width_mm


def is_inch_shaft(diameter_mm: float) -> bool:
    """Whether a shaft is made by the inch: on a sixteenth, and not on a whole millimeter.

    >>> is_inch_shaft(22.225), is_inch_shaft(25.4), is_inch_shaft(25.0), is_inch_shaft(127.0)
    (True, True, False, True)
    """
    sixteenths = diameter_mm / 25.4 * 16
    on_inch = abs(sixteenths - round(sixteenths)) * 25.4 / 16 < 0.03
    whole = abs(diameter_mm - round(diameter_mm)) < 0.005 and round(sixteenths) % 8 != 0
    return on_inch and not whole


def usual_key_mm(diameter_mm: float) -> tuple[float, float] | None:
    """Width and height of the standard key of a shaft [mm], inch keys for inch shafts; None outside the table.

    Source: ISO 773 and ANSI B17.1, from memory.

    >>> usual_key_mm(25.0), usual_key_mm(30.0), usual_key_mm(5.0), usual_key_mm(25.4)
    ((8.0, 7.0), (8.0, 7.0), None, (6.35, 6.35))
    """
    series = "inch" if is_inch_shaft(diameter_mm) else "metric"
    for row in keys().rows:
        if row["series"] == series and number(row, "over_mm") < diameter_mm <= number(row, "up_to_mm"):
            return number(row, "width_mm"), number(row, "height_mm")
    return None


def failure_points(part: ShaftPart) -> Iterator[FailurePoint]:
    """What gives in a shaft whose size is entered: the shaft twists, its key shears or crushes."""
    d = part.diameter_mm
    if d is None:
        return
    steel, keyed = YIELD_MPA.get(part.steel), part.key_width_mm is not None
    twists = None if steel is None else shaft_yield_nm(d, steel, keyed)
    yield FailurePoint("shaft twists", "breaks", twists, "" if steel else "its steel")
    if part.key_width_mm is None or part.key_length_mm is None:
        if keyed:
            yield FailurePoint("key shears", "breaks", None, "its length")
        return
    key = YIELD_MPA.get(part.key_steel)
    if key is None:
        yield FailurePoint("key shears", "breaks", None, "its steel")
        return
    yield FailurePoint("key shears", "breaks", key_shear_nm(d, part.key_width_mm, part.key_length_mm, key))
    softer = min(key, steel) if steel else key
    height = key_height_mm(part.key_width_mm)
    yield FailurePoint("key crushes", "breaks", key_crush_nm(d, height, part.key_length_mm, softer))
