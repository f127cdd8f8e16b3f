"""What is checked on a roller chain link."""

from __future__ import annotations

from dataclasses import replace

from pulltide.core.findings import EXACT, Check, Remark, Severity, Source, jam_rule

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "section 17-5", "quoted from memory")
ISO_PRACTICE = Source("common practice", "static safety 7, stall 3", "common practice")
OIL = Source("Machinery's Handbook", "roller chain lubrication by speed", "table quoted from memory")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

RATING = Check(
    code="roller_chain.rating",
    severity=W,
    quantity="design power",
    unit="kW",
    fact="The chain is loaded over its rating",
    clear="Chain load is within its rating with the service factor",
    base="rating of all strands",
    advice="Use more teeth first, then a larger chain.",
    source=SHIGLEY,
    needs_load=True,
)
SAFETY = Check(
    code="roller_chain.static_safety",
    severity=E,
    quantity="safety against breaking",
    relation=">=",
    limits=(7.0,),
    fact="Chain pull is too close to its breaking strength",
    clear="Chain pull is far below its breaking strength",
    advice="Use a larger sprocket, a larger chain or more strands.",
    source=ISO_PRACTICE,
    needs_load=True,
)
STALL = jam_rule(
    "roller_chain.stall_safety",
    "In a jam the chain has less than three times the pull in strength",
    "The chain has three times the pull in strength, even in a jam",
    source=ISO_PRACTICE,
    base="tensile strength over 3",
)
TEETH = Check(
    code="roller_chain.teeth",
    severity=N,
    quantity="small sprocket",
    relation=">=",
    unit="teeth",
    limits=(17.0,),
    fact="The small sprocket has few teeth, so the chain runs rough",
    clear="The small sprocket has enough teeth to run smoothly",
    advice="Use {limit} or more.",
    source=SHIGLEY,
)
FEWEST = Check(
    code="roller_chain.fewest_teeth",
    severity=W,
    quantity="small sprocket",
    relation=">=",
    unit="teeth",
    fact="The small sprocket has too few teeth for this speed",
    clear="The tooth count suits the speed",
    limits=(12.0,),
    advice="Use {limit} or more at this speed.",
)
FEWEST_SLOW = replace(FEWEST, limits=(9.0,))
RATIO = Check(
    code="roller_chain.ratio",
    severity=W,
    quantity="ratio",
    limits=(7.0,),
    fact="The ratio is large for one chain stage",
    clear="The ratio suits one chain stage",
    advice="Split it over two stages.",
    source=SHIGLEY,
)
WRAP = Check(
    code="roller_chain.wrap",
    severity=W,
    quantity="wrap of the small sprocket",
    relation=">=",
    unit="deg",
    limits=(120.0, 90.0),
    fact="Wrap on the small sprocket is low",
    clear="Wrap on the small sprocket is good",
    advice="Use a longer center distance.",
    source=SHIGLEY,
)
TOUCH = Check(
    code="roller_chain.touch",
    severity=E,
    quantity="center distance",
    relation=">=",
    unit="mm",
    fact="The chain is too short: the sprockets would touch",
    clear="The sprockets clear each other",
    base="half of both outside diameters",
    advice="Use more links.",
    source=EXACT,
)
TOO_SHORT = Check(
    code="roller_chain.too_short",
    severity=E,
    quantity="links",
    relation=">=",
    unit="links",
    fact="The chain is too short to go round these sprockets",
    clear="The chain goes round the sprockets",
    base="links that go round both sprockets",
    advice="Use more links.",
    source=EXACT,
)
ODD = Check(
    code="roller_chain.odd_links",
    severity=E,
    quantity="strength of an offset link",
    relation=">=",
    limits=(1.0,),
    fact="An odd number of links needs an offset link",
    clear="The number of links is even",
    advice="Use an even number of links.",
)
ODD_ACCEPTED = Check(
    code="roller_chain.odd_links",
    severity=W,
    quantity="strength of an offset link",
    relation=">=",
    fact="The offset link carries only 70 % of the chain",
    clear="The number of links is even",
    limits=(1.0,),
    base="strength of the chain",
    advice="Use an even number of links.",
)
NO_LENGTH = Remark(
    code="roller_chain.no_length",
    severity=N,
    quantity="links",
    unit="links",
    fact="The number of links is not chosen yet",
    advice="Choose an even number of links; the center distance then follows from it.",
    source=EXACT,
)
CENTER_NEAR = Check(
    code="roller_chain.center_near",
    severity=N,
    quantity="center distance",
    relation=">=",
    unit="pitches",
    limits=(20.0,),
    fact="The center distance is short, so each link flexes often",
    clear="The center distance is long enough",
    advice="30 to 50 pitches is good.",
)
CENTER_FAR = Check(
    code="roller_chain.center_far",
    severity=W,
    quantity="center distance",
    unit="pitches",
    limits=(80.0,),
    fact="The center distance is long: the strand needs a guide",
    clear="The center distance is short enough to run unguided",
    advice="Fit a guide or an idler.",
)
STEEP = Check(
    code="roller_chain.steep",
    severity=W,
    quantity="center line above level",
    unit="deg",
    limits=(60.0,),
    fact="At this steep an angle the chain hangs off its lower sprocket",
    clear="The angle of the drive is good",
    advice="Fit a tensioner.",
)
DRY = Check(
    code="roller_chain.dry",
    severity=E,
    quantity="chain speed without oil",
    unit="m/s",
    limits=(1.5,),
    fact="The chain is too fast to run without lubrication",
    clear="The chain is slow enough to survive without lubrication",
    advice="Lubricate it.",
)
LUBRICATION = Check(
    code="roller_chain.lubrication",
    severity=N,
    quantity="chain speed",
    unit="m/s",
    fact="The chain needs an oil bath or stream at this speed",
    clear="Manual or drip lubrication is enough at this speed",
    base="speed up to which oil by hand is enough for this size",
    advice="Fit an oil bath or a slinger disk.",
    source=OIL,
)
TAKE_UP = Check(
    code="roller_chain.take_up",
    severity=W,
    quantity="center adjustment",
    relation=">=",
    unit="mm",
    fact="There is too little adjustment for a worn chain",
    clear="There is adjustment enough for a worn chain",
    limits=(1.5,),
    base="pitch",
    advice="Allow {limit} or more, or fit an idler.",
)
TAKE_UP_UNKNOWN = Remark(
    code="roller_chain.take_up",
    severity=N,
    quantity="adjustment needed",
    unit="mm",
    fact="Center adjustment is not entered",
    advice="Allow at least this much, or fit an idler.",
    about=True,
)
B_SERIES = Remark(
    code="roller_chain.b_series",
    severity=N,
    quantity="chain",
    fact="This B-series chain is rated as the A-series chain of its pitch",
    advice="It needs its own sprockets: roller and width differ from the A-series chain of the same pitch.",
    about=True,
)
WORN = Check(
    code="roller_chain.worn",
    severity=W,
    quantity="stretch, per cent",
    fact="Chain elongation is near or over the wear limit",
    clear="Chain elongation is within the wear limit",
    limits=(0.7, 1.0),
    base="stretch at which it is worn out: 3 % or 200 over the larger tooth count, 1.5 % on fixed centers",
    advice="Replace it along with any sprocket that has hooked teeth; never run a new chain on hooked teeth.",
    source=Source(
        "chain makers' guidance", "3 % up to 67 teeth, 200 / N beyond, 1.5 % on fixed centers", "quoted from memory"
    ),
)
RULES = (
    WORN,
    B_SERIES,
    RATING,
    SAFETY,
    STALL,
    TEETH,
    FEWEST,
    FEWEST_SLOW,
    RATIO,
    WRAP,
    TOUCH,
    TOO_SHORT,
    ODD,
    ODD_ACCEPTED,
    NO_LENGTH,
    CENTER_NEAR,
    CENTER_FAR,
    STEEP,
    DRY,
    LUBRICATION,
    TAKE_UP,
    TAKE_UP_UNKNOWN,
)
