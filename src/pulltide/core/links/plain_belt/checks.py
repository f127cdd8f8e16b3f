"""What is checked on a flat or round belt."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, Source, check

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "section 17-2, flat and round belts", "quoted from memory")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

PULL = check(
    "plain_belt.pull",
    W,
    "<=",
    ("The belt is loaded past its allowed pull", "The belt carries the pull"),
    "N",
    "Use a wider or a stronger belt, or larger pulleys.",
    quantity="design pull",
    source=SHIGLEY,
    needs_load=True,
)
SLIP = check(
    "plain_belt.slip_at_peak",
    W,
    "<=",
    ("At peak torque the belt slips, at the tension that is set", "The belt holds at peak torque"),
    "N",
    "Set it tighter, up to its allowed pull.",
    quantity="pull at peak torque",
    source=SHIGLEY,
    needs_load=True,
)
TIGHT = check(
    "plain_belt.too_tight",
    W,
    "<=",
    (
        "The tension set and the load together are over what the belt may bear",
        "The tension set leaves room for the load",
    ),
    "N",
    "Set it slacker, or use a stronger belt.",
    quantity="tight side",
    source=SHIGLEY,
    needs_load=True,
)
UNSET = check(
    "plain_belt.tension_unset",
    N,
    ">=",
    ("The tension to set is this; what is set is not entered", ""),
    "N",
    "Set it, and enter what was set.",
    quantity="tension to set, each belt",
    source=SHIGLEY,
    needs_load=True,
    about=True,
)
LEAST = check(
    "plain_belt.least_pulley",
    W,
    ">=",
    ("The small pulley is too small for this belt", "The small pulley is large enough"),
    "mm",
    "Use a larger pulley or a thinner belt.",
    quantity="small pulley",
    source=SHIGLEY,
)
WRAP = check(
    "plain_belt.wrap",
    W,
    ">=",
    ("The belt wraps too little of the small pulley", "The belt wraps enough of the small pulley"),
    "deg",
    "Set the shafts farther apart, or cross the belt.",
    quantity="wrap of the small pulley",
)
SPEED = check(
    "plain_belt.speed",
    W,
    "<=",
    ("The belt runs faster than is usual", "The belt speed is usual"),
    "m/s",
    "Use smaller pulleys.",
    quantity="belt speed",
)
CROSSED = check(
    "plain_belt.crossed_near",
    W,
    ">=",
    ("A crossed flat belt this wide rubs itself at so short a distance", "The crossed belt has room to twist"),
    "mm",
    "Set the shafts 20 widths apart, or use a narrower or a round belt.",
    quantity="centre distance",
)
TOUCH = check(
    "plain_belt.touch",
    E,
    ">=",
    ("The pulleys touch", "The pulleys stand clear of each other"),
    "mm",
    "Set the shafts farther apart.",
    quantity="centre distance",
    source=EXACT,
)
RULES = (PULL, SLIP, TIGHT, UNSET, LEAST, WRAP, SPEED, CROSSED, TOUCH)
