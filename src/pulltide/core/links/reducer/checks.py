"""What is checked on a gear reducer link. Overhung loads are checked where two links share a shaft."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, Rule, Severity, Source, check, jam_rule

AGMA = Source("AGMA 6010 and 6034", "rating at service factor 1", "list computed from formulas")
AGMA_PEAK = Source("AGMA 6010, 6013 and 6034", "momentary overload 200 %, worms at rest 300 %", "quoted from memory")
AGMA_HEAT = Source("AGMA 6013", "sump limit 93 C", "quoted from memory")
PLATE = Source("maker's plate or list", "fastest input", "as listed")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

TORQUE = Rule(
    "reducer.torque",
    "design torque at the output",
    "<=",
    W,
    "The reducer is loaded over its torque rating",
    "Reducer torque is within its rating with the service factor",
    "N*m",
    AGMA,
    "Use the next size.",
    needs_load=True,
)
TORQUE_UNKNOWN = Rule(
    "reducer.torque_unknown",
    "design torque at the output",
    "<=",
    W,
    "The reducer's torque rating is not known, so its gears cannot be checked",
    "The torque rating is known",
    "N*m",
    AGMA,
    "Find its nameplate, or compare with a stock unit of the same size.",
    needs_load=True,
)
PEAK = Rule(
    "reducer.peak",
    "peak torque at the output",
    "<=",
    E,
    "Peak torque is over the reducer's momentary limit",
    "Peak torque is within the momentary limit",
    "N*m",
    AGMA_PEAK,
    "Use the next size or fit a shear pin.",
    needs_load=True,
)
STALL = jam_rule("reducer.stall", "A jam would overload the reducer", "The reducer survives a jam", AGMA_PEAK)
EMERGENCY = check(
    "reducer.emergency",
    E,
    "<=",
    ("An emergency stop overloads the reducer", "The reducer survives an emergency stop"),
    "N*m",
    "Stop it more gently, limit the torque, or use a larger unit.",
    quantity="torque at the output in an emergency stop",
    source=AGMA_PEAK,
    needs_load=True,
)
SPEED = Rule(
    "reducer.input_speed",
    "input speed",
    "<=",
    E,
    "Input speed is over the reducer's limit",
    "Input speed is within the reducer's limit",
    "rpm",
    PLATE,
    "Slow it with a larger belt ratio.",
)
RATED_SPEED = check(
    "reducer.rated_speed",
    N,
    "<=",
    (
        "The input runs faster than the speed its nameplate torque is rated at, so its rating is reduced",
        "The nameplate rating applies at this speed",
    ),
    "rpm",
    "Slow the input, or find the rating for this speed.",
    quantity="input speed",
    source=AGMA,
    needs_load=True,
)
RATED_SPEED_UNKNOWN = check(
    "reducer.rated_speed_unknown",
    N,
    ">=",
    ("The input speed of its torque rating is not entered; the rating is used as it is", ""),
    "",
    "Find the rated input speed on the nameplate and enter it.",
    quantity="rated input speed",
    needs_load=True,
    about=True,
    curable=False,
)
THERMAL = Rule(
    "reducer.thermal",
    "input power",
    "<=",
    E,
    "The reducer would overheat in continuous duty",
    "Heat load is within the thermal rating",
    "kW",
    AGMA_HEAT,
    "Add a fan, use a larger or a helical unit.",
    needs_load=True,
)
EFFICIENCY = Rule(
    "reducer.efficiency_unknown",
    "efficiency used",
    ">=",
    N,
    "The reducer's efficiency is not known; the low end of the published range is used",
    "Efficiency is known",
    "share",
    COMMON_PRACTICE,
    "Measure motor amps under a known load.",
    about=True,
)
BRAKE = Rule(
    "reducer.not_a_brake",
    "self-locking",
    ">=",
    N,
    "A worm can back-drive when new, oiled or shaken: never rely on it to hold a load",
    "",
    "",
    COMMON_PRACTICE,
    "Fit a brake wherever a load could fall or run back.",
    about=True,
)
SERVICE_FLOOR = Rule(
    "reducer.service_floor",
    "tabulated service factor",
    ">=",
    N,
    "The table allows a service factor under 1 for so few hours; 1.0 is used",
    "",
    "",
    AGMA,
    about=True,
)
NAMEPLATE = check(
    "reducer.nameplate",
    N,
    "<=",
    (
        "The motor is strong enough to overload the reducer if the machine jams or drags",
        "The reducer can handle the motor's full power",
    ),
    "N*m",
    "Use a smaller motor or a larger unit; the actual load is checked separately.",
    quantity="torque of the motor's full power at the output",
    source=AGMA,
    about=True,
)
OVERSIZE = check(
    "reducer.oversize",
    N,
    "<=",
    ("The reducer is much larger than the load needs, and wastes more of the power", "Its size suits the load"),
    "",
    "A smaller unit would do, with less loss.",
    quantity="rated over design torque",
    source=COMMON_PRACTICE,
    needs_load=True,
)
TURNS_BACK = check(
    "reducer.turns_back",
    N,
    ">=",
    ("A load can back-drive this reducer", ""),
    "",
    "Fit a brake wherever a load could fall or run back.",
    quantity="holding",
    about=True,
)
SCALED = check(
    "reducer.scaled",
    N,
    ">=",
    ("Ratings of this type are scaled by size alone, not worked out from stress", ""),
    "",
    "Check the data sheet of the unit you buy.",
    quantity="rating",
    about=True,
)
MOUNTING_UNKNOWN = check(
    "reducer.mounting_unknown",
    N,
    ">=",
    ("The mounting position is not entered; oil level, breather and plugs depend on it", ""),
    "",
    "Choose the mounting position, and order the unit for it.",
    quantity="position",
    about=True,
)
MOUNTING = check(
    "reducer.mounting",
    N,
    ">=",
    ("In this mounting position the reducer needs a different oil fill than on the floor", ""),
    "",
    "Order it for this position: breather on top, above the oil; plugs where they can be reached.",
    quantity="position",
    about=True,
)
OIL_WORM = check(
    "reducer.oil_worm",
    N,
    ">=",
    ("A worm reducer needs worm oil: polyglycol or compounded cylinder oil", ""),
    "",
    "ISO VG 460 to 680. No EP oil with active sulfur on bronze; polyglycol and mineral oil do not mix.",
    quantity="oil",
    about=True,
)
OIL_GEAR = check(
    "reducer.oil_gear",
    N,
    ">=",
    ("Use EP mineral or PAO gear oil, or the grease the unit was filled with", ""),
    "",
    "ISO VG 150 to 320. First change after 250 to 500 h, then each 2500 h or six months.",
    quantity="oil",
    about=True,
)
SPLASH = check(
    "reducer.splash",
    N,
    ">=",
    ("At this low input speed the oil may not splash", "Input speed is high enough for splash lubrication"),
    "rpm",
    "Fill it higher, or use grease; check the data sheet for slow running.",
    quantity="input speed",
    about=True,
)
ARM = check(
    "reducer.no_arm",
    N,
    ">=",
    ("A hollow shaft needs a torque arm that keeps the case from turning", ""),
    "",
    "Enter the distance from shaft to arm to see its force. Do not fix both the feet and the shaft rigidly.",
    quantity="torque arm",
    about=True,
)
FORM = check(
    "reducer.output_form",
    W,
    ">=",
    ("This unit is not listed with such an output shaft", ""),
    "",
    "Choose another form, or another unit.",
    quantity="output shaft",
    source=PLATE,
)
CLAMP = check(
    "reducer.clamp",
    N,
    ">=",
    ("The motor shaft is held by a clamp ring alone, without a key", ""),
    "N*m",
    "Make sure the clamp ring holds more than the motor's peak torque; the shaft must be clean and dry.",
    quantity="peak torque at the input",
    needs_load=True,
    about=True,
)
BACKLASH = check(
    "reducer.backlash",
    W,
    "<=",
    ("Backlash is over what you allow", "Backlash is within what you allow"),
    "arcmin",
    "Use a planetary, cycloidal or strain-wave unit of a finer grade.",
    quantity="backlash",
    source=PLATE,
)
BACKLASH_UNKNOWN = check(
    "reducer.backlash_unknown",
    N,
    ">=",
    ("The reducer's backlash is not known", ""),
    "",
    "Hold the input and measure at a long arm on the output.",
    quantity="backlash",
    about=True,
)
RULES = (
    TORQUE,
    TORQUE_UNKNOWN,
    PEAK,
    STALL,
    EMERGENCY,
    SPEED,
    RATED_SPEED,
    RATED_SPEED_UNKNOWN,
    THERMAL,
    EFFICIENCY,
    BRAKE,
    SERVICE_FLOOR,
    NAMEPLATE,
    OVERSIZE,
    TURNS_BACK,
    SCALED,
    MOUNTING_UNKNOWN,
    MOUNTING,
    OIL_WORM,
    OIL_GEAR,
    SPLASH,
    ARM,
    FORM,
    CLAMP,
    BACKLASH,
    BACKLASH_UNKNOWN,
)
