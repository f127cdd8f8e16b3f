"""How the figures of a V-belt link come about, and the same formulas callable by name."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import sqrt

from pulltide.core.findings import COMMON_PRACTICE, EXACT, Source
from pulltide.core.links.v_belt import rating, tables
from pulltide.core.links.v_belt.asked import (
    ENTERED,
    LIFE,
    LOSS_CHART,
    GeometryInputs,
    RatingInputs,
    TensionInputs,
    center_working,
    rating_working,
    tension_working,
)
from pulltide.core.links.v_belt.hinged_base import hinged_base_working
from pulltide.core.links.v_belt.motor_plate import hinge_of
from pulltide.core.links.v_belt.transmission import BeltDetails, design_tension_n
from pulltide.core.transmission import AnyResult, LinkResult
from pulltide.core.two_wheels import entered_center
from pulltide.core.units import M_PER_S_PER_FT_PER_MIN, MM_PER_IN, rim_speed_m_per_s
from pulltide.core.working import Step, Working

STIFF_STRING = Source("stiff-string acoustics", "clamped and pinned ends", "formula quoted from memory")


class Workings:
    """Makes the working of each figure of one rated link when asked."""

    def __init__(self, result: LinkResult[BeltDetails]) -> None:
        details = result.details
        self.result = result
        self.d = details
        self.place = details.layout

    def _one(self, title: str, *steps: Step) -> Working:
        return Working(title, steps)

    def _path_step(self, name: str, symbol: str, value: float, unit: str) -> Step:
        """A figure of the path round three wheels."""
        wheels = dict(zip(("r1", "r2", "r_i"), (wheel.radius_mm for wheel in self.place.path), strict=True))
        formula = "strands t = √(c² - (σi ri - σj rj)²), L = Σ t + Σ r θ, solved for the belt"
        note = "pitch radii of driver, driven and idler; σ is -1 on the back of the belt"
        return Step(name, symbol, formula, {**wheels, "L": self.place.length_mm}, value, unit, EXACT, note)

    def wrap(self) -> Working:
        """Wrap of the small pulley, or of the grooved one beside a drum."""
        place = self.place
        if place.path:
            return self._one("Wrap with an idler", self._path_step("Wrap", "θ", place.wrap_deg, "deg"))
        if place.drum and place.driver_pitch_mm > place.driven_pitch_mm:
            numbers = {"D": place.large_pitch_mm, "d": place.small_pitch_mm, "C": place.center_mm}
            formula = "180 + 2 asin((D - d) / (2 C))"
            return self._one("Wrap of the groove", Step("Wrap", "θ", formula, numbers, place.wrap_deg, "deg", EXACT))
        return self._one(
            "Wrap of the small pulley",
            Step(
                "Wrap",
                "θ",
                "180 - 2 asin((D - d) / (2 C))",
                {"D": place.large_pitch_mm, "d": place.small_pitch_mm, "C": place.center_mm},
                place.wrap_deg,
                "deg",
                EXACT,
            ),
        )

    def pitch(self, driver: bool) -> Working:
        """Pitch diameter from what a caliper measures."""
        gap = tables.section(self.d.link.section).outside_minus_pitch_mm
        pitch = self.place.driver_pitch_mm if driver else self.place.driven_pitch_mm
        if self.place.drum and not driver:
            add = tables.section(self.d.link.section).flat_drum_mm or 0.0
            source = tables.table("sections").as_source
            numbers = {"D_o": pitch - add, "Δ": add}
            note = "the pitch line of a belt lies outside the drum it runs on"
            step = Step("Effective diameter of the drum", "D", "D_o + Δ", numbers, pitch, "mm", source, note)
            return self._one("Effective diameter of the drum", step)
        return self._one(
            "Pitch diameter",
            Step(
                "Pitch diameter",
                "d",
                "d_o - 2a",
                {"d_o": pitch + gap, "2a": gap},
                pitch,
                "mm",
                tables.table("sections").as_source,
                "the belt rides this far inside the rim",
            ),
        )

    def ratio(self) -> Working:
        """Ratio of pitch diameters."""
        place = self.place
        return self._one(
            "Ratio",
            Step(
                "Ratio without creep",
                "i",
                "D / d",
                {"D": place.driven_pitch_mm, "d": place.driver_pitch_mm},
                self.result.ratio,
                "",
                EXACT,
            ),
        )

    def center(self) -> Working:
        """Center distance, from the belt or as wanted."""
        if self.d.belt is None or self.place.fault is not None:
            return self._one("Center distance", entered_center(self.place.center_mm, self.place.fault is not None))
        if self.place.path:
            return self._one(
                "Center distance with an idler", self._path_step("Center distance", "C", self.place.center_mm, "mm")
            )
        return center_working(
            GeometryInputs.model_construct(
                small_diameter_mm=self.place.small_pitch_mm,
                large_diameter_mm=self.place.large_pitch_mm,
                pitch_length_mm=self.d.belt.pitch_length_mm,
            )
        )

    def belt_speed(self) -> Working:
        """Rim speed at the pitch line."""
        d, n = self.place.driver_pitch_mm, self.result.flow.driver_speed_rpm
        return self._one(
            "Belt speed",
            Step("Belt speed", "v", "π d n / 60000", {"d": d, "n": n}, rim_speed_m_per_s(d, n), "m/s", EXACT),
        )

    def capacity(self) -> Working:
        """Rating of all belts."""
        light = tables.section(self.d.link.section).light
        nominal = self.d.belt.nominal_in if self.d.belt else self.place.length_mm / MM_PER_IN
        return rating_working(
            RatingInputs.model_construct(
                section=self.d.link.section,
                small_diameter_mm=self.place.small_outside_mm if light else self.place.small_pitch_mm,
                small_speed_rpm=self.d.small_speed_rpm,
                ratio=self.place.reduction,
                wrap_deg=self.place.wrap_deg,
                nominal_length_in=nominal,
                belts=self.d.link.belts,
                drum_wrap_deg=self.place.drum_wrap_deg,
            )
        )

    def belts_needed(self) -> Working:
        """Number of belts: always rounded up."""
        each = self.d.capacity_kw / self.d.link.belts
        name = "Design power over what one corrected belt carries, rounded up"
        numbers = {"P_d": self.d.design_power_kw, "P_1": each}
        needed = float(self.d.belts_needed or 0)
        return self._one("Belts needed", Step(name, "N", "⌈P_d / P_1⌉", numbers, needed, "", EXACT))

    def creep(self) -> Working:
        """Creep in proportion to load."""
        loss, speed = self.d.loss, self.d.belt_speed_m_per_s
        return self._one(
            "Creep",
            self._usual(),
            Step(
                "Creep at this load, slip beyond 0.2",
                "s",
                "s_u · P / P_u",
                {"s_u": loss.creep, "P": self.result.flow.power_out_kw, "P_u": loss.usual_kw(speed)},
                self.d.creep,
                "share",
                COMMON_PRACTICE,
            ),
        )

    def _usual(self) -> Step:
        loss, speed = self.d.loss, self.d.belt_speed_m_per_s
        return Step(
            "Power of the usual pull of these belts",
            "P_u",
            "F_u v / 1000",
            {"F_u": loss.usual_n, "v": speed},
            loss.usual_kw(speed),
            "kW",
            COMMON_PRACTICE,
            "the pull a section is made for, its rating at {10|m/s} over 1.4",
        )

    def _lost(self) -> tuple[Step, ...]:
        if self.d.link.own_efficiency is not None:
            numbers = {"P": self.result.flow.power_out_kw, "η": self.d.link.own_efficiency}
            return (Step("By your own efficiency", "L", "P (1 / η - 1)", numbers, self.d.loss_kw, "kW", ENTERED),)
        loss, speed, flow = self.d.loss, self.d.belt_speed_m_per_s, self.result.flow
        share = rating.drive_loss_share(flow.power_out_kw)
        put_in = {"f": share, "P": flow.power_out_kw, "i": loss.idle, "P_u": loss.usual_kw(speed)}
        return (
            Step(
                "Share that drives lose at this power", "f", "by chart", {"P": put_in["P"]}, share, "share", LOSS_CHART
            ),
            self._usual(),
            Step(
                "Loss at this load, a third more or less",
                "L",
                "√((f P)² + (i P_u)²)",
                put_in,
                self.d.loss_kw,
                "kW",
                LOSS_CHART,
                "i: lost without load, more on small pulleys, less with cogged or narrow belts",
            ),
        )

    def loss_low(self) -> Working:
        """The lower end of the loss."""
        return self._loss_end("At the low end of the chart's band", rating.LOSS_BAND[0])

    def loss_high(self) -> Working:
        """The upper end of the loss."""
        return self._loss_end("At the high end of the chart's band", rating.LOSS_BAND[1])

    def _loss_end(self, name: str, share: float) -> Working:
        step = Step(name, "L'", "k L", {"k": share, "L": self.d.loss_kw}, share * self.d.loss_kw, "kW", LOSS_CHART)
        return self._one("Loss of the belts", *self._lost(), step)

    def efficiency(self) -> Working:
        """Power out over power in."""
        if self.d.link.own_efficiency is not None:
            own = Step("Measured, of your own", "η", "as entered", {}, self.d.link.own_efficiency, "share", ENTERED)
            return self._one("Efficiency of the belt link", own)
        flow = self.result.flow
        return self._one(
            "Efficiency of the belt link",
            *self._lost(),
            Step(
                "Efficiency",
                "η",
                "P / (P + L)",
                {"P": flow.power_out_kw, "L": self.d.loss_kw},
                self.result.efficiency,
                "share",
                EXACT,
            ),
        )

    def tension(self) -> Working:
        """Static tension and what to measure it by."""
        pull_kw = self.d.tension.pull_n * self.d.belt_speed_m_per_s * self.d.link.belts / 1000.0
        working = tension_working(
            TensionInputs.model_construct(
                section=self.d.link.section,
                design_power_kw=pull_kw,
                belt_speed_m_per_s=self.d.belt_speed_m_per_s,
                belts=self.d.link.belts,
                wrap_deg=self.place.wrap_deg,
                span_mm=self.d.tension.span_mm,
                tensioning="locked" if self.d.link.tensioning == "locked" else "constant_pull",
                drum_wrap_deg=self.place.drum_wrap_deg,
            )
        )
        if self.d.set_n is None:
            return working
        how = "as entered" if self.d.plate is None else "by the weight of the plate"
        entered = Step("Tension really set", "T_set", how, {}, self.d.set_n, "N", EXACT)
        return Working(working.title, (*working.steps, entered))

    def plate_tension(self) -> Working:
        """The plate's balance, up to the tension at rest."""
        whole = self.plate_slip()
        return Working(whole.title, whole.steps[:-1])

    def plate_slip(self) -> Working:
        """The plate's balance, up to the pull at which the belts slip."""
        hinge = hinge_of(self.d.link, self.place)
        assert hinge is not None
        return hinged_base_working(hinge)

    def plate_mass(self) -> Working:
        """What would have to hang on the plate at the same arm."""
        plate, arm = self.d.plate, self.d.link.plate_arm_mm
        assert plate is not None
        assert arm is not None
        wanted = design_tension_n(self.d)
        numbers = {"T_0": wanted, "a_t": plate.tight_mm, "a_s": plate.slack_mm, "z": float(plate.belts), "l": arm}
        return self._one(
            "Mass on the plate",
            Step(
                "Mass that sets the tension wanted",
                "m",
                "T_0 (a_t + a_s) z / (9.80665 l)",
                numbers,
                plate.mass_kg(wanted, arm),
                "kg",
                EXACT,
            ),
        )

    def _life(self) -> tuple[Step, ...]:
        found, data = self.d.life, tables.life(self.d.link.section)
        assert found is not None
        assert data is not None
        peaks = {"T1": found.peak_small_n / rating.N_PER_LBF, "T2": found.peak_large_n / rating.N_PER_LBF}
        numbers = {"K": data.life_force_lbf, "b": data.exponent, **peaks}
        millions = min(found.passes, rating.MAX_PASSES) / 1e6
        return (
            Step(
                "Passes until the belt tires, told up to a thousand million",
                "N",
                "1e-6 / ((K/T1)^-b + (K/T2)^-b), at most 1000; T = F1 + K_b/d in lbf and in",
                numbers,
                millions,
                "",
                LIFE,
                "a ranking: with an exponent near 11 hours are good to a factor of five",
            ),
        )

    def life_passes(self) -> Working:
        """Passes of the belt until it tires, as a trend."""
        return self._one("Life trend of the belt", *self._life())

    def life_hours(self) -> Working:
        """The same in hours."""
        found = self.d.life
        assert found is not None
        length = (self.d.belt.pitch_length_mm if self.d.belt else self.place.length_mm) / MM_PER_IN
        feet = self.d.belt_speed_m_per_s / M_PER_S_PER_FT_PER_MIN
        numbers = {"N": min(found.passes, rating.MAX_PASSES) / 1e6, "L": length, "V": feet}
        step = Step("Hours", "t", "1e6 N L / (720 V), L in inches, V in ft/min", numbers, found.hours, "h", LIFE)
        return self._one("Life trend of the belt", *self._life(), step)

    def deflection_force(self) -> Working:
        """Force at mid-span."""
        return self._one(
            "Deflection force",
            Step(
                "Force at mid-span for 1/64 of the span",
                "f",
                "T / 16",
                {"T": self.d.tension.static_n},
                self.d.tension.deflection_force_n,
                "N",
                EXACT,
                "up to 1.5 times this is in order",
            ),
        )

    def deflection(self) -> Working:
        """Deflection to press to."""
        return self._one(
            "Deflection",
            Step(
                "1/64 of the span",
                "q",
                "t / 64",
                {"t": self.d.tension.span_mm},
                self.d.tension.deflection_mm,
                "mm",
                COMMON_PRACTICE,
            ),
        )

    def frequency(self) -> Working:
        """Frequency of the plucked span."""
        mass = tables.section(self.d.link.section).mass_kg_per_m
        tension, stiff = self.d.tension, rating.bending_nm2(self.d.link.section)
        plain = 1000 * sqrt(tension.static_n / mass) / (2 * tension.span_mm)
        share = 1000 * sqrt(stiff / tension.static_n) / tension.span_mm if tension.static_n > 0 else 0.0
        return self._one(
            "Strum frequency",
            Step(
                "Of a string without stiffness",
                "f_0",
                "√(T / m) / (2 t) · 1000",
                {"T": tension.static_n, "m": mass, "t": tension.span_mm},
                plain,
                "Hz",
                EXACT,
            ),
            Step(
                "Stiffness of the span",
                "ε",
                "√(B / T) / t · 1000",
                {"B": stiff, "T": tension.static_n, "t": tension.span_mm},
                share,
                "",
                STIFF_STRING,
                "B: bending stiffness of the belt [N·m²]",
            ),
            Step(
                "Frequency, between clamped and pinned ends",
                "f",
                "f_0 (1 + 2 ε + (4 + π² / 2) ε² + √(1 + π² ε²)) / 2",
                {"f_0": plain, "ε": share},
                tension.frequency_hz,
                "Hz",
                STIFF_STRING,
            ),
        )

    def shaft_load(self) -> Working:
        """Pull of all belts on a shaft."""
        tension = self.d.tension
        mean = tension.static_n - (tension.centrifugal_n if self.d.link.tensioning == "locked" else 0.0)
        belts = float(self.d.link.belts)
        tight, slack = belts * (mean + tension.pull_n / 2), belts * max(mean - tension.pull_n / 2, 0.0)
        return self._one(
            "Pull on each shaft",
            Step(
                "Tight strands", "A", "N (T_m + F/2)", {"N": belts, "T_m": mean, "F": tension.pull_n}, tight, "N", EXACT
            ),
            Step(
                "Slack strands", "B", "N (T_m - F/2)", {"N": belts, "T_m": mean, "F": tension.pull_n}, slack, "N", EXACT
            ),
            Step(
                "Pull on each shaft",
                "Q",
                "√(A² + B² - 2 A B cos θ)",
                {"A": tight, "B": slack, "θ": self.place.wrap_deg},
                tension.shaft_load_n,
                "N",
                EXACT,
            ),
        )


def workings(result: AnyResult) -> Mapping[str, Callable[[], Working]]:
    """Working of every figure of a V-belt link, by key."""
    made = Workings(result)
    plain = (
        "wrap",
        "ratio",
        "center",
        "belt_speed",
        "capacity",
        "belts_needed",
        "creep",
        "efficiency",
        "loss_low",
        "loss_high",
        "tension",
        "deflection_force",
        "deflection",
        "frequency",
        "shaft_load",
    )
    table: dict[str, Callable[[], Working]] = {key: getattr(made, key) for key in plain}
    if made.d.plate is not None:
        table |= {key: getattr(made, key) for key in ("plate_tension", "plate_slip", "plate_mass")}
    if made.d.life is not None:
        table |= {"life_passes": made.life_passes, "life_hours": made.life_hours}
    table["driver_pitch"] = lambda: made.pitch(driver=True)
    table["driven_pitch"] = lambda: made.pitch(driver=False)
    return table
