"""Checks of a plan against what is wanted of it: sense, range of a speed control, what holds the load."""

from __future__ import annotations

from pulltide.core.findings import Check, Remark, Severity, Source

NEED = Source("the need as entered", "speed band and torque", "entered")
BRAKES = Source("common practice", "brake torque 1.5 times the torque to hold", "common practice")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

WRONG_WAY = Check(
    code="line.turn",
    severity=W,
    quantity="sense",
    relation=">=",
    limits=(1.0,),
    fact="The last shaft turns the wrong way",
    clear="The last shaft turns the way it should",
    advice="Swap two leads of a three-phase motor, or turn its connection round as its plate shows. Gears: "
    "add an idler.",
    source=NEED,
)
UNKNOWN_WAY = Remark(
    code="line.turn_unknown",
    severity=N,
    quantity="sense",
    fact="Which way the last shaft turns depends on the hand of the right-angle unit",
    advice="Check the hand of the unit before you order.",
    source=NEED,
    curable=False,
)
CONTROL_RANGE = Check(
    code="need.control_range",
    severity=W,
    quantity="slowest speed under load",
    unit="rpm",
    fact="Speed control does not cover the full speed range under load",
    clear="Speed control covers the full speed range",
    base="slowest useful speed, to 1 %",
    advice="Change the ratio, or use a control with a wider range.",
    source=NEED,
)
CONTROL_TOP = Check(
    code="need.control_top",
    severity=W,
    quantity="fastest speed under load",
    relation=">=",
    unit="rpm",
    fact="Speed control does not reach the top speed under load",
    clear="Speed control reaches the top speed",
    base="fastest useful speed, to 1 %",
    advice="Lower the ratio, or use a control with a wider range.",
    source=NEED,
)
HOLD = Check(
    code="need.hold",
    severity=W,
    quantity="brake torque at the last shaft",
    relation=">=",
    unit="N*m",
    fact="The brake is too weak for the torque to hold",
    clear="The brake holds the load",
    limits=(1.5, 1.0),
    base="torque to hold",
    advice="Use a stronger brake, or set it on a faster shaft.",
    source=BRAKES,
    curable=False,
)
HOLD_NONE = Check(
    code="need.hold_none",
    severity=E,
    quantity="torque to hold at the last shaft",
    unit="N*m",
    limits=(0.0,),
    fact="Nothing would hold the load when the power is off",
    clear="Friction holds the load when the power is off",
    advice="Fit a brake that sets when the power is off, and enter its torque at its shaft.",
    source=BRAKES,
    curable=False,
)
HOLD_WORM = Remark(
    code="need.hold_worm",
    severity=W,
    quantity="torque to hold at the last shaft",
    unit="N*m",
    fact="Only worm friction would hold the load; vibration or fresh oil can make it run back",
    advice="Fit a brake wherever it could fall or run back, and enter its torque at its shaft.",
    source=BRAKES,
    curable=False,
)
HOLD_UNKNOWN = Remark(
    code="need.hold_unknown",
    severity=N,
    quantity="torque to hold at the last shaft",
    unit="N*m",
    fact="A brake is planned, but its torque is not entered",
    advice="Enter the brake's torque at its shaft: 1.5 times the torque to hold, divided by the ratio.",
    source=BRAKES,
    curable=False,
)
PLAN_RULES = (WRONG_WAY, UNKNOWN_WAY, CONTROL_RANGE, CONTROL_TOP, HOLD, HOLD_NONE, HOLD_WORM, HOLD_UNKNOWN)
