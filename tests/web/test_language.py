"""Another language: every word that is shown can be put into it, and every message it needs is in the catalog."""

from __future__ import annotations

import html
import re
from collections.abc import Iterator
from gettext import NullTranslations
from pathlib import Path
from shutil import copytree
from typing import Any

import pytest
from babel.messages import Catalog
from babel.messages.pofile import write_po
from fastapi.testclient import TestClient

import pulltide
from pulltide import language, words
from pulltide.core.labels import counted
from pulltide.demo import demo_machines
from pulltide.language import DEFAULT_LOCALE, set_language, speaking
from pulltide.quantities import Units
from pulltide.words import choice, filled, say, say_count, worded
from pulltide.words.extracting import every_message
from web.test_words import strings_of

SOURCE = Path(pulltide.__file__).parent
ENGLISH = language.translations
#: Stands round whatever was put into the other language.
OPEN, CLOSE = "⟦", "⟧"


class Bracketed(NullTranslations):
    """A language that says everything as English does, in brackets; it remembers what it was asked for."""

    def __init__(self, area: str, asked: set[tuple[str, str]]) -> None:
        super().__init__()
        self.area, self.asked = area, asked

    def gettext(self, message: str) -> str:
        english = ENGLISH(DEFAULT_LOCALE, self.area).gettext(message)
        if self.area in ("help", "readings", "running") and english == message:
            return message
        self.asked.add((self.area, message))
        return f"{OPEN}{english}{CLOSE}"

    def ngettext(self, one: str, many: str, count: int) -> str:
        self.asked.add((self.area, one))
        return f"{OPEN}{one if count == 1 else many}{CLOSE}"


@pytest.fixture
def asked(monkeypatch: pytest.MonkeyPatch) -> set[tuple[str, str]]:
    """Every message that the language ``xx`` is asked for."""
    found: set[tuple[str, str]] = set()

    def translations(locale: str, area: str) -> NullTranslations:
        return Bracketed(area, found) if locale == "xx" else ENGLISH(locale, area)

    monkeypatch.setattr(language, "translations", translations)
    monkeypatch.setattr(words, "translations", translations)
    return found


#: What nobody reads, or what is mathematics; and tags within a sentence.
SILENT = re.compile(r"<!--.*?-->|<(script|style|math|code|template|textarea)\b.*?</\1>", re.DOTALL)
WITHIN = re.compile(r"</?(a|abbr|b|cite|em|i|kbd|q|small|span|strong|sub|sup|time|tspan)\b[^>]*>")
READ = re.compile(r"\b(?:title|aria-label|placeholder|alt|data-label)=\"([^\"]*)\"")
#: Units and kinds of file are the same everywhere; so are symbols and what is worked out with them.
SAME = re.compile(
    r"\b(rpm|mm|kW|Nm|MPa|Hz|kWh|kgf|deg|min|MHD|Pulltide Gear|PDF|DXF|SVG|STL|3MF|CSV|XLSX|ZIP|JSON|Letter)\b"
    r"|\b(SP[ZABC]|BAR)\b|\b[A-Z][a-z]{2} \d+, \d{4}"
)
FORMULA = re.compile(
    r"[=√θφψλ]|·.*·|\b(sin|cos|tan|max|min)\b|at least [\d.]+$|[A-Za-z]_[a-z]|[a-z*]/[a-z]|\*\*|\{0\} a \+"
)


def said(page: str) -> Iterator[str]:
    """Each run of words that a person reads of a page, but for what stands in brackets."""
    page = SILENT.sub(" ", page)
    runs = [match[1] for match in READ.finditer(page)] + re.split(r"<[^>]*>", WITHIN.sub("", page))
    for run in runs:
        depth, outside = 0, ""
        for char in html.unescape(run):
            depth += (char == OPEN) - (char == CLOSE)
            outside += char if depth == 0 and char != CLOSE else ""
        yield " ".join(outside.split())


def own(machines: list[Any]) -> list[str]:
    """What people called things, the longest first."""
    texts = {text for machine in machines for text in strings_of(machine.model_dump(mode="json")) if len(text) > 2}
    return sorted(texts, key=len, reverse=True)


def singular(message: str | tuple[str, str]) -> str:
    return message if isinstance(message, str) else message[0]


