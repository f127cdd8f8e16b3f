"""What a link family must provide. A new family is one folder under ``core/links`` and one registry line.

1. ``model``: the frozen input record, with ``kind``.
2. ``step_count(link)``: how many positions it has (a stepped pulley), at least 1.
3. ``prepare(link, step)``: a :class:`~pulltide.core.transmission.Transmission`: what it does with speed and load.
4. ``variants(link, catalog)``: neighboring links of listed sizes, smallest change first.
5. ``reconcile(before, raw, catalog)``: raw data of an edited link made consistent (a belt of the right section, say).
6. ``starter(catalog)``: the link a new one begins as.
7. ``workings(result)``: for each figure key, a function that makes its working.
8. ``shipped()``: the items of its lists; ``uses(link)``: the parts that a link names, with the data it carries;
   ``stock(link, catalog)``: values on the lists, by field name, to step through and to suggest.
9. ``words(link, step)``: its title and what distinguishes it; quantities are written ``{value|unit}``.
10. ``methods``: its formulas, for ``pulltide calc`` and the API.
11. ``factors(sizing)``: what its table of service factors says, by name.
12. ``rules``: its checks.
13. ``failure_points(result)``: what wears, slips or breaks as the load rises, and at which torque.
14. ``lengths(link, catalog)``: the same stage on the next shorter and longer belts or chains, by their names.
15. ``stepped(link, ratios, catalog)``: the same stage with a further step for each ratio; left out, there are none.
16. ``bill(link, catalog)``: the pieces to get, with what the lists say of them; left out, it is one unlisted piece.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from pulltide.core.candidates import Stages
from pulltide.core.catalog import Catalog, Item, Use
from pulltide.core.findings import Check, Rule
from pulltide.core.made.wheel import MadeWheel
from pulltide.core.model import CoreModel
from pulltide.core.piece import Piece
from pulltide.core.sketch import Sketch
from pulltide.core.transmission import AnyResult, FailurePoint, ServiceFactor, Sizing, Transmission
from pulltide.core.working import Working


@dataclass(frozen=True, slots=True)
class Variant:
    """A neighboring stock choice: ``direction`` groups changes of one kind, nearest first."""

    direction: str
    label: str
    link: CoreModel


@dataclass(frozen=True, slots=True)
class LinkWords:
    """A link in a few words: its title and the chips of its card."""

    title: str
    chips: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Method:
    """One formula of the handbook, callable by name with checked inputs.

    ``results`` names key, name and unit of what it always gives; empty where its example shows them.
    """

    name: str
    title: str
    inputs: type[CoreModel]
    run: Callable[[Any], Working]
    results: tuple[tuple[str, str, str], ...] = ()


def nothing_shipped() -> Iterable[Item]:
    """A family without lists of its own."""
    return ()


def nothing_named(link: Any) -> tuple[Use, ...]:
    """A link that uses no part by its name."""
    return ()


def nothing_kept(link: Any, name: str) -> Use | None:
    """A link that is no one part that could be put on a shelf."""
    return None


def no_seeds(catalog: Catalog, ratio: float) -> Iterable[CoreModel]:
    """A family whose neighbors lead from its plain start to any ratio."""
    return ()


def no_limit(result: AnyResult, catalog: Catalog) -> Iterable[Variant]:
    """A link that cannot be made to let go first."""
    return ()


def no_limiter(torque_nm: float, catalog: Catalog) -> Iterable[Variant]:
    """A family of which nothing can be added to limit the torque."""
    return ()


def nothing_made(link: Any) -> Iterable[MadeWheel]:
    """Wheels of this family are bought."""
    return ()


def no_lengths(link: Any, catalog: Catalog) -> Iterable[tuple[str, CoreModel]]:
    """A link that nothing of a stock length runs round."""
    return ()


def no_oil(result: AnyResult, ambient_c: float) -> str:
    """A link that runs dry, or that nothing is known of."""
    return ""


def no_section(result: AnyResult) -> Sketch | None:
    """A link that needs no case of the shop's own."""
    return None


def no_slide(link: Any) -> tuple[float, float] | None:
    """A link whose shafts never move, or that nothing of a length is chosen for."""
    return None


def all_shown(link: Any) -> frozenset[str]:
    """A link whose every field means something."""
    return frozenset()


def one_step(link: Any) -> int:
    """Steps of a link that has one speed only."""
    return 1


