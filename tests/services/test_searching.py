"""What a search of the shipped lists shows, against the whole plans that it stands for; its doors and its refusals."""

from __future__ import annotations

import json
import math
import subprocess
import sys
from dataclasses import replace
from math import log
from pathlib import Path
from string import ascii_uppercase

import pytest
from scipy.optimize import brentq

from builders import LOOKED_UP, build_machine
from pulltide.core.bill import bill_of, total
from pulltide.core.duty import Duty
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.findings import Severity
from pulltide.core.line import solve_plan
from pulltide.core.links.v_belt.layout import layout
from pulltide.core.links.v_belt.stepped import MAX_SPREAD_MM
from pulltide.core.machine import Machine
from pulltide.core.need import Need
from pulltide.core.search.engine import Train
from pulltide.core.search.rows import GRID_RPM, MIDDLE, rows_of, under_duty
from pulltide.core.search.ways import TOP, Builder, Way, unreached
from pulltide.core.search.wish import RANKINGS, RankBy, Wish, speed_under
from pulltide.core.shipped import shipped_catalog
from pulltide.core.sources import drive_of
from pulltide.core.transmission import LOUDNESS, Flow, Sizing
from pulltide.core.units import power_kw, torque_nm
from pulltide.demo import demo_machines
from pulltide.services.searching import SEARCHED, SHOWN, Searcher, plans_report, ways_report, wish_from
from pulltide.store.row_file import RowFile
from pulltide.web.places.ways.chart import chart_of

PROJECT = Path(__file__).resolve().parents[2]
QUICK = Wish(max_stages=2)


@pytest.fixture(scope="module")
def searcher() -> Searcher:
    return Searcher(RowFile(PROJECT / ".run" / "rows"))


@pytest.mark.long
@pytest.mark.parametrize("machine", demo_machines(), ids=lambda machine: machine.name)
def test_what_is_shown_has_no_problem_as_a_plan_and_is_what_was_promised(searcher: Searcher, machine: Machine):
    plan = machine.plans[0]
    bare = solve_plan(machine, plan.model_copy(update={"links": (), "shafts": ()}))
    before = {f.rule.code for f in bare.findings if f.severity is Severity.ERROR}
    found = searcher.ways(machine, plan, QUICK)
    assert len(found.ways) >= 2
    assert [way.score for way in found.ways] == sorted(way.score for way in found.ways)
    assert len({tuple(link.kind for link in way.plan.links) for way in found.ways}) == len(found.ways)
    for way in found.ways:
        solved = solve_plan(machine, way.plan)
        assert {f.rule.code for f in solved.findings if f.severity is Severity.ERROR} <= before
        assert not any("speed_low" in code or "speed_high" in code for code in before)
        speed, tightest = solved.chosen.last_shaft.speed_rpm, solved.chosen.tightest[1].use
        assert speed == pytest.approx(way.train.speed_rpm, rel=0.015)
        assert tightest <= 1.0
        assert len(way.parts) == way.train.parts


@pytest.mark.long
def test_the_best_of_all_hold_the_best_of_each_kind_that_counts_no_more(searcher: Searcher):
    """The same drives in two lists, solved alike; each train once, without a problem, the best first."""
    (machine,) = (one for one in demo_machines() if one.name.startswith("Windrow"))
    plan = machine.plans[0]
    kinds, found = searcher.ways(machine, plan, QUICK), searcher.ways(machine, plan, replace(QUICK, shown="trains"))
    trains = [way.train for way in found.ways]
    assert len(set(trains)) == TOP
    assert [way.score for way in found.ways] == sorted(way.score for way in found.ways)
    assert all(not way.result.count(Severity.ERROR) for way in found.ways)
    best = [way.train for way in kinds.ways if way.score < found.ways[-1].score]
    assert trains[0] == best[0]
    assert set(best) <= set(trains)
    # the drives of one kind alone, as "more like this" leads to them
    word = best[0].word
    alone = replace(QUICK, shown="trains", must=frozenset(word), never=frozenset(SEARCHED) - set(word))
    assert all(set(way.train.word) == set(word) for way in searcher.ways(machine, plan, alone).ways)


