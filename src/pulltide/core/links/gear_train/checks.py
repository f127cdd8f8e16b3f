"""What is checked on a train of gear pairs."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Severity
from pulltide.core.spur.judging import MESHING, tooth_rules

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

CLEAR = Check(
    code="gear_train.clearance",
    severity=E,
    quantity="room between a wheel's tip and the shaft",
    relation=">=",
    unit="mm",
    fact="A gear hits a shaft that it does not drive",
    clear="Every gear clears the neighboring shafts",
    base="half of the shaft as its torque needs it at 40 MPa, half a module and 2 mm",
    advice="Use a smaller first pair or a larger module behind it, or set the shafts back and forth.",
    source=EXACT,
)
CENTERS = Check(
    code="gear_train.centers",
    severity=E,
    quantity="difference of the center distances",
    unit="mm",
    limits=(0.02,),
    fact="The pairs have different center distances, so they do not fit on two shared axes",
    clear="All pairs have the same center distance",
    advice="Give each pair the same sum of teeth, times its module.",
    source=EXACT,
)
WANTED = Check(
    code="gear_train.wanted",
    severity=W,
    quantity="error of the ratio",
    unit="share",
    limits=(0.02,),
    fact="The ratio misses the wanted one",
    clear="The ratio is the wanted one",
    advice="Change the tooth counts.",
    source=EXACT,
)
RATIO = Check(
    code="gear_train.ratio",
    severity=W,
    quantity="ratio of one pair",
    limits=(6.0, 10.0),
    fact="The ratio of one pair is large",
    clear="The ratio of each pair is usual",
    advice="Share it more evenly, or use a third pair.",
)
UNDERCUT = Check(
    code="gear_train.undercut",
    severity=N,
    quantity="teeth of the smallest gear",
    relation=">=",
    unit="teeth",
    fact="With this few teeth a hob undercuts them, which weakens them",
    clear="Every pinion is cut without undercut",
    base="fewest teeth cut without undercut",
    advice="Use more teeth.",
    source=MESHING,
)
CONTACT = Check(
    code="gear_train.contact_ratio",
    severity=W,
    quantity="contact ratio",
    relation=">=",
    limits=(1.2, 1.0),
    fact="Too few teeth are in contact for smooth running",
    clear="Enough teeth are in contact",
    advice="Use more teeth.",
    source=MESHING,
)
SEATS = Check(
    code="gear_train.seats",
    severity=W,
    quantity="metal between the bearing seats of neighboring shafts",
    relation=">=",
    unit="mm",
    limits=(8.0,),
    fact="The bearings of neighboring shafts leave too little metal between their seats",
    clear="The bearings of neighboring shafts find room beside each other",
    advice="A larger module or more teeth sets the shafts apart; a series 60 bearing or needles are smaller.",
)
CASE_BEARINGS = Check(
    code="gear_train.bearings",
    severity=W,
    quantity="life of the first bearing in the least case",
    relation=">=",
    unit="h",
    fact="Bearings sized by shaft torque wear out too soon in the least case",
    clear="The bearings in its least case last",
    base="wanted life under Duty, 10,000 h where none is entered",
    advice="Thicker shafts with larger bearings, or a wider gap between the centers.",
    needs_load=True,
)
TEETH = tooth_rules("gear_train", "tooth force of the weakest pair", "pitch-line speed", ", more teeth")
RULES = (*TEETH.all, CLEAR, CENTERS, WANTED, RATIO, UNDERCUT, CONTACT, SEATS, CASE_BEARINGS)
