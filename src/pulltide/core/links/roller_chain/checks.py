"""What is checked on a roller chain link."""

from __future__ import annotations

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Rule, Severity, Source, jam_rule

SHIGLEY = Source("Shigley's Mechanical Engineering Design", "section 17-5", "quoted from memory")
ISO_PRACTICE = Source("common practice", "static safety 7, stall 3", "common practice")
OIL = Source("Machinery's Handbook", "roller chain lubrication by speed", "table quoted from memory")

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

RATING = Rule(
    "roller_chain.rating",
    "design power",
    "<=",
    W,
    "The chain is loaded over its rating",
    "Chain load is within its rating with the service factor",
    "kW",
    SHIGLEY,
    "Use more teeth first, then a larger chain.",
    needs_load=True,
)
SAFETY = Rule(
    "roller_chain.static_safety",
    "safety against breaking",
    ">=",
    E,
    "Chain pull is too close to its breaking strength",
    "Chain pull is far below its breaking strength",
    "",
    ISO_PRACTICE,
    "Use a larger sprocket, a larger chain or more strands.",
    needs_load=True,
)
STALL = jam_rule(
    "roller_chain.stall_safety",
    "In a jam the chain has less than three times the pull in strength",
    "The chain has three times the pull in strength, even in a jam",
    ISO_PRACTICE,
)
TEETH = Rule(
    "roller_chain.teeth",
    "small sprocket",
    ">=",
    N,
    "The small sprocket has few teeth, so the chain runs rough",
    "The small sprocket has enough teeth to run smoothly",
    "teeth",
    SHIGLEY,
    "Use 17 teeth or more.",
    limits=(17.0,),
)
FEWEST = Rule(
    "roller_chain.fewest_teeth",
    "small sprocket",
    ">=",
    W,
    "The small sprocket has too few teeth for this speed",
    "The tooth count suits the speed",
    "teeth",
    COMMON_PRACTICE,
    "Use 12 teeth or more above 50 rpm.",
)
RATIO = Rule(
    "roller_chain.ratio",
    "ratio",
    "<=",
    W,
    "The ratio is large for one chain stage",
    "The ratio suits one chain stage",
    "",
    SHIGLEY,
    "Split it over two stages.",
    limits=(7.0,),
)
WRAP = Rule(
    "roller_chain.wrap",
    "wrap of the small sprocket",
    ">=",
    W,
    "Wrap on the small sprocket is low",
    "Wrap on the small sprocket is good",
    "deg",
    SHIGLEY,
    "Use a longer center distance.",
    limits=(120.0, 90.0),
)
TOUCH = Rule(
    "roller_chain.touch",
    "center distance",
    ">=",
    E,
    "The chain is too short: the sprockets would touch",
    "The sprockets clear each other",
    "mm",
    EXACT,
    "Use more links.",
)
TOO_SHORT = Rule(
    "roller_chain.too_short",
    "links",
    ">=",
    E,
    "The chain is too short to go round these sprockets",
    "The chain goes round the sprockets",
    "links",
    EXACT,
    "Use more links.",
)
ODD = Rule(
    "roller_chain.odd_links",
    "strength of an offset link",
    ">=",
    E,
    "An odd number of links needs an offset link",
    "The number of links is even",
    "",
    COMMON_PRACTICE,
    "Use an even number of links.",
    limits=(1.0,),
)
ODD_ACCEPTED = Rule(
    "roller_chain.odd_links",
    "strength of an offset link",
    ">=",
    W,
    "The offset link carries only 70 % of the chain",
    "The number of links is even",
    "",
    COMMON_PRACTICE,
    "Use an even number of links.",
)
NO_LENGTH = Rule(
    "roller_chain.no_length",
    "links",
    ">=",
    N,
    "The number of links is not chosen yet",
    "The chain length is chosen",
    "links",
    EXACT,
    "Choose an even number of links; the center distance then follows from it.",
)
CENTER_NEAR = Rule(
    "roller_chain.center_near",
    "center distance",
    ">=",
    N,
    "The center distance is short, so each link flexes often",
    "The center distance is long enough",
    "pitches",
    COMMON_PRACTICE,
    "30 to 50 pitches is good.",
    limits=(20.0,),
)
CENTER_FAR = Rule(
    "roller_chain.center_far",
    "center distance",
    "<=",
    W,
    "The center distance is long: the strand needs a guide",
    "The center distance is short enough to run unguided",
    "pitches",
    COMMON_PRACTICE,
    "Fit a guide or an idler.",
    limits=(80.0,),
)
STEEP = Rule(
    "roller_chain.steep",
    "center line above level",
    "<=",
    W,
    "At this steep an angle the chain hangs off its lower sprocket",
    "The angle of the drive is good",
    "deg",
    COMMON_PRACTICE,
    "Fit a tensioner.",
    limits=(60.0,),
)
DRY = Rule(
    "roller_chain.dry",
    "chain speed without oil",
    "<=",
    E,
    "The chain is too fast to run without lubrication",
    "The chain is slow enough to survive without lubrication",
    "m/s",
    COMMON_PRACTICE,
    "Lubricate it.",
)
LUBRICATION = Rule(
    "roller_chain.lubrication",
    "chain speed",
    "<=",
    N,
    "The chain needs an oil bath or stream at this speed",
    "Manual or drip lubrication is enough at this speed",
    "m/s",
    OIL,
    "Fit an oil bath or a slinger disk.",
)
TAKE_UP = Rule(
    "roller_chain.take_up",
    "center adjustment",
    ">=",
    W,
    "There is too little adjustment for a worn chain",
    "There is adjustment enough for a worn chain",
    "mm",
    COMMON_PRACTICE,
    "Allow 1.5 pitches or fit an idler.",
)
TAKE_UP_UNKNOWN = Rule(
    "roller_chain.take_up",
    "adjustment needed",
    ">=",
    N,
    "Center adjustment is not entered",
    "Center adjustment is entered",
    "mm",
    COMMON_PRACTICE,
    "Allow at least this much, or fit an idler.",
    about=True,
)
B_SERIES = Rule(
    "roller_chain.b_series",
    "chain",
    ">=",
    N,
    "This B-series chain is rated as the A-series chain of its pitch",
    "",
    "",
    COMMON_PRACTICE,
    "It needs its own sprockets: roller and width differ from the A-series chain of the same pitch.",
    about=True,
)
WORN = Rule(
    "roller_chain.worn",
    "stretch, per cent",
    "<=",
    W,
    "Chain elongation is near or over the wear limit",
    "Chain elongation is within the wear limit",
    "",
    Source(
        "chain makers' guidance", "3 % up to 67 teeth, 200 / N beyond, 1.5 % on fixed centers", "quoted from memory"
    ),
    "Replace it along with any sprocket that has hooked teeth; never run a new chain on hooked teeth.",
)
RULES = (
    WORN,
    B_SERIES,
    RATING,
    SAFETY,
    STALL,
    TEETH,
    FEWEST,
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
