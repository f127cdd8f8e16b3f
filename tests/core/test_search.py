"""The search against trying every train one by one, and what must hold of it for whatever stock it is given."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import product
from math import log

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from draws import draws
from pulltide.core.search.bounds import Group, Reach
from pulltide.core.search.engine import Asked, Train, order, words
from pulltide.core.search.field import FAR, ROWS
from pulltide.core.search.kinds import find_kinds
from pulltide.core.search.rows import GRID_RPM
from pulltide.core.search.tables import UNIT, Motors, Stock, Weights, penalty
from pulltide.core.search.top import find_trains
from pulltide.core.search.wish import RANKINGS

KINDS = {"belt": (1, 2), "reducer": (2, 1), "chain": (3, 2)}
ENOUGH = 5


def stock(kind: str, rows: int, chance: np.random.Generator) -> Stock:
    """Made-up stages: the larger, the dearer; capacity falls with speed, and some have no overhung rating."""
    rank, most = KINDS[kind]
    ratio = chance.uniform(5, 40, rows) if kind == "reducer" else chance.uniform(0.6, 5, rows)
    size = chance.uniform(0.2, 3, rows)
    fall = np.outer(chance.uniform(0, 0.4, rows), np.log(GRID_RPM / 100))
    unlimited = np.full(rows, np.inf)

    def rating(low: float, high: float) -> np.ndarray:
        limited = np.where(chance.random(rows) < 0.5, chance.uniform(low, high, rows), np.inf)
        return np.outer(limited, (GRID_RPM / 1000) ** -0.2)

    return Stock(
        kind=kind,
        rank=rank,
        most=most,
        id=np.arange(rows),
        ln_ratio=np.log(ratio),
        ln_capacity=np.log(20 * size)[:, None] - fall,
        ln_efficiency=np.log(chance.uniform(0.7, 0.98, (rows, len(GRID_RPM)))),
        ln_max=np.log(chance.choice([1000.0, 2500.0, np.inf], rows)),
        pull_in=chance.uniform(5, 40, rows),
        pull_out=chance.uniform(5, 40, rows),
        rating_in=rating(100, 3000),
        rating_out=rating(500, 9000),
        bore_in=chance.uniform(15, 60, rows),
        bore_out=chance.uniform(15, 60, rows),
        shaft_in=chance.choice([0.0, 19.0, 24.0], rows),
        shaft_out=chance.choice([0.0, 24.0, 30.0], rows),
        outside_mm=unlimited if kind != "belt" else chance.uniform(50, 200, rows),
        turn=chance.choice([1, -1], rows),
        price=np.round(10 * size + chance.uniform(0, 5, rows), 1),
        parts=chance.integers(1, 4, rows),
        noise=int(chance.integers(0, 3)),
    )


def motors(chance: np.random.Generator, count: int = 3) -> Motors:
    power = chance.uniform(0.5, 3, count)
    speed = chance.choice([950.0, 1430.0, 2850.0], count)
    return Motors(
        id=np.arange(count),
        ln_speed=np.log(speed),
        ln_torque=np.log(9549.3 * power / speed),
        price=np.round(60 * power, 1),
        parts=np.ones(count, dtype=np.int64),
        shaft_mm=chance.choice([0.0, 19.0, 28.0], count),
        min_mm=chance.choice([0.0, 70.0], count),
    )


def at(column: np.ndarray, rpm: float) -> float:
    """Value of one row at a speed, by numpy's own interpolation on logarithmic speed."""
    return float(np.interp(log(rpm), np.log(GRID_RPM), column))


def rated(column: np.ndarray, rpm: float) -> float:
    """An overhung rating at a speed; infinite where there is none."""
    return math.exp(at(np.log(column), rpm)) if np.isfinite(column).all() else math.inf


