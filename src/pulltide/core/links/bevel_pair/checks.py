"""What is checked on a pair of bevel gears."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Remark, Severity, Source
from pulltide.core.spur.judging import MESHING, tooth_rules

BEVEL = Source("Shigley's Mechanical Engineering Design", "sections 13-9 and 13-15", "formula")
W, N = Severity.WARNING, Severity.NOTE

FACE = Check(
    code="bevel_pair.face",
    severity=W,
    quantity="face width",
    unit="mm",
    fact="The face reaches too far down the cone: its small end carries no load",
    clear="Face width is in proportion to the cone",
    base="0.3 cone distances or 10 modules, whichever is less",
    advice="Use a face of {limit} or less.",
)
RATIO = Check(
    code="bevel_pair.ratio",
    severity=W,
    quantity="ratio of teeth",
    limits=(4.0, 6.0),
    fact="The ratio is large for bevel gears",
    clear="The ratio suits bevel gears",
    advice="Take part of the ratio in another stage.",
)
UNDERCUT = Check(
    code="bevel_pair.undercut",
    severity=N,
    quantity="virtual teeth of the pinion",
    relation=">=",
    unit="teeth",
    fact="With this few teeth they are undercut, which weakens them",
    clear="The pinion is cut without undercut",
    base="fewest teeth cut without undercut",
    advice="Use more teeth.",
    source=MESHING,
)
CONTACT = Check(
    code="bevel_pair.contact_ratio",
    severity=W,
    quantity="contact ratio",
    relation=">=",
    limits=(1.2, 1.0),
    fact="Too few teeth are in contact for smooth running",
    clear="Enough teeth are in contact",
    advice="Use more teeth.",
    source=EXACT,
)
THRUST = Remark(
    code="bevel_pair.thrust",
    severity=N,
    quantity="larger thrust with overload",
    unit="N",
    fact="Both gears are pushed away from the apex; their position along the shafts sets the mesh",
    advice="Use bearings rated for thrust, and shim both gears for the right backlash.",
    source=BEVEL,
    needs_load=True,
    about=True,
)
TEETH = tooth_rules("bevel_pair", "tooth force at the middle of the face", "speed at the middle of the face", "")
RULES = (*TEETH.all, FACE, RATIO, UNDERCUT, CONTACT, THRUST)
