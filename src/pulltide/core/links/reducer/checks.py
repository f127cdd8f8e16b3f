"""What is checked on a gear reducer link. Overhung loads are checked where two links share a shaft."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, Rule, Severity, Source

AGMA = Source("AGMA 6010 and 6034", "rating at service factor 1", "list computed from formulas")
AGMA_PEAK = Source("AGMA 6010 and 6013", "momentary overload 200 %", "quoted from memory")
AGMA_HEAT = Source("AGMA 6013", "sump limit 93 C", "quoted from memory")
PLATE = Source("maker's plate or list", "fastest input", "as listed")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

TORQUE = Rule(
    "reducer.torque",
    "design torque at the output",
    "<=",
    W,
    "The reducer is loaded past its torque rating",
    "Reducer torque holds with its service factor",
    "N*m",
    AGMA,
    "Use the next size.",
    needs_load=True,
)
TORQUE_UNKNOWN = Rule(
    "reducer.torque_unknown",
    "design torque at the output",
    "<=",
    W,
    "The reducer's torque rating is not known, so nothing can be said about its teeth",
    "The rating is known",
    "N*m",
    AGMA,
    "Find a plate, or compare with a stock unit of the same size.",
    needs_load=True,
)
PEAK = Rule(
    "reducer.peak",
    "peak torque at the output",
    "<=",
    E,
    "Peak torque is over the reducer's momentary limit",
    "Peak torque is within the momentary limit",
    "N*m",
    AGMA_PEAK,
    "Use the next size or fit a shear pin.",
    needs_load=True,
)
STALL = Rule(
    "reducer.stall",
    "torque at a motor stall",
    "<=",
    W,
    "A stalled motor would press the reducer past its momentary limit",
    "The reducer outlasts a stalled motor",
    "N*m",
    AGMA_PEAK,
    "Let the belt slip first, or fit a shear pin.",
)
SPEED = Rule(
    "reducer.input_speed",
    "input speed",
    "<=",
    E,
    "The reducer's input turns too fast",
    "Input speed is allowed",
    "rpm",
    PLATE,
    "Slow it with a larger belt ratio.",
)
THERMAL = Rule(
    "reducer.thermal",
    "input power",
    "<=",
    E,
    "The reducer would run too hot in continuous duty",
    "The reducer sheds its heat",
    "kW",
    AGMA_HEAT,
    "Add a fan, use a larger or a helical unit.",
    needs_load=True,
)
EFFICIENCY = Rule(
    "reducer.efficiency_unknown",
    "efficiency used",
    ">=",
    N,
    "The reducer's efficiency is not known; the low end of the published band is used",
    "Efficiency is known",
    "share",
    COMMON_PRACTICE,
    "Measure motor amps under a known load.",
)
BRAKE = Rule(
    "reducer.not_a_brake",
    "self-locking",
    ">=",
    N,
    "A worm can run backwards when new, oiled or shaken: never count on it to hold a load",
    "",
    "",
    COMMON_PRACTICE,
    "Fit a brake wherever a load could fall or run back.",
)
SERVICE_FLOOR = Rule(
    "reducer.service_floor",
    "tabulated service factor",
    ">=",
    N,
    "The table allows a service factor under 1 for so few hours; 1.0 is used",
    "",
    "",
    AGMA,
)
RULES = (TORQUE, TORQUE_UNKNOWN, PEAK, STALL, SPEED, THERMAL, EFFICIENCY, BRAKE, SERVICE_FLOOR)
