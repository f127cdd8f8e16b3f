"""Formulas of roller chain about its name and its length, callable by name."""

from __future__ import annotations

from math import ceil, floor

from pydantic import Field

from pulltide.core.errors import ImpossibleGeometry, UnknownName
from pulltide.core.family import Method
from pulltide.core.findings import EXACT, Source
from pulltide.core.labels import phrase, quantity
from pulltide.core.links.roller_chain import geometry, tables
from pulltide.core.links.roller_chain.inputs import ChainNumber
from pulltide.core.links.roller_chain.working import (
    LengthInputs,
    RatingInputs,
    SprocketInputs,
    center_working,
    rating_working,
    sprocket_working,
)
from pulltide.core.model import CoreModel, Mm
from pulltide.core.working import Step, Working

NUMBERING = Source("ANSI B29.1", "numbering of chain", "quoted from memory")


class NameInputs(CoreModel):
    """What is stamped on a chain."""

    designation: str = Field(title="Chain number, with -2 for two strands", min_length=2, max_length=8)


#: What the last figure of a chain's number says.
LAST_FIGURE = {"0": "with rollers, of usual proportions", "1": "light, narrow", "5": "rollerless bushing chain"}


def name_working(inputs: NameInputs) -> Working:
    """What a chain's number says: eighths of an inch of pitch, kind, strands."""
    number, _, strands = inputs.designation.strip().upper().partition("-")
    heavy = number.endswith("H")
    digits = number.removesuffix("H")
    if not digits.isdecimal() or digits[-1] not in LAST_FIGURE or not digits[:-1]:
        raise UnknownName("Chain", inputs.designation, tables.sizes())
    if strands and not (strands.isdecimal() and 1 <= int(strands) <= 24):
        raise UnknownName("Strands", strands, ("1 to 24",))
    eighths = float(digits[:-1])
    note = LAST_FIGURE[digits[-1]] + ("; thicker side plates" if heavy else "")
    size = tables.sizes().get(digits)
    steps = [
        Step("Strands", "N_s", "figure behind the dash, else 1", {}, float(strands or 1), "", NUMBERING),
        Step("Pitch", "p", "25.4 e / 8", {"e": eighths}, 25.4 * eighths / 8, "mm", NUMBERING, note),
    ]
    if size is not None:
        width = Step(
            "Roller diameter", "D_r", "table", {}, size.roller_diameter_mm, "mm", tables.table("sizes").as_source
        )
        steps.insert(0, width)
    return Working("Name of a chain", tuple(steps))


class LinksInputs(CoreModel):
    """A wanted center distance."""

    chain: ChainNumber = Field(title="Chain")
    small_teeth: int = Field(title="Small sprocket teeth", ge=6, le=150)
    large_teeth: int = Field(title="Large sprocket teeth", ge=6, le=300)
    center_distance_mm: Mm = Field(title="Wanted center distance", ge=20, le=10_000)


def links_working(inputs: LinksInputs) -> Working:
    """Even numbers of links below and above a wanted center distance, and where each puts the shaft.

    Raises ImpossibleGeometry where the sprockets would touch.
    """
    pitch = tables.sizes()[inputs.chain].pitch_mm
    teeth = (inputs.small_teeth, inputs.large_teeth)
    tips = sum(geometry.outside_diameter_mm(pitch, count) for count in teeth) / 2
    if inputs.center_distance_mm <= tips:
        raise ImpossibleGeometry(
            f"The sprockets would touch: {quantity(inputs.center_distance_mm, 'mm')} is not more than "
            f"{quantity(tips, 'mm')}, half of both."
        )
    exact = geometry.exact_length_pitches(inputs.center_distance_mm / pitch, *teeth)
    below, above = 2 * floor(exact / 2), 2 * ceil(exact / 2)
    numbers = {"C": inputs.center_distance_mm, "p": pitch, "N_1": float(teeth[0]), "N_2": float(teeth[1])}
    steps = [
        Step("Links at the wanted distance", "X", "from the tangents of the pitch circles", numbers, exact, "", EXACT)
    ]
    for name, symbol, count in (("below", "1", below), ("above", "2", above)):
        center = geometry.center_pitches(count, *teeth) * pitch
        if center <= tips:
            continue
        put_in = {"X": exact}
        steps.append(
            Step(
                f"Even links {phrase(name)}",
                f"X_{symbol}",
                f"even number {phrase(name)}",
                put_in,
                float(count),
                "",
                EXACT,
            )
        )
        solved = {f"X_{symbol}": float(count)}
        steps.append(
            Step(f"Center distance, {phrase(name)}", f"C_{symbol}", "solved for C", solved, center, "mm", EXACT)
        )
    return Working("Links for a center distance", tuple(steps))


METHODS = (
    Method("roller_chain_sprocket", "Diameters of a sprocket", SprocketInputs, sprocket_working),
    Method("roller_chain_rating", "Power a roller chain carries", RatingInputs, rating_working),
    Method("roller_chain_center", "Center distance from the number of links", LengthInputs, center_working),
    Method("roller_chain_name", "What a chain's number says", NameInputs, name_working),
    Method("roller_chain_links", "Links below and above a wanted center distance", LinksInputs, links_working),
)
