"""How the teeth of spur gears are judged under a load, the same for every family that has them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import sqrt

from pulltide.core.findings import Check, Finding, Remark, Rule, Severity, Source, jam_rule, judge, state
from pulltide.core.labels import phrase
from pulltide.core.spur import rating
from pulltide.core.spur.kinds import PLASTICS
from pulltide.core.transmission import Bound, FailurePoint, Figure, Limit

AGMA = Source("Shigley's Mechanical Engineering Design", "chapter 14, AGMA method", "quoted from memory")
MESHING = Source("Shigley's Mechanical Engineering Design", "section 13-7, Eq. 13-10 to 13-13", "formula")
W, N = Severity.WARNING, Severity.NOTE


@dataclass(frozen=True, slots=True)
class ToothRules:
    """The checks of loaded teeth under the name of one family."""

    bending: Check
    wear: Check
    no_wear: Remark
    prototype: Remark
    stall: Check
    speed: Check

    @property
    def all(self) -> tuple[Rule, ...]:
        """Every check."""
        return (self.bending, self.wear, self.no_wear, self.prototype, self.stall, self.speed)


def tooth_rules(kind: str, force: str, speed: str, more: str) -> ToothRules:
    """The checks for a family: what its tooth force and its speed are called, and what else helps against bending."""
    overloaded = f"{phrase(force)} with overload"
    return ToothRules(
        Check(
            code=f"{kind}.bending",
            severity=W,
            quantity=overloaded,
            unit="N",
            fact="Tooth bending stress is over the allowable",
            clear="Tooth bending stress is within its limit",
            base="bending strength of the weaker tooth",
            advice=f"Use a wider face, a larger module{phrase(more)} or a harder steel.",
            source=AGMA,
            needs_load=True,
        ),
        Check(
            code=f"{kind}.wear",
            severity=W,
            quantity=overloaded,
            unit="N",
            fact="Tooth contact stress is over the allowable: the flanks will pit and wear",
            clear="Tooth contact stress is within its limit",
            base="wear strength of the flanks",
            advice="Use harder steel first, then more teeth or a wider face.",
            source=AGMA,
            needs_load=True,
        ),
        Remark(
            code=f"{kind}.no_wear",
            severity=N,
            quantity="wear rating",
            fact="No wear rating is known for this material",
            advice="Inspect the teeth often, or use a steel of known hardness.",
        ),
        Remark(
            code=f"{kind}.prototype",
            severity=W,
            quantity="material",
            fact="Plastic, printed or wooden teeth are for prototypes",
            advice="Never use them where a failure could hurt someone.",
        ),
        jam_rule(
            f"{kind}.stall",
            "A jam would break teeth off",
            "The teeth survive a jam",
            base="torque that breaks a tooth at rest",
        ),
        Check(
            code=f"{kind}.speed",
            severity=W,
            quantity=speed,
            unit="m/s",
            fact="Pitch-line speed is too high for teeth of this quality",
            clear="Tooth quality suits the pitch-line speed",
            base="greatest speed of teeth made so",
            advice="Use more accurate teeth or smaller gears.",
            source=AGMA,
        ),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadedTeeth:
    """Tooth forces [N] and what the teeth bear; wear is None where no hardness rates it."""

    force_n: float
    design_force_n: float
    bending_n: float
    wear_n: float | None
    speed_m_per_s: float
    made: str
    materials: tuple[str, ...]
    moment_n: float

    @property
    def safety_bending(self) -> float | None:
        """S_F: bending force borne over tooth force with overload: a margin on load. None without load."""
        return self.bending_n / self.design_force_n if self.design_force_n else None

    @property
    def safety_wear(self) -> float | None:
        """S_H: on stress, so the root of the margin on load. None where no hardness rates it, or without load."""
        return None if self.wear_n is None or not self.design_force_n else sqrt(self.wear_n / self.design_force_n)

    @property
    def max_speed_m_per_s(self) -> float:
        """Pitch-line speed that the way the teeth are made allows."""
        return rating.max_speed_m_per_s(rating.QUALITY[self.made])


def tooth_limits(kind: str, teeth: LoadedTeeth, speed: str = "pitch-line speed") -> Iterator[Limit]:
    """Bending of the weakest tooth, wear of the flanks, speed."""
    yield Limit(f"{kind}.bending", "tooth bending", teeth.design_force_n, teeth.bending_n, "N")
    yield Limit(f"{kind}.wear", "flank wear", teeth.design_force_n, teeth.wear_n, "N")
    yield Limit(f"{kind}.speed", speed, teeth.speed_m_per_s, teeth.max_speed_m_per_s, "m/s", is_load=False)


def tooth_bounds(
    kind: str, bending_n: float, wear_n: float | None, nm_per_newton: float, factor: float
) -> tuple[Bound, Bound]:
    """Torque at the driver that uses up bending and wear [N·m]: newtons at the pitch line times their lever."""
    lever = nm_per_newton / factor
    return (
        Bound(f"{kind}.bending", "sized", bending_n * lever),
        Bound(f"{kind}.wear", "sized", None if wear_n is None else wear_n * lever),
    )


def tooth_findings(rules: ToothRules, teeth: LoadedTeeth, subject: str) -> Iterator[Finding]:
    """Every check of loaded teeth, passed ones included: past the strength without overload is an error."""
    level = Severity.ERROR if teeth.force_n > teeth.bending_n else Severity.WARNING
    yield judge(rules.bending, subject, teeth.design_force_n, teeth.bending_n, severity=level)
    if teeth.wear_n is None:
        yield state(rules.no_wear, subject)
    else:
        worn = Severity.ERROR if teeth.force_n > teeth.wear_n else Severity.WARNING
        yield judge(rules.wear, subject, teeth.design_force_n, teeth.wear_n, severity=worn)
    if set(teeth.materials) & set(PLASTICS):
        yield state(rules.prototype, subject)
    yield judge(rules.speed, subject, teeth.speed_m_per_s, teeth.max_speed_m_per_s)


def tooth_failure_points(teeth: LoadedTeeth, nm_per_newton: float, overload: float) -> Iterator[FailurePoint]:
    """Flanks and roots at their lasting limits, overload factor in; roots at what they bear for a moment."""
    lasting = nm_per_newton / overload
    if teeth.wear_n is None:
        yield FailurePoint("tooth flanks wear out", "wears", None, "a material whose hardness rates it")
    else:
        yield FailurePoint("tooth flanks wear out", "wears", teeth.wear_n * lasting)
    yield FailurePoint("teeth fatigue in bending", "wears", teeth.bending_n * lasting)
    yield FailurePoint("teeth break off", "breaks", teeth.moment_n * nm_per_newton)


def safety_figures(teeth: LoadedTeeth) -> tuple[Figure, ...]:
    """Safety factors as figures; shop minima are 1.5 in bending and 1.2 in wear, common practice."""
    return (
        Figure("safety_bending", "Safety in bending S_F", teeth.safety_bending, "", needs_load=True),
        Figure("safety_wear", "Safety in wear S_H, on stress", teeth.safety_wear, "", needs_load=True),
    )
