"""Lists of parts as shops have them: good ones give one result, bad ones are refused at the right place."""

from __future__ import annotations

import csv
import json
import re
from io import BytesIO, StringIO
from pathlib import Path
from zipfile import ZIP_DEFLATED, ZipFile

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook

from pulltide.core.holding import Holding
from pulltide.services.lists.look import Look, look
from pulltide.services.lists.sheet import MAX_BYTES, RefusedFile

LISTS = Path(__file__).parents[1] / "data" / "lists"
EXPECTED = json.loads((LISTS / "expected.json").read_text("utf-8"))
GOOD = (LISTS / "good.csv").read_bytes()
BAD_FILES = [case for case in EXPECTED["refusals"] if case["level"] == "file"]
BAD_ROWS = [case for case in EXPECTED["refusals"] if case["level"] == "row"]


def named(case: dict) -> str:
    return case["file"]


def of(name: str) -> Look:
    return look((LISTS / name).read_bytes(), name)


def as_expected(holding: Holding) -> dict:
    """The fields as the expected items have them."""
    found = {name: value for name, value in holding.model_dump(mode="json").items() if value is not None}
    return found | {"condition": found["condition"].replace("_", " ")}


@pytest.mark.parametrize("name", EXPECTED["same_items"])
def test_lists_in_every_style_give_the_same_items(name: str):
    found = of(name)
    assert found.faults == ()
    assert len(found.holdings) == len(EXPECTED["items"])
    for (_, holding), item in zip(found.holdings, EXPECTED["items"], strict=True):
        wanted = {key: value for key, value in item.items() if value != "unknown" or key == "condition"}
        got = as_expected(holding)
        assert set(got) == set(wanted) | {"on_hand"}, holding
        for key, value in wanted.items():
            if isinstance(value, float):
                assert got[key] == pytest.approx(value, abs=EXPECTED["length_tolerance_mm"]), (holding, key)
            else:
                assert got[key] == value, (holding, key)


@pytest.mark.parametrize("case", BAD_FILES, ids=named)
def test_a_file_that_cannot_be_trusted_is_refused_as_a_whole(case: dict):
    with pytest.raises(RefusedFile) as refused:
        of(case["file"])
    assert refused.value.code == case["code"]
    assert refused.value.where == case["where"]


@pytest.mark.parametrize("case", BAD_ROWS, ids=named)
def test_a_row_that_is_not_understood_is_told_and_the_others_are_read(case: dict):
    found = of(case["file"])
    numbers = [int(number) for number in re.findall(r"\d+", case["where"])]
    lines = range(numbers[0], numbers[-1] + 1) if " to " in case["where"] else numbers
    assert list(found.refused) == list(lines)
    assert {fault.code for fault in found.faults} <= {case["code"], "out_of_range"}
    assert case["code"] in {fault.code for fault in found.faults}
    assert {line for line, _ in found.holdings}.isdisjoint(lines)
    assert found.holdings
    for fault in found.faults:
        assert len(fault.why) > 10


def test_what_is_odd_is_read_and_said():
    twice = of("odd_duplicate_rows.csv")
    assert dict(twice.twice) == {6: 2}
    assert of("odd_unknown_column.csv").columns.unused == ("colour",)
    assert of("odd_markup.csv").faults == ()
    lines = [line for line, _ in of("odd_blank_lines.csv").holdings]
    raw = (LISTS / "odd_blank_lines.csv").read_text("utf-8-sig").splitlines()
    assert lines == [number for number, line in enumerate(raw, start=1) if number > 1 and line.strip(", ")]


def test_a_list_of_this_programs_own_says_of_what_kind_its_rows_are():
    found = of(EXPECTED["list_extract"]["file"])
    assert len(found.holdings) == EXPECTED["list_extract"]["rows"]
    assert {holding.family for _, holding in found.holdings} == {"v_pulley"}
    assert found.holdings[0][0] == EXPECTED["list_extract"]["comment_lines"] + 2


def test_a_column_is_read_as_the_person_says():
    renamed = GOOD.replace(b"designation", b"Katalognummer", 1)
    assert look(renamed).faults
    found = look(renamed, said={"Katalognummer": "designation", "note": ""})
    assert found.faults == ()
    assert found.columns.unused == ("note",)
    assert all(holding.note is None for _, holding in found.holdings)


def workbook(rows: list[list]) -> bytes:
    book, made = Workbook(), BytesIO()
    for row in rows:
        book.active.append(row)
    book.save(made)
    return made.getvalue()


def test_a_workbook_gives_the_same_items_and_its_formulas_are_refused():
    rows: list[list] = list(csv.reader(StringIO(GOOD.decode("utf-8-sig"))))
    typed = [[float(cell) if re.fullmatch(r"\d+(\.\d+)?", cell) else cell or None for cell in row] for row in rows[1:]]
    typed = [
        [str(int(cell)) if at == 2 and isinstance(cell, float) else cell for at, cell in enumerate(row)]
        for row in typed
    ]
    found = look(workbook([rows[0], *typed]), "list.xlsx")
    assert found.faults == ()
    assert [holding for _, holding in found.holdings] == [holding for _, holding in of("good.csv").holdings]
    broken = look(workbook([rows[0], *typed, ["v_pulley", "x", "A", "=25.4*4"] + [None] * 15]), "list.xlsx")
    assert [fault.code for fault in broken.faults] == ["formula"]
    with pytest.raises(RefusedFile, match="under another name"):
        look(workbook([rows[0], *typed]), "list.csv")


@pytest.mark.long
def test_a_bomb_is_not_unpacked_and_a_giant_is_not_read():
    made = BytesIO()
    with ZipFile(made, "w", ZIP_DEFLATED) as packed:
        for number in range(4):
            packed.writestr(f"xl/{number}.xml", b"0" * 30_000_000)
    assert len(made.getvalue()) < 1_000_000
    with pytest.raises(RefusedFile) as refused:
        look(made.getvalue(), "list.xlsx")
    assert refused.value.code == "too_large"
    with pytest.raises(RefusedFile):
        look(b"x" * (MAX_BYTES + 1))
    with pytest.raises(RefusedFile):
        look(b"PK\x03\x04 and no more", "list.xlsx")


def read(given: bytes) -> Look | RefusedFile:
    try:
        return look(given)
    except RefusedFile as refused:
        return refused


@given(st.integers(0, len(GOOD) - 1), st.binary(max_size=6), st.integers(0, 8))
def test_a_damaged_list_is_read_or_refused_and_never_breaks_the_reader(at: int, put: bytes, gone: int):
    found = read(GOOD[:at] + put + GOOD[at + gone :])
    if isinstance(found, RefusedFile):
        assert str(found)
    else:
        told = {fault.line for fault in found.faults}
        assert all(line not in told for line, _ in found.holdings)


@given(st.lists(st.lists(st.text(max_size=12), min_size=1, max_size=22), min_size=1, max_size=6))
def test_any_cells_under_a_good_header_are_read_or_told(rows: list[list[str]]):
    written = StringIO()
    csv.writer(written).writerows([GOOD.decode("utf-8-sig").splitlines()[0].split(","), *rows])
    found = read(written.getvalue().encode("utf-8", "surrogatepass"))
    assert str(found) if isinstance(found, RefusedFile) else len(found.holdings) + len(found.refused) <= len(rows)
