"""All that the program goes by, in chapters: formulas, tables and checks, out of the data it computes with."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

from pulltide.core import catalog_checks, ladder, line_rules
from pulltide.core.duty import Duty
from pulltide.core.duty_advice import RULES as DUTY_RULES
from pulltide.core.ends import END_RULES
from pulltide.core.family import Family, Method
from pulltide.core.findings import Rule
from pulltide.core.fit.checks import RULES as FIT_RULES
from pulltide.core.fit.methods import METHODS as FIT_METHODS
from pulltide.core.links import FAMILIES
from pulltide.core.made.checks import RULES as MADE_RULES
from pulltide.core.methods import METHODS
from pulltide.core.model import CoreModel
from pulltide.core.needs import NEED_KINDS
from pulltide.core.run_up.checks import RULES as RUN_RULES
from pulltide.core.shipped import shipped_catalog
from pulltide.core.sources import SOURCE_RULES
from pulltide.core.tables import Table, tables_of
from pulltide.core.transmission import Flow, Sizing
from pulltide.core.units import power_kw, torque_nm
from pulltide.core.working import Step

#: A plain load under which each family shows its formulas: what 2 N·m at 1440 rpm give behind it.
SPEED_RPM, TORQUE_NM = 1440.0, 2.0


@dataclass(frozen=True, slots=True)
class Chapter:
    """One subject: its formulas, tables, checks, and the formulas of it that can be called by name."""

    key: str
    title: str
    steps: tuple[Step, ...]
    tables: tuple[Table, ...]
    rules: tuple[Rule, ...]
    methods: tuple[Method, ...]


#: Checks of the line as a whole, of what gives first, and of the lists.
LINE_RULES = (*line_rules.RULES, *ladder.RULES, *catalog_checks.RULES)


def _formulas(family: Family) -> Iterator[Step]:
    """Every formula behind the figures of a family's plainest link and its samples, each once."""
    seen = set()
    for link in (family.starter(shipped_catalog()), *family.samples):
        for step in _steps(family, link):
            if (step.symbol, step.formula) not in seen:
                seen.add((step.symbol, step.formula))
                yield step


def _steps(family: Family, link: CoreModel) -> Iterator[Step]:
    transmission = family.prepare(link, 1)
    power = power_kw(TORQUE_NM, SPEED_RPM)
    carried = transmission.transmit(SPEED_RPM, power)
    torques = torque_nm(carried.power_in_kw, SPEED_RPM), torque_nm(power, carried.driven_speed_rpm)
    flow = Flow(
        driver_speed_rpm=SPEED_RPM,
        driven_speed_rpm=carried.driven_speed_rpm,
        driver_torque_nm=torques[0],
        driven_torque_nm=torques[1],
        driver_peak_torque_nm=torques[0],
        driven_peak_torque_nm=torques[1],
        driver_nameplate_torque_nm=torques[0],
        power_in_kw=carried.power_in_kw,
        power_out_kw=power,
    )
    result = transmission.rate(flow, Sizing(Duty()), "link-1")
    for make in family.workings(result).values():
        yield from make().steps


def _link_chapter(family: Family) -> Chapter:
    tables = tables_of(family.model.__module__.rpartition(".")[0])
    return Chapter(family.kind, family.title, tuple(_formulas(family)), tables, family.rules, family.methods)


@cache
def chapters() -> tuple[Chapter, ...]:
    """Every chapter, links first."""
    links = tuple(_link_chapter(family) for family in FAMILIES)
    taken = {method.name for chapter in links for method in chapter.methods}
    rest = tuple(method for method in METHODS.values() if method.name not in taken)
    asked = tuple(method for method in rest if method.name.startswith("need"))
    ends = tuple(method for method in rest if method.name.startswith("end_"))
    need_rules = tuple(dict.fromkeys(rule for kind in NEED_KINDS for rule in kind.rules))
    line_tables = tables_of("pulltide.core")
    return (
        *links,
        Chapter("spur", "Teeth of spur gears, wherever they run", (), tables_of("pulltide.core.spur"), (), ()),
        Chapter(
            "line",
            "The line and what fails first",
            (),
            line_tables,
            (*line_rules.RULES, *ladder.RULES, *catalog_checks.RULES),
            (),
        ),
        Chapter("fit", "Shafts and their bearings", (), tables_of("pulltide.core.fit"), FIT_RULES, FIT_METHODS),
        Chapter("made", "Wheels made in the shop", (), tables_of("pulltide.core.made"), MADE_RULES, ()),
        Chapter("run", "The line in time", (), (), RUN_RULES, ()),
        Chapter("log", "Readings and upkeep", (), tables_of("pulltide.core.run_log"), (), ()),
        Chapter("need", "Need", (), tables_of("pulltide.core.needs"), need_rules, asked),
        Chapter("end", "Simple machines at either end", (), (), END_RULES, ends),
        Chapter("duty", "Duty", (), (), DUTY_RULES, ()),
        Chapter(
            "source",
            "Source",
            (),
            tables_of("pulltide.core.sources"),
            SOURCE_RULES,
            tuple(method for method in rest if method not in (*asked, *ends, *FIT_METHODS)),
        ),
    )
