"""The Methods page: what the program goes by, with source and how sure it is."""

from __future__ import annotations

from dataclasses import dataclass

from pulltide.core.findings import Source
from pulltide.core.handbook import Chapter, chapters
from pulltide.web.words import SEVERITY, cited


@dataclass(frozen=True, slots=True)
class ChapterView:
    """One chapter in rows."""

    key: str
    title: str
    formulas: tuple[tuple[str, str, str], ...]
    tables: tuple[tuple[str, str, str, str], ...]
    checks: tuple[tuple[str, str, str, str], ...]
    methods: tuple[tuple[str, str], ...]


def handbook_view() -> tuple[ChapterView, ...]:
    """All chapters."""
    return tuple(_chapter(chapter) for chapter in chapters())


def _chapter(chapter: Chapter) -> ChapterView:
    return ChapterView(
        chapter.key,
        chapter.title,
        tuple((step.name, f"{step.symbol} = {step.formula}", _plain(step.source)) for step in chapter.steps),
        tuple((table.title, table.source, table.confidence, table.note) for table in chapter.tables),
        tuple((SEVERITY[rule.severity], rule.fact, rule.quantity, cited(rule.source)) for rule in chapter.rules),
        tuple((method.name, method.title) for method in chapter.methods),
    )


def _plain(source: Source) -> str:
    return "plain mechanics" if source.confidence == "formula" and not source.locator else cited(source)
