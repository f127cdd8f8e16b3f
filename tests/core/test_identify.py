"""A wheel by caliper and count, against the wheels of the generic lists, whose sizes follow their standards."""

from __future__ import annotations

import pytest
from pydantic import ValidationError

from pulltide.core.holding import Holding
from pulltide.core.identify import PITCH_OFF, identify
from pulltide.core.stock import stock_rows
from pulltide.core.tables import number


@pytest.mark.parametrize(
    ("name", "found", "column"), [("sprockets", "sprocket", "chain"), ("toothed_pulleys", "toothed_pulley", "profile")]
)
def test_every_listed_wheel_is_known_by_its_outside_and_teeth(name: str, found: str, column: str):
    for row in stock_rows(name)[::7]:
        guesses = identify(found, number(row, "outside_mm"), number(row, "teeth"))
        if row[column] == "16B":
            continue
        (guess,) = (guess for guess in guesses if guess.name == row[column])
        assert guess.off <= PITCH_OFF
        assert guess.pitch_mm == pytest.approx(number(row, "pitch_mm"), rel=1e-3), row["designation"]
        kept = {"section": guess.name, "outside_mm": number(row, "outside_mm"), "pitch_mm": guess.pitch_mm}
        assert Holding(family=found, designation="found", **kept)


@pytest.mark.parametrize(("family", "outside_mm"), [("toothed_pulley", 60.4), ("v_pulley", 59.6), ("spur_gear", 59.6)])
def test_a_pitch_circle_on_the_wrong_side_of_the_outside_is_refused(family: str, outside_mm: float):
    """A timing belt's pitch line lies outside the teeth (ISO 5294, from memory), that of every other wheel inside."""
    with pytest.raises(ValidationError, match="pitch diameter"):
        Holding(family=family, designation="swapped", outside_mm=outside_mm, pitch_mm=60.0)
    assert Holding(family=family, designation="right", outside_mm=120 - outside_mm, pitch_mm=60.0)


def test_every_listed_gear_is_known_by_its_outside_and_teeth():
    for row in stock_rows("spur_gears")[::5]:
        pitch = f"M{row['module_mm']}" if row["diametral_pitch"] == "na" else f"D{row['diametral_pitch']}"
        guesses = identify("spur_gear", number(row, "outside_mm"), number(row, "teeth"))
        assert pitch in {guess.name for guess in guesses}
        assert guesses[0].off < 1e-3


def test_every_listed_v_pulley_is_known_by_its_groove():
    """Grooves of one width are told apart by nothing that a caliper reads: all of them are named."""
    tops = {
        "3L": 9.5,
        "4L": 12.7,
        "A": 12.7,
        "B": 16.7,
        "C": 22.2,
        "3V": 9.5,
        "5V": 15.9,
        "SPZ": 9.7,
        "SPA": 12.7,
        "SPB": 16.3,
    }
    for row in stock_rows("v_pulleys")[::11]:
        guesses = {guess.name: guess for guess in identify("v_pulley", number(row, "outside_mm"), tops[row["section"]])}
        assert guesses[row["section"]].pitch_mm == pytest.approx(number(row, "pitch_mm"), abs=0.02)


def test_what_comes_near_nothing_is_nothing():
    assert identify("v_pulley", 100, 40) == ()
    assert identify("sprocket", 100, 2) == ()
