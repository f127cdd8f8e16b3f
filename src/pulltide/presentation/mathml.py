"""Formulas set as mathematics: fractions, roots, raised and lowered signs, in MathML that browsers draw themselves."""

from __future__ import annotations

import re
from collections.abc import Mapping

from markupsafe import Markup

from pulltide.core.formula import Call, Negative, Node, Number, Pair, Symbol, read, without_remark

#: A symbol and what stands lowered at it: ``T_run``, ``n1``.
LOWERED = re.compile(r"([A-Za-zα-ωΑ-Ω']+?)_?((?<=_).+|\d+)")
#: How tightly parts hold together: a sum in a product is put in brackets.
SUM, PRODUCT, SIGNED, ATOM = range(4)


def set_formula(symbol: str, formula: str, names: Mapping[str, float]) -> Markup:
    """``symbol = formula`` as MathML; empty where the formula holds words and is better left as it is written."""
    bare, remark = without_remark(formula)
    node = read(bare, names)
    if node is None:
        return Markup("")
    tail = Markup("<mtext>,{}</mtext>").format(remark) if remark else Markup("")
    inner = _symbol(symbol) + Markup("<mo>=</mo>") + _set(node) + tail
    return Markup('<math display="block">{}</math>').format(_row(inner))


def _row(*parts: Markup) -> Markup:
    return Markup("<mrow>{}</mrow>").format(Markup("").join(parts))


def _symbol(name: str) -> Markup:
    """A symbol, its index lowered.

    >>> str(_symbol("T_run")), str(_symbol("d")), str(_symbol("n1"))
    ('<msub><mi>T</mi><mtext>run</mtext></msub>', '<mi>d</mi>', '<msub><mi>n</mi><mtext>1</mtext></msub>')
    """
    found = LOWERED.fullmatch(name)
    if found is None:
        return Markup("<mi>{}</mi>").format(name)
    return Markup("<msub><mi>{}</mi><mtext>{}</mtext></msub>").format(*found.groups())


def _strength(node: Node) -> int:
    if isinstance(node, Pair):
        return SUM if node.sign in ("+", "-") else PRODUCT if node.sign == "*" else ATOM
    return SIGNED if isinstance(node, Negative) else ATOM


def _held(node: Node, least: int) -> Markup:
    """A part, in brackets where it would fall apart."""
    found = _set(node)
    return found if _strength(node) >= least else _row(Markup("<mo>(</mo>"), found, Markup("<mo>)</mo>"))


def _set(node: Node) -> Markup:
    if isinstance(node, Number):
        return Markup("<mn>{}</mn>").format(node.text)
    if isinstance(node, Symbol):
        return _symbol(node.name)
    if isinstance(node, Negative):
        return _row(Markup("<mo>−</mo>"), _held(node.of, PRODUCT))
    if isinstance(node, Call):
        return _call(node)
    return _pair(node)


def _call(node: Call) -> Markup:
    if node.function == "√":
        return Markup("<msqrt>{}</msqrt>").format(_set(node.of))
    if node.function in ("⌈", "|"):
        closing = {"⌈": "⌉", "|": "|"}[node.function]
        return _row(Markup("<mo>{}</mo>").format(node.function), _set(node.of), Markup("<mo>{}</mo>").format(closing))
    name = Markup("<mi>{}</mi><mo>&#x2061;</mo>").format(node.function)
    inner = _set(node.of)
    plain = isinstance(node.of, Symbol | Number)
    return _row(name, inner if plain else _row(Markup("<mo>(</mo>"), inner, Markup("<mo>)</mo>")))


def _pair(node: Pair) -> Markup:
    if node.sign == "/":
        return Markup("<mfrac>{}{}</mfrac>").format(_row(_set(node.left)), _row(_set(node.right)))
    if node.sign == "^":
        return Markup("<msup>{}{}</msup>").format(_raised(node.left), _row(_set(node.right)))
    if node.sign == "*":
        times = Markup("<mo>·</mo>") if _begins_with_number(node.right) else Markup("<mo>&#x2062;</mo>")
        right = _held(node.right, ATOM if isinstance(node.right, Negative) else PRODUCT)
        return _row(_held(node.left, PRODUCT), times, right)
    sign = "−" if node.sign == "-" else "+"
    right = _held(node.right, PRODUCT if node.sign == "-" else SUM)
    return _row(_set(node.left), Markup("<mo>{}</mo>").format(sign), right)


def _raised(base: Node) -> Markup:
    """What a power is taken of, in brackets unless it is one sign."""
    if isinstance(base, Symbol | Number):
        return _row(_set(base))
    return _row(Markup("<mo>(</mo>"), _set(base), Markup("<mo>)</mo>"))


def _begins_with_number(node: Node) -> bool:
    """Whether two numbers would stand side by side."""
    while isinstance(node, Pair) and node.sign in ("*", "^"):
        node = node.left
    return isinstance(node, Number)
