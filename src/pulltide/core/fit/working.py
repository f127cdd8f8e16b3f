"""How the figures of a shaft between its bearings come about."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping

from pulltide.core.findings import EXACT, Source
from pulltide.core.fit import bearings
from pulltide.core.fit.beam import G_MPA, twist_deg
from pulltide.core.fit.checks import BALL, SHIGLEY
from pulltide.core.fit.shaft import SAFETY, OnBearing, Section, ShaftAnswer
from pulltide.core.fit.strength import CODE_BENDING, CODE_MPA, CODE_TORSION, Stressed, endurance_mpa, notch, steel
from pulltide.core.labels import phrase
from pulltide.core.working import Step, Working

CODE = Source("ASME B17c", "shafting, withdrawn", "quoted from memory")
NOTCHES = Source("Shigley's Mechanical Engineering Design", "Table 7-1, Eqs. 6-32 to 6-36", "quoted from memory")
ENDURANCE = Source("Shigley's Mechanical Engineering Design", "Eqs. 6-8, 6-18 and 6-19", "quoted from memory")
RELIABLE = Source("ISO 281:2007", "Table 12, a1", "quoted from memory")
STATIC = Source("ISO 76", "static equivalent load", "formula")
BEAM = Source("beam theory", "direct stiffness, both planes", "formula")
#: Up to this diameter the size factor has its first form [mm].
SMALL_MM = 51.0


def workings(answer: ShaftAnswer) -> Mapping[str, Callable[[], Working]]:
    """The working of every figure of a shaft, by key."""
    found: dict[str, Callable[[], Working]] = {
        "fatigue": lambda: _fatigue(answer),
        "ellipse": lambda: _ellipse(answer),
        "yield": lambda: _yield(answer),
        "least": lambda: _least(answer),
        "code": lambda: _code(answer),
        "critical": lambda: _critical(answer),
        "twist": lambda: _twist(answer),
    }
    for number, bearing in enumerate(answer.bearings, start=1):
        found[f"bearing-{number}"] = _of_bearing(answer, number, bearing)
    for number, (wheel, bends) in enumerate(zip(answer.case.wheels, answer.wheels_mm, strict=True), start=1):
        found[f"bends-{number}"] = _bends(wheel.name, bends)
    return found


def _twist(answer: ShaftAnswer) -> Working:
    """Each length of one diameter, and what they add up to."""
    low, high = answer.case.twisted_mm
    steps, turned = [], []
    for piece in answer.case.pieces:
        long = min(piece.end_mm, high) - max(piece.start_mm, low)
        if long > 0:
            put_in = {"T": answer.case.torque_nm, "L": long, "G": G_MPA, "d": piece.diameter_mm}
            turned.append(twist_deg((piece,), (low, high), answer.case.torque_nm))
            formula = "1000 · 180 / π · 32 T L / (G π d^4)"
            steps.append(Step("Twist of a length", f"θ_{len(turned)}", formula, put_in, turned[-1], "deg", EXACT))
    parts = {f"θ_{number}": value for number, value in enumerate(turned, start=1)}
    steps.append(Step("Twist", "θ", " + ".join(parts) or "0", parts, sum(turned), "deg", EXACT))
    return Working("Twist between its wheels", tuple(steps))


def _of_bearing(answer: ShaftAnswer, number: int, bearing: OnBearing) -> Callable[[], Working]:
    return lambda: _bearing(answer, number, bearing)


def _bends(name: str, bends: float) -> Callable[[], Working]:
    step = Step("Deflection", "δ", "both planes together, solved as a beam", {}, bends, "mm", BEAM)
    return lambda: Working(f"Bends at the {phrase(name)}", (step,))


def _stressed(answer: ShaftAnswer, section: Section) -> Stressed:
    diameter, of = section.diameter_mm, steel(answer.case.steel)
    return Stressed(section.moment_nmm, section.torque_nmm, diameter, notch(section.notch, diameter, of.sut_mpa))


def _stresses(answer: ShaftAnswer, section: Section) -> list[Step]:
    """Moment, notch and stress at a section."""
    at = _stressed(answer, section)
    d, k = at.diameter_mm, at.notch
    moment = Step(
        "Bending moment there, both planes", "M", "solved as a beam, in N·mm", {}, section.moment_nmm, "", BEAM
    )
    torque = Step("Torque there", "T", "as the line has it, in N·mm", {}, section.torque_nmm, "", EXACT)
    fixed = f"at the {phrase(section.name)}"
    bending = Step("Notch in bending", "K_f", "by the fixing and the size", {}, k.bending, "", NOTCHES, fixed)
    torsion = Step("Notch in torsion", "K_fs", "by the fixing and the size", {}, k.torsion, "", NOTCHES, fixed)
    put_in = {"K_f": k.bending, "M": section.moment_nmm, "d": d}
    twisted = {"K_fs": k.torsion, "T": section.torque_nmm, "d": d}
    return [
        moment,
        torque,
        bending,
        torsion,
        Step("Bending stress, each turn", "σ_a", "32 K_f M / (π d^3)", put_in, at.bending_mpa, "MPa", SHIGLEY),
        Step("Shear stress, steady", "τ_m", "16 K_fs T / (π d^3)", twisted, at.torsion_mpa, "MPa", SHIGLEY),
    ]


def _endurance(answer: ShaftAnswer, section: Section) -> list[Step]:
    """Endurance limit of the bar."""
    d, of = section.diameter_mm, steel(answer.case.steel)
    surface = 4.51 * of.sut_mpa**-0.265
    small = d <= SMALL_MM
    size = 1.24 * d**-0.107 if small else 1.51 * d**-0.157
    formula = "1.24 d^-0.107" if small else "1.51 d^-0.157"
    whole = {"k_a": surface, "k_b": size, "S_ut": of.sut_mpa}
    value = endurance_mpa(of.sut_mpa, d)
    return [
        Step("Surface, machined or drawn", "k_a", "4.51 S_ut^-0.265", {"S_ut": of.sut_mpa}, surface, "", ENDURANCE),
        Step("Size", "k_b", formula, {"d": d}, size, "", ENDURANCE),
        Step("Endurance limit", "S_e", "k_a k_b S_ut / 2", whole, value, "MPa", ENDURANCE),
    ]


def _fatigue(answer: ShaftAnswer) -> Working:
    section, of = answer.weakest, steel(answer.case.steel)
    at, endurance = _stressed(answer, section), endurance_mpa(of.sut_mpa, section.diameter_mm)
    put_in = {"σ_a": at.bending_mpa, "S_e": endurance, "τ_m": at.torsion_mpa, "S_ut": of.sut_mpa}
    last = Step("Safety by Goodman", "n", "1 / (σ_a / S_e + √(3) τ_m / S_ut)", put_in, section.goodman, "", SHIGLEY)
    return Working("Safety against fatigue", (*_stresses(answer, section), *_endurance(answer, section), last))


def _ellipse(answer: ShaftAnswer) -> Working:
    section, of = answer.weakest, steel(answer.case.steel)
    at, endurance = _stressed(answer, section), endurance_mpa(of.sut_mpa, section.diameter_mm)
    put_in = {"σ_a": at.bending_mpa, "S_e": endurance, "τ_m": at.torsion_mpa, "S_y": of.sy_mpa}
    formula = "1 / √((σ_a / S_e)^2 + 3 (τ_m / S_y)^2)"
    last = Step("Safety by the ellipse", "n", formula, put_in, section.elliptic, "", SHIGLEY)
    return Working(
        "Safety against fatigue by the ASME ellipse", (*_stresses(answer, section), *_endurance(answer, section), last)
    )


def _yield(answer: ShaftAnswer) -> Working:
    section = min(answer.sections, key=lambda one: one.yields)
    at, of, peak = _stressed(answer, section), steel(answer.case.steel), answer.case.peak_over_running
    put_in = {"S_y": of.sy_mpa, "σ_a": at.bending_mpa, "τ_m": at.torsion_mpa, "P": peak}
    formula = "S_y / (P √(σ_a^2 + 3 τ_m^2))"
    last = Step(
        "Safety against yield", "n_y", formula, put_in, section.yields, "", SHIGLEY, "P: peak over running torque"
    )
    return Working("Safety against yield at the peak", (*_stresses(answer, section), last))


def _least(answer: ShaftAnswer) -> Working:
    note = f"for a safety of {SAFETY:g} by Goodman; notch and size follow the diameter, so it is solved by halving"
    step = Step("Least diameter", "d", "solved for the diameter", {}, answer.goodman_mm, "mm", SHIGLEY, note)
    return Working(f"Least diameter for a safety of {SAFETY:g}", (step,))


def _code(answer: ShaftAnswer) -> Working:
    moment = max(one.moment_nmm for one in answer.sections)
    put_in = {"K_b": CODE_BENDING, "M": moment, "K_t": CODE_TORSION, "T": 1000 * answer.case.torque_nm, "τ": CODE_MPA}
    formula = "(16 √((K_b M)^2 + (K_t T)^2) / (π τ))^(1/3)"
    note = "steel not known, keyseat, 6000 psi"
    return Working(
        "Least diameter by the older code",
        (Step("Least diameter", "d", formula, put_in, answer.code_mm, "mm", CODE, note),),
    )


def _critical(answer: ShaftAnswer) -> Working:
    note = "wheels as masses, the shaft's own mass with them; bearings taken as stiff"
    step = Step(
        "First critical speed", "n_c", "solved for the shaft and its wheels", {}, answer.critical_rpm, "rpm", BEAM, note
    )
    return Working("First critical speed", (step,))


def _bearing(answer: ShaftAnswer, number: int, bearing: OnBearing) -> Working:
    """Reaction, and life where an insert is made for the bore."""
    put_in = {"R_x": abs(bearing.x_n), "R_y": abs(bearing.y_n)}
    radial = Step("Radial load", "F_r", "√(R_x^2 + R_y^2)", put_in, bearing.radial_n, "N", BEAM)
    title = f"Bearing {number}"
    insert, along = answer.case.inserts[number - 1], bearing.thrust_n
    if insert is None or bearing.life_h is None:
        return Working(title, (radial,))
    load = insert.equivalent_n(bearing.radial_n, along)
    put_in = {"F_r": bearing.radial_n, "F_a": along}
    how = "X F_r + Y F_a, at least F_r"
    if insert.is_tapered:
        how, put_in = "0.4 F_r + Y F_a, at least F_r", {**put_in, "Y": insert.y}
    note = "with what the other tapered bearing pushes" if insert.is_tapered else ""
    together = Step("Equivalent load", "P", how, put_in, load, "N", BALL, note)
    if load <= 0:
        return Working(title, (radial, together))
    return Working(title, (radial, *_static(answer, insert, bearing, along), together, *_life(answer, insert, load)))


def _static(answer: ShaftAnswer, insert: bearings.Bearing, bearing: OnBearing, thrust_n: float) -> Iterator[Step]:
    """Static safety at the peak, all loads grown with it."""
    case, load = answer.case, insert.static_load_n(bearing.radial_n, thrust_n)
    radial, how = {"F_r": bearing.radial_n, "F_a": thrust_n}, "0.6 F_r + 0.5 F_a, at least F_r"
    if insert.is_tapered:
        radial, how = {**radial, "Y_0": insert.y0}, "0.5 F_r + Y_0 F_a, at least F_r"
    yield Step("Static load", "P_0", how, radial, load, "N", STATIC)
    numbers = {"C_0": insert.static_n, "P_0": load, "k": case.peak_over_running}
    value = insert.static_n / (load * case.peak_over_running)
    yield Step("Static safety at the peak", "s_0", "C_0 / (P_0 k)", numbers, value, "", STATIC, "k: peak over running")


def _life(answer: ShaftAnswer, insert: bearings.Bearing, load_n: float) -> Iterator[Step]:
    """The life that nine of ten reach, and that which more of them reach where that is wanted."""
    case, up_to = answer.case, f"told up to {bearings.MAX_HOURS:,.0f} h"
    numbers = {"C": insert.dynamic_n, "P": load_n, "n": case.speed_rpm}
    basic = (insert.dynamic_n / load_n) ** insert.exponent * 1e6 / (60 * case.speed_rpm)
    power = "(10/3)" if insert.is_tapered else "3"
    yield Step("Life, nine of ten reach it", "L_10h", f"(C / P)^{power} 1e6 / (60 n)", numbers, basic, "h", BALL, up_to)
    if case.reliability != 90:
        factor = bearings.RELIABILITY[case.reliability]
        name = f"Life, {case.reliability} of 100 reach it"
        yield Step(name, "L_nh", "a_1 L_10h", {"a_1": factor, "L_10h": basic}, factor * basic, "h", RELIABLE, up_to)
