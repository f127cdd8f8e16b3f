"""Promises about the code itself: sizes, shipped files, documents, nothing fetched at run time."""

from __future__ import annotations

import ast
import re
from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Iterator
from functools import cache
from hashlib import sha256
from pathlib import Path
from statistics import median
from string import Formatter

import pytest

from pulltide.core.handbook import chapters
from pulltide.core.methods import METHODS

PROJECT = Path(__file__).resolve().parents[1]
SOURCE = PROJECT / "src" / "pulltide"
MODULES = [path for path in SOURCE.rglob("*.py") if "versions" not in path.parts]
TEMPLATES = list((SOURCE / "web").rglob("*.html"))


@cache
def tree_of(path: Path) -> ast.Module:
    return ast.parse(path.read_text("utf-8"))


def docs_in(tree: ast.AST) -> list[ast.Expr]:
    """Docstrings, and strings that stand alone."""
    alone = (node for node in ast.walk(tree) if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant))
    return [node for node in alone if isinstance(node.value.value, str)]


def code_lines(text: str, tree: ast.Module) -> list[int]:
    """Numbers of the lines that are neither blank, comment nor docstring."""
    docs = {number for node in docs_in(tree) for number in range(node.lineno, node.end_lineno + 1)}
    lines = enumerate(map(str.strip, text.splitlines()), start=1)
    return [number for number, line in lines if line and not line.startswith("#") and number not in docs]


def function_lines(path: Path) -> Iterator[int]:
    """Code lines of each function of a module, however it is laid out."""
    text = ast.unparse(tree_of(path))
    tree = ast.parse(text)
    code = code_lines(text, tree)
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
            first = min([node.lineno, *(one.lineno for one in node.decorator_list)])
            yield bisect_right(code, node.end_lineno) - bisect_left(code, first)


def percentile(values: list[int], share: float) -> int:
    return sorted(values)[min(int(share * len(values)), len(values) - 1)]


@pytest.mark.long
def test_functions_and_modules_stay_small():
    functions = [lines for path in MODULES for lines in function_lines(path)]
    modules = [len(code_lines(path.read_text("utf-8"), tree_of(path))) for path in MODULES]
    assert median(functions) <= 8
    assert percentile(functions, 0.95) <= 30
    assert percentile(modules, 0.95) <= 300


BRANCHES = (ast.If, ast.For, ast.While, ast.ExceptHandler, ast.comprehension, ast.Assert)


def complexity(function: ast.FunctionDef) -> int:
    """McCabe's count over statements and comprehensions, and over every ``and`` and ``or``."""
    nodes = list(ast.walk(function))
    either = sum(len(node.values) - 1 for node in nodes if isinstance(node, ast.BoolOp))
    return 1 + either + sum(isinstance(node, BRANCHES) for node in nodes)


#: The most involved functions: neighbors of a part with many sizes.
MAX_BRANCHES = 16


@pytest.mark.long
def test_functions_stay_simple():
    trees = [tree_of(path) for path in MODULES]
    counts = [complexity(node) for tree in trees for node in ast.walk(tree) if isinstance(node, ast.FunctionDef)]
    assert percentile(counts, 0.95) <= 7
    assert max(counts) <= MAX_BRANCHES


#: So many arguments of one kind may go by their place; more go by name, or one day two of them are swapped.
BY_PLACE = 5


def placed(node: ast.AST) -> list[str]:
    """Kinds of what a function or a record takes by place."""
    if isinstance(node, ast.FunctionDef):
        return [ast.unparse(arg.annotation) for arg in (*node.args.posonlyargs, *node.args.args) if arg.annotation]
    if isinstance(node, ast.ClassDef):
        record = [ast.unparse(item) for item in node.decorator_list if "dataclass" in ast.unparse(item)]
        fields = [item for item in node.body if isinstance(item, ast.AnnAssign)]
        kinds = [ast.unparse(item.annotation) for item in fields]
        return [kind for kind in kinds if "ClassVar" not in kind] if record and "kw_only=True" not in record[0] else []
    return []


@pytest.mark.long
def test_many_arguments_of_one_kind_go_by_name():
    for path in MODULES:
        for node in ast.walk(tree_of(path)):
            kinds = Counter(kind.removesuffix(" | None") for kind in placed(node))
            assert max(kinds.values(), default=0) <= BY_PLACE, (path.name, getattr(node, "name", ""))


def bare_lines(path: Path) -> list[str]:
    """Code lines without indent; imports and lone brackets do not count."""
    lines = [line.strip() for line in path.read_text("utf-8").splitlines()]
    return [line for line in lines if len(line) > 3 and not line.startswith(("#", "from ", "import ", '"""', "@"))]


