"""The first critical speed of a shaft with wheels on it: where its own bending keeps pace with its turning."""

from __future__ import annotations

from collections.abc import Sequence
from math import pi, sqrt

import numpy as np

from pulltide.core.fit.beam import STEEL_KG_M3, Piece, flexibility

#: The bare shaft counts as lumps no longer than this share of its length.
LUMPS = 24


def critical_rpm(pieces: Sequence[Piece], supports_mm: Sequence[float], masses: Sequence[tuple[float, float]]) -> float:
    """First critical speed [rpm] of masses (station [mm], mass [kg]) and the shaft's own: 1/ω² is the largest
    eigenvalue of δ_ij m_j. Gyroscopic effects and soft supports are left out. Source: influence coefficients, Shigley
    section 7-6.
    """
    lumps = [*masses, *_own(pieces)]
    bends = flexibility(pieces, supports_mm, [at for at, _ in lumps])
    mass = np.array([kg for _, kg in lumps])
    # N and mm to kg and s: one newton a millimeter is 1000 kg/s²
    root = np.sqrt(mass)
    largest = float(np.linalg.eigvalsh(root[:, None] * bends * root[None, :] / 1000)[-1])
    return 60 / (2 * pi) / sqrt(largest)


def _own(pieces: Sequence[Piece]) -> list[tuple[float, float]]:
    whole = pieces[-1].end_mm - pieces[0].start_mm
    found = []
    for piece in pieces:
        length = piece.end_mm - piece.start_mm
        count = max(round(LUMPS * length / whole), 1)
        kg = STEEL_KG_M3 * 1e-9 * pi * piece.diameter_mm**2 / 4 * length / count
        found += [(piece.start_mm + length * (k + 0.5) / count, kg) for k in range(count)]
    return found
