"""Which cause explains the readings: every cause as a changed drive, weighed by how well all readings fit it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import exp, log, pi

import numpy as np
from numpy.typing import NDArray

from pulltide.core.run_log.causes import NOTICED, Cause, CauseRow
from pulltide.core.run_log.instruments import Instrument, usual
from pulltide.core.run_log.running import Offsets, Quantity, Running, Settled

Array = NDArray[np.float64]

#: Spread of what is not known of a healthy machine, one sigma. Common practice, no source.
SPREADS = {
    "load": 0.15,
    "volts": 0.03,
    "slip": 0.10,
    "idle_amps": 0.08,
    "breakaway": 0.08,
    "coasting": 0.3,
    "shake": 0.35,
}
#: The same for each belt, each cooled thing.
BELT_SPREADS = {"creep": 0.25, "friction": 0.12, "mass": 0.03, "stiff": 0.03}
WARM_SPREAD, BEARING_SPREAD, SAG_SPREAD, PLAY_SPREAD = 0.20, 0.30, 0.25, 0.20
#: A load that was read on a healthy machine varies less.
READ_LOAD_SPREAD = 0.05
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
class Band:
    """What is expected of a reading: its middle and two sigmas, without the instrument and with it."""

    middle: float
    half: float

    @property
    def low(self) -> float:
        """Lower end."""
        return self.middle - self.half

    @property
    def high(self) -> float:
        """Upper end."""
        return self.middle + self.half

    def off(self, value: float) -> float:
        """How far outside the band a value lies, with its sign; 0 inside."""
        return value - self.high if value > self.high else value - self.low if value < self.low else 0.0


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
    """Causes, most likely first. ``told`` says whether the first is far enough ahead; ``none_fits`` that no known cause
    explains the readings; ``worst`` is then the reading that is farthest off.
    """

    ranked: tuple[Ranked, ...]
    told: bool
    none_fits: bool
    nexts: tuple[Next, ...]
    load: tuple[float, float]
    worst: int | None = None

    @property
    def first(self) -> Ranked:
        """The most likely."""
        return self.ranked[0]


def nuisances(running: Running, load_read: bool = False) -> dict[str, float]:
    """What is not known of a healthy drive, by name, with its spread."""
    found = dict(SPREADS)
    if load_read:
        found["load"] = READ_LOAD_SPREAD
    for number, stage in enumerate(running.stages, 1):
        seen = stage.observed
        if seen.loop is not None:
            found.update({f"{name}@{number}": value for name, value in BELT_SPREADS.items()})
            found[f"ratio@{number}"] = seen.loop.pitch_spread
            found[f"warmer_pulley@{number}"] = WARM_SPREAD
            if not seen.loop.known:
                found[f"tension@{number}"] = UNSET_SPREAD
        if seen.chain is not None:
            found[f"sag@{number}"] = SAG_SPREAD
        if seen.play_deg is not None:
            found[f"play_times@{number}"] = PLAY_SPREAD
        if seen.case is not None:
            found["warmer_case"] = WARM_SPREAD
    found["warmer_motor"] = WARM_SPREAD
    for shaft, drag in enumerate(running.bearing_nm, 1):
        if drag > 0:
            found[f"bearing_times@{shaft}"] = BEARING_SPREAD
    return found


#: A tension that nobody measured lies so near the one it should be. Common practice, no source.
UNSET_SPREAD = 0.15


def joined(one: Offsets, other: Offsets) -> dict[str, float]:
    """Both together: factors multiply, what is added adds up."""
    made = dict(one)
    for name, value in other.items():
        made[name] = made.get(name, 0.0) + value if name.partition("@")[0] in ADDED else made.get(name, 1.0) * value
    return made


#: A drive with nothing off.
NOTHING_OFF: Offsets = {}
#: Names of what is added; everything else is a factor.
ADDED = frozenset(
    ("driver_mm", "riding", "extra_w", "lossier", "slips", "bearing", "vibration", "play", "stretch", "case_k")
)


class Model:
    """Predictions of one drive at one share of the load, with what is not known of it."""

    def __init__(
        self, running: Running, share: float, spreads: Mapping[str, float], base: Offsets = NOTHING_OFF
    ) -> None:
        self.running, self.share, self.spreads, self.base = running, share, spreads, base
        self.healthy = running.settled(base, share)
        self.keys = list(self.healthy.readings())

    def settled(self, off: Offsets, near: Settled | None = None) -> Settled:
        """The drive with something off."""
        return self.running.settled(joined(self.base, off), self.share, near or self.healthy)

    def values(self, at: Settled) -> Array:
        """All that can be read, in the order of ``keys``."""
        found = at.readings()
        return np.array([found[key] for key in self.keys])

    def slopes(self, off: Offsets, at: Settled, here: Array) -> Array:
        """Change of every reading by one sigma of each unknown: rows are readings."""
        return np.stack([self._slope(name, off, at, here) for name in self.spreads], axis=1)

    def _slope(self, name: str, off: Offsets, at: Settled, here: Array) -> Array:
        """By one sigma of one unknown. What makes a belt let go bends, so that it is pushed a whole sigma both ways."""
        if name.partition("@")[0] not in BENDS:
            return (self.values(self.settled(self.pushed(off, {name: STEP}), at)) - here) / STEP
        ends = [self.values(self.settled(self.pushed(off, {name: by}), at)) for by in (1.0, -1.0)]
        return (ends[0] - ends[1]) / 2

    def pushed(self, off: Offsets, sigmas: Mapping[str, float]) -> dict[str, float]:
        """What is off, with unknowns pushed by so many of their sigmas."""
        return joined(off, {name: 1 + by * self.spreads[name] for name, by in sigmas.items()})

    def band(self, key: Quantity, instrument: Instrument) -> Band:
        """What is expected of one reading, two sigmas wide on either side."""
        middle = self.values(self.healthy)
        row = self.keys.index(key)
        spread = float(np.linalg.norm(self.slopes(NOTHING_OFF, self.healthy, middle)[row]))
        return _band(float(middle[row]), spread, instrument)

    def bands(self) -> dict[Quantity, Band]:
        """What is expected of every reading with its usual instrument."""
        middle = self.values(self.healthy)
        spreads = np.linalg.norm(self.slopes(NOTHING_OFF, self.healthy, middle), axis=1)
        return {
            key: _band(float(value), float(spread), usual(key[0], float(value)))
            for key, value, spread in zip(self.keys, middle, spreads, strict=True)
        }


def slopes_of(model: Model) -> Array:
    """By how much each unknown moves every reading of a healthy drive."""
    return model.slopes(NOTHING_OFF, model.healthy, model.values(model.healthy))


def _band(middle: float, spread: float, instrument: Instrument) -> Band:
    return Band(middle, 2 * float(np.hypot(spread, instrument.sigma(middle))))


@dataclass(frozen=True, slots=True)
class _Point:
    """One cause at one severity: its readings, and by how much each unknown moves them, a column for each by one sigma;
    the last is for severities between the points that are tried.
    """

    cause: Cause
    number: int
    log_prior: float
    values: Array
    slopes: Array

    def covariance(self, rows: Sequence[int], sigmas: Array) -> Array:
        """Of some readings with their instruments; what is not known moves them together, the model's faults alone."""
        slopes = self.slopes[list(rows)]
        own = FAULTY * np.linalg.norm(slopes, axis=1)
        made: Array = np.diag(sigmas**2 + own**2) + slopes @ slopes.T
        return made


