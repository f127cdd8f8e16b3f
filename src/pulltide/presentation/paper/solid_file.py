"""A wheel as a solid to print: STL and 3MF, with walls, hub, flanges and keyseat."""

from __future__ import annotations

from dataclasses import replace
from math import pi
from typing import Any, Literal

from pulltide.core.made.profile import MakingProfile
from pulltide.core.made.wheel import CHORD_MM, MadeWheel, arc, bore_outline
from pulltide.presentation.paper.regions import area_of, outlines_of, signed_area

SolidKind = Literal["stl", "3mf"]
#: Chord error of what is turned [mm], coarser than outlines: no printer shows it.
TURNED_CHORD_MM = 4 * CHORD_MM


def solid_of(wheel: MadeWheel, profile: MakingProfile) -> Any:
    """The wheel as a closed solid [mm], on its face, as large as it is to be printed."""
    body = _turned(wheel, profile) if wheel.turned else _plate(wheel, profile)
    return body.scale((profile.scale,) * 3)


def _plate(wheel: MadeWheel, profile: MakingProfile) -> Any:
    """Outline through the face, flanges at both ends, hub above, bore and keyseat through all of it."""
    off = profile.clearance_mm or 0.0
    whole = outlines_of(replace(wheel, bore_mm=None))
    body = _drawn_in(area_of([whole.outer, *whole.inner]), off).extrude(wheel.face_mm)
    top = wheel.face_mm
    if wheel.flange_mm is not None:
        disc = _disc(wheel.flange_mm[0]).extrude(wheel.flange_mm[1])
        body = disc + body.translate((0, 0, wheel.flange_mm[1])) + disc.translate((0, 0, top + wheel.flange_mm[1]))
        top += 2 * wheel.flange_mm[1]
    if wheel.boss_mm is not None:
        body += _disc(wheel.boss_mm[0]).extrude(top + wheel.boss_mm[1])
        top += wheel.boss_mm[1]
    bore = bore_outline(wheel)
    return body - _drawn_in(area_of([bore]), -off).extrude(3 * top).translate((0, 0, -top)) if bore else body


def _turned(wheel: MadeWheel, profile: MakingProfile) -> Any:
    """The half section turned round its axis, its keyseat cut."""
    off = profile.clearance_mm or 0.0
    # while its bore is not known it is solid: no hole that fits nothing
    inner = min(y for _, y in wheel.outline)
    points = tuple((0.0 if wheel.bore_mm is None and y == inner else y, x) for x, y in wheel.section)
    section = area_of([points if signed_area(points) > 0 else tuple(reversed(points))])
    radius = max(x for x, _ in points)
    segments = max(round(pi * (radius / (2 * TURNED_CHORD_MM)) ** 0.5), 48)
    body = _drawn_in(section, off).revolve(segments)
    if wheel.bore_mm is None or wheel.key_mm is None:
        return body
    # the bore with its keyseat, as a plate has it
    slot = bore_outline(replace(wheel, turned=False))
    return body - _drawn_in(area_of([slot]), -off).extrude(3 * wheel.face_mm).translate((0, 0, -wheel.face_mm))


def _drawn_in(area: Any, by_mm: float) -> Any:
    """Every edge moved into the metal."""
    from manifold3d import JoinType

    return area.offset(-by_mm, JoinType.Miter, 2.0) if by_mm else area


def _disc(diameter_mm: float) -> Any:
    return area_of([tuple(arc((0.0, 0.0), diameter_mm / 2, 0.0, 2 * pi))[:-1]])


def solid_file(wheel: MadeWheel, kind: SolidKind, profile: MakingProfile) -> bytes:
    """The solid as a file of a kind, in millimeters."""
    from trimesh import Trimesh

    mesh = solid_of(wheel, profile).to_mesh()
    solid = Trimesh(mesh.vert_properties[:, :3], mesh.tri_verts, process=False)
    made: Any = solid.export(file_type=kind)
    return bytes(made)
