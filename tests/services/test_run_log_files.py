"""A run log as files: readings out and in again, upkeep in a calendar, recordings as readings; bad ones add nothing."""

from __future__ import annotations

from datetime import UTC, date, datetime
from io import BytesIO

import numpy as np
import pytest
from icalendar import Calendar
from scipy.io import wavfile

from pulltide.core.errors import InputErrors
from pulltide.core.run_log.judging import page_of
from pulltide.core.run_log.log import Log
from pulltide.demo import demo_machines
from pulltide.quantities import Units
from pulltide.services.change import Change
from pulltide.services.editing import apply_change
from pulltide.services.listening import reading_of
from pulltide.services.log_file import readings_csv, upkeep_calendar, with_readings
from pulltide.services.log_report import log_report
from pulltide.services.raw_machines import read_machine
from pulltide.services.upkeep import dues_of

UNITS = Units()
TROMMEL = demo_machines()[4]
BARE = TROMMEL.model_copy(update={"log": Log()})


def changed(machine, operation, **more):
    return apply_change(machine, Change(operation=operation, **more), UNITS)[0]


def test_readings_go_out_and_come_in_the_same():
    again = with_readings(BARE, BARE.plans[0], readings_csv(TROMMEL), "log.csv", UNITS)
    kept = [(visit.hours, visit.day, visit.load, visit.air_c, visit.readings) for visit in TROMMEL.log.visits]
    assert [(v.hours, v.day, v.load, v.air_c, v.readings) for v in again.log.visits] == kept
    assert page_of(again, 0, 4).diagnosis.first.code == "belt_slack"


def test_a_file_may_be_in_other_units_and_short():
    content = (
        b"reading,where,value,load\nspeed,shaft-2,1080 rpm,full\nbearing,shaft-4,100 F,full\nsag,link-3,1/2 in,full\n"
    )
    visit = with_readings(BARE, BARE.plans[0], content, "a.csv", UNITS).log.visits[0]
    assert [round(float(one.value), 2) for one in visit.readings] == [1080.0, 37.78, 12.7]
    assert visit.load == "full"
    assert visit.line == "v_belt,reducer,roller_chain"


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"reading,where\nspeed,shaft-1\n", "lacks value"),
        (b"reading,where,value\nspeed,shaft-1,fast\n", "line 2"),
        (b"reading,where,value\nspeed,shaft-1,1400\nspeed,shaft-2,-5\n", "line 3"),
        (b"reading,where,value\nspin,shaft-1,1400\n", "line 2"),
        (b"reading,where,value\nspeed,nowhere,1400\n", "line 2"),
        (b"reading,where,value,day\nspeed,shaft-1,1400,yesterday\n", "line 2"),
        (b"\x00\x01\x02", ""),
        (b"PK\x03\x04 no workbook", ""),
        (b"", ""),
    ],
)
def test_a_file_with_a_fault_adds_nothing_and_names_the_line(content, said):
    with pytest.raises(InputErrors) as refused:
        with_readings(BARE, BARE.plans[0], content, "a.csv", UNITS)
    assert said in " ".join(map(str, refused.value.errors))


def test_upkeep_stands_in_a_calendar_that_another_reader_understands():
    found, _ = dues_of(TROMMEL, TROMMEL.plans[0], date(2026, 6, 1))
    named = [(due, due.task.code) for due in found]
    body = upkeep_calendar(TROMMEL, named, date(2026, 6, 1), datetime(2026, 6, 1, tzinfo=UTC))
    events = Calendar.from_ical(body).walk("VEVENT")
    assert len(events) > 8
    assert len({str(event["uid"]) for event in events}) == len(events)
    days = {str(event["summary"]).removeprefix(f"{TROMMEL.name}: "): event["dtstart"].dt for event in events}
    assert days["set_tension"] == date(2026, 6, 1), "overdue is due today"
    hours = next(due.at_h for due in found if due.task.code == "measure_chain") - TROMMEL.log.hours
    assert days["measure_chain"] == date.fromordinal(
        date(2026, 6, 1).toordinal() + int(hours / TROMMEL.duty.hours_per_day)
    )


def wav(samples: np.ndarray, rate: int = 8000) -> bytes:
    made = BytesIO()
    wavfile.write(made, rate, (samples / np.abs(samples).max() * 20_000).astype(np.int16))
    return made.getvalue()


def strummed(frequency: float) -> np.ndarray:
    time = np.arange(3 * 8000) / 8000 - 1.0
    tone = sum(np.sin(2 * np.pi * k * frequency * time) / k for k in range(1, 9)) * np.exp(-time / 0.3)
    return np.where(time >= 0, tone, 0.0) + 0.002 * np.random.default_rng(1).normal(size=len(time))


