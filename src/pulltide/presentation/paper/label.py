"""A label for a machine: its name and a code that opens its page."""

from __future__ import annotations

from io import BytesIO
from xml.sax.saxutils import escape, quoteattr

from markupsafe import Markup

#: Sizes of a label [mm]: it is stuck on a cabinet door.
WIDTH_MM, HEIGHT_MM, CODE_MM, EDGE_MM = 80.0, 36.0, 30.0, 3.0
#: So many letters of a name stand on a line.
LETTERS = 18
MAX_LINES = 3


def code_svg(text: str) -> Markup:
    """A code that a phone reads, dark on white in any theme, as wide as what it stands in."""
    import segno

    stream = BytesIO()
    segno.make(text, error="m", micro=False).save(
        stream, kind="svg", border=3, light="#fff", dark="#000", xmldecl=False, svgns=False, nl=False, omitsize=True
    )
    return Markup(stream.getvalue().decode())


def label_svg(name: str, below: str, address: str) -> bytes:
    """The label in true size; ``below`` stands small under the name."""
    import segno

    code = segno.make(address, error="m", micro=False)
    border, modules = 0, code.symbol_size(border=0)[0]
    scale = CODE_MM / modules
    stream = BytesIO()
    code.save(stream, kind="svg", border=border, scale=scale, xmldecl=False, svgns=False, nl=False)
    inner = stream.getvalue().decode()
    lines = _lines(name)
    left = CODE_MM + 2 * EDGE_MM
    words = "".join(
        f'<text x="{left:g}" y="{9 + 6 * number:g}" font-size="5" font-weight="700">{escape(line)}</text>'
        for number, line in enumerate(lines)
    )
    words += f'<text x="{left:g}" y="{HEIGHT_MM - EDGE_MM:g}" font-size="3">{escape(below)}</text>'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH_MM:g} {HEIGHT_MM:g}" width="{WIDTH_MM:g}mm" '
        f'height="{HEIGHT_MM:g}mm" font-family="sans-serif" role="img" aria-label={quoteattr(name)}>'
        f'<rect width="100%" height="100%" fill="#fff" stroke="#17262b" stroke-width=".3"/>'
        f'<g transform="translate({EDGE_MM:g} {EDGE_MM:g})">{inner}</g>{words}</svg>\n'
    ).encode()


def _lines(name: str) -> list[str]:
    """A name on lines of so many letters; what is left over is cut with dots."""
    lines = [""]
    for word in name.split():
        longer = f"{lines[-1]} {word}".strip()
        if len(longer) <= LETTERS or not lines[-1]:
            lines[-1] = longer
        else:
            lines.append(word)
    lines = [line if len(line) <= LETTERS else f"{line[: LETTERS - 1]}…" for line in lines]
    return lines if len(lines) <= MAX_LINES else [*lines[: MAX_LINES - 1], f"{lines[MAX_LINES - 1][: LETTERS - 1]}…"]