@pytest.mark.long
def test_what_is_allowed_holds(searcher: Searcher):
    (machine,) = (one for one in demo_machines() if one.name.startswith("Windrow"))
    plan = machine.plans[0]

    def ways(**wish):
        return searcher.ways(machine, plan, Wish(**{"max_stages": 2, **wish})).ways

    assert all("roller_chain" not in way.train.word for way in ways(never=frozenset({"roller_chain"})))
    assert all("reducer" in way.train.word for way in ways(must=frozenset({"reducer"})))
    assert all(way.train.price <= 160 for way in ways(max_price=160.0))
    for sense, turn in (("same", 1), ("opposite", -1)):
        found = ways(turn=sense)
        assert found
        assert all(way.result.chosen.last_shaft.turn == turn for way in found)
    cheapest, nearest = ways(rank_by="price")[0], ways(rank_by="speed")[0]
    assert cheapest.train.price <= nearest.train.price
    ideal = machine.need.speed_ideal_rpm
    assert abs(nearest.train.speed_rpm - ideal) <= abs(cheapest.train.speed_rpm - ideal)


@pytest.mark.long
def test_a_part_that_must_be_used_is_in_one_stage_of_every_drive(searcher: Searcher):
    (machine,) = (one for one in demo_machines() if one.name.startswith("Windrow"))
    plan = machine.plans[0]
    free = searcher.ways(machine, plan, Wish(max_stages=2)).ways
    part = next(name for way in free[1:] for name in way.parts if name.startswith("VP-"))
    held = searcher.ways(machine, plan, Wish(max_stages=2, use=part)).ways
    assert held
    for way in held:
        assert part in way.parts
        assert way.train.word.count("v_belt") == 1
    assert held[0].train.score >= free[0].train.score, "a part that must be used never makes the best better"
    with pytest.raises(InputError, match="is in no stage"):
        searcher.ways(machine, plan, Wish(use="no such part"))


@pytest.mark.long
def test_the_chart_shows_every_drive_and_its_line_never_falls(searcher: Searcher):
    (machine,) = (one for one in demo_machines() if one.name.startswith("Windrow"))
    ways = searcher.ways(machine, machine.plans[0], QUICK).ways
    chart = chart_of(ways, "ABCDEFGH")
    assert len(chart.dots) == sum(1 + len(way.alike) for way in ways)
    assert [dot.letter for dot in chart.dots if dot.is_best] == list("ABCDEFGH"[: len(ways)])
    tops, ends = [tick.at for tick in chart.shares], [float(tick.text) for tick in chart.shares]
    in_hand = [100 * (1 - use) for way in ways for use in (*(train.use for train in way.alike), way.use)]
    drawn = [ends[-1] * (tops[0] - dot.at[1]) / (tops[0] - tops[-1]) for dot in chart.dots]
    assert drawn == pytest.approx(in_hand, abs=0.1)
    assert max(drawn) >= ends[-1] / 3 or ends[-1] == 10, "the scale ends a little above the strongest"
    corners = [tuple(map(float, corner.split())) for corner in chart.front.removeprefix("M").split("L")]
    assert corners == sorted(corners, key=lambda corner: (corner[0], -corner[1]))
    for dot in chart.dots:
        cheaper = [y for x, y in corners if x <= dot.at[0]]
        assert min(cheaper) <= dot.at[1] + 0.1, "nothing stands above the line"
    assert chart_of((), "ABC") is None
    # drives that cost nearly the same are told apart: the scale of prices begins just under the cheapest
    near = searcher.ways(machine, machine.plans[0], replace(QUICK, max_stages=3, shown="trains")).ways
    chart = chart_of(near, ascii_uppercase)
    begins, ends = (float(tick.text) for tick in (chart.prices[0], chart.prices[-1]))
    spent = [way.price for way in near]
    assert begins > 0.5 * max(spent)
    assert begins <= min(spent)
    assert max(spent) <= ends <= max(spent) + (ends - begins) / 2
    along = [
        (dot.at[0] - chart.prices[0].at) / (chart.prices[-1].at - chart.prices[0].at) * (ends - begins) + begins
        for dot in chart.dots
    ]
    assert along == pytest.approx(spent, abs=0.1)


