"""How a made wheel is held on its shaft: keyseat with set screws, or a split bushing."""

from __future__ import annotations

from collections.abc import Iterator

from pulltide.core.labels import as_is, phrase
from pulltide.core.made.part import PACKAGE
from pulltide.core.made.wheel import MadeWheel, Measure
from pulltide.core.shafts import is_inch_shaft
from pulltide.core.tables import Table, load_table, number

#: A set screw is a quarter of the shaft. Source: Shigley, section 7-7, from memory.
SCREW_SHARE = 0.25
#: Set screws: thread and its diameter [mm].
METRIC = (("M4", 4.0), ("M5", 5.0), ("M6", 6.0), ("M8", 8.0), ("M10", 10.0), ("M12", 12.0), ("M16", 16.0))
INCH = (("No. 10", 4.83), ("1/4 in", 6.35), ("5/16 in", 7.94), ("3/8 in", 9.53), ("1/2 in", 12.7), ("5/8 in", 15.88))
#: Taper of a bushing on the diameter, and metal outside it over a quarter of its large end. Common practice, no source.
TAPER, WALL_SHARE = 1 / 12, 0.25


def table() -> Table:
    """Split bushings."""
    return load_table(PACKAGE, "bushings")


def set_screw(bore_mm: float) -> str:
    """The thread nearest to a quarter of the bore.

    >>> set_screw(25.0), set_screw(25.4), set_screw(50.0)
    ('M6', '1/4 in', 'M12')
    """
    sizes = INCH if is_inch_shaft(bore_mm) else METRIC
    return min(sizes, key=lambda size: abs(size[1] - SCREW_SHARE * bore_mm))[0]


def fixings(wheel: MadeWheel) -> Iterator[Measure]:
    """Set screws, and the smallest bushing that takes the shaft and that the wheel has room for."""
    bore = wheel.bore_mm
    if bore is None or not wheel.hub:
        return
    yield Measure("Set screws", 2.0, "", f"{phrase(set_screw(bore))}, one on the key and one 90° from it")
    for row in table().rows:
        if not number(row, "min_bore_mm") <= bore <= number(row, "max_bore_mm"):
            continue
        large, long = number(row, "large_end_mm"), number(row, "length_mm")
        if large * (1 + WALL_SHARE) > wheel.largest_bore_mm or long > wheel.face_mm * 2:
            return
        small = large - TAPER * long
        note = f"tapered to {{{small:.4g}|mm}} over {{{long:.4g}|mm}}, {row['screws']} screws {as_is(row['screw'])}"
        yield Measure(f"Or bored for a split bushing {as_is(row['code'])}", large, "mm", note)
        yield Measure(
            "Its screws on a circle of", (large + bore) / 2, "mm", "midway between bushing and bore; measure it"
        )
        return
