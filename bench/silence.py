"""Counts where somebody is silent between two stamps, in texts whose words have their real times: for bench/learn.py.

The shares of the silence of each line are fitted by what ends after each word, and by whether it is said in work
(multinomial logits, by Newton's method); a share is worth as many seconds as were really silent.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt

from bench.hear import FOLDER, lines_of
from extendum.core.heard.said import pieces_of
from extendum.core.heard.silence import Juncture, Stage, juncture, punctuated, signs_of, stages_of

#: What holds each number near 0, in seconds of silence; steps of the method.
RIDGE, STEPS, CLOSE = 4.0, 25, 1e-6
#: A real silence is no shorter, in seconds.
LEAST_S = 0.05
Table = npt.NDArray[np.float64]


@dataclass(frozen=True)
class Fitted:
    """What each line of ``silences`` and each of ``more_silence`` in the data says."""

    after: dict[Stage, dict[bool, list[float]]]
    more: dict[str, float]


@cache
def times() -> dict[str, dict[str, list[float] | float]]:
    """When each word of a text is really said, and how fast its speaker speaks."""
    told: dict[str, dict[str, list[float] | float]] = json.loads((FOLDER / "times.json").read_text())
    return told


def fitted(texts: Iterable[tuple[str, Sequence[bool]]]) -> Fitted:
    """Where somebody is silent, from texts by name, each with which of its words are said in work."""
    some = list(texts)
    first = _fit([row for name, works in some for row in _lines(name, None, len(works))])
    then = _fit([row for name, works in some for row in _lines(name, works, len(works))])
    after = {}
    for stage in Stage:
        told = first if stage is Stage.ANYWHERE else then
        after[stage] = {
            marked: [round(sum(told.get(one, 0.0) for one in _features(stage, marked, end)), 2) for end in Juncture]
            for marked in (False, True)
        }
    return Fitted(after, {name: round(then.get(name, 0.0), 2) for name in ("waiting", "ending", "numbers")})


def _features(stage: Stage, marked: bool, end: Juncture) -> list[str]:
    return [f"{marked} {end}", f"{marked} {stage} {end}", f"{stage}"]


_Row = tuple[list[list[str]], Table]


def _lines(name: str, works: Sequence[bool] | None, words: int) -> list[_Row]:
    """For each line of a text what speaks for a silence after each word, and the seconds that were really silent."""
    told = [pieces_of(line.text) for line in lines_of(name)]
    marked, stages = punctuated(told), stages_of(works, words)
    at = np.array(times()[name]["at_s"])
    silent = np.append(np.diff(at), LEAST_S) - 60 / float(times()[name]["words_a_minute"])  # type: ignore[arg-type]
    if len(at) != words or sum(map(len, told)) != words:
        raise ValueError(f"{name}: times must stand for each of {words} words, found {len(at)}")
    found, n = [], 0
    for pieces in told:
        rows = [
            [*_features(stages[n + k], marked, juncture(pieces, k)), *signs_of(pieces, k)] for k in range(len(pieces))
        ]
        found.append((rows, np.maximum(0.0, silent[n : n + len(pieces)])))
        n += len(pieces)
    return found


def _fit(lines: Sequence[_Row]) -> dict[str, float]:
    names = {one: n for n, one in enumerate(dict.fromkeys(x for rows, _ in lines for row in rows for x in row))}
    tables = []
    for rows, silent in lines:
        x = np.zeros((len(rows), len(names)))
        for k, row in enumerate(rows):
            x[k, [names[one] for one in row]] = 1.0
        tables.append((x, silent))
    worth = np.zeros(len(names))
    for _ in range(STEPS):
        likely, slope, curve = _likely(worth, tables)
        step = np.linalg.solve(curve, slope)
        while _likely(worth + step, tables)[0] < likely and np.abs(step).max() > CLOSE:
            step /= 2
        worth += step
    return dict(zip(names, worth.tolist(), strict=True))


def _likely(worth: Table, tables: Sequence[tuple[Table, Table]]) -> tuple[float, Table, Table]:
    """How likely the silences are by some numbers, how that rises with each of them, and how that in turn falls."""
    likely, slope, curve = -RIDGE / 2 * float(worth @ worth), -RIDGE * worth, RIDGE * np.eye(len(worth))
    for x, silent in tables:
        told = x @ worth
        told -= told.max()
        whole = np.exp(told).sum()
        share = np.exp(told) / whole
        likely += float(silent @ (told - np.log(whole)))
        slope = slope + x.T @ (silent - silent.sum() * share)
        mean = x.T @ share
        curve = curve + silent.sum() * ((x.T * share) @ x - np.outer(mean, mean))
    return likely, slope, curve
