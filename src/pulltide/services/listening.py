"""A recording listened to: what it says as a reading, or why it says nothing."""

from __future__ import annotations

from dataclasses import dataclass
from io import BytesIO
from typing import Literal

import numpy as np

from pulltide.core.errors import InputError, InputErrors
from pulltide.core.line import solve_plan
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.meters import InductionMeters
from pulltide.core.run_log.of_line import running_of
from pulltide.core.run_log.running import Running
from pulltide.core.run_log.sound import Heard, brought_to_rate, pole_pass, rhythm, speed_of_slip_rpm, strum
from pulltide.words import say

#: What to listen for: a plucked belt, a tick once a turn, the slip in a motor's hum.
Listen = Literal["strum", "tick", "hum"]
#: A tick is looked for within this share of the speed expected.
AROUND = 0.45
#: Why a recording tells nothing, and what to do.
REFUSED = {
    "too_short": "is too short: 2 s for a belt, 8 beats for a rhythm, 8 s or better 20 s for a hum",
    "too_long": "is longer than 60 s",
    "silent": "is silent",
    "no_pluck": "holds no pluck after half a second of quiet: start recording, wait, pluck once",
    "not_clear": "is not clear enough to tell: closer, quieter, pluck in the middle of the span",
    "two_opinions": "gives two different pitches: pluck again, in the middle of the span",
    "octave": "sounds near an octave of what is expected: pluck again; if it stays so, deflect the belt instead",
    "no_rhythm": "holds no steady rhythm near what is expected",
    "no_side_line": "shows no side line of the slip: a sound rotor often has none; use a tachometer",
}
#: A frequency that a recording may be sampled at.
RATES = (4000, 192_000)


@dataclass(frozen=True, slots=True)
class Reading:
    """What a recording says: the name of the reading, its value in the core's unit, with what."""

    named: str
    value: float
    instrument: str


def reading_of(machine: Machine, plan: Plan, listen: Listen, at: str, content: bytes) -> Reading:
    """The reading that a WAV file holds. Raises InputErrors saying why it holds none."""
    result = solve_plan(machine, plan)
    try:
        running = running_of(machine, plan, None if result is None else result.chosen)
    except InputError as error:
        raise InputErrors([error]) from error
    samples = _samples(content)
    expected = running.predict({})
    key = ("strum" if listen == "strum" else "speed", "shaft-1" if listen == "hum" else at)
    if key not in expected:
        raise InputErrors([InputError(say("Where"), at, say("has nothing of this kind to listen to"))])
    if listen == "hum":
        return Reading("speed@shaft-1", _by_hum(running, samples), "microphone")
    if listen == "strum":
        heard = strum(samples, expected[key])
        return Reading(f"strum@{at}", _frequency_hz(heard), "strum")
    turns = expected[key] / 60
    heard = rhythm(samples, turns * (1 - AROUND), turns * (1 + AROUND), tick=True)
    return Reading(f"speed@{at}", 60 * _frequency_hz(heard), "microphone")


def _samples(content: bytes) -> np.ndarray[tuple[int, ...], np.dtype[np.float64]]:
    from scipy.io import wavfile

    try:
        rate, samples = wavfile.read(BytesIO(content))
    except Exception as error:  # the reader raises what it likes over a file that is none
        raise InputErrors([InputError(say("Recording"), "", say("is no WAV file that can be read"))]) from error
    if not RATES[0] <= rate <= RATES[1] or samples.size == 0:
        raise InputErrors(
            [InputError(say("Sampling rate"), rate, say("is not usable"), accepted=say("4000 to 192000 a second"))]
        )
    if samples.shape[0] > rate * 61:
        raise InputErrors([InputError(say("Recording"), "", say(REFUSED["too_long"]))])
    return brought_to_rate(samples, int(rate))


def _frequency_hz(heard: Heard) -> float:
    if heard.frequency_hz is None:
        raise InputErrors([InputError(say("Recording"), "", say(REFUSED[heard.refused or "not_clear"]))])
    return heard.frequency_hz


def _by_hum(running: Running, samples: np.ndarray[tuple[int, ...], np.dtype[np.float64]]) -> float:
    if not isinstance(running.meters, InductionMeters):
        raise InputErrors(
            [InputError(say("Where"), "motor", say("is no induction motor on the mains: its hum holds no slip"))]
        )
    heard, mains_hz = pole_pass(samples)
    poles = 2 * max(round(60 * mains_hz / running.meters.synchronous_rpm), 1) if mains_hz > 0 else 4
    return speed_of_slip_rpm(_frequency_hz(heard), mains_hz, poles)
