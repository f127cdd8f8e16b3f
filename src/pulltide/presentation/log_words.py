"""What a page of readings says, in words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from pulltide.core.links import family_of
from pulltide.core.machine import Plan
from pulltide.core.run_log.diagnosis import WORTH_BITS, Diagnosis, Next, Ranked
from pulltide.core.run_log.instruments import READS, WARM
from pulltide.core.run_log.judging import Judged, Page
from pulltide.core.run_log.model import Band
from pulltide.core.run_log.trend import Trend
from pulltide.core.run_log.upkeep import Due
from pulltide.quantities import Units, show
from pulltide.words import running, say, worded

#: Words of a state for marks.
STATES = {"clear": "clear", "warning": "weigh", "error": "fix"}
#: Probability from which a cause is called very likely, and likely.
VERY, LIKELY = 0.9, 0.6
#: Causes are told until they make up this share together.
MAX_OF_IT = 0.9
SLIP_WORDS = {
    "twice": "Close to twice: two marks on the shaft, or the octave of a strum?",
    "half": "Close to half: every second mark, or the octave below?",
    "inches": "Off by 25.4: inches taken for millimeters?",
    "in_inches": "Off by 25.4: millimeters taken for inches?",
    "kilograms": "Off by 9.81: kilograms taken for newtons?",
    "newtons": "Off by 9.81: newtons taken for kilograms?",
    "pounds": "Off by 4.45: pounds taken for newtons?",
    "per_second": "Off by 60: turns a second taken for rpm?",
    "feet": "Off by 0.305: feet taken for meters?",
}


class Places:
    """Names of the places of a plan: shafts by their own, stages by number and kind."""

    def __init__(self, plan: Plan, shafts: Sequence[str]) -> None:
        self.plan, self.shafts = plan, shafts

    def name(self, at: str) -> str:
        """In words; empty for the whole machine.

        >>> Places(Plan(), ("Motor", "Drum")).name("shaft-2")
        'Drum'
        """
        kind, _, number = at.partition("-")
        index = int(number) - 1 if number.isdecimal() else -1
        if kind == "shaft" and 0 <= index < len(self.shafts):
            return self.shafts[index]
        if kind == "link" and 0 <= index < len(self.plan.links):
            return say(
                "stage {index}, {title}", index=index + 1, title=worded(family_of(self.plan.links[index].kind).title)
            )
        return at

    def short(self, at: str) -> str:
        """The same in fewer words, for two places at once too: ``stage 1``."""
        return ", ".join(filter(None, (self.name(one).partition(",")[0] for one in at.split("+"))))


@dataclass(frozen=True, slots=True, kw_only=True)
class SaidRow:
    """One reading in words: what, where, how it is read, its value, what was expected, and what that says."""

    what: str
    where: str
    how: str
    value: str
    expected: str
    state: str
    says: str
    slip: str


def hours_run(hours: float) -> str:
    """Hours to the tenth: nobody reads a meter closer, and 100 minutes are no round figure.

    >>> hours_run(212), hours_run(5 / 3)
    ('212 h', '1.7 h')
    """
    return f"{round(hours, 1):g} h"


def band_text(what: str, band: Band, units: Units) -> str:
    """A band as text: ``512 to 517 rpm``."""
    low, high = (
        show(max(band.low, 0.0) if what not in WARM else band.low, READS[what], units),
        show(band.high, READS[what], units),
    )
    return say("{number} to {high}", number=low.number, high=high)


def row_words(judged: Judged, places: Places, units: Units) -> SaidRow:
    """A reading that was judged."""
    return SaidRow(
        what=running(f"what.{judged.what}"),
        where=places.name(judged.at),
        how=running(f"how.{judged.what}"),
        value=str(show(judged.value, READS[judged.what], units)),
        expected=band_text(judged.what, judged.band, units),
        state=STATES[judged.state],
        says=_says(judged, units),
        slip=say(SLIP_WORDS.get(judged.slip, "")),
    )


def _says(judged: Judged, units: Units) -> str:
    if judged.state == "clear":
        return say("as predicted")
    way = "over" if judged.off > 0 else "under"
    if judged.what in WARM:
        return f"{show(round(abs(judged.off)), 'delta_degC', units)} {way}"
    if judged.band.middle > 0:
        return f"{100 * (judged.value / judged.band.middle - 1):+.0f} %".replace("-", "−")
    return f"{show(abs(judged.off), READS[judged.what], units)} {way}"


def how_likely(probability: float) -> str:
    """A probability in steps, never as certain.

    >>> how_likely(0.98), how_likely(0.7), how_likely(0.32), how_likely(0.004)
    ('very likely', 'likely', 'about 30 %', 'hardly')
    """
    if probability > VERY:
        return say("very likely")
    if probability > LIKELY:
        return "likely"
    return say("about {probability} %", probability=round(probability * 20) * 5) if probability >= 0.03 else "hardly"


def cause_fits(found: Diagnosis, one: Ranked) -> str:
    """How likely one cause is, where any of them explains the readings."""
    return say("does not fit them all") if found.none_fits else how_likely(one.probability)


def cause_words(ranked: Ranked, places: Places | None = None) -> str:
    """A cause, or two at once, with its place where places are named."""
    named = say(" and ").join(
        running(f"cause.{code}") if number == 0 else running(f"cause.{code}").lower()
        for number, code in enumerate(ranked.code.split("+"))
    )
    where = places.short(ranked.at) if places else ""
    return f"{named} ({where})" if where else named


@dataclass(frozen=True, slots=True)
class Verdict:
    """What the readings say: a headline with its state, why, and what to do, in order."""

    state: str
    headline: str
    why: tuple[str, ...]
    steps: tuple[str, ...]


def verdict(page: Page, places: Places, units: Units) -> Verdict:
    """In words."""
    if page.why_not:
        return _unread(page)
    found = page.diagnosis
    assert found is not None
    outside = [judged for judged in page.judged if judged.state != "clear"]
    if found.none_fits:
        return _none_fits(page, found, places)
    if not outside and found.first.code == "nothing_wrong":
        return Verdict("clear", say("Every reading is as predicted."), (), _nexts(found, places, say(MAYBE)))
    if found.is_certain:
        return _verdict_of(page, found, places, units)
    return _open(found, places)


MAYBE = "To be surer, read"


def _unread(page: Page) -> Verdict:
    words = {
        "other_line": (
            say("These were read on another line."),
            say("The stages were of other kinds then, so nothing is compared. They are kept."),
        ),
        "no_load": (
            say("Say under what load this was read."),
            say("Speed, current and heat follow the load; without it readings are kept, not judged."),
        ),
        "nothing_read": (say("Nothing read yet."), say("Write a reading down and it stands beside what is expected.")),
    }
    headline, why = words[page.why_not or "nothing_read"]
    return Verdict("note", headline, (why,), ())


def _none_fits(page: Page, found: Diagnosis, places: Places) -> Verdict:
    steps: list[str] = []
    if found.worst is not None and found.worst < len(page.judged):
        worst = page.judged[found.worst]
        steps.append(
            say("Read again: {value}, {at}.", value=running(f"what.{worst.what}").lower(), at=places.name(worst.at))
        )
    steps += _nexts(found, places, say("Then read"))
    nearest = say("Nearest is: {cause}. It does not explain them all.", cause=cause_words(found.first, places).lower())
    return Verdict("weigh", say("No known cause fits these readings."), (nearest,), tuple(steps))


def _verdict_of(page: Page, found: Diagnosis, places: Places, units: Units) -> Verdict:
    first = found.first
    why = [running(f"tells.{first.code}")]
    others = [one for one in found.ranked[1:4] if one.probability >= 0.05]
    if others:
        why.append(
            say("Less likely: ")
            + ", ".join(f"{cause_words(one, places).lower()}, {how_likely(one.probability)}" for one in others)
            + "."
        )
    state = "clear" if first.code == "nothing_wrong" else "fix" if first.probability > VERY else "weigh"
    headline = f"{cause_words(first, places)}: {how_likely(first.probability)}."
    steps = (running(f"cure.{first.code}"), *_targets(page, first, units), *_nexts(found, places, say(MAYBE)))
    return Verdict(state, headline, tuple(why), steps)


#: Causes that are cured by setting a tension.
BY_TENSION = ("belt_slack", "belt_tight")


def _targets(page: Page, first: Ranked, units: Units) -> Iterator[str]:
    """What a belt is to be set to, by ear and by scale."""
    strum, press = page.bands.get(("strum", first.at)), page.bands.get(("press", first.at))
    if first.code in BY_TENSION and strum and press:
        force = show(press.middle, "N", units)
        yield say(
            "Target: it strums at {middle:.3g} Hz; {force} deflect it by 1/64 of the span.",
            middle=strum.middle,
            force=force,
        )


def _open(found: Diagnosis, places: Places) -> Verdict:
    enough = _nexts(found, places, say("Read next"))
    if not enough:
        enough = (say("No further reading would tell these apart: open it up and look, the likeliest first."),)
    return Verdict(
        "weigh", say("Cannot tell yet."), (say("It could be {places}.", places=_list(found, places)),), enough
    )


#: So many causes it could be are listed.
MOST_LISTED = 5


def _list(found: Diagnosis, places: Places) -> str:
    likely, total = [], 0.0
    for one in found.ranked[:MOST_LISTED]:
        likely.append(f"{cause_words(one, places).lower()} ({how_likely(one.probability)})")
        total += one.probability
        if total >= MAX_OF_IT:
            break
    return ", ".join(likely)


def _nexts(found: Diagnosis, places: Places, begins: str) -> tuple[str, ...]:
    worth = worth_reading(found)[:1]
    return tuple(f"{begins}: {next_words(one, places)}." for one in worth)


def worth_reading(found: Diagnosis) -> list[Next]:
    """What else is worth reading, most told a minute first."""
    return [one for one in found.nexts if one.bits >= WORTH_BITS]


def next_words(one: Next, places: Places) -> str:
    """One reading to take: what, where, with what, how long."""
    where = places.name(one.at)
    return say(
        "{value}, {where}, {instrument}, about {minutes:.0f} min",
        value=running(f"what.{one.what}").lower(),
        where=where,
        instrument=running(f"instrument.{one.instrument}"),
        minutes=one.minutes,
    )


def task_words(due: Due, places: Places) -> str:
    """A task with its place."""
    where = places.name(due.at)
    return f"{running(f'task.{due.task.code}')} ({where})" if where else running(f"task.{due.task.code}")


def trend_words(trend: Trend, places: Places, units: Units) -> str:
    """When a drift reaches its limit, and what to plan for."""
    limit = show(trend.limit, READS[trend.what], units)
    name = f"{running(f'what.{trend.what}')}, {places.short(trend.at)}"
    return say(
        "{name}: at this rate {limit} at about {hours:.0f} h, give or take {sigma:.0f} h. Plan for {plan:.0f} h.",
        name=name,
        limit=limit,
        hours=trend.hours,
        sigma=2 * trend.sigma_h,
        plan=trend.plan_h,
    )


def load_words(found: Diagnosis) -> str:
    """The load by the readings; empty where they do not tell."""
    if found.load is None:
        return ""
    share, spread = found.load
    if spread <= 0 or spread > TELLS_LOAD:
        return ""
    return say(
        "These readings put the load at {share:.0f} ± {spread:.0f} % of what is entered.",
        share=100 * share,
        spread=200 * spread,
    )


#: Readings that leave the load more open than this do not tell it.
TELLS_LOAD = 0.12
