"""What is checked on a planetary set."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, check
from pulltide.core.spur.judging import MESHING, tooth_rules

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
    limits=(0.0,),
)
ASSEMBLY = check(
    "planetary.assembly",
    E,
    "<=",
    ("Equally spaced planets cannot be assembled", "Equally spaced planets can be assembled"),
    "teeth",
    "Sun plus ring teeth must divide by the number of planets.",
    quantity="teeth left over",
    source=EXACT,
    limits=(0.0,),
)
NEIGHBORS = check(
    "planetary.neighbors",
    E,
    ">=",
    ("Neighboring planets hit each other", "Neighboring planets clear each other"),
    "mm",
    "Use fewer planets.",
    quantity="distance of neighboring planets",
    source=EXACT,
)
FEW = check(
    "planetary.few_planets",
    N,
    ">=",
    ("Fewer than three planets do not center the sun", "The planets center the sun"),
    "",
    "Use three planets, or carry the sun in bearings.",
    quantity="planets",
    limits=(3.0,),
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
    ("With this few teeth a hob undercuts them, which weakens them", "Sun and planets are cut without undercut"),
    "teeth",
    "Use more teeth, or shift the profile.",
    quantity="fewest teeth",
    source=MESHING,
)
RING = check(
    "planetary.ring",
    E,
    ">=",
    (
        "The ring needs at least ten more teeth than its planets: the tips foul",
        "The ring is large enough for its planets",
    ),
    "teeth",
    "Use a ring with ten more teeth than a planet.",
    quantity="difference of teeth",
    limits=(10.0,),
)
RATIO = check(
    "planetary.ratio",
    W,
    "<=",
    ("The ratio is large for one planetary stage: the sun gets small", "The ratio suits one stage"),
    "",
    "Use two stages in a row.",
    quantity="ratio of one stage",
    limits=(10.0, 15.0),
)
OVERDRIVE = check(
    "planetary.overdrive",
    N,
    ">=",
    ("This arrangement is an overdrive: torque drops, and drag on the output is multiplied at the input", ""),
    "",
    "Check that the source can start it.",
    quantity="ratio",
)
REVERSED = check(
    "planetary.reversed",
    N,
    ">=",
    ("With the carrier held the output turns the other way", ""),
    "",
    "Swap two motor leads, or hold the ring.",
    quantity="sense",
    source=EXACT,
    about=True,
)
TEETH = tooth_rules("planetary", "tooth force of one planet", "pitch-line speed in the carrier", ", more planets")
RULES = (*TEETH.all, SIZES, ASSEMBLY, NEIGHBORS, FEW, INTERFERENCE, UNDERCUT, RING, RATIO, OVERDRIVE, REVERSED)