def carried(
    train: list[tuple[Stock, int]], speeds: list[float], torque: float
) -> tuple[bool, list[float], float, float]:
    """Whether every shaft and speed will do, the use of every stage, of the shafts, and the torque at the motor."""
    shafts, uses, fits = 0.0, list[float](), True
    for place in range(len(train) - 1, -1, -1):
        s, row = train[place]
        if place < len(train) - 1:
            after, a = train[place + 1]
            shafts = max(shafts, torque * after.pull_in[a] / rated(s.rating_out[row], speeds[place]))
            shafts = max(shafts, torque * s.pull_out[row] / rated(after.rating_in[a], speeds[place + 1]))
            fits &= after.bore_in[a] >= s.shaft_out[row] and s.bore_out[row] >= after.shaft_in[a]
        torque /= float(np.exp(s.ln_ratio[row] + at(s.ln_efficiency[row], speeds[place])))
        capacity = np.minimum.accumulate(s.ln_capacity[row])
        uses.append(torque / float(np.exp(at(capacity, speeds[place]))))
        fits &= speeds[place] <= float(np.exp(s.ln_max[row])) * (1 + 1e-9)
    return fits, uses, shafts, torque


def judged(
    sources: Motors, m: int, word: tuple[str, ...], train: list[tuple[Stock, int]], asked: Asked
) -> Train | None:
    """One train, or None where it does not fit."""
    speeds = [float(np.exp(sources.ln_speed[m]))]
    for s, row in train:
        speeds.append(speeds[-1] / float(np.exp(s.ln_ratio[row])))
    fits, uses, shafts, torque = carried(train, speeds, asked.torque_nm)
    uses.append(torque / float(np.exp(sources.ln_torque[m])))
    use = max(*uses, shafts)
    first, f = train[0]
    fits &= first.bore_in[f] >= sources.shaft_mm[m] and first.outside_mm[f] >= sources.min_mm[m]
    fits &= asked.low_rpm * (1 - 1e-9) <= speeds[-1] <= asked.high_rpm * (1 + 1e-9)
    price = float(sources.price[m]) + sum(float(s.price[row]) for s, row in train)
    turn = int(np.prod([s.turn[row] for s, row in train]))
    wrong = (asked.turn and turn != asked.turn) or (asked.max_price is not None and price > asked.max_price + 1e-9)
    if not fits or use > 1 + 1e-9 or wrong:
        return None
    w = asked.weights
    score = round(UNIT * (w.price * sources.price[m] + w.part * sources.parts[m]))
    for s, row in train:
        loss = -min(float(s.ln_efficiency[row, 5]), 0.0)
        score += round(UNIT * (w.price * s.price[row] + w.part * s.parts[row] + w.noise * s.noise + w.loss * loss))
    error = abs(log(speeds[-1] / asked.ideal_rpm))
    score += round(UNIT * w.error * error)
    score += sum(int(UNIT * w.use * max(log(max(one, 1e-12) / 0.6), 0.0)) for one in uses)
    parts = int(sources.parts[m]) + sum(int(s.parts[row]) for s, row in train)
    return Train(word, score, m, tuple(row for _, row in train), speeds[-1], use, price, parts)


def one_by_one(sources: Motors, stocks: dict[str, Stock], asked: Asked) -> list[Train]:
    """Every train of every order, each tested by plain arithmetic."""
    found = []
    for word in words(stocks.values(), asked):
        for picked in product(*(range(len(stocks[kind])) for kind in word)):
            train = [(stocks[kind], row) for kind, row in zip(word, picked, strict=True)]
            every = (judged(sources, m, word, train, asked) for m in range(len(sources.id)))
            found += [one for one in every if one is not None]
    return sorted(found, key=order)


def searched(sources: Motors, stocks: dict[str, Stock], asked: Asked, kinds: int = 99) -> dict[tuple[str, ...], list]:
    groups = {kind: Group(one, asked.weights) for kind, one in stocks.items()}
    found, stopped, _ = find_kinds(Reach(sources, groups, asked.weights), asked, (kinds, ENOUGH))
    assert not stopped
    return {kind.word: list(kind.trains) for kind in found}


