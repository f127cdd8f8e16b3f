"""What is set as mathematics is the formula: read back from its MathML it gives the value of the step."""

from __future__ import annotations

from xml.etree import ElementTree as Xml

import pytest

from formulas import agrees, evaluate
from pulltide.core.formula import without_remark
from pulltide.core.handbook import chapters
from pulltide.core.working import Step
from pulltide.presentation.mathml import set_formula

STEPS = [step for chapter in chapters() for step in chapter.steps if step.inputs]


def read_back(node: Xml.Element, names: dict[str, float]) -> str:
    """MathML as a line of text with the names of its symbols."""
    parts = [read_back(child, names) for child in node]
    match node.tag:
        case "mfrac":
            return f"(({parts[0]})/({parts[1]}))"
        case "msup":
            return f"(({parts[0]})^({parts[1]}))"
        case "msqrt":
            return f"√({' '.join(parts)})"
        case "msub":
            return next((name for name in (f"{parts[0]}_{parts[1]}", "".join(parts)) if name in names), "?")
        case "mo":
            return {"\u2062": " ", "\u2061": " ", "−": "-"}.get(node.text or "", node.text or "")
        case "mtext" | "mn" | "mi":
            return node.text or ""
    return "".join(parts)


def right_side(step: Step) -> str:
    made = set_formula(step.symbol, without_remark(step.formula)[0], step.inputs)
    if not made:
        return ""
    return read_back(Xml.fromstring(str(made)), {**step.inputs, step.symbol: 0.0}).partition("=")[2]


def test_most_formulas_of_the_handbook_are_set():
    set_out = [step for step in STEPS if right_side(step)]
    assert len(set_out) > 0.7 * len(STEPS)
    assert len(set_out) > 150


@pytest.mark.parametrize("step", STEPS, ids=lambda step: f"{step.symbol} = {step.formula}"[:60])
def test_what_is_set_gives_what_is_shown(step: Step):
    text = right_side(step)
    if text and agrees(step):
        assert evaluate(text, step.inputs) == pytest.approx(step.value, rel=2e-4, abs=1e-9), text


@pytest.mark.parametrize(
    ("formula", "names", "parts"),
    [
        ("60000 v / (π D)", "vD", ("<mfrac>", "<mi>π</mi>")),
        ("(F_1 - m v²)(1 - 1/R)", ("F_1", "m", "v", "R"), ("<msup>", "<msub><mi>F</mi>", "<mo>(</mo>")),
        ("√(a² + b²)", "ab", ("<msqrt>",)),
        ("-(a - b)", "ab", ("<mo>−</mo>", "<mo>(</mo>")),
        ("a - (b - c)", "abc", ("<mo>(</mo>",)),
        ("⌈P / Q⌉", "PQ", ("<mo>⌈</mo>", "<mo>⌉</mo>")),
        ("|a - b|, at most 1", "ab", ("<mo>|</mo>", "<mtext>, at most 1</mtext>")),
        ("sin γ cos(a + b)", ("γ", "a", "b"), ("<mi>sin</mi>", "<mi>cos</mi>", "<mo>(</mo>")),
        ("2 · 3 a", "a", ("<mo>·</mo>",)),
    ],
)
def test_signs_are_set_as_a_book_does(formula: str, names: str, parts: tuple[str, ...]):
    made = set_formula("x", formula, dict.fromkeys(names, 1.0))
    Xml.fromstring(str(made))
    for part in parts:
        assert part in made, made


def test_words_are_left_as_they_are_written():
    assert set_formula("Y", "table by teeth", {"N": 20.0}) == ""
    assert "&lt;" in set_formula("<b>", "a", {"a": 1.0})
