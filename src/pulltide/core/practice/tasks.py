"""Tasks in three levels. An answer is computed, never stored; usual slips are computed beside it, so as to be named."""

from __future__ import annotations

from collections.abc import Callable
from math import cos, log, pi, radians, sqrt

from pulltide.core.labels import as_is
from pulltide.core.links.planetary.motion import third_speed
from pulltide.core.links.roller_chain.tables import sizes
from pulltide.core.observed import tension_n
from pulltide.core.practice.contract import Dice, Level, Slip, Task
from pulltide.core.practice.contract import step_of as _step
from pulltide.core.practice.judging import first_to_give, pick_a_reducer, what_is_wrong
from pulltide.core.run_up.control import RELAY_TAU_S, RELAY_TRIPS
from pulltide.core.sources.induction import poles, synchronous_speed_rpm
from pulltide.core.units import G_M_PER_S2 as G
from pulltide.core.units import RPM_PER_RAD_PER_S, torque_nm


def _two_stages(dice: Dice) -> Task:
    n, a, b = dice.of(1425, 1440, 1725, 1740), dice.between(2, 4, 0.25), dice.of(5, 7.5, 10, 15, 20)
    whole = _step("Whole ratio", "i", "i_1 i_2", {"i_1": a, "i_2": b}, (a * b, ""))
    last = _step("Last shaft", "n_3", "n_1 / i", {"n_1": n, "i": a * b}, (n / (a * b), "rpm"))
    return Task(
        code="two_stages",
        level=1,
        question=f"A motor turns {{{n}|rpm}}. A belt of {a:g}:1 and a reducer of {b:g}:1 follow. "
        "How fast is the last shaft, creep left out?",
        unit="rpm",
        answer=n / (a * b),
        within=0.005,
        steps=(whole, last),
        slips=(Slip(n / (a + b), "The ratios were added; they multiply."), Slip(n / a, "The second stage is missing.")),
    )


def _idler(dice: Dice) -> Task:
    n, first, idler, last = dice.of(300, 450, 600), dice.of(16, 18, 20), dice.of(24, 30, 36), dice.of(48, 60, 72)
    speed = n * first / last
    return Task(
        code="idler",
        level=1,
        question=f"A gear of {first:g} teeth turns {{{n}|rpm}}. It drives an idler of {idler:g} teeth, and that a gear "
        f"of {last:g}. How fast is the last gear?",
        unit="rpm",
        answer=speed,
        within=0.005,
        steps=(
            _step(
                "The idler's teeth cancel",
                "n_3",
                "n_1 z_1 / z_3",
                {"n_1": n, "z_1": first, "z_3": last},
                (speed, "rpm"),
            ),
        ),
        slips=(
            Slip(n * first / idler, "That is the idler's own speed."),
            Slip(
                n * first / idler * idler / last * first / idler,
                "The idler was counted as a stage; it changes the sense alone.",
            ),
        ),
    )


def _pole_count(dice: Dice) -> Task:
    hertz, pairs = dice.of(50, 60), dice.of(1, 2, 3, 4)
    speed = round(60 * hertz / pairs * (1 - dice.between(0.02, 0.06, 0.005)), -1)
    count = float(poles(speed, hertz))
    field_rpm = synchronous_speed_rpm(int(count), hertz)
    return Task(
        code="poles",
        level=1,
        question=f"A plate reads {{{speed}|rpm}} and {{{hertz}|Hz}}. How many poles does the motor have?",
        unit="",
        answer=count,
        within=1e-6,
        steps=(
            _step(
                "The next field speed above the plate's",
                "n_s",
                "120 f / p",
                {"f": hertz, "p": count},
                (field_rpm, "rpm"),
            ),
            _step("Poles", "p", "120 f / n_s", {"f": hertz, "n_s": field_rpm}, (count, "")),
        ),
        slips=(Slip(count / 2, "Those are pairs of poles; there are twice as many poles."),),
    )


def _torque(dice: Dice) -> Task:
    power, speed = dice.of(0.37, 0.55, 0.75, 1.1, 1.5), dice.of(60, 90, 145, 310, 720, 1425)
    value = torque_nm(power, speed)
    return Task(
        code="torque",
        level=1,
        question=f"A shaft passes {{{power}|kW}} at {{{speed}|rpm}}. What is its torque?",
        unit="N*m",
        answer=value,
        within=0.01,
        steps=(_step("Torque", "T", "60000 P / (2 π n)", {"P": power, "n": speed}, (value, "N*m")),),
        slips=(Slip(1000 * power / speed, "Turns a minute were taken for radians a second: 9.549 is missing."),),
    )


