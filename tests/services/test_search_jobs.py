"""Searches beside the requests: counted, aside while pages are worked out, given up when nobody waits."""

from __future__ import annotations

from collections.abc import Callable
from threading import Event
from time import monotonic, sleep

import pytest

from pulltide.core.errors import InputError
from pulltide.core.search.pace import Pace
from pulltide.services import search_jobs
from pulltide.services.search_jobs import Searching, SearchJobs

#: Long enough for a thread to be given its turn on a crowded machine [s].
LONG_S = 20.0


def until(so: Callable[[], bool]) -> None:
    end = monotonic() + LONG_S
    while not so():
        assert monotonic() < end, "not so in time"
        sleep(0.01)


def test_a_search_says_how_far_it_is_and_then_what_it_found():
    jobs, go_on = SearchJobs[str](lambda: False), Event()

    def look(pace: Pace) -> str:
        pace(1200)
        go_on.wait(LONG_S)
        return "a drive"

    until(lambda: jobs.looked_for("key", look, 0.01) == Searching(1200))
    go_on.set()
    assert jobs.looked_for("key", look, LONG_S) == "a drive"


def test_a_search_that_nobody_asks_for_is_given_up_and_begun_anew_when_somebody_does(monkeypatch):
    monkeypatch.setattr(search_jobs, "WANTED_S", 0.05)
    jobs, begun, ended = SearchJobs[str](lambda: False), [], []

    def endless(pace: Pace) -> str:
        begun.append(1)
        try:
            while True:
                pace(len(begun))
                sleep(0.005)
        finally:
            ended.append(1)

    assert isinstance(jobs.looked_for("key", endless, 0.0), Searching)
    until(lambda: bool(ended))
    assert jobs.looked_for("key", lambda pace: "found", LONG_S) == "found"


def test_a_search_makes_way_for_other_work_but_not_for_ever(monkeypatch):
    monkeypatch.setattr(search_jobs, "MAX_ASIDE_S", 0.2)
    at_work, steps = Event(), []
    at_work.set()
    jobs = SearchJobs[str](at_work.is_set)

    def look(pace: Pace) -> str:
        for step in range(3):
            pace(step)
            steps.append(step)
        return "found"

    assert jobs.looked_for("key", look, 0.02) == Searching(0)
    assert not steps, "it stands aside"
    assert jobs.looked_for("key", look, LONG_S) == "found", "work that never ends stops no search"


def test_too_many_searches_at_once_are_put_off_and_a_fault_is_told():
    jobs, go_on = SearchJobs[str](lambda: False), Event()

    def slow(pace: Pace) -> str:
        go_on.wait(LONG_S)
        return "found"

    for key in range(search_jobs.MAX_WAITING):
        jobs.looked_for(key, slow, 0.0)
    assert jobs.looked_for("one more", slow, 0.0) == Searching(0)
    go_on.set()

    def wrong(pace: Pace) -> str:
        raise InputError("Torque", "", "is missing")

    until(lambda: jobs.looked_for(0, slow, LONG_S) == "found")
    with pytest.raises(InputError, match="Torque"):
        until(lambda: not isinstance(jobs.looked_for("wrong", wrong, LONG_S), Searching))
