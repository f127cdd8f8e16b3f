"""What is checked of a wheel that the shop makes itself."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, Check, Remark, Severity, Source

MADE = Source("made wheels", "What wheels are made of in a shop", "common practice, uncertain")
KEYS = Source("Shigley's Mechanical Engineering Design", "section 7-7, bearing of a key", "formula")

RIM = Check(
    code="made.rim_speed",
    severity=Severity.WARNING,
    quantity="rim speed",
    unit="m/s",
    fact="A wheel made in the shop turns faster than its material is kept to",
    clear="Rims of made wheels turn slowly enough",
    base="rim speed of the material",
    advice="Use a smaller wheel, a slower shaft, or metal.",
    source=MADE,
)
BORE = Check(
    code="made.key_bearing",
    severity=Severity.WARNING,
    quantity="pressure of the key on the hub",
    unit="MPa",
    fact="The key crushes the hub of a made wheel",
    clear="Hubs of made wheels stand the pressure of their keys",
    base="allowable bending of the material, taken for crushing",
    advice="Use a longer key, or bolt the wheel to a metal hub.",
    source=KEYS,
    needs_load=True,
)
HEAT = Check(
    code="made.heat",
    severity=Severity.WARNING,
    quantity="ambient temperature",
    unit="degC",
    fact="It is too warm there for the material of a made wheel",
    clear="Made wheels stay cool enough",
    base="greatest temperature of the material, less 20 degrees for what the drive warms it",
    advice="Use another material, or metal.",
    source=MADE,
)
HOLDS = Check(
    code="made.holds",
    severity=Severity.ERROR,
    quantity="torque to hold at the last shaft",
    unit="N*m",
    limits=(0.0,),
    fact="A printed, wooden or plastic wheel is in a line that holds a load",
    clear="No soft wheel holds a load",
    advice="Buy that wheel, or make it of metal: what is soft creeps under a standing load and lets go without a sign.",
    source=COMMON_PRACTICE,
)
TEETH = Remark(
    code="made.teeth_unrated",
    severity=Severity.NOTE,
    quantity="strength",
    fact="Teeth of a soft wheel for a chain or timing belt are not rated here",
    advice="Run it behind a guard with little load first, look at the teeth after an hour, and keep a spare.",
    source=COMMON_PRACTICE,
    curable=False,
)
UNKNOWN = Remark(
    code="made.material_unknown",
    severity=Severity.NOTE,
    quantity="material",
    fact="What a made wheel is made of is not entered, so its rim and its hub are not judged",
    advice="Choose its material beside its drawing.",
    source=COMMON_PRACTICE,
    curable=False,
)
RULES = (RIM, BORE, HEAT, HOLDS, TEETH, UNKNOWN)
