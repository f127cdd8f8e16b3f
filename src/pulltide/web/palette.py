"""Everything that can be gone to by its name: machines, places, shafts and stages, figures, chapters of the methods."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from pulltide.core.handbook import chapters
from pulltide.core.links import family_of
from pulltide.core.made.discs import LOOSE
from pulltide.quantities import show
from pulltide.services.machines import StoredMachine, UnreadableMachine
from pulltide.web.places import PLACES, Context
from pulltide.words import say, worded


@dataclass(frozen=True, slots=True)
class Destination:
    """One thing by its name: what it is, what distinguishes it, its address."""

    kind: str
    name: str
    detail: str
    address: str


def destinations(floor: Iterable[StoredMachine | UnreadableMachine], context: Context | None) -> list[Destination]:
    """All of them, those of the machine at hand first."""
    found = list(_of_machine(context)) if context is not None else []
    here = context.stored.id if context is not None else ""
    for stored in floor:
        if isinstance(stored, StoredMachine) and stored.id != here:
            found.append(Destination("machine", stored.machine.name, "", f"/machines/{stored.id}"))
    found.append(Destination("place", say("Shop floor"), say("all machines"), "/"))
    found.append(Destination("place", say("Keeping"), say("backup, archive"), "/keeping"))
    found += [
        Destination(say("loose part"), worded(kind.title), say("drawing and files"), f"/discs?part={name}")
        for name, kind in LOOSE.items()
    ]
    found += [Destination("methods", worded(chapter.title), "", f"/methods#{chapter.key}") for chapter in chapters()]
    for chapter in chapters():
        found += [
            Destination("formula", worded(m.title), worded(chapter.title), f"/methods#{chapter.key}")
            for m in chapter.methods
        ]
    return found


def _of_machine(context: Context) -> Iterator[Destination]:
    selection, line = context.selection, context.line
    for place in PLACES:
        yield Destination(
            "place", worded(place.title), place.summary(context).words, selection.to(place.key, at="", show="")
        )
    for index, plan in enumerate(context.machine.plans):
        yield Destination("plan", plan.name, "", selection.to("train", plan=index, at="", show=""))
    for number, name in enumerate(context.names, start=1):
        at = f"shaft-{number}"
        yield Destination(
            "shaft",
            say("Shaft {number} · {name}", number=number, name=name),
            "",
            f"{selection.to('train', at=at, show='')}#bench",
        )
    for index, link in enumerate(context.plan.links):
        at = f"link-{index + 1}"
        title = worded(family_of(link.kind).words(link, getattr(link, "chosen_step", 1)).title)
        address = f"{selection.to('train', at=at, show='')}#bench"
        yield Destination("stage", say("Stage {index} · {title}", index=index + 1, title=title), "", address)
        for figure in line.links[index].figures if line is not None else ():
            shown = str(show(figure.value, figure.unit, context.units))
            working = f"{selection.to('train', at=at, show=f'{at}/{figure.key}')}#working"
            yield Destination(
                "figure", say("{label}, stage {index}", label=worded(figure.label), index=index + 1), shown, working
            )
