"""What is checked on a coupling."""

from __future__ import annotations

from pulltide.core.findings import Check, Remark, Severity, Source, jam_rule

LIST = Source("maker's plate or list", "rated torque, bore and speed", "as listed")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

TORQUE = Check(
    code="coupling.torque",
    severity=W,
    quantity="design torque",
    unit="N*m",
    fact="The coupling is loaded over its rating",
    clear="The coupling carries the load with its service factor",
    base="rated torque",
    advice="Use the next size.",
    source=LIST,
    needs_load=True,
)
UNKNOWN = Remark(
    code="coupling.torque_unknown",
    severity=W,
    quantity="design torque",
    unit="N*m",
    fact="The coupling's rated torque is not known, so it is not judged",
    advice="Find its plate, or compare with a stock coupling of its size.",
    source=LIST,
    needs_load=True,
)
PEAK = Check(
    code="coupling.peak",
    severity=W,
    quantity="peak torque",
    unit="N*m",
    fact="Peak torque is over the coupling's momentary limit",
    clear="Peak torque is within the coupling's momentary limit",
    base="momentary torque",
    advice="Use a larger coupling, or soften the peak.",
    needs_load=True,
)
STALL = jam_rule(
    "coupling.stall", "A jam would break the coupling", "The coupling survives a jam", base="momentary torque"
)
ALIGNMENT = Check(
    code="coupling.alignment",
    severity=W,
    quantity="angle and offset together, share of what it takes",
    limits=(1.0,),
    fact="Misalignment is over the coupling's limit",
    clear="Misalignment is within the coupling's limit",
    advice="Shim and align; angular misalignment and parallel offset share one allowance.",
)
NOT_MEASURED = Remark(
    code="coupling.not_measured",
    severity=N,
    quantity="misalignment",
    fact="Shaft misalignment is not entered",
    advice="Measure with a straightedge and feelers, or an indicator, and enter it.",
    about=True,
)
RIGID = Remark(
    code="coupling.rigid",
    severity=N,
    quantity="type",
    fact="A rigid sleeve allows no misalignment: it bends the shafts instead",
    advice="Use it only between shafts lined up on one base; otherwise use a jaw or chain coupling.",
)
BORE = Check(
    code="coupling.bore",
    severity=E,
    quantity="shaft diameter",
    unit="mm",
    fact="The shaft is larger than the coupling's maximum bore",
    clear="The coupling can be bored for its shafts",
    base="greatest bore",
    advice="Use a larger coupling.",
    source=LIST,
)
SLEEVE = Check(
    code="coupling.unlike_shafts",
    severity=W,
    quantity="difference of the shafts",
    unit="mm",
    limits=(0.0,),
    fact="A sleeve of one bore does not fit shafts of two sizes",
    clear="Both shafts are the same size",
    advice="Step-bore it, or bush the smaller shaft.",
)
SPEED = Check(
    code="coupling.speed",
    severity=E,
    quantity="speed",
    unit="rpm",
    fact="The coupling is over its maximum speed",
    clear="Coupling speed is within its limit",
    base="greatest speed listed",
    advice="Use a smaller or better balanced coupling, or put it on a slower shaft.",
    source=LIST,
)
GREASE = Remark(
    code="coupling.grease",
    severity=N,
    quantity="care",
    fact="A chain coupling needs grease and a cover",
    advice="Fill the cover with grease and renew it each year.",
    about=True,
)
RULES = (TORQUE, UNKNOWN, PEAK, STALL, ALIGNMENT, NOT_MEASURED, RIGID, BORE, SLEEVE, SPEED, GREASE)