def test_little_is_written_twice():
    """Lines that stand in a run of six which stands somewhere else as well, every place counted: 2 % at most."""
    runs: dict[tuple[str, ...], list[tuple[Path, int]]] = {}
    total = 0
    for path in MODULES:
        lines = bare_lines(path)
        total += len(lines)
        for start in range(len(lines) - 5):
            runs.setdefault(tuple(lines[start : start + 6]), []).append((path, start))
    twice = {
        (path, start + k) for places in runs.values() if len(places) > 1 for path, start in places for k in range(6)
    }
    assert len(twice) / total <= 0.02


def test_templates_hold_no_script_style_or_handler():
    for path in TEMPLATES:
        text = path.read_text("utf-8")
        assert not re.search(r"<script(?![^>]*\bsrc=)|\son\w+=|\sstyle=|<style|\|\s*safe", text), path.name
        assert len(text.splitlines()) <= 150, path.name
        assert max(map(len, text.splitlines())) <= 120, path.name


def test_lock_files_name_no_host():
    for path in PROJECT.glob("requirements*"):
        assert not re.search(r"://|--index-url|--extra-index-url|--find-links", path.read_text("utf-8")), path.name
    assert "--hash=sha256:" in (PROJECT / "requirements.lock").read_text("utf-8")


def test_shipped_front_end_files_are_the_recorded_ones():
    vendor = SOURCE / "web" / "static" / "vendor"
    rows = [line.split() for line in (vendor / "VENDOR").read_text("utf-8").splitlines() if not line.startswith("#")]
    assert len(rows) >= 5
    for name, *_, checksum in rows:
        assert sha256((vendor / name).read_bytes()).hexdigest() == checksum, name
    shipped = {path.name for path in vendor.iterdir() if path.suffix in (".js", ".css", ".woff2")}
    assert shipped == {row[0] for row in rows}


def test_nothing_is_fetched_from_elsewhere():
    for path in [
        *TEMPLATES,
        *(SOURCE / "web" / "static" / "js").glob("*.js"),
        *(SOURCE / "web" / "static" / "css").glob("*.css"),
    ]:
        assert not re.search(
            r"""(?:src|href)=["']?https?://|url\(["']?https?://|fetch\(["']http""", path.read_text("utf-8")
        ), path.name


def test_every_check_and_method_is_in_the_documents():
    text = (PROJECT / "docs" / "checks.md").read_text("utf-8")
    codes = {rule.code for chapter in chapters() for rule in chapter.rules}
    assert codes == set(re.findall(r"^\| `([a-z_.]+)`", text, re.MULTILINE))
    methods = (PROJECT / "docs" / "methods.md").read_text("utf-8")
    assert all(f"`{name}`" in methods for name in METHODS)


def test_pictures_named_in_the_readme_exist():
    text = (PROJECT / "README.md").read_text("utf-8")
    pictures = re.findall(r"\((docs/screenshots/[^)]+\.png)\)", text)
    assert pictures
    assert all((PROJECT / picture).exists() for picture in pictures)


def test_every_test_that_the_security_list_names_exists():
    text = (PROJECT / "docs" / "security.md").read_text("utf-8")
    written = "\n".join(path.read_text("utf-8") for path in (PROJECT / "tests").rglob("test_*.py"))
    named = set(re.findall(r"`(test_\w+)`", text))
    assert len(named) > 25
    assert not [name for name in named if f"def {name}(" not in written]
    files = re.findall(r"`(tests/[\w/.]+)`", text)
    assert not [file for file in files if not (PROJECT / file).exists()]


def places_of(message: ast.expr) -> set[str]:
    text = message.value if isinstance(message, ast.Constant) and isinstance(message.value, str) else ""
    return {name for _, name, _, _ in Formatter().parse(text) if name is not None}


def test_what_a_message_has_a_place_for_is_given_and_nothing_else():
    """A place without its value fails when it is said, which may be a page that no test opens."""
    for path in MODULES:
        calls = (node for node in ast.walk(tree_of(path)) if isinstance(node, ast.Call))
        for call in calls:
            said = call.func.id if isinstance(call.func, ast.Name) else ""
            if said not in ("say", "say_count") or not isinstance(call.args[0], ast.Constant):
                continue
            places = set[str]().union(*map(places_of, call.args))
            given = {str(word.arg) for word in call.keywords}
            assert places - {"count"} == given - {"count"}, (path.name, call.lineno)