def smaller(
    sources: Motors, stocks: dict[str, Stock], asked: Asked, times: float
) -> tuple[Motors, dict[str, Stock], Asked]:
    """All torques and ratings so many times as large."""
    made = {
        kind: replace(
            one,
            ln_capacity=one.ln_capacity + log(times),
            rating_in=one.rating_in * times,
            rating_out=one.rating_out * times,
        )
        for kind, one in stocks.items()
    }
    sources = replace(sources, ln_torque=sources.ln_torque + log(times))
    return sources, made, replace(asked, torque_nm=asked.torque_nm * times)


needs = st.builds(
    lambda low, span, torque, stages, turn, price, weights: Asked(
        low_rpm=low,
        ideal_rpm=low * (1 + span / 3),
        high_rpm=low * (1 + span),
        torque_nm=torque,
        max_stages=stages,
        turn=turn,
        max_price=price,
        weights=weights,
    ),
    st.floats(8, 900),
    st.floats(0.02, 0.6),
    st.floats(2, 400),
    st.integers(1, 3),
    st.sampled_from([0, 0, 1, -1]),
    st.sampled_from([None, None, 120.0, 200.0]),
    st.sampled_from([Weights(noise=40.0), *RANKINGS.values()]),
)


@settings(max_examples=draws(60), deadline=None)
@given(seed=st.integers(0, 10**6), asked=needs, size=st.sampled_from([1.0, 1.0, 1e-4]))
def test_the_best_of_every_kind_are_those_found_one_by_one(seed: int, asked: Asked, size: float):
    """Rows and not only scores, in the same order; where none fits, none is found; for tiny things too."""
    chance = np.random.default_rng(seed)
    stocks = {kind: stock(kind, rows, chance) for kind, rows in (("belt", 9), ("reducer", 6), ("chain", 8))}
    sources, stocks, asked = smaller(motors(chance), stocks, asked, size)
    every, found = one_by_one(sources, stocks, asked), searched(sources, stocks, asked)
    assert set(found) == {train.word for train in every}
    for word, trains in found.items():
        best = [train for train in every if train.word == word]
        # a kind is complete up to the ceiling under which it was found, and that holds its best
        assert [t.stages for t in trains] == [t.stages for t in best[: len(trains)]]
        assert [t.motor for t in trains] == [t.motor for t in best[: len(trains)]]
        for mine, theirs in zip(trains, best, strict=False):
            assert mine.score == pytest.approx(theirs.score, abs=len(mine.stages) + 3)
            assert mine.use == pytest.approx(theirs.use, rel=1e-9)
            assert mine.speed_rpm == pytest.approx(theirs.speed_rpm, rel=1e-9)
            assert (mine.price, mine.parts) == (pytest.approx(theirs.price), theirs.parts)


#: The few motors that are tried first find one kind, a dear one; behind the others there are two better ones.
ONE_BEHIND_THE_FIRST = Asked(
    low_rpm=358.0,
    ideal_rpm=1253 / 3,
    high_rpm=537.0,
    torque_nm=2.0,
    turn=1,
    weights=Weights(price=0.1, part=40.0, loss=5.0, error=10.0, use=5.0),
)


@example(seed=3795, asked=ONE_BEHIND_THE_FIRST)
@settings(max_examples=draws(25), deadline=None)
@given(seed=st.integers(0, 10**6), asked=needs)
def test_the_best_kinds_are_found_behind_any_of_many_motors(seed: int, asked: Asked):
    """More motors than are tried first, two stages; the kinds are the best ones, and each holds its best trains."""
    chance = np.random.default_rng(seed)
    stocks = {kind: stock(kind, rows, chance) for kind, rows in (("belt", 9), ("reducer", 6), ("chain", 8))}
    sources, asked = motors(chance, 12), replace(asked, max_stages=2)
    every, found = one_by_one(sources, stocks, asked), searched(sources, stocks, asked, kinds=2)
    best = list(dict.fromkeys(train.word for train in every))[:2]
    assert sorted(found) == sorted(best)
    for word, trains in found.items():
        alike = [train for train in every if train.word == word]
        assert [(t.motor, t.stages) for t in trains] == [(t.motor, t.stages) for t in alike[: len(trains)]]


