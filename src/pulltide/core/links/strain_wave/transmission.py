"""A strain-wave gear under a load."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import log

from pulltide.core.drawing import LinkPicture
from pulltide.core.duty import REDUCER_EXPONENT
from pulltide.core.findings import COMMON_PRACTICE, Finding, Severity, judge, state
from pulltide.core.links.strain_wave import checks
from pulltide.core.links.strain_wave.inputs import StrainWave
from pulltide.core.part_load import idle_share, power_in_kw, wave_efficiency
from pulltide.core.transmission import (
    Bound,
    Figure,
    Flow,
    Limit,
    LinkResult,
    Loading,
    ServiceFactor,
    Sizing,
    Transmission,
    Transmitted,
    Turn,
    own_factor,
)
from pulltide.core.units import power_kw, torque_nm

#: What printed teeth leave of the efficiency. Common practice, no source.
PRINTED_SHARE = 0.6
#: What it bears over its rating: repeated, and for a moment before it skips. Common practice, no source: 3 to 4.
REPEATED, MOMENT, PRINTED_MOMENT = 2.0, 3.0, 1.5
#: Emergency stops in a life that still count as few: more are repeated peaks. Common practice, no source.
FEW_STOPS = 1000.0
#: Service factor by shock. Common practice, no source.
FACTORS = {"uniform": 1.0, "light": 1.25, "moderate": 1.5, "heavy": 2.0}
#: Size of the case drawn for a rated torque [mm], from the invented stock list's scale: T = 0.27e-3 d³.
DRAWN_SCALE, DRAWN_UNKNOWN_MM = 0.27e-3, 50.0


def service_factor(sizing: Sizing) -> ServiceFactor:
    """Service factor by shock."""
    if (own := own_factor(sizing.duty)) is not None:
        return own
    return ServiceFactor(FACTORS[sizing.duty.shock_used], COMMON_PRACTICE)


def rated_efficiency(link: StrainWave, driver_speed_rpm: float) -> float:
    """Efficiency at rated torque [-], the same law as the stock units; printed 0.6 of that."""
    share = min(max(driver_speed_rpm, 300.0), 1750.0)
    slow = 1 - log(share / 300.0) / log(1750.0 / 300.0)
    return wave_efficiency(link.ratio, slow) * (PRINTED_SHARE if link.made_of == "printed" else 1.0)


@dataclass(frozen=True, slots=True)
class WaveDetails:
    """Intermediate figures of a rated gear."""

    link: StrainWave
    rated_kw: float | None
    rated_efficiency: float
    design_torque_nm: float
    moment_nm: float | None


class StrainWaveTransmission(Transmission[WaveDetails]):
    """One strain-wave gear."""

    kind = "strain_wave"
    fatigue_exponent = REDUCER_EXPONENT
    noise = "quiet"

    def __init__(self, link: StrainWave, step: int) -> None:
        self.link = link
        self.step = step

    @property
    def ratio(self) -> float:
        """Generator over output speed."""
        return self.link.ratio

    @property
    def turn(self) -> Turn:
        """Against the generator with the ring held, with it while the cup is held."""
        return -1 if self.link.held == "ring" else 1

    def transmit(self, driver_speed_rpm: float, power_out_kw: float) -> Transmitted:
        """A part of the loss stays whatever the load; without a rating the efficiency at rated torque is taken."""
        slow, share = driver_speed_rpm / self.ratio, rated_efficiency(self.link, driver_speed_rpm)
        if self.link.rated_torque_nm is None:
            return Transmitted(slow, power_out_kw / share)
        rated = power_kw(self.link.rated_torque_nm, slow)
        return Transmitted(slow, power_in_kw(power_out_kw, rated, share, idle_share("strain_wave")))

    def picture(self) -> LinkPicture:
        """A small case; both shafts are in line."""
        rated = self.link.rated_torque_nm
        size = (rated / DRAWN_SCALE) ** (1 / 3) if rated else DRAWN_UNKNOWN_MM
        return LinkPicture("case", (size * 1.4, 0.0), case_half_height_mm=size * 0.6, in_line=True)

    def service_factor(self, sizing: Sizing) -> ServiceFactor:
        """By shock."""
        return service_factor(sizing)

    def at_input_nm(self, output_nm: float, driver_speed_rpm: float) -> float:
        """Torque at the driver for one at the output [N·m]."""
        out_kw = power_kw(output_nm, driver_speed_rpm / self.ratio)
        return torque_nm(self.transmit(driver_speed_rpm, out_kw).power_in_kw, driver_speed_rpm)

    def capacity(self, driver_speed_rpm: float, sizing: Sizing) -> tuple[Bound, ...]:
        """Rated torque; at the peak, what it bears again and again."""
        rated = self.link.rated_torque_nm
        factor = sizing.multiplier(self.service_factor(sizing).value, self.fatigue_exponent)
        used = None if rated is None else self.at_input_nm(rated / factor, driver_speed_rpm)
        return Bound("strain_wave.torque", "sized", used), Bound(
            "strain_wave.peak", "driven_peak", None if rated is None else REPEATED * rated
        )

    def details(self, load: Loading) -> WaveDetails:
        """Ratings and design torque under a load."""
        link, flow = self.link, load.flow
        gain = flow.driven_torque_nm / flow.driver_torque_nm if flow.driver_torque_nm else self.ratio
        rated, moment = link.rated_torque_nm, PRINTED_MOMENT if link.made_of == "printed" else MOMENT
        return WaveDetails(
            link,
            None if rated is None else power_kw(rated, flow.driven_speed_rpm),
            rated_efficiency(link, flow.driver_speed_rpm),
            load.design.chosen_nm * gain,
            None if rated is None else rated * moment,
        )

    def limits(self, result: LinkResult[WaveDetails]) -> Iterator[Limit]:
        """Torque with its margin, and what it bears again and again."""
        return _limits(result.details, result.flow)

    def findings(self, result: LinkResult[WaveDetails]) -> Iterator[Finding]:
        """Every check, passed ones included."""
        return _findings(result.details, result.flow, result.load.sizing, result.load.subject)

    def figures(self, result: LinkResult[WaveDetails]) -> tuple[Figure, ...]:
        """The numbers of the card, in reading order."""
        d = result.details
        return (
            Figure("ratio", "Ratio, its sign the sense", self.ratio * (self.turn or 1), ""),
            Figure("rated_efficiency", "Efficiency at rated torque", d.rated_efficiency, "share"),
            Figure("design_torque", "Design torque", d.design_torque_nm, "N*m", needs_load=True),
            Figure("moment_torque", "Torque at which it may skip", d.moment_nm, "N*m"),
        )


def _limits(d: WaveDetails, flow: Flow) -> Iterator[Limit]:
    rated = d.link.rated_torque_nm
    yield Limit("strain_wave.torque", "output torque", d.design_torque_nm, rated, "N*m")
    if flow.driven_peak_torque_nm is not None:
        most = None if rated is None else REPEATED * rated
        yield Limit("strain_wave.peak", "repeated peak", flow.driven_peak_torque_nm, most, "N*m")


def _findings(d: WaveDetails, flow: Flow, sizing: Sizing, subject: str) -> Iterator[Finding]:
    rated = d.link.rated_torque_nm
    if rated is None:
        yield state(checks.UNKNOWN, subject, d.design_torque_nm)
    else:
        level = Severity.ERROR if flow.driven_torque_nm > rated else Severity.WARNING
        yield judge(checks.TORQUE, subject, d.design_torque_nm, rated, severity=level)
        if flow.driven_peak_torque_nm is not None:
            yield judge(checks.PEAK, subject, flow.driven_peak_torque_nm, of=rated)
        if flow.driven_emergency_torque_nm is not None and d.moment_nm is not None:
            few = sizing.duty.emergency_stops_used <= FEW_STOPS
            allowed = d.moment_nm if few else min(REPEATED * rated, d.moment_nm)
            yield judge(checks.EMERGENCY, subject, flow.driven_emergency_torque_nm, allowed)
    if sizing.duty.shock_used in ("moderate", "heavy"):
        yield state(checks.SHOCK, subject)
    yield state(checks.NO_BRAKE, subject)
    yield judge(checks.RATIO_LOW, subject, d.link.ratio)
    yield judge(checks.RATIO_HIGH, subject, d.link.ratio)
    if d.link.held == "ring":
        yield state(checks.REVERSED, subject)
    if d.link.made_of == "printed":
        yield state(checks.PRINTED, subject)
