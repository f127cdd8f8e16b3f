"""Every message that another language needs words for, found in the program itself.

A sentence of the core is any text there that reads like one: too much in a catalog harms nobody. Above the core a
message is what `say` is given, or stands in a table of words; in templates it is what stands between the tags.
"""

from __future__ import annotations

import ast
import csv
import json
import re
from collections.abc import Iterator, Sequence
from pathlib import Path

from pydantic import BaseModel

from pulltide.core.holding import Holding
from pulltide.core.machine import Machine
from pulltide.core.made.discs import LOOSE
from pulltide.core.methods import METHODS
from pulltide.words.marks import parsed
from pulltide.words.templates import messages, script_messages

#: Has words in it, and is no code, address or name of a standard unit.
_WORDS = re.compile(r"[^\W\d_]{2}")
_CODE = re.compile(r"^[a-z0-9]*[_.:/@#*=+|{}][\w.:/@#*=+|{}-]*$|^https?:|^[A-Z0-9_\-]+$|^\W*$|^\.{1,2}/|[<>]=?\s*$")
#: One message, or one for one and one for many.
Message = str | tuple[str, str]
#: What speaks plain English to whoever runs it.
UNSPOKEN = frozenset({"core", "ops", "cli"})
#: Lines of a packaged table's head, and columns of its cells, that are told to people.
TOLD_HEAD = frozenset({"title", "source", "confidence", "note"})
TOLD_COLUMNS = ("component", "machine_kind", "note", "lead", "type")


def every_message(root: Path) -> list[Message]:
    """Every message of the program once, in order; one that has a form for many is no message of its own."""
    found = {*core_messages(root / "core"), *data_messages(root), *screen_messages(root)}
    counted = {form for message in found if isinstance(message, tuple) for form in message}
    return sorted(found - counted, key=str)


def every_code() -> list[str]:
    """Every code that a field may hold and that reads like a word; English says most of them as they are."""
    loose = (kind.model for kind in LOOSE.values())
    models: tuple[type[BaseModel], ...] = (Machine, Holding, *loose, *(method.inputs for method in METHODS.values()))
    found = {code for model in models for code in _codes_of(model.model_json_schema())}
    return sorted(code for code in found if re.fullmatch(r"[a-z][a-z_]+", code))


def _codes_of(schema: object) -> Iterator[str]:
    if isinstance(schema, dict):
        yield from (code for code in (*schema.get("enum", ()), schema.get("const")) if isinstance(code, str))
        schema = list(schema.values())
    if isinstance(schema, list):
        for inner in schema:
            yield from _codes_of(inner)


def core_messages(root: Path) -> Iterator[Message]:
    """Sentences of the core as the edge looks them up, with ``{0}`` for what is put in."""
    for node in _nodes(root.rglob("*.py")):
        if isinstance(node, ast.Call) and _called(node) == "counted":
            yield from _pair(node.args[1:])
        elif isinstance(node, ast.JoinedStr):
            yield from _looked_up(_pattern(node))
        else:
            yield from _looked_up(re.sub(r"\{\w+\}", "{x|mm}", _text(node)))


def data_messages(root: Path) -> Iterator[Message]:
    """What the packaged tables and published examples are called, where they come from, and what their cells tell."""
    for path in sorted(root.rglob("*.csv")):
        for text in _told_of_table(path.read_text("utf-8").splitlines()):
            yield from _looked_up(text)
    for path in sorted(root.rglob("published.json")):
        for example in json.loads(path.read_text("utf-8")):
            yield from (*_looked_up(example["id"]), *_looked_up(example["source"]))


def screen_messages(root: Path) -> Iterator[Message]:
    """What `say` is given anywhere, tables of words beside it, and what templates and scripts say."""
    modules = (path for path in root.rglob("*.py") if path.relative_to(root).parts[0] not in UNSPOKEN)
    for node in _nodes(modules):
        if isinstance(node, ast.Call) and _called(node) == "say_count":
            yield from _pair(node.args[:2])
        elif isinstance(node, ast.Tuple):
            yield from _pair([one for one in node.elts if "{count}" in _text(one)])
        elif _is_told(text := _text(node)):
            yield from (text, *_looked_up(text))
    for path in sorted(root.rglob("*.html")):
        source = path.read_text("utf-8")
        yield from messages(source)
        yield from (single or double for single, double in re.findall(r"\b_\((?:'([^']*)'|\"([^\"]*)\")", source))
    yield from script_messages(root / "web" / "static" / "js")


def _nodes(paths: Iterator[Path]) -> Iterator[ast.AST]:
    """Every node of some modules, but for what documents them and what stands within an f-string."""
    for path in sorted(paths):
        tree = ast.parse(path.read_text("utf-8"))
        skipped = _docstrings(tree) | _within_f_strings(tree)
        yield from (node for node in ast.walk(tree) if id(node) not in skipped)


def _docstrings(tree: ast.Module) -> set[int]:
    documented = (ast.Module, ast.ClassDef, ast.FunctionDef, ast.AsyncFunctionDef)
    firsts = (one for node in ast.walk(tree) if isinstance(node, documented) for one in node.body[:1])
    return {id(first.value) for first in firsts if isinstance(first, ast.Expr)}


def _within_f_strings(tree: ast.Module) -> set[int]:
    return {id(part) for node in ast.walk(tree) if isinstance(node, ast.JoinedStr) for part in node.values}


def _told_of_table(lines: Sequence[str]) -> Iterator[str]:
    heads = (line[1:].partition(":") for line in lines if line.startswith("#"))
    yield from (text.strip() for name, _, text in heads if name.strip() in TOLD_HEAD)
    for row in csv.DictReader(line for line in lines if not line.startswith("#")):
        yield from (row.get(column) or "" for column in TOLD_COLUMNS)


def _text(node: ast.AST) -> str:
    return node.value if isinstance(node, ast.Constant) and isinstance(node.value, str) else ""


def _pattern(node: ast.JoinedStr) -> str:
    """An f-string with a mark for each thing that it puts in."""
    text = ""
    for part in node.values:
        text += _text(part) or ("x" if text.endswith("{") else "{x|mm}")
    return text


def _pair(nodes: Sequence[ast.expr]) -> Iterator[Message]:
    """One and many, where both are written out."""
    told = [text for node in nodes if (text := _text(node))]
    if len(told) == 2:
        yield told[0], told[1]


def _called(node: ast.Call) -> str:
    return node.func.id if isinstance(node.func, ast.Name) else ""


def _looked_up(text: str) -> Iterator[str]:
    """A text as the edge looks it up; of a formula with words in it also what stands after its symbol."""
    message = parsed(text)[0]
    for part in dict.fromkeys((message, message.partition(" = ")[2])):
        if _is_told(re.sub(r"\{\d+\}", "", part)):
            yield part


def _is_told(text: str) -> bool:
    return bool(_WORDS.search(text)) and not _CODE.search(text)
