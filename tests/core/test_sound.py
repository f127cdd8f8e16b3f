"""Recordings made up with noise, hum and wrong octaves: what is heard is right, and what cannot be told is refused.

The strings are those of stiff-string acoustics (partials k √(1 + B k²)); every one is seeded.
"""

from __future__ import annotations

import numpy as np
import pytest
from scipy import signal

from pulltide.core.run_log.sound import RATE, brought_to_rate, pole_pass, rhythm, speed_of_slip_rpm, strum


def pink(count: int, random) -> np.ndarray:
    waves = np.fft.rfft(random.normal(size=count))
    order = np.arange(len(waves))
    order[0] = 1
    return np.fft.irfft(waves / np.sqrt(order), count)


def noisy(clean: np.ndarray, decibels: float, random) -> np.ndarray:
    noise = pink(len(clean), random)
    return clean + noise * np.std(clean) / np.std(noise) / 10 ** (decibels / 20)


def hum(count: int, mains_hz: float, size: float, random) -> np.ndarray:
    time = np.arange(count) / RATE
    lines = ((1, 1.0), (2, 0.8), (3, 0.3), (4, 0.3))
    return size * sum(a * np.sin(2 * np.pi * k * mains_hz * time + random.uniform(0, 6)) for k, a in lines)


def plucked(first_hz: float, random, *, stiff: float | None = None, weak_first: float = 1.0) -> np.ndarray:
    """Two seconds, plucked at 0.6 s somewhere along the span."""
    bend = random.uniform(0.001, 0.012) if stiff is None else stiff
    place, made = random.uniform(0.15, 0.5), np.zeros(2 * RATE)
    time = np.arange(2 * RATE) / RATE - 0.6
    after = time >= 0
    for k in range(1, 13):
        frequency = k * first_hz * np.sqrt((1 + bend * k * k) / (1 + bend))
        size = np.sin(k * np.pi * place) / k**1.3 * (weak_first if k == 1 else 1.0)
        made[after] += size * np.exp(-time[after] * k**0.6 / 0.35) * np.sin(2 * np.pi * frequency * time[after])
    return made


def through_a_phone(clean: np.ndarray) -> np.ndarray:
    return signal.sosfilt(signal.butter(1, 120, btype="highpass", fs=RATE, output="sos"), clean)


def hummed(clean: np.ndarray, random) -> np.ndarray:
    mains = random.choice([50.0, 60.0]) + random.uniform(-0.1, 0.1)
    return clean + hum(len(clean), mains, 0.7 * float(np.std(clean)), random)


STRUMS = {
    "clear": (lambda f, r: noisy(plucked(f, r), 30, r), 10, 0.01),
    "shop noise": (lambda f, r: noisy(plucked(f, r), 10, r), 9, 0.015),
    "mains hum": (lambda f, r: noisy(hummed(plucked(f, r), r), 20, r), 9, 0.015),
    "phone": (lambda f, r: noisy(through_a_phone(plucked(f, r)), 20, r), 8, 0.025),
    "fundamental missing": (lambda f, r: noisy(plucked(f, r, weak_first=0.03), 20, r), 4, 0.03),
    "stiff and short": (lambda f, r: noisy(plucked(f, r, stiff=0.02), 20, r), 9, 0.015),
}


@pytest.mark.long
@pytest.mark.parametrize("kind", STRUMS)
def test_a_plucked_belt_is_heard_or_refused_never_wrong(kind):
    make, least, within = STRUMS[kind]
    random, heard = np.random.default_rng(3), 0
    for _ in range(10):
        frequency = random.uniform(25, 90)
        found = strum(make(frequency, random), frequency * random.uniform(0.85, 1.15))
        if found.frequency_hz is None:
            assert found.refused in ("two_opinions", "octave", "not_clear"), found
            continue
        heard += 1
        assert found.frequency_hz == pytest.approx(frequency, rel=within)
        assert found.confidence > 0.3
    assert heard >= least


@pytest.mark.parametrize("kind", ["noise", "hum", "knock", "knock and hum"])
def test_what_is_no_strum_is_refused(kind):
    random = np.random.default_rng(4)
    for _ in range(4):
        made = 0.05 * pink(2 * RATE, random)
        if "hum" in kind:
            made = made + hum(2 * RATE, random.choice([50.0, 60.0]), 1.0, random)
        if "knock" in kind:
            time = np.arange(2 * RATE) / RATE - 0.6
            after = time >= 0
            made[after] += 3 * np.exp(-time[after] / 0.01) * random.normal(size=after.sum())
        assert strum(made, random.uniform(25, 90)).frequency_hz is None