@pytest.mark.long
def test_what_would_have_to_give_is_searched_and_each_alone_is_enough(searcher: Searcher):
    (machine,) = (one for one in demo_machines() if one.name.startswith("Windrow"))
    plan, tight = machine.plans[0], Wish(max_stages=1)
    assert not searcher.ways(machine, plan, tight).ways
    found = searcher.nearest(machine, plan, tight)
    assert {one.name for one in found} <= {"stages", "families", "motor", "speed"}
    assert "stages" in {one.name for one in found}
    for one in found:
        assert searcher.ways(machine, plan, one.wish).ways
        changed = [
            name
            for name in ("max_stages", "never", "motor", "widen")
            if getattr(one.wish, name) != getattr(tight, name)
        ]
        assert len(changed) == 1
    poor = Wish(max_stages=2, max_price=30.0)
    assert not searcher.ways(machine, plan, poor).ways
    assert "price" in {one.name for one in searcher.nearest(machine, plan, poor)}


@pytest.mark.long
def test_a_listed_motor_is_bought(searcher: Searcher):
    machine = demo_machines()[0]
    group = "400 V, three-phase, 50 Hz"
    found = searcher.ways(machine, machine.plans[0], Wish(max_stages=1, motor=group))
    assert found.ways
    assert all(way.parts[0].startswith("M") and way.plan.source != machine.plans[0].source for way in found.ways)


@pytest.mark.long
def test_rows_kept_in_files_are_those_that_were_made(searcher: Searcher, tmp_path: Path):
    catalog = shipped_catalog()
    rows = {one.family.kind: one for one in searcher.rows(catalog)}
    asked: list[str] = []

    def make(family, listed, lists):
        asked.append(family.kind)
        return rows_of(family, listed, lists) if family.kind == "reducer" else rows[family.kind]

    RowFile(tmp_path).rows(catalog, make)
    assert asked == list(SEARCHED)
    asked.clear()
    for other in RowFile(tmp_path).rows(catalog, make):
        one = rows[other.family.kind]
        assert one.candidates == other.candidates
        assert (one.price == other.price).all()
        assert all((a[2] == b[2]).all() for a, b in zip(one.ln_limit, other.ln_limit, strict=True))
    assert asked == [], "they were kept"
    (kept,) = tmp_path.glob("rows-v_belt-*.npz")
    kept.write_bytes(kept.read_bytes()[:1000])
    file = RowFile(tmp_path)
    before = file.rows(catalog, make)
    assert asked == ["v_belt"], "a damaged file is made anew"
    asked.clear()
    unit = catalog.find("reducer", "PW-3 15:1") or next(item for item in catalog.items if item.id == "PW-3 15:1")
    shelf = catalog.with_items(
        [replace(unit, id="Mine", origin="shelf", data=unit.data.model_copy(update={"designation": "Mine"}))]
    )
    found = file.rows(shelf, make)
    assert asked == ["reducer"], "a unit on the shelf has nothing else rated anew"
    anew = [one.family.kind for one, other in zip(found, before, strict=True) if one is not other]
    assert anew == ["reducer"], "all else is the same"
    (reducers,) = (one for one in found if one.family.kind == "reducer")
    (place,) = (k for k, one in enumerate(reducers.candidates) if one.shape == ("Mine",))
    assert (reducers.price[place], reducers.parts[place]) == (0, 0)


def test_a_need_that_says_too_little_is_refused_by_name(searcher: Searcher):
    with pytest.raises(InputError, match="Torque"):
        searcher.ways(build_machine(need={"running_torque_nm": None}), build_machine().plans[0], Wish())
    blank = {"speed_min_rpm": None, "speed_ideal_rpm": None, "speed_max_rpm": None}
    with pytest.raises(InputError, match="Speed"):
        searcher.ways(build_machine(need=blank), build_machine().plans[0], Wish())


@pytest.mark.parametrize(
    ("said", "named"),
    [
        ({"never": "wings"}, "never"),
        ({"must": 5}, "must"),
        ({"stages": 9}, "stages"),
        ({"stages": True}, "stages"),
        ({"price": "much"}, "price"),
        ({"turn": "sideways"}, "turn"),
        ({"rank": "beauty"}, "rank"),
        ({"motor": "steam"}, "motor"),
        ({"color": "red"}, "color"),
    ],
)
def test_a_wish_that_cannot_be_is_refused_by_name(said: dict[str, object], named: str):
    with pytest.raises(InputErrors) as refused:
        wish_from(said, shipped_catalog())
    assert refused.value.errors[0].field == named
    assert refused.value.errors[0].accepted


def test_a_wish_is_read_from_text_and_from_data_alike():
    text = {"never": "v_belt,reducer", "stages": "2", "price": "150", "rank": "price"}
    data = {"never": ["reducer", "v_belt"], "stages": 2, "price": 150.0, "rank": "price"}
    assert wish_from(text, shipped_catalog()) == wish_from(data, shipped_catalog())
    assert wish_from({}, shipped_catalog()) == Wish()
    assert set(SEARCHED) == {"v_belt", "toothed_belt", "roller_chain", "gear_pair", "reducer"}


