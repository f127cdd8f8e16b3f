"""The build sheet as PDF, on A4 or Letter, from the template of the screen."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from typing import Any, Literal

from jinja2 import Environment, FileSystemLoader, StrictUndefined
from markupsafe import Markup

from pulltide.presentation.paper import TEMPLATES
from pulltide.presentation.paper.sheet_paper import SheetPaper
from pulltide.presentation.paper.svg_file import svg_file

Size = Literal["A4", "Letter"]


@cache
def _environment() -> Environment:
    return Environment(
        loader=FileSystemLoader(TEMPLATES),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )


def sheet_html(paper: SheetPaper, size: Size) -> str:
    """The whole document, with its style in it."""
    return _environment().get_template("paper/sheet.html").render(paper=_colored(paper), size=size)


def _colored(paper: SheetPaper) -> SheetPaper:
    # what writes the PDF styles no drawing from outside of it
    drawn = (svg_file(picture).decode() for picture in (paper.elevation, paper.from_above))
    return replace(paper, svgs=tuple(Markup(text) for text in drawn))  # escaped where they are made


def sheet_pdf(paper: SheetPaper, size: Size = "Letter") -> bytes:
    """The sheet as PDF. Nothing is fetched: whatever an address in it names is refused."""
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    class Nothing(URLFetcher):  # type: ignore[misc]
        """Fetches nothing."""

        def fetch(self, url: str, headers: Any = None) -> Any:
            """Refuse every address."""
            raise ValueError(f"{url[:80]} is not fetched")

    made: bytes = HTML(string=sheet_html(paper, size), url_fetcher=Nothing()).write_pdf()
    return made
