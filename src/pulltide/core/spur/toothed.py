"""What every stage of gears shares, whatever its arrangement."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Any, Protocol, TypeVar

from pulltide.core.duty import TOOTH_EXPONENT
from pulltide.core.observed import Observed
from pulltide.core.spur.judging import LoadedTeeth, tooth_limits
from pulltide.core.spur.kinds import SHAFT_FACTOR
from pulltide.core.spur.mesh import service_factor
from pulltide.core.transmission import Limit, LinkResult, Loading, ServiceFactor, Sizing, Transmission, Transmitted


class ToothedDetails(Protocol):
    """Details of a family whose weakest teeth are judged."""

    @property
    def teeth(self) -> LoadedTeeth:
        """The loaded teeth, as they are judged."""


T = TypeVar("T", bound=ToothedDetails)


class ToothedTransmission(Transmission[T]):
    """Gears: what all of them share."""

    fatigue_exponent = TOOTH_EXPONENT
    link: Any
    #: Share of the power that its meshes leave.
    kept: float

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """No slip; a constant share is lost."""
        return Transmitted(driver_speed_rpm / self.ratio, power_out_kw / self.kept)

    def efficiency_at(self, load: Loading) -> float:
        """A constant share."""
        return self.kept

    def observed(self, result: LinkResult[T]) -> Observed:
        """Open teeth."""
        return replace(super().observed(result), meshes=True)

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """Overload factor by shock, more in dirt."""
        return service_factor(sizing, self.link.running)

    def limits(self, result: LinkResult[T]) -> Iterable[Limit]:
        """Bending of the weakest tooth, wear of the flanks, speed."""
        return tooth_limits(self.kind, result.details.teeth)

    def pulls_n(self, result: LinkResult[T]) -> tuple[float, float]:
        """Design tooth force with what separating adds."""
        pull = SHAFT_FACTOR * result.details.teeth.design_force_n
        return pull, pull
