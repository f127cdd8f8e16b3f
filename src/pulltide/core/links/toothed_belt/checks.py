"""What is checked on a timing belt link."""

from __future__ import annotations

from typing import Any

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Relation, Rule, Severity, Source, jam_rule

ISO = Source("ISO 5294 and IP-24", "rating, least teeth, teeth in mesh", "quoted from memory")
W, E, N = Severity.WARNING, Severity.ERROR, Severity.NOTE


def _rule(
    code: str, severity: Severity, relation: Relation, words: tuple[str, str], unit: str, advice: str, **more: Any
) -> Rule:
    """A check of this family: ``words`` when it fails and when it holds; quantity, source, needs_load and limits by name."""
    return Rule(
        f"toothed_belt.{code}",
        more["quantity"],
        relation,
        severity,
        *words,
        unit,
        more.get("source", COMMON_PRACTICE),
        advice,
        more.get("needs_load", False),
        limits=more.get("limits", ()),
    )


RATING = _rule(
    "rating",
    W,
    "<=",
    ("The belt is loaded over its rating", "Belt load is within its rating with the service factor"),
    "kW",
    "Use a wider belt, or more teeth on both pulleys.",
    quantity="design power",
    source=ISO,
    needs_load=True,
)
ESTIMATE = _rule(
    "estimate",
    N,
    ">=",
    ("No standard rates this profile; the figure is the low end of a range", ""),
    "",
    "Check the belt maker's rating before ordering.",
    quantity="rating",
)
MESH = _rule(
    "mesh",
    W,
    ">=",
    ("Too few teeth of the small pulley are in mesh", "Enough teeth are in mesh"),
    "teeth",
    "Use a longer center distance, or more teeth on the small pulley.",
    quantity="teeth in mesh",
    source=ISO,
    limits=(6.0, 3.0),
)
LEAST = _rule(
    "least_teeth",
    E,
    ">=",
    ("The small pulley has too few teeth for this profile and speed", "The small pulley has enough teeth"),
    "teeth",
    "Use more teeth on both pulleys.",
    quantity="small pulley",
    source=ISO,
)
SPEED = _rule(
    "speed",
    W,
    "<=",
    ("Belt speed is over the limit for this profile", "Belt speed is within its limit"),
    "m/s",
    "Use smaller pulleys.",
    quantity="belt speed",
    source=ISO,
)
JUMP = _rule(
    "jump",
    W,
    "<=",
    ("At peak torque the belt may jump a tooth", "The belt holds its teeth at peak torque"),
    "N",
    "Use a wider belt or larger pulleys, and tension it to half the peak pull or more.",
    quantity="pull at peak torque",
    needs_load=True,
)
SLACK = _rule(
    "tension_set",
    E,
    ">=",
    ("Belt tension is so low that it jumps a tooth at peak torque", "Belt tension keeps the teeth in mesh"),
    "N",
    "Tension it to at least half the peak pull.",
    quantity="tension set",
    needs_load=True,
)
WIDE = _rule(
    "wide",
    W,
    "<=",
    ("The belt is wider than its small pulley is large", "The belt's width suits its pulleys"),
    "mm",
    "Use larger pulleys or a larger profile.",
    quantity="belt width",
)
TOUCH = _rule(
    "touch",
    E,
    ">=",
    ("The belt is too short: the pulleys would touch", "The pulleys clear each other"),
    "mm",
    "Use a longer belt.",
    quantity="center distance",
    source=EXACT,
)
TOO_SHORT = _rule(
    "too_short",
    E,
    ">=",
    ("The belt is too short to go round these pulleys", "The belt goes round the pulleys"),
    "teeth",
    "Use a longer belt.",
    quantity="belt",
    source=EXACT,
)
NOT_STOCK = _rule(
    "series",
    N,
    ">=",
    ("This length is not in the standard series", "The length is in the standard series"),
    "teeth",
    "Use a length of the series.",
    quantity="belt",
    source=ISO,
)
NO_BELT = _rule(
    "no_belt",
    N,
    ">=",
    ("No belt is chosen yet", "The belt is chosen"),
    "teeth",
    "Choose a whole number of teeth; the center distance then follows from it.",
    quantity="length wanted",
    source=EXACT,
)
TAKE_UP = _rule(
    "take_up",
    W,
    ">=",
    ("There is too little adjustment to fit and tension the belt", "There is adjustment enough"),
    "mm",
    "Allow a pitch and a half, or fit an idler.",
    quantity="center adjustment",
)
TAKE_UP_UNKNOWN = _rule(
    "take_up",
    N,
    ">=",
    ("Center adjustment is not entered", "Center adjustment is entered"),
    "mm",
    "Allow at least this much, or fit an idler.",
    quantity="adjustment needed",
)
NO_FUSE = _rule(
    "no_fuse",
    N,
    ">=",
    ("A timing belt does not slip: a jam loads the shafts and the motor", ""),
    "",
    "Add a shear pin or a stage that slips where the machine can jam.",
    quantity="slip",
)
JAM = jam_rule("toothed_belt.jam", "A jam would make the belt jump teeth or shear them", "The belt teeth hold in a jam")
RULES = (
    JAM,
    RATING,
    ESTIMATE,
    MESH,
    LEAST,
    SPEED,
    JUMP,
    SLACK,
    WIDE,
    TOUCH,
    TOO_SHORT,
    NOT_STOCK,
    NO_BELT,
    TAKE_UP,
    TAKE_UP_UNKNOWN,
    NO_FUSE,
)