@pytest.mark.long
def test_every_word_that_is_shown_is_put_into_the_language(client: TestClient, asked: set[tuple[str, str]]):
    machines = demo_machines()[:3]
    pages = ["/", "/new", "/methods", "/practice", "/keeping", "/shop", "/discs", "/stock"]
    with speaking("xx"):
        for machine in machines:
            made = client.post("/api/v1/machines", json=machine.model_dump(mode="json")).json()["id"]
            places = ("need", "duty", "source", "train", "fit", "runup", "compare", "sheet", "log", "history")
            more = ("train?at=link-1", "train?at=link-2&show=link-2/torque", "train?at=shaft-2&show=shaft-2/torque")
            pages += [f"/machines/{made}/{place}" for place in (*places, *more, "fit?show=fit/fatigue")]
        left, names = {}, own(machines)
        for page in pages:
            answer = client.get(page)
            assert answer.status_code == 200, page
            for run in said(answer.text):
                for name in names:
                    run = run.replace(name, " ")
                if re.search(r"[^\W\d_]{3}", SAME.sub(" ", run)) and not FORMULA.search(run):
                    left.setdefault(run, page)
    assert left == {}
    assert len(asked) > 2000
    known = {singular(message) for message in every_message(SOURCE)}
    lost = [
        message
        for area, message in asked
        if area == "sentences" and message not in known and OPEN not in message
        if re.search(r"[a-z]{3}", SAME.sub("", re.sub(r"\{\d+\}", "", message))) and not FORMULA.search(message)
    ]
    assert lost == [], "not in the catalog"


@pytest.mark.long
def test_the_catalog_of_sentences_is_as_the_program_is():
    """Written anew by script/words; as gettext's own tools read it."""
    from babel.messages.pofile import read_po

    with (SOURCE / "language" / "locale" / "sentences.pot").open("rb") as file:
        shipped = {singular(entry.id) for entry in read_po(file) if entry.id}
    assert shipped == {singular(message) for message in every_message(SOURCE)}


def test_a_sentence_is_looked_up_with_places_for_what_changes(monkeypatch: pytest.MonkeyPatch):
    class German(NullTranslations):
        def gettext(self, message: str) -> str:
            rope = {"{0} rope of {1}, {2} strands": "Seil aus {1}, {2} Litzen, {0}", "hemp": "Hanf"}
            return rope.get(message, message.replace("Stage", "Stufe"))

    monkeypatch.setattr(language, "translations", lambda locale, area: German())
    with speaking("de"):
        assert filled("{100|mm} rope of {hemp|phrase}, 3 strands", Units()) == "Seil aus Hanf, 3 Litzen, 100 mm"
        assert filled("{20|mm} rope of {{0} {1}|as is}, 4 strands", Units()) == "Seil aus {0} {1}, 4 Litzen, 20 mm"
        assert say("Stage {number}", number=2) == "Stufe 2"


def test_a_language_is_a_folder_of_catalogs(monkeypatch: pytest.MonkeyPatch, tmp_path: Path):
    """Written as gettext's own tools write it: one and many, marks in another order, English for what is left empty."""
    catalog = Catalog(locale="de", domain="sentences")
    catalog.add(("{0} belt", "{0} belts"), ("{0} Riemen", "{0} Riemen zusammen"))
    catalog.add("{0} at {1}", "bei {1}: {0}")
    catalog.add("Belt grinder", "")
    folder = tmp_path / "de" / "LC_MESSAGES"
    folder.mkdir(parents=True)
    with (folder / "sentences.po").open("wb") as file:
        write_po(file, catalog)
    copytree(str(language.FOLDER.joinpath(DEFAULT_LOCALE)), tmp_path / DEFAULT_LOCALE)
    monkeypatch.setattr(language, "FOLDER", tmp_path)
    # nothing that is found here may be kept for other tests
    for module in (language, words):
        monkeypatch.setattr(module, "translations", ENGLISH.__wrapped__)
    assert language.languages() == ("de", "en")
    with speaking("de"):
        assert filled(counted(3, "{0} belt", "{0} belts"), Units()) == "3 Riemen zusammen"
        assert filled(counted(1, "{0} belt", "{0} belts"), Units()) == "1 Riemen"
        assert filled("{5|N*m} at {100|mm}", Units()) == "bei 100 mm: 5 N·m"
        assert (worded("Belt grinder"), choice("bare_metal")) == ("Belt grinder", "steel or iron, no lining")


def test_a_language_without_a_catalog_is_refused_by_name():
    with pytest.raises(ValueError, match="Language: xx has no catalog"):
        set_language("xx")
    set_language(DEFAULT_LOCALE)
    assert say_count("{count} belt", "{count} belts", 2) == "2 belts"
