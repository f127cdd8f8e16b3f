"""The circuit and the cord behind a motor on the mains: currents, protection, voltage drop."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import sqrt
from typing import Literal

from pydantic import Field

from pulltide.core.findings import EXACT, Check, Finding, Severity, Source, judge, judge_two
from pulltide.core.model import CoreModel, Mm
from pulltide.core.sources.contract import Fact
from pulltide.core.sources.tables import cell, full_load_amps, rows, source_of, wire_row
from pulltide.core.tables import Row

Circuit = Literal[
    "120v_15a",
    "120v_20a",
    "240v_15a",
    "240v_20a",
    "240v_30a",
    "208v_3ph_20a",
    "240v_3ph_30a",
    "480v_3ph_20a",
    "230v_10a",
    "230v_13a_plug",
    "230v_16a",
    "400v_3ph_16a",
    "400v_3ph_32a",
]
NEC = Source("NEC", "430.6, 430.22, 430.32, 430.52, 430.110", "quoted from memory")
NEC_DROP = Source("NEC", "informational notes to 210.19 and 215.2", "quoted from memory")
#: Standard ratings of breakers [A]. Source: NEC 240.6, from memory.
BREAKERS = (15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100)
#: Share of a breaker's rating that a plugged-in machine may draw. Source: NEC 210.23, from memory.
CONTINUOUS = 0.8


class Supply(CoreModel):
    """What the motor is fed from. Unknown stays unknown: nothing is judged then."""

    circuit: Circuit | None = Field(None, title="Circuit")
    cord_length_mm: Mm | None = Field(
        None, title="Cord or cable, one way", gt=0, le=300_000, description="from the panel to the motor"
    )
    wire_awg: int | None = Field(
        None, title="Wire gauge, AWG", ge=6, le=18, description="copper, even gauges; 12 is 3.3, 14 is 2.1 mm²"
    )


CIRCUIT = Check(
    code="motor.circuit",
    severity=Severity.WARNING,
    quantity="full-load current",
    unit="A",
    fact="The motor draws more than a plug-in machine may take from this circuit",
    clear="The circuit is large enough for the motor",
    base="continuous current of the circuit; a problem past its breaker",
    advice="Use a larger circuit, a higher voltage or a smaller motor. A licensed electrician decides.",
    source=Source("NEC", "210.23", "quoted from memory"),
)
PHASES = Check(
    code="motor.phases",
    severity=Severity.ERROR,
    quantity="phases of the circuit",
    relation=">=",
    fact="This circuit does not have the motor's number of phases",
    clear="The circuit has the motor's number of phases",
    base="phases of the motor",
    advice="Run it from a VFD, or use another motor.",
)
VOLTAGE = Check(
    code="motor.voltage",
    severity=Severity.ERROR,
    quantity="difference of voltage",
    unit="share",
    limits=(0.1,),
    fact="The motor's voltage does not match the circuit",
    clear="The motor's voltage matches the circuit",
    advice="Reconnect the motor if its nameplate allows, or choose a circuit of its voltage.",
    source=Source("NEMA MG 1", "12.44: 10 %", "quoted from memory"),
)
WIRE = Check(
    code="motor.wire",
    severity=Severity.ERROR,
    quantity="125 % of full-load current",
    unit="A",
    fact="The wire is too small for 125 % of full-load current",
    clear="The wire is rated for 125 % of full-load current",
    base="ampacity of the wire",
    advice="Use larger wire.",
    source=Source("NEC", "430.22", "quoted from memory"),
)
DROP = Check(
    code="motor.drop",
    severity=Severity.WARNING,
    quantity="voltage drop, running",
    unit="share",
    limits=(0.05, 0.1),
    fact="Running voltage drop in the wire is too high",
    clear="Running voltage drop is within its limit",
    advice="Use larger or shorter wire, or a higher voltage.",
    source=NEC_DROP,
)
START_DROP = Check(
    code="motor.start_drop",
    severity=Severity.WARNING,
    quantity="voltage drop at the start",
    unit="share",
    limits=(0.2,),
    fact="Starting voltage drop is so high that starting torque falls by a third",
    clear="Starting voltage drop is within its limit",
    advice="Use larger or shorter wire.",
)
RULES = (CIRCUIT, PHASES, VOLTAGE, WIRE, DROP, START_DROP)


@dataclass(frozen=True, slots=True, kw_only=True)
class Draw:
    """What a motor draws: plate current, locked-rotor current, its own power and voltage. None while unknown."""

    power_kw: float
    volts: float | None
    phases: int
    plate_a: float | None
    locked_a: float | None
    allowance: float = 1.15
    frequency_hz: float = 60.0

    @property
    def circuit_a(self) -> float | None:
        """Current for sizing the circuit [A]: the table's, or the plate's where that prints nothing or is higher.

        At 50 Hz the plate's own, where it is known: the tables are for 60 Hz motors.
        """
        if self.frequency_hz < 55 and self.plate_a is not None:
            return self.plate_a
        table = full_load_amps(self.power_kw, self.volts, self.phases) if self.volts else None
        return max((value for value in (table, self.plate_a) if value is not None), default=None)


def circuit_row(name: str) -> Row:
    """One circuit of the table."""
    return next(row for row in rows("circuits") if row["circuit"] == name)


def voltage_drop_v(amps: float, length_mm: float, ohm_per_km: float, phases: int) -> float:
    """Voltage lost along copper, there and back [V]: 2 R L I, or √3 R L I for three phases; reactance ignored.

    >>> round(voltage_drop_v(12.0, 15_240.0, 10.076, 1), 3)
    3.685
    """
    return (sqrt(3) if phases == 3 else 2.0) * ohm_per_km * length_mm / 1e6 * amps


def next_breaker_a(amps: float) -> int | None:
    """Next standard breaker at or above a current [A], None above 100 A."""
    return next((size for size in BREAKERS if size >= amps), None)


def wire_ampacity_a(awg: int) -> float | None:
    """Current a wire gauge may carry [A]: cable at 75 °C, or flexible cord where only that is printed."""
    row = wire_row(awg)
    return cell(row, "max_breaker_or_75c_ampacity_a") or cell(row, "flexible_cord_2_current_conductors_a")


def _wire(supply: Supply) -> Row | None:
    if supply.wire_awg is None:
        return None
    try:
        return wire_row(supply.wire_awg)
    except KeyError:
        return None


def start_voltage_share(supply: Supply, draw: Draw) -> float:
    """Voltage left at the motor while it starts, as a share of its own; 1 while wire or current are unknown."""
    row = _wire(supply)
    if row is None or supply.cord_length_mm is None or draw.locked_a is None or draw.volts is None:
        return 1.0
    drop = voltage_drop_v(draw.locked_a, supply.cord_length_mm, float(row["ohm_per_km_75c"]), draw.phases)
    return max(1 - drop / draw.volts, 0.0)


def findings(supply: Supply, draw: Draw) -> Iterator[Finding]:
    """Whether circuit and wire carry the motor."""
    if supply.circuit is not None:
        yield from _circuit(circuit_row(supply.circuit), draw)
    row = _wire(supply)
    if row is None or supply.wire_awg is None or draw.circuit_a is None:
        return
    ampacity = wire_ampacity_a(supply.wire_awg)
    if ampacity is not None:
        yield judge(WIRE, "motor", 1.25 * draw.circuit_a, ampacity)
    if supply.cord_length_mm is None or draw.volts is None:
        return
    amps = draw.plate_a or draw.circuit_a
    drop = voltage_drop_v(amps, supply.cord_length_mm, float(row["ohm_per_km_75c"]), draw.phases) / draw.volts
    yield judge_two(DROP, "motor", drop)
    if draw.locked_a is not None:
        yield judge(START_DROP, "motor", 1 - start_voltage_share(supply, draw))


def _circuit(row: Row, draw: Draw) -> Iterator[Finding]:
    phases, volts = int(row["phases"]), float(row["volts"])
    yield judge(PHASES, "motor", phases, draw.phases)
    if draw.volts is not None:
        yield judge(VOLTAGE, "motor", abs(draw.volts / volts - 1))
    if draw.circuit_a is not None:
        yield judge_two(CIRCUIT, "motor", draw.circuit_a, float(row["continuous_a"]), float(row["rating_a"]))


def facts(supply: Supply, draw: Draw) -> Iterator[Fact]:
    """Currents and protection as the rules size them; local code decides."""
    group = "Circuit and protection"
    table = full_load_amps(draw.power_kw, draw.volts, draw.phases) if draw.volts else None
    if table is not None:
        name = "full_load_amps_single_phase" if draw.phases == 1 else "full_load_amps_three_phase"
        yield Fact(
            "table_current", group, "Full-load current by table", table, "A", "for wire and breaker", source_of(name)
        )
    if draw.plate_a is not None:
        yield Fact(
            "plate_current", group, "Full-load current of the motor", draw.plate_a, "A", "for the overload device"
        )
    if draw.locked_a is not None:
        yield Fact("starting_current", group, "Current at the start", draw.locked_a, "A", "rotor locked")
    amps = draw.circuit_a
    if amps is None:
        yield Fact("currents", group, "Currents", None, "", "enter volts to see them")
        return
    yield Fact("wire_ampacity", group, "Wire must carry", 1.25 * amps, "A", "125 % of full-load current", NEC)
    most = next_breaker_a(2.5 * amps)
    if most is not None:
        yield Fact("breaker", group, "Breaker, at most", float(most), "A", "inverse time, 250 %, next size up", NEC)
    plate = draw.plate_a or amps
    yield Fact(
        "overload",
        group,
        "Overload set to",
        draw.allowance * plate,
        "A",
        f"{draw.allowance * 100:.0f} % of plate current, in a starter with no-volt release",
        NEC,
    )
    yield Fact("disconnect", group, "Disconnect, at least", 1.15 * amps, "A", "115 % of full-load current", NEC)
    yield from _drops(supply, draw)


def _drops(supply: Supply, draw: Draw) -> Iterator[Fact]:
    row = _wire(supply)
    amps = draw.plate_a or draw.circuit_a
    if row is None or supply.cord_length_mm is None or draw.volts is None or amps is None:
        return
    drop = voltage_drop_v(amps, supply.cord_length_mm, float(row["ohm_per_km_75c"]), draw.phases)
    yield Fact(
        "voltage_drop", "Circuit and protection", "Lost along the wire, running", drop, "V", "at 75 °C copper", EXACT
    )
    if draw.locked_a is not None:
        left = start_voltage_share(supply, draw)
        note = f"starting torque falls to {left**2 * 100:.0f} %"
        yield Fact(
            "starting_voltage", "Circuit and protection", "Voltage left at the start", left, "share", note, EXACT
        )
