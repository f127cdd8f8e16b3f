"""What the shop owns and what its own lists offer: kept behind a small port, and made ready for search and bill."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Any, Protocol

from pulltide.core.catalog import Item
from pulltide.core.holding import SECTIONED, Holding
from pulltide.core.shaft_bill import GRADES
from pulltide.core.stock import OWNED, PART, OwnRow, stock_rows
from pulltide.core.tables import Row, number
from pulltide.words import say

#: The list of what is owned. Every other list is of what can be bought.
SHELF = "shelf"
#: Parts in these states may be built in; a worn part, or one that nobody has looked at, is listed and not searched.
SOUND = frozenset({"new", "used_good"})
#: So many parts of a kind take part in a search: more sizes make more pairs than are worth the wait.
MAX_OWN = 300
#: What a bar of steel that nobody knows is taken for.
PLAINEST = GRADES["not_known"]
#: Which generic list a kind of part belongs to.
LIST_OF = {
    **SECTIONED,
    "spur_gear": "spur_gears",
    "coupling": "couplings",
    "bushing": "bushings",
    "bearing_block": "bearings_blocks",
    "bar": "shafting",
    "key": "keys_stock",
    "motor_base": "motor_bases",
}


@dataclass(frozen=True, slots=True)
class StockItem:
    """A part on a list, by its id."""

    id: str
    list_name: str
    holding: Holding


@dataclass(frozen=True, slots=True)
class StockPage:
    """Some of the parts that were asked for, and how many there are in all."""

    items: tuple[StockItem, ...]
    total: int


@dataclass(frozen=True, slots=True)
class Kept:
    """What became of a list that was taken in."""

    added: int
    updated: int


class Stock(Protocol):
    """Keeps parts. What changes, changes as a whole or not at all."""

    def lists(self) -> Mapping[str, int]:
        """Names of the lists with the number of parts on each."""

    def page(self, list_name: str, find: str = "", family: str = "", start: int = 0, most: int = 100) -> StockPage:
        """Parts of a list by kind and name, those whose name or note holds a text."""

    def get(self, item_id: str) -> StockItem | None:
        """One part, None where it is gone."""

    def put(self, list_name: str, holdings: Sequence[Holding], *, afresh: bool = False) -> Kept:
        """Add parts to a list; one of the same kind, name and condition is replaced. ``afresh``: all others go."""

    def change(self, item_id: str, holding: Holding) -> None:
        """Change one part."""

    def remove(self, item_id: str) -> Holding | None:
        """Take one part off; what it was, None where it was gone."""

    def clear(self, list_name: str) -> int:
        """Take all parts off a list; how many there were."""

    def mark(self) -> int:
        """A number that is another after every change."""

    def everything(self) -> Sequence[StockItem]:
        """Every part that may take part in a search."""


def own_items(items: Iterable[StockItem]) -> tuple[Item, ...]:
    """Parts of the shop's own as items of a catalog, for search and bill: the shelf's sound ones, and priced ones of a
    listed size.
    """
    shelf: list[Item] = []
    priced: dict[tuple[str, str], Item] = {}
    owned: Counter[str] = Counter()
    for item in items:
        name, is_shelf = LIST_OF.get(item.holding.family, ""), item.list_name == SHELF
        cells = _on_shelf(name, item.holding) if is_shelf else _priced(name, item.holding)
        if cells is None:
            continue
        made = Item(PART + name, item.id, OwnRow(cells=tuple(cells.items())), "shelf" if is_shelf else "own_list")
        if not is_shelf:
            # of one size on several lists the cheapest counts
            size = name, cells["designation"]
            priced[size] = min(priced.get(size, made), made, key=_price)
        elif owned[name] < MAX_OWN:
            owned[name] += 1
            shelf.append(made)
    return (*shelf, *priced.values())


def _price(item: Item) -> float:
    cells = dict(item.data.cells) if isinstance(item.data, OwnRow) else {}
    return float(cells.get("price", "inf"))


def _on_shelf(name: str, holding: Holding) -> Row | None:
    """An owned part at no price; nothing where it may not be built in or its sizes do not say enough."""
    row = _row(name, holding) if name and _may_be_built_in(holding) else None
    if row is None:
        return None
    # a belt is built in by the name of its length
    called = row["designation"] if holding.family == "v_belt" else holding.designation
    more = {OWNED: "yes", "on_hand": str(holding.on_hand), "designation": called, "bushing": "na"}
    length = {} if holding.length_mm is None else {"length_mm": f"{holding.length_mm:g}"}
    return row | more | length | {"price": "0.0", "price_per_m": "0.0"}


def _may_be_built_in(holding: Holding) -> bool:
    known = holding.family != "chain" or holding.length_mm is not None
    return holding.condition in SOUND and holding.on_hand > 0 and known


def _priced(name: str, holding: Holding) -> Row | None:
    """A generic size at the price of the shop's list; nothing where it has no price or the size is none of them."""
    row = _known(name, holding) if name and holding.price is not None else None
    if row is None:
        return None
    return dict(row) | ({"price": f"{holding.price:g}"} if "price" in row else {})


def _row(name: str, holding: Holding) -> Row | None:
    """The cells of a generic list for a part: of the listed part it is by name or size, or its own where that does."""
    known = _known(name, holding)
    if known is not None:
        return dict(known)
    maker = MAKERS.get(holding.family)
    return None if maker is None else maker(holding)


