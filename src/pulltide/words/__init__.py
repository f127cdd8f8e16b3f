"""The words for codes, from a catalog per language area; English ships. Text with quantities is filled in here too.

Text of the core holds marks (`marks`) for what depends on a person's units or language; nothing below knows either.
"""

from __future__ import annotations

from typing import Any

from pulltide.core.errors import InputError, InputErrors
from pulltide.language import DEFAULT_LOCALE, looked_up, speaking, spoken, translations
from pulltide.quantities import DEFAULT_UNITS, Units, show
from pulltide.words.marks import Mark, parsed, shown_again

__all__ = [
    "DEFAULT_LOCALE",
    "choice",
    "error_part",
    "error_text",
    "field_help",
    "filled",
    "filled_throughout",
    "reading",
    "running",
    "say",
    "say_count",
    "speaking",
    "spoken",
    "translations",
    "worded",
]


def choice(code: str, locale: str = "") -> str:
    """The words for one choice of a field; a code that is its own name, such as ``SPA``, stays.

    >>> choice("slack_strand_inside"), choice("SPA")
    ('slack strand, inside', 'SPA')
    """
    return looked_up(code, "choices", locale)


def reading(code: str) -> str:
    """The words for one reading of a nameplate.

    >>> reading("breakdown_torque")
    'Breakdown torque'
    """
    return looked_up(code, "readings")


def running(code: str) -> str:
    """The words for what is read, noticed, wrong or due on a running machine: ``cause.belt_slack``.

    >>> running("cause.belt_slack")
    'Belt tension low'
    """
    return looked_up(code, "running")


def field_help(group: str, name: str) -> str:
    """The sentence that says what a field is and how it is found; of its group where that says more, or nothing.

    >>> field_help("lever", "load_arm_mm"), field_help("lever", "no_such_field")
    ('From the pivot to where the load acts.', '')
    """
    for code in (f"{group}.{name}", name):
        if (sentence := looked_up(code, "help")) != code:
            return sentence
    return ""


def say(message: str, /, **put_in: object) -> str:
    """A text of the screen in the language spoken, with what belongs in its places.

    >>> say("Stage {number}", number=2)
    'Stage 2'
    """
    text = looked_up(message, "sentences")
    return text.format(**put_in) if put_in else text


def say_count(one: str, many: str, count: int, /, **put_in: object) -> str:
    """The same for one or many; ``{count}`` stands for how many.

    >>> say_count("{count} belt", "{count} belts", 1), say_count("{count} belt", "{count} belts", 3)
    ('1 belt', '3 belts')
    """
    return translations(spoken(), "sentences").ngettext(one, many, count).format(count=count, **put_in)


def filled(text: str, units: Units) -> str:
    """A text of the core in the language spoken, with its quantities in a person's units.

    >>> filled("{100.0|mm} rope, {bare_metal|choice}", Units())
    '100 mm rope, steel or iron, no lining'
    """
    return shown_again(_filled(text, units))


def worded(text: str) -> str:
    """A text of the core that holds no quantity, in the language spoken.

    >>> worded("Belt grinder")
    'Belt grinder'
    """
    return filled(text, DEFAULT_UNITS)


def error_text(error: Exception) -> str:
    """What an error says, in the language spoken: field, what was given, why it cannot be used, what can.

    >>> error_text(InputError("Speed", "", "is needed", accepted="a speed under Need"))
    'Speed: is needed. Accepted: a speed under Need.'
    """
    if isinstance(error, InputErrors):
        return " ".join(error_text(one) for one in error.errors)
    if not isinstance(error, InputError):
        return error_part(str(error))
    reason = error_part(error.reason).removesuffix(".")
    said = say("{field}: {what}.", field=error_part(error.field), what=f"{error.shown} {reason}".strip())
    return said + (say(" Accepted: {accepted}.", accepted=error_part(error.accepted)) if error.accepted else "")


def error_part(text: str) -> str:
    """One part of an error. It may repeat what a person typed, so that no mark is looked for in it."""
    return text if "|" in text else worded(text)


def filled_throughout(data: Any, units: Units) -> Any:
    """Plain data with every label in it filled: what a program is given holds no marks."""
    if isinstance(data, dict):
        return {key: filled_throughout(value, units) for key, value in data.items()}
    if isinstance(data, list | tuple):
        return [filled_throughout(value, units) for value in data]
    return filled(data, units) if isinstance(data, str) and "|" in data else data


def _filled(text: str, units: Units) -> str:
    if "|" not in text and spoken() == DEFAULT_LOCALE:
        return text
    message, held = parsed(text)
    said = looked_up(message, "sentences")
    for number, mark in enumerate(held):
        said = said.replace(f"{{{number}}}", _put_in(mark, units))
    return said


def _put_in(mark: Mark, units: Units) -> str:
    """What a mark stands for; braces of names stay hidden, so that nothing is put into them."""
    value, kind, *forms = (*mark, "as is") if len(mark) == 1 else mark
    if kind == "as is":
        return value
    if kind == "choice":
        return choice(value)
    if kind == "phrase":
        return _filled(value, units)
    if kind == "inside":
        said = _filled(value, units)
        return said[:1].lower() + said[1:]
    if kind == "count":
        one, many = forms
        return translations(spoken(), "sentences").ngettext(one, many, int(value)).replace("{0}", value)
    try:
        return str(show(float(value), kind, units))
    except ValueError:
        return "{" + "|".join(mark) + "}"
