"""Templates in another language: their own English is the message, as it is written between the tags.

A message is a run of words with what stands in it: ``{0}`` for an expression, ``<0>`` and ``</0>`` for an inline tag,
so that a sentence is put into a language as a whole. Attributes that are read are messages too.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path

from jinja2.ext import Extension

from pulltide.language import DEFAULT_LOCALE, looked_up, spoken

#: What stands between words: comments, statements, expressions, tags.
_TOKEN = re.compile(
    r"(\{#.*?#\}|\{%.*?%\}|\{\{.*?\}\}|<!--.*?-->|<(?:\{%.*?%\}|\{\{.*?\}\}|\"[^\"]*\"|'[^']*'|[^<>\"'])*>)", re.DOTALL
)
#: A macro draws something of its own: a sentence ends before it.
_MACRO = re.compile(r"\{\{-?\s*(?!_\()\w+\(")
_TAG = re.compile(r"<(/?)([a-z0-9]+)")
#: Tags that do not end a sentence.
_INLINE = {
    *("a", "abbr", "b", "cite", "code", "em", "i", "kbd", "mark", "q", "small"),
    *("span", "strong", "sub", "sup", "time", "var"),
}
#: Attributes that a person reads or hears.
_READ = "data-saved|data-label|title|aria-label|aria-description|placeholder|alt|label"
_ATTRIBUTE = re.compile(rf"((?:^|\s)(?:{_READ})=\")([^\"]*)(\")")
_PLACE = re.compile(r"<(/?)(\d+)>|\{(\d+)\}")

Lookup = Callable[[str], str]


class Translated(Extension):
    """Puts the words of a template into the language spoken when it is compiled."""

    def preprocess(self, source: str, name: str | None, filename: str | None = None) -> str:
        """The source with its messages replaced."""
        return source if spoken() == DEFAULT_LOCALE else translated(source, lambda text: looked_up(text, "sentences"))


def messages(source: str) -> Iterator[str]:
    """Every message of a template, in order.

    >>> list(messages("<p title='x'>Put <b>{{ n }}</b> on.</p>{% if a %}<i alt=\\"So\\">yes</i>{% endif %}"))
    ['Put <0>{0}</0> on.', 'So', 'yes']
    """
    found: list[str] = []

    def look(message: str) -> str:
        found.append(message)
        return message

    translated(source, look)
    return iter(found)


def script_messages(folder: Path) -> list[str]:
    """What the scripts of a folder say: ``said("...")``."""
    found = (re.findall(r'\bsaid\("([^"]*)"', path.read_text("utf-8")) for path in sorted(folder.glob("*.js")))
    return list(dict.fromkeys(message for messages in found for message in messages))


def translated(source: str, look: Lookup) -> str:
    """A template with every message looked up."""
    made: list[str] = []
    run: list[str] = []
    silent = ""
    for number, token in enumerate(_TOKEN.split(source)):
        tag = _TAG.match(token) if number % 2 else None
        put_in = token.startswith("{{") and not _MACRO.match(token)
        if number % 2 and not silent and (put_in or (tag is not None and tag[2] in _INLINE)):
            run.append(_with_attributes(token, look) if tag is not None else token)
        elif not number % 2 and not silent:
            run.append(token)
        else:
            made.append(_said(run, look))
            run = []
            made.append(_with_attributes(token, look) if tag is not None else token)
            if tag is not None and tag[2] in ("script", "style"):
                silent = "" if tag[1] else tag[2]
    return "".join((*made, _said(run, look)))


def _with_attributes(tag: str, look: Lookup) -> str:
    return _ATTRIBUTE.sub(lambda found: found[1] + translated(found[2], look) + found[3], tag)


@dataclass(slots=True)
class _Held:
    """What stands in a message beside its words."""

    expressions: list[str] = field(default_factory=list)
    tags: list[str] = field(default_factory=list)
    open: list[int] = field(default_factory=list)

    def place(self, token: str) -> str:
        """A token as it stands in the message."""
        if token.startswith("{{"):
            self.expressions.append(token)
            return f"{{{len(self.expressions) - 1}}}"
        tag = _TAG.match(token)
        if tag is None:
            return token
        if tag[1] and self.open:
            return f"</{self.open.pop()}>"
        self.tags.append(token)
        self.open.append(len(self.tags) - 1)
        return f"<{len(self.tags) - 1}>"

    def put_back(self, place: re.Match[str]) -> str:
        """What stood where a message has a place."""
        closing, tag, expression = place.groups()
        if expression is not None:
            return self.expressions[int(expression)]
        opened = self.tags[int(tag)]
        return f"</{_name(opened)}>" if closing else opened


def _said(run: list[str], look: Lookup) -> str:
    """One run of words, put into the language; blanks and tags around all of it stay as they are."""
    first, last = 0, len(run)
    while first < last and not run[first].strip():
        first += 1
    while last > first and not run[last - 1].strip():
        last -= 1
    if last - first > 2 and run[first].startswith("<") and run[last - 1] == f"</{_name(run[first])}>":
        within = _said(run[first + 1 : last - 1], look)
        return "".join((*run[: first + 1], within, *run[last - 1 :]))
    held, whole = _Held(), "".join(run)
    message = " ".join("".join(held.place(token) for token in run).split())
    if not re.search(r"[^\W\d_]{2}", _PLACE.sub(" ", message)):
        return whole
    before, after = whole[: len(whole) - len(whole.lstrip())], whole[len(whole.rstrip()) :]
    return before + _PLACE.sub(held.put_back, look(message)) + after


def _name(tag: str) -> str:
    found = _TAG.match(tag)
    return "" if found is None else found[2]