@pytest.mark.long
def test_the_command_line_finds_the_same(searcher: Searcher, tmp_path: Path):
    machine = demo_machines()[2]
    file = tmp_path / "machine.json"
    file.write_text(machine.model_dump_json())
    command = [sys.executable, "-m", "pulltide.cli.main", "search", str(file), "--wish", '{"stages": 1}']
    environment = {"PULLTIDE_CACHE": str(PROJECT / ".run" / "rows"), "PATH": "/usr/bin:/bin"}
    told = subprocess.run(command, capture_output=True, text=True, check=True, env=environment)
    wish = Wish(max_stages=1)
    expected = ways_report(searcher.ways(machine, machine.plans[0], wish), machine.plans[0], wish)
    expected["plans"] = plans_report(machine, wish, shipped_catalog())
    assert json.loads(told.stdout) == json.loads(json.dumps(expected))


@pytest.mark.long
def test_a_search_ranked_by_a_year_weighs_loss_by_what_it_costs(searcher: Searcher):
    """With energy dear enough the first drive loses no more than the first by price alone, whatever it costs."""
    base = next(one for one in demo_machines() if "Windrow" in one.name)
    dear = base.model_copy(update={"duty": base.duty.model_copy(update={"energy_price": 5.0})})
    by_price, by_year = (
        searcher.ways(dear, dear.plans[0], Wish(max_stages=2, rank_by=rank)).ways[0] for rank in ("price", "year")
    )
    assert by_year.result.chosen.efficiency >= by_price.result.chosen.efficiency
    assert by_year.train.price >= by_price.train.price


def delivered_kw(stage, speed_rpm: float, taken_kw: float) -> float:
    """What a stage delivers of a power that it takes in."""
    return brentq(lambda out: stage.transmit(speed_rpm, out).power_in_kw - taken_kw, 0.0, taken_kw)


