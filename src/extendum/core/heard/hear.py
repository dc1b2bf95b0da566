"""From the words of a recording to guesses, and from those to stretches of time by move and side.

Times inside a line are told by the words before them, at a speaking rate; where stamps are far apart the words are
taken to lie evenly between them.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace

from extendum.core.heard.counts import counts
from extendum.core.heard.guess import Guess, Heard, Line, Stretch, What, Word
from extendum.core.heard.phrases import in_sentence

#: Words a second while speaking.
RATE = 2.6
#: Where stamps are further apart the words are taken to lie evenly between them; below, to be said at once.
COARSE_S = 15.0
#: A switch that is told again within so long is the same one.
SAME_S = 12.0
#: Time that was held for less is no stretch.
LEAST_S = 3.0


def hear(lines: Sequence[Line], names: Sequence[str] = (), wrong: Collection[str] = ()) -> Heard:
    """What lines tell; ``names`` are moves that may be called by name, ``wrong`` keys of guesses that are not so."""
    words = list(_words(lines))
    length = max((word.at for word in words), default=0.0) + 1.0
    known = [re.compile(rf"\b{_loosely(name)}\b") for name in names if len(name) > 4]
    found: list[Guess] = []
    for sentence in _sentences(words):
        found += in_sentence(sentence, known)
    found += counts(words)
    found = sorted((one for one in found if one.key not in wrong), key=lambda one: one.at)
    guesses, stretches = _told(found, length)
    return Heard(length, tuple(guesses), tuple(stretches))


def _words(lines: Sequence[Line]) -> Iterator[Word]:
    for n, line in enumerate(lines):
        said = line.text.split()
        after = lines[n + 1].start if n + 1 < len(lines) else line.start + len(said) / RATE
        whole = max(0.5, after - line.start)
        rate = len(said) / whole if whole > COARSE_S and len(said) > 8 else max(RATE, len(said) / whole)
        for k, word in enumerate(said):
            plain = re.sub(r"[^a-z0-9']", "", word.casefold().replace("’", "'"))
            if plain:
                yield Word(line.start + k / rate, plain, word[-1] in ".!?" or k == len(said) - 1, n)


def _sentences(words: Sequence[Word]) -> Iterator[list[Word]]:
    held: list[Word] = []
    for word in words:
        held.append(word)
        if word.ends:
            yield held
            held = []
    if held:
        yield held


def _loosely(name: str) -> str:
    return r"\W+".join(re.escape(word) for word in re.findall(r"[a-z0-9']+", name.casefold()))


_OTHER = {"left": "right", "right": "left", "first": "second", "second": "first"}


def _told(found: Sequence[Guess], length: float) -> tuple[list[Guess], list[Stretch]]:
    """Moves, switches and stretches of time from the guesses in order; what only repeats is left out."""
    kept: list[Guess] = []
    stretches: list[Stretch] = []
    name, side, sure = "", "", 0.5
    opened: float | None = None
    switched = moved = -100.0

    def close(at: float) -> None:
        nonlocal opened
        if opened is not None and at - opened >= LEAST_S:
            stretches.append(Stretch(name, side or "first", opened, at, sure))
        opened = None

    for guess in found:
        match guess.what:
            case What.MOVE:
                if guess.value == name or (guess.sure < 0.7 and guess.at - moved < SAME_S):
                    continue
                close(guess.at)
                name, side, moved, switched = guess.value, "", guess.at, -100.0
            case What.SWITCH:
                if not name or guess.at - switched < SAME_S or guess.at - moved < 4:
                    continue
                close(guess.at)
                side, switched, sure = _OTHER.get(side, "second"), guess.at, 0.6
            case What.SIDE:
                if (
                    side in ("left", "right")
                    and guess.value != side
                    and guess.at - switched >= SAME_S
                    and guess.at - moved >= SAME_S
                ):
                    close(guess.at)
                    kept.append(replace(guess, what=What.SWITCH, sure=0.8))
                    switched = guess.at
                side, sure = (guess.value, 0.9) if opened is None or not side else (side, sure)
            case What.HOLD:
                if opened is None:
                    opened = guess.at
            case What.RELEASE:
                close(guess.at)
        kept.append(guess)
    close(length)
    return kept, stretches
