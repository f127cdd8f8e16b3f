"""What is due: tasks of the parts that a plan has, by hours run and by the calendar, after what was done last."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cache
from typing import Literal

from pulltide.core.run_log.log import Log, Work
from pulltide.core.run_log.running import Running, StageModel
from pulltide.core.sources import AnySource
from pulltide.core.tables import load_table

Location = Literal["light", "normal", "dirty"]
#: Locations of a duty that are hard on machines.
HARD: dict[str, Location] = {
    "clean": "light",
    "dusty": "dirty",
    "wet": "dirty",
    "outdoors": "dirty",
    "washed_down": "dirty",
}
#: Soon is within this share of an interval.
SOON_SHARE = 0.15
DAYS_A_MONTH = 30.4


@dataclass(frozen=True, slots=True)
class Task:
    """One task: where it applies, hours of the first time and between, longest by the calendar [months]; None where
    not.
    """

    code: str
    where: str
    first_h: float | None
    light_h: float | None
    normal_h: float | None
    dirty_h: float | None
    months: float | None

    def every_h(self, location: Location) -> float | None:
        """Hours between two times."""
        return {"light": self.light_h, "normal": self.normal_h, "dirty": self.dirty_h}[location]


@cache
def _tasks() -> dict[str, Task]:
    def known(text: str) -> float | None:
        return None if text == "na" else float(text)

    return {
        row["code"]: Task(
            row["code"],
            row["where"],
            *(known(row[name]) for name in ("first_h", "light_h", "normal_h", "dirty_h", "months")),
        )
        for row in load_table("pulltide.core.run_log", "upkeep").rows
    }


TASKS = _tasks()


@dataclass(frozen=True, slots=True)
class Due:
    """One task at one place: done at these hours, due next at ``at_h`` or on ``on``; its state at the hours run now."""

    task: Task
    at: str
    every_h: float | None
    done_h: tuple[float, ...]
    at_h: float | None
    on: date | None
    state: Literal["overdue", "soon", "later"]


def location_of(environment: str | None) -> Location:
    """How hard a place is on machines; normal where nobody says."""
    return HARD.get(environment or "", "normal")


def dues(running: Running, source: AnySource, log: Log, location: Location, today: date) -> tuple[Due, ...]:
    """Every task of this line, the most pressing first."""
    now = log.hours or 0.0
    found = [
        _due(
            task,
            at,
            (tuple(work for work in log.works if (work.task, work.at) == (task.code, at)), now, today),
            location,
        )
        for task, at in places(running, source)
    ]
    order = {"overdue": 0, "soon": 1, "later": 2}
    return tuple(sorted(found, key=lambda one: (order[one.state], one.at_h if one.at_h is not None else 1e12)))


def _due(task: Task, at: str, so_far: tuple[Sequence[Work], float, date], location: Location) -> Due:
    works, now, today = so_far
    hours = tuple(sorted(work.hours for work in works))
    every = task.every_h(location)
    if not hours:
        at_h = task.first_h if task.first_h is not None else every
    else:
        at_h = None if every is None else hours[-1] + every
    days = sorted(work.day for work in works if work.day)
    on = None
    if task.months is not None and days:
        on = date.fromisoformat(days[-1]) + timedelta(days=round(task.months * DAYS_A_MONTH))
    wait = at_h - (hours[-1] if hours else 0.0) if at_h is not None else 0.0
    return Due(task, at, every, hours, at_h, on, _state(at_h, wait, now, (on, today)))


def _state(
    at_h: float | None, wait_h: float, now: float, days: tuple[date | None, date]
) -> Literal["overdue", "soon", "later"]:
    on, today = days
    if (at_h is not None and now >= at_h) or (on is not None and today >= on):
        return "overdue"
    near = SOON_SHARE * wait_h
    return "soon" if at_h is not None and now >= at_h - near else "later"


#: Whether a stage has a place for a task.
STAGES: dict[str, Callable[[StageModel], bool]] = {
    "belt": lambda stage: stage.observed.loop is not None and stage.observed.loop.friction is not None,
    "toothed": lambda stage: stage.observed.loop is not None and stage.observed.loop.friction is None,
    "chain": lambda stage: stage.observed.chain is not None,
    "case": lambda stage: stage.observed.case is not None,
    "worm": lambda stage: stage.observed.is_worm,
    "gears": lambda stage: stage.observed.meshes and stage.observed.case is None,
}
#: Sources with brushes.
BRUSHED = frozenset(("dc", "universal"))


def places(running: Running, source: AnySource) -> Iterator[tuple[Task, str]]:
    """Every task of a line and where it is done: ``link-2``, ``shaft-1``, or the whole line."""
    for task in TASKS.values():
        if task.where in STAGES:
            for number, stage in enumerate(running.stages, 1):
                if STAGES[task.where](stage):
                    yield task, f"link-{number}"
        elif task.where == "bearing":
            for shaft, drag in enumerate(running.bearing_nm, 1):
                if drag > 0:
                    yield task, f"shaft-{shaft}"
        elif _is_there(task.where, running, source):
            yield task, ""


def _is_there(where: str, running: Running, source: AnySource) -> bool:
    return {"line": True, "motor": running.is_motor, "brushes": source.kind in BRUSHED}[where]
