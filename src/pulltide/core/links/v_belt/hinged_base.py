"""A motor on a hinged plate whose weight tightens the belt: arms of the strands, tension at rest, pull at slip."""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, atan2, cos, degrees, hypot, radians, sin
from typing import Literal

from pydantic import Field

from pulltide.core import open_belt
from pulltide.core.errors import ImpossibleGeometry
from pulltide.core.findings import EXACT
from pulltide.core.labels import phrase, quantity
from pulltide.core.links.v_belt import rating
from pulltide.core.links.v_belt.asked import IP20
from pulltide.core.model import CoreModel, Kg, Mm
from pulltide.core.units import G_M_PER_S2
from pulltide.core.working import Step, Working

TIGHT_BEYOND = "the tight strand passes beyond the hinge and pulls the motor tighter as the load rises"
SLACK_BEYOND = "the slack strand passes beyond the hinge: the drive only loosens as the load rises"
TURNING = "if the motor is turned the other way the strands change places, and so does this pull"
#: Sum of both arms [mm] below which a plate tightens nothing; a guard against dividing by nearly zero.
MIN_ARMS_MM = 1.0


class HingedBaseInputs(CoreModel):
    """Places are told from the hinge, across and up; the weight hangs on the side that tightens the belt."""

    motor_across_mm: Mm = Field(title="Motor shaft from the hinge, across", ge=-2000, le=2000)
    motor_up_mm: Mm = Field(title="Motor shaft from the hinge, up", ge=-2000, le=2000)
    driven_across_mm: Mm = Field(title="Driven shaft from the hinge, across", ge=-5000, le=5000)
    driven_up_mm: Mm = Field(title="Driven shaft from the hinge, up", ge=-5000, le=5000)
    driver_diameter_mm: Mm = Field(title="Motor pulley, pitch diameter", ge=20, le=1500)
    driven_diameter_mm: Mm = Field(title="Driven pulley, pitch diameter", ge=20, le=2000)
    mass_kg: Kg = Field(title="Motor, plate and weight together", gt=0, le=2000)
    weight_arm_mm: Mm = Field(title="Their center of gravity from the hinge, across", gt=0, le=3000)
    belts: int = Field(title="Belts", ge=1, le=12)
    tight_strand: Literal["nearer_the_hinge", "farther_from_the_hinge"] = Field(title="Tight strand is the one")


def slip_pull_n(ratio: float, moment_nm: float, tight_arm_mm: float, slack_arm_mm: float) -> float:
    """Pull of all belts at which they slip [N]: M (R - 1) / (R a_t + a_s).

    Parameters: R > 1 ratio of tight to slack tension; M > 0 moment of the weights about the hinge [N·m]; signed arms
    of the strands [mm]. Raises ImpossibleGeometry where the load tightens the belt without end. Source: statics.

    >>> round(slip_pull_n(4.0, 10.0, 0.0, 100.0), 6), round(slip_pull_n(4.0, 10.0, -20.0, 100.0), 6)
    (300.0, 1500.0)
    """
    spread_mm = ratio * tight_arm_mm + slack_arm_mm
    if spread_mm <= 0:
        raise ImpossibleGeometry(
            "The tight strand passes so far beyond the hinge that the load tightens the belt without end: it never "
            "slips and can bend the shafts. Move the hinge, or turn the motor the other way."
        )
    return 1000.0 * moment_nm * (ratio - 1) / spread_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Balance:
    """A plate in balance: where its strands run, their signed arms about the hinge, and the moment of the weights.

    Directions in degrees above the horizontal; ``common`` is the sense in which the plate tightens the belt.
    """

    center_mm: float
    line_deg: float
    wrap_deg: float
    ratio: float
    common: int
    tight: tuple[float, float, int]
    slack: tuple[float, float, int]
    moment_nm: float
    belts: int

    @property
    def tight_mm(self) -> float:
        """Arm of the tight strand [mm], negative beyond the hinge."""
        return self.common * self.tight[0]

    @property
    def slack_mm(self) -> float:
        """Arm of the slack strand [mm]."""
        return self.common * self.slack[0]

    @property
    def rest_n(self) -> float:
        """Tension of each belt at rest [N]: M / ((a_t + a_s) z). Source: statics."""
        return 1000 * self.moment_nm / ((self.tight_mm + self.slack_mm) * self.belts)

    def slip_n(self, ratio: float) -> float:
        """Pull at which all belts slip [N] at a ratio of tight to slack tension."""
        return slip_pull_n(ratio, self.moment_nm, self.tight_mm, self.slack_mm)

    def mass_kg(self, rest_n: float, weight_arm_mm: float) -> float:
        """Mass that gives a tension at rest [N] in each belt, with its center of gravity at an arm [mm]."""
        return rest_n * (self.tight_mm + self.slack_mm) * self.belts / (G_M_PER_S2 * weight_arm_mm)


