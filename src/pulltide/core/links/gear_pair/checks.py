"""What is checked on a pair of spur gears."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Check, Remark, Severity
from pulltide.core.spur.judging import MESHING, tooth_rules

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE


INTERFERENCE = Check(
    code="gear_pair.interference",
    severity=E,
    quantity="teeth of the larger gear",
    unit="teeth",
    fact="The gear's tips dig into the roots of the cast pinion",
    clear="The teeth clear each other",
    base="largest mate of the pinion without undercut relief",
    advice="Use more teeth on the pinion or fewer on the gear.",
    source=MESHING,
)
UNDERCUT = Check(
    code="gear_pair.undercut",
    severity=N,
    quantity="teeth of the pinion",
    relation=">=",
    unit="teeth",
    fact="With this few teeth a hob undercuts them, which weakens them and shortens contact",
    clear="The pinion is cut without undercut",
    base="fewest teeth cut without undercut at this pressure angle and shift",
    advice="Use more teeth, or shift the profile.",
    source=MESHING,
)
TIP = Check(
    code="gear_pair.tip",
    severity=W,
    quantity="thickness of the tip",
    relation=">=",
    unit="mm",
    fact="This much profile shift leaves the tip thin or pointed",
    clear="The tip is thick enough",
    limits=(0.25, 0.0),
    base="module",
    advice="Shift it less, or cut the tip down.",
    source=EXACT,
)
CONTACT = Check(
    code="gear_pair.contact_ratio",
    severity=W,
    quantity="contact ratio",
    relation=">=",
    limits=(1.2, 1.0),
    fact="Too few teeth are in contact for smooth running",
    clear="Enough teeth are in contact",
    advice="Bring the centers together, or use more teeth.",
    source=MESHING,
)
RING = Check(
    code="gear_pair.ring",
    severity=E,
    quantity="difference of teeth",
    relation=">=",
    unit="teeth",
    limits=(10.0,),
    fact="The ring needs at least ten more teeth than its pinion: the tips foul",
    clear="The ring is large enough",
    advice="Use a ring with ten more teeth than the pinion.",
)
RATIO = Check(
    code="gear_pair.ratio",
    severity=W,
    quantity="ratio of teeth",
    limits=(6.0, 10.0),
    fact="The ratio is large for one pair of gears",
    clear="The ratio suits one pair",
    advice="Split it over two pairs.",
)
NARROW = Check(
    code="gear_pair.narrow",
    severity=N,
    quantity="face width",
    relation=">=",
    unit="mm",
    fact="The face is narrow for its teeth",
    clear="The face is wide enough",
    limits=(2.9,),
    base="circular pitch",
    advice="Three to five circular pitches is usual.",
)
WIDE = Check(
    code="gear_pair.wide",
    severity=W,
    quantity="face width",
    unit="mm",
    fact="The face is too wide to carry load across its full width",
    clear="Full face width is effective",
    base="5 circular pitches, or the pinion's diameter if larger",
    advice="Use a narrower face, or align the shafts with care.",
)
HUNTING = Check(
    code="gear_pair.hunting",
    severity=N,
    quantity="common divisor of the tooth counts",
    limits=(1.0,),
    fact="The same teeth keep meeting",
    clear="Every tooth meets every other",
    advice="One tooth more or less spreads the wear.",
    source=EXACT,
    about=True,
)
SPREAD = Check(
    code="gear_pair.spread",
    severity=N,
    quantity="backlash added",
    unit="mm",
    limits=(0.0,),
    fact="Spreading the centers adds backlash",
    clear="The centers are at their standard distance",
    advice="Expect the backlash shown.",
    source=EXACT,
    about=True,
)
IDLER = Remark(
    code="gear_pair.idler",
    severity=N,
    quantity="idlers",
    fact="An idler leaves the ratio alone and reverses the rotation; its teeth bend both ways",
    advice="It needs a shaft and bearings of its own.",
    source=MESHING,
    about=True,
)
TEETH = tooth_rules("gear_pair", "tooth force", "pitch-line speed", "")
RULES = (*TEETH.all, IDLER, TIP, INTERFERENCE, UNDERCUT, CONTACT, RING, RATIO, NARROW, WIDE, HUNTING, SPREAD)
