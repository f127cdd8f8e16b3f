"""Edits of a machine's need, as raw data: its worksheet, starting values, and the simple machine on its last shaft."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from pulltide.core.ends import END_KINDS
from pulltide.core.errors import InputError, InputErrors
from pulltide.core.need import FIGURES, MEASURED
from pulltide.core.needs import NEED_KINDS, need_kind
from pulltide.words import say

NEED_NAMES = tuple(kind.kind for kind in NEED_KINDS)
OWN_SPEEDS = ("speed_min_rpm", "speed_ideal_rpm", "speed_max_rpm")
DIRECT, NO_END = "direct", "nothing"
Need = dict[str, Any]


def choose_worksheet(need: Need, kind: str) -> None:
    """Another worksheet, or none. What was entered for the former one is set aside and comes back with it; a new one
    takes the speeds along, and without a worksheet the figures stay as entries.
    """
    before = need["worksheet"]
    former = before["kind"] if before else DIRECT
    if kind not in (*NEED_NAMES, DIRECT):
        raise InputErrors([InputError(say("Worksheet"), kind, say("is not known"), accepted=", ".join(NEED_NAMES))])
    if kind == former:
        return
    kept = _set_aside(need)
    if kind == DIRECT:
        need |= {"worksheet": None, "entered": None, **(need["entered"] or {})}
    else:
        _rename(need, former, kind)
        speeds = {name: (before or need)[name] for name in OWN_SPEEDS}
        need["worksheet"] = kept.pop(kind, None) or {"kind": kind, **speeds}
    need |= dict.fromkeys(MEASURED)
    need["set_aside"] = list(kept.values())
    need["also"] = [former if name == kind else name for name in need["also"]]


def _set_aside(need: Need) -> dict[str, Any]:
    """All sheets that are not in use, the present one among them; figures without a sheet are kept as entered."""
    before, kept = need["worksheet"], {sheet["kind"]: sheet for sheet in need["set_aside"]}
    if before is None:
        need["entered"] = {name: need[name] for name in sorted(FIGURES)}
    else:
        kept[before["kind"]] = before
    return kept


def _rename(need: Need, former: str, kind: str) -> None:
    """The last shaft goes by the name of the new worksheet, unless the person gave it one."""
    names = {"Last shaft"} | (set() if former == DIRECT else {need_kind(former).last_shaft})
    if need["last_shaft"] in names:
        need["last_shaft"] = need_kind(kind).last_shaft


def add_load(need: Need, kind: str) -> None:
    """A further load beside those there are; the new one is open to be described."""
    here = need["worksheet"]["kind"] if need["worksheet"] else DIRECT
    if kind == here or kind in need["also"]:
        raise InputErrors(
            [InputError(say("Further load"), kind, say("is among the loads already; choose another kind"))]
        )
    is_new = kind != DIRECT and all(sheet["kind"] != kind for sheet in need["set_aside"])
    choose_worksheet(need, kind)
    if is_new:
        # another load has speeds of its own
        need["worksheet"] = {"kind": kind}
    need["also"] = [*need["also"], here]


def drop_load(need: Need, kind: str) -> None:
    """A further load that no longer counts; what was entered for it stays set aside."""
    if kind not in need["also"]:
        raise InputErrors([InputError(say("Further load"), kind, say("is none of the further loads"))])
    need["also"] = [name for name in need["also"] if name != kind]


def fill_typical(need: Need) -> None:
    """Plausible values, marked as starting values: for every input of a worksheet that nobody touched, else for those
    that are still empty.
    """
    sheet = need["worksheet"]
    if sheet is None:
        raise InputErrors([InputError(say("Worksheet"), "", say("is not chosen yet, so it has no typical values"))])
    kind = need_kind(sheet["kind"])
    plain = kind.model().model_dump(mode="json")
    is_fresh = all(sheet.get(name) in (None, value) for name, value in plain.items() if name not in OWN_SPEEDS)
    filled = {name: value for name, value in kind.starter.items() if is_fresh or sheet.get(name) is None}
    sheet |= filled
    marked = sheet.get("assumed") or []
    sheet["assumed"] = [*marked, *(name for name in filled if name not in marked)]


def take_as_own(need: Need) -> None:
    """Starting values that were looked at and are right as they are."""
    if need["worksheet"] is not None:
        need["worksheet"]["assumed"] = []


def corrected(need: Need, paths: Iterable[str]) -> None:
    """Starting values that were touched are the person's own from now on."""
    sheet = need.get("worksheet")
    if isinstance(sheet, dict) and sheet.get("assumed"):
        touched = {path.removeprefix("need.worksheet.") for path in paths}
        sheet["assumed"] = [name for name in sheet["assumed"] if name not in touched]


def choose_end(need: Need, kind: str) -> None:
    """Another simple machine on the last shaft, at its plain sizes, or none."""
    known = [one.kind for one in END_KINDS]
    if kind not in (*known, NO_END):
        raise InputErrors(
            [InputError(say("At the last shaft"), kind, say("is not known"), accepted=", ".join((*known, NO_END)))]
        )
    need["end"] = None if kind == NO_END else {"kind": kind}
