"""The Run-up place: conditions as switches, strips over time with a cursor, what happened, what it means."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass, replace
from typing import cast

from pulltide.core.errors import InputError
from pulltide.core.findings import Finding, Severity
from pulltide.core.line import solve_plan
from pulltide.core.machine import MAX_PLANS
from pulltide.core.needs import move_of, pulse_of
from pulltide.core.run_log.of_line import is_three_phase
from pulltide.core.run_up.cases import run_up
from pulltide.core.run_up.checks import findings
from pulltide.core.run_up.control import Conditions, Then
from pulltide.core.run_up.drive_train import DriveTrain, drive_train, motor_of
from pulltide.core.run_up.run import Run
from pulltide.core.sources import drive_of
from pulltide.presentation.painting import Picture
from pulltide.presentation.run_words import event_words, jam_bars, tiles
from pulltide.presentation.sheet import small_sheet
from pulltide.presentation.strip_chart import Strips, strip_chart
from pulltide.presentation.words import FindingLine, finding_line
from pulltide.services.running import jam_peaks_of
from pulltide.web.places.contract import Context
from pulltide.words import error_text, say

#: What stands over the bars of what breaks, and where there are none.
JAMMED = (
    "In the jam, against what breaks it",
    "How hard it hits cannot be said: no stage behind the slip tells how springy it is or what breaks it.",
)
#: What is said of a load that runs back, by whether a person turns it.
RUNS_BACK = {True: "Once the crank is let go, this load runs back", False: "With the power off, this load runs back"}
JERKED = ("In the first jerk, against what breaks it", "No stage tells at what torque it breaks.")
#: Of this rank and below nothing is to be mended.
CLEAR = Severity.NOTE.rank
#: What can be set, with the words of its choices; the first is taken where nothing is said.
CHOICES: dict[str, tuple[str, tuple[tuple[str, str], ...]]] = {
    "volts": ("Volts", (("100", "as rated"), ("90", "90 %"), ("80", "80 %"))),
    "soft": (
        "Start",
        (
            ("0", "direct"),
            ("2", "soft, 2 s"),
            ("5", "soft, 5 s"),
            ("star3", "star-delta, 3 s"),
            ("vfd2", "VFD, 2 s"),
            ("vfd5", "VFD, 5 s"),
        ),
    ),
    "then": (
        "Then",
        (
            ("stop", "power off"),
            ("load_steps", "load off and on"),
            ("dip", "volts dip"),
            ("jam", "held fast"),
            ("blows", "blows"),
            ("cycle", "duty cycle"),
            ("other_way", "the other way"),
            ("move", "one move"),
            ("jerk", "first jerk"),
        ),
    ),
    "load": ("Load", (("100", "full"), ("50", "half"), ("0", "none"))),
}
#: A soft start off a line shaft is a pedal.
PEDAL = {"2": "pedal, 2 s", "5": "pedal, 5 s"}


@dataclass(frozen=True, slots=True)
class RunChoice:
    """One condition: its words, the address at which it is, whether it is."""

    words: str
    address: str
    on: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class RunView:
    """The place; ``missing`` says what is needed before anything runs.

    ``turns`` are the speeds of the shafts of ``drawing`` [rpm], negative for one that turns against the motor.
    """

    rows: tuple[tuple[str, tuple[RunChoice, ...]], ...]
    missing: str
    strips: Strips | None
    frames: tuple[dict[str, object], ...]
    tiles: tuple[tuple[str, str, str], ...]
    events: tuple[tuple[str, str], ...]
    findings: tuple[FindingLine, ...]
    slip_known: bool
    may_run_back: str
    csv: str
    svg: str
    beside: str = ""
    tries: tuple[RunChoice, ...] = ()
    jam: tuple[tuple[str, str, str, str], ...] = ()
    jammed: tuple[str, str] | None = None
    follows: str = ""
    drawing: Picture | None = None
    turns: tuple[float, ...] = ()


def said_of(wish: str) -> dict[str, str]:
    """Conditions in an address, ``volts:90;soft:2``; what is not offered is left out.

    >>> said_of("volts:90;soft:9;x:1")
    {'volts': '90'}
    """
    pairs = (pair.partition(":") for pair in wish.split(";"))
    offered = {(name, value) for name, (_, choices) in CHOICES.items() for value, _ in choices}
    offered |= {("beside", value) for value in (DIRECT, BEFORE, *(f"plan{number}" for number in range(MAX_PLANS)))}
    return {name: value for name, _, value in pairs if (name, value) in offered}


def conditions_of(said: dict[str, str]) -> Conditions:
    """The conditions that an address names."""
    start = said.get("soft", "0")
    seconds = float(start.lstrip("starvfd"))
    return Conditions(
        volts=float(said.get("volts", "100")) / 100,
        load=float(said.get("load", "100")) / 100,
        soft_s=seconds if start.isdecimal() else 0.0,
        star_s=seconds if start.startswith("star") else 0.0,
        vfd_s=seconds if start.startswith("vfd") else 0.0,
        then=cast(Then, said.get("then", "stop")),
    )


def runup_view(context: Context) -> RunView:
    """Run it and say what happened."""
    said = said_of(context.selection.wish)
    wish = ";".join(f"{name}:{value}" for name, value in said.items())
    file, asked = f"/machines/{context.stored.id}/run", f"plan={context.selection.plan}&wish={wish}"
    blank = RunView(
        rows=tuple(_rows(context, said)),
        missing="",
        strips=None,
        frames=(),
        tiles=(),
        events=(),
        findings=(),
        slip_known=True,
        may_run_back="",
        csv=f"{file}.csv?{asked}",
        svg=f"{file}.svg?{asked}",
    )
    if context.line is None or not context.plan.links:
        return _with(blank, missing=say("With a motor and a stage the drive is run here: start, speed, slip, stop."))
    try:
        train = drive_train(context.machine, context.plan, context.line)
    except InputError as error:
        return _with(blank, missing=error_text(error))
    try:
        run = run_up(train, conditions_of(said))
    except InputError as error:
        return _with(blank, missing=error_text(error))
    peaks = jam_peaks_of(context.line, train, run)
    found = tuple(findings(train, run, peaks))
    strips = strip_chart(train, run, context.units, _beside(context, said, train))
    return _with(
        blank,
        strips=strips,
        frames=tuple(asdict(frame) for frame in strips.frames),
        tiles=tuple(tiles(train, run, context.units, context.line)),
        events=tuple(event_words(train, run)),
        findings=tuple(finding_line(finding, context.units) for finding in found),
        tries=tuple(_tries(context, said, train, found)),
        jam=tuple(jam_bars(peaks, context.units)),
        jammed=_said(JAMMED) if run.jam is not None else _said(JERKED) if run.jerk is not None else None,
        follows=say("load at the motor, no losses")
        if run.jerk is None
        else say("torque into stage {worst_stage}", worst_stage=run.jerk.worst_stage + 1),
        slip_known=train.one("slips") is not None,
        may_run_back=say(RUNS_BACK[train.by_hand]) if train.may_run_back else "",
        drawing=small_sheet(context.plan, context.line, context.units),
        turns=tuple(round(shaft.speed_rpm * (shaft.turn or 1), 3) for shaft in context.line.shafts),
        beside=next(
            (choice.words for label, row in blank.rows if label == say(BESIDE) for choice in row[1:] if choice.on), ""
        ),
    )


#: Beside the run stands the same switched on direct, as it was before the last change, or another plan.
DIRECT, BEFORE, BESIDE = "direct", "before", "Beside it"


def _beside(context: Context, said: dict[str, str], train: DriveTrain) -> Run | None:
    """The other run, None where none is asked for or it cannot be run."""
    asked = said.get("beside", "")
    if asked == DIRECT:
        return _ran(train, {**said, "soft": "0"})
    machine = context.former if asked == BEFORE else context.machine
    number = context.selection.plan if asked == BEFORE else int(asked.removeprefix("plan")) if asked else -1
    if machine is None or not 0 <= number < len(machine.plans):
        return None
    plan = machine.plans[number]
    result = solve_plan(machine, plan, catalog=context.catalog)
    if result is None or not plan.links:
        return None
    try:
        return _ran(drive_train(machine, plan, result.chosen), said)
    except InputError:
        return None


def _ran(train: DriveTrain, said: dict[str, str]) -> Run | None:
    """A run, None where it cannot be followed."""
    try:
        return run_up(train, conditions_of(said))
    except InputError:
        return None


def _beside_row(context: Context, said: dict[str, str]) -> Iterator[tuple[str, tuple[RunChoice, ...]]]:
    choices = [("", say("nothing"))]
    choices += [(DIRECT, say("started direct"))] if said.get("soft", "0") != "0" else []
    choices += [(BEFORE, say("before the last change"))] if context.stored.undo_label else []
    others = enumerate(context.machine.plans)
    choices += [(f"plan{number}", plan.name) for number, plan in others if number != context.selection.plan]
    if len(choices) == 1:
        return
    now, made = said.get("beside", ""), []
    for value, words in choices:
        kept = {**said, "beside": value} if value else {key: item for key, item in said.items() if key != "beside"}
        wish = ";".join(f"{key}:{item}" for key, item in kept.items())
        made.append(RunChoice(words, context.selection.to(wish=wish), value == now))
    yield say(BESIDE), tuple(made)


def _volts(context: Context) -> str:
    """What less volts do to this source; nothing where it has none."""
    drive = drive_of(context.plan.source)
    return "square" if drive is None or drive.curve is None else motor_of(context.plan, drive).volts


def _controlled(context: Context) -> bool:
    """Whether a controller or VFD makes the motor follow a speed."""
    return _volts(context) == "line" or _on_vfd(context)


def _on_vfd(context: Context) -> bool:
    """Whether the motor never runs but by a VFD."""
    inverter = getattr(context.plan.source, "inverter", None)
    return bool(inverter and inverter.fitted)


def _offered(context: Context, value: str) -> bool:
    """Whether a choice means something for this machine."""
    if value == "dip":
        return _volts(context) != "none"
    if value == "move":
        return move_of(context.machine.need.worksheet) is not None and _controlled(context)
    if value == "other_way":
        return not any(part.one_way_stage is not None for part in context.plan.shafts)
    if value.startswith("star"):
        return is_three_phase(context.plan) and not _on_vfd(context)
    if value.startswith("vfd"):
        return is_three_phase(context.plan) or _on_vfd(context)
    if value == "blows":
        return pulse_of(context.machine.need.worksheet) is not None
    return value != "cycle" or bool(context.machine.duty.cycle)


def _tries(context: Context, said: dict[str, str], train: DriveTrain, found: Sequence[Finding]) -> Iterator[RunChoice]:
    """Other starts that were run and leave fewer findings: each of the present ones gone or no worse, and none new."""
    now = {one.code: one.severity.rank for one in found if one.severity.rank > CLEAR}
    if not now or said.get("then", "stop") not in ("stop", "jerk"):
        return
    words = dict(CHOICES["soft"][1])
    for value in words:
        if value == said.get("soft", "0") or not _offered(context, value):
            continue
        if _on_vfd(context) and not value.startswith("vfd"):
            continue
        other = {**said, "soft": value}
        run = _ran(train, other)
        if run is None:
            continue
        then = {one.code: one.severity.rank for one in findings(train, run)}
        worse = [code for code, rank in then.items() if rank > max(now.get(code, CLEAR), CLEAR)]
        gone = [code for code, rank in now.items() if then.get(code, 0) <= CLEAR]
        if gone and not worse:
            wish = ";".join(f"{key}:{item}" for key, item in other.items())
            fewer = (
                say("nothing left to mend")
                if len(gone) == len(now)
                else say("{gone} of {now} findings gone", gone=len(gone), now=len(now))
            )
            yield RunChoice(f"{say(words[value])}: {fewer}", context.selection.to(wish=wish), False)


def _with(view: RunView, **changes: object) -> RunView:
    return replace(view, **changes)  # type: ignore[arg-type]


def _said(words: tuple[str, str]) -> tuple[str, str]:
    return say(words[0]), say(words[1])


def _rows(context: Context, said: dict[str, str]) -> Iterator[tuple[str, tuple[RunChoice, ...]]]:
    volts, drive = _volts(context), drive_of(context.plan.source)
    by_hand = drive is not None and drive.prime_mover == "hand"
    for name, (label, choices) in CHOICES.items():
        if volts == "none" and name in ("volts", "soft"):
            continue
        offered = [one for one in choices if _offered(context, one[0])]
        if name == "soft" and _on_vfd(context):
            offered = [one for one in offered if one[0].startswith("vfd")]
        now = said.get(name, offered[0][0])
        made = []
        for value, words in offered:
            wish = ";".join(f"{key}:{item}" for key, item in {**said, name: value}.items())
            shown_as = PEDAL.get(value, words) if volts == "line" and name == "soft" else words
            shown_as = "let go" if value == "stop" and by_hand else shown_as
            made.append(RunChoice(say(shown_as), context.selection.to(wish=wish), value == now))
        yield say(label), tuple(made)
    yield from _beside_row(context, said)
