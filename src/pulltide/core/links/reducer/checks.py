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
    "The reducer is loaded past its torque rating",
    "Reducer torque holds with its service factor",
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
    "The reducer's torque rating is not known, so nothing can be said about its teeth",
    "The rating is known",
    "N*m",
    AGMA,
    "Find a plate, or compare with a stock unit of the same size.",
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
STALL = jam_rule(
    "reducer.stall", "A jam would load the reducer past its momentary limit", "The reducer outlasts a jam", AGMA_PEAK
)
EMERGENCY = check(
    "reducer.emergency",
    E,
    "<=",
    ("An emergency stop loads the reducer past what it bears", "The reducer bears an emergency stop"),
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
    "The reducer's input turns too fast",
    "Input speed is allowed",
    "rpm",
    PLATE,
    "Slow it with a larger belt ratio.",
)
RATED_SPEED = check(
    "reducer.rated_speed",
    N,
    "<=",
    (
        "The input turns faster than the plate's rating is for, so less torque is counted",
        "The plate's rating holds here",
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
    ("For which input speed its plate's torque is given is not entered: it is counted as it stands", ""),
    "",
    "Look for the speed on the plate and enter it.",
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
    "The reducer would run too hot in continuous duty",
    "The reducer sheds its heat",
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
    "The reducer's efficiency is not known; the low end of the published band is used",
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
    "A worm can run backwards when new, oiled or shaken: never count on it to hold a load",
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
        "The motor could press the reducer past its rating if the load asked for it",
        "The reducer takes all the motor has",
    ),
    "N*m",
    "A smaller motor would do, or a larger unit; the load alone decides above.",
    quantity="torque of the motor's full power at the output",
    source=AGMA,
    about=True,
)
OVERSIZE = check(
    "reducer.oversize",
    N,
    "<=",
    ("The reducer is far larger than its load, and loses a larger share of it", "Its size suits the load"),
    "",
    "A smaller unit would do, and waste less.",
    quantity="rated over design torque",
    source=COMMON_PRACTICE,
    needs_load=True,
)
TURNS_BACK = check(
    "reducer.turns_back",
    N,
    ">=",
    ("A load can turn this reducer backwards", ""),
    "",
    "Fit a brake wherever a load could fall or run back.",
    quantity="holding",
    about=True,
)
SCALED = check(
    "reducer.scaled",
    N,
    ">=",
    ("The ratings of this kind are scaled by size alone, without a stress behind them", ""),
    "",
    "Go by the data sheet of the unit you buy.",
    quantity="rating",
    about=True,
)
MOUNTING_UNKNOWN = check(
    "reducer.mounting_unknown",
    N,
    ">=",
    ("How the reducer stands is not said: its oil level, breather and plugs go by it", ""),
    "",
    "Choose how it stands, and order it so.",
    quantity="position",
    about=True,
)
MOUNTING = check(
    "reducer.mounting",
    N,
    ">=",
    ("So placed the reducer needs another oil fill than on the floor", ""),
    "",
    "Order it for this position: breather on top, above the oil; plugs where they can be reached.",
    quantity="position",
    about=True,
)
OIL_WORM = check(
    "reducer.oil_worm",
    N,
    ">=",
    ("A worm wants worm oil: polyglycol or compounded cylinder oil", ""),
    "",
    "ISO VG 460 to 680. No EP oil with active sulphur on bronze; polyglycol and mineral oil do not mix.",
    quantity="oil",
    about=True,
)
OIL_GEAR = check(
    "reducer.oil_gear",
    N,
    ">=",
    ("Gears want EP mineral or PAO oil, or the grease the unit was filled with", ""),
    "",
    "ISO VG 150 to 320. First change after 250 to 500 h, then each 2500 h or six months.",
    quantity="oil",
    about=True,
)
SPLASH = check(
    "reducer.splash",
    N,
    ">=",
    ("So slow an input may not splash the oil up", "The input is fast enough to splash the oil"),
    "rpm",
    "Fill it higher, or use grease; ask for slow running.",
    quantity="input speed",
    about=True,
)
ARM = check(
    "reducer.no_arm",
    N,
    ">=",
    ("A hollow shaft needs a torque arm that keeps the case from turning", ""),
    "",
    "Enter how far the arm is from the shaft; its force is then shown. Rigid feet and a rigid shaft fight each other.",
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
    "See that the ring's friction torque is over the motor's peak torque; clean and dry the shaft.",
    quantity="peak torque at the input",
    needs_load=True,
    about=True,
)
BACKLASH = check(
    "reducer.backlash",
    W,
    "<=",
    ("The reducer has more play than will do", "The reducer's play is small enough"),
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
