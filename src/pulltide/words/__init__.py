"""The words for codes, from a catalog per language area; English ships. Text with quantities is filled in here too.

A label is written with ``{value|unit}`` for a quantity and ``{code|choice}`` for a choice; nothing below knows a
person's units or language.
"""

from __future__ import annotations

import re
from functools import cache
from gettext import GNUTranslations, NullTranslations
from importlib import resources
from io import BytesIO
from typing import Any

from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po

from pulltide.quantities import Units, show

__all__ = [
    "DEFAULT_LOCALE",
    "choice",
    "field_help",
    "filled",
    "filled_throughout",
    "reading",
    "running",
    "translations",
]

DEFAULT_LOCALE = "en"
DOMAIN = "choices"
#: A quantity or a choice in a label.
PLACE = re.compile(r"\{([^{}|]*)\|([^{}|]*)\}")


@cache
def translations(locale: str = DEFAULT_LOCALE, domain: str = DOMAIN) -> NullTranslations:
    """The catalog of a language area; codes stand for themselves where there is none."""
    source = resources.files("pulltide.words").joinpath("locale", locale, "LC_MESSAGES", f"{domain}.po")
    if not source.is_file():
        return NullTranslations()
    with source.open("rb") as file:
        catalog = read_po(file, locale=locale, domain=domain)
    compiled = BytesIO()
    write_mo(compiled, catalog)
    compiled.seek(0)
    return GNUTranslations(compiled)


def choice(code: str, locale: str = DEFAULT_LOCALE) -> str:
    """The words for one choice of a field; a code that is its own name, such as ``SPA``, stays.

    >>> choice("slack_strand_inside"), choice("SPA")
    ('slack strand, inside', 'SPA')
    """
    return translations(locale).gettext(code)


def reading(code: str, locale: str = DEFAULT_LOCALE) -> str:
    """The words for one reading of a nameplate.

    >>> reading("breakdown_torque")
    'Breakdown torque'
    """
    return translations(locale, "readings").gettext(code)


def running(code: str, locale: str = DEFAULT_LOCALE) -> str:
    """The words for what is read, noticed, wrong or due on a running machine: ``cause.belt_slack``.

    >>> running("cause.belt_slack")
    'Belt tension low'
    """
    return translations(locale, "running").gettext(code)


def field_help(group: str, name: str, locale: str = DEFAULT_LOCALE) -> str:
    """The sentence that says what a field is and how it is found; of its group where that says more, or nothing.

    >>> field_help("lever", "load_arm_mm"), field_help("lever", "no_such_field")
    ('From the pivot to where the load acts.', '')
    """
    catalog = translations(locale, "help")
    for code in (f"{group}.{name}", name):
        if (sentence := catalog.gettext(code)) != code:
            return sentence
    return ""


def filled(label: str, units: Units) -> str:
    """A label with its quantities in a person's units and its choices in words.

    >>> filled("{100.0|mm} rope, {bare_metal|choice}", Units())
    '100 mm rope, steel or iron, no lining'
    """

    def put_in(found: re.Match[str]) -> str:
        value, unit = found.groups()
        return choice(value) if unit == "choice" else str(show(float(value), unit, units))

    return PLACE.sub(put_in, label)


def filled_throughout(data: Any, units: Units) -> Any:
    """Plain data with every label in it filled: what a program is given holds no marks."""
    if isinstance(data, dict):
        return {key: filled_throughout(value, units) for key, value in data.items()}
    if isinstance(data, list | tuple):
        return [filled_throughout(value, units) for value in data]
    return filled(data, units) if isinstance(data, str) and "|" in data else data
