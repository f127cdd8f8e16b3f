"""What a reducer loses at any load: a part that stays while it turns, and a part that follows the torque."""

from __future__ import annotations

from functools import cache

#: Share of the loss at rated torque that stays without load, by kind: churning, seals, preload. Common practice, no
#: source: makers print no-load torques of a fifth to a half of it.
IDLE_SHARE = {
    "worm": 0.30,
    "helical": 0.30,
    "helical_bevel": 0.30,
    "planetary": 0.40,
    "cycloidal": 0.40,
    "strain_wave": 0.50,
}
#: Efficiency of a strain-wave gear at rated torque and 1750 rpm, at 50 and 160 to 1, and what 300 rpm adds. Common
#: practice, no source: 0.65 to 0.85.
WAVE_50, WAVE_160, WAVE_SLOW_ADDS = 0.75, 0.65, 0.06


@cache
def idle_share(kind: str) -> float:
    """Share of the rated loss that stays without load [-]; kinds by the beginning of their name."""
    return next((IDLE_SHARE[name] for name in sorted(IDLE_SHARE, key=len, reverse=True) if kind.startswith(name)), 0.3)


def power_in_kw(power_out_kw: float, rated_out_kw: float, efficiency: float, idle: float) -> float:
    """Power taken in [kW]: P + P_r (1/η - 1) (a + (1 - a) P / P_r), η at rated power P_r, a the share that stays.

    >>> round(power_in_kw(1.0, 1.0, 0.8, 0.3), 4), round(power_in_kw(0.1, 1.0, 0.8, 0.3), 4)
    (1.25, 0.1925)
    """
    rated_loss = rated_out_kw * (1 / efficiency - 1)
    return power_out_kw + rated_loss * (idle + (1 - idle) * power_out_kw / rated_out_kw)


def wave_efficiency(ratio: float, input_share: float) -> float:
    """Efficiency of a steel strain-wave gear at rated torque [-]: evenly from 0.75 at 50 to 0.65 at 160 to 1.

    ``input_share`` is 0 at 1750 rpm or more and 1 at 300 rpm or less, even in the logarithm: slow running adds 0.06.

    >>> wave_efficiency(50, 0), round(wave_efficiency(100, 0), 3), round(wave_efficiency(160, 1), 2)
    (0.75, 0.705, 0.71)
    """
    share = min(max((ratio - 50) / 110, 0.0), 1.0)
    return WAVE_50 - share * (WAVE_50 - WAVE_160) + WAVE_SLOW_ADDS * input_share
