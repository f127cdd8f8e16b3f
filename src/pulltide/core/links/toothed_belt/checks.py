"""What is checked on a timing belt link."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Remark, Severity, Source, jam_rule

ISO = Source("ISO 5294 and IP-24", "rating, least teeth, teeth in mesh", "quoted from memory")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

RATING = Check(
    code="toothed_belt.rating",
    severity=W,
    quantity="design power",
    unit="kW",
    fact="The belt is loaded over its rating",
    clear="Belt load is within its rating with the service factor",
    base="rating of the belt",
    advice="Use a wider belt, or more teeth on both pulleys.",
    source=ISO,
    needs_load=True,
)
ESTIMATE = Remark(
    code="toothed_belt.estimate",
    severity=N,
    quantity="rating",
    fact="No standard rates this profile; the figure is the low end of a range",
    advice="Check the belt maker's rating before ordering.",
)
MESH = Check(
    code="toothed_belt.mesh",
    severity=W,
    quantity="teeth in mesh",
    relation=">=",
    unit="teeth",
    limits=(6.0, 3.0),
    fact="Too few teeth of the small pulley are in mesh",
    clear="Enough teeth are in mesh",
    advice="Use a longer center distance, or more teeth on the small pulley.",
    source=ISO,
)
LEAST = Check(
    code="toothed_belt.least_teeth",
    severity=E,
    quantity="small pulley",
    relation=">=",
    unit="teeth",
    fact="The small pulley has too few teeth for this profile and speed",
    clear="The small pulley has enough teeth",
    base="least teeth of the profile at this speed",
    advice="Use more teeth on both pulleys.",
    source=ISO,
)
SPEED = Check(
    code="toothed_belt.speed",
    severity=W,
    quantity="belt speed",
    unit="m/s",
    fact="Belt speed is over the limit for this profile",
    clear="Belt speed is within its limit",
    base="limit of the profile",
    advice="Use smaller pulleys.",
    source=ISO,
)
JUMP = Check(
    code="toothed_belt.jump",
    severity=W,
    quantity="pull at peak torque",
    unit="N",
    fact="At peak torque the belt may jump a tooth",
    clear="The belt holds its teeth at peak torque",
    limits=(1.0, 1.5),
    base="allowable pull of the teeth in mesh",
    advice="Use a wider belt or larger pulleys, and tension it to half the peak pull or more.",
    needs_load=True,
)
SLACK = Check(
    code="toothed_belt.tension_set",
    severity=E,
    quantity="tension set",
    relation=">=",
    unit="N",
    fact="Belt tension is so low that it jumps a tooth at peak torque",
    clear="Belt tension keeps the teeth in mesh",
    limits=(0.5,),
    base="pull at peak torque",
    advice="Tension it to at least half the peak pull.",
    needs_load=True,
)
WIDE = Check(
    code="toothed_belt.wide",
    severity=W,
    quantity="belt width",
    unit="mm",
    fact="The belt is wider than its small pulley is large",
    clear="The belt's width suits its pulleys",
    base="smaller pitch diameter",
    advice="Use larger pulleys or a larger profile.",
)
TOUCH = Check(
    code="toothed_belt.touch",
    severity=E,
    quantity="center distance",
    relation=">=",
    unit="mm",
    fact="The belt is too short: the pulleys would touch",
    clear="The pulleys clear each other",
    base="half of both pitch diameters",
    advice="Use a longer belt.",
    source=EXACT,
)
TOO_SHORT = Check(
    code="toothed_belt.too_short",
    severity=E,
    quantity="belt",
    relation=">=",
    unit="teeth",
    fact="The belt is too short to go round these pulleys",
    clear="The belt goes round the pulleys",
    base="path round the pulleys",
    advice="Use a longer belt.",
    source=EXACT,
)
NO_BELT = Remark(
    code="toothed_belt.no_belt",
    severity=N,
    quantity="length wanted",
    unit="teeth",
    fact="No belt is chosen yet",
    advice="Choose a whole number of teeth; the center distance then follows from it.",
    source=EXACT,
)
TAKE_UP = Check(
    code="toothed_belt.take_up",
    severity=W,
    quantity="center adjustment",
    relation=">=",
    unit="mm",
    fact="There is too little adjustment to fit and tension the belt",
    clear="There is adjustment enough",
    limits=(1.5,),
    base="tooth pitch",
    advice="Allow a pitch and a half, or fit an idler.",
)
TAKE_UP_UNKNOWN = Remark(
    code="toothed_belt.take_up",
    severity=N,
    quantity="adjustment needed",
    unit="mm",
    fact="Center adjustment is not entered",
    advice="Allow at least this much, or fit an idler.",
)
NO_FUSE = Remark(
    code="toothed_belt.no_fuse",
    severity=N,
    quantity="slip",
    fact="A timing belt does not slip: a jam loads the shafts and the motor",
    advice="Add a shear pin or a stage that slips where the machine can jam.",
)
JAM = jam_rule(
    "toothed_belt.jam",
    "A jam would make the belt jump teeth or shear them",
    "The belt teeth hold in a jam",
    base="torque at which teeth jump",
)
RULES = (
    JAM,
    RATING,
    ESTIMATE,
    MESH,
    LEAST,
    SPEED,
    JUMP,
    SLACK,
    WIDE,
    TOUCH,
    TOO_SHORT,
    NO_BELT,
    TAKE_UP,
    TAKE_UP_UNKNOWN,
    NO_FUSE,
)
