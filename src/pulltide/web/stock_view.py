"""The page "Shelf and stock": the parts of a list, what each is, and which plans count on it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any, get_args
from urllib.parse import urlencode

from pulltide.core.catalog import Catalog
from pulltide.core.holding import Holding, PartFamily
from pulltide.core.shaft_bill import whole_bill
from pulltide.quantities import Units, show, show_for_edit
from pulltide.services.machines import StoredMachine, UnreadableMachine
from pulltide.services.stock import SHELF, StockItem, StockPage, used_designations
from pulltide.words import choice, say, worded

#: Parts on one page.
MAX_ON_PAGE = 100
#: Measures of a part, in the order they are told: field, unit, and how it is said.
TOLD = (
    ("section", "", "{size}"),
    ("outside_mm", "mm", "{size} outside"),
    ("pitch_mm", "mm", "{size} pitch"),
    ("teeth", "", "{size} t"),
    ("grooves", "", "{size} grooves"),
    ("ratio", "", "{size} : 1"),
    ("power_kw", "kW", "{size}"),
    ("speed_rpm", "rpm", "{size}"),
    ("width_mm", "mm", "{size} wide"),
    ("length_mm", "mm", "{size} long"),
    ("bore_mm", "mm", "bore {size}"),
)
#: Kinds of part whose rating matters, so that one which nobody knows is said.
RATED = frozenset({"motor", "reducer", "coupling"})


@dataclass(frozen=True, slots=True, kw_only=True)
class StockRow:
    """One part in words."""

    id: str
    kind: str
    name: str
    sizes: str
    rating: str
    on_hand: int
    condition: str
    worn: bool
    price: str
    place: str
    note: str
    claims: str
    short: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class StockView:
    """One page of a list."""

    list_name: str
    title: str
    is_shelf: bool
    rows: tuple[StockRow, ...]
    total: int
    counted: str
    lists: tuple[tuple[str, str, int, bool], ...]
    kinds: tuple[tuple[str, str, bool], ...]
    find: str
    family: str
    earlier: str
    later: str


def title_of(list_name: str) -> str:
    """What a list is called on the page."""
    return say("Shelf") if list_name == SHELF else list_name


def address(list_name: str, **more: object) -> str:
    """Where a list is shown."""
    said = {"list": list_name, **{name: value for name, value in more.items() if value}}
    return f"/stock?{urlencode(said)}"


def spoken(family: str) -> str:
    """A kind of part at the start of a line.

    >>> spoken("v_pulley"), spoken("bar")
    ('V-pulley', 'Bar')
    """
    words = choice(family)
    return words[:1].upper() + words[1:]


Claims = Mapping[str, tuple[tuple[str, int], ...]]


def claims_of(floor: Iterable[StoredMachine | UnreadableMachine], catalog: Catalog) -> Claims:
    """Which machines' picked plans count on a part of the shelf, and on how many of it."""
    found: dict[str, list[tuple[str, int]]] = {}
    for stored in floor:
        if not isinstance(stored, StoredMachine):
            continue
        names = list(used_designations(whole_bill(stored.machine.plans[0], catalog)))
        for name in dict.fromkeys(names):
            found.setdefault(name, []).append((stored.machine.name, names.count(name)))
    return {name: tuple(claims) for name, claims in found.items()}


def stock_view(
    page: StockPage, asked: Mapping[str, str], start: int, lists: Mapping[str, int], claims: Claims, units: Units
) -> StockView:
    """A page of a list; ``asked`` are the list, the text looked for and the kind of part."""
    list_name, find, family = asked["list"], asked["find"], asked["family"]
    rows = tuple(_row(item, claims if list_name == SHELF else {}, units) for item in page.items)
    names = {SHELF: 0, **lists}
    shown = (
        say("{start} to {rows} of {total}", start=start + 1, rows=start + len(rows), total=page.total)
        if page.total > len(rows)
        else str(page.total)
    )

    def turned(to: int) -> str:
        return address(list_name, find=find, family=family, start=max(to, 0))

    return StockView(
        list_name=list_name,
        title=title_of(list_name),
        is_shelf=list_name == SHELF,
        rows=rows,
        total=page.total,
        counted=say("{shown} part{total}", shown=shown, total="" if page.total == 1 else "s"),
        lists=tuple((title_of(name), address(name), count, name == list_name) for name, count in names.items()),
        kinds=tuple((kind, spoken(kind), kind == family) for kind in kinds()),
        find=find,
        family=family,
        earlier=turned(start - MAX_ON_PAGE) if start > 0 else "",
        later=turned(start + MAX_ON_PAGE) if start + len(rows) < page.total else "",
    )


