"""One machine of each kind for the worksheets: the starting values, and measures for the sheets that have none."""

from __future__ import annotations

from typing import Any

from pulltide.core.needs import NEED_KINDS

KG = 9.80665
MEASURED: dict[str, dict[str, Any]] = {
    "pull": {
        "arm_mm": 900,
        "running_1_n": 23 * KG,
        "running_2_n": 25 * KG,
        "running_3_n": 24 * KG,
        "breakaway_1_n": 34 * KG,
        "speed_ideal_rpm": 22,
    },
    "old_motor": {"input_power_kw": 0.9, "last_shaft_rpm": 40},
}
WORKSHEETS: dict[str, dict[str, Any]] = {kind.kind: dict(kind.starter) for kind in NEED_KINDS} | MEASURED
