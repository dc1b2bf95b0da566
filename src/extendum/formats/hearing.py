"""What a recording is heard by, read from the data that ships: rates, lengths, borders and the words of moves."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from importlib.resources import files
from typing import Any

import numpy as np

from extendum.core.heard.bases import BASES, Bases, leanings
from extendum.core.heard.chains import Chains
from extendum.core.heard.cues import Ear
from extendum.core.heard.hear import Hearing
from extendum.core.heard.holds import Holds
from extendum.core.heard.idiom import Idiom
from extendum.core.heard.likeness import notions_of, said_of, stems_of
from extendum.core.heard.names import ONCE, Namer, Signature, signature
from extendum.core.heard.parts import Weights
from extendum.core.heard.saying import Reminder
from extendum.core.heard.sides import Sides
from extendum.core.heard.silence import Juncture, Silences, Stage
from extendum.core.heard.states import NEVER, Lasting, Model, State
from extendum.core.model.body import Base
from extendum.core.model.library import LibraryMove
from extendum.formats.json_text import read_json

#: The states as the data names them.
PARTS = {
    "talk": State.TALK,
    "set-up": State.SET_UP,
    "work": State.WORK,
    "first set-up": State.FIRST_SET_UP,
    "first work": State.FIRST,
    "release": State.RELEASE,
    "switch": State.SWITCH,
    "work again": State.AGAIN,
    "last release": State.RELEASED,
}
#: Whose rates each state has, in the order of the states; the last ones are those of the first seconds of work.
RATED = ("talk", "set-up", "work", "set-up", "work", "release", "switch", "work", "release", "early work")


JUNCTURES = tuple(Juncture)


@lru_cache(maxsize=8)
def hearing(library: tuple[LibraryMove, ...]) -> Hearing:
    """What recordings are heard by, with the moves of a library."""
    plain = _plain()
    weights = Weights(**{one["border"]: one["worth"] for one in plain["borders"]})
    own = namer(library)
    often = tuple(own.sides[key] not in ONCE for key in own.likeness.keys)
    sides = Sides(often, **{one["tells"]: one["worth"] for one in plain["sides"]})
    holds = Holds(**{one["hold"]: one["worth"] for one in plain["holds"]})
    return Hearing(
        model(plain),
        weights,
        own,
        sides,
        ear(plain),
        idiom(plain),
        silences(plain),
        holds,
        bases(plain, own),
        reminders(plain),
        Chains(**{one["chain"]: one["worth"] for one in plain["chains"]}),
    )


def namer(library: Iterable[LibraryMove]) -> Namer:
    """What tells the moves of a library apart; signatures of moves that are not in it are left out."""
    some = tuple(library)
    keys = {one.move.key for one in some}
    told: list[Signature] = []
    for entry in _plain()["moves"]:
        if here := [key for key in entry["moves"] if key in keys]:
            told += [signature(here, one) for one in entry["said"]]
    ways = {key: one["spoken"] for one in _read("hearing-spoken")["moves"] for key in one["moves"] if key in keys}
    return Namer(some, tuple(told), notions_of(_plain()["notions"]), ways)


def reminders(plain: dict[str, Any]) -> tuple[Reminder, ...]:
    """What people are reminded of, from the data."""
    return tuple(
        Reminder(
            one["reminds"],
            re.compile(one["of"]),
            re.compile(one["so"]) if "so" in one else None,
            one.get("phrase", ""),
        )
        for one in plain["reminders"]
    )


def bases(plain: dict[str, Any], own: Namer) -> Bases:
    """What tells where a move is done, from the data and the words of a library."""
    said: dict[Base, list[frozenset[str]]] = {base: [] for base in BASES}
    for one in own.library:
        ways = stems_of((own.spoken.get(one.move.key, ""),))
        said[Base.of(one.move.posture)].append(frozenset((*said_of(one), *ways)))
    return Bases(leanings(said), {Base(one["base"]): re.compile("|".join(one["said"])) for one in plain["bases"]})


def model(plain: dict[str, Any]) -> Model:
    """The states of the model, from the data."""
    lasting, follow = {}, np.full((len(State), len(State)), NEVER)
    for one in plain["parts"]:
        own = PARTS[one["part"]]
        lasting[own] = Lasting(one["middle_s"], one["spread"], one["least_s"], one["most_s"])
        for name, share in one["then"].items():
            follow[own, PARTS[name]] = np.log(share)
    rates = {one["cue"]: one["a_minute"] for one in plain["cues"]}
    table = np.array([[rate[part] for part in RATED] for rate in rates.values()])
    return Model(lasting, follow, table, plain["share"])


def ear(plain: dict[str, Any]) -> Ear:
    """The patterns of the cues, from the data; ``{limb}`` and so on stand for any of the words of that name."""
    groups = {name: f"(?:{'|'.join(some)})" for name, some in plain["words"].items()}
    patterns = {}
    for one in plain["cues"]:
        if "said" in one:
            told = "|".join(one["said"])
            for name, group in groups.items():
                told = told.replace(f"{{{name}}}", group)
            patterns[one["cue"]] = re.compile(told)
    return Ear(tuple(one["cue"] for one in plain["cues"]), patterns)


def silences(plain: dict[str, Any]) -> Silences:
    """Where somebody is silent, from the data."""
    after = {
        (Stage(one["silence"]), marked, juncture): one[name][n]
        for one in plain["silences"]
        for marked, name in ((False, "unpunctuated"), (True, "punctuated"))
        for n, juncture in enumerate(JUNCTURES)
    }
    return Silences(after, {one["more"]: one["worth"] for one in plain["more_silence"]})


def idiom(plain: dict[str, Any]) -> Idiom:
    """How words lean to the parts of a class, from the data."""
    told = _read("hearing-words")
    column = [told["parts"].index("work" if part == "early work" else part) for part in RATED]
    return Idiom({word: np.array(leans)[column] for word, leans in told["words"].items()}, plain["idiom"])


def _plain() -> dict[str, Any]:
    return _read("hearing")


@lru_cache(maxsize=3)
def _read(name: str) -> dict[str, Any]:
    plain: dict[str, Any] = read_json(files("extendum.data").joinpath(f"{name}.json").read_text("utf-8"))
    return plain
