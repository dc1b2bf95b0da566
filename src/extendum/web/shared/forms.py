"""What forms post, read into values: refusals name the field, what must hold and what was typed."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import TypeVar

from django.http import QueryDict

from extendum.core.model.audience import Activity, Audience
from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.limits import MOST_KEY, MOST_ROWS, whole_number
from extendum.core.model.script import Script
from extendum.core.model.style import CueStyle

Form = Mapping[str, str]
Choice = TypeVar("Choice", bound=StrEnum)
Named = TypeVar("Named", CueStyle, Audience, Activity)


@dataclass(frozen=True, slots=True)
class Edit:
    """A change of a script, what to call it, and the field whose quick repeats are one revision.

    ``choose``: what is chosen afterwards; ``focus``: the id of the field in which one goes on typing.
    """

    change: Callable[[Script], Script]
    label: str
    field: str = ""
    choose: str | None = None
    focus: str = ""


def refusal(error: Exception) -> dict[str, str]:
    """What a notice tells of a refusal: its words, and the name of the field that was refused where there is one."""
    return {"message": str(error), "field": error.path.replace(" ", "_") if isinstance(error, RefusedError) else ""}


def named(choices: Sequence[Named], name: str, what: str) -> Named:
    """The one with this name among what may be chosen."""
    for one in choices:
        if one.name == name:
            return one
    raise RefusedError(what, "one of " + ", ".join(one.name for one in choices), name)


def many(form: Form, name: str) -> list[str]:
    """All values of a field that may come more than once; a plain mapping has one at most."""
    found = form.getlist(name) if isinstance(form, QueryDict) else filter(None, [form.get(name, "")])
    return [one for one in found if one]


def whole(form: Form, name: str) -> int:
    """A whole number from a form; the error quotes what was typed."""
    typed = form.get(name, "").strip()
    found = whole_number(typed, -MOST_KEY)
    if found is None:
        raise RefusedError(name.replace("_", " "), "a whole number", typed)
    return found


def rows(form: Form, name: str) -> range:
    """The rows of a kind that a form says it has; RefusedError for more than any form of ours has."""
    found = whole(form, name)
    if not 0 <= found <= MOST_ROWS:
        raise RefusedError(name.replace("_", " "), f"from 0 to {MOST_ROWS}", str(found))
    return range(found)


def tenths_ms(form: Form, name: str) -> int:
    """Seconds with at most one decimal, as milliseconds."""
    typed = form.get(name, "").strip().replace(",", ".")
    try:
        return round(float(typed) * 10) * 100
    except (ValueError, OverflowError):
        raise RefusedError(name.replace("_", " "), "seconds, such as 2 or 2.5", typed) from None


def choice(kind: type[Choice], form: Form, name: str, default: Choice) -> Choice:
    """One of the choices of a kind; the default where the form does not say."""
    typed = form.get(name, default.value)
    try:
        return kind(typed)
    except ValueError:
        raise RefusedError(name.replace("_", " "), "one of " + ", ".join(kind), typed) from None


def optional_side(form: Form, name: str) -> Side | None:
    """Left, right, or nothing."""
    return choice(Side, form, name, Side.LEFT) if form.get(name) else None


def options(kind: Iterable[StrEnum], chosen: StrEnum | None) -> list[tuple[str, bool]]:
    """The choices of a kind, and which is on."""
    return [(one.value, one is chosen) for one in kind]


def own_choice(kind: type[Choice], form: Form, name: str, now: Choice | None) -> Choice | None:
    """What an item has of its own, or None where the form leaves it to the class."""
    if name not in form:
        return now
    return choice(kind, form, name, next(iter(kind))) if form[name] else None


def names_in(typed: str) -> list[str]:
    """Names parted by commas."""
    return [name for name in (one.strip() for one in typed.split(",")) if name]
