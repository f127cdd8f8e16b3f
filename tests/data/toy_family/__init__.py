"""A link family in one folder: a cord on two spools. For the test that adds it to the program."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from pydantic import Field

from pulltide.core.catalog import Catalog
from pulltide.core.drawing import LinkPicture
from pulltide.core.family import (
    Carried,
    Family,
    Figure,
    Flow,
    GivePoint,
    Limit,
    LinkResult,
    LinkWords,
    ServiceFactor,
    Sizing,
    Variant,
    design_torque,
)
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Severity, judge
from pulltide.core.model import CoreModel, Mm, Newton
from pulltide.core.working import made_of

PULL = Check(
    code="cord.pull",
    severity=Severity.WARNING,
    quantity="design pull",
    unit="N",
    fact="The cord is pulled over its strength",
    clear="Cord pull is within its strength",
    advice="Use a stronger cord.",
    needs_load=True,
)


class Cord(CoreModel):
    """A cord from one spool to another."""

    kind: Literal["cord"] = "cord"
    driver_diameter_mm: Mm = Field(50.0, title="Driver spool", ge=10, le=500)
    driven_diameter_mm: Mm = Field(100.0, title="Driven spool", ge=10, le=500)
    strength_n: Newton = Field(200.0, title="Strength of the cord", ge=1, le=10_000)


class CordTransmission:
    """The cord under a load."""

    turn: Literal[1, -1] = 1

    def __init__(self, link: Cord, step: int) -> None:
        self.link = link

    @property
    def ratio(self) -> float:
        return self.link.driven_diameter_mm / self.link.driver_diameter_mm

    def carry(self, driver_speed_rpm: float, power_out_kw: float) -> Carried:
        return Carried(driver_speed_rpm / self.ratio, power_out_kw / 0.95)

    def picture(self) -> LinkPicture:
        link = self.link
        return LinkPicture("belt", (300.0, 0.0), link.driver_diameter_mm / 2, link.driven_diameter_mm / 2)

    def rate(self, flow: Flow, sizing: Sizing, subject: str) -> LinkResult:
        design = design_torque(flow, sizing, 1.5)
        pull = 2000 * design.chosen_nm / self.link.driver_diameter_mm
        return LinkResult(
            kind="cord",
            step=1,
            ratio=self.ratio,
            turn=self.turn,
            flow=flow,
            efficiency=0.95,
            service_factor=ServiceFactor(1.5, COMMON_PRACTICE),
            design=design,
            limits=(Limit("cord.pull", "cord strength", pull, self.link.strength_n, "N"),),
            findings=(judge(PULL, subject, pull, self.link.strength_n),),
            figures=(
                Figure("ratio", "Ratio", self.ratio, ""),
                Figure("pull", "Design pull", pull, "N", needs_load=True),
            ),
            details=self.link,
        )


def workings(result: LinkResult) -> dict[str, Any]:
    link, pull = result.details, result.figures[1].value or 0.0
    return {
        "ratio": made_of(
            "Ratio", "i = D / d", result.ratio, "", EXACT, D=link.driven_diameter_mm, d=link.driver_diameter_mm
        ),
        "pull": made_of(
            "Design pull", "F = 2000 T / d", pull, "N", EXACT, T=result.design.chosen_nm, d=link.driver_diameter_mm
        ),
    }


def variants(link: Cord, catalog: Catalog) -> Iterator[Variant]:
    for times in (2, 4, 8):
        strength = times * link.strength_n
        yield Variant("stronger", f"Use a {{{strength}|N}} cord", link.model_copy(update={"strength_n": strength}))


def gives(result: LinkResult) -> Iterator[GivePoint]:
    yield GivePoint("cord breaks", "breaks", result.details.strength_n * result.details.driver_diameter_mm / 2000)


FAMILY = Family(
    kind="cord",
    title="Cord",
    model=Cord,
    prepare=CordTransmission,
    variants=variants,
    settle=lambda before, raw, catalog: raw,
    starter=lambda catalog: Cord(),
    workings=workings,
    stock=lambda link, catalog: {"driver_diameter_mm": (40.0, 50.0, 60.0)},
    words=lambda link, step: LinkWords(
        "Cord", (f"{{{link.driver_diameter_mm}|mm}} → {{{link.driven_diameter_mm}|mm}}",)
    ),
    methods=(),
    factors=lambda sizing: (("Cord", ServiceFactor(1.5, COMMON_PRACTICE)),),
    gives=gives,
    rules=(PULL,),
)
