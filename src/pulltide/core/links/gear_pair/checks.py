"""What is checked on a pair of spur gears."""

from __future__ import annotations

from pulltide.core.findings import EXACT, Severity, check
from pulltide.core.spur.judging import MESHING, tooth_rules

W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE


INTERFERENCE = check(
    "gear_pair.interference",
    E,
    "<=",
    ("The gear's tips dig into the roots of the cast pinion", "The teeth clear each other"),
    "teeth",
    "Use more teeth on the pinion or fewer on the gear.",
    quantity="teeth of the larger gear",
    source=MESHING,
)
UNDERCUT = check(
    "gear_pair.undercut",
    N,
    ">=",
    (
        "With this few teeth a hob undercuts them, which weakens them and shortens contact",
        "The pinion is cut without undercut",
    ),
    "teeth",
    "Use more teeth, or shift the profile.",
    quantity="teeth of the pinion",
    source=MESHING,
)
TIP = check(
    "gear_pair.tip",
    W,
    ">=",
    ("This much profile shift leaves the tip thin or pointed", "The tip is thick enough"),
    "mm",
    "Shift it less, or cut the tip down.",
    quantity="thickness of the tip",
    source=EXACT,
)
CONTACT = check(
    "gear_pair.contact_ratio",
    W,
    ">=",
    ("Too few teeth are in contact for smooth running", "Enough teeth are in contact"),
    "",
    "Bring the centers together, or use more teeth.",
    quantity="contact ratio",
    source=MESHING,
    limits=(1.2, 1.0),
)
RING = check(
    "gear_pair.ring",
    E,
    ">=",
    ("The ring needs at least ten more teeth than its pinion: the tips foul", "The ring is large enough"),
    "teeth",
    "Use a ring with ten more teeth than the pinion.",
    quantity="difference of teeth",
    limits=(10.0,),
)
RATIO = check(
    "gear_pair.ratio",
    W,
    "<=",
    ("The ratio is large for one pair of gears", "The ratio suits one pair"),
    "",
    "Split it over two pairs.",
    quantity="ratio of teeth",
    limits=(6.0, 10.0),
)
NARROW = check(
    "gear_pair.narrow",
    N,
    ">=",
    ("The face is narrow for its teeth", "The face is wide enough"),
    "mm",
    "Three to five circular pitches is usual.",
    quantity="face width",
)
WIDE = check(
    "gear_pair.wide",
    W,
    "<=",
    ("The face is too wide to carry load across its full width", "Full face width is effective"),
    "mm",
    "Use a narrower face, or align the shafts with care.",
    quantity="face width",
)
HUNTING = check(
    "gear_pair.hunting",
    N,
    "<=",
    ("The same teeth keep meeting", "Every tooth meets every other"),
    "",
    "One tooth more or less spreads the wear.",
    quantity="common divisor of the tooth counts",
    source=EXACT,
    about=True,
    limits=(1.0,),
)
SPREAD = check(
    "gear_pair.spread",
    N,
    "<=",
    ("Spreading the centers adds backlash", "The centers are at their standard distance"),
    "mm",
    "Expect the backlash shown.",
    quantity="backlash added",
    source=EXACT,
    about=True,
    limits=(0.0,),
)
IDLER = check(
    "gear_pair.idler",
    N,
    ">=",
    ("An idler leaves the ratio alone and reverses the rotation; its teeth bend both ways", ""),
    "",
    "It needs a shaft and bearings of its own.",
    quantity="idlers",
    source=MESHING,
    about=True,
)
TEETH = tooth_rules("gear_pair", "tooth force", "pitch-line speed", "")
RULES = (*TEETH.all, IDLER, TIP, INTERFERENCE, UNDERCUT, CONTACT, RING, RATIO, NARROW, WIDE, HUNTING, SPREAD)
