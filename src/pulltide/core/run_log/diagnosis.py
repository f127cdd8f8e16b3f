"""Which cause explains the readings: every cause as a changed drive, weighed by how well all readings fit it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import exp, log, pi

import numpy as np

from pulltide.core.run_log.causes import NOTICED, Cause, CauseRow
from pulltide.core.run_log.instruments import usual
from pulltide.core.run_log.model import Array, Model, joined
from pulltide.core.run_log.running import Quantity
from pulltide.core.run_log.weighing import FAULTY, Fits, Points, Read, log_priors

#: How far off, in sigmas, a reading is where none of the causes is it, and how much such a thing weighs.
NONE_SIGMAS, NONE_WEIGHT = 6.0, 0.05
#: Told is a cause of at least so much, so many times the second: then it is the right one nine times in ten on machines
#: drawn with one fault and nine or more readings.
TOLD, OVER_SECOND = 0.75, 3.0
#: Worth taking is a reading that tells at least so many bits.
WORTH_BITS = 0.1
#: Draws by which the next reading is weighed.
DRAWS = 240
#: Minutes to lock the machine out before something is read at rest.
LOCKOUT_MINUTES = 5.0
#: Chi-square that readings exceed once in a hundred, by their number. Source: any table of the distribution.
CHI_99 = (6.63, 9.21, 11.34, 13.28, 15.09, 16.81, 18.48, 20.09, 21.67, 23.21, 24.72, 26.22, 27.69, 29.14, 30.58)
#: The drive as it should be.
HEALTHY = "nothing_wrong"


@dataclass(frozen=True, slots=True)
class Observation:
    """One reading: what, where, its value (a rise for temperatures) and one sigma of its instrument."""

    what: str
    at: str
    value: float
    sigma: float

    @property
    def key(self) -> Quantity:
        """What and where."""
        return self.what, self.at


@dataclass(frozen=True, slots=True)
class Ranked:
    """One cause with its probability; ``speaks`` tells of each reading whether it is for it (1), against (-1), or not
    told.
    """

    code: str
    at: str
    probability: float
    severity: float
    speaks: tuple[int, ...]
    chi_square: float
    expected: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Next:
    """A reading not yet taken: the bits it would tell and the minutes it takes."""

    what: str
    at: str
    bits: float
    minutes: float
    instrument: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Diagnosis:
    """Causes, most likely first. ``is_certain`` says whether the first is far enough ahead; ``none_fits`` that no known
    cause explains the readings; ``worst`` is then the reading that is farthest off.
    """

    ranked: tuple[Ranked, ...]
    is_certain: bool
    none_fits: bool
    nexts: tuple[Next, ...]
    load: tuple[float, float] | None
    worst: int | None = None

    @property
    def first(self) -> Ranked:
        """The most likely."""
        return self.ranked[0]


class Suspects:
    """Every cause that a drive can have, worked out once; readings are then weighed quickly, as often as there are any.

    The first cause is the healthy drive.
    """

    def __init__(self, model: Model, causes: Iterable[Cause]) -> None:
        self.model, self.causes = model, tuple(causes)
        self.points = Points.of(model, self.causes)

    def diagnose(self, observed: Sequence[Observation], noticed: Sequence[str] = (), seed: int = 1) -> Diagnosis:
        """Weigh every cause by readings and by what was noticed. Two at once are tried where no single one explains
        the readings. Raises ValueError where a reading is of what this drive does not have.
        """
        read = Read(
            [self.model.keys.index(item.key) for item in observed],
            np.array([item.value for item in observed]),
            np.array([item.sigma for item in observed]),
            tuple(noticed),
        )
        weighed = _Weighed.of(self.points, read)
        pairs = list(_pairs(self.causes, weighed.top(PAIRED))) if weighed.refused else []
        if pairs:
            weighed = _Weighed.of(self.points.and_also(Points.of(self.model, pairs)), read)
        return weighed.diagnosis(self.model, seed)


#: So many of the likeliest causes are tried two at a time.
PAIRED = 5
#: Most sigmas an unknown is taken to be off, and sigmas of an instrument that a reading may be off by then.
MAX_SIGMAS, FAR = 3.0, 6.0
#: How much of the way there is looked at.
WAYS_THERE = (1.0, 0.8, 0.6, 0.4, 0.2)
#: What is added to a likelihood, so that none is nothing at all.
LEAST = 1e-300


def _pairs(causes: Sequence[Cause], top: Sequence[Cause]) -> Iterator[Cause]:
    """Two at once, each mild, middling and severe; as rare as both together."""
    total = sum(cause.row.prior for cause in causes)
    for one, other in combinations([cause for cause in top if cause.code != HEALTHY], 2):
        row = CauseRow(
            code=f"{one.code}+{other.code}",
            where="line",
            prior=one.row.prior * other.row.prior / total,
            severities=(),
            noticed={name: max(one.row.noticed[name], other.row.noticed[name]) for name in NOTICED},
        )
        picked = [one.offsets[:: max(len(one.offsets) // 3, 1)], other.offsets[:: max(len(other.offsets) // 3, 1)]]
        yield Cause(row, f"{one.at}+{other.at}", tuple(joined(a, b) for a in picked[0] for b in picked[1]))


#: The drive as it should be.
HEALTHY = "nothing_wrong"


@dataclass(slots=True)
class _Weighed:
    """All points with their fits, and the share of each if it is one of them; ``none`` is how likely it is none."""

    points: Points
    fits: Fits
    shares: Array
    none: float
    read: Read

    @classmethod
    def of(cls, points: Points, read: Read) -> _Weighed:
        """Weigh them."""
        fits = Fits.of(points, read)
        logs = fits.log_weights
        most = float(logs.max())
        weights = np.exp(logs - most)
        prior = NONE_WEIGHT * float(np.exp(log_priors(points, read)).sum())
        other = log(prior) + _unexplained(fits, points, read) - most - log(float(weights.sum()))
        none = 1 / (1 + exp(-min(max(other, -MOST_APART), MOST_APART)))
        return cls(points, fits, weights / weights.sum(), none, read)

    def top(self, count: int) -> list[Cause]:
        """The likeliest causes."""
        groups = sorted(self.points.grouped().values(), key=lambda one: -float(self.shares[one].sum()))
        return [self.points.causes[one[0]] for one in groups[:count]]

    @property
    def best(self) -> int:
        """The likeliest point."""
        return int(np.argmax(self.shares))

    @property
    def refused(self) -> bool:
        """Whether even the point that fits best is farther off than one in a hundred."""
        return bool(self.read.rows) and float(self.fits.chi_squares[self.best]) > _chi_99(len(self.read.rows))

    def ranked(self) -> list[Ranked]:
        """Causes, most likely first."""
        groups = self.points.grouped()
        alone = {key: self._alone(places) for key, places in groups.items()}
        healthy, best = next(iter(alone.values())), np.max(np.stack(list(alone.values())), axis=0)
        made = []
        # by their shares of what a cause explains, which are told apart where that is next to nothing
        likeliest = sorted(groups.items(), key=lambda one: -float(self.shares[one[1]].sum()))
        for (code, at), places in likeliest:
            own, share = alone[code, at], (1 - self.none) * float(self.shares[places].sum())
            speaks = np.where(own >= healthy + SPEAKS_FOR, 1, np.where(own <= best - SPEAKS_AGAINST, -1, 0))
            first = max(places, key=lambda one: self.shares[one])
            made.append(
                Ranked(
                    code=code,
                    at=at,
                    probability=share,
                    severity=float(self.points.numbers[first]),
                    speaks=tuple(speaks.tolist()),
                    chi_square=float(self.fits.chi_squares[first]),
                    expected=tuple(self.points.values[first, self.read.rows].tolist()),
                )
            )
        return made

    def _alone(self, places: list[int]) -> Array:
        """How likely each reading alone is under a cause, over its severities as they are weighed."""
        own = self.shares[places]
        weights = own / own.sum() if own.sum() > 0 else np.full(len(places), 1 / len(places))
        logs = self.fits.alone[places]
        most = logs.max(axis=0)
        found: Array = most + np.log(weights @ np.exp(logs - most) + LEAST)
        return found

    def load(self, model: Model) -> tuple[float, float]:
        """The load over the assumed one by the readings, and one sigma of it."""
        if "load" not in model.spreads:
            return 1.0, 0.0
        index, sigma = list(model.spreads).index("load"), model.spreads["load"]
        own = np.array([self.points.off(place).get("load", 1.0) for place in range(len(self.points))])
        means = own * (1 + sigma * self.fits.pulled[:, index])
        explained = self.fits.explained(self.points.slopes[:, self.read.rows, index, None])[:, 0]
        variances = (own * sigma) ** 2 * np.maximum(1 - explained, 0.0)
        mean = float(self.shares @ means)
        return mean, float(self.shares @ (variances + (means - mean) ** 2)) ** 0.5

    def diagnosis(self, model: Model, seed: int) -> Diagnosis:
        """The answer."""
        ranked = self.ranked()
        first, second = ranked[0].probability, ranked[1].probability if len(ranked) > 1 else 0.0
        none_fits = self.none > NONE_TOLD or self.refused or not self._holds(model)
        return Diagnosis(
            ranked=tuple(ranked),
            is_certain="+" not in ranked[0].code and first >= TOLD and first >= OVER_SECOND * second and not none_fits,
            none_fits=none_fits,
            nexts=tuple(self._nexts(model, seed)),
            load=None if none_fits else self.load(model),
            worst=int(np.argmin(self.fits.alone[self.best])) if none_fits and self.read.rows else None,
        )

    def _holds(self, model: Model) -> bool:
        """Whether the likeliest point, really run with its unknowns on the way to where the readings pull them, comes
        near them all somewhere.

        Straight slopes may reach what no drive does: a belt that drives its pulley faster than its ratio.
        """
        if not self.read.rows:
            return True
        pulled, rows, count = self.fits.pulled[self.best], self.read.rows, len(model.spreads)
        slopes = self.points.slopes[self.best, rows]
        room = np.abs(slopes).max(axis=1) + FAR * self.read.sigmas
        for share in WAYS_THERE:
            unknown = np.clip(share * pulled[:count], -MAX_SIGMAS, MAX_SIGMAS)
            off = dict(zip(model.spreads, unknown.tolist(), strict=True))
            values = model.values(model.settled(model.pushed(self.points.off(self.best), off)))[rows]
            values = values + slopes[:, count:] @ pulled[count:]
            if (np.abs(self.read.values - values) <= room).all():
                return True
        return False

    def _nexts(self, model: Model, seed: int) -> list[Next]:
        """What else could be read, by the bits it would tell a minute."""
        kept = np.flatnonzero(self.shares > MIN_SHARE)
        shares = self.shares[kept] / self.shares[kept].sum()
        codes = [(self.points.causes[place].code, self.points.causes[place].at) for place in kept.tolist()]
        names = list(dict.fromkeys(codes))
        member = np.array([[code == name for name in names] for code in codes], dtype=float)
        random = np.random.default_rng(seed)
        means, variances, own = self._conditional(kept.tolist())
        found = []
        for row, (what, at) in enumerate(model.keys):
            if row in self.read.rows:
                continue
            instrument = usual(what, float(self.points.values[0, row]))
            read = np.hypot(instrument.sigma_relative * means[:, row], instrument.sigma_absolute)
            spreads = np.sqrt(variances[:, row] + own[:, row] + read**2 + TINY)
            bits = _bits(shares, member, (means[:, row], spreads), random)
            minutes = instrument.minutes + (LOCKOUT_MINUTES if instrument.lockout else 0)
            found.append(Next(what, at, bits, minutes, instrument.code))
        return sorted(found, key=lambda one: -one.bits / one.minutes)

    def _conditional(self, kept: list[int]) -> tuple[Array, Array, Array]:
        """What any one more reading would be at some points, given those that are there: its middle, the variance that
        is left of it, and the model's own fault, each by point and reading.
        """
        slopes, fits = self.points.slopes[kept], self.fits.of_some(kept)
        middles = self.points.values[kept] + np.einsum("pkc,pc->pk", slopes, fits.pulled)
        whole = np.einsum("pkc,pkc->pk", slopes, slopes)
        left = whole - fits.explained(slopes[:, self.read.rows] @ slopes.transpose(0, 2, 1))
        return middles, np.maximum(left, 0.0), FAULTY**2 * whole


#: A reading speaks for a cause that makes it so much likelier than a healthy drive does, and against one under which it
#: is so much less likely than under the best: natural logarithms.
SPEAKS_FOR, SPEAKS_AGAINST = 2.0, 5.0
#: A cause that is not among them is told from this share on; points below the other share are not followed further.
NONE_TOLD, MIN_SHARE = 0.3, 1e-5
#: Further apart than this, logarithm of odds, nothing is left of one of both.
MOST_APART = 700.0
#: No reading is without any spread.
TINY = 1e-12


def _unexplained(fits: Fits, points: Points, read: Read) -> float:
    """Logarithm of how likely readings are where none of the causes is it: a healthy drive, six sigmas wide."""
    wide = np.sqrt(np.diag(fits.covariance[0])) * NONE_SIGMAS
    off = (read.values - points.values[0, read.rows]) / wide
    return float(np.sum(-0.5 * off**2 - np.log(wide) - 0.5 * log(2 * pi)))


def _chi_99(count: int) -> float:
    return CHI_99[min(count, len(CHI_99)) - 1]


def _bits(shares: Array, member: Array, normal: tuple[Array, Array], random: np.random.Generator) -> float:
    """By how much a reading lessens the entropy over the causes, on average over what it may show [bits]."""
    means, spreads = normal
    picked = random.choice(len(shares), size=DRAWS, p=shares)
    drawn = random.normal(means[picked], spreads[picked])
    logs = -0.5 * ((drawn[:, None] - means) / spreads) ** 2 - np.log(spreads) + np.log(shares)
    weights = np.exp(logs - logs.max(axis=1, keepdims=True))
    after = (weights / weights.sum(axis=1, keepdims=True)) @ member
    return float(_entropy(shares @ member) - _entropy(after).mean())


def _entropy(shares: Array) -> Array:
    """Of shares along the last axis."""
    return np.asarray(-(shares * np.log2(np.where(shares > 0, shares, 1.0))).sum(axis=-1))
