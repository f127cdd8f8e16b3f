"""Equal stages edited together, and stages put elsewhere in the line."""

from __future__ import annotations

import pytest

from builders import build_belt, build_machine
from pulltide.core.errors import InputErrors
from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.change import Change
from pulltide.services.editing import apply_change

CHAIN = {"kind": "roller_chain", "chain": "50", "driver_teeth": 17, "driven_teeth": 23, "pitches": 90}


@pytest.fixture
def line():
    return build_machine([CHAIN, build_belt(), CHAIN, CHAIN | {"driver_teeth": 19}])


def changed(machine, **what):
    return apply_change(machine, Change(**what), DEFAULT_UNITS)[0].plans[0].links


def test_a_change_goes_to_every_equal_stage_and_to_no_other(line):
    links = changed(line, sets={"plans.0.links.2.driven_teeth": "25"}, together=True)
    assert [getattr(link, "driven_teeth", None) for link in links] == [25, None, 25, 23]
    links = changed(line, replacements={"plans.0.links.0.driver_teeth": "15"}, together=True)
    assert [getattr(link, "driver_teeth", None) for link in links] == [15, None, 15, 19]
    with pytest.raises(InputErrors) as refused:
        changed(line, sets={"plans.0.links.2.driven_teeth": "4000"}, together=True)
    assert [error.path for error in refused.value.errors] == ["plans.0.links.2.driven_teeth"]


def test_without_it_a_change_goes_to_its_stage_alone(line):
    links = changed(line, sets={"plans.0.links.2.driven_teeth": "25"})
    assert [getattr(link, "driven_teeth", None) for link in links] == [23, None, 25, 23]


@pytest.mark.parametrize(
    ("index", "kind", "order"),
    [
        (0, "later", [1, 0, 2, 3]),
        (3, "earlier", [0, 1, 3, 2]),
        (0, "earlier", [0, 1, 2, 3]),
        (0, "3", [1, 2, 3, 0]),
        (3, "0", [3, 0, 1, 2]),
        (1, "99", [0, 2, 3, 1]),
    ],
)
def test_a_stage_takes_the_place_it_is_put_at_and_those_between_move_up(line, index, kind, order):
    before = line.plans[0].links
    assert changed(line, operation="move_link", index=index, kind=kind) == tuple(before[k] for k in order)