def kinds() -> tuple[str, ...]:
    """Every kind of part."""
    return get_args(PartFamily)


def _row(item: StockItem, claims: Claims, units: Units) -> StockRow:
    holding = item.holding
    wanted = claims.get(holding.designation, ())
    count = sum(number for _, number in wanted)
    return StockRow(
        id=item.id,
        kind=spoken(holding.family),
        name=holding.designation,
        sizes=", ".join(_sizes(holding, units)),
        rating=_rating(holding, units),
        on_hand=holding.on_hand,
        condition=choice(holding.condition),
        worn=holding.condition == "used_worn",
        price="" if holding.price is None else f"{holding.price:g}",
        place=holding.place or "",
        note=holding.note or "",
        claims=", ".join(f"{name} ({number})" if number > 1 else name for name, number in wanted),
        short=count > holding.on_hand,
    )


def _sizes(holding: Holding, units: Units) -> Iterable[str]:
    for field, unit, words in TOLD:
        value = getattr(holding, field)
        if value is None:
            continue
        text = str(show(value, unit, units)) if unit else str(f"{value:g}" if isinstance(value, float) else value)
        yield say("1 groove") if field == "grooves" and value == 1 else say(words, size=text)


def _rating(holding: Holding, units: Units) -> str:
    if holding.rating is None:
        return say("not known") if holding.family in RATED else ""
    if holding.rating == holding.power_kw:
        return ""
    unit = (holding.rating_unit or "").replace("·", "*")
    if unit in ("kW", "N*m"):
        return str(show(holding.rating, unit, units))
    return f"{holding.rating:g} {holding.rating_unit or ''}".strip()


@dataclass(frozen=True, slots=True)
class PartField:
    """One input of the form of a part."""

    name: str
    label: str
    text: str
    options: tuple[tuple[str, str, bool], ...] = ()
    hint: str = ""


@dataclass(frozen=True, slots=True)
class GuessLine:
    """One thing that a measured wheel may be."""

    name: str
    pitch: str
    off: str
    address: str


#: Fields of the form, in its order.
FORM = (
    "family",
    "designation",
    "section",
    "outside_mm",
    "pitch_mm",
    "teeth",
    "grooves",
    "width_mm",
    "length_mm",
    "bore_mm",
    "ratio",
    "power_kw",
    "speed_rpm",
    "rating",
    "rating_unit",
    "on_hand",
    "condition",
    "price",
    "place",
    "note",
)
UNITS = {"outside_mm": "mm", "pitch_mm": "mm", "width_mm": "mm", "length_mm": "mm", "bore_mm": "mm"} | {
    "power_kw": "kW",
    "speed_rpm": "rpm",
}
HINTS = {"section": "A, SPZ, 5M, 40, M2…", "place": "bin 4, rack…", "rating": "empty: not known"}


def part_form(raw: Mapping[str, Any], units: Units) -> tuple[PartField, ...]:
    """The form of a part: its values, or what was typed."""
    return tuple(_field(name, raw, units) for name in FORM)


def _field(name: str, raw: Mapping[str, Any], units: Units) -> PartField:
    label, value = worded(Holding.model_fields[name].title or name), raw.get(name)
    if name == "family":
        return PartField(name, label, "", tuple((kind, spoken(kind), kind == value) for kind in kinds()))
    if name == "condition":
        states = ("new", "used_good", "used_worn", "unknown")
        return PartField(
            name, label, "", tuple((state, choice(state), state == (value or "unknown")) for state in states)
        )
    return PartField(name, label, _typed(value, UNITS.get(name, ""), units), hint=say(HINTS.get(name, "")))


def _typed(value: object, unit: str, units: Units) -> str:
    """A value as a person types it."""
    if isinstance(value, int | float) and unit:
        return show_for_edit(float(value), unit, units)
    if value is None:
        return ""
    return f"{value:g}" if isinstance(value, float) else str(value)
