"""Reads formulas as they are written in workings, so that what is shown can be computed from the numbers put in.

Angles are in degrees, as everywhere on the page. A formula with words in it cannot be read: None.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from math import acos, asin, atan, ceil, cos, exp, log, log10, pi, sin, sqrt, tan
from typing import Any

import pytest

from pulltide.core.working import Step

#: Remarks that may change the value of the formula before them.
BOUNDS = ("at most", "at least", "never", "whole", "least", "odd", "worm also", "up to", "below", "with a fan", "1000")
DEGREE = pi / 180
FUNCTIONS: dict[str, Any] = {
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
    "sqrt": sqrt,
    "ceil": ceil,
    "abs": abs,
}
SIGNS = {"·": "*", "×": "*", "²": "**2", "³": "**3", "^": "**", "−": "-"}
TOKEN = re.compile(r"zq[a-z]q|[A-Za-zα-ωΑ-Ω_][\wα-ω']*|\d+\.?\d*(?:e[-+]?\d+)?|\*\*|[-+*/()]")


def without_remark(formula: str) -> tuple[str, str]:
    """The formula up to its first comma outside brackets, and what is remarked behind it."""
    depth = 0
    for index, char in enumerate(formula):
        depth += {"(": 1, ")": -1}.get(char, 0)
        if char == "," and depth == 0:
            return formula[:index], formula[index + 1 :]
    return formula, ""


def _spelled(formula: str, names: Mapping[str, float]) -> tuple[str, dict[str, float]]:
    """The formula with plain signs, and every symbol replaced by a token that no function name can hide in."""
    text = formula
    for sign, plain in SIGNS.items():
        text = text.replace(sign, plain)
    text = re.sub(r"⌈(.*?)⌉", r"ceil(\1)", text)
    text = re.sub(r"\|(.*?)\|", r"abs(\1)", text)
    values = {}
    for index, name in enumerate(sorted(names, key=len, reverse=True)):
        token = f"zq{chr(ord('a') + index)}q"
        text = re.sub(rf"(?<![\w']){re.escape(name)}(?![\w'])", f" {token} ", text)
        values[token] = names[name]
    text = text.replace("π", " pi ").replace("√", "sqrt")
    bare = r"\b(sin|cos|tan|cot|sec|asin|acos|atan|log10|exp|sqrt|ln)\s+(zq[a-z]q|\d+\.?\d*)"
    return re.sub(bare, r"\1(\2)", text), values


def evaluate(formula: str, names: Mapping[str, float]) -> float | None:
    """Value of a written formula for the numbers put in; None where it holds words.

    >>> evaluate("2 π n / (60 k)", {"n": 30.0, "k": 2.0}) == 2 * pi * 30 / 120
    True
    >>> round(evaluate("180 - 2 asin((D - d) / (2 C))", {"D": 280.0, "d": 63.0, "C": 420.0}), 3)
    150.058
    >>> evaluate("table by teeth", {"N": 20.0}) is None
    True
    """
    text, values = _spelled(formula, names)
    tokens = TOKEN.findall(text)
    if "".join(tokens) != re.sub(r"\s", "", text):
        return None
    written: list[str] = []
    for token in tokens:
        known = token in values or token in FUNCTIONS or token == "pi"
        if token[0].isalpha() and not known:
            return None
        opens = token == "(" or known or token[0].isdigit()
        before = written[-1] if written else "("
        closes = before == ")" or before == "pi" or before in values or before[0].isdigit()
        if opens and closes:
            written.append("*")
        written.append(token)
    return float(eval("".join(written), {"__builtins__": {}}, {**FUNCTIONS, **values, "pi": pi}))


def agrees(step: Step) -> bool | None:
    """Whether the written formula gives the value; None where it holds words, or a remark that bounds it."""
    formula, remark = without_remark(step.formula)
    found = evaluate(formula, step.inputs)
    if found is None:
        return None
    if found == pytest.approx(step.value, rel=2e-4, abs=1e-9):
        return True
    return None if any(word in remark for word in BOUNDS) else False
