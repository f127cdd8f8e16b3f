"""A round shaft as a beam on any number of bearings, in one plane, by direct stiffness.

Stations s run along the shaft [mm]. Forces F [N] and deflections w [mm] are positive one way across it; a couple
[N·mm] is positive where it turns s toward w. M(s) is the sum over what stands left of s of F (s - s_i), less couples,
so that E I w'' = M. Source: Euler and Bernoulli beam, Hermite elements; shear is left out, which is 2 % of the
deflection at 10 diameters.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import degrees, pi

import numpy as np
import numpy.typing as npt

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.labels import quantity
from pulltide.core.units import G_M_PER_S2 as G

Floats = npt.NDArray[np.float64]
#: Modulus of elasticity and of shear of steel [MPa], and its density [kg/m³]. Source: Shigley Table A-5.
E_MPA, G_MPA, STEEL_KG_M3 = 207_000.0, 79_300.0, 7850.0
#: Stations nearer to each other than this are one [mm]: elements that are far shorter than others spoil the solution.
SAME_MM = 0.1
#: Shapes of shafts that are remembered while loads are tried on them.
SHAPES = 256


@dataclass(frozen=True, slots=True)
class Piece:
    """A length of one diameter, from one station to the next [mm]."""

    start_mm: float
    end_mm: float
    diameter_mm: float


@dataclass(frozen=True, slots=True)
class Load:
    """A force [N] and a couple [N·mm] at a station [mm]."""

    at_mm: float
    force_n: float
    couple_nmm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Bent:
    """A solved plane: reactions by support, and along the nodes deflection, slope, shear, and moment on both sides."""

    nodes_mm: Floats
    reactions_n: Floats
    deflection_mm: Floats
    slope_rad: Floats
    shear_n: Floats
    moment_left_nmm: Floats
    moment_right_nmm: Floats

    def deflection_at(self, station_mm: float) -> float:
        """Deflection at a node [mm]."""
        return float(self.deflection_mm[self._node(station_mm)])

    def slope_at(self, station_mm: float) -> float:
        """Slope at a node [rad]."""
        return float(self.slope_rad[self._node(station_mm)])

    def moment_at(self, station_mm: float) -> float:
        """The larger moment on either side of a node, with its sign [N·mm]."""
        node = self._node(station_mm)
        sides = self.moment_left_nmm[node], self.moment_right_nmm[node]
        return float(max(sides, key=abs))

    def _node(self, station_mm: float) -> int:
        return int(np.abs(self.nodes_mm - station_mm).argmin())


def inertia_mm4(diameter_mm: float) -> float:
    """Second moment of a round section [mm⁴]: π d⁴ / 64."""
    return pi * diameter_mm**4 / 64


def bend(
    pieces: Sequence[Piece],
    supports_mm: Sequence[float],
    loads: Sequence[Load],
    *,
    settlements_mm: Sequence[float] = (),
    weight: bool = False,
    nodes_mm: Sequence[float] = (),
) -> Bent:
    """Solve a plane: pieces from end to end, at least two supports at different stations.

    ``settlements_mm`` moves the supports; ``weight`` lets the bare shaft hang by its own weight, down being negative;
    ``nodes_mm`` are further stations to read. Raises ImpossibleGeometry for a shaft that is not held.
    """
    system = _System.of(tuple(pieces), tuple(supports_mm), tuple(load.at_mm for load in loads), tuple(nodes_mm))
    force = np.zeros(2 * len(system.nodes))
    for load in loads:
        node = system.node(load.at_mm)
        force[2 * node] += load.force_n
        force[2 * node + 1] += load.couple_nmm
    uniform = np.array([-G * 1e-9 * STEEL_KG_M3 * pi * d**2 / 4 if weight else 0.0 for d in system.diameters])
    consistent = [_uniform(q, length) for q, length in zip(uniform, system.lengths, strict=True)]
    for place, part in enumerate(consistent):
        force[2 * place : 2 * place + 4] += part
    held = np.array([2 * system.node(at) for at in supports_mm])
    moved = np.zeros(len(force))
    moved[held] = settlements_mm if len(settlements_mm) else 0.0
    free = np.setdiff1d(np.arange(len(force)), held)
    moved[free] = np.linalg.solve(
        system.stiffness[np.ix_(free, free)], force[free] - system.stiffness[np.ix_(free, held)] @ moved[held]
    )
    reactions = (system.stiffness @ moved - force)[held]
    left, right, shear = _ends(system, moved, consistent)
    return Bent(
        nodes_mm=system.nodes,
        reactions_n=reactions,
        deflection_mm=moved[0::2],
        slope_rad=moved[1::2],
        shear_n=shear,
        moment_left_nmm=left,
        moment_right_nmm=right,
    )


def _uniform(load_n_per_mm: float, length_mm: float) -> Floats:
    half, twelfth = load_n_per_mm * length_mm / 2, load_n_per_mm * length_mm**2 / 12
    return np.array([half, twelfth, half, -twelfth])


def element(stiffness: float, length: float) -> Floats:
    """Stiffness of one element by its E I [N·mm²] and length [mm]; deflection and slope of both its ends."""
    a = length
    matrix = np.array(
        [
            [12.0, 6 * a, -12.0, 6 * a],
            [6 * a, 4 * a * a, -6 * a, 2 * a * a],
            [-12.0, -6 * a, 12.0, -6 * a],
            [6 * a, 2 * a * a, -6 * a, 4 * a * a],
        ]
    )
    return np.asarray(matrix * stiffness / a**3)


def flexibility(pieces: Sequence[Piece], supports_mm: Sequence[float], stations_mm: Sequence[float]) -> Floats:
    """Deflection at each station under one newton at each other [mm/N]; symmetric."""
    return _flexibility(tuple(pieces), tuple(supports_mm), tuple(stations_mm))


@lru_cache(maxsize=SHAPES)
def _flexibility(pieces: tuple[Piece, ...], supports_mm: tuple[float, ...], stations_mm: tuple[float, ...]) -> Floats:
    system = _System.of(pieces, supports_mm, stations_mm, ())
    held = np.array([2 * system.node(at) for at in supports_mm])
    free = np.setdiff1d(np.arange(2 * len(system.nodes)), held)
    places = np.array([2 * system.node(at) for at in stations_mm])
    unit = np.zeros((2 * len(system.nodes), len(places)))
    unit[places, np.arange(len(places))] = 1.0
    moved = np.zeros_like(unit)
    moved[free] = np.linalg.solve(system.stiffness[np.ix_(free, free)], unit[free])
    found = np.asarray(moved[places])
    found.flags.writeable = False
    return found


@dataclass(frozen=True, slots=True)
class _System:
    """A shaft's shape without its loads; many loads are tried on one."""

    nodes: Floats
    lengths: Floats
    diameters: Floats
    elements: Floats
    stiffness: Floats

    @staticmethod
    @lru_cache(maxsize=SHAPES)
    def of(
        pieces: tuple[Piece, ...],
        supports_mm: tuple[float, ...],
        loads_mm: tuple[float, ...],
        more_mm: tuple[float, ...],
    ) -> _System:
        ends = [piece.start_mm for piece in pieces] + [pieces[-1].end_mm]
        low, high = ends[0], ends[-1]
        stations = [*ends, *supports_mm, *loads_mm, *more_mm]
        outside = [at for at in stations if not low - SAME_MM <= at <= high + SAME_MM]
        if outside:
            raise ImpossibleGeometry(f"Something stands at {quantity(outside[0], 'mm')}, beyond the ends of the shaft.")
        if len(_apart(sorted(supports_mm))) < 2:
            raise ImpossibleGeometry("A shaft needs two bearings at different places.")
        nodes = np.array(_apart(sorted(stations)))
        lengths = np.diff(nodes)
        middles = nodes[:-1] + lengths / 2
        diameters = np.array([_diameter(pieces, middle) for middle in middles])
        whole = np.zeros((2 * len(nodes), 2 * len(nodes)))
        elements = np.stack(
            [
                element(E_MPA * inertia_mm4(diameter), length)
                for length, diameter in zip(lengths, diameters, strict=True)
            ]
        )
        for place, one in enumerate(elements):
            at = slice(2 * place, 2 * place + 4)
            whole[at, at] += one
        return _System(nodes, lengths, diameters, elements, whole)

    def node(self, station_mm: float) -> int:
        """The node at a station."""
        return int(np.abs(self.nodes - station_mm).argmin())


