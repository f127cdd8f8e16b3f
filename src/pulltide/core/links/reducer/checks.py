"""What is checked on a gear reducer link. Overhung loads are checked where two links share a shaft."""

from __future__ import annotations

from pulltide.core.findings import Check, Remark, Severity, Source, jam_rule

AGMA = Source("AGMA 6010 and 6034", "rating at service factor 1", "list computed from formulas")
AGMA_PEAK = Source("AGMA 6010, 6013 and 6034", "momentary overload 200 %, worms at rest 300 %", "quoted from memory")
AGMA_HEAT = Source("AGMA 6013", "sump limit 93 C", "quoted from memory")
PLATE = Source("maker's plate or list", "fastest input", "as listed")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

TORQUE = Check(
    code="reducer.torque",
    severity=W,
    quantity="design torque at the output",
    unit="N*m",
    fact="The reducer is loaded over its torque rating",
    clear="Reducer torque is within its rating with the service factor",
    base="rated torque at this speed",
    advice="Use the next size.",
    source=AGMA,
    needs_load=True,
)
TORQUE_UNKNOWN = Remark(
    code="reducer.torque_unknown",
    severity=W,
    quantity="design torque at the output",
    unit="N*m",
    fact="The reducer's torque rating is not known, so its gears cannot be checked",
    advice="Find its nameplate, or compare with a stock unit of the same size.",
    source=AGMA,
    needs_load=True,
)
PEAK = Check(
    code="reducer.peak",
    severity=E,
    quantity="peak torque at the output",
    unit="N*m",
    fact="Peak torque is over the reducer's momentary limit",
    clear="Peak torque is within the momentary limit",
    base="momentary torque",
    advice="Use the next size or fit a shear pin.",
    source=AGMA_PEAK,
    needs_load=True,
)
STALL = jam_rule(
    "reducer.stall",
    "A jam would overload the reducer",
    "The reducer survives a jam",
    source=AGMA_PEAK,
    base="torque that its teeth or shaft carry at rest",
)
EMERGENCY = Check(
    code="reducer.emergency",
    severity=E,
    quantity="torque at the output in an emergency stop",
    unit="N*m",
    fact="An emergency stop overloads the reducer",
    clear="The reducer survives an emergency stop",
    base="momentary torque; 1.5 ratings at most where stops are many",
    advice="Stop it more gently, limit the torque, or use a larger unit.",
    source=AGMA_PEAK,
    needs_load=True,
)
SPEED = Check(
    code="reducer.input_speed",
    severity=E,
    quantity="input speed",
    unit="rpm",
    fact="Input speed is over the reducer's limit",
    clear="Input speed is within the reducer's limit",
    base="greatest input speed",
    advice="Slow it with a larger belt ratio.",
    source=PLATE,
)
RATED_SPEED = Check(
    code="reducer.rated_speed",
    severity=N,
    quantity="input speed",
    unit="rpm",
    fact="The input runs faster than the speed its nameplate torque is rated at, so its rating is reduced",
    clear="The nameplate rating applies at this speed",
    base="speed that the plate was rated at",
    advice="Slow the input, or find the rating for this speed.",
    source=AGMA,
    needs_load=True,
)
RATED_SPEED_UNKNOWN = Remark(
    code="reducer.rated_speed_unknown",
    severity=N,
    quantity="rated input speed",
    fact="The input speed of its torque rating is not entered; the rating is used as it is",
    advice="Find the rated input speed on the nameplate and enter it.",
    needs_load=True,
    about=True,
    curable=False,
)
THERMAL = Check(
    code="reducer.thermal",
    severity=E,
    quantity="input power",
    unit="kW",
    fact="The reducer would overheat in continuous duty",
    clear="Heat load is within the thermal rating",
    limits=(0.9, 1.0),
    base="thermal rating at this speed and ambient",
    advice="Add a fan, use a larger or a helical unit.",
    source=AGMA_HEAT,
    needs_load=True,
)
EFFICIENCY = Remark(
    code="reducer.efficiency_unknown",
    severity=N,
    quantity="efficiency used",
    unit="share",
    fact="The reducer's efficiency is not known; the low end of the published range is used",
    advice="Measure motor amps under a known load.",
    about=True,
)
BRAKE = Remark(
    code="reducer.not_a_brake",
    severity=N,
    quantity="self-locking",
    fact="A worm can back-drive when new, oiled or shaken: never rely on it to hold a load",
    advice="Fit a brake wherever a load could fall or run back.",
    about=True,
)
SERVICE_FLOOR = Remark(
    code="reducer.service_floor",
    severity=N,
    quantity="tabulated service factor",
    fact="The table allows a service factor under 1 for so few hours; 1.0 is used",
    source=AGMA,
    about=True,
)
NAMEPLATE = Check(
    code="reducer.nameplate",
    severity=N,
    quantity="torque of the motor's full power at the output",
    unit="N*m",
    fact="The motor is strong enough to overload the reducer if the machine jams or drags",
    clear="The reducer can handle the motor's full power",
    base="rated torque at this speed",
    advice="Use a smaller motor or a larger unit; the actual load is checked separately.",
    source=AGMA,
    about=True,
)
OVERSIZE = Check(
    code="reducer.oversize",
    severity=N,
    quantity="rated over design torque",
    limits=(2.5,),
    fact="The reducer is much larger than the load needs, and wastes more of the power",
    clear="Its size suits the load",
    advice="A smaller unit would do, with less loss.",
    needs_load=True,
)
TURNS_BACK = Remark(
    code="reducer.turns_back",
    severity=N,
    quantity="holding",
    fact="A load can back-drive this reducer",
    advice="Fit a brake wherever a load could fall or run back.",
    about=True,
)
SCALED = Remark(
    code="reducer.scaled",
    severity=N,
    quantity="rating",
    fact="Ratings of this type are scaled by size alone, not worked out from stress",
    advice="Check the data sheet of the unit you buy.",
    about=True,
)
MOUNTING_UNKNOWN = Remark(
    code="reducer.mounting_unknown",
    severity=N,
    quantity="position",
    fact="The mounting position is not entered; oil level, breather and plugs depend on it",
    advice="Choose the mounting position, and order the unit for it.",
    about=True,
)
MOUNTING = Remark(
    code="reducer.mounting",
    severity=N,
    quantity="position",
    fact="In this mounting position the reducer needs a different oil fill than on the floor",
    advice="Order it for this position: breather on top, above the oil; plugs where they can be reached.",
    about=True,
)
OIL_WORM = Remark(
    code="reducer.oil_worm",
    severity=N,
    quantity="oil",
    fact="A worm reducer needs worm oil: polyglycol or compounded cylinder oil",
    advice="ISO VG 460 to 680. No EP oil with active sulfur on bronze; polyglycol and mineral oil do not mix.",
    about=True,
)
OIL_GEAR = Remark(
    code="reducer.oil_gear",
    severity=N,
    quantity="oil",
    fact="Use EP mineral or PAO gear oil, or the grease the unit was filled with",
    advice="ISO VG 150 to 320. First change after 250 to 500 h, then each 2500 h or six months.",
    about=True,
)
SPLASH = Check(
    code="reducer.splash",
    severity=N,
    quantity="input speed",
    relation=">=",
    unit="rpm",
    fact="At this low input speed the oil may not splash",
    clear="Input speed is high enough for splash lubrication",
    limits=(0.1,),
    base="greatest input speed",
    advice="Fill it higher, or use grease; check the data sheet for slow running.",
    about=True,
)
ARM = Remark(
    code="reducer.no_arm",
    severity=N,
    quantity="torque arm",
    fact="A hollow shaft needs a torque arm that keeps the case from turning",
    advice="Enter the distance from shaft to arm to see its force. Do not fix both the feet and the shaft rigidly.",
    about=True,
)
FORM = Remark(
    code="reducer.output_form",
    severity=W,
    quantity="output shaft",
    fact="This unit is not listed with such an output shaft",
    advice="Choose another form, or another unit.",
    source=PLATE,
)
CLAMP = Remark(
    code="reducer.clamp",
    severity=N,
    quantity="peak torque at the input",
    unit="N*m",
    fact="The motor shaft is held by a clamp ring alone, without a key",
    advice="Make sure the clamp ring holds more than the motor's peak torque; the shaft must be clean and dry.",
    needs_load=True,
    about=True,
)
BACKLASH = Check(
    code="reducer.backlash",
    severity=W,
    quantity="backlash",
    unit="arcmin",
    fact="Backlash is over what you allow",
    clear="Backlash is within what you allow",
    base="backlash you allow",
    advice="Use a planetary, cycloidal or strain-wave unit of a finer grade.",
    source=PLATE,
)
BACKLASH_UNKNOWN = Remark(
    code="reducer.backlash_unknown",
    severity=N,
    quantity="backlash",
    fact="The reducer's backlash is not known",
    advice="Hold the input and measure at a long arm on the output.",
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