@dataclass(frozen=True, slots=True)
class Family:
    """All that a link family provides. ``housing`` names a part that both its shafts belong to.

    ``step_count`` is needed where a link has speeds to choose from. ``samples`` are links beside the starter whose
    workings use other formulas of the family. ``jam`` is what is said when the machine is held fast and the torque left
    then would break the link, ``jam_safety`` how far it must stay below. ``fuses`` are changes by which a link lets go
    before anything breaks; ``limiter`` are links to add that do so, for a running torque at their shaft. ``explains``
    names the figure that explains a check, by the end of its code, where it is not called the same. ``hides`` are
    fields that mean nothing as the link stands; ``empty`` says what a field left empty means, where it is not unknown.
    ``by_length`` finds, for a field that names a part, the listed one nearest to a length [mm] for a link's raw data.
    ``align_deg`` is how far its wheels may stand out of line [degrees]; None where nothing has to be set in line.
    ``slide`` is how far one of its shafts moves in to put it on, and out to tighten it [mm].
    ``oil`` says what it is lubricated with and how much, at an ambient temperature [°C].
    ``section`` draws the least case of its own that holds it, cut along its shafts.
    ``toothed_loop`` says that a chain or belt runs on teeth of its wheels.
    ``favorite`` names the field of which a shop may have a favorite, such as a section: what its stages begin with.
    ``usual_ratios`` are the ratios that one stage is commonly built for, ``seeds`` links near a ratio to begin from
    where the neighbors of its plain start do not lead there. ``stages`` is what a search may take of it, None where its
    parts are on no list. ``parts`` says what the data of each kind of part on its
    lists look like; ``kept`` is the part that a link puts on the shelf under a name.
    """

    kind: str
    title: str
    model: type[CoreModel]
    prepare: Callable[[Any, int], Transmission[Any]]
    variants: Callable[[Any, Catalog], Iterable[Variant]]
    reconcile: Callable[[Any, dict[str, Any], Catalog], dict[str, Any]]
    starter: Callable[[Catalog], CoreModel]
    workings: Callable[[Any], Mapping[str, Callable[[], Working]]]
    stock: Callable[[Any, Catalog], Mapping[str, tuple[float | str, ...]]]
    words: Callable[[Any, int], LinkWords]
    methods: tuple[Method, ...]
    factors: Callable[[Sizing], tuple[tuple[str, ServiceFactor], ...]]
    failure_points: Callable[[Any], Iterable[FailurePoint]]
    rules: tuple[Rule, ...]
    step_count: Callable[[Any], int] = one_step
    jam: Check | None = None
    jam_safety: float = 1.0
    fuses: Callable[[Any, Catalog], Iterable[Variant]] = no_limit
    limiter: Callable[[float, Catalog], Iterable[Variant]] = no_limiter
    shipped: Callable[[], Iterable[Item]] = nothing_shipped
    uses: Callable[[Any], tuple[Use, ...]] = nothing_named
    parts: Mapping[str, type[CoreModel]] = field(default_factory=dict)
    kept: Callable[[Any, str], Use | None] = nothing_kept
    by_length: Mapping[str, Callable[[Any, float, Catalog], str | None]] = field(default_factory=dict)
    favorite: str = ""
    usual_ratios: tuple[float, float] = (0.2, 5.0)
    seeds: Callable[[Catalog, float], Iterable[CoreModel]] = no_seeds
    stages: Stages | None = None
    stepped: Callable[[Any, Sequence[float], Catalog], CoreModel | None] | None = None
    bill: Callable[[Any, Catalog], Iterable[Piece]] | None = None
    lengths: Callable[[Any, Catalog], Iterable[tuple[str, CoreModel]]] = no_lengths
    makes: Callable[[Any], Iterable[MadeWheel]] = nothing_made
    toothed_loop: bool = False
    align_deg: float | None = None
    oil: Callable[[Any, float], str] = no_oil
    slide: Callable[[Any], tuple[float, float] | None] = no_slide
    section: Callable[[Any], Sketch | None] = no_section
    caution: str = ""
    housing: str = ""
    samples: tuple[CoreModel, ...] = ()
    explains: Mapping[str, str] = field(default_factory=dict)
    hides: Callable[[Any], frozenset[str]] = all_shown
    empty: Mapping[str, str] = field(default_factory=dict)

    def explaining(self, code: str, result: AnyResult) -> str:
        """The figure of a solved link that explains a finding of this family; empty where none does."""
        kind, _, tail = code.partition(".")
        key = self.explains.get(tail, tail)
        known = any(figure.key == key and figure.value is not None for figure in result.figures)
        return key if kind == self.kind and known else ""


def whole(value: object) -> int | None:
    """A whole number as an edit carries it, typed or stored; None for anything else.

    >>> whole("18"), whole(24), whole("24.5"), whole(None)
    (18, 24, None, None)
    """
    if isinstance(value, int) and not isinstance(value, bool):
        return value
    text = value.strip() if isinstance(value, str) else ""
    return int(text) if text.isdecimal() else None
