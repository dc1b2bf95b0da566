"""Counts what recordings are heard by in the texts ``dev`` and ``lesson`` of tests/data/heard: `make learn-hearing`.

Writes rates of cues, words, silences and the signs of second sides into data/hearing.json and data/hearing-words.json,
after each text was laid along what is really in it. `python -m bench.learn --left-out` prints how well each text is
heard by what all others tell, and again with most signatures and many cues taken away, as another speaker's words
would do; what is chosen by hand (worths, patterns) was chosen by those two tables. The texts ``check`` and ``fresh``
are never read here.
"""

from __future__ import annotations

import json
import random
import sys
import tomllib
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt

from bench.hear import Row, Thing, lines_of, names, printed, scored_as, summed_up, truth_of
from bench.silence import fitted
from extendum.core.heard.cues import Cues, cues_in
from extendum.core.heard.hear import Hearing, hear, length_of
from extendum.core.heard.holds import in_work
from extendum.core.heard.idiom import Idiom, counted, leanings
from extendum.core.heard.likeness import stems_of
from extendum.core.heard.names import Sign, signs
from extendum.core.heard.pace import Pace, pace_of
from extendum.core.heard.parts import SIDED_WORDS, Told, bonus_of, places_of
from extendum.core.heard.said import Word, said
from extendum.core.heard.silence import Stage
from extendum.core.heard.states import RELEASES, WORKS, Evidence, Floats, Part, Places, State, explain, sketch
from extendum.formats.hearing import RATED, hearing
from extendum.formats.library import shipped_moves

DATA = Path(__file__).parents[1] / "src" / "extendum" / "data"
TEXTS = (*names("dev"), *names("lesson"))
#: A border of the truth may lie so many seconds from a place where a part can begin, and draws it so much.
NEAR_S, DRAWN = 4.0, 7.0
#: Minutes at the usual rate that every rate is mixed with, and the least one.
PRIOR_MIN, LEAST_RATE = 0.35, 0.02
#: What a text of the library counts for beside one of a recording, and how much of a class each part is.
LIBRARY, SPOKEN = 0.3, 1.0
SHARES = {"talk": 0.16, "set-up": 0.3, "work": 0.4, "switch": 0.06, "release": 0.08}
#: How many of the signatures, of the words for switches and releases, and of other cues are taken away; how often.
LOST, LOST_TURNS, LOST_CUES, TIMES = 0.7, 0.65, 0.3, 3
_TURNS = ("switch", "release", "short")
_OTHERS = ("acts", "body", "command", "next")
EARLY = len(State)
Table = npt.NDArray[np.float64]


@dataclass(frozen=True)
class Text:
    """A text with what was found in it, and what is really in it."""

    name: str
    words: tuple[Word, ...]
    found: list[Sign]
    cues: Cues
    places: Places
    pace: Pace
    truth: Thing


@cache
def own() -> Hearing:
    """What recordings are heard by now."""
    return hearing(tuple(shipped_moves()))


@cache
def text(name: str) -> Text:
    """One of the texts, its words at the times that they have once it is known which of them are said in work."""
    first = _text(name, None)
    return _text(name, in_work(_aligned(first)))


def _text(name: str, works: Sequence[bool] | None) -> Text:
    lines = lines_of(name)
    words = said(lines, own().silences, works)
    found = signs(words, own().namer.signatures)
    cues = cues_in(words, found, own().ear)
    length = length_of(words, lines)
    return Text(name, words, found, cues, places_of(words, cues, length), pace_of(words, length), truth_of(name))


def borders(truth: Thing) -> dict[State, list[float]]:
    """When each part of a text really begins, in seconds."""
    at: dict[State, list[float]] = {state: [] for state in State}
    last = 0.0
    for move in truth["moves"]:
        if move["start_s"] - last > 3:
            at[State.TALK].append(last)
        passes = move["passes"]
        more = len(passes) > 1
        at[State.FIRST_SET_UP if more else State.SET_UP].append(move["start_s"])
        for n, one in enumerate(passes):
            at[State.AGAIN if n else State.FIRST if more else State.WORK].append(one["from_s"])
            at[State.RELEASE if n + 1 < len(passes) else State.RELEASED].append(one["to_s"])
            if n + 1 < len(passes):
                turns = [turn["at_s"] for turn in truth["switches"]]
                at[State.SWITCH] += [one["to_s"], *(t for t in turns if -3 <= t - one["to_s"] <= 30)]
        last = move["end_s"]
    at[State.TALK].append(last)
    return at


@cache
def aligned(name: str) -> list[Part]:
    """The parts of a text, laid along what is really in it."""
    return _aligned(text(name))