def _known(name: str, holding: Holding) -> Row | None:
    """The listed part that a part is, by its name or by its size."""
    return _by_name(name).get(holding.designation) or _alike(name, holding)


@cache
def _by_name(name: str) -> dict[str, Row]:
    rows = stock_rows(name)[::-1]
    # bushings are sold by their size too
    return {row[column]: row for column in ("size", "designation") for row in rows if column in row}


#: Cells by which a listed part is the same size: columns and fields, names exactly and lengths within a little.
ALIKE: dict[str, tuple[tuple[tuple[str, str], ...], tuple[tuple[str, str], ...]]] = {
    "v_pulley": ((("section", "section"), ("grooves", "grooves")), (("outside_mm", "outside_or_from_pitch_mm"),)),
    "v_belt": ((("section", "section"),), (("pitch_length_mm", "length_mm"),)),
    "toothed_pulley": ((("profile", "section"), ("teeth", "teeth")), (("belt_width_mm", "width_mm"),)),
    "toothed_belt": ((("profile", "section"), ("teeth", "teeth")), (("width_mm", "width_mm"),)),
    "sprocket": ((("chain", "section"), ("teeth", "teeth")), ()),
    "chain": ((("chain", "section"),), ()),
    "bushing": ((("size", "section"),), (("bore_mm", "bore_mm"),)),
}
WITHIN_MM = {"v_belt": 3.0}


def _alike(name: str, holding: Holding) -> Row | None:
    if holding.family not in ALIKE:
        return None
    names, sizes = ALIKE[holding.family]
    wanted = {column: getattr(holding, field) for column, field in names}
    lengths = {column: getattr(holding, field) for column, field in sizes}
    if None in (*wanted.values(), *lengths.values()):
        return None
    within = WITHIN_MM.get(holding.family, 0.3)
    cells = ((column, str(cell)) for column, cell in wanted.items())
    return _of_size(name, tuple(cells), tuple(lengths.items()), within)


@lru_cache(maxsize=10_000)
def _of_size(
    name: str, cells: tuple[tuple[str, str], ...], lengths: tuple[tuple[str, float], ...], within: float
) -> Row | None:
    fits = (row for row in stock_rows(name) if _is_plain(row) and _fits(row, dict(cells), dict(lengths), within))
    return next(fits, None)


def _is_plain(row: Row) -> bool:
    """One strand, bored or with a hub, no bushing."""
    return row.get("strands", "1") == "1" and row.get("bushing", "na") == "na" and row.get("kind") != "plate"


def _fits(row: Row, cells: Mapping[str, str], lengths: Mapping[str, float], within: float) -> bool:
    same = cells.items() <= row.items()
    return same and all(abs(number(row, column) - value) <= within for column, value in lengths.items())


def _v_pulley(holding: Holding) -> Row | None:
    """A pulley of a size that no list has: its groove is that of its section."""
    outside = holding.outside_or_from_pitch_mm
    like = next((row for row in stock_rows("v_pulleys") if row["section"] == holding.section), None)
    if outside is None or like is None or holding.grooves is None:
        return None
    less = number(like, "outside_mm") - number(like, "pitch_mm")
    pitch = holding.pitch_mm if holding.pitch_mm is not None else outside - less
    sizes = {"outside_mm": f"{outside:g}", "pitch_mm": f"{pitch:g}", "grooves": str(holding.grooves), "mass_kg": "na"}
    return {**like, "designation": holding.designation, **sizes}


def _block(holding: Holding) -> Row | None:
    """A pillow block by its bore."""
    blocks = (row for row in stock_rows("bearings_blocks") if row["kind"] == "pillow block")
    return _sized(holding, blocks, {"bore_mm": holding.bore_mm}, {})


def _bar(holding: Holding) -> Row | None:
    """A length of bar, to be cut; its steel is not known, so that it counts as the plainest."""
    bars = (row for row in stock_rows("shafting") if row["grade"] == PLAINEST)
    return _sized(holding, bars, {"diameter_mm": holding.outside_mm}, {"length_mm": holding.length_mm})


def _key(holding: Holding) -> Row | None:
    """A key, or a length of key steel to cut one from."""
    keys = (row | {"form": say("ends square")} for row in stock_rows("keys_stock"))
    return _sized(holding, keys, {"width_mm": holding.width_mm}, {"length_mm": holding.length_mm})


def _sized(
    holding: Holding, rows: Iterable[Row], same: Mapping[str, float | None], own: Mapping[str, float | None]
) -> Row | None:
    """The first row of the same sizes, with the part's name and its own other sizes; None where one is not known."""
    if None in (*same.values(), *own.values()):
        return None
    sizes = {column: size for column, size in same.items() if size is not None}
    like = next((row for row in rows if _fits(row, {}, sizes, 0.05)), None)
    own_sizes = {column: f"{size:g}" for column, size in own.items()}
    return None if like is None else {**like, **own_sizes, "designation": holding.designation, "mass_kg": "na"}


MAKERS = {"v_pulley": _v_pulley, "bearing_block": _block, "bar": _bar, "key": _key}


def used_designations(pieces: Iterable[Any]) -> Iterator[str]:
    """Names of the owned parts among pieces, each as often as it is needed."""
    for piece in pieces:
        if piece.owned and piece.designation:
            yield from [piece.designation] * piece.count