def _apart(stations: Sequence[float]) -> list[float]:
    """Stations in rising order without those that stand as good as at the one before; the last one stays."""
    kept = list(stations[:1])
    for at in stations[1:]:
        if at - kept[-1] >= SAME_MM:
            kept.append(at)
    if len(kept) > 1 and kept[-1] != stations[-1]:
        kept[-1] = stations[-1]
    return kept


def _diameter(pieces: Sequence[Piece], station_mm: float) -> float:
    return next(piece.diameter_mm for piece in pieces if piece.start_mm <= station_mm <= piece.end_mm)


def _ends(system: _System, moved: Floats, consistent: list[Floats]) -> tuple[Floats, Floats, Floats]:
    """Moments left and right of every node, and shear right of it."""
    left, right = np.zeros(len(system.nodes)), np.zeros(len(system.nodes))
    shear = np.zeros(len(system.nodes))
    ends = np.stack([moved[place : place + 4] for place in range(0, len(moved) - 2, 2)])
    force = np.einsum("kij,kj->ki", system.elements, ends) - np.stack(consistent)
    shear[:-1] = force[:, 0]
    right[:-1], left[1:] = -force[:, 1], force[:, 3]
    return left, right, shear


def twist_deg(pieces: Sequence[Piece], stretch_mm: tuple[float, float], torque_nm: float) -> float:
    """How far a torque turns one end of a stretch of a shaft against the other [degrees].

    θ = Σ T L / (G J), J = π d⁴ / 32. Source: exact for round steel, G 79,300 MPa.

    >>> round(twist_deg([Piece(0.0, 500.0, 25.0)], (0.0, 500.0), 100.0), 3)
    0.942
    """
    low, high = stretch_mm
    turned = 0.0
    for piece in pieces:
        long = min(piece.end_mm, high) - max(piece.start_mm, low)
        if long > 0:
            turned += 1000 * torque_nm * long / (G_MPA * pi * piece.diameter_mm**4 / 32)
    return degrees(turned)