@dataclass(frozen=True, slots=True)
class _Fit:
    """How one point fits the readings."""

    log_weight: float
    chi_square: float
    alone: Array
    pulled: Array

    @classmethod
    def of(cls, point: _Point, read: _Read) -> _Fit:
        """Likelihood of the readings together and of each alone; where the unknowns are then pulled to, in sigmas."""
        if not read.rows:
            return cls(read.log_prior(point), 0.0, np.zeros(0), np.zeros(point.slopes.shape[1]))
        covariance = point.covariance(read.rows, read.sigmas)
        residual = read.values - point.values[read.rows]
        solved = np.linalg.solve(covariance, residual)
        chi_square = float(residual @ solved)
        _, volume = np.linalg.slogdet(covariance)
        own = np.diag(covariance)
        alone = -0.5 * (residual**2 / own + np.log(2 * pi * own))
        likelihood = -0.5 * (chi_square + float(volume) + len(read.rows) * log(2 * pi))
        return cls(read.log_prior(point) + likelihood, chi_square, alone, point.slopes[read.rows].T @ solved)


@dataclass(frozen=True, slots=True)
class _Read:
    """Readings as arrays: their rows among all that can be read, values and sigmas; and what was noticed."""

    rows: list[int]
    values: Array
    sigmas: Array
    noticed: tuple[str, ...] = ()

    def log_prior(self, point: _Point) -> float:
        """Weight of a point before its readings: how common it is, and how often it shows what was noticed."""
        seen = point.cause.row.noticed
        return point.log_prior + sum(log(seen[name]) for name in self.noticed if name in NOTICED)


