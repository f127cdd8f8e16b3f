"""The checks of a line as data: what is compared, the words for both outcomes, the source."""

from __future__ import annotations

from pulltide.core.findings import Check, Remark, Severity, Source
from pulltide.core.plan_rules import NEED, PLAN_RULES

MG1 = Source("NEMA MG 1", "12.51 and 14.42", "quoted from memory")
AGMA_OHL = Source("common practice", "overhung load 2000 T K Lf / PD, K 1.0 chain", "common practice")
HUB = Source("Machinery's Handbook", "sprocket hub proportions", "quoted from memory")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

SPEED_LOW = Check(
    code="need.speed_low",
    severity=W,
    quantity="speed of the last shaft",
    relation=">=",
    unit="rpm",
    fact="The last shaft is too slow",
    clear="The last shaft is fast enough",
    base="slowest useful speed",
    advice="Lower the ratio.",
    source=NEED,
)
SPEED_HIGH = Check(
    code="need.speed_high",
    severity=W,
    quantity="speed of the last shaft",
    unit="rpm",
    fact="The last shaft is too fast",
    clear="The last shaft is slow enough",
    base="fastest useful speed",
    advice="Raise the ratio.",
    source=NEED,
)
SPEED_ERROR = Check(
    code="need.speed_error",
    severity=N,
    quantity="distance from the ideal speed",
    unit="share",
    limits=(0.03,),
    fact="The last shaft is off its ideal speed",
    clear="The last shaft runs at its ideal speed",
    advice="Try the next pulley or sprocket.",
)
NO_SPEED = Remark(
    code="need.no_speed",
    severity=W,
    quantity="speed band",
    unit="rpm",
    fact="The speed range is not entered, so speed cannot be checked",
    advice="Enter the slowest, ideal and fastest workable speed.",
    source=NEED,
    curable=False,
)
NO_TORQUE = Remark(
    code="need.no_torque",
    severity=E,
    quantity="running torque",
    unit="N*m",
    fact="Running torque is not entered, so no part can be checked",
    advice="Enter the torque the last shaft needs, or measure it with a lever and a scale.",
    source=NEED,
    curable=False,
)
ASSUMED = Remark(
    code="need.assumed",
    severity=N,
    quantity="starting values",
    fact="Some figures of the need are starting values, not yours",
    advice="Go through them on Need: correct what you know, measure what decides.",
    source=NEED,
    curable=False,
)
NO_PEAK = Remark(
    code="need.no_peak",
    severity=N,
    quantity="peak torque",
    unit="N*m",
    fact="Peak torque is not entered, so peaks are not checked",
    advice="Enter the highest torque the last shaft sees.",
    source=NEED,
    curable=False,
)
NO_DUTY = Remark(
    code="duty.unknown",
    severity=W,
    quantity="shock and hours",
    fact="Shock or hours are not entered; checked for heavy shock, around the clock",
    advice="Enter the shock of the load and the hours a day.",
    curable=False,
)
NO_REASON = Remark(
    code="duty.no_reason",
    severity=W,
    quantity="service factor",
    fact="You set your own service factor without a reason",
    advice="Write down why, so the next person can judge it.",
    curable=False,
)
MOTOR_LOAD = Check(
    code="motor.load",
    severity=W,
    quantity="power taken from the motor",
    unit="kW",
    fact="The motor is overloaded",
    clear="Running load is within the motor's power",
    base="power the source can give all day",
    advice="Use the next larger motor; the nameplate service factor is not spare power.",
    source=MG1,
)
MOTOR_LIGHT = Check(
    code="motor.light",
    severity=N,
    quantity="load of the motor",
    relation=">=",
    unit="share",
    limits=(0.4,),
    fact="The motor is lightly loaded and runs inefficiently",
    clear="The motor is reasonably loaded",
    advice="A smaller motor would do.",
)
MOTOR_PEAK = Check(
    code="motor.peak",
    severity=W,
    quantity="peak torque at the motor",
    unit="N*m",
    fact="Peak torque is close to the motor's breakdown torque",
    clear="Breakdown torque covers the peak",
    limits=(0.8, 1.0),
    base="breakdown torque",
    advice="Use a larger motor or a flywheel.",
)
NO_BREAKDOWN = Remark(
    code="motor.no_breakdown",
    severity=N,
    quantity="breakdown torque taken",
    unit="N*m",
    fact="Breakdown torque is not from the motor's own data; peaks and stalls are checked with a typical "
    "value, if at all",
    advice="Enter breakdown over full-load torque from its data sheet.",
    source=MG1,
    about=True,
)
BREAKAWAY = Check(
    code="motor.breakaway",
    severity=E,
    quantity="breakaway torque at the source",
    unit="N*m",
    fact="The motor may not start this load: it should have 1.3 times the breakaway torque",
    clear="Starting torque covers the load",
    base="starting torque of the source",
    advice="Use a motor with more starting torque.",
)
PULLEY = Check(
    code="motor.least_pulley",
    severity=W,
    quantity="pulley on the motor shaft",
    relation=">=",
    unit="mm",
    fact="The motor pulley is smaller than the motor's bearings allow",
    clear="The motor pulley is large enough for its bearings",
    limits=(1.0, 0.9),
    base="least pulley of the motor's frame",
    advice="Use a larger motor pulley.",
    source=MG1,
)
OVERHUNG_IN = Check(
    code="reducer.overhung_in",
    severity=E,
    quantity="pull on the reducer's input shaft",
    unit="N",
    fact="Overhung load on the input shaft is over its rating",
    clear="Overhung load on the input shaft is within its rating",
    base="overhung rating of the input shaft at its speed",
    advice="Use a larger pulley, sprocket or gear on this shaft, mount it closer to the case, or use a larger unit.",
    source=AGMA_OHL,
    needs_load=True,
)
OVERHUNG_OUT = Check(
    code="reducer.overhung_out",
    severity=E,
    quantity="pull on the reducer's output shaft",
    unit="N",
    fact="Overhung load on the output shaft is over its rating",
    clear="Overhung load on the output shaft is within its rating",
    base="overhung rating of the output shaft at its speed",
    advice="Use a larger pulley, sprocket or gear on this shaft, mount it closer to the case, or use a larger unit.",
    source=AGMA_OHL,
    needs_load=True,
)
OVERHUNG_END = Check(
    code="reducer.overhung_end",
    severity=E,
    quantity="pull on the last shaft",
    unit="N",
    fact="The pull on the last shaft is over the reducer's overhung rating",
    clear="The pull on the last shaft is within the overhung rating",
    base="overhung rating of the output shaft at its speed",
    advice="Carry the last shaft in its own bearings behind a coupling, or use a larger drum or wheel, or "
    "a larger unit.",
    source=AGMA_OHL,
    needs_load=True,
)
TAKE_OFF_SPEED = Check(
    code="shaft.take_off_speed",
    severity=W,
    quantity="off its speed",
    unit="share",
    limits=(0.1,),
    fact="The take-off runs off the speed its torque is entered for",
    clear="The take-off runs near its rated speed",
    advice="Drive it from another shaft or through its own pulley, or enter the torque it draws at this speed.",
    curable=False,
)
ONE_WAY_REVERSED = Remark(
    code="shaft.one_way_reversed",
    severity=E,
    quantity="one-way clutch",
    fact="The load is reversed, and a one-way clutch drives one way only",
    advice="Take the one-way clutch out, or clear “Reverses under load” under Duty.",
    curable=False,
)
ONE_WAY_PLACE = Remark(
    code="shaft.one_way_place",
    severity=W,
    quantity="one-way clutch",
    fact="The one-way clutch is under a wheel that this shaft does not have",
    advice="Choose the other wheel, or another shaft, under Fit.",
    curable=False,
)
BORE = Check(
    code="shaft.bore",
    severity=E,
    quantity="greatest bore of the part on the shaft",
    relation=">=",
    unit="mm",
    fact="The shaft is larger than this part's maximum bore",
    clear="The part can be bored for its shaft",
    base="shaft diameter",
    advice="Use more teeth, or a larger size.",
    source=HUB,
)
HIGH_LOAD = Check(
    code="need.high_load",
    severity=W,
    quantity="load of the motor at the high end of the running torque",
    unit="share",
    limits=(1.0,),
    fact="The typical load is fine, but the high end of its range overloads the motor",
    clear="The motor covers the high end of the running torque",
    advice="Use the next larger motor, or measure the torque to narrow its range.",
    source=NEED,
)
HIGH_USE = Check(
    code="need.high_use",
    severity=W,
    quantity="use of the tightest part at the high end of the running torque",
    unit="share",
    limits=(1.0,),
    fact="The typical load is fine, but the high end of its range overloads the tightest part",
    clear="The tightest part covers the high end of the running torque",
    advice="Upgrade that part, or measure the torque to narrow its range.",
    source=NEED,
)
STALLS = Check(
    code="motor.stalls",
    severity=E,
    quantity="running torque at the source",
    unit="N*m",
    fact="The motor stalls under this load",
    clear="The motor can turn the load",
    base="most torque of the source",
    advice="Use a larger motor, or a larger ratio.",
    needs_load=True,
)
SLOW_HEAT = Check(
    code="motor.inverter_slow",
    severity=W,
    quantity="power taken from the motor",
    unit="kW",
    fact="At this low speed the motor's own fan does not cool it enough for this load",
    clear="The motor's own fan cools it at this speed",
    base="power the motor's own fan cools at this speed",
    advice="Fit a separate fan, raise the ratio and run it faster, or use a larger motor.",
    needs_load=True,
)
SOURCE_PEAK = Check(
    code="motor.peak_torque",
    severity=W,
    quantity="peak torque at the source",
    unit="N*m",
    fact="Peak torque is more than the source can deliver",
    clear="The source can deliver the peak torque",
    limits=(1.0, 1.2),
    base="most torque of the source",
    advice="Use a larger motor or engine, a larger ratio or a flywheel.",
    needs_load=True,
)
NO_LINKS = Remark(
    code="line.direct",
    severity=N,
    quantity="links",
    fact="The motor drives the last shaft directly",
    advice="Add a stage to change speed.",
    source=NEED,
)
NO_STAGE = Remark(
    code="line.no_stage",
    severity=N,
    quantity="stages",
    fact="There is no stage yet, so nothing that depends on the load is judged",
    advice="Add the first stage; it begins at what is left to bridge.",
    source=NEED,
)
RULES = (
    *PLAN_RULES,
    SPEED_LOW,
    SPEED_HIGH,
    SPEED_ERROR,
    NO_SPEED,
    NO_TORQUE,
    ASSUMED,
    NO_PEAK,
    NO_DUTY,
    NO_REASON,
    MOTOR_LOAD,
    MOTOR_LIGHT,
    MOTOR_PEAK,
    NO_BREAKDOWN,
    BREAKAWAY,
    PULLEY,
    OVERHUNG_IN,
    OVERHUNG_OUT,
    BORE,
    HIGH_LOAD,
    HIGH_USE,
    STALLS,
    SLOW_HEAT,
    SOURCE_PEAK,
    OVERHUNG_END,
    TAKE_OFF_SPEED,
    ONE_WAY_REVERSED,
    ONE_WAY_PLACE,
    NO_LINKS,
    NO_STAGE,
)
