"""How the figures of a timing belt come about, and the same formulas callable by name."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import pi

from pydantic import Field

from pulltide.core import open_belt
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.links.toothed_belt import rating, tables
from pulltide.core.links.toothed_belt.inputs import Profile
from pulltide.core.links.toothed_belt.transmission import TENSION_SHARE, BeltDetails
from pulltide.core.model import CoreModel, Mm, Rpm
from pulltide.core.transmission import LinkResult
from pulltide.core.units import rim_speed_m_per_s
from pulltide.core.working import Step, Working

ISO = Source("ISO 5294 and IP-24", "power rating", "formula, constants from memory")


class RatingInputs(CoreModel):
    """Inputs of the timing belt rating."""

    profile: Profile = Field(title="Profile")
    small_teeth: int = Field(title="Teeth of the small pulley", ge=6, le=240)
    large_teeth: int = Field(title="Teeth of the large pulley", ge=6, le=240)
    belt_teeth: int = Field(title="Belt teeth", ge=20, le=2000)
    width_mm: Mm = Field(title="Belt width", ge=3, le=200)
    small_speed_rpm: Rpm = Field(title="Speed of the small pulley", gt=0, le=10_000)


def rating_working(inputs: RatingInputs) -> Working:
    """Center distance, teeth in mesh and power of a timing belt. Raises ImpossibleGeometry."""
    data = tables.profiles()[inputs.profile]
    if inputs.small_teeth > inputs.large_teeth:
        raise ImpossibleGeometry("The small pulley has more teeth than the large one; exchange them.")
    d, big = (rating.pitch_diameter_mm(data.pitch_mm, n) for n in (inputs.small_teeth, inputs.large_teeth))
    center = open_belt.center_from_length_mm(inputs.belt_teeth * data.pitch_mm, d, big)
    mesh = rating.teeth_in_mesh(inputs.small_teeth, inputs.large_teeth, data.pitch_mm, center)
    speed = rim_speed_m_per_s(d, inputs.small_speed_rpm)
    steps = (
        Step(
            "Center distance",
            "C",
            "L = 2 √(C² - ((D - d)/2)²) + π (D + d)/2 + (D - d) γ, solved for C",
            {"D": big, "d": d, "L": inputs.belt_teeth * data.pitch_mm},
            center,
            "mm",
            EXACT,
        ),
        _mesh_step(inputs.small_teeth, inputs.large_teeth, data.pitch_mm, center, mesh),
        *_rating_steps(data, inputs.width_mm, mesh, speed),
    )
    return Working("Timing belt rating", steps)


def _mesh_step(small: int, large: int, pitch: float, center: float, mesh: int) -> Step:
    numbers = {"z1": float(small), "z2": float(large), "p": pitch, "C": center}
    formula = "z1/2 - p z1 (z2 - z1) / (2 π² C), whole teeth"
    return Step("Teeth in mesh", "z_m", formula, numbers, float(mesh), "teeth", ISO)


def _rating_steps(data: tables.ProfileData, width: float, mesh: int, speed: float) -> tuple[Step, ...]:
    by_width = rating.width_factor(data, width)
    pull = rating.allowable_pull_n(data, width, mesh)
    thrown = rating.centrifugal_n(data, width, speed)
    source = tables.table("profiles").as_source
    shape = "(w / w0)^1.14" if data.by_standard else "w / w0"
    return (
        Step("Width", "k_w", shape, {"w": width, "w0": data.base_width_mm}, by_width, "", ISO),
        Step(
            "Teeth in mesh, factor",
            "k_z",
            "1 - 0.2 (6 - z_m), at most 1",
            {"z_m": float(mesh)},
            rating.mesh_factor(mesh),
            "",
            ISO,
        ),
        Step(
            "Working pull",
            "F",
            "k_z k_w T_a",
            {"k_z": rating.mesh_factor(mesh), "k_w": by_width, "T_a": data.allowable_n},
            pull,
            "N",
            source,
        ),
        Step(
            "Rating",
            "P",
            "(F - m v²) v / 1000, never below 0",
            {"F": pull, "m": thrown / speed**2, "v": speed},
            rating.rating_kw(data, width, mesh, speed),
            "kW",
            ISO,
        ),
    )


class PulleyInputs(CoreModel):
    """Inputs of a toothed pulley."""

    profile: Profile = Field(title="Profile")
    teeth: int = Field(title="Teeth", ge=6, le=400)


def pulley_working(inputs: PulleyInputs) -> Working:
    """Outside and pitch diameter of a toothed pulley, by its teeth: never by the outside."""
    data = tables.profiles()[inputs.profile]
    pitch = inputs.teeth * data.pitch_mm / pi
    source = tables.table("profiles").as_source
    numbers = {"d": pitch, "2u": data.outside_less_mm}
    by_teeth = {"z": float(inputs.teeth), "p": data.pitch_mm}
    return Working(
        "Toothed pulley",
        (
            Step("Outside diameter", "d_o", "d - 2u", numbers, pitch - data.outside_less_mm, "mm", source),
            Step("Pitch diameter", "d", "z p / π", by_teeth, pitch, "mm", EXACT),
        ),
    )


def _one(
    name: str, symbol: str, formula: str, value: float, unit: str, source: Source, /, **put_in: float
) -> Callable[[], Working]:
    return lambda: Working(name, (Step(name, symbol, formula, put_in, value, unit, source),))


def workings(result: LinkResult[BeltDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a timing belt, by key."""
    d = result.details
    place, pitch, link = d.layout, d.data.pitch_mm, d.link
    ends = {
        "D": max(place.driver_pitch_mm, place.driven_pitch_mm),
        "d": min(place.driver_pitch_mm, place.driven_pitch_mm),
    }
    small, large = sorted((link.driver_teeth, link.driven_teeth))
    mesh = _mesh_step(small, large, pitch, place.center_mm, place.mesh)
    z1, z2, less = float(link.driver_teeth), float(link.driven_teeth), d.data.outside_less_mm
    length = "(2 √(C² - ((D - d)/2)²) + π (D + d)/2 + (D - d) γ) / p"
    return {
        "ratio": _one("Ratio", "i", "z2 / z1", result.ratio, "", EXACT, z2=z2, z1=z1),
        "mesh": lambda: Working("Teeth in mesh", (mesh,)),
        "wrap": _one(
            "Wrap of the small pulley",
            "θ",
            "180 - 2 asin((D - d) / (2 C))",
            place.wrap_deg,
            "deg",
            EXACT,
            **ends,
            C=place.center_mm,
        ),
        "driver_pitch": _one(
            "Driver pitch diameter", "d", "z p / π", place.driver_pitch_mm, "mm", EXACT, z=z1, p=pitch
        ),
        "driven_pitch": _one(
            "Driven pitch diameter", "d", "z p / π", place.driven_pitch_mm, "mm", EXACT, z=z2, p=pitch
        ),
        "driver_outside": _one(
            "Driver outside diameter",
            "OD",
            "d - 2 u",
            place.driver_pitch_mm - less,
            "mm",
            ISO,
            d=place.driver_pitch_mm,
            u=less / 2,
        ),
        "driven_outside": _one(
            "Driven outside diameter",
            "OD",
            "d - 2 u",
            place.driven_pitch_mm - less,
            "mm",
            ISO,
            d=place.driven_pitch_mm,
            u=less / 2,
        ),
        "center": _one(
            "Center distance",
            "C",
            "belt length solved for C",
            place.center_mm,
            "mm",
            EXACT,
            **ends,
            L=place.belt_teeth * pitch,
        ),
        "length": _one(
            "Belt length", "z_B", length, place.belt_teeth, "teeth", EXACT, **ends, C=place.center_mm, p=pitch
        ),
        "belt_speed": _one(
            "Belt speed",
            "v",
            "z1 p n / 60000",
            d.speed_m_per_s,
            "m/s",
            EXACT,
            z1=z1,
            p=pitch,
            n=result.flow.driver_speed_rpm,
        ),
        "capacity": lambda: Working(
            "Timing belt rating", (mesh, *_rating_steps(d.data, link.width_mm, place.mesh, d.speed_m_per_s))
        ),
        "efficiency": _one("Efficiency of the belt", "η", "as stated", result.efficiency, "share", COMMON_PRACTICE),
        "pull": _one(
            "Running pull", "F", "1000 P / v", d.pull_n, "N", EXACT, P=result.flow.power_in_kw, v=d.speed_m_per_s
        ),
        "tension": _one(
            "Tension to set, one strand",
            "F_0",
            "k · 1000 P_d / v",
            d.static_n,
            "N",
            COMMON_PRACTICE,
            k=TENSION_SHARE,
            P_d=d.design_power_kw,
            v=d.speed_m_per_s,
        ),
    }
