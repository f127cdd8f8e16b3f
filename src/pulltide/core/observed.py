"""What a stage lets instruments see of it: belts that can be plucked and slip, chains that wear, cases that warm up."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import exp, pi, radians, sin, sqrt

#: Heat that a turning pulley, a reducer's case of 12 kg, a pillow block give off [W/K]. Common practice, no source.
PULLEY_W_PER_K, CASE_W_PER_K, BLOCK_W_PER_K = 0.85, 2.4, 0.35
#: Mass of the reducer that gives off so much; others by their surface.
CASE_KG = 12.0
#: Friction of a V-belt as it really is, over the wrap; designs count on 0.51. Common practice, no source.
V_BELT_FRICTION = 0.62
#: How far off a ratio of pitch diameters is, taken from outside diameters and a table, one sigma. Common practice.
PITCH_SPREAD = 0.005


@dataclass(frozen=True, slots=True, kw_only=True)
class Loop:
    """A belt round two wheels. Tensions of one belt [N] at rest; ``creep`` is the share of speed lost at the pull
    ``creep_pull_n`` of all belts, 0 where teeth hold it; ``friction`` is that over the wrap, None where teeth hold it.
    ``known`` says whether the tension is one that was set, not ``wanted_n``, the one it should be.
    """

    belts: int
    driver_pitch_mm: float
    driven_pitch_mm: float
    wrap_deg: float
    span_mm: float
    mass_kg_per_m: float
    bending_nm2: float
    static_n: float
    known: bool
    creep: float = 0.0
    creep_pull_n: float = 1.0
    friction: float | None = None
    pitch_spread: float = PITCH_SPREAD
    wanted_n: float = 0.0

    def scaled(self, tension: float, driver_mm: float, driven_mm: float, friction: float) -> Loop:
        """The same belt at another tension, riding at other diameters, gripping otherwise."""
        return replace(
            self,
            static_n=self.static_n * tension,
            driver_pitch_mm=self.driver_pitch_mm + driver_mm,
            driven_pitch_mm=self.driven_pitch_mm + driven_mm,
            friction=None if self.friction is None else self.friction * friction,
        )

    @property
    def wheel_ratio(self) -> float:
        """Driven over driver pitch diameter."""
        return self.driven_pitch_mm / self.driver_pitch_mm

    def speed_m_per_s(self, driver_rad_s: float) -> float:
        """Belt speed [m/s]."""
        return driver_rad_s * self.driver_pitch_mm / 2000

    def slip_pull_n(self, speed_m_per_s: float) -> float | None:
        """Pull at which all belts let go [N]: 2 (T - m v²)(R - 1)/(R + 1), R = e^(μθ). None where teeth hold."""
        if self.friction is None:
            return None
        ratio = exp(self.friction * radians(self.wrap_deg))
        mean = max(self.static_n - self.mass_kg_per_m * speed_m_per_s**2, 0.0)
        return self.belts * 2 * mean * (ratio - 1) / (ratio + 1)

    @property
    def rest_pull_n(self) -> float:
        """Pull of all belts on either shaft at rest [N]: 2 N T sin(θ/2), θ the wrap of the smaller pulley."""
        return 2 * self.belts * self.static_n * sin(radians(self.wrap_deg) / 2)

    @property
    def strum_hz(self) -> float:
        """What the free span strums at [Hz]: between clamped and pinned ends."""
        return strum_hz(self.static_n, self.span_mm, self.mass_kg_per_m, self.bending_nm2)

    @property
    def press_n(self) -> float:
        """Force that bends the middle of the span by a 64th of it [N]: T/16, as on its card."""
        return self.static_n / 16


def strum_hz(tension_n: float, span_mm: float, mass_kg_per_m: float, bending_nm2: float) -> float:
    """Frequency of a plucked span [Hz] of a belt under a tension [N > 0].

    A string, √(T/m)/2L, times what bending stiffness adds: the mean of clamped ends, 1 + 2ε + (4 + π²/2) ε², and
    pinned ones, √(1 + π² ε²), with ε = √(EI/T)/L. Source: stiff-string acoustics, from memory.

    >>> round(strum_hz(145, 442.8, 0.097, 0.018), 2)
    44.95
    """
    length = span_mm / 1000
    plain = sqrt(tension_n / mass_kg_per_m) / (2 * length)
    clamped, pinned = stiffening(tension_n, length, bending_nm2)
    return plain * (clamped + pinned) / 2


def stiffening(tension_n: float, span_m: float, bending_nm2: float) -> tuple[float, float]:
    """What bending stiffness [N·m²] multiplies a string's frequency by [-], with clamped and with pinned ends."""
    share = sqrt(bending_nm2 / tension_n) / span_m
    return 1 + 2 * share + (4 + pi**2 / 2) * share**2, sqrt(1 + pi**2 * share**2)


#: Rounds in which a tension is found from what it strums at.
ROUNDS = 40


def tension_n(frequency_hz: float, span_mm: float, mass_kg_per_m: float, bending_nm2: float) -> float:
    """Tension [N] of a span that strums at a frequency [Hz]: the inverse of :func:`strum_hz`, by repeating.

    >>> round(tension_n(44.948, 442.8, 0.097, 0.018), 1)
    145.0
    """
    length = span_mm / 1000
    plain = 4 * mass_kg_per_m * length**2 * frequency_hz**2
    found = plain
    for _ in range(ROUNDS):
        clamped, pinned = stiffening(found, length, bending_nm2)
        found = plain / ((clamped + pinned) / 2) ** 2
    return found


@dataclass(frozen=True, slots=True)
class Case:
    """A closed case that warms up; heat it gives off [W/K]."""

    w_per_k: float

    @classmethod
    def of(cls, mass_kg: float | None) -> Case:
        """By its surface, from its mass: 2.4 W/K at 12 kg."""
        return cls(CASE_W_PER_K * ((mass_kg or CASE_KG) / CASE_KG) ** (2 / 3))


#: Sag of a slack strand over its span. Common practice for level drives.
USUAL_SAG = 0.02


@dataclass(frozen=True, slots=True)
class Chain:
    """A chain that wears and sags: pitch and free span [mm], stretch at which it is done [%]."""

    pitch_mm: float
    span_mm: float
    worn_percent: float


@dataclass(frozen=True, slots=True)
class Observed:
    """All that instruments see of one stage; what does not apply is None. ``play_deg`` is backlash at its output."""

    loop: Loop | None = None
    chain: Chain | None = None
    case: Case | None = None
    play_deg: float | None = None
    meshes: bool = False
    is_worm: bool = False


NOTHING_OBSERVED = Observed()
