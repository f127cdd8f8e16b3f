"""Looks up the declaration of one field of a machine by its path: label, unit, range, choices."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import Enum
from functools import cache
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin

from annotated_types import Ge, Gt, Le, Lt, MaxLen
from pydantic import BaseModel
from pydantic.fields import FieldInfo

from pulltide.core.machine import Machine
from pulltide.core.model import Measure
from pulltide.quantities import Units, show_limit
from pulltide.words import field_help, say, worded

Path = tuple[str | int, ...]


def parse_path(text: str) -> Path:
    """``plans.0.links.1.belt`` as keys and indexes."""
    return tuple(int(part) if part.isdecimal() else part for part in text.split("."))


@dataclass(frozen=True, slots=True)
class FieldDescription:
    """What a form and a message need to know of a field: ``origin`` is where its first value comes from."""

    path: str
    title: str
    kind: Literal["quantity", "whole", "yes_no", "choice", "text"]
    unit: str = ""
    low: float | None = None
    high: float | None = None
    above_low: bool = False
    below_high: bool = False
    choices: tuple[str, ...] = field(default=())
    optional: bool = False
    max_characters: int | None = None
    origin: str = ""
    help: str = ""

    def accepted(self, units: Units) -> str:
        """The accepted range or choices, in a person's units."""
        if self.choices:
            return ", ".join(self.choices)
        if self.low is not None and self.high is not None:
            least, most = self.limits(units)
            if self.above_low or self.below_high:
                below = say("less than") if self.below_high else say("up to")
                return f"{say('more than ') * self.above_low}{least}, {below} {most}"
            return say("{least} to {most}", least=least, most=most)
        if self.max_characters is not None:
            return say("1 to {max_characters} characters", max_characters=self.max_characters)
        return ""

    def limits(self, units: Units) -> tuple[str, str]:
        """Both ends of its range as text that can be typed."""
        if self.low is None or self.high is None:
            return "", ""
        if self.kind == "whole":
            return f"{self.low:g}", f"{self.high:g}"
        least, most = (
            show_limit(self.low, self.unit, units, least=True),
            show_limit(self.high, self.unit, units, least=False),
        )
        return least, most


class NoSuchField(LookupError):
    """A path that leads to no field."""


def _unwrapped(annotation: Any) -> tuple[Any, bool]:
    """The annotation without None, and whether None was allowed."""
    if get_origin(annotation) in (Union, UnionType):
        parts = [part for part in get_args(annotation) if part is not type(None)]
        return (parts[0] if len(parts) == 1 else annotation), len(parts) < len(get_args(annotation))
    return annotation, False


def find_field(document: Any, path: Path) -> tuple[FieldInfo, type[BaseModel]]:
    """The declaration a path leads to, walking models and tuples of a raw document.

    Raises NoSuchField if a part of the path is no field.
    """
    model: type[BaseModel] = Machine
    value = document
    info: FieldInfo | None = None
    for part in path:
        if isinstance(part, int):
            value = value[part] if isinstance(value, list | tuple) and part < len(value) else None
            model = _item_model(model, info, value)
            continue
        if part not in model.model_fields:
            raise NoSuchField(".".join(map(str, path)))
        info = model.model_fields[part]
        owner = model
        value = value.get(part) if isinstance(value, dict) else None
        model = _model_of(_members(model, part), value) or model
    if info is None:
        raise NoSuchField(".".join(map(str, path)))
    return info, owner


def _item_model(model: type[BaseModel], info: FieldInfo | None, value: Any) -> type[BaseModel]:
    item = get_args(info.annotation)[0] if info is not None else model
    return _model_of(item, value) or model


def _model_of(annotation: Any, value: Any) -> type[BaseModel] | None:
    """The model an annotation leads to; of a union, the member whose ``kind`` the raw value names, or the first."""
    members = annotation if isinstance(annotation, tuple) else tuple(_models(annotation))
    if len(members) < 2:
        return members[0] if members else None
    kind = value.get("kind") if isinstance(value, dict) else None
    if kind is None:
        return members[0]
    return next((model for model in members if model.model_fields["kind"].default == kind), None)


@cache
def _members(model: type[BaseModel], name: str) -> tuple[type[BaseModel], ...]:
    """The models that a field of a model can hold."""
    return tuple(_models(model.model_fields[name].annotation))


def _models(annotation: Any) -> list[type[BaseModel]]:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return [annotation]
    if get_origin(annotation) in (Union, UnionType, Annotated):
        return [model for part in get_args(annotation) for model in _models(part)]
    return []


def describe(document: Any, path_text: str) -> FieldDescription:
    """Describe the field at a path of a raw document."""
    info, owner = find_field(document, parse_path(path_text))
    return described(info, path_text, owner)


def group_of(owner: type[BaseModel]) -> str:
    """What tells fields of one name apart: the worksheet, family or part of a machine that a record belongs to."""
    *_, folder, module = owner.__module__.split(".")
    return folder if module == "inputs" else module


def described(info: FieldInfo, path_text: str, owner: type[BaseModel]) -> FieldDescription:
    """Describe one declared field of a record."""
    annotation, optional = _unwrapped(info.annotation)
    metadata = [*info.metadata]
    if hasattr(annotation, "__metadata__"):
        metadata += annotation.__metadata__
        annotation = get_args(annotation)[0]
    low = next((item.ge if isinstance(item, Ge) else item.gt for item in metadata if isinstance(item, Ge | Gt)), None)
    high = next((item.le if isinstance(item, Le) else item.lt for item in metadata if isinstance(item, Le | Lt)), None)
    measure = next((item for item in metadata if isinstance(item, Measure)), None)
    longest = next((item.max_length for item in metadata if isinstance(item, MaxLen)), None)
    kind, choices = _kind(annotation, measure)
    return FieldDescription(
        path_text,
        worded(info.title or "") or path_text,
        kind,
        measure.unit if measure else "",
        _as_float(low),
        _as_float(high),
        any(isinstance(item, Gt) for item in metadata),
        any(isinstance(item, Lt) for item in metadata),
        choices,
        optional,
        longest,
        info.description or "",
        field_help(group_of(owner), path_text.rpartition(".")[2]),
    )


def _as_float(value: Any) -> float | None:
    return None if value is None else float(value)


def _kind(
    annotation: Any, measure: Measure | None
) -> tuple[Literal["quantity", "whole", "yes_no", "choice", "text"], tuple[str, ...]]:
    if measure is not None or annotation is float:
        return "quantity", ()
    if annotation is bool:
        return "yes_no", ()
    if annotation is int:
        return "whole", ()
    if get_origin(annotation) is Literal:
        return "choice", tuple(str(item) for item in get_args(annotation))
    if isinstance(annotation, type) and issubclass(annotation, Enum):
        return "choice", tuple(item.value for item in annotation)
    return "text", ()