@settings(max_examples=draws(40), deadline=None)
@given(seed=st.integers(0, 10**6), asked=needs, enough=st.sampled_from([1, 5, 20]), count=st.sampled_from([3, 12]))
def test_the_best_of_all_are_the_first_of_those_found_one_by_one(seed: int, asked: Asked, enough: int, count: int):
    """Whatever their kind; all of them where there are fewer."""
    chance = np.random.default_rng(seed)
    stocks = {kind: stock(kind, rows, chance) for kind, rows in (("belt", 9), ("reducer", 6), ("chain", 8))}
    sources, asked = motors(chance, count), replace(asked, max_stages=min(asked.max_stages, 2 if count > 3 else 3))
    groups = {kind: Group(one, asked.weights) for kind, one in stocks.items()}
    found, stopped, _ = find_trains(Reach(sources, groups, asked.weights), asked, enough)
    best = one_by_one(sources, stocks, asked)[:enough]
    assert not stopped
    assert [(t.word, t.motor, t.stages) for t in found] == [(t.word, t.motor, t.stages) for t in best]


@settings(max_examples=draws(25), deadline=None)
@given(seed=st.integers(0, 10**6), asked=needs)
def test_more_stock_never_worsens_and_tighter_limits_never_better_the_best(seed: int, asked: Asked):
    chance = np.random.default_rng(seed)
    stocks = {kind: stock(kind, 12, chance) for kind in KINDS}
    sources = motors(chance)

    def best(stocks: dict[str, Stock], asked: Asked) -> float:
        found = searched(sources, stocks, asked, kinds=1)
        return min((trains[0].score for trains in found.values()), default=float("inf"))

    now = best(stocks, asked)
    fewer = {kind: one.taken(np.arange(0, 12, 2)) for kind, one in stocks.items()}
    assert best(fewer, asked) >= now
    assert best(stocks, replace(asked, torque_nm=1.3 * asked.torque_nm)) >= now
    assert best(stocks, replace(asked, max_price=0.8 * (asked.max_price or 300.0))) >= now
    assert best(stocks, replace(asked, max_stages=max(asked.max_stages - 1, 1))) >= now


@settings(max_examples=draws(15), deadline=None)
@given(seed=st.integers(0, 10**6), asked=needs)
def test_the_order_of_the_lists_does_not_matter(seed: int, asked: Asked):
    chance = np.random.default_rng(seed)
    stocks = {kind: stock(kind, 14, chance) for kind in KINDS}
    shuffled = {kind: stocks[kind].taken(chance.permutation(14)) for kind in reversed(KINDS)}
    sources = motors(chance)
    assert searched(sources, stocks, asked) == searched(sources, shuffled, asked)


@pytest.mark.parametrize("weights", RANKINGS.values(), ids=RANKINGS)
def test_what_no_motor_can_turn_is_not_found_whatever_the_list_is_ranked_by(weights: Weights):
    """Cheap stages too: what their use may save never makes up for there being no motor."""
    for seed in range(94_820, 94_830):
        chance = np.random.default_rng(seed)
        stocks = {kind: stock(kind, 12, chance) for kind in KINDS}
        asked = Asked(low_rpm=754, ideal_rpm=794, high_rpm=875, torque_nm=140, max_price=200.0, weights=weights)
        assert searched(motors(chance), stocks, asked) == {}


