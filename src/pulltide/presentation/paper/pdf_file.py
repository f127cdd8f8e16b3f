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
from pulltide.words import say, spoken
from pulltide.words.templates import Translated

Size = Literal["A4", "Letter"]
#: Letters of the form on one page, from the largest down [pt]; below the last nobody reads it at arm's length.
POINTS = (8.4, 7.6, 6.8, 6.2, 5.6, 5.0)


@cache
def _environment(language: str) -> Environment:
    made = Environment(
        loader=FileSystemLoader(TEMPLATES),
        extensions=[Translated],
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )
    made.globals |= {"_": say, "language": language}
    return made


def sheet_pdf(paper: SheetPaper, size: Size = "Letter") -> bytes:
    """The sheet as PDF; what writes it styles no drawing from outside, so that its colors are put into it.

    The short form is set in the largest letters that fit it on one page.
    """
    drawn = (svg_file(picture).decode() for picture in (paper.elevation, paper.from_above))
    ready = replace(paper, svgs=tuple(Markup(text) for text in drawn))
    if paper.form != "short":
        return pdf_of("paper/sheet.html", ready, size)
    made: bytes = _on_one_page("paper/sheet.html", ready, size).write_pdf()
    return made


def _on_one_page(template: str, paper: Any, size: Size) -> Any:
    """In the largest letters that fit, by halves, as each layout takes its time; in the smallest where none do."""
    too_large, fits, document = -1, len(POINTS) - 1, None
    while fits - too_large > 1:
        middle = (too_large + fits) // 2
        tried = _laid_out(template, paper, size, POINTS[middle])
        if len(tried.pages) == 1:
            fits, document = middle, tried
        else:
            too_large = middle
    return document or _laid_out(template, paper, size, POINTS[-1])


def pdf_of(template: str, paper: Any, size: Size) -> bytes:
    """A template with its paper as PDF."""
    made: bytes = _laid_out(template, paper, size, POINTS[0]).write_pdf()
    return made


def _laid_out(template: str, paper: Any, size: Size, points: float) -> Any:
    """Pages of a template. Nothing is fetched: whatever an address in it names is refused."""
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    class Nothing(URLFetcher):  # type: ignore[misc]
        """Fetches nothing."""

        def fetch(self, url: str, headers: Any = None) -> Any:
            """Refuse every address."""
            raise ValueError(f"{url[:80]} is not fetched")

    text = _environment(spoken()).get_template(template).render(paper=paper, size=size, points=points)
    return HTML(string=text, url_fetcher=Nothing()).render()
