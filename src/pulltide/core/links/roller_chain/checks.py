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
    "The chain is loaded past its rating",
    "Chain rating holds with its service factor",
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
    "The chain pull is too near its strength",
    "The chain pull is far below its strength",
    "",
    ISO_PRACTICE,
    "Use a larger sprocket, a larger chain or more strands.",
    needs_load=True,
)
STALL = jam_rule(
    "roller_chain.stall_safety",
    "A jam would leave the chain less than three times its pull in strength",
    "The chain has three times its pull in strength, even in a jam",
    ISO_PRACTICE,
)
TEETH = Rule(
    "roller_chain.teeth",
    "small sprocket",
    ">=",
    N,
    "The small sprocket has few teeth, so the chain runs roughly",
    "The small sprocket has teeth enough to run smoothly",
    "teeth",
    SHIGLEY,
    "Use 17 teeth or more.",
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
)
WRAP = Rule(
    "roller_chain.wrap",
    "wrap of the small sprocket",
    ">=",
    W,
    "The small sprocket has little wrap",
    "Wrap of the small sprocket is good",
    "deg",
    SHIGLEY,
    "Widen the centres.",
)
TOUCH = Rule(
    "roller_chain.touch",
    "centre distance",
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
    "Choose an even number of links; the centre distance then follows from it.",
)
CENTRE_NEAR = Rule(
    "roller_chain.centre_near",
    "centre distance",
    ">=",
    N,
    "The centres are short, so each link bends often",
    "The centres are long enough",
    "pitches",
    COMMON_PRACTICE,
    "30 to 50 pitches is good.",
)
CENTRE_FAR = Rule(
    "roller_chain.centre_far",
    "centre distance",
    "<=",
    W,
    "The centres are long; guide the strand",
    "The centres are short enough to run unguided",
    "pitches",
    COMMON_PRACTICE,
    "Guide the strand or fit an idler.",
)
STEEP = Rule(
    "roller_chain.steep",
    "centre line above level",
    "<=",
    W,
    "So steep a chain hangs off its lower sprocket",
    "The centre line lies well",
    "deg",
    COMMON_PRACTICE,
    "Fit a tensioner.",
)
DRY = Rule(
    "roller_chain.dry",
    "chain speed without oil",
    "<=",
    E,
    "A chain may not run dry at this speed",
    "The chain is slow enough to survive running dry",
    "m/s",
    COMMON_PRACTICE,
    "Oil it.",
)
LUBRICATION = Rule(
    "roller_chain.lubrication",
    "chain speed",
    "<=",
    N,
    "The chain needs an oil bath or stream at this speed",
    "Oil by hand or drip suffices at this speed",
    "m/s",
    OIL,
    "Fit an oil bath or a slinger disc.",
)
TAKE_UP = Rule(
    "roller_chain.take_up",
    "centre adjustment",
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
    "The centre adjustment is not entered",
    "The adjustment is entered",
    "mm",
    COMMON_PRACTICE,
    "Leave at least this much, or fit an idler.",
    about=True,
)
B_SERIES = Rule(
    "roller_chain.b_series",
    "chain",
    ">=",
    N,
    "A B-series chain is rated here as the A chain of its pitch",
    "",
    "",
    COMMON_PRACTICE,
    "Its sprockets are its own: rollers and width differ from the A chain of the same pitch.",
    about=True,
)
WORN = Rule(
    "roller_chain.worn",
    "stretch, per cent",
    "<=",
    W,
    "The chain is stretched near or past what its sprockets take",
    "The chain is not worn out",
    "",
    Source(
        "chain makers' guidance", "3 % up to 67 teeth, 200 / N beyond, 1.5 % on fixed centres", "quoted from memory"
    ),
    "Replace it, and the sprockets whose teeth have hooked; never a new chain on hooked teeth.",
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
    CENTRE_NEAR,
    CENTRE_FAR,
    STEEP,
    DRY,
    LUBRICATION,
    TAKE_UP,
    TAKE_UP_UNKNOWN,
)
