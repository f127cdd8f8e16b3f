"""The words of the screen for values of the core."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.findings import Check, Finding, Rule, Severity, Source
from pulltide.core.line_result import LineResult
from pulltide.core.run_up.drive_train import DriveTrain
from pulltide.quantities import DEFAULT_UNITS, Units, show
from pulltide.words import filled, say, say_count, worded

#: What the screen calls them.
SEVERITY_WORDS = {Severity.ERROR: "problem", Severity.WARNING: "warning", Severity.NOTE: "note", Severity.CLEAR: "OK"}
SEVERITY = {Severity.ERROR: "fix", Severity.WARNING: "weigh", Severity.NOTE: "note", Severity.CLEAR: "clear"}

#: What stands under every place.
LAST_CAUTION = (
    "Wiring, overload and emergency stop follow your local code; have a licensed electrician check them. "
    "This is a sizing aid: a qualified person checks whatever can hurt someone."
)
RULE = {
    "running_load": "running load × part's factor",
    "motor_nameplate": "motor nameplate × factor",
    "flat_factor": "flat factor",
}

TURN = {1: "same rotation as the motor", -1: "opposite rotation", None: "rotation: see the part"}


@dataclass(frozen=True, slots=True)
class FindingLine:
    """One finding as it is said, without remedies."""

    state: str
    fact: str
    line: str
    source: str
    advice: str


#: Words that a sentence may start with in the middle of another.
ARTICLES = ("The ", "A ", "An ", "At ", "It ", "Its ", "No ")


def finding_line(finding: Finding, units: Units) -> FindingLine:
    """A finding in words."""
    fact, advice = filled(finding.fact, units), filled(finding.advice, units)
    if finding.load:
        fact = (
            f"{finding.load}: {fact[:1].lower()}{fact[1:]}" if fact.startswith(ARTICLES) else f"{finding.load}: {fact}"
        )
    return FindingLine(SEVERITY[finding.severity], fact, measured_line(finding, units), source_line(finding), advice)


def rule_fact(rule: Rule, units: Units) -> str:
    """What a rule says when it comes up, before anything is measured."""
    limits = rule.limits if isinstance(rule, Check) and not rule.base else ()
    return filled(rule.quoting(rule.fact, limits[0] if limits else None), units).replace("{limit}", say("its limit"))


def limits_line(rule: Rule, units: Units) -> str:
    """The limits of a check in one line; nothing for a remark.

    >>> limits_line(Check(code="", severity=Severity.NOTE, quantity="", fact="", clear="", limits=(6.0, 10.0)), Units())
    'at most 6; a problem over 10'
    """
    if not isinstance(rule, Check):
        return ""
    bound, past = (say("at most"), say("over")) if rule.relation == "<=" else (say("at least"), say("under"))
    base = worded(rule.base) if rule.base[:1].isdigit() else say("the {base}", base=worded(rule.base))
    if not rule.limits:
        return f"{bound} {base}"
    bounds = [f"{limit:g} × " if rule.base else str(show(limit, rule.unit, units)) for limit in rule.limits]
    bounds = ["" if text == "1 × " else text for text in bounds]
    whole = f"{bound} {bounds[0]}{base if rule.base else ''}"
    return whole + "".join(
        f"; {say(_A[rule.levels[1]])} {past} {text}{say('that') if rule.base else ''}" for text in bounds[1:]
    )


_A = {Severity.ERROR: "a problem", Severity.WARNING: "a warning", Severity.NOTE: "a note", Severity.CLEAR: "OK"}


#: What is counted: none, one, many.
COUNTED = {
    "problem": ("no problems", "{count} problem", "{count} problems"),
    "warning": ("no warnings", "{count} warning", "{count} warnings"),
    "drive": ("no drives", "{count} drive", "{count} drives"),
    "kind of drive": ("no kinds of drive", "{count} kind of drive", "{count} kinds of drive"),
    "part": ("no parts", "{count} part", "{count} parts"),
    "open question": ("no open questions", "{count} open question", "{count} open questions"),
    "plan": ("no plans", "{count} plan", "{count} plans"),
    "item": ("no items", "{count} item", "{count} items"),
}


def counted(number: int, what: str) -> str:
    """So many of something, in words.

    >>> counted(0, "problem"), counted(1, "warning"), counted(2, "warning")
    ('no problems', '1 warning', '2 warnings')
    """
    none, one, many = COUNTED[what]
    return say_count(one, many, number) if number else say(none)


def measured_line(finding: Finding, units: Units) -> str:
    """Measured against limit in one line, with how far it is over or under."""
    if finding.measured is None:
        return ""
    measured = str(show(finding.measured, finding.rule.unit, units))
    if finding.limit is None:
        return f"{_capital(worded(finding.rule.quantity))}: {measured}"
    word = say("at most") if finding.relation == "<=" else say("at least")
    what = "" if finding.rule.unit and not finding.rule.named else f"{_capital(worded(finding.rule.quantity))}: "
    text = f"{what}{measured}, {word} {show(finding.limit, finding.rule.unit, units)}"
    return text + _over(finding)


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _over(finding: Finding) -> str:
    if finding.severity is Severity.CLEAR or not finding.limit or finding.measured is None:
        return ""
    share = abs(finding.measured / finding.limit - 1)
    if not 0.001 < share < 20:
        return ""
    share_text = show(share, "share", Units())
    return (
        say(" ({share} over)", share=share_text)
        if finding.relation == "<="
        else say(" ({share} short)", share=share_text)
    )


def source_text(source: Source) -> str:
    """A source and how sure it is; nothing for plain mechanics and entries."""
    if source.confidence in ("formula", "entered"):
        return ""
    return cited(source)


def short_source(source: Source) -> str:
    """The document alone, and whether it was quoted from memory."""
    mark = say(" (from memory)") if "memory" in source.confidence else ""
    return worded(source.document) + mark


def cited(source: Source) -> str:
    """A source in full."""
    parts = [part for part in (source.document, source.locator) if part]
    text = ", ".join(worded(part) for part in parts)
    return text if source.confidence in ("formula", "entered", *parts) else f"{text} ({worded(source.confidence)})"


def source_line(finding: Finding) -> str:
    """Where the limit comes from and how sure it is."""
    return cited(finding.rule.source)


def names_of(line: LineResult) -> tuple[str, ...]:
    """The names of a line's shafts, the motor's first."""
    return tuple(filled(shaft.name, DEFAULT_UNITS) for shaft in line.shafts)


def last_name(train: DriveTrain) -> str:
    """The name of a drive's last shaft."""
    return filled(train.names[-1], DEFAULT_UNITS)


def subject_name(subject: str, shaft_names: tuple[str, ...]) -> str:
    """What a finding is about."""
    kind, _, number = subject.partition("-")
    if kind == "shaft" and number:
        return say("Shaft {number} · {shaft_names}", number=number, shaft_names=shaft_names[int(number) - 1])
    return {
        "link": say("Stage {number}", number=number),
        "need": say("Need"),
        "duty": say("Duty"),
        "motor": say("Motor"),
    }.get(kind, say("Line"))
