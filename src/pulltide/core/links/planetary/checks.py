"""What is checked on a planetary set."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, Source, check

AGMA = Source("Shigley's Mechanical Engineering Design", "chapter 14, AGMA method", "quoted from memory")
MESHING = Source("Shigley's Mechanical Engineering Design", "section 13-7, Eq. 13-10 to 13-13", "formula")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

SIZES = check(
    "planetary.sizes",
    E,
    "<=",
    ("The ring does not fit: it needs the sun's teeth and twice the planet's", "Sun, planets and ring fit"),
    "teeth",
    "Change a tooth count: ring = sun + 2 x planet.",
    quantity="teeth the ring is off",
    source=EXACT,
)
ASSEMBLY = check(
    "planetary.assembly",
    E,
    "<=",
    ("Equally spaced planets cannot be put together", "Equally spaced planets go together"),
    "teeth",
    "Sun plus ring teeth must divide by the number of planets.",
    quantity="teeth left over",
    source=EXACT,
)
NEIGHBOURS = check(
    "planetary.neighbours",
    E,
    ">=",
    ("Neighbouring planets foul each other", "Neighbouring planets clear each other"),
    "mm",
    "Use fewer planets.",
    quantity="distance of neighbouring planets",
    source=EXACT,
)
FEW = check(
    "planetary.few_planets",
    N,
    ">=",
    ("Fewer than three planets do not centre the sun", "The planets centre the sun"),
    "",
    "Use three planets, or carry the sun in bearings.",
    quantity="planets",
)
INTERFERENCE = check(
    "planetary.interference",
    E,
    "<=",
    ("The larger gear's tips dig into the smaller one's roots", "Sun and planets clear each other"),
    "teeth",
    "Use more teeth on the smaller of sun and planet.",
    quantity="teeth of the larger of sun and planet",
    source=MESHING,
)
UNDERCUT = check(
    "planetary.undercut",
    N,
    ">=",
    ("A hob undercuts so few teeth, which weakens them", "Sun and planets are cut without undercut"),
    "teeth",
    "Use more teeth, or shift the profile.",
    quantity="fewest teeth",
    source=MESHING,
)
RING = check(
    "planetary.ring",
    E,
    ">=",
    ("The ring has too few teeth more than its planets: the tips foul", "The ring is large enough for its planets"),
    "teeth",
    "Use a ring with ten teeth more than a planet.",
    quantity="difference of teeth",
)
RATIO = check(
    "planetary.ratio",
    W,
    "<=",
    ("The ratio is large for one planetary stage: the sun gets small", "The ratio suits one stage"),
    "",
    "Use two stages in a row.",
    quantity="ratio of one stage",
)
OVERDRIVE = check(
    "planetary.overdrive",
    N,
    ">=",
    ("The set speeds up: torque falls, and a drag at the driven side counts many times", ""),
    "",
    "Check that the driver starts it.",
    quantity="ratio",
)
REVERSED = check(
    "planetary.reversed",
    N,
    ">=",
    ("With the carrier held the driven side turns the other way", ""),
    "",
    "Swap two motor leads, or hold the ring.",
    quantity="sense",
    source=EXACT,
)
BENDING = check(
    "planetary.bending",
    W,
    "<=",
    ("A tooth is bent past its allowable stress", "The teeth bear the bending"),
    "N",
    "Use a wider face, a larger module, a harder steel or more planets.",
    quantity="tooth force of one planet with overload",
    source=AGMA,
    needs_load=True,
)
WEAR = check(
    "planetary.wear",
    W,
    "<=",
    ("The tooth flanks wear past their allowable stress", "The tooth flanks bear the contact"),
    "N",
    "Use harder steel first, then a wider face or more planets.",
    quantity="tooth force of one planet with overload",
    source=AGMA,
    needs_load=True,
)
NO_WEAR = check(
    "planetary.no_wear",
    N,
    ">=",
    ("No wear rating is known for this material", ""),
    "",
    "Watch the teeth, or use a steel that hardness rates.",
    quantity="wear rating",
)
PROTOTYPE = check(
    "planetary.prototype",
    W,
    ">=",
    ("Plastic or printed teeth are for prototypes", ""),
    "",
    "Never as the last stage of a machine that can hurt.",
    quantity="material",
)
STALL = check(
    "planetary.stall",
    W,
    "<=",
    ("A stalled motor would bend the teeth past what they bear for a moment", "The teeth bear a stalled motor"),
    "N",
    "Let a belt slip or a pin shear first.",
    quantity="tooth force at stall",
)
SPEED = check(
    "planetary.speed",
    W,
    "<=",
    ("The teeth run too fast for the way they are made", "The teeth are true enough for their speed"),
    "m/s",
    "Use better teeth or a smaller module.",
    quantity="pitch-line speed in the carrier",
    source=AGMA,
)
RULES = (
    SIZES,
    ASSEMBLY,
    NEIGHBOURS,
    FEW,
    INTERFERENCE,
    UNDERCUT,
    RING,
    RATIO,
    OVERDRIVE,
    REVERSED,
    BENDING,
    WEAR,
    NO_WEAR,
    PROTOTYPE,
    STALL,
    SPEED,
)
