"""The words of the screen for values of the core."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.findings import Finding, Severity, Source
from pulltide.quantities import Units, show

SEVERITY = {Severity.ERROR: "fix", Severity.WARNING: "weigh", Severity.NOTE: "note", Severity.CLEAR: "clear"}

CHOICE = {
    "uniform": "Uniform",
    "light": "Light shock",
    "moderate": "Moderate shock",
    "heavy": "Heavy shock",
    "running_load": "Running load × factor",
    "motor_nameplate": "Motor nameplate × factor",
    "flat_factor": "One flat factor",
    "three_phase": "Three-phase",
    "capacitor_start": "Capacitor start, 1-phase",
    "split_phase": "Split phase, 1-phase",
    "permanent_split": "Run capacitor, 1-phase",
    "capacitor_start_run": "Two capacitors, 1-phase",
    "shaded_pole": "Shaded pole, 1-phase",
    "ODP": "ODP, open",
    "TEFC": "TEFC, closed, own fan",
    "TENV": "TENV, closed, no fan",
    "TEAO": "TEAO, needs outside air",
    "first": "the first speed",
    "second": "the other speed",
    "outside": "outside diameters",
    "pitch": "pitch diameters",
    "locked": "locked base",
    "constant_pull": "weight or spring",
    "worm": "worm",
    "helical": "helical",
    "same": "same way as the input",
    "opposite": "against the input",
    "right_angle": "at a right angle",
    "shoulder": "close to the case",
    "middle": "mid-shaft",
    "end": "shaft end",
    "either": "either way",
    "by part": "each part’s own",
    "cube": "3 for every part",
    "ten thirds": "10/3 for every part",
}

RULE = {
    "running_load": "running load × part's factor",
    "motor_nameplate": "motor nameplate × factor",
    "flat_factor": "flat factor",
}

TURN = {1: "turns as the motor", -1: "turns against it", None: "sense: see the part"}


@dataclass(frozen=True, slots=True)
class FindingLine:
    """One finding as it is said, without remedies."""

    state: str
    fact: str
    line: str
    source: str
    advice: str


def finding_line(finding: Finding, units: Units) -> FindingLine:
    """A finding in words."""
    return FindingLine(
        SEVERITY[finding.severity], finding.fact, measured_line(finding, units), source_line(finding), finding.advice
    )


def choice(value: str) -> str:
    """The word for one choice of a field."""
    return CHOICE.get(value, value)


def measured_line(finding: Finding, units: Units) -> str:
    """Measured against limit in one line, with how far it is over or under."""
    if finding.measured is None:
        return ""
    measured = str(show(finding.measured, finding.rule.unit, units))
    if finding.limit is None:
        return f"{_capital(finding.rule.quantity)}: {measured}"
    word = "at most" if finding.rule.relation == "<=" else "at least"
    what = "" if finding.rule.unit and not finding.rule.named else f"{_capital(finding.rule.quantity)}: "
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
    return f" ({show(share, 'share', Units())} {'over' if finding.rule.relation == '<=' else 'short'})"


def source_text(source: Source) -> str:
    """A source and how sure it is; nothing for plain mechanics and entries."""
    if source.confidence in ("formula", "entered"):
        return ""
    return cited(source)


def short_source(source: Source) -> str:
    """The document alone, and whether it was quoted from memory."""
    mark = " (from memory)" if "memory" in source.confidence else ""
    return source.document + mark


def cited(source: Source) -> str:
    """A source in full."""
    parts = [part for part in (source.document, source.locator) if part]
    text = ", ".join(parts)
    return text if source.confidence in ("formula", "entered", *parts) else f"{text} ({source.confidence})"


def source_line(finding: Finding) -> str:
    """Where the limit comes from and how sure it is."""
    return cited(finding.rule.source)


def subject_name(subject: str, shaft_names: tuple[str, ...]) -> str:
    """What a finding is about."""
    kind, _, number = subject.partition("-")
    if kind == "shaft" and number:
        return f"Shaft {number} · {shaft_names[int(number) - 1]}"
    return {"link": f"Link {number}", "need": "Need", "duty": "Duty", "motor": "Motor"}.get(kind, "Line")


def filled(label: str, units: Units) -> str:
    """A label with its quantities, written ``{value|unit}``, in a person's units."""
    parts = label.split("{")
    text = parts[0]
    for part in parts[1:]:
        inside, _, rest = part.partition("}")
        value, _, unit = inside.partition("|")
        text += f"{show(float(value), unit, units)}{rest}"
    return text