def _aligned(here: Text) -> list[Part]:
    hears = own()
    drawn = np.zeros((len(State), len(here.places.word)))
    for state, times in borders(here.truth).items():
        begins = here.places.ended if state in WORKS else here.places.begins
        off = np.abs(begins[:, None] - np.array(times or [1e9])[None, :]).min(axis=1)
        near = 2.0 if state in RELEASES else DRAWN - 0.5 * off
        drawn[state] = np.where(off <= NEAR_S, near, -DRAWN)
    told = Told(here.words, here.cues, here.found, {})
    bonus = bonus_of(told, here.places, hears.weights, hears.namer, hears.sides)
    return _explained(here, bonus + drawn)


def _explained(here: Text, bonus: Floats, *, roughly: bool = False) -> list[Part]:
    lean = own().idiom.sums([word.stem for word in here.words], len(State))
    cues, places = here.cues.sums(len(here.words)), here.pace.places(here.places)
    evidence = Evidence(places, cues, bonus, lean)
    return here.pace.parts(sketch(own().model, evidence)[0] if roughly else explain(own().model, evidence))


def counts_in(name: str) -> tuple[Table, Table]:
    """How many cues of each kind are said in each state of a text, and how many seconds each state lasts."""
    here = text(name)
    kinds = own().ear.kinds
    cues, seconds = np.zeros((len(kinds), len(State) + 1)), np.zeros(len(State) + 1)
    early_s = own().model.early_s
    at = here.pace.evened(np.array([word.at for word in here.words]))
    for part in aligned(name):
        start, end = here.pace.evened(np.array([part.start, part.end])).tolist()
        lasts, early = end - start, min(early_s, end - start) if part.state in WORKS else 0.0
        seconds[part.state] += lasts - early
        seconds[EARLY] += early
        for n, kind in enumerate(kinds):
            for word in here.cues.at[kind]:
                if part.first <= word < part.last:
                    settled = part.state not in WORKS or at[word] >= start + early_s
                    cues[n, part.state if settled else EARLY] += 1
    return cues, seconds


def rates(some: Iterable[str]) -> Table:
    """Cues a minute in each state, counted in some texts; states that are rated alike are counted together."""
    told = [counts_in(name) for name in some]
    cues, seconds = sum(one for one, _ in told), sum(one for _, one in told)
    usual = cues.sum(axis=1) / seconds.sum() * 60  # type: ignore[union-attr]
    found = np.zeros_like(cues)
    for n, kind in enumerate(RATED):
        alike = [k for k, other in enumerate(RATED) if other == kind]
        many, minutes = cues[:, alike].sum(axis=1), seconds[alike].sum() / 60  # type: ignore[index]
        found[:, n] = (many + PRIOR_MIN * usual) / (minutes + PRIOR_MIN)
    return np.maximum(LEAST_RATE, found)


def leans(some: Iterable[str]) -> dict[str, dict[str, float]]:
    """How words lean to the parts, counted in some texts and in the library."""
    counts: dict[str, Counter[str]] = {part: Counter() for part in SHARES}
    for entry in shipped_moves():
        words = entry.words
        parts = {"set-up": [words.moving, words.there], "switch": [words.switch], "release": [words.release]}
        for part, texts in (*parts.items(), ("work", [prompt.text for prompt in words.prompts])):
            counts[part].update(counted((_stems(one) for one in texts), LIBRARY))
    for part, phrases in spoken().items():
        counts[part].update(counted((_stems(one) for one in phrases), SPOKEN))
    for name in some:
        for one in aligned(name):
            kind = RATED[one.state]
            stems = [word.stem for word in text(name).words[one.first : one.last]]
            counts[kind].update(counted([stems]))
    return leanings(counts, SHARES)


@cache
def spoken() -> dict[str, list[str]]:
    """Made-up ways to talk in each part."""
    plain = tomllib.loads(Path(__file__).with_name("spoken.toml").read_text("utf-8"))
    return {part: told.strip().splitlines() for part, told in plain.items()}


def _stems(told: str) -> list[str]:
    return list(stems_of([told], dull=True))


def idiom(some: Iterable[str]) -> Idiom:
    """The same as it is heard by."""
    column = ["work" if part == "early work" else part for part in RATED]
    told = leans(some)
    return Idiom({word: np.array([lean[part] for part in column]) for word, lean in told.items()}, own().idiom.share)


def sides(some: Iterable[str]) -> list[float]:
    """What tells a second side, by logistic regression over the moves of some texts: base, and each sign's worth."""
    rows, twice = [], []
    for name in some:
        here = text(name)
        at = [word.at for word in here.words]
        for move in here.truth["moves"]:
            first = int(np.searchsorted(at, move["start_s"] - 0.5))
            rows.append((1.0, *own().sides.found(here.words[first : first + SIDED_WORDS], own().namer.likeness)))
            twice.append(len(move["passes"]) > 1)
    x, y = np.array(rows), np.array(twice, dtype=float)
    worth = np.zeros(x.shape[1])
    ridge = 0.3 * np.diag([0.0, *[1.0] * (x.shape[1] - 1)])
    for _ in range(100):
        likely = 1 / (1 + np.exp(-x @ worth))
        slope = (x.T * (likely * (1 - likely))) @ x + ridge
        worth += np.linalg.solve(slope, x.T @ (y - likely) - ridge @ worth)
    return [round(float(one), 1) for one in worth]


