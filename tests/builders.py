"""Builders with sane defaults; a test states only what it varies."""

from __future__ import annotations

from typing import Any

from pulltide.core.catalog import CATALOG
from pulltide.core.machine import Machine
from pulltide.core.shipped import shipped_catalog

INCH = 25.4
#: The lists that ship, and the validation context in which parts are looked up in them by name.
SHIPPED = shipped_catalog()
LOOKED_UP = {CATALOG: SHIPPED}


def build_machine(links: list[dict[str, Any]] | None = None, **changes: Any) -> Machine:
    """A 1 1/2 hp motor, A belt, worm and chain that works; a test states only what it varies."""
    need = {
        "speed_min_rpm": 14.0,
        "speed_ideal_rpm": 17.0,
        "speed_max_rpm": 20.0,
        "running_torque_nm": 120.0,
        "peak_torque_nm": 180.0,
        "breakaway_torque_nm": 150.0,
    }
    duty = {"shock": "light", "hours_per_day": 6.0}
    motor = {"power_kw": 1.1185, "speed_rpm": 1740.0, "breakdown_torque_ratio": 2.5, "locked_rotor_torque_ratio": 2.2}
    default_links = [
        build_belt(),
        {"kind": "reducer", "designation": "PW-6 15:1"},
        {"kind": "roller_chain", "chain": "50", "driver_teeth": 17, "driven_teeth": 46, "pitches": 90},
    ]
    return Machine.model_validate(
        {
            "name": "Test rig",
            "need": need | changes.get("need", {}),
            "duty": duty | changes.get("duty", {}),
            "plans": [
                {
                    "name": "Plan A",
                    "source": motor | changes.get("motor", {}),
                    "links": default_links if links is None else links,
                }
            ],
        },
        context=LOOKED_UP,
    )


def build_belt(**changes: Any) -> dict[str, Any]:
    """An A belt from 3.4 to 8 in outside diameter."""
    step = {"driver_diameter_mm": 3.4 * INCH, "driven_diameter_mm": 8.0 * INCH}
    return {"kind": "v_belt", "section": "A", "measured_as": "outside", "steps": [step], "belt": "A51"} | changes


def looked_up(model: Any, **raw: Any) -> Any:
    """A link that names a part, with the part's data out of the shipped lists."""
    return model.model_validate(raw, context=LOOKED_UP)
