"""What is checked on a worm set."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, Source, check, jam_rule

AGMA = Source("AGMA 6034", "Shigley Eq. 15-28", "quoted from memory")
BENDS = Source("Buckingham", "Shigley Eq. 15-53", "quoted from memory")
HEAT = Source("AGMA 6034", "Shigley Eq. 15-49 to 15-52; limit 93 °C", "quoted from memory")
GEOMETRY = Source("Shigley's Mechanical Engineering Design", "Eq. 15-27, section 13-11", "quoted from memory")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

BRAKE = check(
    "worm_set.no_brake",
    W,
    ">=",
    ("A worm is not a brake: a load that holds at rest can run away once it moves", ""),
    "",
    "Where a load could fall or run back, fit a brake or a pawl no matter what the figures say.",
    quantity="friction to hold",
    source=Source("AGMA 6034", "friction by sliding speed, Shigley Eq. 15-47", "formula"),
    about=True,
)
WEAR = check(
    "worm_set.wear",
    W,
    "<=",
    ("The wheel is loaded over its wear rating", "Wheel wear is within its rating"),
    "N",
    "Use a larger module, a wider face, better bronze, or a slower worm.",
    quantity="wheel force with overload",
    source=AGMA,
    needs_load=True,
)
BENDING = check(
    "worm_set.bending",
    W,
    "<=",
    ("Wheel tooth bending stress is over the allowable", "Wheel tooth bending is within its limit"),
    "N",
    "Use a larger module or a wider face.",
    quantity="wheel force with overload",
    source=BENDS,
    needs_load=True,
)
STALL = jam_rule("worm_set.stall", "A jam would break teeth off the wheel", "The wheel teeth survive a jam")
HOT = check(
    "worm_set.heat",
    W,
    "<=",
    ("The oil runs too hot", "The oil stays cool enough"),
    "degC",
    "Give the case more area or a fan, use more starts, or a larger set.",
    quantity="oil temperature, running on",
    source=HEAT,
    needs_load=True,
)
AREA = check(
    "worm_set.area_assumed",
    N,
    ">=",
    ("The case's area is not entered: heat is judged on the least area usual for this center distance", ""),
    "",
    "Enter the outer area of the case.",
    quantity="area taken, square meters",
    source=HEAT,
    about=True,
)
FACE = check(
    "worm_set.face",
    W,
    "<=",
    (
        "The wheel is wider than the worm can use: only two thirds of the worm diameter count",
        "Full face width is effective",
    ),
    "mm",
    "Use a narrower wheel or a thicker worm.",
    quantity="face width",
    source=GEOMETRY,
)
THIN = check(
    "worm_set.thin_worm",
    N,
    ">=",
    ("The worm is thin for this center distance, so it bends", "The worm is stiff enough"),
    "mm",
    "Use a thicker worm.",
    quantity="worm pitch diameter",
    source=GEOMETRY,
    about=True,
)
THICK = check(
    "worm_set.thick_worm",
    N,
    "<=",
    ("The worm is thick for this center distance, so its lead angle and efficiency are low", "The worm is slim enough"),
    "mm",
    "Use a thinner worm.",
    quantity="worm pitch diameter",
    source=GEOMETRY,
    about=True,
)
TEETH = check(
    "worm_set.few_teeth",
    W,
    ">=",
    ("The wheel has so few teeth that they are undercut", "The wheel has teeth enough"),
    "teeth",
    "Use more teeth, or a larger pressure angle.",
    quantity="wheel teeth",
    source=GEOMETRY,
)
START = check(
    "worm_set.start",
    N,
    ">=",
    (
        "Before an oil film forms a worm loses much more; starting is checked with that loss",
        "It starts about as efficiently as it runs",
    ),
    "share",
    "Make sure the motor's starting torque covers it.",
    quantity="efficiency at the start",
    about=True,
)
ROUGH = check(
    "worm_set.rough",
    N,
    ">=",
    ("A soft or as-cut worm has about twice the friction of a hardened and ground one", ""),
    "",
    "Use a hardened and ground worm for steady work.",
    quantity="friction",
    about=True,
)
SPEED = check(
    "worm_set.sliding",
    W,
    "<=",
    ("Sliding speed is high for open or splash lubrication", "Sliding speed is in its usual range"),
    "m/s",
    "Use a slower or thinner worm, or force-feed the oil.",
    quantity="sliding speed",
    source=Source("AGMA 6034", "C_v up to 6000 ft/min", "quoted from memory"),
)
RATIO = check(
    "worm_set.ratio",
    N,
    "<=",
    ("The ratio is beyond what one worm set usually does", "The ratio suits a worm set"),
    "",
    "Split it over two stages.",
    quantity="ratio",
    source=EXACT,
    limits=(100.0,),
)
RULES = (BRAKE, WEAR, BENDING, STALL, HOT, AREA, FACE, THIN, THICK, TEETH, START, ROUGH, SPEED, RATIO)
