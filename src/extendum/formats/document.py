"""The own document: a class as JSON with a format name and a version."""

from __future__ import annotations

import json
from typing import Any, cast

from extendum.core.errors import RefusedError
from extendum.core.move import OnSide
from extendum.core.script import Script
from extendum.formats.codec import from_plain, to_plain

FORMAT, VERSION = "extendum-class", 2
LARGEST_BYTES = 4_000_000


def read_json(text: str | bytes) -> dict[str, Any]:
    """A JSON object; RefusedError names the line and column of what is not JSON."""
    if len(text) > LARGEST_BYTES:
        raise RefusedError("", f"at most {LARGEST_BYTES:,} bytes", f"{len(text):,} bytes")
    try:
        decoded = text if isinstance(text, str) else text.decode("utf-8-sig")
        plain = json.loads(decoded, parse_constant=_no_constant)
    except UnicodeDecodeError as error:
        raise RefusedError("", "text in UTF-8", f"byte {error.start} that is not") from None
    except json.JSONDecodeError as error:
        raise RefusedError(f"line {error.lineno}, column {error.colno}", "JSON", error.msg) from None
    except RecursionError:
        raise RefusedError("", "JSON nested a few levels deep", "hundreds of levels") from None
    if not isinstance(plain, dict):
        raise RefusedError("", "a JSON object", type(plain).__name__)
    return plain


def _no_constant(name: str) -> None:
    raise RefusedError("", "JSON without NaN and Infinity", name)


def script_from(plain: dict[str, Any]) -> Script:
    """A script from a document's plain values."""
    if plain.get("format") != FORMAT:
        raise RefusedError("format", repr(FORMAT), plain.get("format", "nothing"))
    version = plain.get("version")
    if isinstance(version, bool) or not isinstance(version, int) or version < 1:
        raise RefusedError("version", "a whole number from 1", version)
    rest = {name: value for name, value in plain.items() if name not in ("format", "version")}
    if version == 1:
        _sides_to_targets(rest)
    return cast(Script, from_plain(Script, rest))


def _sides_to_targets(plain: Any) -> None:
    """Version 1 said of a whole move that it stretches the other side; since then each target says its own."""
    if isinstance(plain, list):
        for one in plain:
            _sides_to_targets(one)
    elif isinstance(plain, dict):
        targets = plain.get("targets")
        if plain.pop("stretches_other_side", False) is True and isinstance(targets, list):
            for target in targets:
                if isinstance(target, dict):
                    target.setdefault("side", OnSide.OTHER.value)
        for name in ("sections", "groups", "items", "move"):
            _sides_to_targets(plain.get(name))


def plain_of(script: Script) -> dict[str, Any]:
    """A document's plain values."""
    return {"format": FORMAT, "version": VERSION, **to_plain(script)}


def loads(text: str | bytes) -> Script:
    """A script from the text of a document; RefusedError says where it is wrong."""
    return script_from(read_json(text))


def dumps(script: Script, *, indent: int | None = 1) -> str:
    """The text of a document."""
    return json.dumps(plain_of(script), indent=indent, ensure_ascii=False) + "\n"
