"""Searches beside the requests: counted while they run, out of the way of short work, given up when nobody waits."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from threading import Lock, Thread
from time import monotonic, sleep
from typing import Generic, TypeVar

from pulltide.core.search.pace import GivenUp, Pace

#: So many searches are remembered, and so many wait for each other at most.
MAX_JOBS, MAX_WAITING = 12, 4
#: A page looks again every one or two seconds; a search that nobody asked for in this time is given up [s].
WANTED_S = 6.0
#: A search stands aside while pages are worked out, in steps of this, and for so long altogether [s].
ASIDE_S, MAX_ASIDE_S = 0.01, 5.0

T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class Searching:
    """Not found yet; how many trains were looked at so far."""

    looked_at: int


class _Job(Generic[T]):
    """One search: its answer, or why there is none, once its thread has ended."""

    def __init__(self, look: Callable[[Pace], T], busy: Callable[[], bool]) -> None:
        self._look, self._busy = look, busy
        self._wanted_until = monotonic() + WANTED_S
        self._aside_s = 0.0
        self.looked_at = 0
        self.found: T | None = None
        self.fault: Exception | None = None
        self.thread = Thread(target=self._run, daemon=True)
        self.thread.start()

    def _run(self) -> None:
        try:
            self.found = self._look(self._pace)
        except Exception as fault:  # whatever it is, it is for the one who asked
            self.fault = fault

    def _pace(self, looked_at: int) -> None:
        self.looked_at = max(looked_at, self.looked_at)
        if monotonic() > self._wanted_until:
            raise GivenUp
        while self._aside_s < MAX_ASIDE_S and self._busy():
            sleep(ASIDE_S)
            self._aside_s += ASIDE_S

    @property
    def given_up(self) -> bool:
        return isinstance(self.fault, GivenUp)

    def within(self, seconds: float) -> T | Searching:
        """The answer, if it is there in time. Raises what the search raised."""
        self._wanted_until = monotonic() + seconds + WANTED_S
        self.thread.join(seconds)
        if self.fault is not None and not self.given_up:
            raise self.fault
        return Searching(self.looked_at) if self.found is None else self.found


class SearchJobs(Generic[T]):
    """The searches of one process by what they look for; safe to share between threads.

    ``busy`` tells whether other work of the process waits for its turn.
    """

    def __init__(self, busy: Callable[[], bool]) -> None:
        self._busy = busy
        self._lock = Lock()
        self._jobs: OrderedDict[Hashable, _Job[T]] = OrderedDict()

    def looked_for(self, key: Hashable, look: Callable[[Pace], T], within_s: float) -> T | Searching:
        """What a search finds, begun where it is not running, if that is there within some seconds."""
        with self._lock:
            job = self._jobs.get(key)
            if job is None or job.given_up:
                if sum(other.thread.is_alive() for other in self._jobs.values()) >= MAX_WAITING:
                    return Searching(0)
                job = self._jobs[key] = _Job(look, self._busy)
                while len(self._jobs) > MAX_JOBS:
                    self._jobs.popitem(last=False)
        return job.within(within_s)
