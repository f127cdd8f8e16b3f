"""Tasks that ask for a judgement: which reducer, which stage gives first, what is wrong."""

from __future__ import annotations

from pulltide.core.labels import phrase
from pulltide.core.practice.contract import Dice, Slip, Task, step_of
from pulltide.core.working import Step

#: Ratings of a made-up row of reducers [N·m], and service factors by the shock of a load. Common practice, no source.
ROW = (70.0, 110.0, 170.0, 260.0, 400.0, 620.0)
SHOCKS = (("an evenly loaded screw", 1.0), ("a drum with light shock", 1.25), ("a crusher with heavy shock", 1.75))
#: Speed at which a motor of the practice shop would turn without load [rpm].
NO_LOAD_RPM = 1500.0


def pick_a_reducer(dice: Dice) -> Task:
    """The smallest rating over torque times service factor."""
    words, factor = SHOCKS[int(dice.of(0, 1, 2))]
    torque = dice.between(60, 300, 5)
    design = torque * factor
    answer = next(rating for rating in ROW if rating >= design)
    bare = next(rating for rating in ROW if rating >= torque)
    below = max((rating for rating in ROW if rating < design), default=ROW[0])
    listed = ", ".join(f"{{{rating}|N*m}}" for rating in ROW)
    inputs = {"T": torque, "SF": factor}
    return Task(
        code="pick_a_reducer",
        level=1,
        question=f"The last shaft of {phrase(words)} takes {{{torque}|N*m}}; the service factor is {factor:g}. "
        f"Reducers are rated {phrase(listed)}. What is the rating of the smallest that will do?",
        unit="N*m",
        answer=answer,
        within=0.01,
        steps=(
            step_of("Design torque", "T_d", "T SF", inputs, (design, "N*m")),
            step_of("The smallest rating on the list that is over it", "T_r", f"{answer:g}", {}, (answer, "N*m")),
        ),
        slips=_others(
            answer, (bare, "The service factor is missing."), (below, "That rating is under the design torque.")
        ),
    )


def _others(answer: float, *slips: tuple[float, str]) -> tuple[Slip, ...]:
    """Slips that do not happen to give the right answer."""
    return tuple(Slip(value, why) for value, why in slips if abs(value - answer) > 1e-9)


def first_to_give(dice: Dice) -> Task:
    """Three strengths at three shafts, brought to the last one."""
    ratios = (dice.of(2, 2.5, 3), dice.of(10, 15, 20), dice.of(2, 3, 4))
    strengths: tuple[float, ...] = (dice.between(8, 30, 1), dice.between(15, 60, 1), dice.between(150, 900, 10))
    whole = ratios[0] * ratios[1] * ratios[2]
    brought = (whole, ratios[1] * ratios[2], ratios[2])
    at_last = tuple(strength * by for strength, by in zip(strengths, brought, strict=True))
    first = min(range(3), key=lambda stage: at_last[stage])
    # no two so near each other that rounding decides
    near = [stage != first and at_last[stage] < 1.1 * at_last[first] for stage in range(3)]
    strengths = tuple(2 * one if close else one for one, close in zip(strengths, near, strict=True))
    at_last = tuple(strength * by for strength, by in zip(strengths, brought, strict=True))
    bare = min(range(3), key=lambda stage: strengths[stage])
    formulas = ("T_1 i_1 i_2 i_3", "T_2 i_2 i_3", "T_3 i_3")
    named = {f"i_{number}": ratio for number, ratio in enumerate(ratios, start=1)}
    steps: list[Step] = []
    for number in range(3):
        symbols = {f"T_{number + 1}": strengths[number], **{key: named[key] for key in list(named)[number:]}}
        title = f"Stage {number + 1} at the last shaft"
        steps.append(step_of(title, f"M_{number + 1}", formulas[number], symbols, (at_last[number], "N*m")))
    steps.append(step_of("The smallest gives first", "k", str(first + 1), {}, (float(first + 1), "")))
    return Task(
        code="first_to_give",
        level=2,
        question=f"Stage 1, {ratios[0]:g}:1, slips at {{{strengths[0]}|N*m}} on the motor shaft. "
        f"Stage 2, {ratios[1]:g}:1, breaks at {{{strengths[1]}|N*m}} on its input. "
        f"Stage 3, {ratios[2]:g}:1, breaks at {{{strengths[2]}|N*m}} on its driver. "
        "The machine jams slowly, losses left out. Which stage gives first: 1, 2 or 3?",
        unit="",
        answer=float(first + 1),
        within=0.01,
        steps=tuple(steps),
        slips=_others(float(first + 1), (float(bare + 1), "The torques stand at different shafts: bring them to one.")),
    )


#: What is wrong: how the motor's slip, the belt's creep and the volts change, and why.
FAULTS = (("slack belt", 1.0, 0.09, 1.0), ("overload", 1.7, 0.012, 1.0), ("low voltage", 1.0, 0.01, 0.86))


def what_is_wrong(dice: Dice) -> Task:
    """Speeds, amps and volts of a motor and the shaft that its belt drives; one of three faults made them."""
    fault = int(dice.of(0, 1, 2))
    load, ratio, slip = dice.of(0.6, 0.7, 0.8), dice.of(2, 2.5, 3), dice.of(0.04, 0.05)
    _, times, creep, volts = FAULTS[fault]
    # slip grows with the torque and falls with the square of the voltage; amps with the torque over the voltage
    motor = NO_LOAD_RPM * (1 - slip * load * times / volts**2)
    driven = motor / ratio * (1 - creep)
    amps = load * times / volts
    expected = NO_LOAD_RPM * (1 - slip * load)
    inputs = {"n_1": motor, "n_2": driven, "i": ratio}
    lost = step_of("Lost in the belt", "s", "1 - n_2 i / n_1", inputs, (1 - driven * ratio / motor, "share"))
    telling = (
        "Motor and amps as expected, but the belt loses far over 2 %",
        "The belt creeps as usual; the motor slips more and draws more at full volts",
        "The belt creeps as usual; the volts are low, so the motor slips more for the same load",
    )
    return Task(
        code="what_is_wrong",
        level=3,
        question=f"A motor expected at {{{expected:.0f}|rpm}}, {100 * load:.0f} % of its plate amps and 100 % volts "
        f"drives a belt of {ratio:g}:1. Read: motor {{{motor:.0f}|rpm}}, driven shaft {{{driven:.0f}|rpm}}, "
        f"{100 * amps:.0f} % of the plate amps, {100 * volts:.0f} % volts. "
        "Which is it: 1 a slack belt, 2 an overload, 3 low voltage?",
        unit="",
        answer=float(fault + 1),
        within=0.01,
        steps=(lost, step_of(telling[fault], "k", str(fault + 1), {}, (float(fault + 1), ""))),
        slips=_others(
            float(fault + 1),
            (1.0, "A slack belt leaves the motor alone: its speed and amps would be as expected."),
            (2.0, "An overload shows in the amps at full volts, and leaves the belt's creep small."),
            (3.0, "Low voltage shows on the meter: read the volts."),
        ),
    )
