"""How the figures of a pair of gears come about, and the same formulas callable by name."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from math import gcd, pi, radians, tan

from pydantic import Field

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.links.gear_pair.transmission import GearDetails
from pulltide.core.model import CoreModel, Mm, Newton, Plain, Rpm
from pulltide.core.rim import rim_workings
from pulltide.core.spur import rating, tables
from pulltide.core.spur.kinds import Made, Material, Running, mesh_efficiency
from pulltide.core.spur.mesh import Mesh, mesh_strength
from pulltide.core.spur.rating import SHIGLEY
from pulltide.core.spur.single import TOOTH_FORCES
from pulltide.core.spur.working import bending_working, safety_workings, wear_working
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Step, Working, made_of

MESHING = Source("Shigley's Mechanical Engineering Design", "section 13-4", "formula")


class LewisInputs(CoreModel):
    """Inputs of the Lewis bending stress."""

    tooth_force_n: Newton = Field(title="Tooth force", gt=0, le=1e7)
    module_mm: Mm = Field(title="Module", ge=0.3, le=25)
    teeth: int = Field(title="Teeth", ge=12, le=400)
    face_width_mm: Mm = Field(title="Face width", ge=1, le=400)
    velocity_factor: Plain = Field(1.0, title="Velocity factor", ge=1, le=6)


def lewis_working(inputs: LewisInputs) -> Working:
    """Bending stress at the root of a 20 degree tooth by Lewis."""
    form = tables.lewis_form(inputs.teeth, "20")
    value = inputs.velocity_factor * inputs.tooth_force_n / (inputs.face_width_mm * inputs.module_mm * form)
    numbers = {
        "Kv": inputs.velocity_factor,
        "W": inputs.tooth_force_n,
        "b": inputs.face_width_mm,
        "m": inputs.module_mm,
        "Y": form,
    }
    look = Step(
        "Form factor", "Y", "table by teeth", {"N": float(inputs.teeth)}, form, "", tables.table("lewis_form").as_source
    )
    return Working(
        "Lewis bending stress", (look, Step("Bending stress", "σ", "Kv W / (b m Y)", numbers, value, "MPa", SHIGLEY))
    )


class CountsInputs(CoreModel):
    """Inputs of a search for tooth counts."""

    ratio: Plain = Field(title="Wanted ratio", ge=0.01, le=100)
    fewest: int = Field(17, title="Fewest teeth", ge=8, le=100)
    most: int = Field(120, title="Most teeth", ge=10, le=200)


def best_counts(ratio: float, fewest: int, most: int) -> tuple[int, int]:
    """Tooth counts (driver, driven) whose ratio is nearest, the smaller pair of equals. Every pair is tried.

    Raises ImpossibleGeometry if no pair lies within the counts.

    >>> best_counts(3.141592653589793, 17, 120), best_counts(2 ** 0.5, 17, 60)
    ((21, 66), (29, 41))
    """
    if fewest > most:
        raise ImpossibleGeometry("The fewest teeth are more than the most; exchange them.")
    pairs = ((driver, driven) for driver in range(fewest, most + 1) for driven in range(fewest, most + 1))
    return min(pairs, key=lambda pair: (round(abs(pair[1] / pair[0] / ratio - 1), 12), sum(pair)))


def counts_working(inputs: CountsInputs) -> Working:
    """The pair of tooth counts nearest to a ratio, its error, and whether it hunts."""
    driver, driven = best_counts(inputs.ratio, inputs.fewest, inputs.most)
    error = driven / driver / inputs.ratio - 1
    numbers = {"N1": float(driver), "N2": float(driven)}
    return Working(
        "Tooth counts for a ratio",
        (
            Step(
                "Driver",
                "N1",
                "every pair tried, least error first",
                {"r": inputs.ratio},
                float(driver),
                "teeth",
                EXACT,
            ),
            Step(
                "Driven",
                "N2",
                "every pair tried, least error first",
                {"r": inputs.ratio},
                float(driven),
                "teeth",
                EXACT,
            ),
            Step(
                "Common divisor; 1 lets every tooth meet every other",
                "g",
                "gcd of N1 and N2",
                numbers,
                float(gcd(driver, driven)),
                "",
                EXACT,
            ),
            Step("Error", "e", "N2 / N1 / r - 1", {**numbers, "r": inputs.ratio}, error, "share", EXACT),
        ),
    )


class StrengthInputs(CoreModel):
    """Inputs of what a pair of 20 degree spur gears bears."""

    module_mm: Mm = Field(title="Module", ge=0.3, le=25)
    pinion_teeth: int = Field(title="Pinion teeth", ge=12, le=200)
    gear_teeth: int = Field(title="Gear teeth", ge=12, le=400)
    face_width_mm: Mm = Field(title="Face width", ge=2, le=400)
    pinion_speed_rpm: Rpm = Field(title="Speed of the pinion", gt=0, le=20_000)
    pinion_material: Material = Field("steel_1045_normalized", title="Pinion material")
    gear_material: Material = Field("steel_1045_normalized", title="Gear material")
    made: Made = Field("hobbed", title="Tooth quality")
    running: Running = Field("enclosed_oiled", title="Runs")


def strength_working(inputs: StrengthInputs) -> Working:
    """Tooth force that bending and wear allow, by the AGMA method of the textbooks."""
    small, large = sorted((inputs.pinion_teeth, inputs.gear_teeth))
    metals = (inputs.pinion_material, inputs.gear_material)
    mesh = Mesh(
        inputs.module_mm,
        (small, large),
        "20",
        inputs.face_width_mm,
        metals if inputs.pinion_teeth <= inputs.gear_teeth else (metals[1], metals[0]),
        inputs.made,
        inputs.running,
    )
    found = mesh_strength(mesh, pi * inputs.module_mm * inputs.pinion_teeth * inputs.pinion_speed_rpm / 60_000)
    steps = [replace(step, symbol="W_b") if step.symbol == "W" else step for step in bending_working(found).steps]
    if found.wear_n is not None:
        known = {step.symbol for step in steps}
        wear = [step for step in wear_working(found).steps if step.symbol not in known]
        steps += [replace(step, symbol="W_w") if step.symbol == "W" else step for step in wear]
    least = min(found.bending_n, found.wear_n or found.bending_n)
    steps.append(Step("Tooth force", "W", "least of bending and wear", {}, least, "N", SHIGLEY))
    return Working("Strength of a gear pair", tuple(steps))


def workings(result: LinkResult[GearDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a pair, by key."""
    d = result.details
    link, m = d.link, d.link.module
    n1, n2, figures = (
        float(link.driver_teeth),
        float(link.driven_teeth),
        {item.key: item.value or 0.0 for item in result.figures},
    )
    sign = "-" if link.mesh == "internal" else "+"
    weak = min((item for mesh in d.meshes for item in (mesh.pinion, mesh.gear)), key=lambda item: item.lewis_n)
    center_of = f"m (N_large {sign} N_small) / 2 + s"
    center_numbers = {"m": m, "N_large": float(link.large_teeth), "N_small": float(link.small_teeth)}
    center_numbers["s"] = link.spread_mm
    if link.idlers:
        center_of = "m (N_large + N_small) / 2 + k m N_i + s"
        center_numbers |= {"k": float(link.idlers), "N_i": float(link.idler_teeth or 0)}
    form, speed = (weak.lewis_form, rating.lewis_velocity_factor(link.made, d.speed_m_per_s))

    def tip(n: float) -> str:
        inside = link.mesh == "internal" and n == link.large_teeth
        return "d_a = m (N - 2)" if inside else "d_a = m (N + 2 + 2 x)"

    if link.driver_shift or link.driven_shift:
        center_of = "m (N1 + N2) / 2 cos φ / cos φ' + s, inv φ' = inv φ + 2 tan φ (x1 + x2) / (N1 + N2)"
        center_numbers = {"m": m, "N1": n1, "N2": n2, "φ": link.angle, "x1": link.driver_shift}
        center_numbers |= {"x2": link.driven_shift, "s": link.spread_mm}
    center = Step("Center distance", "C", center_of, center_numbers, d.center_mm, "mm", EXACT)
    found = {
        **rim_workings(result, d.driver_mm, "W", TOOTH_FORCES),
        "ratio": made_of("Ratio", "i = N2 / N1", result.ratio, "", EXACT, N2=n2, N1=n1),
        "center": lambda: Working("Center distance", (center,)),
        "driver_pitch": made_of("Driver pitch diameter", "d = m N", d.driver_mm, "mm", EXACT, m=m, N=n1),
        "driven_pitch": made_of("Driven pitch diameter", "d = m N", d.driven_mm, "mm", EXACT, m=m, N=n2),
        "driver_outside": made_of(
            "Driver tip diameter", tip(n1), figures["driver_outside"], "mm", EXACT, m=m, N=n1, x=link.driver_shift
        ),
        "driven_outside": made_of(
            "Driven tip diameter", tip(n2), figures["driven_outside"], "mm", EXACT, m=m, N=n2, x=link.driven_shift
        ),
        "contact_ratio": made_of(
            "Contact ratio",
            "m_c = length of the path of contact over p_b, cut short where a tooth is undercut",
            d.contact_ratio,
            "",
            MESHING,
            N1=n1,
            N2=n2,
            φ=link.angle,
        ),
        "bending": lambda: bending_working(d.weakest),
        "lewis": made_of(
            "Quick look, Lewis",
            "W = k σ b m Y / Kv",
            figures["lewis"],
            "N",
            SHIGLEY,
            note="k is 0.7 for a tooth that is bent both ways, an idler's",
            k=weak.bent_share,
            σ=weak.material.static_mpa,
            b=link.face_width_mm,
            m=m,
            Y=form,
            Kv=speed,
        ),
        "separating": made_of(
            "Separating force",
            "W_r = W tan φ",
            d.force_n * tan(radians(link.angle)),
            "N",
            EXACT,
            W=d.force_n,
            φ=link.angle,
        ),
        "efficiency": made_of(
            "Efficiency",
            "η = η_1^k",
            result.efficiency,
            "share",
            COMMON_PRACTICE,
            note="η_1 of one mesh by how it runs and how its teeth are made, or your own; k meshes",
            η_1=link.own_efficiency or mesh_efficiency(link.running, link.made),
            k=float(len(d.meshes)),
        ),
    }
    worn = d.soonest_worn
    if worn is not None:
        found["wear"] = lambda: wear_working(worn)
    rated = None if worn is None else wear_working(worn)
    return found | safety_workings(d.teeth, bending_working(d.weakest), rated)
