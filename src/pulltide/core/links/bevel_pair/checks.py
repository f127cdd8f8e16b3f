"""What is checked on a pair of bevel gears."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, Source, check
from pulltide.core.spur.judging import MESHING, tooth_rules

BEVEL = Source("Shigley's Mechanical Engineering Design", "sections 13-9 and 13-15", "formula")
W, N = Severity.WARNING, Severity.NOTE

FACE = check(
    "bevel_pair.face",
    W,
    "<=",
    (
        "The face reaches too far down the cone: its small end carries no load",
        "Face width is in proportion to the cone",
    ),
    "mm",
    "Use at most 0.3 of the cone distance and 10 modules.",
    quantity="face width",
)
RATIO = check(
    "bevel_pair.ratio",
    W,
    "<=",
    ("The ratio is large for bevel gears", "The ratio suits bevel gears"),
    "",
    "Take part of the ratio in another stage.",
    quantity="ratio of teeth",
)
UNDERCUT = check(
    "bevel_pair.undercut",
    N,
    ">=",
    ("With this few teeth they are undercut, which weakens them", "The pinion is cut without undercut"),
    "teeth",
    "Use more teeth.",
    quantity="virtual teeth of the pinion",
    source=MESHING,
)
CONTACT = check(
    "bevel_pair.contact_ratio",
    W,
    ">=",
    ("Too few teeth are in contact for smooth running", "Enough teeth are in contact"),
    "",
    "Use more teeth.",
    quantity="contact ratio",
    source=EXACT,
    limits=(1.2, 1.0),
)
THRUST = check(
    "bevel_pair.thrust",
    N,
    ">=",
    ("Both gears are pushed away from the apex; their position along the shafts sets the mesh", ""),
    "N",
    "Use bearings rated for thrust, and shim both gears for the right backlash.",
    quantity="larger thrust with overload",
    source=BEVEL,
    about=True,
    needs_load=True,
)
TEETH = tooth_rules("bevel_pair", "tooth force at the middle of the face", "speed at the middle of the face", "")
RULES = (*TEETH.all, FACE, RATIO, UNDERCUT, CONTACT, THRUST)
