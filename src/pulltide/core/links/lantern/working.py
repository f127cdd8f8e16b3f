"""How the figures of a lantern pinion come about."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT
from pulltide.core.links.lantern import checks
from pulltide.core.links.lantern.transmission import LanternDetails, pin_force_n
from pulltide.core.model import CoreModel, Mm, Mpa
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Step, Working, made_of


class PinInputs(CoreModel):
    """Inputs of the force on a pin."""

    stress_mpa: Mpa = Field(title="Allowable bending stress", gt=0, le=1000)
    diameter_mm: Mm = Field(title="Pin diameter", ge=1, le=100)
    span_mm: Mm = Field(title="Free length between the discs", ge=2, le=500)


def pin_working(inputs: PinInputs) -> Working:
    """Force at mid-span that a pin fixed at both ends bears."""
    value = pin_force_n(inputs.stress_mpa, inputs.diameter_mm, inputs.span_mm)
    numbers = {"σ": inputs.stress_mpa, "d": inputs.diameter_mm, "b": inputs.span_mm}
    return Working("Force on a pin", (Step("Force", "W", "σ π d³ / (4 b)", numbers, value, "N", checks.BEAM),))


def workings(result: LinkResult[LanternDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a pair, by key."""
    d = result.details
    link, p = d.link, d.link.circular_pitch_mm
    n1, n2, torque = float(link.driver_count), float(link.driven_count), result.flow.driver_torque_nm
    pin = PinInputs.model_construct(stress_mpa=d.pin_mpa, diameter_mm=link.pin_diameter_mm, span_mm=link.pin_span_mm)
    return {
        "ratio": made_of("Ratio", "i = N2 / N1", result.ratio, "", EXACT, N2=n2, N1=n1),
        "center": made_of(
            "Center distance",
            "C = p (N1 + N2) / (2 π)",
            (d.driver_mm + d.driven_mm) / 2,
            "mm",
            EXACT,
            p=p,
            N1=n1,
            N2=n2,
        ),
        "driver_pitch": made_of("Driver pitch diameter", "d = p N / π", d.driver_mm, "mm", EXACT, p=p, N=n1),
        "driven_pitch": made_of("Driven pitch diameter", "d = p N / π", d.driven_mm, "mm", EXACT, p=p, N=n2),
        "pitch_speed": made_of(
            "Pitch-line speed",
            "v = π d n / 60000",
            d.speed_m_per_s,
            "m/s",
            EXACT,
            d=d.driver_mm,
            n=result.flow.driver_speed_rpm,
        ),
        "pin": lambda: pin_working(pin),
        "tooth": made_of(
            "Tooth force by Lewis",
            "W = σ b (p / π) Y / Kv",
            d.tooth_n,
            "N",
            checks.LEWIS,
            σ=d.wheel_mpa,
            b=link.wheel_face_mm,
            p=p,
            Y=d.form,
            Kv=d.velocity_factor,
        ),
        "force": made_of("Tooth force, running", "W = 2000 T / d", d.force_n, "N", EXACT, T=torque, d=d.driver_mm),
        "design_force": made_of(
            "Tooth force with overload",
            "W_d = 2000 T_d / d",
            d.design_force_n,
            "N",
            EXACT,
            T_d=result.design.chosen_nm,
            d=d.driver_mm,
        ),
        "efficiency": made_of("Efficiency", "η = of pins on teeth", result.efficiency, "share", COMMON_PRACTICE),
    }
