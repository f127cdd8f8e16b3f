"""A wheel to make as files: its outline as DXF and SVG in true size, and a sheet with measures and 1:1 tiles as PDF."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from html import escape
from io import StringIO
from math import ceil
from typing import Literal

from markupsafe import Markup

from pulltide.core.making import MadeWheel, bore_outline
from pulltide.core.sketch import Point
from pulltide.presentation.paper.pdf_file import Size, pdf_of
from pulltide.presentation.words import cited
from pulltide.quantities import Units, show
from pulltide.words import filled

WheelKind = Literal["dxf", "svg", "pdf"]
WHEEL_KINDS: Mapping[WheelKind, str] = {"dxf": "image/vnd.dxf", "svg": "image/svg+xml", "pdf": "application/pdf"}
#: Room round an outline, and what a page shows of it [mm]: both papers less their edges and a heading.
EDGE_MM = 6.0
TILE_MM: Mapping[Size, tuple[float, float]] = {"A4": (180.0, 236.0), "Letter": (184.0, 218.0)}
#: Length of the ruler that proves the print [mm].
RULER_MM = 100.0
#: So many pages of tiles are made at most; a larger wheel is had as DXF.
MOST_TILES = 24


@dataclass(frozen=True, slots=True, kw_only=True)
class WheelPaper:
    """One wheel in words and drawings; ``tiles`` are in true size, each with where it belongs."""

    machine: str
    plan: str
    where: str
    title: str
    bore: str
    measures: tuple[tuple[str, str, str], ...]
    order: tuple[str, ...]
    source: str
    caution: str
    drawing: Markup
    tiles: tuple[tuple[str, Markup], ...]
    too_large: bool


def wheel_paper(wheel: MadeWheel, where: tuple[str, str, str], units: Units, size: Size = "Letter") -> WheelPaper:
    """``where`` names machine, plan and stage."""
    measures = tuple((m.name, _value(m.value, m.unit, units), filled(m.note, units)) for m in wheel.measures)
    tiles = tuple(_tiles(wheel, size))
    return WheelPaper(
        machine=where[0],
        plan=where[1],
        where=where[2],
        title=wheel.title,
        bore=_bore(wheel, units),
        measures=measures,
        order=tuple(filled(step, units) for step in wheel.order),
        source=cited(wheel.source),
        caution=wheel.caution,
        drawing=Markup(_svg(wheel, _window(wheel), true_size=False)),  # made of numbers and an escaped title
        tiles=tiles if len(tiles) <= MOST_TILES else (),
        too_large=len(tiles) > MOST_TILES,
    )


def _value(value: float, unit: str, units: Units) -> str:
    if unit == "mm":
        return f"{value:.2f} mm" if units.unit_for("mm") == "mm" else f"{value / 25.4:.4f} in ({value:.2f} mm)"
    return f"{value:g}{unit}"


def _bore(wheel: MadeWheel, units: Units) -> str:
    if wheel.bore_mm is None:
        return "to the shaft, whose size is not entered or leaves the rim too thin"
    key = f", keyseat {show(wheel.key_mm[0], 'mm', units)} wide" if wheel.key_mm else ""
    return f"{show(wheel.bore_mm, 'mm', units)}{key}"


Window = tuple[float, float, float, float]


def _window(wheel: MadeWheel) -> Window:
    """Left, low, width and height of all there is to draw [mm]."""
    xs, ys = zip(*wheel.outline, strict=True)
    low = 0.0 if wheel.turned else min(ys)
    left = min(xs) - EDGE_MM
    return left, low - EDGE_MM, max(xs) - left + EDGE_MM, max(ys) - low + 2 * EDGE_MM


def _path(points: tuple[Point, ...]) -> str:
    return "M" + "L".join(f"{x:.4f} {-y:.4f}" for x, y in points) + "Z"


def _svg(wheel: MadeWheel, window: Window, *, true_size: bool, marks: str = "") -> str:
    left, low, wide, high = window
    bore = bore_outline(wheel)
    cut = _path(wheel.outline) + (_path(bore) if bore else "")
    size = f'width="{wide:.3f}mm" height="{high:.3f}mm" ' if true_size else ""
    axis = f'<path d="M{left:.3f} 0H{left + wide:.3f}" stroke-dasharray="6 2 1 2"/>' if wheel.turned else ""
    cross = "" if wheel.turned else '<path d="M-4 0H4M0 -4V4"/>'
    view = f"{left:.3f} {-(low + high):.3f} {wide:.3f} {high:.3f}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" {size}viewBox="{view}" role="img" aria-label="{escape(wheel.title)}">'
        f'<path d="{cut}" fill="#e9e4d8" fill-rule="evenodd" stroke="#17262b" stroke-width=".25"/>'
        f'<g fill="none" stroke="#566870" stroke-width=".2">{axis}{cross}</g>{marks}</svg>'
    )


def _tiles(wheel: MadeWheel, size: Size) -> Iterator[tuple[str, Markup]]:
    """Pages of the outline in true size, row by row from the top, with marks where they join."""
    left, low, wide, high = _window(wheel)
    tile_wide, tile_high = TILE_MM[size]
    across, down = ceil(wide / tile_wide), ceil(high / tile_high)
    if across * down > MOST_TILES:
        yield from (("", Markup("")) for _ in range(MOST_TILES + 1))
        return
    for row in range(down):
        for column in range(across):
            x = left + column * tile_wide
            y = low + high - (row + 1) * tile_high
            here = f"row {row + 1} of {down}, column {column + 1} of {across}"
            yield here, Markup(_svg(wheel, (x, y, tile_wide, tile_high), true_size=True, marks=_marks(x, y, size)))


def _marks(x: float, y: float, size: Size) -> str:
    """Crosses at the corners of a tile, where the next one joins, and the ruler along its foot."""
    wide, high = TILE_MM[size]
    corners = [(x + a * wide, -(y + b * high)) for a in (0, 1) for b in (0, 1)]
    crosses = "".join(f"M{a - 3:.3f} {b:.3f}h6M{a:.3f} {b - 3:.3f}v6" for a, b in corners)
    foot = -y - 4
    ticks = "".join(f"M{x + 4 + k:.3f} {foot:.3f}v{-3 if k % 10 == 0 else -1.5}" for k in range(0, 101, 5))
    ruler = f"M{x + 4:.3f} {foot:.3f}h{RULER_MM:g}{ticks}"
    return f'<path d="{crosses}{ruler}" fill="none" stroke="#17262b" stroke-width=".2"/>'


def wheel_file(wheel: MadeWheel, kind: WheelKind, paper: WheelPaper, size: Size = "Letter") -> bytes:
    """The wheel as a file of a kind."""
    if kind == "svg":
        return _svg(wheel, _window(wheel), true_size=True).encode()
    return _dxf(wheel) if kind == "dxf" else pdf_of("paper/wheel.html", paper, size)


def _dxf(wheel: MadeWheel) -> bytes:
    """Closed outlines in millimeters: the cut on OUTLINE, the bore on BORE, the axis of what is turned on AXIS."""
    from ezdxf.document import Drawing
    from ezdxf.units import MM

    document = Drawing.new("R2010")
    document.units = MM
    for name, color in (("OUTLINE", 7), ("BORE", 1), ("AXIS", 8)):
        document.layers.add(name, color=color)
    space = document.modelspace()
    space.add_lwpolyline(wheel.outline, close=True, dxfattribs={"layer": "OUTLINE"})
    bore = bore_outline(wheel)
    if bore:
        space.add_lwpolyline(bore, close=True, dxfattribs={"layer": "BORE"})
    if wheel.turned:
        space.add_line((-EDGE_MM, 0.0), (wheel.face_mm + EDGE_MM, 0.0), dxfattribs={"layer": "AXIS"})
    stream = StringIO()
    document.write(stream)
    return stream.getvalue().encode("utf-8", "dxfreplace")


def stage_words(name: str) -> str:
    """Where a wheel belongs, by its name.

    >>> stage_words("2-driven")
    'stage 2, driven'
    """
    stage, _, side = name.partition("-")
    return f"stage {stage}, {side}"