@pytest.mark.parametrize("kind", SEARCHED)
def test_a_row_carries_what_its_link_is_loaded_to_the_full_with(searcher: Searcher, kind: str):
    """Rows of every family, at grid speeds: under the torque that a row may take, the link itself is just used up."""
    catalog = shipped_catalog()
    (rows,) = (one for one in searcher.rows(catalog) if one.family.kind == kind)
    sizing, peak = Sizing(Duty(shock="moderate", hours_per_day=8)), 1.8
    loaded = under_duty(rows, sizing, peak, catalog)
    capacity = loaded.ln_capacity
    checked = 0
    for row in range(0, len(rows), max(len(rows) // 40, 1)):
        stage = rows.family.prepare(rows.family.stages.build(rows.candidates[row].shape, catalog), 1)
        for place, speed in enumerate(GRID_RPM.tolist()):
            if not math.isfinite(capacity[row, place]) or speed > rows.max_rpm[row]:
                continue
            torque = math.exp(capacity[row, place])
            taken = power_kw(torque, speed)
            out_kw = delivered_kw(stage, speed, taken)
            driven = stage.transmit(speed, out_kw).driven_speed_rpm
            out_nm = torque_nm(out_kw, driven)
            flow = Flow(
                driver_speed_rpm=speed,
                driven_speed_rpm=driven,
                driver_torque_nm=torque,
                driven_torque_nm=out_nm,
                driver_peak_torque_nm=torque * peak,
                driven_peak_torque_nm=out_nm * peak,
                driver_nameplate_torque_nm=torque,
                power_in_kw=taken,
                power_out_kw=out_kw,
            )
            result = stage.rate(flow, sizing, "link-1")
            limits = result.limits
            if place == MIDDLE:  # what a running belt throws outward, some 20 N, does not go by its load
                assert result.driver_pull_n == pytest.approx(loaded.pull_in[row] * torque, rel=0.1, abs=25.0)
                assert result.driven_pull_n == pytest.approx(loaded.pull_out[row] * out_nm, rel=0.1, abs=25.0)
            use = max(limit.use for limit in limits if limit.is_load and limit.use is not None)
            assert use == pytest.approx(1.0, abs=0.03), (rows.candidates[row], speed, limits)
            checked += 1
    assert checked > 100


@pytest.mark.long
def test_a_search_ranked_by_noise_puts_the_quietest_first(searcher: Searcher):
    machine = next(one for one in demo_machines() if "Windrow" in one.name)

    def loudness(way) -> int:
        return sum(LOUDNESS.index(link.transmission.noise) for link in way.result.chosen.links)

    quiet = searcher.ways(machine, machine.plans[0], Wish(max_stages=2, rank_by="noise")).ways
    priced = searcher.ways(machine, machine.plans[0], Wish(max_stages=2, rank_by="price")).ways
    assert max(map(loudness, priced)) > 0
    assert loudness(quiet[0]) <= min(map(loudness, (*quiet, *priced)))


def exact_center_mm(length: float, small: float, large: float) -> float:
    """Center distance of an open belt by its exact length. Machinery's Handbook, belts: L = 2 C cos a + ..."""

    def long_by(center: float) -> float:
        angle = math.asin((large - small) / (2 * center))
        straight = 2 * center * math.cos(angle)
        return straight + math.pi / 2 * (small + large) + angle * (large - small) - length

    return brentq(long_by, (large - small) / 2 + 1e-6, length)


@pytest.mark.long
def test_further_speeds_are_given_by_change_pulleys_on_one_belt_at_nearly_one_center(searcher: Searcher):
    """Each pair is on the lists, and what they cost is in the price."""
    machine = next(one for one in demo_machines() if "Spindlewood" in one.name)
    ideal = machine.need.speed_ideal_rpm
    wish = Wish(max_stages=2, speeds=(round(0.7 * ideal), round(1.4 * ideal)))
    found = searcher.ways(machine, machine.plans[0], wish)
    assert found.ways
    for way in found.ways:
        given = [line.last_shaft.speed_rpm for line in way.result.settings]
        for speed in wish.speeds:
            assert min(abs(one / speed - 1) for one in given) <= 0.05
        assert not [one for one in way.result.findings if one.severity is Severity.ERROR]
        (stepped,) = (link for link in way.plan.links if len(getattr(link, "steps", ())) == 3)
        places = [layout(stepped, step) for step in (1, 2, 3)]
        centers = [exact_center_mm(p.length_mm, *sorted((p.driver_pitch_mm, p.driven_pitch_mm))) for p in places]
        assert len({round(p.length_mm, 6) for p in places}) == 1, "one belt"
        assert max(centers) - min(centers) <= 2 * MAX_SPREAD_MM
        assert centers == pytest.approx([p.center_mm for p in places], abs=0.01)
        assert stepped.steps_are == "change_pulleys"
        pieces = bill_of(way.plan, shipped_catalog())
        wheels = [piece for piece in pieces if "pulley" in piece.what]
        assert len(wheels) >= 2 * len({step.driver_diameter_mm for step in stepped.steps})
        assert all(piece.price is not None for piece in wheels)
        assert way.price == pytest.approx(total(piece for piece in pieces if piece.subject != "motor").price, abs=0.2)
        assert len(way.parts) > len(way.train.stages) * 2


@pytest.mark.long
def test_the_best_of_all_have_change_pulleys_for_further_speeds_too(searcher: Searcher):
    machine = next(one for one in demo_machines() if "Spindlewood" in one.name)
    ideal = machine.need.speed_ideal_rpm
    wish = Wish(max_stages=2, speeds=(round(0.7 * ideal), round(1.4 * ideal)))
    kinds = searcher.ways(machine, machine.plans[0], wish).ways
    found = searcher.ways(machine, machine.plans[0], replace(wish, shown="trains")).ways
    assert len(found) >= len(kinds)
    assert found[0].score <= kinds[0].score
    assert all(not unreached(way.plan, way.result, wish.speeds) for way in found)


@pytest.mark.long
def test_further_speeds_that_the_motor_itself_gives_take_no_steps(searcher: Searcher):
    """A two-speed motor gives half the speed; one on a VFD whatever lies between its ends."""
    machine = next(one for one in demo_machines() if "Windrow" in one.name)
    plan, ideal = machine.plans[0], machine.need.speed_ideal_rpm
    source = plan.source.model_copy(update={"second_power_kw": 0.75, "second_speed_rpm": 710.0})
    other = round(ideal * 710 / source.speed_rpm, 3)
    two_speeds = plan.model_copy(update={"source": source})
    found = searcher.ways(machine, two_speeds, Wish(max_stages=3, speeds=(other,)))
    assert found.ways
    for way in found.ways:
        assert all(len(getattr(link, "steps", (1,))) == 1 for link in way.plan.links), "no steps"
        given = [line.last_shaft.speed_rpm for line in way.result.settings]
        assert min(abs(one / other - 1) for one in given) <= 0.05
    one_speed = searcher.ways(machine, plan, Wish(max_stages=3, speeds=(other,)))
    assert all(any(len(getattr(link, "steps", (1,))) > 1 for link in way.plan.links) for way in one_speed.ways)


@pytest.mark.long
def test_speeds_that_no_steps_give_are_said_and_doing_without_helps(searcher: Searcher):
    machine = next(one for one in demo_machines() if "Windrow" in one.name)
    wish = Wish(max_stages=1, speeds=(0.02,))
    found = searcher.ways(machine, machine.plans[0], wish)
    assert not found.ways
    if found.unstepped:
        assert "speeds" in {one.name for one in searcher.nearest(machine, machine.plans[0], wish)}


@pytest.mark.long
@pytest.mark.parametrize(("name", "shares"), [("Hempwalk", (0.5,)), ("Hempwalk", (1.3, 0.7)), ("Lofthook", (0.5,))])
def test_kinds_without_steps_do_not_take_the_places_of_those_that_have_them(searcher: Searcher, name, shares):
    """The best kinds are chains and gears, which give no further speed: belts on change pulleys are found all the same,
    as many as where a belt is demanded.
    """
    machine = next(one for one in demo_machines() if name in one.name)
    plan, speeds = machine.plans[0], tuple(share * machine.need.speed_ideal_rpm for share in shares)
    found = searcher.ways(machine, plan, Wish(max_stages=2, speeds=speeds))
    demanded = searcher.ways(machine, plan, Wish(max_stages=2, speeds=speeds, must=frozenset({"v_belt"})))
    assert found.ways
    assert {way.train for way in demanded.ways} <= {way.train for way in found.ways}
    assert all(not unreached(way.plan, way.result, speeds) for way in found.ways)


@pytest.mark.parametrize("rank", ["loss", "balance"])
@pytest.mark.parametrize("power_kw", [0.02, 0.1, 0.3])
def test_a_list_is_ranked_by_what_its_drives_do_as_solved(searcher: Searcher, power_kw: float, rank: RankBy):
    """A V-belt loses nearly as much under a small load as under a large one: its rating promises far too much then."""
    machine = next(one for one in demo_machines() if "Spindlewood" in one.name)
    need = {"speed_ideal_rpm": 500.0, "speed_min_rpm": 480.0, "speed_max_rpm": 520.0}
    need["running_torque_nm"] = torque_nm(power_kw, 500.0)
    light = Machine.model_validate(machine.model_dump(mode="json") | {"need": need}, context=LOOKED_UP)
    for shown in SHOWN:
        wish = Wish(max_stages=2, rank_by=rank, must=frozenset({"v_belt"}), shown=shown)
        ways, weights = searcher.ways(light, light.plans[0], wish).ways, RANKINGS[rank]
        assert len(ways) >= 2
        for way in ways:
            line = way.result.chosen
            uses = [link.tightest.use for link in line.links]
            # its motor has plenty here
            worth = weights.price * way.price + weights.part * len(way.parts) - weights.loss * log(line.efficiency)
            worth += weights.error * abs(log(line.last_shaft.speed_rpm / 500.0))
            worth += weights.use * sum(max(log(use / 0.6), 0.0) for use in uses)
            worth += weights.warning * way.result.count(Severity.WARNING)
            assert way.score == pytest.approx(worth, rel=1e-6)
            # neither list nor chart has more in hand than the row shows
            assert way.use >= max(way.train.use, *uses)
        assert [way.score for way in ways] == sorted(way.score for way in ways)
        best = max(way.result.chosen.efficiency for way in ways)
        assert rank != "loss" or ways[0].result.chosen.efficiency > best - 0.02


@pytest.mark.parametrize("share", [0.05, 0.3, 0.6, 0.9])
def test_a_search_counts_on_the_speed_that_a_motor_has_under_the_load(searcher: Searcher, share: float):
    """Close to the slip line between no load and the plate, and to what each drive found runs at: in a narrow band too,
    which the speed of the plate would miss by most of its slip.
    """
    (machine,) = (one for one in demo_machines() if one.name.startswith("Windrow"))
    drive = drive_of(machine.plans[0].source)
    power = 0.9 * share * drive.power_kw
    need = {"speed_ideal_rpm": 136.0, "speed_min_rpm": 134.0, "speed_max_rpm": 138.0}
    need["running_torque_nm"] = torque_nm(power, 136.0)
    raw = machine.model_dump(mode="json") | {"need": need}
    light = Machine.model_validate(raw, context=LOOKED_UP)
    straight = 1500.0 - (1500.0 - drive.speed_rpm) * share
    assert speed_under(light.need, drive) == pytest.approx(straight, rel=0.004)
    assert speed_under(Need(), drive) == drive.speed_rpm
    assert speed_under(light.need.model_copy(update={"running_torque_nm": 1e6}), drive) == drive.speed_rpm
    found = searcher.ways(light, light.plans[0], replace(QUICK, rank_by="noise"))
    assert found.ways
    for way in found.ways:
        speed = way.result.chosen.last_shaft.speed_rpm
        assert 134.0 <= speed <= 138.0
        assert way.train.speed_rpm == pytest.approx(speed, rel=0.012)


@pytest.mark.long
@pytest.mark.parametrize("shown", ["kinds", "trains"])
def test_within_a_price_that_little_can_keep_the_answer_is_whole_or_the_cheapest(searcher, monkeypatch, shown: str):
    """No bound knows of a limit of price: little work proves that nothing is as cheap, or finds the cheapest."""
    monkeypatch.setattr("pulltide.core.search.ways.WORK", 2_000_000)
    (machine,) = (one for one in demo_machines() if one.name.startswith("Windrow"))
    need = {"speed_ideal_rpm": 7.18, "speed_min_rpm": 6.07, "speed_max_rpm": 7.93, "running_torque_nm": 358.0}
    slow = Machine.model_validate(machine.model_dump(mode="json") | {"need": need}, context=LOOKED_UP)
    wish = Wish(max_stages=3, rank_by="margin", shown=shown)
    nothing = searcher.ways(slow, slow.plans[0], replace(wish, max_price=50.0))
    assert (nothing.ways, nothing.stopped) == ((), False)
    found = searcher.ways(slow, slow.plans[0], replace(wish, max_price=100.0))
    assert found.ways
    assert all(way.price <= 100.0 for way in found.ways)
    cheapest = searcher.ways(slow, slow.plans[0], replace(wish, rank_by="price")).ways
    assert min(way.price for way in cheapest) > 50.0


@pytest.mark.parametrize("shown", ["kinds", "trains"])
def test_where_the_best_of_a_kind_will_not_do_those_behind_them_are_tried(searcher: Searcher, monkeypatch, shown: str):
    """The twelve best of each kind have a problem as plans; the next one has none, and each kind is shown."""
    (machine,) = (one for one in demo_machines() if one.name.startswith("Windrow"))
    plan, wish = machine.plans[0], replace(QUICK, shown=shown, max_price=1000.0)
    expected = {way.train.word for way in searcher.ways(machine, plan, wish).ways}
    refused: dict[tuple[str, ...], int] = {}
    way_of = Builder._way

    def problem(builder: Builder, train: Train) -> Way | None:
        refused[train.word] = refused.get(train.word, 0) + 1
        return None if refused[train.word] <= 12 else way_of(builder, train)

    monkeypatch.setattr(Builder, "_way", problem)
    found = Searcher(RowFile(PROJECT / ".run" / "rows")).ways(machine, plan, wish)
    assert {way.train.word for way in found.ways} == expected
    assert found.refused >= 12


@pytest.mark.long
@pytest.mark.parametrize(("deeper", "finds"), [(1, False), (24, True)])
def test_where_the_best_of_every_kind_lack_steps_those_behind_them_are_tried(monkeypatch, deeper: int, finds: bool):
    """With one train of each kind looked at, none of the conveyor's has change pulleys for half the speed."""
    for name, value in (("EACH", 1), ("STEPPED_EACH", 1), ("DEEPER", deeper)):
        monkeypatch.setattr(f"pulltide.core.search.ways.{name}", value)
    machine = next(one for one in demo_machines() if "Lofthook" in one.name)
    wish = Wish(max_stages=2, speeds=(0.5 * machine.need.speed_ideal_rpm,))
    found = Searcher(RowFile(PROJECT / ".run" / "rows")).ways(machine, machine.plans[0], wish)
    assert bool(found.ways) is finds
    assert found.unstepped
