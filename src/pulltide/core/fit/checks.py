"""What is checked of a shaft between its bearings."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, Check, Remark, Severity, Source

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "chapters 6 and 7", "formula")
BALL = Source("ISO 281", "basic rating life", "formula")
FATIGUE = Check(
    code="fit.fatigue",
    severity=Severity.WARNING,
    quantity="fatigue stress over what the shaft stands",
    unit="share",
    fact="The shaft may break by fatigue",
    clear="The shaft stands the bending at every turn",
    limits=(0.5, 1.0),
    advice="Take a thicker bar, move a bearing nearer to the wheel, or use a stronger steel.",
    source=SHIGLEY,
    needs_load=True,
)
YIELD = Check(
    code="fit.yield",
    severity=Severity.WARNING,
    quantity="stress at the peak over yield",
    unit="share",
    fact="A peak bends or twists the shaft for good",
    clear="The shaft springs back after a peak",
    limits=(0.83, 1.0),
    advice="Take a thicker bar, move a bearing nearer to the wheel, or use a stronger steel.",
    source=SHIGLEY,
    needs_load=True,
)
CRITICAL = Check(
    code="fit.critical_speed",
    severity=Severity.WARNING,
    quantity="speed over the first critical speed",
    unit="share",
    fact="The shaft runs near the speed at which it whips",
    clear="The shaft runs well below the speed at which it whips",
    limits=(0.7, 0.8),
    advice="Shorten the span between bearings, take a thicker bar, or move heavy wheels to a bearing.",
    source=SHIGLEY,
)
SAG = Check(
    code="fit.deflection",
    severity=Severity.WARNING,
    quantity="bending of the shaft at a wheel, for each meter between bearings",
    unit="mm",
    fact="A wheel runs out of line because the shaft bends",
    clear="Wheels stay in line",
    limits=(0.5,),
    advice="Take a thicker bar, or move a bearing nearer to the wheel.",
    source=COMMON_PRACTICE,
    needs_load=True,
)
TWIST = Check(
    code="fit.twist",
    severity=Severity.NOTE,
    quantity="twist of the shaft on a length of twenty diameters",
    unit="deg",
    fact="The shaft twists more than transmission shafts are made for",
    clear="The shaft twists little",
    limits=(1.0,),
    advice="Take a thicker bar, or bring its wheels nearer together.",
    source=Source("Machinery's Handbook", "torsional deflection of shafts", "quoted from memory"),
    needs_load=True,
    curable=False,
)
TILT = Check(
    code="fit.bearing_slope",
    severity=Severity.WARNING,
    quantity="slope of the shaft in a bearing",
    unit="deg",
    fact="The shaft tilts in its bearing at every turn",
    clear="The shaft runs straight in its bearings",
    limits=(0.17,),
    advice="Take a thicker bar, or move the bearings apart.",
    source=Source("Shigley's Mechanical Engineering Design", "Table 7-2, deep-groove ball", "quoted from memory"),
    needs_load=True,
)
TILT_TAPERED = Check(
    code="fit.tapered_slope",
    severity=Severity.WARNING,
    quantity="slope of the shaft in a tapered bearing",
    unit="deg",
    fact="The shaft tilts in its tapered bearing, and the edges of the rollers carry",
    clear="The shaft runs straight in its tapered bearings",
    limits=(0.069,),
    advice="Take a thicker bar, or move the bearings nearer to the wheels.",
    source=Source("Shigley's Mechanical Engineering Design", "Table 7-2, tapered roller", "quoted from memory"),
    needs_load=True,
)
COUPLED = Check(
    code="fit.coupling",
    severity=Severity.WARNING,
    quantity="angle, offset and bending together, share of the limit",
    fact="Misalignment with the bent shaft is over the coupling's limit",
    clear="Misalignment with the bent shaft is within the coupling's limit",
    limits=(1.0,),
    advice="Put a bearing nearer to the coupling, take a thicker bar, or line the shafts up more closely.",
    source=COMMON_PRACTICE,
    needs_load=True,
)
FAST = Check(
    code="fit.bearing_speed",
    severity=Severity.WARNING,
    quantity="speed of the bearings",
    unit="rpm",
    fact="The bearings turn faster than grease and their type allow",
    clear="The bearings turn slowly enough for grease",
    base="speed listed for grease, half of it for inserts with set screws",
    advice="Take deep-groove bearings in housings, a smaller bore, or oil.",
    source=COMMON_PRACTICE,
)
PAIR = Remark(
    code="fit.tapered_pair",
    severity=Severity.WARNING,
    quantity="tapered bearings on the shaft",
    fact="Tapered bearings work in pairs, one against the other",
    advice="Place two of them, or choose balls.",
    curable=False,
)
LOCKED = Check(
    code="fit.locked_twice",
    severity=Severity.WARNING,
    quantity="distance of two bearings that are both locked on the shaft",
    unit="mm",
    fact="Both bearings are locked on the shaft, and it has nowhere to go as it warms",
    clear="The shaft is short enough for both its bearings to be locked",
    limits=(500.0,),
    advice="Lock one bearing, and let the other slide in its housing or on the shaft.",
    source=COMMON_PRACTICE,
)
NO_BEARING = Remark(
    code="fit.no_bearing",
    severity=Severity.NOTE,
    quantity="bore of the bearings",
    unit="mm",
    fact="No bearing of this type is listed for the seat",
    advice="Turn the seat to a bore that is made, or choose another series.",
)
LIFE = Check(
    code="fit.bearing_life",
    severity=Severity.WARNING,
    quantity="life of the shortest-lived bearing",
    unit="h",
    relation=">=",
    fact="A bearing wears out before its time",
    clear="The bearings last",
    base="wanted life under Duty, 10,000 h where none is entered",
    advice="Take a larger insert with a thicker shaft, or move the bearing so that it carries less.",
    source=BALL,
    needs_load=True,
)
STATIC = Check(
    code="fit.bearing_static",
    severity=Severity.WARNING,
    quantity="static rating of a bearing over its load at the peak",
    unit="share",
    relation=">=",
    fact="A peak may dent the races of a bearing",
    clear="Peaks leave no dents in the bearings",
    limits=(1.5, 1.0),
    advice="Take a larger insert with a thicker shaft, or move the bearing so that it carries less.",
    source=Source("ISO 76", "static safety factor, pronounced shock", "quoted from memory"),
    needs_load=True,
)
HEAVY = Check(
    code="fit.insert_load",
    severity=Severity.WARNING,
    quantity="load of a bearing over its dynamic rating",
    unit="share",
    fact="An insert locked by set screws creeps on the shaft under this load",
    clear="Set screws hold the inserts",
    limits=(0.1,),
    advice="Use an eccentric collar or a taper sleeve, or a larger insert.",
    source=COMMON_PRACTICE,
    needs_load=True,
)
NO_INSERT = Remark(
    code="fit.no_insert",
    severity=Severity.NOTE,
    quantity="bore of the bearings",
    unit="mm",
    fact="No ball insert is made for this shaft",
    advice="Turn the ends down to the next insert, or take a bar that one is made for.",
)
IMPOSSIBLE = Remark(
    code="fit.impossible",
    severity=Severity.ERROR,
    quantity="places along the shaft",
    fact="A bearing or wheel stands beyond the ends of the shaft, or both bearings at one place",
    advice="Enter two bearings at different places, and everything within the length of the shaft.",
    curable=False,
)
FACES = Remark(
    code="fit.faces",
    severity=Severity.ERROR,
    quantity="overlap of both wheels along the shaft",
    unit="mm",
    fact="Two wheels take up the same place along the shaft",
    advice="Move one of them along the shaft by at least the overlap.",
    curable=False,
)
ON_BEARING = Remark(
    code="fit.face_on_bearing",
    severity=Severity.ERROR,
    quantity="overlap of a wheel and a bearing along the shaft",
    unit="mm",
    fact="A wheel and a bearing take up the same place along the shaft",
    advice="Move the wheel or the bearing by at least the overlap.",
    curable=False,
)
CUTS = Remark(
    code="fit.wheel_into_shaft",
    severity=Severity.ERROR,
    quantity="how far it reaches into the shaft",
    unit="mm",
    fact="A wheel, belt or chain of another stage runs into this shaft",
    advice="End the shaft short of it, move the shafts apart, or take a smaller wheel.",
    curable=False,
)
OVER = Remark(
    code="fit.wheel_across_shaft",
    severity=Severity.NOTE,
    quantity="how far the wheel reaches across it",
    unit="mm",
    fact="A wheel of another stage reaches across this shaft",
    advice="End the shaft short of that wheel. Under Fit, enter where both stand, and it is checked.",
    curable=False,
)
CLASH = Remark(
    code="fit.wheels_clash",
    severity=Severity.ERROR,
    quantity="how far they reach into each other",
    unit="mm",
    fact="Wheels of two stages run into each other",
    advice="Move one stage along its shafts, or the shafts apart.",
    curable=False,
)
CAPTIVE = Remark(
    code="fit.belt_captive",
    severity=Severity.WARNING,
    quantity="",
    unit="",
    fact="An endless belt only comes off this stage when a bearing, a coupling or a larger wheel comes off first",
    advice="Hang a spare belt on the shaft from the start, fit a link belt, or place the wheel outside the bearings.",
    curable=False,
)
PASSES = Remark(
    code="fit.belt_passes_across",
    severity=Severity.NOTE,
    quantity="",
    unit="",
    fact="The belt comes off one shaft at its near end and off the other at its far end",
    advice="Slack off far enough that the belt can be passed across between the wheels.",
    curable=False,
)
CROSSED = Remark(
    code="fit.loops_cross",
    severity=Severity.ERROR,
    quantity="how far they reach into each other",
    unit="mm",
    fact="This belt or chain runs into that of another stage",
    advice="Move one stage along its shafts, or turn its center line away.",
    curable=False,
)
IN_THE_WAY = Remark(
    code="room.in_the_way",
    severity=Severity.ERROR,
    quantity="overlap",
    unit="mm",
    fact="An obstacle stands in this part of the drive",
    advice="Move the drive, turn its center line, or move the obstacle; Fit lists the clearance of each.",
    curable=False,
)
GUARD = Check(
    code="room.guard",
    severity=Severity.WARNING,
    quantity="clearance to the nearest obstacle",
    unit="mm",
    relation=">=",
    fact="There is no room for the guard",
    clear="There is room for the guard",
    base="room for the guard, under Fit",
    advice="Move the drive or the obstacle.",
    source=COMMON_PRACTICE,
    curable=False,
)
HANDS = Check(
    code="room.hands",
    severity=Severity.NOTE,
    quantity="clearance to the nearest obstacle",
    unit="mm",
    relation=">=",
    fact="There is no room for hands where a belt or chain is put on",
    clear="There is room for hands where a belt or chain is put on",
    base="room for hands, under Fit",
    advice="Move the drive or the obstacle, or put the belt on from the other side.",
    source=COMMON_PRACTICE,
    curable=False,
)
BELOW_FLOOR = Remark(
    code="room.below_floor",
    severity=Severity.ERROR,
    quantity="how far it reaches below the floor",
    unit="mm",
    fact="A wheel or case reaches below the floor",
    advice="Raise the motor, or turn the center line up.",
    curable=False,
)
IN_LINE = Check(
    code="room.in_line",
    severity=Severity.WARNING,
    quantity="offset of the last shaft from the motor's",
    unit="mm",
    limits=(1.0,),
    fact="The last shaft is not in line with the motor's",
    clear="The last shaft is in line with the motor's",
    advice="Take a coaxial reducer or couplings, or give up the line under Fit.",
    curable=False,
)
LOW = Check(
    code="room.height_low",
    severity=Severity.WARNING,
    quantity="height of the last shaft above the floor",
    unit="mm",
    relation=">=",
    fact="The last shaft is lower than wanted",
    clear="The last shaft is as high as wanted",
    base="height wanted, under Fit",
    advice="Raise the motor, or turn the center line up.",
    curable=False,
)
HIGH = Check(
    code="room.height_high",
    severity=Severity.WARNING,
    quantity="height of the last shaft above the floor",
    unit="mm",
    fact="The last shaft is higher than wanted",
    clear="The last shaft is as low as wanted",
    base="height wanted, under Fit",
    advice="Lower the motor, or turn the center line down.",
    curable=False,
)
BESIDE_LOW = Check(
    code="room.beside_low",
    severity=Severity.WARNING,
    quantity="distance of the last shaft beside the motor's",
    unit="mm",
    relation=">=",
    fact="The last shaft is nearer beside the motor than wanted",
    clear="The last shaft is far enough beside the motor",
    base="distance wanted, under Fit",
    advice="Take longer belts, or turn the center line nearer to level.",
    curable=False,
)
BESIDE_HIGH = Check(
    code="room.beside_high",
    severity=Severity.WARNING,
    quantity="distance of the last shaft beside the motor's",
    unit="mm",
    fact="The last shaft is farther beside the motor than wanted",
    clear="The last shaft is near enough beside the motor",
    base="distance wanted, under Fit",
    advice="Take shorter belts, or turn the center line up.",
    curable=False,
)
SURROUNDINGS = (IN_THE_WAY, GUARD, HANDS, BELOW_FLOOR, IN_LINE, LOW, HIGH, BESIDE_LOW, BESIDE_HIGH)
ROOM = (FACES, ON_BEARING, CUTS, OVER, CLASH, CROSSED, CAPTIVE, PASSES)
SEATS = (TILT_TAPERED, COUPLED, FAST, PAIR, LOCKED, NO_BEARING)
RULES = (
    IMPOSSIBLE,
    FATIGUE,
    YIELD,
    CRITICAL,
    SAG,
    TWIST,
    TILT,
    LIFE,
    STATIC,
    HEAVY,
    NO_INSERT,
    *SEATS,
    *ROOM,
    *SURROUNDINGS,
)
