"""Checks of a plan against what is wanted of it: sense, range of a speed control, what holds the load."""

from __future__ import annotations

from pulltide.core.findings import Severity, Source, check

NEED = Source("the need as entered", "speed band and torque", "entered")
BRAKES = Source("common practice", "brake torque 1.5 times the torque to hold", "common practice")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

WRONG_WAY = check(
    "line.turn",
    W,
    ">=",
    ("The last shaft turns the wrong way", "The last shaft turns the way it should"),
    "",
    "Swap two leads of a three-phase motor, or turn its connection round as its plate shows. Gears: add an idler.",
    quantity="sense",
    source=NEED,
    limits=(1.0,),
)
UNKNOWN_WAY = check(
    "line.turn_unknown",
    N,
    ">=",
    ("Which way the last shaft turns depends on the hand of the right-angle unit", ""),
    "",
    "Check the hand of the unit before you order.",
    quantity="sense",
    source=NEED,
    curable=False,
)
CONTROL_RANGE = check(
    "need.control_range",
    W,
    "<=",
    ("Speed control does not cover the full speed range under load", "Speed control covers the full speed range"),
    "rpm",
    "Change the ratio, or use a control with a wider range.",
    quantity="slowest speed under load",
    source=NEED,
)
CONTROL_TOP = check(
    "need.control_top",
    W,
    ">=",
    ("Speed control does not reach the top speed under load", "Speed control reaches the top speed"),
    "rpm",
    "Lower the ratio, or use a control with a wider range.",
    quantity="fastest speed under load",
    source=NEED,
)
HOLD = check(
    "need.hold",
    W,
    ">=",
    ("The brake is too weak for the torque to hold", "The brake holds the load"),
    "N*m",
    "Use a stronger brake, or set it on a faster shaft.",
    quantity="brake torque at the last shaft",
    source=BRAKES,
    curable=False,
)
HOLD_NONE = check(
    "need.hold_none",
    E,
    "<=",
    ("Nothing would hold the load when the power is off", "Friction holds the load when the power is off"),
    "N*m",
    "Fit a brake that sets when the power is off, and enter its torque at its shaft.",
    quantity="torque to hold at the last shaft",
    source=BRAKES,
    curable=False,
    limits=(0.0,),
)
HOLD_WORM = check(
    "need.hold_worm",
    W,
    ">=",
    ("Only worm friction would hold the load; vibration or fresh oil can make it run back", ""),
    "N*m",
    "Fit a brake wherever it could fall or run back, and enter its torque at its shaft.",
    quantity="torque to hold at the last shaft",
    source=BRAKES,
    curable=False,
)
HOLD_UNKNOWN = check(
    "need.hold_unknown",
    N,
    ">=",
    ("A brake is planned, but its torque is not entered", ""),
    "N*m",
    "Enter the brake's torque at its shaft: 1.5 times the torque to hold, divided by the ratio.",
    quantity="torque to hold at the last shaft",
    source=BRAKES,
    curable=False,
)
PLAN_RULES = (WRONG_WAY, UNKNOWN_WAY, CONTROL_RANGE, CONTROL_TOP, HOLD, HOLD_NONE, HOLD_WORM, HOLD_UNKNOWN)