class Suspects:
    """Every cause that a drive can have, worked out once; readings are then weighed quickly, as often as there are any.

    The first cause is the healthy drive.
    """

    def __init__(self, model: Model, causes: Iterable[Cause]) -> None:
        self.model, self.causes = model, tuple(causes)
        self.points = list(_points(model, self.causes))

    def diagnose(self, observed: Sequence[Observation], noticed: Sequence[str] = (), seed: int = 1) -> Diagnosis:
        """Weigh every cause by readings and by what was noticed. Two at once are tried where no single one explains
        the readings. Raises ValueError where a reading is of what this drive does not have.
        """
        read = _Read(
            [self.model.keys.index(item.key) for item in observed],
            np.array([item.value for item in observed]),
            np.array([item.sigma for item in observed]),
            tuple(noticed),
        )
        weighed = _Weighed.of(self.points, read)
        if weighed.refused:
            pairs = _pairs(self.causes, weighed.top(PAIRED))
            weighed = _Weighed.of([*self.points, *_points(self.model, pairs)], read)
        return weighed.diagnosis(self.model, seed)


#: So many of the likeliest causes are tried two at a time.
PAIRED = 5
#: Most sigmas an unknown is taken to be off, and sigmas of an instrument that a reading may be off by then.
MAX_SIGMAS, FAR = 3.0, 6.0
#: How much of the way there is looked at.
WAYS_THERE = (1.0, 0.8, 0.6, 0.4, 0.2)
#: The share of one sigma by which slopes are taken, and unknowns over which readings bend.
STEP, BENDS = 0.3, frozenset(("load", "friction", "tension"))
#: How far off the model itself is, as a share of what its unknowns make of a reading: slopes bend, and each reading has
#: faults of its own. Chosen so that readings drawn from a machine with a fault are told rightly.
FAULTY = 0.2


def _points(model: Model, causes: Iterable[Cause]) -> Iterator[_Point]:
    for cause in causes:
        prior = log(cause.row.prior / len(cause.offsets))
        settled = [model.settled(off) for off in cause.offsets]
        made = [model.values(one) for one in settled]
        for number, (off, values) in enumerate(zip(cause.offsets, made, strict=True)):
            slopes, between = model.slopes(off, settled[number], values), _between(made, number)
            columns = slopes if between is None else np.column_stack([slopes, between])
            yield _Point(cause, number, prior, values, columns)


