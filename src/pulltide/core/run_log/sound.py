"""By ear: what a recording tells. A plucked belt's frequency, regular blows, the slip of a motor in its hum.

A recording that does not tell is refused with the reason; nothing is guessed.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
import scipy  # its signal part is taken in when it is first used: that takes seconds
from numpy.typing import NDArray

Array = NDArray[np.float64]

#: Samples a second that everything is brought to, and the longest recording that is listened to [s].
RATE, MAX_S = 8000, 60.0
#: Band of a strum [Hz]; windows after the pluck [s].
BAND, FROM_S, FOR_S, MIN_LEFT_S = (20.0, 1500.0), 0.02, 0.5, 0.25
#: A strum is looked for within these shares of what is expected, or between these frequencies [Hz].
REACH, ANY = (0.4, 2.5), (12.0, 250.0)
#: How alike one period and the next must be, how far the two opinions may differ, how much louder than before.
MIN_ALIKE, MAX_APART, MIN_LOUDER = 0.55, 0.03, 2.0
#: Harmonics of the mains that are taken out, and how far the mains may be off [Hz].
HUM_HARMONICS, MAINS_OFF = 8, 0.16

Refusal = Literal[
    "too_short", "too_long", "silent", "no_pluck", "not_clear", "two_opinions", "octave", "no_rhythm", "no_side_line"
]


@dataclass(frozen=True, slots=True)
class Heard:
    """What was heard: a frequency [Hz] and how sure, 0 to 1; or why nothing is told."""

    frequency_hz: float | None
    confidence: float = 0.0
    refused: Refusal | None = None


def brought_to_rate(samples: Array, rate: int) -> Array:
    """A recording of one or more channels at the rate everything is listened to at."""
    mono = samples.mean(axis=1) if samples.ndim > 1 else samples
    if rate == RATE:
        return np.asarray(mono, dtype=float)
    common = int(np.gcd(RATE, rate))
    return np.asarray(
        scipy.signal.resample_poly(np.asarray(mono, dtype=float), RATE // common, rate // common), dtype=float
    )


def usable(samples: Array, min_s: float) -> Refusal | None:
    """Why a recording cannot be listened to at all."""
    if len(samples) < min_s * RATE:
        return "too_short"
    if len(samples) > MAX_S * RATE:
        return "too_long"
    return "silent" if not np.isfinite(samples).all() or float(np.std(samples)) < 1e-9 else None


# -- a plucked belt -------------------------------------------------------------------------------------------------


def strum(samples: Array, expected_hz: float | None = None) -> Heard:
    """Frequency of a plucked belt [Hz] in a recording that begins before the pluck.

    Two opinions, the period by autocorrelation and the pitch by harmonic sums, have to agree. One that lies an octave
    off what is expected is refused, not corrected.
    """
    bad = usable(samples, 0.8)
    if bad:
        return Heard(None, refused=bad)
    heard = _filtered(samples, BAND)
    onset = _onset(heard)
    if onset is None or len(heard) - onset < MIN_LEFT_S * RATE:
        return Heard(None, refused="no_pluck")
    heard = _without_hum(heard, onset)
    start = onset + round(FROM_S * RATE)
    window = heard[start : start + round(FOR_S * RATE)]
    before = heard[: max(onset - round(0.02 * RATE), 1)]
    if float(np.std(window)) < MIN_LOUDER * float(np.std(before)):
        return Heard(None, refused="not_clear")
    reach = (REACH[0] * expected_hz, REACH[1] * expected_hz) if expected_hz else ANY
    return _agreed(window, reach, expected_hz)


def _agreed(window: Array, reach: tuple[float, float], expected_hz: float | None) -> Heard:
    by_period, alike = _period(window, reach)
    if by_period is None or alike < MIN_ALIKE:
        return Heard(None, refused="not_clear")
    by_sum = _pitch(window, reach)
    apart = abs(by_sum / by_period - 1)
    if apart > MAX_APART:
        return Heard(None, refused="two_opinions")
    found = _refined(window, _octave(window, by_period))
    if expected_hz and not 0.62 < found / expected_hz < 1.6:
        return Heard(None, refused="octave")
    return Heard(found, alike * (1 - apart / MAX_APART))


def _filtered(samples: Array, band: tuple[float, float]) -> Array:
    sos = scipy.signal.butter(4, band, btype="bandpass", fs=RATE, output="sos")
    return np.asarray(scipy.signal.sosfiltfilt(sos, samples - samples.mean()), dtype=float)


def _onset(heard: Array) -> int | None:
    """First sample of the pluck: back from the loudest 20 ms to where the power falls under a limit."""
    frame = round(0.02 * RATE)
    power = np.array([float(np.mean(heard[k : k + frame] ** 2)) for k in range(0, len(heard) - frame, frame)])
    if len(power) < 5:
        return None
    top, limit = int(np.argmax(power)), max(4 * float(np.median(power)), 0.15 * float(power.max()))
    if power[top] < limit:
        return None
    first = top
    while first > 0 and power[first - 1] >= limit:
        first -= 1
    return first * frame if first >= 5 else None


def _without_hum(heard: Array, onset: int) -> Array:
    """Lines of the mains fitted before the pluck and taken out of all: 50 or 60 Hz, whichever fits better."""
    quiet = max(onset - round(0.03 * RATE), 0)
    if quiet < 0.25 * RATE:
        return heard
    time, before = np.arange(len(heard)) / RATE, heard[:quiet]
    best: tuple[float, float, Array] | None = None
    for mains in (50.0, 60.0):
        for off in np.arange(-MAINS_OFF, MAINS_OFF + 0.01, 0.02):
            # waves over many turns hardly overlap, so that their normal equations are as good as any way to fit them
            waves = _waves(time[:quiet], mains + off)
            along = waves.T @ before
            fit = np.asarray(np.linalg.solve(waves.T @ waves, along), dtype=np.float64)
            held = float(along @ fit)
            if best is None or held > best[0]:
                best = (held, mains + off, fit)
    assert best is not None
    return np.asarray(heard - _waves(time, best[1]) @ best[2])


def _waves(time: Array, mains_hz: float) -> Array:
    """Sine and cosine of each harmonic, in columns."""
    turned = np.exp(2j * np.pi * mains_hz * time)
    waves, columns = np.ones_like(turned), np.empty((len(time), 2 * HUM_HARMONICS))
    for harmonic in range(HUM_HARMONICS):
        waves *= turned
        columns[:, 2 * harmonic], columns[:, 2 * harmonic + 1] = waves.imag, waves.real
    return columns


def _period(window: Array, reach: tuple[float, float]) -> tuple[float | None, float]:
    """The first period at which the window is nearly as like itself as at any other, and how like [-]."""
    low, high = max(int(RATE / reach[1]), 2), min(int(RATE / reach[0]) + 2, len(window) * 2 // 3)
    if high - low < 3:
        return None, 0.0
    alike = np.array([_alike(window, lag) for lag in range(low, high)])
    top = float(alike.max())
    for k in range(1, len(alike) - 1):
        if alike[k] > 0.9 * top and alike[k] >= alike[k - 1] and alike[k] >= alike[k + 1]:
            return RATE / (low + k + _vertex(alike[k - 1 : k + 2])), float(alike[k])
    return None, top


def _alike(window: Array, lag: int) -> float:
    first, second = window[:-lag], window[lag:]
    return float(2 * (first @ second) / (first @ first + second @ second + 1e-30))


def _vertex(three: Array) -> float:
    """Where a parabola through three even points peaks, from the middle one."""
    bend = float(three[0] - 2 * three[1] + three[2])
    return 0.0 if bend == 0 else float(np.clip(0.5 * (three[0] - three[2]) / bend, -0.5, 0.5))


def _spectrum(window: Array) -> tuple[Array, float]:
    """Amplitudes and the width of a bin [Hz]; Hann, eight times zero padding."""
    count = 8 * len(window)
    return np.abs(np.fft.rfft(window * np.hanning(len(window)), count)), RATE / count


def _at(amplitudes: Array, width: float, frequency: Array) -> Array:
    found: Array = np.interp(frequency / width, np.arange(len(amplitudes)), amplitudes, right=0.0)
    return found


def _pitch(window: Array, reach: tuple[float, float]) -> float:
    """The frequency whose harmonics hold most, less what lies between them: that rules octaves out."""
    amplitudes, width = _spectrum(window)
    tried = np.arange(reach[0], reach[1], 0.1)
    total = np.zeros(len(tried))
    for harmonic in range(1, 7):
        on = np.sqrt(_at(amplitudes, width, harmonic * tried))
        off = np.sqrt(_at(amplitudes, width, (harmonic - 0.5) * tried))
        total += 0.85 ** (harmonic - 1) * (on - 0.5 * off)
    return float(tried[int(np.argmax(total))])


def _octave(window: Array, found: float) -> float:
    """Twice it where its odd harmonics are empty; half of it where those between are full."""
    amplitudes, width = _spectrum(window)
    power = amplitudes**2

    def held(*times: float) -> float:
        return float(_at(power, width, np.array(times) * found).sum())

    odd, even = held(1, 3, 5), held(2, 4, 6)
    if odd < 0.05 * (odd + even):
        return 2 * found
    return found / 2 if held(0.5, 1.5, 2.5) > 0.2 * held(1, 2, 3) else found


def _refined(window: Array, found: float) -> float:
    """The fundamental by the peaks of its partials: (f_k / k)² is straight in k², for a stiff belt too."""
    amplitudes, width = _spectrum(window)
    squares, measured, weights = [], [], []
    for k in range(1, 6):
        low, high = int(0.95 * k * found / width), int(1.06 * k * found / width) + 2
        if high >= len(amplitudes):
            break
        top = low + int(np.argmax(amplitudes[low:high]))
        if amplitudes[top] < 0.05 * amplitudes.max() or top in (low, high - 1):
            continue
        peak = (top + _vertex(np.log(amplitudes[top - 1 : top + 2] + 1e-30))) * width
        squares.append(float(k**2))
        measured.append((peak / k) ** 2)
        weights.append(float(amplitudes[top]))
    if not squares:
        return found
    if len(squares) == 1:
        return float(measured[0] ** 0.5)
    slope, start = np.polyfit(squares, measured, 1, w=weights)
    value = float(max(start + slope, 0.0) ** 0.5)
    return value if abs(value / found - 1) < 0.05 else found


# -- blows, ticks, and the hum ----------------------------------------------------------------------------------------

#: Frames a second of a recording's loudness; least likeness of one beat to the next; fewest beats.
FRAMES, MIN_BEAT, FEWEST = 200, 0.3, 8


def rhythm(samples: Array, low_hz: float, high_hz: float, tick: bool = False) -> Heard:
    """How often regular blows or ticks come [1/s], between two rates. A rebound half way does not double it."""
    bad = usable(samples, 2.0)
    if bad:
        return Heard(None, refused=bad)
    sos = scipy.signal.butter(4, 800 if tick else 300, btype="highpass", fs=RATE, output="sos")
    sharp = scipy.signal.sosfilt(sos, samples)
    frame = RATE // FRAMES
    loud = np.sqrt(np.mean(sharp[: len(sharp) // frame * frame].reshape(-1, frame) ** 2, axis=1))
    if len(loud) < FEWEST * FRAMES / high_hz:
        return Heard(None, refused="too_short")
    loud = loud - scipy.signal.sosfiltfilt(scipy.signal.butter(2, low_hz / 4, fs=FRAMES, output="sos"), loud)
    lags = np.arange(max(int(FRAMES / high_hz), 2), min(int(FRAMES / low_hz) + 2, len(loud) // 2))
    if len(lags) < 3:
        return Heard(None, refused="too_short")
    alike = _likeness(loud, int(lags[-1]) + 2)
    inside = alike[lags]
    top = float(inside.max())
    if top < MIN_BEAT:
        return Heard(None, refused="no_rhythm")
    first = next((int(lag) for lag in lags[1:-1] if alike[lag] > 0.8 * top and _is_peak(alike, int(lag))), None)
    if first is None:
        return Heard(None, refused="no_rhythm")
    period = _over_many(loud, first + _vertex(alike[first - 1 : first + 2]))
    if len(loud) / period < FEWEST:
        return Heard(None, refused="too_short")
    return Heard(FRAMES / period, min(top, 1.0))


def _likeness(loud: Array, most: int) -> Array:
    """Autocorrelation, unbiased, 1 at no lag."""
    whole = scipy.signal.correlate(loud, loud, method="fft")[len(loud) - 1 :][:most]
    counts = len(loud) - np.arange(len(whole))
    found: Array = whole / counts / (whole[0] / len(loud) + 1e-30)
    return found


def _is_peak(values: Array, k: int) -> bool:
    return bool(0 < k < len(values) - 1 and values[k] >= values[k - 1] and values[k] >= values[k + 1])


def _over_many(loud: Array, period: float) -> float:
    """The period measured over as many beats as stay alike: each doubles the sharpness of the last."""
    alike, times = _likeness(loud, len(loud) * 2 // 3), 1
    while True:
        times *= 2
        middle = round(period * times)
        reach = max(round(0.12 * period), 2)
        if middle + reach + 1 >= len(alike):
            return period
        top = middle - reach + int(np.argmax(alike[middle - reach : middle + reach + 1]))
        if alike[top] < MIN_BEAT or not _is_peak(alike, top):
            return period
        period = (top + _vertex(alike[top - 1 : top + 2])) / times


#: Side lines of the hum that are believed [Hz], how far they stand out of the rest, and the shortest recording [s].
SIDE, STANDS_OUT, MIN_HUM_S = (0.4, 12.0), 5.0, 8.0


def pole_pass(samples: Array) -> tuple[Heard, float]:
    """Pole-pass frequency 2 s f [Hz] of a motor by the side line of its hum at 2 f, and the mains frequency f [Hz].

    Often absent in a sound rotor, and then refused.
    """
    bad = usable(samples, MIN_HUM_S)
    if bad:
        return Heard(None, refused=bad), 0.0
    amplitudes = np.abs(np.fft.rfft(samples * np.hanning(len(samples)), 4 * len(samples)))
    width = RATE / (4 * len(samples))
    line = max((_line(amplitudes, width, 2 * mains) for mains in (50.0, 60.0)), key=lambda one: one[1])[0]
    time = np.arange(len(samples)) / RATE
    shifted = samples * np.exp(-2j * np.pi * line * time)
    sos = scipy.signal.butter(4, 50, fs=RATE, output="sos")
    size = np.abs(scipy.signal.sosfiltfilt(sos, shifted.real) + 1j * scipy.signal.sosfiltfilt(sos, shifted.imag))
    size = scipy.signal.decimate(size[RATE // 2 : -RATE // 2], 40, ftype="fir")
    rate = RATE / 40
    spectrum = np.abs(np.fft.rfft((size - size.mean()) * np.hanning(len(size)), 4 * len(size)))
    frequencies = np.arange(len(spectrum)) * rate / (4 * len(size))
    inside = (frequencies >= SIDE[0]) & (frequencies <= SIDE[1])
    around = (frequencies >= 0.15) & (frequencies <= SIDE[1])
    top = int(np.flatnonzero(inside)[int(np.argmax(spectrum[inside]))])
    stands = float(spectrum[top] / (np.median(spectrum[around]) + 1e-30))
    if stands < STANDS_OUT:
        return Heard(None, refused="no_side_line"), line / 2
    found = (top + _vertex(np.log(spectrum[top - 1 : top + 2] + 1e-30))) * rate / (4 * len(size))
    return Heard(float(found), float(min(stands / 20, 1.0))), line / 2


def _line(amplitudes: Array, width: float, near_hz: float) -> tuple[float, float]:
    """A line of the spectrum near a frequency, and how strong it is."""
    low, high = int((near_hz - 0.4) / width), int((near_hz + 0.4) / width) + 1
    top = low + int(np.argmax(amplitudes[low:high]))
    return (top + _vertex(np.log(amplitudes[top - 1 : top + 2] + 1e-30))) * width, float(amplitudes[top])


def speed_of_slip_rpm(pole_pass_hz: float, mains_hz: float, poles: int) -> float:
    """Motor speed n = n_s (1 - f_p / 2 f), n_s = 120 f / p [rpm].

    >>> round(speed_of_slip_rpm(2.4, 60.02, 4), 1)
    1764.6
    """
    return 120 * mains_hz / poles * (1 - pole_pass_hz / (2 * mains_hz))