def without(name: str, hears: Hearing) -> Hearing:
    """A hearing that was not counted in one text."""
    others = [one for one in TEXTS if one != name]
    return replace(hears, model=replace(hears.model, rates=rates(others)), idiom=idiom(others))


def deaf(hears: Hearing, seed: int) -> Hearing:
    """A hearing that knows fewer signatures."""
    some = random.Random(seed)
    kept = tuple(one for one in hears.namer.signatures if some.random() > LOST)
    return replace(hears, namer=replace(hears.namer, signatures=kept))


def dropped(cues: Cues, seed: str) -> Cues:
    """Cues of which many are lost."""
    some = random.Random(seed)
    lost = dict.fromkeys(_TURNS, LOST_TURNS) | dict.fromkeys(_OTHERS, LOST_CUES)
    at = {kind: tuple(n for n in places if some.random() >= lost.get(kind, 0.0)) for kind, places in cues.at.items()}
    return replace(cues, at=at)


def left_out(kind: str, hears: Hearing | None = None, *, seeds: Sequence[int] = ()) -> tuple[dict[str, Row], float]:
    """How well each text of a kind is heard by what all others tell; with seeds, by fewer signatures and cues."""
    told = []
    for name in names(kind):
        one = without(name, hears or own())
        if not seeds:
            told.append(scored_as(name, hear(lines_of(name), one)))
        for seed in seeds:
            drop = f"{name} {seed}"
            told.append(scored_as(name, hear(lines_of(name), deaf(one, seed), lambda cues, d=drop: dropped(cues, d))))
    return summed_up(told)


def _heard_works(name: str) -> list[bool]:
    """Which words of a text are heard to be said in work, as long as nobody knows better."""
    first, hears = _text(name, None), own()
    bonus = bonus_of(
        Told(first.words, first.cues, first.found, {}), first.places, hears.weights, hears.namer, hears.sides
    )
    return in_work(_explained(first, bonus, roughly=True))


def write() -> None:
    """Put what was counted into the data, line by line: what was written by hand stays."""
    path = DATA / "hearing.json"
    table = rates(TEXTS)
    kinds = list(own().ear.kinds)
    worths = dict(zip(("base", "alike", "one", "both", "named"), sides(TEXTS), strict=True))
    silent = fitted((name, _heard_works(name)) for name in TEXTS)
    lines = []
    for line in path.read_text("utf-8").splitlines():
        plain: dict[str, Any] = json.loads(line.rstrip(",")) if line.startswith('  {"') else {}
        if "cue" in plain:
            row = table[kinds.index(plain["cue"])]
            plain["a_minute"] = {part: round(float(row[RATED.index(part)]), 2) for part in plain["a_minute"]}
        elif "tells" in plain:
            plain["worth"] = worths[plain["tells"]]
        elif "silence" in plain:
            told = silent.after[Stage(plain["silence"])]
            plain |= {"unpunctuated": told[False], "punctuated": told[True]}
        elif "more" in plain:
            plain["worth"] = silent.more[plain["more"]]
        counted = {"cue", "tells", "silence", "more"} & set(plain)
        lines.append(f"  {json.dumps(plain)}{',' * line.endswith(',')}" if counted else line)
    words = leans(TEXTS)
    path.write_text("\n".join(lines) + "\n", "utf-8")
    rows = ",\n".join(
        f"  {json.dumps(word)}: {json.dumps([round(words[word][part], 2) for part in SHARES])}"
        for word in sorted(words)
    )
    about = (
        "How much oftener a word, or two in a row, is said in a part of a class than elsewhere (logarithms), "
        "counted in the same texts and in the words of the library by bench/learn.py."
    )
    head = f'{{"format": "extendum-hearing-words", "version": 1, "about": {json.dumps(about)},'
    told = f'{head}\n "parts": {json.dumps(list(SHARES))},\n "words": {{\n{rows}\n }}\n}}\n'
    (DATA / "hearing-words.json").write_text(told, "utf-8")


def main() -> None:
    """Count and write, or print how well texts are heard that were left out."""
    if "--left-out" not in sys.argv:
        write()
        return
    for kind in ("dev", "lesson"):
        printed(f"{kind}: each by all others", *left_out(kind))
        printed(f"{kind}: the same, much not known, {TIMES} times", *left_out(kind, seeds=range(TIMES)))


if __name__ == "__main__":
    main()
