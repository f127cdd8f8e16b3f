"""The catalogs of each language: words for codes, and what stands in for the program's own English.

A code has its words in a catalog everywhere, English too. A sentence is its own English: a further language brings a
catalog whose message is that sentence. Both are gettext's, read by Babel. English ships.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache
from gettext import GNUTranslations, NullTranslations
from importlib import resources
from io import BytesIO

from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po

DEFAULT_LOCALE = "en"
#: A folder of catalogs for each language.
FOLDER = resources.files("pulltide.language").joinpath("locale")
#: The language areas: words for choices, help for fields, readings of a plate, a running machine, and all sentences.
AREAS = ("choices", "help", "readings", "running", "sentences")
#: What this process speaks, and what is spoken here and now, where that is another language.
_default = [DEFAULT_LOCALE]
_spoken: ContextVar[str] = ContextVar("spoken", default="")


def languages() -> tuple[str, ...]:
    """The languages that have a catalog."""
    return tuple(sorted(item.name for item in FOLDER.iterdir() if item.is_dir()))


def set_language(locale: str) -> None:
    """What this process speaks from now on. Raises ValueError naming the languages there are."""
    if locale not in languages():
        raise ValueError(f"Language: {locale} has no catalog. Accepted: {', '.join(languages())}.")
    _default[0] = locale


@contextmanager
def speaking(locale: str) -> Iterator[None]:
    """In a language for as long as this lasts."""
    before = _spoken.set(locale)
    try:
        yield
    finally:
        _spoken.reset(before)


def spoken() -> str:
    """The language spoken now."""
    return _spoken.get() or _default[0]


@cache
def translations(locale: str, area: str) -> NullTranslations:
    """The catalog of a language area; what it lacks is said in English."""
    source = FOLDER.joinpath(locale, "LC_MESSAGES", f"{area}.po")
    if not source.is_file():
        return NullTranslations() if locale == DEFAULT_LOCALE else translations(DEFAULT_LOCALE, area)
    with source.open("rb") as file:
        catalog = read_po(file, locale=locale, domain=area)
    compiled = BytesIO()
    write_mo(compiled, catalog)
    compiled.seek(0)
    found = GNUTranslations(compiled)
    if locale != DEFAULT_LOCALE:
        found.add_fallback(translations(DEFAULT_LOCALE, area))
    return found


def looked_up(message: str, area: str, locale: str = "") -> str:
    """What a catalog has for a code or a sentence."""
    return translations(locale or spoken(), area).gettext(message) if message else ""
