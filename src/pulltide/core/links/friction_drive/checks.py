"""What is checked on a friction roller."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Remark, Severity

W, N = Severity.WARNING, Severity.NOTE

GRIP = Check(
    code="friction_drive.grip",
    severity=W,
    quantity="design pull",
    unit="N",
    fact="The roller slips under the load with its service factor",
    clear="The roller grips",
    base="grip at the press set and the least friction",
    advice="Press it harder, use two driving rollers or a lining that grips better.",
    source=EXACT,
    needs_load=True,
)
PEAK = Check(
    code="friction_drive.slip_at_peak",
    severity=W,
    quantity="pull at peak torque",
    unit="N",
    fact="At peak torque the roller slips and wears a flat spot",
    clear="The roller grips at peak torque",
    base="grip at the press set and the least friction",
    advice="Press it harder, or use a lining that grips better.",
    source=EXACT,
    needs_load=True,
)
UNSET = Remark(
    code="friction_drive.press_unset",
    severity=N,
    quantity="press to set, each roller",
    unit="N",
    fact="This is the contact force needed; the actual force is not entered",
    advice="Set it, then enter what you set.",
    source=EXACT,
    needs_load=True,
    about=True,
)
PRESSURE = Check(
    code="friction_drive.pressure",
    severity=W,
    quantity="rolling pressure",
    unit="MPa",
    fact="Contact pressure is too high for the lining to last",
    clear="Contact pressure is within the lining's limit",
    base="rolling pressure of the lining",
    advice="Use a wider or a larger roller, more rollers, or a harder lining.",
)
LOSS = Check(
    code="friction_drive.rolling",
    severity=W,
    quantity="rolling loss over power passed on",
    unit="share",
    limits=(0.2,),
    fact="Rolling resistance uses a large share of the power and heats the lining",
    clear="Rolling resistance uses a small share of the power",
    advice="Use a larger roller or a harder lining, or press it less.",
    needs_load=True,
)
RULES = (GRIP, PEAK, UNSET, PRESSURE, LOSS)
