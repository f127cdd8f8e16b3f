"""What is checked on a flat or round belt."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, Source, check

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "section 17-2, flat and round belts", "quoted from memory")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

PULL = check(
    "plain_belt.pull",
    W,
    "<=",
    ("Belt pull is over the allowable", "Belt pull is within the allowable"),
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
    ("At peak torque the belt slips at its present tension", "The belt holds at peak torque"),
    "N",
    "Tighten it, up to its allowable pull.",
    quantity="pull at peak torque",
    source=SHIGLEY,
    needs_load=True,
)
TIGHT = check(
    "plain_belt.too_tight",
    W,
    "<=",
    ("Tension and load together are over the belt's allowable pull", "Belt tension leaves room for the load"),
    "N",
    "Slacken it, or use a stronger belt.",
    quantity="tight side",
    source=SHIGLEY,
    needs_load=True,
)
UNSET = check(
    "plain_belt.tension_unset",
    N,
    ">=",
    ("This is the tension to set; the actual tension is not entered", ""),
    "N",
    "Set it, then enter what you set.",
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
    ("Wrap on the small pulley is low", "Wrap on the small pulley is enough"),
    "deg",
    "Move the shafts farther apart, or cross the belt.",
    quantity="wrap of the small pulley",
)
SPEED = check(
    "plain_belt.speed",
    W,
    "<=",
    ("Belt speed is higher than usual", "Belt speed is in the usual range"),
    "m/s",
    "Use smaller pulleys.",
    quantity="belt speed",
)
CROSSED = check(
    "plain_belt.crossed_near",
    W,
    ">=",
    ("A crossed flat belt this wide rubs itself at this short a center distance", "The crossed belt has room to twist"),
    "mm",
    "Put the shafts 20 belt widths apart, or use a narrower or a round belt.",
    quantity="center distance",
)
TOUCH = check(
    "plain_belt.touch",
    E,
    ">=",
    ("The pulleys touch", "The pulleys clear each other"),
    "mm",
    "Move the shafts farther apart.",
    quantity="center distance",
    source=EXACT,
)
RULES = (PULL, SLIP, TIGHT, UNSET, LEAST, WRAP, SPEED, CROSSED, TOUCH)
