"""What is checked on a pair of helical gears."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Remark, Severity, Source
from pulltide.core.spur.judging import MESHING, tooth_rules

HELICAL = Source("Shigley's Mechanical Engineering Design", "section 13-10", "formula")
W, N = Severity.WARNING, Severity.NOTE

OVERLAP = Check(
    code="helical_pair.overlap",
    severity=W,
    quantity="face width of one helix",
    relation=">=",
    unit="mm",
    fact="The face is narrower than one axial pitch, so the helix does not share load and is rated without it",
    clear="The helices overlap",
    limits=(1.0,),
    base="axial pitch",
    advice="Use a wider face or a steeper helix.",
    source=HELICAL,
)
WIDE = Check(
    code="helical_pair.wide",
    severity=W,
    quantity="face width",
    unit="mm",
    fact="The face is too wide to carry load across its full width",
    clear="Full face width is effective",
    limits=(2.0,),
    base="smaller pitch diameter",
    advice="Use a narrower face, or align the shafts with care.",
)
STEEP = Check(
    code="helical_pair.steep",
    severity=W,
    quantity="helix angle",
    unit="deg",
    limits=(30.0,),
    fact="A single helix this steep makes high thrust",
    clear="The helix angle is in the usual range",
    advice="Use 8 to 25 degrees, or a double helix.",
)
THRUST = Remark(
    code="helical_pair.thrust",
    severity=N,
    quantity="thrust with overload",
    unit="N",
    fact="The helix thrusts along both shafts in opposite directions, and the thrust reverses with rotation",
    advice="Use a bearing rated for thrust on each shaft.",
    source=HELICAL,
    needs_load=True,
    about=True,
)
UNDERCUT = Check(
    code="helical_pair.undercut",
    severity=N,
    quantity="virtual teeth of the pinion",
    relation=">=",
    unit="teeth",
    fact="With this few teeth a hob undercuts them, which weakens them",
    clear="The pinion is cut without undercut",
    base="fewest teeth cut without undercut",
    advice="Use more teeth or a steeper helix.",
    source=MESHING,
)
CONTACT = Check(
    code="helical_pair.contact_ratio",
    severity=W,
    quantity="contact ratio",
    relation=">=",
    limits=(1.2, 1.0),
    fact="Too few teeth are in contact in the plane of rotation",
    clear="Enough teeth are in contact",
    advice="Use more teeth or a flatter helix.",
    source=EXACT,
)
RATIO = Check(
    code="helical_pair.ratio",
    severity=W,
    quantity="ratio of teeth",
    limits=(6.0, 10.0),
    fact="The ratio is large for one pair of gears",
    clear="The ratio suits one pair",
    advice="Split it over two pairs.",
)
TEETH = tooth_rules("helical_pair", "tooth force", "pitch-line speed", "")
RULES = (*TEETH.all, OVERLAP, WIDE, STEEP, THRUST, UNDERCUT, CONTACT, RATIO)
