"""What is checked on a train of gear pairs."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, check
from pulltide.core.spur.judging import MESHING, tooth_rules

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE

CLEAR = check(
    "gear_train.clearance",
    E,
    ">=",
    ("A gear hits a shaft that it does not drive", "Every gear clears the neighboring shafts"),
    "mm",
    "Use a smaller first pair or a larger module behind it, or set the shafts back and forth.",
    quantity="room between a wheel's tip and the shaft",
    source=EXACT,
)
CENTERS = check(
    "gear_train.centers",
    E,
    "<=",
    (
        "The pairs have different center distances, so they do not fit on two shared axes",
        "All pairs have the same center distance",
    ),
    "mm",
    "Give each pair the same sum of teeth, times its module.",
    quantity="difference of the center distances",
    source=EXACT,
)
WANTED = check(
    "gear_train.wanted",
    W,
    "<=",
    ("The ratio misses the wanted one", "The ratio is the wanted one"),
    "share",
    "Change the tooth counts.",
    quantity="error of the ratio",
    source=EXACT,
)
RATIO = check(
    "gear_train.ratio",
    W,
    "<=",
    ("The ratio of one pair is large", "The ratio of each pair is usual"),
    "",
    "Share it more evenly, or use a third pair.",
    quantity="ratio of one pair",
    limits=(6.0, 10.0),
)
UNDERCUT = check(
    "gear_train.undercut",
    N,
    ">=",
    ("With this few teeth a hob undercuts them, which weakens them", "Every pinion is cut without undercut"),
    "teeth",
    "Use more teeth.",
    quantity="teeth of the smallest gear",
    source=MESHING,
)
CONTACT = check(
    "gear_train.contact_ratio",
    W,
    ">=",
    ("Too few teeth are in contact for smooth running", "Enough teeth are in contact"),
    "",
    "Use more teeth.",
    quantity="contact ratio",
    source=MESHING,
    limits=(1.2, 1.0),
)
TEETH = tooth_rules("gear_train", "tooth force of the weakest pair", "pitch-line speed", ", more teeth")
RULES = (*TEETH.all, CLEAR, CENTERS, WANTED, RATIO, UNDERCUT, CONTACT)
