"""Templates: strict about missing names, escaped throughout."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from typing import Any

from fastapi import Request, Response
from fastapi.responses import HTMLResponse
from jinja2 import ChoiceLoader, Environment, FileSystemLoader, PrefixLoader, StrictUndefined, select_autoescape

from pulltide.language import DEFAULT_LOCALE, looked_up
from pulltide.presentation.paper import TEMPLATES as PAPER
from pulltide.words import say, spoken
from pulltide.words.templates import Translated, script_messages

FOLDER = Path(__file__).parent / "templates"
#: Every place keeps its templates in its own folder.
PLACES = Path(__file__).parent / "places"
SCRIPTS = Path(__file__).parent / "static" / "js"


def _asset_mark() -> str:
    """Changes whenever a style or script of ours changes, so that browsers fetch it anew."""
    static = FOLDER.parent / "static"
    newest = max(int(path.stat().st_mtime) for path in static.rglob("*") if path.is_file())
    return f"{newest:x}"


def _script_words(language: str) -> str:
    """What the scripts say in a language, as JSON; nothing where it is said as it is written."""
    if language == DEFAULT_LOCALE:
        return ""
    said = {message: looked_up(message, "sentences", language) for message in script_messages(SCRIPTS)}
    return json.dumps(said, ensure_ascii=False)


@cache
def environment(language: str) -> Environment:
    """The templates in a language; each is compiled once for it."""
    made = Environment(
        loader=ChoiceLoader([FileSystemLoader([FOLDER, PAPER]), PrefixLoader({"places": FileSystemLoader(PLACES)})]),
        extensions=[Translated],
        autoescape=select_autoescape(["html"], default=True),
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
        auto_reload=False,
    )
    made.filters["first_of"] = lambda items, keys: sorted(items, key=lambda item: item.key not in keys)
    made.filters["as_json"] = lambda value: json.dumps(value, ensure_ascii=False)
    made.filters["capitalize_first"] = lambda text: text[:1].upper() + text[1:]
    made.globals |= {
        "asset_mark": _asset_mark(),
        "_": say,
        "language": language,
        "script_words": _script_words(language),
    }
    return made


def render(request: Request, name: str, values: dict[str, Any], status: int = 200) -> Response:
    """Render a page with what every page needs."""
    from pulltide.web.admission import sharing_of
    from pulltide.web.person import person_of, remember

    person = values.get("person") or _person_or_none(request, person_of)
    text = (
        environment(spoken())
        .get_template(name)
        .render(
            **{
                **values,
                "person": person,
                "request_path": request.url.path,
                "is_shared": sharing_of(request) is not None,
            }
        )
    )
    response = HTMLResponse(text, status)
    if person is not None:
        remember(request, response, person)
    return response


def _person_or_none(request: Request, person_of: Any) -> Any:
    from sqlalchemy.exc import SQLAlchemyError

    try:
        return person_of(request)
    except SQLAlchemyError:
        return None
