"""What is checked on a friction roller."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, check

W, N = Severity.WARNING, Severity.NOTE

GRIP = check(
    "friction_drive.grip",
    W,
    "<=",
    ("The roller slips under the load with its service factor", "The roller grips"),
    "N",
    "Press it harder, use two driving rollers or a lining that grips better.",
    quantity="design pull",
    source=EXACT,
    needs_load=True,
)
PEAK = check(
    "friction_drive.slip_at_peak",
    W,
    "<=",
    ("At peak torque the roller slips and wears a flat spot", "The roller grips at peak torque"),
    "N",
    "Press it harder, or use a lining that grips better.",
    quantity="pull at peak torque",
    source=EXACT,
    needs_load=True,
)
UNSET = check(
    "friction_drive.press_unset",
    N,
    ">=",
    ("This is the contact force needed; the actual force is not entered", ""),
    "N",
    "Set it, then enter what you set.",
    quantity="press to set, each roller",
    source=EXACT,
    needs_load=True,
    about=True,
)
PRESSURE = check(
    "friction_drive.pressure",
    W,
    "<=",
    ("Contact pressure is too high for the lining to last", "Contact pressure is within the lining's limit"),
    "MPa",
    "Use a wider or a larger roller, more rollers, or a harder lining.",
    quantity="rolling pressure",
)
LOSS = check(
    "friction_drive.rolling",
    W,
    "<=",
    (
        "Rolling resistance uses a large share of the power and heats the lining",
        "Rolling resistance uses a small share of the power",
    ),
    "share",
    "Use a larger roller or a harder lining, or press it less.",
    quantity="rolling loss over power passed on",
    needs_load=True,
)
RULES = (GRIP, PEAK, UNSET, PRESSURE, LOSS)
