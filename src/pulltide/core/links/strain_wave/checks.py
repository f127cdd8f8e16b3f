"""What is checked on a strain-wave gear."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Severity, check, jam_rule

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

TORQUE = check(
    "strain_wave.torque",
    W,
    "<=",
    ("The gear is loaded over its rated torque", "The gear carries the load with its service factor"),
    "N*m",
    "Use a larger gear, or a belt or gears behind it.",
    quantity="design torque at the output",
    needs_load=True,
)
UNKNOWN = check(
    "strain_wave.torque_unknown",
    W,
    "<=",
    ("The gear's rated torque is not known, so its teeth cannot be checked", ""),
    "N*m",
    "Find its data sheet, or measure the torque at which it skips, away from people.",
    quantity="design torque at the output",
    needs_load=True,
)
PEAK = check(
    "strain_wave.peak",
    W,
    "<=",
    ("Repeated peaks are over twice the rated torque", "Repeated peaks are within the gear's limit"),
    "N*m",
    "Use a larger gear, or soften the peaks.",
    quantity="peak torque at the output",
    source=COMMON_PRACTICE,
    needs_load=True,
)
STALL = jam_rule(
    "strain_wave.stall", "A jam would make the teeth skip, which ruins them", "The teeth do not skip in a jam"
)
EMERGENCY = check(
    "strain_wave.emergency",
    E,
    "<=",
    ("An emergency stop overloads the gear", "The gear survives an emergency stop"),
    "N*m",
    "Stop it more gently, limit the torque, or use a larger gear.",
    quantity="torque at the output in an emergency stop",
    needs_load=True,
)
SHOCK = check(
    "strain_wave.shock",
    W,
    ">=",
    ("Shock loads can make a strain-wave gear skip", ""),
    "",
    "Use another kind of gear for shock loads.",
    quantity="shock",
)
NO_BRAKE = check(
    "strain_wave.no_brake",
    W,
    ">=",
    ("It is hard to back-drive, but it is not a brake", ""),
    "",
    "Fit a brake where a load could fall or run back.",
    quantity="holding",
    about=True,
)
RATIO_LOW = check(
    "strain_wave.ratio_low",
    N,
    ">=",
    ("The ratio is low for a strain-wave gear: the cup bends far each turn", "The ratio is high enough"),
    "",
    "Use more teeth, or a planetary set.",
    quantity="ratio",
)
RATIO_HIGH = check(
    "strain_wave.ratio_high",
    N,
    "<=",
    ("The ratio is high for one strain-wave gear: the teeth get small", "The ratio is low enough"),
    "",
    "Split it over two stages.",
    quantity="ratio",
)
REVERSED = check(
    "strain_wave.reversed",
    N,
    ">=",
    ("With the ring held the cup turns opposite to the wave generator", ""),
    "",
    "Hold the cup and drive from the ring, or reverse the motor.",
    quantity="sense",
    source=EXACT,
    about=True,
)
PRINTED = check(
    "strain_wave.printed",
    W,
    ">=",
    ("A printed gear skips early and wastes half the power", ""),
    "",
    "Prototypes only; never where a failure could hurt someone.",
    quantity="material",
)
RULES = (EMERGENCY, TORQUE, UNKNOWN, PEAK, STALL, SHOCK, NO_BRAKE, RATIO_LOW, RATIO_HIGH, REVERSED, PRINTED)
