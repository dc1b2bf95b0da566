"""JSON from outside: parsed within bounds, refused in a sentence that says where.

A document, an event of the Stage and a press of a clicker are all read here. Nothing non-finite, no number of hundreds
of digits, no name given twice, no half letter, no nesting deeper and no more values than anything of ours has: what is
accepted can be stored, written again and shown.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from math import isfinite
from typing import Any

from extendum.core.model.errors import RefusedError
from extendum.core.model.limits import DEEPEST, LARGEST_FILE, MOST_DIGITS, MOST_VALUES, well_formed


class NotJSONError(RefusedError):
    """A text that is no JSON: the line and column, and what should stand there."""

    def __str__(self) -> str:
        return f"{self.path}: this is not JSON; {self.must}"


class _Long(str):
    """The digits of a number that is too long."""

    __slots__ = ()


class _Twice(dict[str, Any]):
    """An object that has a name twice."""

    name = ""


#: The parser's own words, as a sentence.
_SAID = {
    "Expecting value": "a value should stand here",
    "Expecting property name enclosed in double quotes": "a name in double quotes should stand here",
    "Expecting ':' delimiter": "a colon should stand here",
    "Expecting ',' delimiter": "a comma or a closing bracket should stand here",
    "Unterminated string starting at": "the text that begins here has no closing quote",
    "Invalid control character at": "a line break or another control character stands inside a text",
    "Extra data": "nothing more may come after the end",
}


def read_json(text: str | bytes, largest: int = LARGEST_FILE) -> dict[str, Any]:
    """A JSON object of plain values; RefusedError with the path, or the line and column of what is not JSON."""
    if len(text) > largest:
        raise RefusedError("", f"at most {largest:,} bytes", f"{len(text):,} bytes")
    try:
        decoded = text if isinstance(text, str) else text.decode("utf-8-sig")
        plain = json.loads(decoded, parse_int=_whole, object_pairs_hook=_object)
    except UnicodeDecodeError as error:
        raise RefusedError("", "text in UTF-8", f"byte {error.start} that is not") from None
    except json.JSONDecodeError as error:
        said = _SAID.get(error.msg, "a backslash stands before a letter that needs none")
        raise NotJSONError(f"line {error.lineno}, column {error.colno}", said, error.msg) from None
    except RecursionError:
        raise RefusedError("", f"JSON nested at most {DEEPEST} levels deep", "hundreds of levels") from None
    if not isinstance(plain, dict):
        raise RefusedError("", "a JSON object", type(plain).__name__)
    for count, (path, value, depth) in enumerate(_values(plain), 1):
        if count > MOST_VALUES:
            raise RefusedError("", f"at most {MOST_VALUES:,} values", "more")
        if depth > DEEPEST:
            raise RefusedError(_told(path), f"nested at most {DEEPEST} levels deep", "more levels")
        if wrong := _wrong(value):
            raise RefusedError(_told(path), *wrong)
    return plain


def _whole(digits: str) -> int | _Long:
    return int(digits) if len(digits) <= MOST_DIGITS else _Long(digits)


def _object(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    plain = dict(pairs)
    if len(plain) == len(pairs):
        return plain
    twice = _Twice(plain)
    names = [name for name, _ in pairs]
    twice.name = next(name for name in names if names.count(name) > 1)
    return twice


#: Where a value stands: the place of what holds it, and its name or number in there.
Place = tuple[Any, str | int] | None


def _values(plain: Any) -> Iterator[tuple[Place, Any, int]]:
    """Every value with its place and level, without recursion: a text may be nested as deep as it likes."""
    left: list[tuple[Place, Any, int]] = [(None, plain, 0)]
    while left:
        place, value, depth = left.pop()
        yield place, value, depth
        if isinstance(value, dict):
            left += [((place, name), one, depth + 1) for name, one in reversed(value.items())]
        elif isinstance(value, list):
            left += [((place, n), value[n], depth + 1) for n in reversed(range(len(value)))]


def _told(place: Place) -> str:
    """A place as a path: ``sections[2].name``; of a very long one its beginning."""
    steps = []
    while place is not None:
        place, step = place
        steps.append(f"[{step}]" if isinstance(step, int) else f".{step}")
    path = "".join(reversed(steps)).removeprefix(".")
    shown = path if len(path) <= 120 else f"{path[:117]}..."
    return shown.encode("ascii", "backslashreplace").decode() if not well_formed(shown) else shown


def _wrong(value: Any) -> tuple[str, str] | None:
    """What must hold for a value, and what was found; None where nothing is wrong."""
    if type(value) is str:
        return None if well_formed(value) else ("whole letters", "half of a surrogate pair")
    if type(value) is float and not isfinite(value):
        return "a finite number", str(value)
    if isinstance(value, _Long):
        return f"a number of at most {MOST_DIGITS} digits", f"{len(value):,} digits"
    if isinstance(value, _Twice):
        return "an object in which each name stands once", f"{value.name!r} more than once"
    if isinstance(value, dict) and not all(map(well_formed, value)):
        return "named in whole letters", "half of a surrogate pair"
    return None
