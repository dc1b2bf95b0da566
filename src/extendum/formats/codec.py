"""Plain values to typed ones and back, by the fields of the core's dataclasses.

Every field, bound and choice is declared once, in the core; reading, writing and the JSON Schema
follow it. Fields that this version does not know are kept in ``extra`` and written again.
"""

from __future__ import annotations

import json
import types
from collections.abc import Callable, Mapping
from dataclasses import MISSING, Field, fields, is_dataclass
from enum import StrEnum
from functools import cache
from typing import Any, Union, cast, get_args, get_origin, get_type_hints

from extendum.core.model.errors import RefusedError

Reader = Callable[[Any], Any]


@cache
def typed_fields(cls: type) -> tuple[tuple[Field[Any], Any], ...]:
    """The fields of a dataclass with their resolved types."""
    hints = get_type_hints(cls)
    return tuple((f, hints[f.name]) for f in fields(cls))


def to_plain(thing: Any) -> Any:
    """A typed value as plain dicts, lists, texts and numbers; empty values are left out."""
    if thing is None or type(thing) in (int, str, bool):
        return thing
    if isinstance(thing, StrEnum):
        return thing.value
    if isinstance(thing, tuple):
        return [to_plain(one) for one in thing]
    plain: dict[str, Any] = {"type": thing.tag} if hasattr(thing, "tag") else {}
    kept: dict[str, Any] = {}
    cls: Any = type(thing)
    for name, default, is_extra in _written(cls):
        value = getattr(thing, name)
        if is_extra:
            kept = {key: json.loads(text) for key, text in value}
        elif value or value != default:
            plain[name] = to_plain(value)
    return plain | kept


@cache
def _written(cls: type) -> tuple[tuple[str, Any, bool], ...]:
    """The fields of a dataclass as they are written: name, default, and whether it holds what a newer version wrote."""
    return tuple((f.name, f.default, bool(f.metadata.get("extra"))) for f in fields(cls))


def from_plain(cls: Any, plain: Any) -> Any:
    """A typed value from plain ones; RefusedError says where, what must hold and what was found."""
    return _reader(cls)(plain)


@cache
def _reader(wanted: Any) -> Reader:
    """The function that reads one type; found once per type, so that reading is quick."""
    origin, arguments = get_origin(wanted), get_args(wanted)
    if origin in (Union, types.UnionType):
        some = [a for a in arguments if a is not type(None)]
        inner = _reader(some[0]) if len(some) == 1 else _tagged(tuple(some))
        if len(some) == len(arguments):
            return inner
        return lambda plain: None if plain is None else inner(plain)
    if origin is tuple:
        return _list_of(arguments[0])
    if is_dataclass(wanted):
        return _object(cast(type, wanted))
    if issubclass(wanted, StrEnum):
        return _choice(wanted)
    return _scalar(wanted)


def _scalar(wanted: type) -> Reader:
    names = {int: "a whole number", str: "a text", bool: "true or false"}

    def read(plain: Any) -> Any:
        if type(plain) is not wanted:
            raise RefusedError("", names[wanted], plain)
        return plain

    return read


def _choice(wanted: type[StrEnum]) -> Reader:
    def read(plain: Any) -> Any:
        try:
            return wanted(plain)
        except ValueError:
            raise RefusedError("", "one of " + ", ".join(wanted), plain) from None

    return read


def _list_of(inner_type: Any) -> Reader:
    inner = _reader(inner_type)

    def read(plain: Any) -> Any:
        if not isinstance(plain, list):
            raise RefusedError("", "a list", plain)
        found = []
        for index, one in enumerate(plain):
            try:
                found.append(inner(one))
            except RefusedError as error:
                raise error.within(f"[{index}]") from None
        return tuple(found)

    return read


def _tagged(kinds: tuple[Any, ...]) -> Reader:
    readers = {kind.tag: _reader(kind) for kind in kinds}

    def read(plain: Any) -> Any:
        _must_be_object(plain)
        tag = plain.get("type")
        if not isinstance(tag, str) or tag not in readers:
            raise RefusedError("type", "one of " + ", ".join(readers), tag)
        return readers[tag]({name: value for name, value in plain.items() if name != "type"})

    return read


def _must_be_object(plain: Any) -> None:
    if not isinstance(plain, Mapping):
        raise RefusedError("", "an object", plain)


def _object(cls: type) -> Reader:
    known = {f.name: (f, _reader(hint)) for f, hint in typed_fields(cls) if not f.metadata.get("extra")}

    def read(plain: Any) -> Any:
        _must_be_object(plain)
        found: dict[str, Any] = {}
        for name, (field, reader) in known.items():
            if name not in plain:
                if field.default is MISSING:
                    raise RefusedError(name, "given", "nothing")
                continue
            try:
                found[name] = reader(plain[name])
            except RefusedError as error:
                raise error.within(name) from None
        rest = tuple((n, json.dumps(v, sort_keys=True, allow_nan=False)) for n, v in plain.items() if n not in known)
        return cls(**found, **({"extra": rest} if rest else {}))

    return read
