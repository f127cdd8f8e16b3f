"""What is checked on a worm set."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Remark, Severity, Source, jam_rule

AGMA = Source("AGMA 6034", "Shigley Eq. 15-28", "quoted from memory")
BENDS = Source("Buckingham", "Shigley Eq. 15-53", "quoted from memory")
HEAT = Source("AGMA 6034", "Shigley Eq. 15-49 to 15-52; limit 93 °C", "quoted from memory")
GEOMETRY = Source("Shigley's Mechanical Engineering Design", "Eq. 15-27, section 13-11", "quoted from memory")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

BRAKE = Remark(
    code="worm_set.no_brake",
    severity=W,
    quantity="friction to hold",
    fact="A worm is not a brake: a load that holds at rest can run away once it moves",
    advice="Where a load could fall or run back, fit a brake or a pawl no matter what the figures say.",
    source=Source("AGMA 6034", "friction by sliding speed, Shigley Eq. 15-47", "formula"),
    about=True,
)
WEAR = Check(
    code="worm_set.wear",
    severity=W,
    quantity="wheel force with overload",
    unit="N",
    fact="The wheel is loaded over its wear rating",
    clear="Wheel wear is within its rating",
    base="wear load of the bronze",
    advice="Use a larger module, a wider face, better bronze, or a slower worm.",
    source=AGMA,
    needs_load=True,
)
BENDING = Check(
    code="worm_set.bending",
    severity=W,
    quantity="wheel force with overload",
    unit="N",
    fact="Wheel tooth bending stress is over the allowable",
    clear="Wheel tooth bending is within its limit",
    base="bending load of the wheel teeth",
    advice="Use a larger module or a wider face.",
    source=BENDS,
    needs_load=True,
)
STALL = jam_rule(
    "worm_set.stall",
    "A jam would break teeth off the wheel",
    "The wheel teeth survive a jam",
    base="torque that breaks a wheel tooth at rest",
)
HOT = Check(
    code="worm_set.heat",
    severity=W,
    quantity="oil temperature, running on",
    unit="degC",
    limits=(80.0, 93.0),
    fact="The oil runs too hot",
    clear="The oil stays cool enough",
    advice="Give the case more area or a fan, use more starts, or a larger set.",
    source=HEAT,
    needs_load=True,
)
AREA = Remark(
    code="worm_set.area_assumed",
    severity=N,
    quantity="area taken, square meters",
    fact="The case's area is not entered: heat is judged on the least area usual for this center distance",
    advice="Enter the outer area of the case.",
    source=HEAT,
    about=True,
)
FACE = Check(
    code="worm_set.face",
    severity=W,
    quantity="face width",
    unit="mm",
    fact="The wheel is wider than the worm can use: only two thirds of the worm diameter count",
    clear="Full face width is effective",
    limits=(0.67,),
    base="worm pitch diameter",
    advice="Use a narrower wheel or a thicker worm.",
    source=GEOMETRY,
)
THIN = Check(
    code="worm_set.thin_worm",
    severity=N,
    quantity="worm pitch diameter",
    relation=">=",
    unit="mm",
    fact="The worm is thin for this center distance, so it bends",
    clear="The worm is stiff enough",
    base="center distance in inches to the power 0.875, over 3",
    advice="Use a thicker worm.",
    source=GEOMETRY,
    about=True,
)
THICK = Check(
    code="worm_set.thick_worm",
    severity=N,
    quantity="worm pitch diameter",
    unit="mm",
    fact="The worm is thick for this center distance, so its lead angle and efficiency are low",
    clear="The worm is slim enough",
    base="center distance in inches to the power 0.875, over 1.7",
    advice="Use a thinner worm.",
    source=GEOMETRY,
    about=True,
)
TEETH = Check(
    code="worm_set.few_teeth",
    severity=W,
    quantity="wheel teeth",
    relation=">=",
    unit="teeth",
    fact="The wheel has so few teeth that they are undercut",
    clear="The wheel has teeth enough",
    base="fewest wheel teeth at this pressure angle",
    advice="Use more teeth, or a larger pressure angle.",
    source=GEOMETRY,
)
START = Check(
    code="worm_set.start",
    severity=N,
    quantity="efficiency at the start",
    relation=">=",
    unit="share",
    fact="Before an oil film forms a worm loses much more; starting is checked with that loss",
    clear="It starts about as efficiently as it runs",
    limits=(0.9,),
    base="running efficiency",
    advice="Make sure the motor's starting torque covers it.",
    about=True,
)
ROUGH = Remark(
    code="worm_set.rough",
    severity=N,
    quantity="friction",
    fact="A soft or as-cut worm has about twice the friction of a hardened and ground one",
    advice="Use a hardened and ground worm for steady work.",
    about=True,
)
SPEED = Check(
    code="worm_set.sliding",
    severity=W,
    quantity="sliding speed",
    unit="m/s",
    limits=(30.48,),
    fact="Sliding speed is high for open or splash lubrication",
    clear="Sliding speed is in its usual range",
    advice="Use a slower or thinner worm, or force-feed the oil.",
    source=Source("AGMA 6034", "C_v up to 6000 ft/min", "quoted from memory"),
)
RATIO = Check(
    code="worm_set.ratio",
    severity=N,
    quantity="ratio",
    limits=(100.0,),
    fact="The ratio is beyond what one worm set usually does",
    clear="The ratio suits a worm set",
    advice="Split it over two stages.",
    source=EXACT,
)
RULES = (BRAKE, WEAR, BENDING, STALL, HOT, AREA, FACE, THIN, THICK, TEETH, START, ROUGH, SPEED, RATIO)