def test_a_recording_becomes_a_reading():
    found = reading_of(TROMMEL, TROMMEL.plans[0], "strum", "link-1", wav(strummed(38.0)))
    assert found.named == "strum@link-1"
    assert found.value == pytest.approx(38.0, rel=0.005)
    time = np.arange(20 * 8000) / 8000
    slip = 0.024
    hum = (1 + 0.15 * np.sin(2 * np.pi * 2 * slip * 50 * time)) * np.sin(2 * np.pi * 100 * time)
    heard = reading_of(TROMMEL, TROMMEL.plans[0], "hum", "shaft-1", wav(hum))
    assert heard.value == pytest.approx(1500 * (1 - slip), abs=0.5)


@pytest.mark.parametrize(
    ("listen", "at", "content", "said"),
    [
        ("strum", "link-1", b"no sound", "no WAV file"),
        ("strum", "link-1", wav(strummed(38.0))[:60], "Recording"),
        ("strum", "link-3", wav(strummed(38.0)), "nothing of this kind"),
        ("strum", "link-1", wav(strummed(85.0)), "octave"),
        ("strum", "link-1", wav(np.random.default_rng(2).normal(size=16_000)), "Recording"),
        ("hum", "shaft-1", wav(strummed(38.0)), "too short"),
        ("tick", "shaft-4", wav(strummed(38.0)), "Recording"),
    ],
)
def test_a_recording_that_tells_nothing_is_refused(listen, at, content, said):
    with pytest.raises(InputErrors) as refused:
        reading_of(TROMMEL, TROMMEL.plans[0], listen, at, content)
    assert said in str(refused.value)


def test_a_page_of_readings_is_kept_taken_again_and_taken_out():
    machine = changed(BARE, "add_visit")
    machine = changed(machine, "add_reading", kind="strum@link-1", part="33 Hz")
    machine = changed(machine, "add_reading", kind="speed@shaft-2@watch", part="1080")
    machine = changed(machine, "add_reading", kind="strum@link-1", part="35")
    visit = machine.log.visits[0]
    assert [(one.kind, one.value, one.instrument) for one in visit.readings] == [
        ("speed", 1080.0, "watch"),
        ("strum", 35.0, ""),
    ]
    assert visit.line == "v_belt,reducer,roller_chain"
    machine = changed(machine, "toggle_noticed", kind="squeal")
    machine = changed(machine, "upkeep_done", kind="set_tension@link-1", part="30 h")
    assert machine.log.visits[0].noticed == ("squeal",)
    assert machine.log.hours == 30.0
    machine = changed(machine, "toggle_noticed", kind="squeal")
    machine = changed(changed(machine, "remove_reading", kind="strum@link-1"), "upkeep_undone")
    assert [one.kind for one in machine.log.visits[0].readings] == ["speed"]
    assert changed(machine, "remove_visit").log == Log()


@pytest.mark.parametrize(
    ("operation", "more", "said"),
    [
        ("add_reading", {"kind": "strum@link-1", "part": "3300 Hz"}, "Strum heard"),
        ("add_reading", {"kind": "strum@link-1", "part": "33 mm"}, "a frequency in Hz"),
        ("add_reading", {"kind": "spin@link-1", "part": "1"}, "is not known"),
        ("add_reading", {"kind": "strum@nowhere", "part": "33"}, "Where"),
        ("add_reading", {"kind": "strum@link-1", "part": " "}, "is empty"),
        ("add_reading", {"kind": "strum@link-1", "part": "33", "index": 5}, "do not exist"),
        ("toggle_noticed", {"kind": "smoke"}, "Noticed"),
        ("upkeep_done", {"kind": "polish", "part": "3"}, "is not known"),
        ("upkeep_done", {"kind": "set_tension@link-1", "part": "often"}, "Hours run"),
        ("upkeep_undone", {"index": 3}, "does not exist"),
    ],
)
def test_a_bad_entry_is_refused_by_name(operation, more, said):
    machine = changed(BARE, "add_visit")
    with pytest.raises(InputErrors) as refused:
        changed(machine, operation, **more)
    assert said in " ".join(map(str, refused.value.errors))


def test_the_report_says_what_the_page_says():
    report = log_report(TROMMEL, 0, None, date(2026, 6, 1))
    page = page_of(TROMMEL, 0, 4)
    assert report["page"] == 5
    assert report["causes"][0]["cause"] == page.diagnosis.first.code
    assert [one["expected"] for one in report["readings"]] == [[j.band.low, j.band.high] for j in page.judged]
    assert {one["task"] for one in report["upkeep"]} >= {"set_tension", "oil_chain"}
    assert log_report(BARE, 0, None, date(2026, 6, 1))["pages"] == 0
    with pytest.raises(InputErrors):
        log_report(TROMMEL, 0, 9, date(2026, 6, 1))


def test_a_machine_without_a_log_reads_as_before():
    document = BARE.model_dump(mode="json")
    del document["log"]
    assert read_machine(document, UNITS) == BARE