def _advantage(dice: Dice) -> Task:
    pull, crank, drum, ratio = (
        dice.of(80, 100, 120, 150),
        dice.of(250, 300, 350),
        dice.of(60, 80, 100),
        dice.of(3, 4, 5),
    )
    value = pull * crank * ratio / (drum / 2)
    inputs = {"F": pull, "r": crank, "i": ratio, "d": drum}
    return Task(
        code="advantage",
        level=1,
        question=f"A person pulls {{{pull}|N}} at a crank of {{{crank}|mm}} radius. Gears of {ratio:g}:1 turn a "
        f"drum of {{{drum}|mm}} diameter. What can its rope lift, losses left out?",
        unit="N",
        answer=value,
        within=0.01,
        steps=(_step("Rope", "F_2", "F r i / (d / 2)", inputs, (value, "N")),),
        slips=(
            Slip(value / 2, "The drum's diameter was taken for its radius."),
            Slip(value / ratio, "The gears are missing."),
            Slip(value / ratio**2, "The gears were divided by; slower turns are stronger."),
        ),
    )


def _chain_number(dice: Dice) -> Task:
    name = str(int(dice.of(35, 40, 50, 60, 80)))
    pitch = sizes()[name].pitch_mm
    eighths = float(int(name) // 10)
    return Task(
        code="chain_number",
        level=1,
        question=f"A roller chain is stamped {as_is(name)}. What is its pitch?",
        unit="mm",
        answer=pitch,
        within=0.005,
        steps=(
            _step(
                "The figures before the last count eighths of an inch", "p", "25.4 k / 8", {"k": eighths}, (pitch, "mm")
            ),
        ),
        slips=(
            Slip(25.4 * eighths / 16, "It counts eighths of an inch, not sixteenths."),
            Slip(float(name), "The number is not millimeters."),
        ),
    )


def _last_torque(dice: Dice) -> Task:
    first, a, b = dice.of(3.5, 5, 7.4, 10), dice.between(2, 4, 0.5), dice.of(10, 15, 20, 30)
    eta_a, eta_b = dice.of(0.94, 0.95, 0.96), dice.of(0.72, 0.8, 0.94)
    value = first * a * eta_a * b * eta_b
    inputs = {"T": first, "i_1": a, "η_1": eta_a, "i_2": b, "η_2": eta_b}
    return Task(
        code="last_torque",
        level=2,
        question=f"A motor gives {{{first}|N*m}}. A belt of {a:g}:1 keeps {100 * eta_a:g} % of the power, a reducer of "
        f"{b:g}:1 keeps {100 * eta_b:g} %. What is the torque at the last shaft?",
        unit="N*m",
        answer=value,
        within=0.01,
        steps=(_step("Each ratio raises it, each loss lowers it", "T_3", "T i_1 η_1 i_2 η_2", inputs, (value, "N*m")),),
        slips=(
            Slip(first * a * b, "The losses are missing."),
            Slip(first * a * b / (eta_a * eta_b), "The losses were divided by: they take away."),
        ),
    )


def _part_load(dice: Dice) -> Task:
    field_rpm, full = dice.of(1500, 1800), dice.between(0.03, 0.06, 0.005)
    plate, share = round(field_rpm * (1 - full)), dice.of(0.3, 0.4, 0.5, 0.6, 0.75)
    value = field_rpm - (field_rpm - plate) * share
    inputs = {"n_s": field_rpm, "n": float(plate), "x": share}
    return Task(
        code="part_load",
        level=2,
        question=f"A motor of {{{field_rpm}|rpm}} field speed turns {{{plate}|rpm}} at full load. How fast is it at "
        f"{100 * share:g} % of its torque?",
        unit="rpm",
        answer=value,
        within=0.002,
        steps=(_step("Slip goes with the torque", "n_x", "n_s - (n_s - n) x", inputs, (value, "rpm")),),
        slips=(
            Slip(float(plate), "That is the speed at full load; at part load it slips less."),
            Slip(field_rpm * (1 - share), "The load is not the slip."),
        ),
    )


def _inertia(dice: Dice) -> Task:
    inertia, ratio = dice.of(0.8, 2, 5, 12, 40), dice.of(4, 5, 10, 20)
    value = inertia / ratio**2
    return Task(
        code="inertia",
        level=2,
        question=f"A drum of {{{inertia}|kg*m**2}} turns behind {ratio:g}:1. What inertia does the motor feel?",
        unit="kg*m**2",
        answer=value,
        within=0.01,
        steps=(_step("At the motor", "J_1", "J / i²", {"J": inertia, "i": ratio}, (value, "kg*m**2")),),
        slips=(
            Slip(inertia / ratio, "The ratio counts twice: once for torque, once for speed."),
            Slip(inertia * ratio**2, "The faster shaft feels less, not more."),
        ),
    )


def _amps(dice: Dice) -> Task:
    full, idle, load = dice.of(2.6, 3.5, 5.6, 8.4), dice.of(0.5, 0.55, 0.6), dice.of(0.3, 0.5, 0.7)
    no_load = round(full * idle, 2)
    read = round(sqrt(no_load**2 + (full**2 - no_load**2) * load**2), 2)
    value = sqrt((read**2 - no_load**2) / (full**2 - no_load**2))
    inputs = {"I": read, "I_0": no_load, "I_n": full}
    return Task(
        code="amps",
        level=2,
        question=f"A motor's plate says {{{full}|A}}; with the belt off it draws {{{no_load}|A}}, now {{{read}|A}}. "
        "What share of its full torque does it give? Answer as a number between 0 and 1.",
        unit="",
        answer=value,
        within=0.03,
        steps=(_step("Currents add as squares", "x", "√((I² - I_0²) / (I_n² - I_0²))", inputs, (value, "")),),
        slips=(
            Slip(read / full, "The current that flows without load was left in."),
            Slip((read - no_load) / (full - no_load), "Currents do not add straight: the idle one is out of step."),
        ),
    )


def _lever(dice: Dice) -> Task:
    mass, length, angle = dice.of(8, 12, 20, 31.5), dice.of(600, 800, 1000), dice.of(10, 15, 20, 30)
    value = mass * G * length / 1000 * cos(radians(angle))
    inputs = {"m": mass, "g": G, "L": length, "φ": angle}
    return Task(
        code="lever",
        level=2,
        question=f"{{{mass}|kg}} on a lever of {{{length}|mm}} just move a drum, the lever {{{angle}|deg}} below "
        "level. What is the breakaway torque?",
        unit="N*m",
        answer=value,
        within=0.01,
        steps=(_step("Weight square to the lever", "T", "m g L cos(φ) / 1000", inputs, (value, "N*m")),),
        slips=(
            Slip(value / G, "Kilograms were taken for newtons."),
            Slip(mass * G * length / 1000, "The lever is not level: cos φ is missing."),
        ),
    )


def _low_volts(dice: Dice) -> Task:
    locked, share = dice.of(12, 16.2, 22, 30), dice.of(0.8, 0.85, 0.9)
    value = locked * share**2
    return Task(
        code="low_volts",
        level=2,
        question=f"A motor starts with {{{locked}|N*m}} at full volts. The cord leaves {100 * share:g} % of them. "
        "With what torque does it start?",
        unit="N*m",
        answer=value,
        within=0.01,
        steps=(
            _step(
                "Torque goes with the square of the volts", "T", "T_0 u²", {"T_0": locked, "u": share}, (value, "N*m")
            ),
        ),
        slips=(
            Slip(locked * share, "Torque goes with the square of the volts."),
            Slip(locked, "The volts are missing."),
        ),
    )


def _planetary(dice: Dice) -> Task:
    sun, ring, speed = dice.of(18, 20, 24, 30), dice.of(60, 66, 72, 90), dice.of(600, 900, 1440)
    value = third_speed(sun, ring, {"sun": speed, "ring": 0.0}, "carrier")
    inputs = {"n": speed, "z_s": sun, "z_r": ring}
    return Task(
        code="planetary",
        level=2,
        question=f"A sun of {sun:g} teeth turns {{{speed}|rpm}}; the ring of {ring:g} teeth is held. How fast is the "
        "carrier? Against the sun's sense counts as negative.",
        unit="rpm",
        answer=value,
        within=0.005,
        steps=(_step("Carrier, in the sun's sense", "n_c", "n z_s / (z_s + z_r)", inputs, (value, "rpm")),),
        slips=(
            Slip(speed * sun / ring, "That is the ring's speed with the carrier held."),
            Slip(-value, "The carrier turns with the sun."),
            Slip(-speed * sun / ring, "That is the ring's speed with the carrier held."),
        ),
    )


def _run_up(dice: Dice) -> Task:
    inertia, speed = dice.of(0.05, 0.12, 0.4), dice.of(960, 1425, 1740)
    motor, load = dice.of(12, 15, 20), dice.of(4, 6, 8)
    value = inertia * speed / RPM_PER_RAD_PER_S / (motor - load)
    inputs = {"J": inertia, "n": speed, "T_m": motor, "T_L": load}
    return Task(
        code="run_up",
        level=3,
        question=f"{{{inertia}|kg*m**2}} are brought from rest to {{{speed}|rpm}}. On the way the motor gives "
        f"{{{motor}|N*m}} on average, the load takes {{{load}|N*m}}. How long does it take?",
        unit="s",
        answer=value,
        within=0.01,
        steps=(_step("Time", "t", "J 2 π n / (60 (T_m - T_L))", inputs, (value, "s")),),
        slips=(
            Slip(inertia * speed / RPM_PER_RAD_PER_S / motor, "The load was left out: only what is over it speeds up."),
            Slip(inertia * speed / (motor - load), "Turns a minute were left in: divide by 9.549."),
        ),
    )


def _run_down(dice: Dice) -> Task:
    inertia, speed, time = dice.of(0.02, 0.06, 0.3, 0.8), dice.of(600, 960, 1440), dice.of(4, 8, 12, 20)
    value = inertia * speed / RPM_PER_RAD_PER_S / time
    inputs = {"J": inertia, "n": speed, "t": time}
    return Task(
        code="run_down",
        level=3,
        question=f"{{{inertia}|kg*m**2}} at {{{speed}|rpm}} stand still {{{time}|s}} after the power goes off, slowing "
        "evenly. What friction torque slows them?",
        unit="N*m",
        answer=value,
        within=0.02,
        steps=(_step("Friction", "T", "J 2 π n / (60 t)", inputs, (value, "N*m")),),
        slips=(
            Slip(inertia * speed / time, "Turns a minute were left in: divide by 9.549."),
            Slip(inertia * speed / RPM_PER_RAD_PER_S * time, "The time divides."),
        ),
    )


def _strum(dice: Dice) -> Task:
    hertz, span, mass = dice.between(28, 60, 2), dice.of(320, 400, 480, 560), dice.of(0.097, 0.09, 0.19)
    value = tension_n(hertz, span, mass, 0.0)
    inputs = {"m": mass, "t": span, "f": hertz}
    return Task(
        code="strum",
        level=3,
        question=f"A belt of {{{mass}|kg/m}} strums at {{{hertz}|Hz}} on a free span of {{{span}|mm}}. What is its "
        "tension, stiffness left out?",
        unit="N",
        answer=value,
        within=0.02,
        steps=(_step("A string under tension", "T", "4 m (t / 1000)² f²", inputs, (value, "N")),),
        slips=(
            Slip(4 * value, "That is the tension of the octave: f counts twice."),
            Slip(value / 4, "The 4 is missing: half a wave stands on the span."),
        ),
    )


def _punch(dice: Dice) -> Task:
    inertia, speed, energy = dice.of(0.9, 2, 4), dice.of(240, 300, 360), dice.of(80, 120, 180, 220)
    omega = speed / RPM_PER_RAD_PER_S
    value = sqrt(omega**2 - 2 * energy / inertia) * RPM_PER_RAD_PER_S
    inputs = {"ω": omega, "E": energy, "J": inertia}
    after = _step("After the blow", "ω_2", "√(ω² - 2 E / J)", inputs, (value / RPM_PER_RAD_PER_S, "rad/s"))
    turns = _step("In turns", "n", "60 ω_2 / (2 π)", {"ω_2": value / RPM_PER_RAD_PER_S}, (value, "rpm"))
    return Task(
        code="punch",
        level=3,
        question=f"A flywheel of {{{inertia}|kg*m**2}} at {{{speed}|rpm}} gives {{{energy}|J}} to a blow. How fast "
        "is it then?",
        unit="rpm",
        answer=value,
        within=0.01,
        steps=(after, turns),
        slips=(
            Slip(speed * (1 - energy / (0.5 * inertia * omega**2)), "Energy goes with the square of the speed."),
            Slip(speed, "The blow is missing."),
        ),
    )


def _critical(dice: Dice) -> Task:
    diameter, speed = dice.of(0.6, 0.8, 1.0, 1.2), dice.of(15, 18, 24, 30)
    critical = 30 / pi * sqrt(2 * G / diameter)
    value = speed / critical
    inputs = {"n": speed, "g": G, "D": diameter}
    return Task(
        code="critical",
        level=3,
        question=f"A drum of {{{1000 * diameter}|mm}} turns {{{speed}|rpm}}. What share of its critical speed is that? "
        "Answer as a number, 0.5 for half.",
        unit="",
        answer=value,
        within=0.01,
        steps=(_step("Gravity against what throws outward", "x", "n π / 30 √(D / (2 g))", inputs, (value, "")),),
        slips=(
            Slip(value / sqrt(2), "The diameter was halved twice: radius is D / 2."),
            Slip(value * sqrt(2), "The diameter was taken for the radius."),
        ),
    )


def _trip(dice: Dice) -> Task:
    times = dice.of(1.5, 2, 3, 4, 6)
    value = RELAY_TAU_S * log(times**2 / (times**2 - RELAY_TRIPS))
    inputs = {"τ": RELAY_TAU_S, "x": times, "h": RELAY_TRIPS}
    return Task(
        code="trip",
        level=3,
        question=f"A class 10 overload relay (τ 387 s, trips at 1.15² = 1.3225) carries {times:g} times what it is "
        "set to, from cold. When does it trip?",
        unit="s",
        answer=value,
        within=0.05,
        steps=(_step("Heat reaches where it trips", "t", "τ ln(x² / (x² - h))", inputs, (value, "s")),),
        slips=(
            Slip(10.0, "The class is the time at 7.2 times; at less it takes longer."),
            Slip(RELAY_TAU_S * log(times / (times - 1.15)), "Heat goes with the square of the current."),
        ),
    )


MAKERS: dict[Level, tuple[Callable[[Dice], Task], ...]] = {
    1: (_two_stages, _idler, _pole_count, _torque, _advantage, _chain_number, pick_a_reducer),
    2: (_last_torque, _part_load, _inertia, _amps, _lever, _low_volts, _planetary, first_to_give),
    3: (_run_up, _run_down, _strum, _punch, _critical, _trip, what_is_wrong),
}


def task(level: Level, number: int) -> Task:
    """The task of a number, from 1, always the same: its kind in turn, its numbers by chance."""
    makers = MAKERS[level]
    return makers[(number - 1) % len(makers)](Dice(1000 * level + number))


#: Factors by which answers are often off, and why.
OFTEN = (
    (2.0, "It is twice the answer: a diameter for a radius?"),
    (0.5, "It is half the answer: a radius for a diameter?"),
    (9.549297, "It is 9.549 times the answer: rpm for radians a second?"),
    (1 / 9.549297, "It is the answer over 9.549: radians a second for rpm?"),
    (9.80665, "It is 9.81 times the answer: newtons for kilograms?"),
    (1 / 9.80665, "It is the answer over 9.81: kilograms for newtons?"),
    (12.0, "It is 12 times the answer: inches for feet?"),
    (25.4, "It is 25.4 times the answer: inches for millimeters?"),
    (-1.0, "Its size is right; the sense is the other one."),
)


def why_wrong(asked: Task, given: float) -> str:
    """The slip that makes a wrong answer, in a sentence; empty where none of the usual ones does."""
    for slip in asked.slips:
        if abs(given - slip.value) <= asked.within * abs(slip.value) + 1e-12:
            return slip.why
    return next(
        (
            why
            for factor, why in OFTEN
            if abs(given - factor * asked.answer) <= asked.within * abs(factor * asked.answer)
        ),
        "",
    )


def is_right(asked: Task, given: float) -> bool:
    """Whether an answer is near enough."""
    return abs(given - asked.answer) <= asked.within * abs(asked.answer) + 1e-12
