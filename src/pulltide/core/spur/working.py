"""How the strength of a mesh comes about."""

from __future__ import annotations

from collections.abc import Callable

from pulltide.core.findings import COMMON_PRACTICE, Source
from pulltide.core.labels import choice
from pulltide.core.spur import rating
from pulltide.core.spur.judging import LoadedTeeth
from pulltide.core.spur.mesh import MeshStrength, Strength
from pulltide.core.spur.rating import SHIGLEY
from pulltide.core.working import Step, Working

AGMA_908 = Source("AGMA 908", "geometry factors of generated teeth", "procedure from memory")


def _factors(d: MeshStrength) -> tuple[Step, ...]:
    a, b = rating.dynamic_constants(rating.QUALITY[d.mesh.made])
    proportion, mounting = rating.face_shares(d.mesh.face_width_mm, d.mesh.pinion_mm, d.mesh.running)
    face = ("1 + C_pf + C_ma", {"C_pf": proportion, "C_ma": mounting})
    if d.face_factor <= d.mesh.MIN_FACE_FACTOR:
        face = (f"at least {d.mesh.MIN_FACE_FACTOR:g} with one gear overhung", {})
    return (
        Step(
            "Dynamic factor",
            "Kv",
            "((A + √V) / A)^B",
            {"A": a, "B": b, "V": d.speed_m_per_s * rating.FPM_PER_M_S},
            d.dynamic_factor,
            "",
            SHIGLEY,
            "A and B by the way the teeth are made, V in ft/min",
        ),
        Step(
            "Load distribution",
            "Km",
            face[0],
            face[1],
            d.face_factor,
            "",
            SHIGLEY if d.mesh.MIN_FACE_FACTOR <= 1 else COMMON_PRACTICE,
        ),
    )


def bending_working(d: MeshStrength) -> Working:
    """Tooth force that the weaker gear of a mesh bears in bending."""
    weak: Strength = min(d.pinion, d.gear, key=lambda item: item.bending_n)
    member = 0 if weak is d.pinion else 1
    b, m = d.mesh.face_width_mm, d.mesh.module_mm
    if weak.material.hardness_hb is None:
        speed = rating.lewis_velocity_factor(d.mesh.made, d.speed_m_per_s)
        numbers = {"σ": weak.bending_mpa, "b": b, "m": m, "Y": weak.lewis_form, "Kv": speed}
        step = Step(
            f"{weak.teeth} teeth, {choice(weak.material.name)}",
            "W",
            "σ b m Y / Kv",
            numbers,
            weak.bending_n,
            "N",
            SHIGLEY,
        )
        return Working("Tooth force by Lewis, no hardness rates it", (step,))
    numbers = {
        "σ": weak.bending_mpa,
        "b": b,
        "m": m,
        "J": weak.geometry_factor,
        "Kv": d.dynamic_factor,
        "Ks": weak.size_factor,
        "Km": d.face_factor,
    }
    return Working(
        "Tooth force that bending allows",
        (
            *_factors(d),
            Step(
                "Allowable stress",
                "σ",
                "0.00689476 k (77.3 HB + 12800) YN / KR",
                {
                    "k": weak.bent_share,
                    "HB": weak.material.hardness_hb,
                    "YN": weak.bending_life,
                    "KR": rating.RELIABILITY,
                },
                weak.bending_mpa,
                "MPa",
                SHIGLEY,
                "through-hardened steel, grade 1; k is 0.7 where teeth are bent both ways",
            ),
            Step(
                "Geometry factor",
                "J",
                "by the generated tooth",
                d.mesh.form_values(member),
                weak.geometry_factor,
                "",
                AGMA_908,
                d.mesh.FORM_NOTE,
            ),
            Step(
                f"Weaker member: {weak.teeth} teeth", "W", "σ b m J / (Kv Ks Km)", numbers, weak.bending_n, "N", SHIGLEY
            ),
        ),
    )


def wear_working(d: MeshStrength) -> Working:
    """Tooth force that the flanks of a mesh bear."""
    softer = min(d.pinion, d.gear, key=lambda item: item.contact_mpa or 0.0)
    stress = softer.contact_mpa or 0.0
    size = max(d.pinion.size_factor, d.gear.size_factor)
    numbers = {
        "σ_c": stress,
        "C_p": d.elastic,
        "d": d.mesh.rolling_mm,
        "b": d.mesh.face_width_mm,
        "I": d.contact_shape,
        "Kv": d.dynamic_factor,
        "Ks": size,
        "Km": d.face_factor,
    }
    return Working(
        "Tooth force that wear allows",
        (
            *_factors(d),
            Step(
                "Allowable contact stress of the softer",
                "σ_c",
                "0.00689476 (322 HB + 29100) ZN CH / KR",
                {"HB": softer.material.hardness_hb or 0.0, "ZN CH": softer.contact_life, "KR": rating.RELIABILITY},
                stress,
                "MPa",
                SHIGLEY,
                "through-hardened steel, grade 1",
            ),
            d.mesh.contact_shape,
            Step("Both flanks", "W", "(σ_c / C_p)² d b I / (Kv Ks Km)", numbers, d.wear_n or 0.0, "N", SHIGLEY),
        ),
    )


def safety_workings(teeth: LoadedTeeth, bending: Working, wear: Working | None) -> dict[str, Callable[[], Working]]:
    """Both safety factors, from the forces that the teeth bear."""
    found: dict[str, Callable[[], Working]] = {}
    if teeth.safety_bending is not None:
        put_in = {"W_b": teeth.bending_n, "W_d": teeth.design_force_n}
        step = Step(
            "Force borne over force with overload", "S_F", "W_b / W_d", put_in, teeth.safety_bending, "", SHIGLEY
        )
        found["safety_bending"] = lambda: Working("Safety in bending", (*bending.steps, step))
    if teeth.safety_wear is not None and teeth.wear_n is not None and wear is not None:
        put_in = {"W_w": teeth.wear_n, "W_d": teeth.design_force_n}
        note = "on stress: the load may grow by its square"
        last = Step("Root of the forces", "S_H", "√(W_w / W_d)", put_in, teeth.safety_wear, "", SHIGLEY, note)
        found["safety_wear"] = lambda: Working("Safety in wear", (*wear.steps, last))
    return found
