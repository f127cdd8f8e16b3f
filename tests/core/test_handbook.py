"""The chapters hold everything the program goes by, and nothing twice."""

from __future__ import annotations

from collections import Counter
from pathlib import Path

import pulltide.core
from pulltide.core.handbook import chapters
from pulltide.core.links import FAMILIES
from pulltide.core.methods import METHODS
from pulltide.core.tables import tables_of

CORE = Path(pulltide.core.__file__).parent


def test_every_table_and_every_method_has_its_place():
    placed = Counter(table.id for chapter in chapters() for table in chapter.tables)
    packaged = {
        table.id
        for folder in CORE.rglob("data")
        for table in tables_of(".".join(("pulltide.core", *folder.parent.relative_to(CORE).parts)))
    }
    assert set(placed) == packaged
    assert set(placed.values()) == {1}
    named = Counter(method.name for chapter in chapters() for method in chapter.methods)
    assert named == Counter(list(METHODS))


def test_every_family_shows_its_formulas_with_their_sources():
    by_key = {chapter.key: chapter for chapter in chapters()}
    for family in FAMILIES:
        chapter = by_key[family.kind]
        assert len(chapter.steps) >= 5
        assert all(step.formula and step.symbol and step.source.document for step in chapter.steps)
        assert {rule.code.partition(".")[0] for rule in chapter.rules} == {family.kind}
