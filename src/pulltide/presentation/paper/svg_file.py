"""A picture as an SVG file of its own, in light colors, to be opened anywhere."""

from __future__ import annotations

from xml.sax.saxutils import escape, quoteattr

from pulltide.presentation.painting import Picture

#: Ink, paper, brass and water, as on the screen by day.
INK, MUTED, RULE, BRASS, TIDE, CARD = "#17262b", "#566870", "#d8d0c0", "#a86c1d", "#0d5c6b", "#fffdf8"
#: How a role is drawn, by its first word: fill, stroke, width.
ROLES: dict[str, tuple[str, str, float]] = {
    "grid": ("none", "#ece6d9", 0.6),
    "floor": ("none", INK, 1.6),
    "motor": ("#e7dfce", MUTED, 1.0),
    "case": ("#e7dfce", MUTED, 1.2),
    "wheel": (CARD, INK, 1.3),
    "loop": ("none", INK, 3.0),
    "axis": ("none", MUTED, 0.8),
    "axle": ("none", MUTED, 0.9),
    "axle-dot": (INK, "none", 0.0),
    "turn": ("none", TIDE, 1.8),
    "dimension": ("none", MUTED, 0.9),
    "rod": ("#d9ebea", MUTED, 1.0),
    "band": (INK, "none", 0.0),
    "bearing": ("#ffffff", INK, 1.3),
    "paper": (CARD, "none", 0.0),
    "tick": ("none", RULE, 0.6),
    "torque": ("none", TIDE, 2.0),
    "load": ("none", BRASS, 1.6),
    "beside": ("none", MUTED, 1.2),
    "peak": ("none", MUTED, 0.8),
}
PLAIN = ("none", INK, 1.0)
#: Roles whose line is dashed.
DASHED = ("axis", "chain", "beside", "peak")


def svg_file(picture: Picture) -> bytes:
    """The picture, UTF-8; units are those of the picture."""
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {picture.width:g} {picture.height:g}" '
        f'width="{picture.width:g}" height="{picture.height:g}" role="img" aria-label={quoteattr(picture.caption)}>',
        f'<rect width="100%" height="100%" fill="{CARD}"/>',
    ]
    parts += [_path(mark.d, mark.role) for mark in picture.marks]
    for word in picture.words:
        if word.paper:
            parts.append(_path(word.paper, "paper"))
        weight = 600 if word.role in ("name", "dimension") else 400
        parts.append(
            f'<text x="{word.x:.1f}" y="{word.baseline:.1f}" text-anchor="{word.anchor}" font-size="13" '
            f'font-family="sans-serif" font-weight="{weight}" fill="{INK}">{escape(word.text)}</text>'
        )
    return "\n".join((*parts, "</svg>\n")).encode()


def _path(outline: str, role: str) -> str:
    fill, stroke, width = ROLES.get(role.split(" ")[0], PLAIN)
    dash = ' stroke-dasharray="6 4"' if any(word in role.split(" ") for word in DASHED) else ""
    return (
        f'<path d="{outline}" fill="{fill}" stroke="{stroke}" stroke-width="{width:g}" '
        f'stroke-linejoin="round" stroke-linecap="round"{dash}/>'
    )
