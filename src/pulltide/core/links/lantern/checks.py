"""What is checked on a lantern pinion."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, Severity, Source, check, jam_rule

BEAM = Source("beam theory", "fixed ends, load at mid-span: M = W b / 8", "formula")
LEWIS = Source("Shigley's Mechanical Engineering Design", "section 14-1, Lewis", "formula")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

PIN = check(
    "lantern.pin",
    W,
    "<=",
    ("Pin bending stress is over the allowable", "Pin bending stress is within its limit"),
    "N",
    "Use thicker or shorter pins, or a harder steel.",
    quantity="tooth force with overload",
    source=BEAM,
    needs_load=True,
)
TOOTH = check(
    "lantern.tooth",
    W,
    "<=",
    ("Wheel tooth bending stress is over the allowable", "Wheel tooth bending is within its limit"),
    "N",
    "Use a wider wheel, a larger pitch or a harder steel.",
    quantity="tooth force with overload",
    source=LEWIS,
    needs_load=True,
)
STALL = jam_rule("lantern.stall", "A jam would break pins or teeth", "Pins and teeth survive a jam")
FEW = check(
    "lantern.few_pins",
    W,
    ">=",
    ("With this few pins it runs rough", "There are enough pins"),
    "",
    "Use twelve pins or more.",
    quantity="pins",
)
DRIVES = check(
    "lantern.pinion_drives",
    N,
    ">=",
    ("A lantern pinion runs smoother driven than driving: its pins meet the teeth ahead of the line of centers", ""),
    "",
    "Have the wheel drive where you can, or run slowly.",
    quantity="driver",
    about=True,
)
THIN = check(
    "lantern.thin_pins",
    N,
    ">=",
    ("The pins are thin for their pitch, so there is a lot of play", "The pins fill their gaps"),
    "mm",
    "Half the pitch, a little less, is usual.",
    quantity="pin diameter",
    source=COMMON_PRACTICE,
)
THICK = check(
    "lantern.thick_pins",
    E,
    "<=",
    ("The pins are too thick to pass between the teeth", "The pins pass between the teeth"),
    "mm",
    "Use pins of at most half the pitch.",
    quantity="pin diameter",
    source=COMMON_PRACTICE,
)
SPEED = check(
    "lantern.speed",
    W,
    "<=",
    ("Pitch-line speed is high for a lantern mesh", "Pitch-line speed is low enough"),
    "m/s",
    "Put it on the slowest shaft.",
    quantity="pitch-line speed",
    source=COMMON_PRACTICE,
)
RATIO = check(
    "lantern.ratio",
    W,
    "<=",
    ("The ratio is large for one pair", "The ratio suits one pair"),
    "",
    "Split it over two pairs.",
    quantity="ratio",
    limits=(6.0, 10.0),
)
RULES = (PIN, TOOTH, STALL, FEW, DRIVES, THIN, THICK, SPEED, RATIO)
