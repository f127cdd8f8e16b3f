"""What is checked on a coupling."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, Severity, Source, check, jam_rule

LIST = Source("maker's plate or list", "rated torque, bore and speed", "as listed")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

TORQUE = check(
    "coupling.torque",
    W,
    "<=",
    ("The coupling is loaded over its rating", "The coupling carries the load with its service factor"),
    "N*m",
    "Use the next size.",
    quantity="design torque",
    source=LIST,
    needs_load=True,
)
UNKNOWN = check(
    "coupling.torque_unknown",
    W,
    "<=",
    ("The coupling's rated torque is not known, so it is not judged", ""),
    "N*m",
    "Find its plate, or compare with a stock coupling of its size.",
    quantity="design torque",
    source=LIST,
    needs_load=True,
)
PEAK = check(
    "coupling.peak",
    W,
    "<=",
    ("Peak torque is over the coupling's momentary limit", "Peak torque is within the coupling's momentary limit"),
    "N*m",
    "Use a larger coupling, or soften the peak.",
    quantity="peak torque",
    source=COMMON_PRACTICE,
    needs_load=True,
)
STALL = jam_rule("coupling.stall", "A jam would break the coupling", "The coupling survives a jam")
ALIGNMENT = check(
    "coupling.alignment",
    W,
    "<=",
    ("Misalignment is over the coupling's limit", "Misalignment is within the coupling's limit"),
    "",
    "Shim and align; angular misalignment and parallel offset share one allowance.",
    quantity="angle and offset together, share of what it takes",
    source=COMMON_PRACTICE,
    limits=(1.0,),
)
NOT_MEASURED = check(
    "coupling.not_measured",
    N,
    ">=",
    ("Shaft misalignment is not entered", ""),
    "",
    "Measure with a straightedge and feelers, or an indicator, and enter it.",
    quantity="misalignment",
    about=True,
)
RIGID = check(
    "coupling.rigid",
    N,
    ">=",
    ("A rigid sleeve allows no misalignment: it bends the shafts instead", ""),
    "",
    "Use it only between shafts lined up on one base; otherwise use a jaw or chain coupling.",
    quantity="type",
)
BORE = check(
    "coupling.bore",
    E,
    "<=",
    ("The shaft is larger than the coupling's maximum bore", "The coupling can be bored for its shafts"),
    "mm",
    "Use a larger coupling.",
    quantity="shaft diameter",
    source=LIST,
)
SLEEVE = check(
    "coupling.unlike_shafts",
    W,
    "<=",
    ("A sleeve of one bore does not fit shafts of two sizes", "Both shafts are the same size"),
    "mm",
    "Step-bore it, or bush the smaller shaft.",
    quantity="difference of the shafts",
    limits=(0.0,),
)
SPEED = check(
    "coupling.speed",
    E,
    "<=",
    ("The coupling is over its maximum speed", "Coupling speed is within its limit"),
    "rpm",
    "Use a smaller or better balanced coupling, or put it on a slower shaft.",
    quantity="speed",
    source=LIST,
)
GREASE = check(
    "coupling.grease",
    N,
    ">=",
    ("A chain coupling needs grease and a cover", ""),
    "",
    "Fill the cover with grease and renew it each year.",
    quantity="care",
    about=True,
)
RULES = (TORQUE, UNKNOWN, PEAK, STALL, ALIGNMENT, NOT_MEASURED, RIGID, BORE, SLEEVE, SPEED, GREASE)
