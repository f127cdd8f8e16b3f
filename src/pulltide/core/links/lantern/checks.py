"""What is checked on a lantern pinion."""

from __future__ import annotations

from pulltide.core.findings import Check, Remark, Severity, Source, jam_rule

BEAM = Source("beam theory", "fixed ends, load at mid-span: M = W b / 8", "formula")
LEWIS = Source("Shigley's Mechanical Engineering Design", "section 14-1, Lewis", "formula")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

PIN = Check(
    code="lantern.pin",
    severity=W,
    quantity="tooth force with overload",
    unit="N",
    fact="Pin bending stress is over the allowable",
    clear="Pin bending stress is within its limit",
    base="force a pin carries in bending",
    advice="Use thicker or shorter pins, or a harder steel.",
    source=BEAM,
    needs_load=True,
)
TOOTH = Check(
    code="lantern.tooth",
    severity=W,
    quantity="tooth force with overload",
    unit="N",
    fact="Wheel tooth bending stress is over the allowable",
    clear="Wheel tooth bending is within its limit",
    base="force a wheel tooth carries in bending",
    advice="Use a wider wheel, a larger pitch or a harder steel.",
    source=LEWIS,
    needs_load=True,
)
STALL = jam_rule(
    "lantern.stall",
    "A jam would break pins or teeth",
    "Pins and teeth survive a jam",
    base="torque that breaks a pin or a tooth at rest",
)
FEW = Check(
    code="lantern.few_pins",
    severity=W,
    quantity="pins",
    relation=">=",
    unit="pins",
    limits=(12.0,),
    fact="With this few pins it runs rough",
    clear="There are enough pins",
    advice="Use {limit} or more.",
)
DRIVES = Remark(
    code="lantern.pinion_drives",
    severity=N,
    quantity="driver",
    fact="A lantern pinion runs smoother driven than driving: its pins meet the teeth ahead of the line of centers",
    advice="Have the wheel drive where you can, or run slowly.",
    about=True,
)
THIN = Check(
    code="lantern.thin_pins",
    severity=N,
    quantity="pin diameter",
    relation=">=",
    unit="mm",
    fact="The pins are thin for their pitch, so there is a lot of play",
    clear="The pins fill their gaps",
    limits=(0.42,),
    base="circular pitch",
    advice="Half the pitch, a little less, is usual.",
)
THICK = Check(
    code="lantern.thick_pins",
    severity=E,
    quantity="pin diameter",
    unit="mm",
    fact="The pins are too thick to pass between the teeth",
    clear="The pins pass between the teeth",
    limits=(0.5,),
    base="circular pitch",
    advice="Use pins of at most half the pitch.",
)
SPEED = Check(
    code="lantern.speed",
    severity=W,
    quantity="pitch-line speed",
    unit="m/s",
    limits=(1.0,),
    fact="Pitch-line speed is high for a lantern mesh",
    clear="Pitch-line speed is low enough",
    advice="Put it on the slowest shaft.",
)
RATIO = Check(
    code="lantern.ratio",
    severity=W,
    quantity="ratio",
    limits=(6.0, 10.0),
    fact="The ratio is large for one pair",
    clear="The ratio suits one pair",
    advice="Split it over two pairs.",
)
RULES = (PIN, TOOTH, STALL, FEW, DRIVES, THIN, THICK, SPEED, RATIO)
