"""What is checked on a strain-wave gear."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Remark, Severity, jam_rule

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

TORQUE = Check(
    code="strain_wave.torque",
    severity=W,
    quantity="design torque at the output",
    unit="N*m",
    fact="The gear is loaded over its rated torque",
    clear="The gear carries the load with its service factor",
    base="rated torque",
    advice="Use a larger gear, or a belt or gears behind it.",
    needs_load=True,
)
UNKNOWN = Remark(
    code="strain_wave.torque_unknown",
    severity=W,
    quantity="design torque at the output",
    unit="N*m",
    fact="The gear's rated torque is not known, so its teeth cannot be checked",
    advice="Find its data sheet, or measure the torque at which it skips, away from people.",
    needs_load=True,
)
PEAK = Check(
    code="strain_wave.peak",
    severity=W,
    quantity="peak torque at the output",
    unit="N*m",
    fact="Repeated peaks are over twice the rated torque",
    clear="Repeated peaks are within the gear's limit",
    limits=(2.0,),
    base="rated torque",
    advice="Use a larger gear, or soften the peaks.",
    needs_load=True,
)
STALL = jam_rule(
    "strain_wave.stall",
    "A jam would make the teeth skip, which ruins them",
    "The teeth do not skip in a jam",
    base="torque at which teeth skip",
)
EMERGENCY = Check(
    code="strain_wave.emergency",
    severity=E,
    quantity="torque at the output in an emergency stop",
    unit="N*m",
    fact="An emergency stop overloads the gear",
    clear="The gear survives an emergency stop",
    base="torque at which teeth skip; twice the rating where stops are many",
    advice="Stop it more gently, limit the torque, or use a larger gear.",
    needs_load=True,
)
SHOCK = Remark(
    code="strain_wave.shock",
    severity=W,
    quantity="shock",
    fact="Shock loads can make a strain-wave gear skip",
    advice="Use another kind of gear for shock loads.",
)
NO_BRAKE = Remark(
    code="strain_wave.no_brake",
    severity=W,
    quantity="holding",
    fact="It is hard to back-drive, but it is not a brake",
    advice="Fit a brake where a load could fall or run back.",
    about=True,
)
RATIO_LOW = Check(
    code="strain_wave.ratio_low",
    severity=N,
    quantity="ratio",
    relation=">=",
    limits=(30.0,),
    fact="The ratio is low for a strain-wave gear: the cup bends far each turn",
    clear="The ratio is high enough",
    advice="Use more teeth, or a planetary set.",
)
RATIO_HIGH = Check(
    code="strain_wave.ratio_high",
    severity=N,
    quantity="ratio",
    limits=(160.0,),
    fact="The ratio is high for one strain-wave gear: the teeth get small",
    clear="The ratio is low enough",
    advice="Split it over two stages.",
)
REVERSED = Remark(
    code="strain_wave.reversed",
    severity=N,
    quantity="sense",
    fact="With the ring held the cup turns opposite to the wave generator",
    advice="Hold the cup and drive from the ring, or reverse the motor.",
    source=EXACT,
    about=True,
)
PRINTED = Remark(
    code="strain_wave.printed",
    severity=W,
    quantity="material",
    fact="A printed gear skips early and wastes half the power",
    advice="Prototypes only; never where a failure could hurt someone.",
)
RULES = (EMERGENCY, TORQUE, UNKNOWN, PEAK, STALL, SHOCK, NO_BRAKE, RATIO_LOW, RATIO_HIGH, REVERSED, PRINTED)
