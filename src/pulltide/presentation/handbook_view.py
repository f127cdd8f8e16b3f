"""The Methods page: what the program goes by, with source and how sure it is."""

from __future__ import annotations

from dataclasses import dataclass

from markupsafe import Markup

from pulltide.core.findings import Rule, Source
from pulltide.core.handbook import Chapter, chapters
from pulltide.core.working import Step
from pulltide.presentation.mathml import set_formula
from pulltide.presentation.words import SEVERITY, cited, limits_line, rule_fact
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.proof import Proof, proofs
from pulltide.words import filled, say, worded

#: How units that a computer writes are said.
UNIT_WORDS = {"N*m": "N·m", "deg": "°", "1/m": "1/m", "degC": "°C"}


@dataclass(frozen=True, slots=True)
class ChapterView:
    """One chapter in rows."""

    key: str
    title: str
    formulas: tuple[tuple[str, str, Markup, str], ...]
    tables: tuple[tuple[str, str, str, str], ...]
    checks: tuple[tuple[str, str, str, str, str], ...]
    methods: tuple[tuple[str, str], ...]
    proofs: tuple[ProofRow, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ProofRow:
    """One published figure beside ours."""

    example: str
    symbol: str
    published: str
    computed: str
    within: str
    source: str
    state: str


def handbook_view() -> tuple[ChapterView, ...]:
    """All chapters."""
    return tuple(_chapter(chapter) for chapter in chapters())


def _chapter(chapter: Chapter) -> ChapterView:
    return ChapterView(
        chapter.key,
        worded(chapter.title),
        tuple(_formula(step) for step in chapter.steps),
        tuple(
            (worded(table.title), worded(table.source), worded(table.confidence), worded(table.note))
            for table in chapter.tables
        ),
        tuple(_check(rule) for rule in chapter.rules),
        tuple((method.name, worded(method.title)) for method in chapter.methods),
        tuple(_proof(proof) for proof in proofs() if proof.method in {method.name for method in chapter.methods}),
    )


def _check(rule: Rule) -> tuple[str, str, str, str, str]:
    """State, what is said, what is measured, the limits, source."""
    limits = limits_line(rule, DEFAULT_UNITS)
    return SEVERITY[rule.severity], rule_fact(rule, DEFAULT_UNITS), worded(rule.quantity), limits, cited(rule.source)


def _formula(step: Step) -> tuple[str, str, Markup, str]:
    """Name, formula as text and as mathematics, source."""
    written = f"{step.symbol} = {worded(step.formula)}"
    set_out = set_formula(step.symbol, step.formula, step.inputs)
    return filled(step.name, DEFAULT_UNITS), written, set_out, _plain(step.source)


def _proof(proof: Proof) -> ProofRow:
    unit = "" if proof.unit in ("", "share") else f" {say(UNIT_WORDS.get(proof.unit, proof.unit))}"
    return ProofRow(
        example=worded(proof.example),
        symbol=proof.symbol,
        published=f"{proof.published:.6g}{unit}",
        computed=f"{proof.computed:.6g}{unit}",
        within=f"{100 * proof.tolerance:.2g} %",
        source=worded(proof.source),
        state="clear" if proof.holds else "fix",
    )


def _plain(source: Source) -> str:
    return say("plain mechanics") if source.confidence == "formula" and not source.locator else cited(source)
