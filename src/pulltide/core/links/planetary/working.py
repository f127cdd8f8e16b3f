"""How the figures of a planetary set come about, and the same formulas callable by name."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from pydantic import Field, model_validator

from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.labels import phrase
from pulltide.core.links.planetary import motion
from pulltide.core.links.planetary.transmission import PlanetaryDetails
from pulltide.core.model import CoreModel, Rpm
from pulltide.core.spur.working import bending_working, safety_workings, wear_working
from pulltide.core.transmission import LinkResult
from pulltide.core.working import Step, Working, made_of

WILLIS = Source("Willis's equation", "Shigley section 13-13", "formula")


class SpeedsInputs(CoreModel):
    """Inputs of a planetary set with two members turned; the third follows. A held member turns at 0."""

    sun_teeth: int = Field(title="Sun teeth", ge=8, le=300)
    ring_teeth: int = Field(title="Ring teeth", ge=20, le=600)
    sun_speed_rpm: Rpm | None = Field(None, title="Speed of the sun, signed", ge=-20_000, le=20_000)
    ring_speed_rpm: Rpm | None = Field(None, title="Speed of the ring, signed", ge=-20_000, le=20_000)
    carrier_speed_rpm: Rpm | None = Field(None, title="Speed of the carrier, signed", ge=-20_000, le=20_000)

    @model_validator(mode="after")
    def _two_known(self) -> SpeedsInputs:
        known = [self.sun_speed_rpm, self.ring_speed_rpm, self.carrier_speed_rpm]
        if sum(speed is None for speed in known) != 1:
            raise ValueError("give two speeds and leave one empty; a held member turns at 0")
        if self.ring_teeth <= self.sun_teeth:
            raise ValueError("the ring must have more teeth than the sun, or no planet fits between them")
        if (self.ring_teeth - self.sun_teeth) % 2:
            raise ValueError("sun and ring teeth must both be even or both odd, or no planet fits between them")
        return self


def speeds_working(inputs: SpeedsInputs) -> Working:
    """Third speed of a planetary set, one input or two, and the speed of its planets."""
    s, r = float(inputs.sun_teeth), float(inputs.ring_teeth)
    given: dict[motion.Member, float | None] = {
        "sun": inputs.sun_speed_rpm,
        "ring": inputs.ring_speed_rpm,
        "carrier": inputs.carrier_speed_rpm,
    }
    known = {name: speed for name, speed in given.items() if speed is not None}
    wanted: motion.Member = next(name for name, speed in given.items() if speed is None)
    third = motion.third_speed(s, r, known, wanted)
    speeds = {**known, wanted: third}
    planet = (r - s) / 2
    spin = motion.planet_speed(s, planet, speeds["sun"], speeds["carrier"])
    letters = {"sun": "ωS", "ring": "ωR", "carrier": "ωC"}
    numbers = {"S": s, "R": r, **{letters[name]: speed for name, speed in known.items()}}
    about = {"S": s, "P": planet, "ωS": speeds["sun"], "ωC": speeds["carrier"]}
    return Working(
        "Speeds of a planetary set",
        (
            Step("Speed of the planets", "ωP", "ωC - (S / P)(ωS - ωC)", about, spin, "rpm", WILLIS),
            Step(
                f"Speed of the {phrase(wanted)}",
                letters[wanted],
                "S ωS + R ωR = (S + R) ωC",
                numbers,
                third,
                "rpm",
                WILLIS,
            ),
        ),
    )


class SteppedInputs(CoreModel):
    """Inputs of a set whose planets have two gears on one pin: P1 meets the sun, P2 the ring, which is held."""

    sun_teeth: int = Field(title="Sun teeth", ge=8, le=300)
    first_planet_teeth: int = Field(title="Planet teeth that meet the sun", ge=8, le=300)
    second_planet_teeth: int = Field(title="Planet teeth that meet the ring", ge=8, le=300)
    ring_teeth: int = Field(title="Ring teeth", ge=20, le=600)


def stepped_working(inputs: SteppedInputs) -> Working:
    """Ratio of sun to carrier through stepped planets with the ring held."""
    s, p1 = float(inputs.sun_teeth), float(inputs.first_planet_teeth)
    p2, r = float(inputs.second_planet_teeth), float(inputs.ring_teeth)
    if r <= p2:
        raise ImpossibleGeometry(f"A ring of {r:g} teeth does not go round a planet of {p2:g}.")
    numbers = {"R": r, "P1": p1, "S": s, "P2": p2}
    value = 1 + r * p1 / (s * p2)
    return Working("Stepped planets", (Step("Ratio", "i", "1 + R P1 / (S P2)", numbers, value, "", WILLIS),))


#: Ratio of a stage by what is held and what drives, k = R / S.
RATIOS = {
    "sun_to_carrier_ring_held": "1 + R / S",
    "sun_to_ring_carrier_held": "-R / S",
    "ring_to_carrier_sun_held": "1 + S / R",
    "ring_to_sun_carrier_held": "-S / R",
    "carrier_to_sun_ring_held": "S / (S + R)",
    "carrier_to_ring_sun_held": "R / (S + R)",
}


def workings(result: LinkResult[PlanetaryDetails]) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a set, by key."""
    d = result.details
    link, m = d.link, d.link.module_mm
    s, p, r, n = (float(x) for x in (link.sun_teeth, link.planet_teeth, link.ring_teeth, link.planets))
    driver_nm = result.flow.driver_torque_nm
    balance_note = "T_R = (R/S) T_S η0^±1, T_C = -(T_S + T_R); the hardest stage where there are several"
    k = float(link.stages)
    formula = RATIOS[link.arrangement]
    found = {
        "ratio": made_of(
            "Ratio", f"i = ({formula})^k", d.stage.ratio**link.stages, "", WILLIS, S=s, R=r, k=k, note="k stages"
        ),
        "sun_pitch": made_of("Sun pitch diameter", "d = m S", m * s, "mm", EXACT, m=m, S=s),
        "planet_pitch": made_of("Planet pitch diameter", "d = m P", m * p, "mm", EXACT, m=m, P=p),
        "ring_pitch": made_of("Ring pitch diameter", "d = m R", m * r, "mm", EXACT, m=m, R=r),
        "orbit": made_of("Circle of the planet pins", "D = m (S + P)", m * (s + p), "mm", EXACT, m=m, S=s, P=p),
        "planet_speed": made_of(
            "Speed of the planets",
            "ωP = |ωC - (S / P)(ωS - ωC)|",
            abs(d.planet_speed_rpm),
            "rpm",
            WILLIS,
            S=s,
            P=p,
            ωS=d.sun_speed_rpm,
            ωC=d.carrier_speed_rpm,
        ),
        "pitch_speed": made_of(
            "Pitch-line speed in the carrier",
            "v = π m S |ωS - ωC| / 60000",
            d.speed_m_per_s,
            "m/s",
            EXACT,
            m=m,
            S=s,
            ωS=d.sun_speed_rpm,
            ωC=d.carrier_speed_rpm,
        ),
        "bending": lambda: bending_working(d.weakest),
        "force": made_of(
            "Tooth force of one planet",
            "W = 2000 T_S Kγ / (m S n)",
            d.force_n,
            "N",
            EXACT,
            T_S=d.sun_torque_nm,
            Kγ=d.sharing,
            m=m,
            S=s,
            n=n,
        ),
        "design_force": made_of(
            "Tooth force with overload",
            "W_d = W T_d / T",
            d.design_force_n,
            "N",
            EXACT,
            W=d.force_n,
            T_d=result.design.chosen_nm,
            T=driver_nm,
        ),
        "held_torque": made_of(
            f"Torque that holds the {phrase(link.held)}",
            "T_h = from T_S : T_R : T_C = S : R : -(S + R), with loss",
            d.held_torque_nm,
            "N*m",
            EXACT,
            note=balance_note,
            T=driver_nm,
            η0=d.locked_efficiency,
        ),
        "efficiency": made_of(
            "Efficiency",
            "η = T_out ω_out / (T_in ω_in), from the balance of torques, to the number of stages",
            result.efficiency,
            "share",
            COMMON_PRACTICE,
            note=balance_note,
            η0=d.locked_efficiency,
            k=k,
        ),
    }
    worn = d.soonest_worn
    if worn is not None:
        found["wear"] = lambda: wear_working(worn)
    return found | safety_workings(d.teeth, bending_working(d.weakest), None if worn is None else wear_working(worn))
