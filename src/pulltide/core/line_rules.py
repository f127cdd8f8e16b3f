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
    "The wanted speed is not entered, so the speed cannot be judged",
    "",
    "rpm",
    NEED,
    "Enter the slowest, ideal and fastest useful speed.",
    curable=False,
)
NO_TORQUE = Rule(
    "need.no_torque",
    "running torque",
    ">=",
    E,
    "The running torque is not entered, so no part can be judged",
    "",
    "N*m",
    NEED,
    "Enter the torque the last shaft takes, or measure it with a lever and a scale.",
    curable=False,
)
NO_PEAK = Rule(
    "need.no_peak",
    "peak torque",
    ">=",
    N,
    "The peak torque is not entered, so peaks are not judged",
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
    "Shock or hours are not entered: judged as heavy shock, all day",
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
    "A service factor of your own is in force without a reason",
    "",
    "",
    COMMON_PRACTICE,
    "Write down why, so that the next reader can judge it.",
    curable=False,
)
MOTOR_LOAD = Rule(
    "motor.load",
    "power taken from the motor",
    "<=",
    W,
    "The motor is loaded past its nameplate power",
    "The motor carries the running load",
    "kW",
    MG1,
    "Use the next larger motor; a nameplate service factor is no spare power.",
)
MOTOR_LIGHT = Rule(
    "motor.light",
    "load of the motor",
    ">=",
    N,
    "The motor is lightly loaded, so it runs at poor efficiency",
    "The motor is reasonably loaded",
    "share",
    COMMON_PRACTICE,
    "A smaller motor would do.",
)
MOTOR_PEAK = Rule(
    "motor.peak",
    "peak torque at the motor",
    "<=",
    W,
    "Peak torque comes near the motor's breakdown torque",
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
    "The motor's breakdown torque is not from its own data: peaks and stalls are judged on a usual one, if at all",
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
    "The source may not start this load: 1.3 times its breakaway torque is wanted",
    "The source starts the load",
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
    "The pull is over the reducer's input overhung rating",
    "The input shaft carries the pull",
    "N",
    AGMA_OHL,
    "Use a larger wheel on this shaft, set it closer to the case, or use a larger unit.",
    needs_load=True,
)
OVERHUNG_OUT = Rule(
    "reducer.overhung_out",
    "pull on the reducer's output shaft",
    "<=",
    E,
    "The pull is over the reducer's output overhung rating",
    "The output shaft carries the pull",
    "N",
    AGMA_OHL,
    "Use a larger wheel on this shaft, set it closer to the case, or use a larger unit.",
    needs_load=True,
)
OVERHUNG_END = check(
    "reducer.overhung_end",
    E,
    "<=",
    ("The pull of what the last shaft works is over the overhung rating", "The last shaft carries the pull it works"),
    "N",
    "Carry the last shaft in bearings of its own behind a coupling, use a larger drum or wheel, or a larger unit.",
    quantity="pull on the last shaft",
    source=AGMA_OHL,
    needs_load=True,
)
TAKE_OFF_SPEED = check(
    "shaft.take_off_speed",
    W,
    "<=",
    ("The take-off is driven off the speed its torque is told at", "The take-off runs near its speed"),
    "share",
    "Take it off another shaft, or give it a pulley of its own; enter the torque it draws at this speed.",
    quantity="off its speed",
    curable=False,
)
BORE = Rule(
    "shaft.bore",
    "greatest bore of the part on the shaft",
    ">=",
    E,
    "The part on this shaft is too small to be bored for it",
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
    "Typical load passes, the high end of its band is over the motor's power",
    "The motor carries the high end of the running torque",
    "share",
    NEED,
    "Use the next larger motor, or measure the torque to narrow its band.",
)
HIGH_USE = Rule(
    "need.high_use",
    "use of the tightest part at the high end of the running torque",
    "<=",
    W,
    "Typical load passes, the high end of its band is over the tightest part",
    "The tightest part carries the high end of the running torque",
    "share",
    NEED,
    "Strengthen that part, or measure the torque to narrow its band.",
)
STALLS = check(
    "motor.stalls",
    E,
    "<=",
    ("The source cannot turn this load: it stalls", "The source turns the load"),
    "N*m",
    "Use a larger source, or a larger ratio.",
    quantity="running torque at the source",
    source=COMMON_PRACTICE,
    needs_load=True,
)
SLOW_HEAT = check(
    "motor.inverter_slow",
    W,
    "<=",
    ("So slow, the motor's own fan does not cool it under this load", "The motor's fan cools it at this speed"),
    "kW",
    "Fit a separate fan, raise the ratio and run it faster, or use a larger motor.",
    quantity="power taken from the motor",
    needs_load=True,
)
SOURCE_PEAK = check(
    "motor.peak_torque",
    W,
    "<=",
    ("Peak torque is over the most that turns the machine", "The source gives the peak torque"),
    "N*m",
    "Use a larger source, a larger ratio or a flywheel.",
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
    "Add a link to change speed.",
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