def balance(inputs: HingedBaseInputs) -> Balance:
    """Arms of both strands about the hinge and the moment of the weights.

    Raises ImpossibleGeometry where the pulleys touch or the belt runs straight at the hinge. Source: exact tangents.
    """
    x, y = inputs.motor_across_mm, inputs.motor_up_mm
    d, large = inputs.driver_diameter_mm, inputs.driven_diameter_mm
    across, up = inputs.driven_across_mm - x, inputs.driven_up_mm - y
    center = hypot(across, up)
    if center <= (d + large) / 2:
        raise ImpossibleGeometry(f"The pulleys would touch: their shafts are {quantity(center, 'mm')} apart.")
    line = degrees(atan2(up, across))
    lean = degrees(asin((large - d) / (2 * center)))
    arms = []
    for side in (1, -1):
        angle = radians(line + side * lean)
        arms.append((x * sin(angle) - y * cos(angle) - side * d / 2, line + side * lean, side))
    common = 1 if arms[0][0] + arms[1][0] > 0 else -1
    near, far = sorted(arms, key=lambda arm: common * arm[0])
    tight, slack = (near, far) if inputs.tight_strand == "nearer_the_hinge" else (far, near)
    if common * (tight[0] + slack[0]) < MIN_ARMS_MM:
        raise ImpossibleGeometry(
            "The belt runs straight at the hinge: turning the plate hardly changes its length, so no weight tightens "
            "it. Move the hinge sideways."
        )
    wrap = open_belt.wrap_small_deg(d, large, center)
    return Balance(
        center_mm=center,
        line_deg=line,
        wrap_deg=wrap,
        ratio=rating.tension_ratio(wrap),
        common=common,
        tight=tight,
        slack=slack,
        moment_nm=inputs.mass_kg * G_M_PER_S2 * inputs.weight_arm_mm / 1000,
        belts=inputs.belts,
    )


def hinged_base_working(inputs: HingedBaseInputs) -> Working:
    """Arms of both strands about the hinge, tension at rest and pull at slip.

    Raises ImpossibleGeometry where the pulleys touch, the belt runs straight at the hinge, or the load tightens it
    without end. Source: exact tangents and statics.
    """
    held_by = balance(inputs)
    x, y = inputs.motor_across_mm, inputs.motor_up_mm
    d, large = inputs.driver_diameter_mm, inputs.driven_diameter_mm
    across, up = inputs.driven_across_mm - x, inputs.driven_up_mm - y
    center, line, common = held_by.center_mm, held_by.line_deg, held_by.common
    wrap, ratio, moment = held_by.wrap_deg, held_by.ratio, held_by.moment_nm
    tight, slack, tight_mm, slack_mm = held_by.tight, held_by.slack, held_by.tight_mm, held_by.slack_mm
    steps = [
        Step("Center distance", "C", "sqrt(X² + Y²)", {"X": across, "Y": up}, center, "mm", EXACT),
        Step(
            "Wrap of the small pulley",
            "θ",
            "180 - 2 asin(|D - d| / (2 C))",
            {"D": large, "d": d, "C": center},
            wrap,
            "deg",
            EXACT,
        ),
        Step("Tension ratio of the design", "R", "5^(θ/180)", {"θ": wrap}, ratio, "", IP20),
    ]
    for name, mark, (_, direction, side), arm in (("tight", "t", tight, tight_mm), ("slack", "s", slack, slack_mm)):
        sign = "-" if side * common > 0 else "+"
        turned = f"x sin φ_{mark} - y cos φ_{mark}" if common > 0 else f"y cos φ_{mark} - x sin φ_{mark}"
        leans = "+" if side > 0 else "-"
        steps += [
            Step(
                f"Direction of the {phrase(name)} strand",
                f"φ_{mark}",
                f"ψ {leans} asin((D - d) / (2 C))",
                {"ψ": line, "D": large, "d": d, "C": center},
                direction,
                "deg",
                EXACT,
            ),
            Step(
                f"Arm of the {phrase(name)} strand",
                f"a_{mark}",
                f"{turned} {sign} d / 2",
                {"x": x, "y": y, f"φ_{mark}": direction, "d": d},
                arm,
                "mm",
                EXACT,
            ),
        ]
    held = {"M": moment, "a_t": tight_mm, "a_s": slack_mm}
    rest = held_by.rest_n
    note = TIGHT_BEYOND if tight_mm < 0 else SLACK_BEYOND if slack_mm < 0 else TURNING
    pull = held_by.slip_n(ratio)
    steps += [
        Step(
            "Moment of the weights",
            "M",
            "9.80665 m l / 1000",
            {"m": inputs.mass_kg, "l": inputs.weight_arm_mm},
            moment,
            "N*m",
            EXACT,
        ),
        Step(
            "Tension at rest, each belt",
            "T_0",
            "1000 M / ((a_t + a_s) z)",
            {**held, "z": float(inputs.belts)},
            rest,
            "N",
            EXACT,
        ),
        Step(
            "Pull at which the belts slip, all together",
            "F",
            "1000 M (R - 1) / (R a_t + a_s)",
            {**held, "R": ratio},
            pull,
            "N",
            EXACT,
            note,
        ),
    ]
    return Working("Motor on a hinged base", tuple(steps))