def _between(made: Sequence[Array], number: int) -> Array | None:
    """Spread of the severities between the points that are tried: evenly, half way to the neighbors it has."""
    if len(made) == 1:
        return None
    low, high = made[max(number - 1, 0)], made[min(number + 1, len(made) - 1)]
    return (high - low) / 2 / 12**0.5


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
    """All points with their fits and shares; ``none`` is the share of a cause that is not among them."""

    points: list[_Point]
    fits: list[_Fit]
    shares: Array
    none: float
    read: _Read

    @classmethod
    def of(cls, points: list[_Point], read: _Read) -> _Weighed:
        """Weigh them."""
        fits = [_Fit.of(point, read) for point in points]
        logs = np.array([fit.log_weight for fit in fits])
        prior = NONE_WEIGHT * float(np.exp([read.log_prior(point) for point in points]).sum())
        other = log(prior) + _unexplained(points[0], read)
        most = max(float(logs.max()), other)
        weights, none = np.exp(logs - most), exp(other - most)
        total = float(weights.sum()) + none
        return cls(points, fits, weights / total, none / total, read)

    def grouped(self) -> dict[tuple[str, str], list[int]]:
        """Numbers of the points of each cause."""
        found: dict[tuple[str, str], list[int]] = {}
        for number, point in enumerate(self.points):
            found.setdefault((point.cause.code, point.cause.at), []).append(number)
        return found

    def top(self, count: int) -> list[Cause]:
        """The likeliest causes."""
        groups = sorted(self.grouped().values(), key=lambda one: -float(self.shares[one].sum()))
        return [self.points[one[0]].cause for one in groups[:count]]

    @property
    def refused(self) -> bool:
        """Whether even the point that fits best is farther off than one in a hundred."""
        best = int(np.argmax(self.shares))
        return bool(self.read.rows) and self.fits[best].chi_square > _chi_99(len(self.read.rows))

    def ranked(self) -> list[Ranked]:
        """Causes, most likely first."""
        groups = self.grouped()
        alone = {key: self._alone(numbers) for key, numbers in groups.items()}
        healthy, best = next(iter(alone.values())), np.max(np.stack(list(alone.values())), axis=0)
        made = []
        for (code, at), numbers in groups.items():
            own, share = alone[code, at], float(self.shares[numbers].sum())
            speaks = np.where(own >= healthy + SPEAKS_FOR, 1, np.where(own <= best - SPEAKS_AGAINST, -1, 0))
            first = max(numbers, key=lambda one: self.shares[one])
            point = self.points[first]
            made.append(
                Ranked(
                    code=code,
                    at=at,
                    probability=share,
                    severity=float(point.number),
                    speaks=tuple(int(one) for one in speaks),
                    chi_square=self.fits[first].chi_square,
                    expected=tuple(float(value) for value in point.values[self.read.rows]),
                )
            )
        return sorted(made, key=lambda one: -one.probability)

    def _alone(self, numbers: list[int]) -> Array:
        """How likely each reading alone is under a cause, over its severities as they are weighed."""
        own = self.shares[numbers]
        weights = own / own.sum() if own.sum() > 0 else np.full(len(numbers), 1 / len(numbers))
        logs = np.stack([self.fits[number].alone for number in numbers])
        most = logs.max(axis=0)
        found: Array = most + np.log(weights @ np.exp(logs - most) + 1e-300)
        return found

    def load(self, model: Model) -> tuple[float, float]:
        """The load over the assumed one by the readings, and one sigma of it."""
        if "load" not in model.spreads:
            return 1.0, 0.0
        index, sigma = list(model.spreads).index("load"), model.spreads["load"]
        means, spreads = [], []
        for point, fit in zip(self.points, self.fits, strict=True):
            own = point.cause.offsets[point.number].get("load", 1.0)
            means.append(own * (1 + sigma * float(fit.pulled[index])))
            spreads.append(own * sigma * _left(point, self.read, index))
        shares = self.shares / max(float(self.shares.sum()), 1e-12)
        mean = float(shares @ np.array(means))
        spread = float(shares @ (np.array(spreads) ** 2 + (np.array(means) - mean) ** 2)) ** 0.5
        return mean, spread

    def diagnosis(self, model: Model, seed: int) -> Diagnosis:
        """The answer."""
        ranked = self.ranked()
        first, second = ranked[0].probability, ranked[1].probability if len(ranked) > 1 else 0.0
        none_fits = self.none > NONE_TOLD or self.refused or not self._holds(model)
        return Diagnosis(
            ranked=tuple(ranked),
            told="+" not in ranked[0].code and first >= TOLD and first >= OVER_SECOND * second and not none_fits,
            none_fits=none_fits,
            nexts=tuple(self._nexts(model, seed)),
            load=self.load(model),
            worst=self._worst() if none_fits else None,
        )

    def _holds(self, model: Model) -> bool:
        """Whether the likeliest point, really run with its unknowns on the way to where the readings pull them, comes
        near them all somewhere.

        Straight slopes may reach what no drive does: a belt that drives its pulley faster than its ratio.
        """
        if not self.read.rows:
            return True
        best = int(np.argmax(self.shares))
        point, pulled, rows = self.points[best], self.fits[best].pulled, self.read.rows
        slopes, count = point.slopes[rows], len(model.spreads)
        room = np.abs(slopes).max(axis=1) + FAR * self.read.sigmas
        for share in WAYS_THERE:
            unknown = np.clip(share * pulled[:count], -MAX_SIGMAS, MAX_SIGMAS)
            off = dict(zip(model.spreads, unknown.tolist(), strict=True))
            values = model.values(model.settled(model.pushed(point.cause.offsets[point.number], off)))[rows]
            values = values + slopes[:, count:] @ pulled[count:]
            if (np.abs(self.read.values - values) <= room).all():
                return True
        return False

    def _worst(self) -> int | None:
        best = self.fits[int(np.argmax(self.shares))]
        return int(np.argmin(best.alone)) if len(best.alone) else None

    def _nexts(self, model: Model, seed: int) -> list[Next]:
        """What else could be read, by the bits it would tell a minute."""
        kept = [number for number in range(len(self.points)) if self.shares[number] > MIN_SHARE]
        shares = self.shares[kept] / self.shares[kept].sum()
        codes = [(self.points[number].cause.code, self.points[number].cause.at) for number in kept]
        names = list(dict.fromkeys(codes))
        member = np.array([[code == name for name in names] for code in codes], dtype=float)
        random = np.random.default_rng(seed)
        found = []
        for row, (what, at) in enumerate(model.keys):
            if row in self.read.rows:
                continue
            instrument = usual(what, float(self.points[0].values[row]))
            means, spreads = self._conditional(kept, row, instrument)
            bits = _bits(shares, member, (means, spreads), random)
            minutes = instrument.minutes + (LOCKOUT_MINUTES if instrument.lockout else 0)
            found.append(Next(what, at, bits, minutes, instrument.code))
        return sorted(found, key=lambda one: -one.bits / one.minutes)

    def _conditional(self, kept: list[int], row: int, instrument: Instrument) -> tuple[Array, Array]:
        """What one more reading would be at each point, given those that are there."""
        means, spreads = [], []
        for number in kept:
            point, fit = self.points[number], self.fits[number]
            slope = point.slopes[row]
            middle = float(point.values[row] + slope @ fit.pulled)
            spread = float(slope @ slope)
            if self.read.rows:
                slopes = point.slopes[self.read.rows]
                covariance = point.covariance(self.read.rows, self.read.sigmas)
                shared = slopes @ slope
                spread -= float(shared @ np.linalg.solve(covariance, shared))
            means.append(middle)
            own = FAULTY**2 * float(slope @ slope)
            spreads.append(max(spread, 0.0) + own + instrument.sigma(middle) ** 2 + 1e-12)
        return np.array(means), np.sqrt(np.array(spreads))


