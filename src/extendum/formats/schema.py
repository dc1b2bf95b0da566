"""The JSON Schema of the own document, made from the same fields that read and write it."""

from __future__ import annotations

import json
import types
from dataclasses import MISSING, is_dataclass
from enum import StrEnum
from typing import Any, Union, get_args, get_origin

from extendum.core.model.script import Script
from extendum.formats.codec import typed_fields
from extendum.formats.document import FORMAT, VERSION

_SCALARS = {int: "integer", str: "string", bool: "boolean"}


def schema() -> dict[str, Any]:
    """The schema of a class document; what it does not know may be there too, and is kept."""
    definitions: dict[str, Any] = {}
    _type(Script, definitions)
    top = definitions.pop(Script.__name__)
    top["properties"] = {
        "format": {"const": FORMAT},
        "version": {"type": "integer", "minimum": 1, "maximum": VERSION},
        **top["properties"],
    }
    top["required"] = ["format", "version", *top["required"]]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A stretch class",
        **top,
        "$defs": dict(sorted(definitions.items())),
    }


def _type(wanted: Any, definitions: dict[str, Any]) -> dict[str, Any]:
    origin, arguments = get_origin(wanted), get_args(wanted)
    if origin in (Union, types.UnionType):
        some = [_type(one, definitions) for one in arguments if one is not type(None)]
        nullable = [{"type": "null"}] if type(None) in arguments else []
        return some[0] if len(some) == 1 and not nullable else {"anyOf": some + nullable}
    if origin is tuple:
        return {"type": "array", "items": _type(arguments[0], definitions)}
    if is_dataclass(wanted) and isinstance(wanted, type):
        if wanted.__name__ not in definitions:
            definitions[wanted.__name__] = {}
            definitions[wanted.__name__] = _object(wanted, definitions)
        return {"$ref": f"#/$defs/{wanted.__name__}"}
    if issubclass(wanted, StrEnum):
        return {"enum": [one.value for one in wanted]}
    return {"type": _SCALARS[wanted]}


def _object(cls: type, definitions: dict[str, Any]) -> dict[str, Any]:
    properties: dict[str, Any] = {}
    required: list[str] = []
    if hasattr(cls, "tag"):
        properties["type"] = {"const": cls.tag}
        required.append("type")
    for field, hint in typed_fields(cls):
        if field.metadata.get("extra"):
            continue
        properties[field.name] = _bounded(_type(hint, definitions), field.metadata)
        if field.default is MISSING:
            required.append(field.name)
    about = (cls.__doc__ or "").strip().splitlines()[0]
    return {"description": about, "type": "object", "properties": properties, "required": required}


def _bounded(found: dict[str, Any], bounds: Any) -> dict[str, Any]:
    limits: dict[str, Any] = {}
    if "least" in bounds:
        limits = {"minimum": bounds["least"], "maximum": bounds["most"]}
    elif "longest" in bounds:
        limits = {"minLength": bounds["shortest"], "maxLength": bounds["longest"]}
    elif "pattern" in bounds:
        limits = {"pattern": bounds["pattern"]}
    if bounds.get("note"):
        limits["description"] = bounds["note"]
    return found | limits


if __name__ == "__main__":
    print(json.dumps(schema(), indent=1))
