"""Look-ups in the tables of motors, frames, currents and wire. What a table does not print is None."""

from __future__ import annotations

from functools import cache, lru_cache

from pulltide.core.findings import Source
from pulltide.core.sources.contract import PACKAGE
from pulltide.core.tables import Row, load_table
from pulltide.core.units import KW_PER_HP

#: A power this near a printed one is taken as it.
NEAR = 0.02


def rows(name: str) -> tuple[Row, ...]:
    """All rows of a table of this package."""
    return load_table(PACKAGE, name).rows


@cache
def source_of(name: str) -> Source:
    """The table as the source of a figure."""
    return load_table(PACKAGE, name).as_source


def cell(row: Row, column: str) -> float | None:
    """A printed number, or None for ``na``."""
    return None if row[column] == "na" else float(row[column])


def hp_of(power_kw: float) -> float:
    """Mechanical horsepower of a power [kW]."""
    return power_kw / KW_PER_HP


@lru_cache(maxsize=1024)
def at_or_above(name: str, power_hp: float, **wanted: str) -> Row | None:
    """The row of the next printed power at or above a power, with the wanted cells."""
    fitting = [row for row in rows(name) if all(row[key] == value for key, value in wanted.items())]
    above = [row for row in fitting if float(row["hp"]) >= power_hp * (1 - NEAR)]
    return min(above, key=lambda row: float(row["hp"]), default=None)


def exactly(name: str, power_hp: float, **wanted: str) -> Row | None:
    """The row of a printed power, or None where that power is not printed."""
    row = at_or_above(name, power_hp, **wanted)
    return row if row is not None and float(row["hp"]) <= power_hp * (1 + NEAR) else None


#: Columns of the current tables by the voltage they are headed with.
VOLT_COLUMNS = {
    1: ((115, "a_115v"), (200, "a_200v"), (208, "a_208v"), (230, "a_230v")),
    3: ((115, "a_115v"), (200, "a_200v"), (208, "a_208v"), (230, "a_230v"), (460, "a_460v"), (575, "a_575v")),
}


#: A motor's voltage this far from a printed one has no column: 10 %, as a motor's own tolerance. NEMA MG 1 12.44.
SAME_VOLTS = 0.10


def full_load_amps(power_kw: float, volts: float, phases: int) -> float | None:
    """Full-load current for sizing the circuit [A]: the next printed power, the column nearest to the voltage.

    Source: NEC Tables 430.248 and 430.250, from memory. None outside what they print.
    """
    name = "full_load_amps_single_phase" if phases == 1 else "full_load_amps_three_phase"
    row = at_or_above(name, hp_of(power_kw))
    nearest, column = min(VOLT_COLUMNS[phases], key=lambda pair: abs(volts / pair[0] - 1))
    return None if row is None or abs(volts / nearest - 1) > SAME_VOLTS else cell(row, column)


def code_letter_kva(letter: str) -> tuple[float, float | None]:
    """Locked-rotor kVA a horsepower of a code letter, least and most. Source: NEC Table 430.7(B), from memory."""
    row = next(row for row in rows("code_letters") if row["letter"] == letter)
    return float(row["kva_per_hp_min"]), cell(row, "kva_per_hp_max")


@cache
def frame_row(frame: str) -> Row | None:
    """Dimensions of a frame in inches or millimeters, by its designation."""
    for name in ("frames_inch", "frames_metric"):
        for row in rows(name):
            if row["frame"] == frame:
                return row
    return None


def frame_names() -> tuple[str, ...]:
    """Every frame whose dimensions are known."""
    return tuple(row["frame"] for name in ("frames_inch", "frames_metric") for row in rows(name))


def frame_shaft_mm(frame: str) -> float | None:
    """Shaft diameter of a frame [mm]."""
    row = frame_row(frame)
    if row is None:
        return None
    return float(row["shaft_u_in"]) * 25.4 if "shaft_u_in" in row else float(row["shaft_d_mm"])


def assigned_frame(power_kw: float, poles: int, enclosure: str, metric: bool) -> str | None:
    """Frame that the standards assign to a power: NEMA at 60 Hz, IEC at 50 Hz. None where they print nothing."""
    for row in rows("frame_assignment"):
        unit, value = ("kw", power_kw) if metric else ("hp", hp_of(power_kw))
        printed = cell(row, unit)
        fits = row["system"].startswith("IEC") == metric and row["poles"] == str(poles)
        if fits and printed and abs(printed / value - 1) <= NEAR and (metric or row["enclosure"] == enclosure):
            return row["frame"]
    return None


def wire_row(awg: int) -> Row:
    """Resistance and current of a copper wire. Raises KeyError for a gauge that is not listed."""
    found = next((row for row in rows("copper_wire") if row["awg"] == str(awg)), None)
    if found is None:
        raise KeyError(awg)
    return found