@pytest.mark.parametrize("weights", RANKINGS.values(), ids=RANKINGS)
def test_what_a_bound_says_of_use_is_never_more_than_any_stage_counts(weights: Weights):
    """Cheap ones too, whose use counts more than they do: their bound is not held to what use alone costs."""
    chance = np.random.default_rng(4)
    scores, stands = chance.integers(0, 20_000, 200), chance.uniform(0.0, 4.0, 200)
    scores[:40] //= 50
    levels = ROWS.stood(np.array([4.0]))[0] + 1
    for some in np.array_split(np.arange(200), 40):
        by_level = np.full((levels + ROWS.free, 1), FAR, dtype=np.int32)
        np.minimum.at(by_level[:, 0], ROWS.stood(stands[some]), scores[some].astype(np.int32))
        bounds = ROWS.loaded(by_level, weights)[:, 0]
        for need in chance.uniform(0.0, 4.0, 50):
            fits = stands[some] >= need
            exact = scores[some] + penalty(weights, need - stands[some])
            least = int(exact[fits].min(initial=FAR))
            assert bounds[int(ROWS.level_of(np.array(need)))] <= least


def test_orders_that_cannot_turn_as_asked_are_not_looked_into():
    chance = np.random.default_rng(5)
    stocks = {kind: stock(kind, 6, chance) for kind in ("belt", "chain", "reducer")}
    turns = {"belt": 1, "chain": -1}
    stocks = {k: replace(one, turn=np.full(6, turns[k])) if k in turns else one for k, one in stocks.items()}
    stocks["reducer"] = replace(stocks["reducer"], turn=np.array([1, 1, -1, 1, 1, 1]))
    asked = Asked(low_rpm=1, ideal_rpm=1, high_rpm=1, torque_nm=1, max_stages=3)
    every = words(stocks.values(), asked)
    for turn in (1, -1):
        fits = [word for word in every if "reducer" in word or (-1) ** word.count("chain") == turn]
        assert words(stocks.values(), replace(asked, turn=turn)) == fits
        assert 0 < len(fits) < len(every)


def test_two_stages_by_hand():
    """Speeds, torques, pull and use of one train worked out by hand: 1440 rpm, belt 2.01, reducer 20.2, 400 N·m."""
    chance = np.random.default_rng(1)
    flat = np.zeros((1, len(GRID_RPM)))
    belt, reducer = stock("belt", 1, chance), stock("reducer", 1, chance)
    belt = replace(belt, ln_ratio=np.log([2.01]), ln_efficiency=flat + log(0.95), ln_capacity=flat + log(100.0))
    belt = replace(belt, ln_max=np.array([np.inf]), bore_in=np.array([60.0]), bore_out=np.array([60.0]))
    belt = replace(belt, outside_mm=np.array([100.0]), pull_out=np.array([2 * 1.5 / 0.160]))
    reducer = replace(reducer, ln_ratio=np.log([20.2]), ln_efficiency=flat + log(0.90), ln_capacity=flat + log(100.0))
    reducer = replace(reducer, ln_max=np.array([np.inf]), bore_in=np.array([60.0]), rating_in=flat + 500.0)
    belt = replace(belt, rating_out=flat + np.inf)
    motor = Motors(
        id=np.arange(1),
        ln_speed=np.log([1440.0]),
        ln_torque=np.log([9549.3 * 2.2 / 1440]),
        price=np.zeros(1),
        parts=np.zeros(1, dtype=np.int64),
        shaft_mm=np.zeros(1),
        min_mm=np.zeros(1),
    )
    asked = Asked(low_rpm=34.0, ideal_rpm=35.0, high_rpm=36.0, torque_nm=400.0, max_stages=2, weights=Weights())
    (trains,) = searched(motor, {"belt": belt, "reducer": reducer}, asked).values()
    assert trains[0].word == ("belt", "reducer")
    assert trains[0].speed_rpm == pytest.approx(35.466, abs=1e-3)
    # motor 11.523 of 14.589 N·m is 0.790; the belt's pull of 412.5 N on a shaft rated 500 N is 0.825
    assert trains[0].use == pytest.approx(0.825, abs=1e-3)
