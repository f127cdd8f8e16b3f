"""What is checked on a planetary set."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Remark, Severity
from pulltide.core.spur.judging import MESHING, tooth_rules

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

SIZES = Check(
    code="planetary.sizes",
    severity=E,
    quantity="teeth the ring is off",
    unit="teeth",
    limits=(0.0,),
    fact="The ring does not fit: it needs the sun's teeth and twice the planet's",
    clear="Sun, planets and ring fit",
    advice="Change a tooth count: ring = sun + 2 x planet.",
    source=EXACT,
)
ASSEMBLY = Check(
    code="planetary.assembly",
    severity=E,
    quantity="teeth left over",
    unit="teeth",
    limits=(0.0,),
    fact="Equally spaced planets cannot be assembled",
    clear="Equally spaced planets can be assembled",
    advice="Sun plus ring teeth must divide by the number of planets.",
    source=EXACT,
)
NEIGHBORS = Check(
    code="planetary.neighbors",
    severity=E,
    quantity="distance of neighboring planets",
    relation=">=",
    unit="mm",
    fact="Neighboring planets hit each other",
    clear="Neighboring planets clear each other",
    base="tip diameter of a planet and a module",
    advice="Use fewer planets.",
    source=EXACT,
)
FEW = Check(
    code="planetary.few_planets",
    severity=N,
    quantity="planets",
    relation=">=",
    limits=(3.0,),
    fact="Fewer than three planets do not center the sun",
    clear="The planets center the sun",
    advice="Use three planets, or carry the sun in bearings.",
)
INTERFERENCE = Check(
    code="planetary.interference",
    severity=E,
    quantity="teeth of the larger of sun and planet",
    unit="teeth",
    fact="The larger gear's tips dig into the smaller one's roots",
    clear="Sun and planets clear each other",
    base="largest mate of the pinion without undercut relief",
    advice="Use more teeth on the smaller of sun and planet.",
    source=MESHING,
)
UNDERCUT = Check(
    code="planetary.undercut",
    severity=N,
    quantity="fewest teeth",
    relation=">=",
    unit="teeth",
    fact="With this few teeth a hob undercuts them, which weakens them",
    clear="Sun and planets are cut without undercut",
    base="fewest teeth cut without undercut",
    advice="Use more teeth, or shift the profile.",
    source=MESHING,
)
RING = Check(
    code="planetary.ring",
    severity=E,
    quantity="difference of teeth",
    relation=">=",
    unit="teeth",
    limits=(10.0,),
    fact="The ring needs at least ten more teeth than its planets: the tips foul",
    clear="The ring is large enough for its planets",
    advice="Use a ring with ten more teeth than a planet.",
)
RATIO = Check(
    code="planetary.ratio",
    severity=W,
    quantity="ratio of one stage",
    limits=(10.0, 15.0),
    fact="The ratio is large for one planetary stage: the sun gets small",
    clear="The ratio suits one stage",
    advice="Use two stages in a row.",
)
OVERDRIVE = Remark(
    code="planetary.overdrive",
    severity=N,
    quantity="ratio",
    fact="This arrangement is an overdrive: torque drops, and drag on the output is multiplied at the input",
    advice="Check that the source can start it.",
)
REVERSED = Remark(
    code="planetary.reversed",
    severity=N,
    quantity="sense",
    fact="With the carrier held the output turns the other way",
    advice="Swap two motor leads, or hold the ring.",
    source=EXACT,
    about=True,
)
TEETH = tooth_rules("planetary", "tooth force of one planet", "pitch-line speed in the carrier", ", more planets")
RULES = (*TEETH.all, SIZES, ASSEMBLY, NEIGHBORS, FEW, INTERFERENCE, UNDERCUT, RING, RATIO, OVERDRIVE, REVERSED)
