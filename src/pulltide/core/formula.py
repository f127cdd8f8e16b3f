"""Reads a formula as it is written in a working, so that it can be computed and set as mathematics.

Angles are in degrees, as everywhere on the page. Signs follow each other from left to right: ``a / b c`` is (a / b) c.
A formula with words in it cannot be read.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from math import acos, asin, atan, ceil, cos, exp, isfinite, log, log10, pi, sin, sqrt, tan

DEGREE = pi / 180
FUNCTIONS: dict[str, Callable[[float], float]] = {
    "sin": lambda x: sin(x * DEGREE),
    "cos": lambda x: cos(x * DEGREE),
    "tan": lambda x: tan(x * DEGREE),
    "cot": lambda x: 1 / tan(x * DEGREE),
    "sec": lambda x: 1 / cos(x * DEGREE),
    "asin": lambda x: asin(x) / DEGREE,
    "acos": lambda x: acos(x) / DEGREE,
    "atan": lambda x: atan(x) / DEGREE,
    "log10": log10,
    "ln": log,
    "exp": exp,
    "√": sqrt,
    "⌈": lambda x: float(ceil(x)),
    "|": abs,
}
#: Brackets that are functions of what they hold.
CLOSING = {"(": ")", "⌈": "⌉", "|": "|"}
PLACEHOLDER = "\ue000"
TOKEN = re.compile(rf"{PLACEHOLDER}\d+;|[A-Za-z][A-Za-z0-9]*|\d+\.?\d*(?:e[-+]?\d+)?|[-+*/^()√⌈⌉|π]")


@dataclass(frozen=True, slots=True)
class Number:
    """A number, as it is written."""

    text: str


@dataclass(frozen=True, slots=True)
class Symbol:
    """A symbol that a number is put in for; π stands for itself."""

    name: str


@dataclass(frozen=True, slots=True)
class Negative:
    """What follows a minus sign."""

    of: Node


@dataclass(frozen=True, slots=True)
class Call:
    """A function of one number; ``√`` is the root, ``⌈`` the next whole number up, ``|`` the size."""

    function: str
    of: Node


@dataclass(frozen=True, slots=True)
class Pair:
    """Two parts joined by ``+``, ``-``, ``*``, ``/`` or ``^``."""

    sign: str
    left: Node
    right: Node


Node = Number | Symbol | Negative | Call | Pair


class _Unreadable(Exception):
    """The formula holds words."""


def without_remark(formula: str) -> tuple[str, str]:
    """The formula up to its first comma outside brackets, and what is remarked behind it.

    >>> without_remark("a (b, c) + d, at most 1")
    ('a (b, c) + d', ' at most 1')
    """
    depth = 0
    for index, char in enumerate(formula):
        depth += {"(": 1, ")": -1}.get(char, 0)
        if char == "," and depth == 0:
            return formula[:index], formula[index + 1 :]
    return formula, ""


def read(formula: str, names: Mapping[str, float]) -> Node | None:
    """The parts of a formula whose symbols are named; None where it holds words.

    >>> read("2 T / d", {"T": 1.0, "d": 2.0})
    Pair(sign='/', left=Pair(sign='*', left=Number(text='2'), right=Symbol(name='T')), right=Symbol(name='d'))
    >>> read("table by teeth", {"N": 20.0}) is None
    True
    """
    text, order = formula, sorted(names, key=len, reverse=True)
    for sign, plain in (("·", "*"), ("×", "*"), ("−", "-"), ("²", "^2"), ("³", "^3")):
        text = text.replace(sign, plain)
    for index, name in enumerate(order):
        text = re.sub(rf"(?<![\w']){re.escape(name)}(?![\w'])", f"{PLACEHOLDER}{index};", text)
    tokens = TOKEN.findall(text)
    if "".join(tokens) != re.sub(r"\s", "", text) or not tokens:
        return None
    reader = _Reader(tokens, order)
    try:
        found = reader.sum()
    except _Unreadable:
        return None
    return found if reader.done else None


class _Reader:
    """Takes tokens from the left: sums of products of powers."""

    def __init__(self, tokens: list[str], order: list[str]) -> None:
        self.tokens = tokens
        self.order = order
        self.at = 0

    @property
    def done(self) -> bool:
        return self.at == len(self.tokens)

    @property
    def next(self) -> str:
        return self.tokens[self.at] if not self.done else ""

    def take(self) -> str:
        token = self.next
        self.at += 1
        return token

    def sum(self) -> Node:
        found = self.product()
        while self.next in ("+", "-"):
            found = Pair(self.take(), found, self.product())
        return found

    def product(self) -> Node:
        found = self.signed()
        while self.next and self.next not in ("+", "-", ")", "⌉"):
            if self.next == "|" and self._closes_size():
                break
            sign = self.take() if self.next in ("*", "/") else "*"
            found = Pair(sign, found, self.signed())
        return found

    def _closes_size(self) -> bool:
        return self.tokens[: self.at].count("|") % 2 == 1

    def signed(self) -> Node:
        if self.next == "-":
            self.take()
            return Negative(self.signed())
        return self.power()

    def power(self) -> Node:
        base = self.atom()
        if self.next == "^":
            self.take()
            return Pair("^", base, self.signed())
        return base

    def atom(self) -> Node:
        token = self.take()
        if token in CLOSING:
            return self._bracketed(token)
        if token.startswith(PLACEHOLDER):
            return Symbol(self.order[int(token[1:-1])])
        if token == "π":
            return Symbol("π")
        if token and token[0].isdigit():
            return Number(token)
        if token in FUNCTIONS:
            return Call(token, self.atom())
        raise _Unreadable

    def _bracketed(self, opening: str) -> Node:
        inner = self.sum()
        if self.take() != CLOSING[opening]:
            raise _Unreadable
        return inner if opening == "(" else Call(opening, inner)


def value_of(node: Node, names: Mapping[str, float]) -> float:
    """Value of a formula for the numbers put in. Raises ZeroDivisionError, ValueError or OverflowError as it must.

    >>> round(value_of(read("180 - 2 asin((D - d) / (2 C))", NAMES), NAMES), 3)
    150.058
    """
    if isinstance(node, Number):
        return float(node.text)
    if isinstance(node, Symbol):
        return pi if node.name == "π" and "π" not in names else names[node.name]
    if isinstance(node, Negative):
        return -value_of(node.of, names)
    if isinstance(node, Call):
        return FUNCTIONS[node.function](value_of(node.of, names))
    left, right = value_of(node.left, names), value_of(node.right, names)
    if node.sign == "/":
        return left / right
    if node.sign == "^":
        return float(left**right)
    return left + right if node.sign == "+" else left - right if node.sign == "-" else left * right


def written_value(formula: str, names: Mapping[str, float]) -> float | None:
    """Value of a formula as it is written; None where it holds words or a remark, or has none for these numbers.

    >>> written_value("2 T / d", {"T": 3.0, "d": 2.0}), written_value("2 T / d, at most 1", {"T": 3.0, "d": 2.0})
    (3.0, None)
    >>> written_value("T / d", {"T": 3.0, "d": 0.0}) is None
    True
    """
    found = _read_once(formula, tuple(names))
    if found is None:
        return None
    try:
        value = value_of(found, names)
    except (ArithmeticError, ValueError):
        return None
    return value if isinstance(value, float) and isfinite(value) else None


@lru_cache(maxsize=4096)
def _read_once(formula: str, names: tuple[str, ...]) -> Node | None:
    """The parts of a formula without a remark."""
    plain, remark = without_remark(formula)
    return None if remark else read(plain, dict.fromkeys(names, 0.0))


#: The numbers of an example: a belt from 63 to 280 mm at 420 mm.
NAMES = {"D": 280.0, "d": 63.0, "C": 420.0}
