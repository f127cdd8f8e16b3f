"""What holds a wheel on its shaft, way by way: the torque at which it lets go."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from typing import Literal

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.fit.strength import PACKAGE
from pulltide.core.labels import as_is, phrase
from pulltide.core.made.fixing import set_screw
from pulltide.core.made.fixing import table as bushings
from pulltide.core.shafts import YIELD_MPA, ShaftPart, key_crush_nm, key_height_mm, key_shear_nm, usual_key_mm
from pulltide.core.tables import load_table, number

Way = Literal["key", "set_screws", "clamp", "bushing"]
#: Two screws 60° to 90° apart hold so many times what one does; friction in a clamped hub. Common practice, no source.
TWO_SCREWS, FRICTION = 1.75, 0.12
#: Pull of a tightened screw of class 8.8 [N]: three quarters of its proof load. Source: ISO 898-1, from memory.
SCREWS_N = {"M5": 6390.0, "M6": 9000.0, "M8": 16_500.0, "M10": 26_100.0, "M12": 37_900.0, "M16": 70_700.0}
#: A clamp's screws by the shaft: up to so many mm. Common practice, no source.
CLAMP = ((16.0, "M5"), (22.0, "M6"), (32.0, "M8"), (45.0, "M10"), (60.0, "M12"), (1000.0, "M16"))
#: A screw this near a listed size is that size [mm].
SAME_MM = 0.05
#: Length of a key where none is entered, over the shaft. Common practice, no source.
KEY_LONG = 1.25


@dataclass(frozen=True, slots=True)
class Hold:
    """One way to fix a wheel: with what, and the torque at which it slips, shears or crushes [N·m]."""

    way: Way
    size: str
    torque_nm: float


@cache
def _holding_n() -> dict[str, float]:
    return {row["size"]: number(row, "holding_n") for row in load_table(PACKAGE, "set_screws").rows}


def set_screw_size(diameter_mm: float) -> str:
    """The listed set screw of a diameter [mm]. Raises ImpossibleGeometry for one that is on no list.

    >>> set_screw_size(9.525), set_screw_size(8.0)
    ('3/8 in', 'M8')
    """
    rows = load_table(PACKAGE, "set_screws").rows
    nearest = min(rows, key=lambda row: abs(number(row, "diameter_mm") - diameter_mm))
    if abs(number(nearest, "diameter_mm") - diameter_mm) > SAME_MM:
        raise ImpossibleGeometry(
            f"no set screw of {{{diameter_mm:g}|mm}} is on the list; the nearest is {as_is(nearest['size'])}"
        )
    return nearest["size"]


def set_screws_nm(size: str, diameter_mm: float, screws: int = 2) -> float:
    """Torque at which set screws slip [N·m]: F d / 2, 1.75 times that with two. Source: Shigley, from memory.

    >>> round(set_screws_nm("3/8 in", 31.75, 1), 1), round(set_screws_nm("3/8 in", 31.75), 1)
    (141.2, 247.1)
    """
    return _holding_n()[size] * diameter_mm / 2000 * (TWO_SCREWS if screws > 1 else 1.0)


def clamp_nm(size: str, diameter_mm: float, screws: int = 2) -> float:
    """Torque at which a split hub slips [N·m]: 2 μ F d, screws on one side of the shaft. Source: friction, stiff hub.

    >>> round(clamp_nm("M8", 25.0), 1)
    198.0
    """
    return 2 * FRICTION * screws * SCREWS_N[size] * diameter_mm / 1000


def bushing_nm(code: str, diameter_mm: float) -> float:
    """Torque at which a split taper bushing slips [N·m]: what it holds at its largest bore, by the bore.

    >>> round(bushing_nm("GB-3", 42.0)), round(bushing_nm("GB-3", 21.0))
    (340, 170)
    """
    row = next(row for row in bushings().rows if row["code"] == code)
    return number(row, "torque_nm") * diameter_mm / number(row, "max_bore_mm")


def holds(part: ShaftPart) -> Iterator[Hold]:
    """Every way to fix a wheel on a shaft of a size; nothing while its diameter is not entered."""
    d = part.diameter_mm
    if d is None:
        return
    yield from _key(part, d)
    screw = set_screw(d)
    yield Hold("set_screws", f"two {phrase(screw)}", set_screws_nm(screw, d))
    clamp = next(size for up_to, size in CLAMP if d <= up_to)
    yield Hold("clamp", f"two {phrase(clamp)}", clamp_nm(clamp, d))
    fitting = (row for row in bushings().rows if number(row, "min_bore_mm") <= d <= number(row, "max_bore_mm"))
    row = next(fitting, None)
    if row is not None:
        yield Hold("bushing", row["code"], bushing_nm(row["code"], d))


def _key(part: ShaftPart, d: float) -> Iterator[Hold]:
    """The key as entered, or the usual one of the size; shear and crushing, whichever comes first."""
    usual = usual_key_mm(d)
    width = part.key_width_mm or (usual[0] if usual else None)
    if width is None:
        return
    long = part.key_length_mm or KEY_LONG * d
    steel = YIELD_MPA.get(part.key_steel, YIELD_MPA["mild_steel_1018"])
    softer = min(steel, YIELD_MPA.get(part.steel, steel))
    torque = min(key_shear_nm(d, width, long, steel), key_crush_nm(d, key_height_mm(width), long, softer))
    yield Hold("key", f"{{{width}|mm}} × {{{long:.4g}|mm}}", torque)
