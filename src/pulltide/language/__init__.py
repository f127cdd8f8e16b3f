"""The catalogs of each language: words for codes, and what stands in for the program's own English.

A code has its words in a catalog everywhere, English too. A sentence is its own English: a further language brings a
catalog whose message is that sentence. Both are gettext's, read by Babel.
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
#: Which language is spoken here and now.
_spoken: ContextVar[str] = ContextVar("spoken", default=DEFAULT_LOCALE)


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
    return _spoken.get()


@cache
def translations(locale: str, domain: str) -> NullTranslations:
    """The catalog of a language area; what it lacks stands for itself."""
    source = resources.files("pulltide.language").joinpath("locale", locale, "LC_MESSAGES", f"{domain}.po")
    if not source.is_file():
        return NullTranslations()
    with source.open("rb") as file:
        catalog = read_po(file, locale=locale, domain=domain)
    compiled = BytesIO()
    write_mo(compiled, catalog)
    compiled.seek(0)
    return GNUTranslations(compiled)


def looked_up(message: str, domain: str, locale: str = "") -> str:
    """What a catalog has for a code or a sentence."""
    return translations(locale or spoken(), domain).gettext(message) if message else ""
