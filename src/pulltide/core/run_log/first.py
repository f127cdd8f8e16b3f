"""What instruments are expected to show on the first day, under the full load and before anything was read."""

from __future__ import annotations

from collections.abc import Mapping

from pulltide.core.errors import InputError
from pulltide.core.line_result import LineResult
from pulltide.core.machine import Machine, Plan
from pulltide.core.run_log.instruments import WARM
from pulltide.core.run_log.model import Band, Model, nuisances
from pulltide.core.run_log.of_line import running_of

#: What is read on the first day, in this order.
READ = ("speed", "amps", "strum", "motor_case", "gear_case", "bearing")


Bands = Mapping[tuple[str, str], Band]


def first_readings(machine: Machine, plan: Plan, line: LineResult) -> Bands:
    """Bands by kind and place, temperatures with the air's; nothing where a drive stalls or is not known enough."""
    if line.stalled:
        return {}
    try:
        running = running_of(machine, plan, line)
    except InputError:
        return {}
    bands = Model(running, 1.0, nuisances(running)).bands()
    air = machine.duty.ambient_c
    return {
        key: Band(band.middle + air, band.half) if key[0] in WARM else band
        for kind in READ
        for key, band in bands.items()
        if key[0] == kind
    }
