"""Base of every input model, and the mark that gives a number its unit.

A field is declared once, with range, unit and label; the form, the API, the command line, the file schema
and the error message all read that declaration.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, core_schema

from pulltide.core.labels import as_is

#: Validation context key under which the edge passes its reader of written quantities.
READ_QUANTITY = "read_quantity"

QuantityReader = Callable[[str, str], float]


@dataclass(frozen=True, slots=True)
class Measure:
    """Marks a float with its unit and lets the edge read text such as ``1 1/2 in`` for it."""

    unit: str

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.with_info_before_validator_function(self._read, handler(source))

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        number = dict(handler(schema))
        number["unit"] = self.unit
        return {"anyOf": [number, {"type": "string", "description": "a number with a unit, such as 38 mm"}]}

    def _read(self, value: object, info: core_schema.ValidationInfo) -> object:
        if not isinstance(value, str):
            return value
        context = info.context if isinstance(info.context, dict) else {}
        reader: QuantityReader | None = context.get(READ_QUANTITY)
        if reader is None:
            raise ValueError(f"is text; a number in {as_is(self.unit)} is wanted here")
        return reader(value, self.unit)


Mm = Annotated[float, Measure("mm")]
Rpm = Annotated[float, Measure("rpm")]
Nm = Annotated[float, Measure("N*m")]
Kw = Annotated[float, Measure("kW")]
Newton = Annotated[float, Measure("N")]
Degrees = Annotated[float, Measure("deg")]
Celsius = Annotated[float, Measure("degC")]
Volt = Annotated[float, Measure("V")]
Hertz = Annotated[float, Measure("Hz")]
Hours = Annotated[float, Measure("h")]
Plain = Annotated[float, Measure("")]
Kg = Annotated[float, Measure("kg")]
KgPerM = Annotated[float, Measure("kg/m")]
KgPerM3 = Annotated[float, Measure("kg/m**3")]
KgM2 = Annotated[float, Measure("kg*m**2")]
MPerS = Annotated[float, Measure("m/s")]
MPerMin = Annotated[float, Measure("m/min")]
Seconds = Annotated[float, Measure("s")]
Mpa = Annotated[float, Measure("MPa")]
Kpa = Annotated[float, Measure("kPa")]
PaS = Annotated[float, Measure("Pa*s")]
TPerH = Annotated[float, Measure("t/h")]
M3PerH = Annotated[float, Measure("m**3/h")]
Ampere = Annotated[float, Measure("A")]
Ohm = Annotated[float, Measure("ohm")]
AmpereHour = Annotated[float, Measure("A*h")]
Joule = Annotated[float, Measure("J")]
KjPerKg = Annotated[float, Measure("kJ/kg")]
RpmPerVolt = Annotated[float, Measure("rpm/V")]
Arcmin = Annotated[float, Measure("arcmin")]
MmPerS = Annotated[float, Measure("mm/s")]


#: Range marks of a declaration and what JSON Schema calls them.
RANGE_WORDS = {"gt": "exclusiveMinimum", "ge": "minimum", "lt": "exclusiveMaximum", "le": "maximum"}


def ranges_on_numbers(schema: dict[str, Any]) -> None:
    """Move the range of an optional number onto the number itself, where readers of the schema look for it."""
    for field in schema.get("properties", {}).values():
        for option in field.get("anyOf", ()):
            found = {word: option.pop(mark) for mark, word in RANGE_WORDS.items() if mark in option}
            for inner in option.get("anyOf", ()):
                if inner.get("type") in ("number", "integer"):
                    inner.update(found)


class CoreModel(BaseModel):
    """Frozen input record: unknown keys, infinities and NaN are refused."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, json_schema_extra=ranges_on_numbers)
