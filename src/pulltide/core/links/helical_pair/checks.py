"""What is checked on a pair of helical gears."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, Source, check
from pulltide.core.spur.judging import MESHING, tooth_rules

HELICAL = Source("Shigley's Mechanical Engineering Design", "section 13-10", "formula")
W, N = Severity.WARNING, Severity.NOTE

OVERLAP = check(
    "helical_pair.overlap",
    W,
    ">=",
    (
        "The face is narrower than one axial pitch, so the helix does not share load and is rated without it",
        "The helices overlap",
    ),
    "mm",
    "Use a wider face or a steeper helix.",
    quantity="face width of one helix",
    source=HELICAL,
)
WIDE = check(
    "helical_pair.wide",
    W,
    "<=",
    ("The face is too wide to carry load across its full width", "Full face width is effective"),
    "mm",
    "Use a narrower face, or align the shafts with care.",
    quantity="face width",
)
STEEP = check(
    "helical_pair.steep",
    W,
    "<=",
    ("A single helix this steep makes high thrust", "The helix angle is in the usual range"),
    "deg",
    "Use 8 to 25 degrees, or a double helix.",
    quantity="helix angle",
)
THRUST = check(
    "helical_pair.thrust",
    N,
    ">=",
    ("The helix thrusts along both shafts in opposite directions, and the thrust reverses with rotation", ""),
    "N",
    "Use a bearing rated for thrust on each shaft.",
    quantity="thrust with overload",
    source=HELICAL,
    about=True,
    needs_load=True,
)
UNDERCUT = check(
    "helical_pair.undercut",
    N,
    ">=",
    ("With this few teeth a hob undercuts them, which weakens them", "The pinion is cut without undercut"),
    "teeth",
    "Use more teeth or a steeper helix.",
    quantity="virtual teeth of the pinion",
    source=MESHING,
)
CONTACT = check(
    "helical_pair.contact_ratio",
    W,
    ">=",
    ("Too few teeth are in contact in the plane of rotation", "Enough teeth are in contact"),
    "",
    "Use more teeth or a flatter helix.",
    quantity="contact ratio",
    source=EXACT,
    limits=(1.2, 1.0),
)
RATIO = check(
    "helical_pair.ratio",
    W,
    "<=",
    ("The ratio is large for one pair of gears", "The ratio suits one pair"),
    "",
    "Split it over two pairs.",
    quantity="ratio of teeth",
    limits=(6.0, 10.0),
)
TEETH = tooth_rules("helical_pair", "tooth force", "pitch-line speed", "")
RULES = (*TEETH.all, OVERLAP, WIDE, STEEP, THRUST, UNDERCUT, CONTACT, RATIO)
