"""What goes to paper as PDF, on A4 or Letter, from the templates of the screen."""

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


def sheet_pdf(paper: SheetPaper, size: Size = "Letter") -> bytes:
    """The sheet as PDF; what writes it styles no drawing from outside, so that its colors are put into it."""
    drawn = (svg_file(picture).decode() for picture in (paper.elevation, paper.from_above))
    return pdf_of("paper/sheet.html", replace(paper, svgs=tuple(Markup(text) for text in drawn)), size)


def pdf_of(template: str, paper: Any, size: Size) -> bytes:
    """A template with its paper as PDF. Nothing is fetched: whatever an address in it names is refused."""
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    class Nothing(URLFetcher):  # type: ignore[misc]
        """Fetches nothing."""

        def fetch(self, url: str, headers: Any = None) -> Any:
            """Refuse every address."""
            raise ValueError(f"{url[:80]} is not fetched")

    text = _environment().get_template(template).render(paper=paper, size=size)
    made: bytes = HTML(string=text, url_fetcher=Nothing()).write_pdf()
    return made
