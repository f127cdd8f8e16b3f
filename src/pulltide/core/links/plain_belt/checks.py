"""What is checked on a flat or round belt."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Remark, Severity, Source

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "section 17-2, flat and round belts", "quoted from memory")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

PULL = Check(
    code="plain_belt.pull",
    severity=W,
    quantity="design pull",
    unit="N",
    fact="Belt pull is over the allowable",
    clear="Belt pull is within the allowable",
    base="pull that the belts transmit",
    advice="Use a wider or a stronger belt, or larger pulleys.",
    source=SHIGLEY,
    needs_load=True,
)
SLIP = Check(
    code="plain_belt.slip_at_peak",
    severity=W,
    quantity="pull at peak torque",
    unit="N",
    fact="At peak torque the belt slips at its present tension",
    clear="The belt holds at peak torque",
    base="pull at which the belt slips, at the tension set",
    advice="Tighten it, up to its allowable pull.",
    source=SHIGLEY,
    needs_load=True,
)
TIGHT = Check(
    code="plain_belt.too_tight",
    severity=W,
    quantity="tight side",
    unit="N",
    fact="Tension and load together are over the belt's allowable pull",
    clear="Belt tension leaves room for the load",
    base="allowable pull of the belts",
    advice="Slacken it, or use a stronger belt.",
    source=SHIGLEY,
    needs_load=True,
)
UNSET = Remark(
    code="plain_belt.tension_unset",
    severity=N,
    quantity="tension to set, each belt",
    unit="N",
    fact="This is the tension to set; the actual tension is not entered",
    advice="Set it, then enter what you set.",
    source=SHIGLEY,
    needs_load=True,
    about=True,
)
LEAST = Check(
    code="plain_belt.least_pulley",
    severity=W,
    quantity="small pulley",
    relation=">=",
    unit="mm",
    fact="The small pulley is too small for this belt",
    clear="The small pulley is large enough",
    base="least pulley of the belt",
    advice="Use a larger pulley or a thinner belt.",
    source=SHIGLEY,
)
WRAP = Check(
    code="plain_belt.wrap",
    severity=W,
    quantity="wrap of the small pulley",
    relation=">=",
    unit="deg",
    limits=(150.0,),
    fact="Wrap on the small pulley is low",
    clear="Wrap on the small pulley is enough",
    advice="Move the shafts farther apart, or cross the belt.",
)
SPEED = Check(
    code="plain_belt.speed",
    severity=W,
    quantity="belt speed",
    unit="m/s",
    limits=(30.0,),
    fact="Belt speed is higher than usual",
    clear="Belt speed is in the usual range",
    advice="Use smaller pulleys.",
)
CROSSED = Check(
    code="plain_belt.crossed_near",
    severity=W,
    quantity="center distance",
    relation=">=",
    unit="mm",
    fact="A crossed flat belt this wide rubs itself at this short a center distance",
    clear="The crossed belt has room to twist",
    limits=(20.0,),
    base="width of the belt",
    advice="Put the shafts {limit} apart or more, or use a narrower or a round belt.",
)
TOUCH = Check(
    code="plain_belt.touch",
    severity=E,
    quantity="center distance",
    relation=">=",
    unit="mm",
    fact="The pulleys touch",
    clear="The pulleys clear each other",
    base="half of both diameters",
    advice="Move the shafts farther apart.",
    source=EXACT,
)
RULES = (PULL, SLIP, TIGHT, UNSET, LEAST, WRAP, SPEED, CROSSED, TOUCH)
