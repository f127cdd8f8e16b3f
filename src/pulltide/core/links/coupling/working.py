"""How the figures of a coupling come about."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from pydantic import Field

from pulltide.core.findings import COMMON_PRACTICE, EXACT
from pulltide.core.links.coupling import checks, tables
from pulltide.core.links.coupling.inputs import CouplingType
from pulltide.core.links.coupling.transmission import PIN_SHEAR_MPA, CouplingDetails
from pulltide.core.model import CoreModel, Degrees, Mm
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Step, Working, made_of


class AlignmentInputs(CoreModel):
    """Inputs of the question whether a coupling takes a misalignment."""

    type: CouplingType = Field(title="Type")
    angle_off_deg: Degrees = Field(0.0, title="Shafts lie askew by", ge=0, le=10)
    parallel_off_mm: Mm = Field(0.0, title="Shafts lie beside by", ge=0, le=20)


def alignment_working(inputs: AlignmentInputs) -> Working:
    """Angle and offset together as a share of what a coupling takes; 1 is all."""
    data = tables.type_data(inputs.type)
    a, p = inputs.angle_off_deg, inputs.parallel_off_mm
    return _alignment(a, p, data)


def _alignment(a: float, p: float, data: tables.TypeData) -> Working:
    numbers = {"a": a, "a_max": data.angle_deg, "p": p, "p_max": data.parallel_mm}
    share = a / data.angle_deg + p / data.parallel_mm
    source = tables.table("types").as_source
    return Working(
        "Misalignment of a coupling",
        (Step("Share in use", "u", "a / a_max + p / p_max", numbers, share, "share", source),),
    )


def workings(result: LinkResult[CouplingDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a coupling, by key."""
    d = result.details
    source, kinds = tables.table("stock").as_source, tables.table("types").as_source
    rated = d.unit.rated_torque_nm
    found = {
        "design_torque": made_of(
            "Design torque",
            "T_d = T K_s",
            result.design.chosen_nm,
            "N*m",
            EXACT,
            T=result.flow.driver_torque_nm,
            K_s=result.service_factor.value,
        ),
        "angle": made_of("Angular misalignment, alone", "a_max = table by type", d.data.angle_deg, "deg", kinds),
        "parallel": made_of("Parallel offset, alone", "p_max = table by type", d.data.parallel_mm, "mm", kinds),
        "efficiency": made_of("Efficiency", "η = table by type", result.efficiency, "share", kinds),
    }
    if rated is not None and d.moment_nm is not None:
        found["rated_torque"] = made_of("Rated torque", "T_r = as listed", rated, "N*m", source)
        found["moment_torque"] = made_of(
            "Momentary torque", "T_m = k T_r", d.moment_nm, "N*m", COMMON_PRACTICE, k=d.data.peak_over_rated, T_r=rated
        )
    if d.unit.max_bore_mm is not None:
        found["max_bore"] = made_of("Greatest bore", "d_max = as listed", d.unit.max_bore_mm, "mm", checks.LIST)
    if d.pin_nm is not None:
        found["pin_torque"] = made_of(
            "Shear torque of the pins",
            "T = n τ_u (π d² / 4) D / 2000",
            d.pin_nm,
            "N*m",
            COMMON_PRACTICE,
            note="τ_u: ultimate shear of ordinary stock; try a pin before you trust it",
            n=float(d.link.shear_pins),
            τ_u=PIN_SHEAR_MPA[d.link.shear_pin_steel],
            d=d.link.shear_pin_mm or 0.0,
            D=d.link.shear_circle_mm or 0.0,
        )
    if d.misalignment is not None:
        a, p = d.link.angle_off_deg or 0.0, d.link.parallel_off_mm or 0.0
        found["misalignment"] = lambda: _alignment(a, p, d.data)
    return found
