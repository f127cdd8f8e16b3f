"""A wheel by caliper and count, against the wheels of the generic lists, whose sizes follow their standards."""

from __future__ import annotations

import pytest

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
