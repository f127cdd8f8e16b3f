"""Any value that a model allows, for property tests: built from the model's own declarations."""

from __future__ import annotations

from enum import Enum
from math import exp, log
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin

from annotated_types import Ge, Gt, Le, Lt, MinLen
from hypothesis import strategies as st
from pydantic import BaseModel
from pydantic.fields import FieldInfo


def any_of(model: type[BaseModel], **fixed: Any) -> st.SearchStrategy[dict[str, Any]]:
    """Raw inputs of a model within its ranges, optional fields sometimes empty."""
    fields = {
        name: st.just(fixed[name]) if name in fixed else _field(info) for name, info in model.model_fields.items()
    }
    return st.fixed_dictionaries(fields)


def _field(info: FieldInfo) -> st.SearchStrategy[Any]:
    return _value(info.annotation, list(info.metadata), info.default)


def _value(annotation: Any, metadata: list[Any], default: Any) -> st.SearchStrategy[Any]:
    origin = get_origin(annotation)
    if origin in (Union, UnionType):
        parts = [part for part in get_args(annotation) if part is not type(None)]
        return st.none() | _value(parts[0], metadata, default)
    if origin is Annotated:
        inner, *more = get_args(annotation)
        return _value(inner, metadata + more, default)
    if origin is Literal:
        return st.sampled_from(get_args(annotation))
    if annotation is str:
        return st.just(default) if isinstance(default, str) else st.text(max_size=5)
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return any_of(annotation)
    if origin is tuple:
        shortest = next((item.min_length for item in metadata if isinstance(item, MinLen)), 0)
        return st.lists(_value(get_args(annotation)[0], [], None), min_size=shortest, max_size=4)
    if isinstance(annotation, type) and issubclass(annotation, Enum):
        return st.sampled_from(list(annotation))
    return _number(annotation, metadata)


def _number(annotation: Any, metadata: list[Any]) -> st.SearchStrategy[Any]:
    low = next((float(m.ge if isinstance(m, Ge) else m.gt) for m in metadata if isinstance(m, Ge | Gt)), 0.0)
    high = next((float(m.le if isinstance(m, Le) else m.lt) for m in metadata if isinstance(m, Le | Lt)), 1e6)
    if annotation is bool:
        return st.booleans()
    if annotation is int:
        return st.integers(int(low), int(high))
    if any(isinstance(m, Gt) for m in metadata):
        low = low + 1e-3 * (abs(low) or 1.0)
    if low > 0:
        return st.floats(log(low), log(high)).map(lambda x: min(max(exp(x), low), high))
    return st.floats(low, high)
