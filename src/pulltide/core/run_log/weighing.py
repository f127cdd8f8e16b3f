"""How well causes explain readings: each at every severity, as arrays over all of them.

P points (a cause at one severity), K readings that there can be, U unknowns and one column for severities between the
points that are tried, R readings that were taken.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import chain
from math import log, pi

import numpy as np

from pulltide.core.run_log.causes import NOTICED, Cause
from pulltide.core.run_log.model import Array, Model

#: How far off the model itself is, as a share of what its unknowns make of a reading: slopes bend, and each reading has
#: faults of its own. Chosen so that readings drawn from a machine with a fault are told rightly.
FAULTY = 0.2


@dataclass(frozen=True, slots=True)
class Read:
    """Readings as arrays: their rows among all that can be read, values and sigmas; and what was noticed."""

    rows: list[int]
    values: Array
    sigmas: Array
    noticed: tuple[str, ...] = ()

    def log_seen(self, cause: Cause) -> float:
        """Of how often a cause shows what was noticed."""
        seen = cause.row.noticed
        return sum(log(seen[name]) for name in self.noticed if name in NOTICED)


@dataclass(frozen=True, slots=True)
class Points:
    """Causes at their severities: the cause and number of each, the logarithm of how common it is, its readings P x K,
    and by how much each unknown moves them by one sigma, P x K x (U + 1).
    """

    causes: tuple[Cause, ...]
    numbers: tuple[int, ...]
    log_priors: Array
    values: Array
    slopes: Array

    @staticmethod
    def of(model: Model, causes: Iterable[Cause]) -> Points:
        """Each cause run at each of its severities."""
        each = list(chain.from_iterable(_points(model, cause) for cause in causes))
        found, numbers, values, slopes = zip(*each, strict=True)
        priors = [log(cause.row.prior / len(cause.offsets)) for cause in found]
        return Points(found, numbers, np.array(priors), np.stack(values), np.stack(slopes))

    def __len__(self) -> int:
        return len(self.causes)

    def and_also(self, others: Points) -> Points:
        """Both together."""
        arrays = (
            np.concatenate([getattr(self, name), getattr(others, name)]) for name in ("log_priors", "values", "slopes")
        )
        return Points(self.causes + others.causes, self.numbers + others.numbers, *arrays)

    def grouped(self) -> dict[tuple[str, str], list[int]]:
        """The points of each cause."""
        found: dict[tuple[str, str], list[int]] = {}
        for place, cause in enumerate(self.causes):
            found.setdefault((cause.code, cause.at), []).append(place)
        return found

    def off(self, place: int) -> dict[str, float]:
        """What a point changes."""
        return self.causes[place].offsets[self.numbers[place]]


def _points(model: Model, cause: Cause) -> Iterator[tuple[Cause, int, Array, Array]]:
    settled = [model.settled(off) for off in cause.offsets]
    made = [model.values(one) for one in settled]
    for number, (off, values) in enumerate(zip(cause.offsets, made, strict=True)):
        slopes = model.slopes(off, settled[number], values)
        yield cause, number, values, np.column_stack([slopes, _between(made, number)])


def _between(made: Sequence[Array], number: int) -> Array:
    """Spread of the severities between the points that are tried: evenly, half way to the neighbors it has."""
    low, high = made[max(number - 1, 0)], made[min(number + 1, len(made) - 1)]
    spread: Array = (high - low) / 2 / 12**0.5
    return spread


@dataclass(frozen=True, slots=True)
class Fits:
    """How points fit the readings: logarithm of the weight of each, chi-square, likelihood of each reading alone P x R,
    where the unknowns are then pulled to in sigmas P x (U + 1), and the readings' covariance P x R x R.
    """

    log_weights: Array
    chi_squares: Array
    alone: Array
    pulled: Array
    covariance: Array

    @staticmethod
    def of(points: Points, read: Read) -> Fits:
        """What is not known moves readings together, their instruments and the model's faults each alone."""
        slopes = points.slopes[:, read.rows]
        own = read.sigmas**2 + (FAULTY * np.linalg.norm(slopes, axis=2)) ** 2
        covariance = slopes @ slopes.transpose(0, 2, 1) + own[:, :, None] * np.eye(len(read.rows))
        residual = read.values - points.values[:, read.rows]
        solved = np.linalg.solve(covariance, residual[:, :, None])[:, :, 0]
        chi_squares = np.einsum("pr,pr->p", residual, solved)
        spread = np.diagonal(covariance, axis1=1, axis2=2)
        alone = -0.5 * (residual**2 / spread + np.log(2 * pi * spread))
        volumes = np.linalg.slogdet(covariance).logabsdet
        likelihoods = -0.5 * (chi_squares + volumes + len(read.rows) * log(2 * pi))
        return Fits(
            log_priors(points, read) + likelihoods,
            chi_squares,
            alone,
            np.einsum("prc,pr->pc", slopes, solved),
            covariance,
        )

    def explained(self, shared: Array) -> Array:
        """What readings tell of the variance of things with which they share so much, P x R x M; P x M."""
        return np.asarray(np.einsum("prm,prm->pm", shared, np.linalg.solve(self.covariance, shared)))

    def of_some(self, places: Sequence[int]) -> Fits:
        """Those of some points."""
        return Fits(*(getattr(self, name)[places] for name in self.__slots__))


def log_priors(points: Points, read: Read) -> Array:
    """Weight of points before their readings: how common they are, and how often they show what was noticed."""
    seen = {id(cause): read.log_seen(cause) for cause in points.causes}
    weights: Array = points.log_priors + np.array([seen[id(cause)] for cause in points.causes])
    return weights