#: A reading speaks for a cause that makes it so much likelier than a healthy drive does, and against one under which it
#: is so much less likely than under the best: natural logarithms.
SPEAKS_FOR, SPEAKS_AGAINST = 2.0, 5.0
#: A cause that is not among them is told from this share on; points below the other share are not followed further.
NONE_TOLD, MIN_SHARE = 0.3, 1e-5


def _unexplained(healthy: _Point, read: _Read) -> float:
    """Logarithm of how likely readings are where none of the causes is it: a healthy drive, six sigmas wide."""
    if not read.rows:
        return 0.0
    wide = np.sqrt(np.diag(healthy.covariance(read.rows, read.sigmas))) * NONE_SIGMAS
    off = (read.values - healthy.values[read.rows]) / wide
    return float(np.sum(-0.5 * off**2 - np.log(wide) - 0.5 * log(2 * pi)))


def _left(point: _Point, read: _Read, index: int) -> float:
    """What the readings leave of one unknown's spread, as a share."""
    if not read.rows:
        return 1.0
    slope = point.slopes[read.rows][:, index]
    told = float(slope @ np.linalg.solve(point.covariance(read.rows, read.sigmas), slope))
    return float(max(1 - told, 0.0) ** 0.5)


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
    return _entropy(shares @ member) - float(np.mean([_entropy(one) for one in after]))


def _entropy(shares: Array) -> float:
    present = shares[shares > 0]
    return float(-(present * np.log2(present)).sum())
