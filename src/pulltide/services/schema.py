"""JSON Schema of records for other programs, each field with the sentence that says what it is."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel
from pydantic.json_schema import GenerateJsonSchema, JsonSchemaValue
from pydantic_core import core_schema

from pulltide.quantities import DEFAULT_UNITS
from pulltide.services.fields import group_of
from pulltide.words import field_help, filled


class _Explained(GenerateJsonSchema):
    """Puts the sentence before what the declaration says of where a value comes from."""

    def model_schema(self, schema: core_schema.ModelSchema) -> JsonSchemaValue:
        made = super().model_schema(schema)
        for name, field in made.get("properties", {}).items():
            if sentence := field_help(group_of(schema["cls"]), name):
                origin = filled(field.get("description", ""), DEFAULT_UNITS)
                field["description"] = f"{sentence} ({origin})" if origin else sentence
        return made


def schema_of_record(model: type[BaseModel]) -> dict[str, Any]:
    """JSON Schema of a record."""
    return model.model_json_schema(schema_generator=_Explained)
