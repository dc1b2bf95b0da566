"""What a recording is heard by, read from the data that ships: rates, lengths, borders and the words of moves."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from importlib.resources import files
from typing import Any

import numpy as np

from extendum.core.heard.cues import Ear
from extendum.core.heard.hear import Hearing
from extendum.core.heard.names import Namer, Signature, signature
from extendum.core.heard.parts import Weights
from extendum.core.heard.states import NEVER, Lasting, Model, State
from extendum.core.model.library import LibraryMove
from extendum.formats.json_text import read_json

#: Parts as the data names them, and the states that each stands for.
PARTS = {
    "talk": (State.TALK,),
    "set-up": (State.SET_UP,),
    "work": (State.WORK,),
    "switch": (State.SWITCH,),
    "work again": (State.AGAIN,),
    "release": (State.RELEASE,),
    "last release": (State.RELEASED,),
}


@lru_cache(maxsize=8)
def hearing(library: tuple[LibraryMove, ...]) -> Hearing:
    """What recordings are heard by, with the moves of a library."""
    plain = _plain()
    weights = Weights(**{one["border"]: one["worth"] for one in plain["borders"]})
    return Hearing(model(plain), weights, namer(library), ear(plain))


def namer(library: Iterable[LibraryMove]) -> Namer:
    """What tells the moves of a library apart; signatures of moves that are not in it are left out."""
    some = tuple(library)
    keys = {one.move.key for one in some}
    told: list[Signature] = []
    for entry in _plain()["moves"]:
        if here := [key for key in entry["moves"] if key in keys]:
            told += [signature(here, one) for one in entry["said"]]
    return Namer(some, tuple(told))


def model(plain: dict[str, Any]) -> Model:
    """The states of the model, from the data."""
    state = {name: some[0] for name, some in PARTS.items()}
    lasting, follow = {}, np.full((len(State), len(State)), NEVER)
    for one in plain["parts"]:
        own = state[one["part"]]
        lasting[own] = Lasting(one["middle_s"], one["spread"], one["least_s"], one["most_s"])
        for name, share in one["then"].items():
            follow[own, state[name]] = np.log(share)
    rates = {one["cue"]: one["a_minute"] for one in plain["cues"]}
    column = ("talk", "set-up", "work", "switch", "work", "release", "release", "early work")
    table = np.array([[rate[part] for part in column] for rate in rates.values()])
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


@lru_cache(maxsize=1)
def _plain() -> dict[str, Any]:
    plain: dict[str, Any] = read_json(files("extendum.data").joinpath("hearing.json").read_text("utf-8"))
    return plain
