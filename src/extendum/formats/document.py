"""The own document: a class as JSON with a format name and a version."""

from __future__ import annotations

import json
from typing import Any, cast

from extendum.core.model.errors import RefusedError
from extendum.core.model.move import OnSide
from extendum.core.model.script import Script
from extendum.formats.codec import from_plain, to_plain
from extendum.formats.json_text import read_json

FORMAT, VERSION = "extendum-class", 3


def script_from(plain: dict[str, Any]) -> Script:
    """A script from a document's plain values."""
    if plain.get("format") != FORMAT:
        raise RefusedError("format", repr(FORMAT), plain.get("format", "nothing"))
    version = plain.get("version")
    if isinstance(version, bool) or not isinstance(version, int) or not 1 <= version <= VERSION:
        raise RefusedError(
            "version", f"a whole number from 1 to {VERSION}, the newest that this program knows", version
        )
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


def version_of(text: str | bytes) -> int:
    """The version of a document whose text `loads` reads."""
    return cast(int, read_json(text)["version"])


def loads(text: str | bytes) -> Script:
    """A script from the text of a document; RefusedError says where it is wrong."""
    return script_from(read_json(text))


def dumps(script: Script, *, indent: int | None = 1) -> str:
    """The text of a document."""
    return json.dumps(plain_of(script), indent=indent, ensure_ascii=False, allow_nan=False) + "\n"
