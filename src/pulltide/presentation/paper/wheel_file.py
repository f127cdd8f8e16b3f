"""A wheel to make as files: its outline as DXF and SVG, a solid as STL and 3MF, a sheet with 1:1 tiles as PDF."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from html import escape
from io import StringIO
from math import ceil
from typing import Literal

from markupsafe import Markup

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.made.fixing import fixings
from pulltide.core.made.part import stuff_of
from pulltide.core.made.profile import MakingProfile
from pulltide.core.made.wheel import MadeWheel
from pulltide.core.sketch import Point
from pulltide.presentation.paper.pdf_file import Size, pdf_of
from pulltide.presentation.paper.regions import Region, moved, outlines_of, sectors, sectors_needed
from pulltide.presentation.paper.solid_file import solid_file
from pulltide.presentation.paper.wheel_drawing import drawing_of
from pulltide.presentation.words import FindingLine, cited
from pulltide.quantities import Units, show
from pulltide.words import filled, say, worded

WheelKind = Literal["dxf", "svg", "pdf", "stl", "3mf"]
WHEEL_KINDS: Mapping[WheelKind, str] = {
    "dxf": "image/vnd.dxf",
    "svg": "image/svg+xml",
    "pdf": "application/pdf",
    "stl": "model/stl",
    "3mf": "model/3mf",
}
#: An outline as it is drawn, moved for the cutter's kerf, or cut into sectors for the sheet at hand.
Shape = Literal["drawn", "kerf", "sectors"]
#: Room round an outline, and what a page shows of it [mm]: both papers less their edges and a heading.
EDGE_MM = 6.0
TILE_MM: Mapping[Size, tuple[float, float]] = {"A4": (180.0, 236.0), "Letter": (184.0, 218.0)}
#: Length of the ruler that proves the print [mm].
RULER_MM = 100.0
#: So many pages of tiles are made at most; a larger wheel is had as DXF.
MAX_TILES = 24


@dataclass(frozen=True, slots=True, kw_only=True)
class Look:
    """How a wheel is written: on what paper, for which machines, made of what (in words), in which shape."""

    size: Size = "Letter"
    profile: MakingProfile = field(default_factory=MakingProfile)
    made_of: str = ""
    shape: Shape = "drawn"


@dataclass(frozen=True, slots=True, kw_only=True)
class WheelPaper:
    """One wheel in words and drawings; ``tiles`` are in true size, each with where it belongs. ``allowed`` says what
    its files allow for."""

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
    made_of: str
    allowed: tuple[str, ...]
    look: Look
    judged: tuple[FindingLine, ...] = ()


PLAIN = Look()


def wheel_paper(wheel: MadeWheel, where: tuple[str, str, str], units: Units, look: Look = PLAIN) -> WheelPaper:
    """``where`` names machine, plan and stage. Raises InputErrors where the profile tells not what a shape takes."""
    measures_of_all = (*wheel.measures, *fixings(wheel))
    measures = tuple((worded(m.name), _value(m.value, m.unit, units), filled(m.note, units)) for m in measures_of_all)
    pieces = _pieces(wheel) if look.shape == "drawn" else shaped(wheel, look.profile, look.shape)
    tiles = tuple(_tiles(worded(wheel.title), pieces, look.size))
    return WheelPaper(
        machine=where[0],
        plan=where[1],
        where=where[2],
        title=worded(wheel.title),
        bore=_bore(wheel, units),
        measures=(*measures, *_boss(wheel, units)),
        order=tuple(filled(step, units) for step in wheel.order),
        source=cited(wheel.source),
        caution=" ".join(filter(None, (worded(wheel.caution), rim_caution(wheel, units)))),
        drawing=drawing_of(wheel, units),
        tiles=tiles if len(tiles) <= MAX_TILES else (),
        too_large=len(tiles) > MAX_TILES,
        made_of=look.made_of,
        allowed=tuple(_allowed(wheel, look.profile, units)),
        look=look,
    )


#: Where whoever starts a soft wheel stands, and what holds it while it is cut. Common practice, no source.
RIM = "A printed, wooden or plastic rim that bursts flies outward: keep it under {}, guard it, and stand beside it."


def rim_caution(wheel: MadeWheel, units: Units) -> str:
    """What is said of the rim of a soft wheel, or of one of nobody knows what; nothing of one of metal."""
    stuff = stuff_of(wheel.material)
    if stuff is None:
        return say("A printed or wooden rim is kept slow.") if wheel.hub else ""
    if not stuff.soft or not wheel.hub:
        return ""
    return RIM.format(show(stuff.rim_m_per_s, "m/s", units))


def _value(value: float, unit: str, units: Units) -> str:
    if unit == "mm":
        return (
            say("{value:.2f} mm", value=value)
            if units.unit_for("mm") == "mm"
            else say("{inches:.4f} in ({value:.2f} mm)", inches=value / 25.4, value=value)
        )
    return f"{value:.4g}{unit}"


def _bore(wheel: MadeWheel, units: Units) -> str:
    if not wheel.hub:
        return say("none: no shaft goes through it")
    if wheel.bore_mm is None:
        return say("to the shaft, whose size is not entered or leaves the rim too thin")
    key = ""
    if wheel.key_mm:
        key = say(
            ", keyseat {key} wide, {key_2} deep",
            key=show(wheel.key_mm[0], "mm", units),
            key_2=show(wheel.key_mm[1], "mm", units),
        )
    return f"{show(wheel.bore_mm, 'mm', units)}{key}"


def _boss(wheel: MadeWheel, units: Units) -> Iterator[tuple[str, str, str]]:
    """The hub of a printed one."""
    if wheel.boss_mm is not None:
        across, long = (_value(value, "mm", units) for value in wheel.boss_mm)
        yield say("Hub, where it is printed"), across, say("{long} long, in the STL and 3MF alone", long=long)


def _allowed(wheel: MadeWheel, profile: MakingProfile, units: Units) -> Iterator[str]:
    """What every kind of file allows for."""
    if not wheel.turned:
        yield say("DXF and SVG are true size, with nothing allowed for the cut.")
        if profile.kerf_mm is not None:
            half = show(profile.kerf_mm / 2, "mm", units)
            yield say("For the cutter: every edge stands {half} off, half of its kerf.", half=half)
        if profile.sheet_mm is not None:
            yield _sector_words(wheel, profile.sheet_mm)
    if wheel.turned and profile.lathe_swing_mm is not None:
        yield _lathe_words(wheel, profile.lathe_swing_mm, units)
    bits = []
    if profile.clearance_mm:
        bits.append(say("{clearance} off every face", clearance=show(profile.clearance_mm, "mm", units)))
    if profile.shrinkage:
        bits.append(say("{scale:.2g} % larger for shrinkage", scale=100 * (profile.scale - 1)))
    solid = say("Solid where its bore is not known. ") if wheel.hub and wheel.bore_mm is None else ""
    yield say(
        "{solid}STL and 3MF: {bits}.",
        solid=solid,
        bits=" and ".join(bits) or "true size, no clearance and no shrinkage entered",
    )


def _lathe_words(wheel: MadeWheel, swing_mm: float, units: Units) -> str:
    across = wheel.outside_mm
    if across <= swing_mm:
        return say("It turns on the lathe at hand, which takes {swing}.", swing=show(swing_mm, "mm", units))
    over = show(across - swing_mm, "mm", units)
    return say(
        "{across} across is {over} more than the lathe at hand takes: have it turned elsewhere.",
        across=show(across, "mm", units),
        over=over,
    )


def _sector_words(wheel: MadeWheel, sheet_mm: tuple[float, float]) -> str:
    count = sectors_needed(wheel, sheet_mm)
    if count == 0:
        return say("It does not fit the sheet at hand, not even in sectors.")
    return (
        say("It fits the sheet at hand.")
        if count == 1
        else say("It fits the sheet at hand in {count} sectors.", count=count)
    )


def shapes_offered(wheel: MadeWheel, profile: MakingProfile) -> tuple[Shape, ...]:
    """In which shapes the outline of a wheel can be had, beside as it is drawn."""
    if wheel.turned:
        return ()
    kerf: tuple[Shape, ...] = ("kerf",) if profile.kerf_mm is not None else ()
    split = profile.sheet_mm is not None and sectors_needed(wheel, profile.sheet_mm) > 1
    return (*kerf, "sectors") if split else kerf


def shaped(wheel: MadeWheel, profile: MakingProfile, shape: Shape) -> tuple[Region, ...]:
    """The pieces of metal of a wheel; sectors are moved for the kerf too, where one is known.

    Raises InputErrors where the profile does not tell what the shape takes.
    """
    if shape != "drawn" and shape not in shapes_offered(wheel, profile):
        what = say("the kerf") if shape == "kerf" else say("a sheet that the wheel fits in sectors")
        raise InputErrors(
            [InputError(say("Shape"), shape, say("takes {what}, which is not entered beside the wheel", what=what))]
        )
    pieces: tuple[Region, ...] = (outlines_of(wheel),)
    if shape == "sectors":
        pieces = sectors(wheel, sectors_needed(wheel, profile.sheet_mm or (0.0, 0.0)))
    if shape == "drawn":
        return pieces
    return tuple(part for piece in pieces for part in moved(piece, (profile.kerf_mm or 0.0) / 2))


Window = tuple[float, float, float, float]


def _window(pieces: tuple[Region, ...]) -> Window:
    """Left, low, width and height of all there is to draw [mm]."""
    xs, ys = zip(*(point for piece in pieces for point in piece.outer), strict=True)
    left, low = min(xs) - EDGE_MM, min(ys) - EDGE_MM
    return left, low, max(xs) - left + EDGE_MM, max(ys) - low + 2 * EDGE_MM


def _path(points: tuple[Point, ...]) -> str:
    return "M" + "L".join(f"{x:.4f} {-y:.4f}" for x, y in points) + "Z"


def _pieces(wheel: MadeWheel) -> tuple[Region, ...]:
    """What is drawn of a wheel as it is: its face, or the half section over its axis."""
    return (Region(wheel.section),) if wheel.turned else (outlines_of(wheel),)


def _svg(title: str, pieces: tuple[Region, ...], window: Window, marks: str = "") -> str:
    """Pieces in true size."""
    left, low, wide, high = window
    cut = "".join(_path(points) for piece in pieces for points in (piece.outer, *piece.inner))
    size = f'width="{wide:.3f}mm" height="{high:.3f}mm" '
    view = f"{left:.3f} {-(low + high):.3f} {wide:.3f} {high:.3f}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" {size}viewBox="{view}" role="img" aria-label="{escape(title)}">'
        f'<path d="{cut}" fill="#e9e4d8" fill-rule="evenodd" stroke="#17262b" stroke-width=".25"/>'
        f'<path d="M-4 0H4M0 -4V4" fill="none" stroke="#566870" stroke-width=".2"/>{marks}</svg>'
    )


def _tiles(title: str, pieces: tuple[Region, ...], size: Size) -> Iterator[tuple[str, Markup]]:
    """Pages of an outline in true size, row by row from the top, with marks where they join."""
    left, low, wide, high = _window(pieces)
    tile_wide, tile_high = TILE_MM[size]
    across, down = ceil(wide / tile_wide), ceil(high / tile_high)
    if across * down > MAX_TILES:
        yield from (("", Markup("")) for _ in range(MAX_TILES + 1))
        return
    for row in range(down):
        for column in range(across):
            x = left + column * tile_wide
            y = low + high - (row + 1) * tile_high
            here = say(
                "row {row} of {down}, column {column} of {across}",
                row=row + 1,
                down=down,
                column=column + 1,
                across=across,
            )
            window = (x, y, tile_wide, tile_high)
            yield here, Markup(_svg(title, pieces, window, marks=_marks(x, y, size)))  # numbers, escaped title


def _marks(x: float, y: float, size: Size) -> str:
    """Crosses at the corners of a tile, where the next one joins, and the ruler along its foot."""
    wide, high = TILE_MM[size]
    corners = [(x + a * wide, -(y + b * high)) for a in (0, 1) for b in (0, 1)]
    crosses = "".join(f"M{a - 3:.3f} {b:.3f}h6M{a:.3f} {b - 3:.3f}v6" for a, b in corners)
    foot = -y - 4
    ticks = "".join(f"M{x + 4 + k:.3f} {foot:.3f}v{-3 if k % 10 == 0 else -1.5}" for k in range(0, 101, 5))
    ruler = f"M{x + 4:.3f} {foot:.3f}h{RULER_MM:g}{ticks}"
    return f'<path d="{crosses}{ruler}" fill="none" stroke="#17262b" stroke-width=".2"/>'


def outline_file(wheel: MadeWheel, kind: Literal["dxf", "svg"], profile: MakingProfile, shape: Shape) -> bytes:
    """The outline in a shape. Raises InputErrors where the profile does not tell what the shape takes."""
    pieces = _pieces(wheel) if shape == "drawn" else shaped(wheel, profile, shape)
    return _svg(worded(wheel.title), pieces, _window(pieces)).encode() if kind == "svg" else _dxf(wheel, pieces)


def wheel_file(wheel: MadeWheel, kind: WheelKind, paper: WheelPaper) -> bytes:
    """The wheel as a file of a kind, in the look of its paper."""
    look = paper.look
    if kind == "stl" or kind == "3mf":
        return solid_file(wheel, kind, look.profile)
    if kind == "pdf":
        return pdf_of("paper/wheel.html", paper, look.size)
    return outline_file(wheel, kind, look.profile, look.shape)


def _dxf(wheel: MadeWheel, pieces: tuple[Region, ...]) -> bytes:
    """Closed outlines in millimeters: the cut on OUTLINE, bore and holes on BORE, the axis of turned ones on AXIS."""
    from ezdxf.document import Drawing
    from ezdxf.units import MM

    document = Drawing.new("R2010")
    document.units = MM
    for name, color in (("OUTLINE", 7), ("BORE", 1), ("AXIS", 8)):
        document.layers.add(name, color=color)
    space = document.modelspace()
    for piece in pieces:
        space.add_lwpolyline(piece.outer, close=True, dxfattribs={"layer": "OUTLINE"})
        for hole in piece.inner:
            space.add_lwpolyline(hole, close=True, dxfattribs={"layer": "BORE"})
    if wheel.turned:
        space.add_line((-EDGE_MM, 0.0), (wheel.face_mm + EDGE_MM, 0.0), dxfattribs={"layer": "AXIS"})
    stream = StringIO()
    document.write(stream)
    return stream.getvalue().encode("utf-8", "dxfreplace")


def stage_words(name: str) -> str:
    """Where a wheel belongs, by its name.

    >>> stage_words("2-driven"), stage_words("end-driver")
    ('stage 2, driven', 'the last shaft')
    """
    stage, _, side = name.partition("-")
    if stage == "end":
        return say("the last shaft") if side == "driver" else say("the machine")
    return say("stage {stage}, {side}", stage=stage, side=side)
