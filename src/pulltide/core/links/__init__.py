"""Every way to join two shafts. A new family is one folder here and one name in ``FAMILIES``."""

from __future__ import annotations

from functools import reduce
from operator import or_
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field

from pulltide.core.family import Family
from pulltide.core.links import (
    bevel_pair,
    coupling,
    friction_drive,
    gear_pair,
    gear_train,
    helical_pair,
    lantern,
    plain_belt,
    planetary,
    reducer,
    roller_chain,
    strain_wave,
    toothed_belt,
    v_belt,
    worm_set,
)

__all__ = ["FAMILIES", "Link", "family_of"]

FAMILIES: tuple[Family, ...] = (
    v_belt.FAMILY,
    toothed_belt.FAMILY,
    plain_belt.FAMILY,
    roller_chain.FAMILY,
    gear_pair.FAMILY,
    helical_pair.FAMILY,
    bevel_pair.FAMILY,
    gear_train.FAMILY,
    planetary.FAMILY,
    worm_set.FAMILY,
    strain_wave.FAMILY,
    friction_drive.FAMILY,
    coupling.FAMILY,
    lantern.FAMILY,
    reducer.FAMILY,
)

if TYPE_CHECKING:
    Link = Any
else:
    Link = Annotated[reduce(or_, (family.model for family in FAMILIES)), Field(discriminator="kind")]

_BY_KIND = {family.kind: family for family in FAMILIES}


def family_of(kind: str) -> Family:
    """The family of a link kind. Raises KeyError for a kind that is not registered."""
    return _BY_KIND[kind]