def test_an_octave_off_is_asked_again_not_corrected():
    random = np.random.default_rng(5)
    assert strum(noisy(plucked(80, random), 30, random), 40.0).refused == "octave"


def test_silence_and_scraps_are_refused_with_their_reason():
    assert strum(np.zeros(2 * RATE)).refused == "silent"
    assert strum(np.ones(100)).refused == "too_short"
    assert strum(np.full(2 * RATE, np.nan)).refused == "silent"
    assert strum(np.random.default_rng(1).normal(size=70 * RATE)).refused == "too_long"


def test_another_rate_and_two_channels_are_brought_to_one():
    random = np.random.default_rng(6)
    clean = noisy(plucked(44.0, random), 30, random)
    fast = signal.resample_poly(clean, 441, 80)
    both = np.stack([fast, fast], axis=1)
    assert strum(brought_to_rate(both, 44_100), 44.0).frequency_hz == pytest.approx(44.0, rel=0.005)


def blows(rate: float, random, seconds: float = 8.0, rebound: float = 0.0) -> np.ndarray:
    made, at = np.zeros(int(seconds * RATE)), random.uniform(0, 1 / rate)
    while at < seconds - 0.3:
        for late, size in ((0.0, 1.0), (rebound / rate, 0.35)) if rebound else ((0.0, 1.0),):
            start, count = int((at + late) * RATE), int(0.2 * RATE)
            count = min(count, len(made) - start)
            fades = np.exp(-np.arange(count) / RATE / 0.03) * random.normal(size=count)
            made[start : start + count] += size * (1 + 0.2 * random.normal()) * fades
        at += (1 + 0.01 * random.normal()) / rate
    return made


@pytest.mark.parametrize("rebound", [0.0, 0.5, 0.37])
def test_blows_are_counted_and_a_rebound_does_not_double_them(rebound):
    random = np.random.default_rng(7)
    for _ in range(6):
        rate = random.uniform(1.5, 6)
        found = rhythm(noisy(blows(rate, random, rebound=rebound), 10, random), 1.2, 8)
        assert found.frequency_hz == pytest.approx(rate, rel=0.01)


def test_a_slow_tick_is_timed_over_many_turns():
    """One tooth in 19 strikes harder: 0.285 turns a second, 17.1 rpm."""
    random, made, at, k = np.random.default_rng(8), np.zeros(40 * RATE), 0.01, 0
    while at < 39.9:
        start, count = int(at * RATE), int(0.03 * RATE)
        made[start : start + count] += (1.0 if k % 19 == 0 else 0.18) * random.normal(size=count)
        at, k = at + 1 / (0.285 * 19), k + 1
    found = rhythm(noisy(made, 10, random), 0.2, 0.5, tick=True)
    assert found.frequency_hz == pytest.approx(0.285, rel=0.001)
    assert rhythm(noisy(np.zeros(8 * RATE) + 1e-3 * pink(8 * RATE, random), 0, random), 2, 8).frequency_hz is None


def test_slip_is_read_from_the_side_line_of_the_hum_or_not_at_all():
    random = np.random.default_rng(9)
    time = np.arange(20 * RATE) / RATE
    for share in (0.15, 0.0):
        for _ in range(3):
            mains, slip = random.choice([50.0, 60.0]) + random.uniform(-0.05, 0.05), random.uniform(0.8, 5)
            carrier = np.sin(4 * np.pi * mains * time)
            made = (1 + share * np.sin(2 * np.pi * slip * time)) * carrier + 0.3 * np.sin(8 * np.pi * mains * time)
            found, heard_mains = pole_pass(noisy(made, 10, random))
            assert heard_mains == pytest.approx(mains, abs=0.01)
            if share:
                assert found.frequency_hz == pytest.approx(slip, abs=0.01)
            else:
                assert found.refused == "no_side_line"


def test_speed_by_the_side_line():
    """f_p = 2 s f: a four-pole motor at 60 Hz that slips 2.4 % turns at 1756.8 rpm."""
    assert speed_of_slip_rpm(2 * 0.024 * 60, 60, 4) == pytest.approx(1800 * (1 - 0.024))
