"""A link family in one folder: a cord on two spools. For the test that adds it to the program."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from pydantic import Field

from pulltide.core.catalog import Catalog
from pulltide.core.drawing import LinkPicture
from pulltide.core.family import Family, LinkWords, Variant
from pulltide.core.findings import COMMON_PRACTICE, EXACT, Check, Finding, Severity, judge
from pulltide.core.model import CoreModel, Mm, Newton
from pulltide.core.transmission import (
    Bound,
    FailurePoint,
    Figure,
    Limit,
    LinkResult,
    Loading,
    ServiceFactor,
    Sizing,
    Transmission,
    Transmitted,
)
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


class CordTransmission(Transmission[Cord]):
    """The cord under a load."""

    kind = "cord"
    turn: Literal[1, -1] = 1

    def __init__(self, link: Cord, step: int) -> None:
        self.link = link

    @property
    def ratio(self) -> float:
        return self.link.driven_diameter_mm / self.link.driver_diameter_mm

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        return Transmitted(driver_speed_rpm / self.ratio, power_out_kw / 0.95)

    def picture(self) -> LinkPicture:
        link = self.link
        return LinkPicture("belt", (300.0, 0.0), link.driver_diameter_mm / 2, link.driven_diameter_mm / 2)

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        return ServiceFactor(1.5, COMMON_PRACTICE)

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        most = self.link.strength_n * self.link.driver_diameter_mm / 2000
        return (Bound("cord.pull", "sized", most / sizing.multiplier(1.5)),)

    def details(self, load: Loading) -> Cord:
        return self.link

    def limits(self, result: LinkResult[Cord]) -> Iterator[Limit]:
        yield Limit("cord.pull", "cord strength", self._pull_n(result), self.link.strength_n, "N")

    def findings(self, result: LinkResult[Cord]) -> Iterator[Finding]:
        yield judge(PULL, result.load.subject, self._pull_n(result), self.link.strength_n)

    def figures(self, result: LinkResult[Cord]) -> Iterator[Figure]:
        yield Figure("ratio", "Ratio", self.ratio, "")
        yield Figure("pull", "Design pull", self._pull_n(result), "N", needs_load=True)

    def _pull_n(self, result: LinkResult[Cord]) -> float:
        return 2000 * result.design.chosen_nm / self.link.driver_diameter_mm


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


def failure_points(result: LinkResult) -> Iterator[FailurePoint]:
    yield FailurePoint("cord breaks", "breaks", result.details.strength_n * result.details.driver_diameter_mm / 2000)


FAMILY = Family(
    kind="cord",
    title="Cord",
    model=Cord,
    prepare=CordTransmission,
    variants=variants,
    reconcile=lambda before, raw, catalog: raw,
    starter=lambda catalog: Cord(),
    workings=workings,
    stock=lambda link, catalog: {"driver_diameter_mm": (40.0, 50.0, 60.0)},
    words=lambda link, step: LinkWords(
        "Cord", (f"{{{link.driver_diameter_mm}|mm}} → {{{link.driven_diameter_mm}|mm}}",)
    ),
    methods=(),
    factors=lambda sizing: (("Cord", ServiceFactor(1.5, COMMON_PRACTICE)),),
    failure_points=failure_points,
    rules=(PULL,),
)
