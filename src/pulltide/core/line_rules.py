"""The checks of a line as data: what is compared, the words for both outcomes, the source."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, Rule, Severity, Source, check
from pulltide.core.plan_rules import NEED, PLAN_RULES

MG1 = Source("NEMA MG 1", "12.51 and 14.42", "quoted from memory")
AGMA_OHL = Source("common practice", "overhung load 2000 T K Lf / PD, K 1.0 chain", "common practice")
HUB = Source("Machinery's Handbook", "sprocket hub proportions", "quoted from memory")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

SPEED_LOW = Rule(
    "need.speed_low",
    "speed of the last shaft",
    ">=",
    W,
    "The last shaft is too slow",
    "The last shaft is fast enough",
    "rpm",
    NEED,
    "Lower the ratio.",
)
SPEED_HIGH = Rule(
    "need.speed_high",
    "speed of the last shaft",
    "<=",
    W,
    "The last shaft is too fast",
    "The last shaft is slow enough",
    "rpm",
    NEED,
    "Raise the ratio.",
)
SPEED_ERROR = Rule(
    "need.speed_error",
    "distance from the ideal speed",
    "<=",
    N,
    "The last shaft is off its ideal speed",
    "The last shaft runs at its ideal speed",
    "share",
    COMMON_PRACTICE,
    "Try the next pulley or sprocket.",
)
NO_SPEED = Rule(
    "need.no_speed",
    "speed band",
    ">=",
    W,
    "The speed range is not entered, so speed cannot be checked",
    "",
    "rpm",
    NEED,
    "Enter the slowest, ideal and fastest workable speed.",
    curable=False,
)
NO_TORQUE = Rule(
    "need.no_torque",
    "running torque",
    ">=",
    E,
    "Running torque is not entered, so no part can be checked",
    "",
    "N*m",
    NEED,
    "Enter the torque the last shaft needs, or measure it with a lever and a scale.",
    curable=False,
)
NO_PEAK = Rule(
    "need.no_peak",
    "peak torque",
    ">=",
    N,
    "Peak torque is not entered, so peaks are not checked",
    "",
    "N*m",
    NEED,
    "Enter the highest torque the last shaft sees.",
    curable=False,
)
NO_DUTY = Rule(
    "duty.unknown",
    "shock and hours",
    ">=",
    W,
    "Shock or hours are not entered; checked for heavy shock, around the clock",
    "",
    "",
    COMMON_PRACTICE,
    "Enter the shock of the load and the hours a day.",
    curable=False,
)
NO_REASON = Rule(
    "duty.no_reason",
    "service factor",
    ">=",
    W,
    "You set your own service factor without a reason",
    "",
    "",
    COMMON_PRACTICE,
    "Write down why, so the next person can judge it.",
    curable=False,
)
MOTOR_LOAD = Rule(
    "motor.load",
    "power taken from the motor",
    "<=",
    W,
    "The motor is overloaded",
    "Running load is within the motor's power",
    "kW",
    MG1,
    "Use the next larger motor; the nameplate service factor is not spare power.",
)
MOTOR_LIGHT = Rule(
    "motor.light",
    "load of the motor",
    ">=",
    N,
    "The motor is lightly loaded and runs inefficiently",
    "The motor is reasonably loaded",
    "share",
    COMMON_PRACTICE,
    "A smaller motor would do.",
    limits=(0.4,),
)
MOTOR_PEAK = Rule(
    "motor.peak",
    "peak torque at the motor",
    "<=",
    W,
    "Peak torque is close to the motor's breakdown torque",
    "Breakdown torque covers the peak",
    "N*m",
    COMMON_PRACTICE,
    "Use a larger motor or a flywheel.",
)
NO_BREAKDOWN = Rule(
    "motor.no_breakdown",
    "breakdown torque taken",
    "<=",
    N,
    "Breakdown torque is not from the motor's own data; peaks and stalls are checked with a typical value, if at all",
    "",
    "N*m",
    MG1,
    "Enter breakdown over full-load torque from its data sheet.",
    about=True,
)
BREAKAWAY = Rule(
    "motor.breakaway",
    "breakaway torque at the source",
    "<=",
    E,
    "The motor may not start this load: it should have 1.3 times the breakaway torque",
    "Starting torque covers the load",
    "N*m",
    COMMON_PRACTICE,
    "Use a motor with more starting torque.",
)
PULLEY = Rule(
    "motor.least_pulley",
    "pulley on the motor shaft",
    ">=",
    W,
    "The motor pulley is smaller than the motor's bearings allow",
    "The motor pulley is large enough for its bearings",
    "mm",
    MG1,
    "Use a larger motor pulley.",
)
OVERHUNG_IN = Rule(
    "reducer.overhung_in",
    "pull on the reducer's input shaft",
    "<=",
    E,
    "Overhung load on the input shaft is over its rating",
    "Overhung load on the input shaft is within its rating",
    "N",
    AGMA_OHL,
    "Use a larger pulley, sprocket or gear on this shaft, mount it closer to the case, or use a larger unit.",
    needs_load=True,
)
OVERHUNG_OUT = Rule(
    "reducer.overhung_out",
    "pull on the reducer's output shaft",
    "<=",
    E,
    "Overhung load on the output shaft is over its rating",
    "Overhung load on the output shaft is within its rating",
    "N",
    AGMA_OHL,
    "Use a larger pulley, sprocket or gear on this shaft, mount it closer to the case, or use a larger unit.",
    needs_load=True,
)
OVERHUNG_END = check(
    "reducer.overhung_end",
    E,
    "<=",
    (
        "The pull on the last shaft is over the reducer's overhung rating",
        "The pull on the last shaft is within the overhung rating",
    ),
    "N",
    "Carry the last shaft in its own bearings behind a coupling, or use a larger drum or wheel, or a larger unit.",
    quantity="pull on the last shaft",
    source=AGMA_OHL,
    needs_load=True,
)
TAKE_OFF_SPEED = check(
    "shaft.take_off_speed",
    W,
    "<=",
    ("The take-off runs off the speed its torque is entered for", "The take-off runs near its rated speed"),
    "share",
    "Drive it from another shaft or through its own pulley, or enter the torque it draws at this speed.",
    quantity="off its speed",
    curable=False,
)
BORE = Rule(
    "shaft.bore",
    "greatest bore of the part on the shaft",
    ">=",
    E,
    "The shaft is larger than this part's maximum bore",
    "The part can be bored for its shaft",
    "mm",
    HUB,
    "Use more teeth, or a larger size.",
)
HIGH_LOAD = Rule(
    "need.high_load",
    "load of the motor at the high end of the running torque",
    "<=",
    W,
    "The typical load is fine, but the high end of its range overloads the motor",
    "The motor covers the high end of the running torque",
    "share",
    NEED,
    "Use the next larger motor, or measure the torque to narrow its range.",
    limits=(1.0,),
)
HIGH_USE = Rule(
    "need.high_use",
    "use of the tightest part at the high end of the running torque",
    "<=",
    W,
    "The typical load is fine, but the high end of its range overloads the tightest part",
    "The tightest part covers the high end of the running torque",
    "share",
    NEED,
    "Upgrade that part, or measure the torque to narrow its range.",
    limits=(1.0,),
)
STALLS = check(
    "motor.stalls",
    E,
    "<=",
    ("The motor stalls under this load", "The motor can turn the load"),
    "N*m",
    "Use a larger motor, or a larger ratio.",
    quantity="running torque at the source",
    source=COMMON_PRACTICE,
    needs_load=True,
)
SLOW_HEAT = check(
    "motor.inverter_slow",
    W,
    "<=",
    (
        "At this low speed the motor's own fan does not cool it enough for this load",
        "The motor's own fan cools it at this speed",
    ),
    "kW",
    "Fit a separate fan, raise the ratio and run it faster, or use a larger motor.",
    quantity="power taken from the motor",
    needs_load=True,
)
SOURCE_PEAK = check(
    "motor.peak_torque",
    W,
    "<=",
    ("Peak torque is more than the source can deliver", "The source can deliver the peak torque"),
    "N*m",
    "Use a larger motor or engine, a larger ratio or a flywheel.",
    quantity="peak torque at the source",
    needs_load=True,
)
NO_LINKS = Rule(
    "line.direct",
    "links",
    ">=",
    N,
    "The motor drives the last shaft directly",
    "",
    "",
    NEED,
    "Add a stage to change speed.",
)
RULES = (
    *PLAN_RULES,
    SPEED_LOW,
    SPEED_HIGH,
    SPEED_ERROR,
    NO_SPEED,
    NO_TORQUE,
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
    NO_LINKS,
)
