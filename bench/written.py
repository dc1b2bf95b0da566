"""Hears the recordings in tests/data/heard as other programs would have written them: `python -m bench.written`.

The words and when they are said stay the same; what is heard of them should, too. And as slower and brisker teachers
would have given them: all silence is longer, or shorter, and nothing else.
"""

from __future__ import annotations

import html
import re
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np

from bench.hear import FOLDER, Thing, corrections, heard_in, lines_of, names, scored, summed_up, truth_of
from extendum.core.heard.hear import hear
from extendum.core.heard.said import Word
from extendum.formats.hearing import hearing
from extendum.formats.library import shipped_moves
from extendum.formats.spoken import Spoken
from extendum.formats.timed_text import read_timed

#: Captions have so many words, or fewer before a silence of so many seconds.
WORDS, SILENCE_S = 8, 2.0
#: What a truth has in seconds from the start of its text; reminders have several.
TIMES = ("start_s", "end_s", "named_at_s", "from_s", "to_s", "at_s")
#: How much longer all silence is made.
PACES = (0.5, 1.0, 1.6, 2.5)


def text_of(name: str) -> str:
    """The text as it is."""
    return (FOLDER / f"{name}.txt").read_text()


def with_lines(name: str, of: Callable[[str], str]) -> str:
    """The text with each of its lines written otherwise."""
    return re.sub(r"^(\[\d+:\d\d\] )(.*)$", lambda line: line[1] + of(line[2]), text_of(name), flags=re.M)


def captions(name: str) -> Iterator[tuple[list[Word], float]]:
    """The words of a text in captions, and when the next one comes, as they are heard now."""
    words, held = heard_in(name).words, []
    for n, word in enumerate(words):
        held.append(word)
        after = words[n + 1].at if n + 1 < len(words) else word.until
        if len(held) == WORDS or after - word.until > SILENCE_S or n + 1 == len(words):
            yield held, after
            held = []


def rolling(name: str, *, timed: bool) -> str:
    """Captions of two rows, of which the upper one is the last one again; ``timed``: each word has its own time."""
    told, above = ["WEBVTT\n"], " "
    for words, after in captions(name):
        texts = [word.text for word in words]
        row = " ".join(texts)
        parts = [f"<{_time(word.at)}><c> {word.text}</c>" for word in words[1:]]
        shown = "".join([texts[0], *parts]) if timed else row
        told.append(f"{_time(words[0].at)} --> {_time(after - 0.01)} align:start\n{above}\n{shown}\n")
        told.append(f"{_time(after - 0.01)} --> {_time(after)} align:start\n{row}\n \n")
        above = row
    return "\n".join(told)


def parted(name: str) -> str:
    """Captions with their ends, in the style of SRT."""
    told = [
        f"{n}\n{_time(words[0].at)} --> {_time(words[-1].until)}\n{' '.join(word.shown for word in words)}\n"
        for n, (words, _) in enumerate(captions(name), 1)
    ]
    return "\n".join(told).replace(".", ",").replace(",\n", ".\n")


def paced(name: str, share: float) -> tuple[list[Spoken], Thing]:
    """The lines of a text, and what is in it, if each silence lasted so many times as long as it is heard to last."""
    words = heard_in(name).words
    at = np.array([word.at for word in words])
    until = np.minimum([word.until for word in words], np.append(at[1:], np.inf))
    real = np.concatenate(([0.0], np.ravel(np.column_stack((at, until))), [until[-1] + 99.0]))
    lasts = np.diff(real)
    lasts[0:-1:2] *= share
    whole = np.concatenate(([0.0], np.cumsum(lasts)))

    def told(thing: Any) -> Any:
        if isinstance(thing, dict):
            return {key: moved(one) if key in TIMES else told(one) for key, one in thing.items()}
        return [told(one) for one in thing] if isinstance(thing, list) else thing

    def moved(seconds: Any) -> Any:
        return [moved(one) for one in seconds] if isinstance(seconds, list) else float(np.interp(seconds, real, whole))

    truth: Thing = told(truth_of(name))
    ends = sorted(one["to_s"] for move in truth["moves"] for one in move["passes"])
    for call in truth["calls"]:
        end = next((end for end in ends if end > call["at_s"]), None)
        call["really_s"] = None if end is None else end - call["at_s"]
    return [Spoken(moved(one.start), one.text) for one in lines_of(name)], truth


def _time(seconds: float) -> str:
    ms = round(1000 * seconds)
    return f"{ms // 3600000:02d}:{ms // 60000 % 60:02d}:{ms // 1000 % 60:02d}.{ms % 1000:03d}"


WAYS: dict[str, Callable[[str], str]] = {
    "as it is": text_of,
    "in capitals": lambda name: with_lines(name, str.upper),
    "dashes without spaces": lambda name: with_lines(name, lambda line: line.replace(", ", "—")),
    "three points": lambda name: with_lines(name, lambda line: line.replace(", ", "...")),
    "with noises": lambda name: with_lines(name, lambda line: f"[music] {line} (laughs)"),
    "with a name": lambda name: with_lines(name, lambda line: f"Teacher: {line}"),
    "as HTML": lambda name: with_lines(name, lambda line: f"&gt;&gt; {html.escape(line)}"),
    "times on lines of their own": lambda name: re.sub(r"^\[([\d:]+)\] ", r"\1\n", text_of(name), flags=re.M),
    "captions": parted,
    "captions that roll": lambda name: rolling(name, timed=False),
    "the same, each word timed": lambda name: rolling(name, timed=True),
}


def main() -> None:
    """Print what is heard of *dev*, *lesson* and *fresh* in each way, and at each pace."""
    some, hears = [name for kind in ("dev", "lesson", "fresh") for name in names(kind)], hearing(tuple(shipped_moves()))
    ways = {way: [(read_timed(of(name)), truth_of(name)) for name in some] for way, of in WAYS.items()}
    paces = {f"silence times {pace}": [paced(name, pace) for name in some] for pace in PACES}
    print(f"{'':28} {'moves':>8} {'passes':>8} {'switches':>9} {'counts':>7} {'seconds off':>12} {'corrections':>12}")
    for way, texts in (ways | paces).items():
        heard = [(truth, hear(lines, hears)) for lines, truth in texts]
        stamps = [[line.start for line in lines_of(name)] for name in some]
        rows, off = summed_up([scored(truth, at, one) for (truth, one), at in zip(heard, stamps, strict=True)])
        needed = sum(sum(corrections(one, truth).values()) for truth, one in heard)
        told = ["{}/{}".format(*rows[kind]) for kind in ("moves", "passes", "switches", "counts")]
        print(
            f"{way:28} {told[0]:>8} {told[1]:>8} {told[2]:>9} {told[3]:>7} {off:12.1f} {needed:12}",
            flush=True,
        )


if __name__ == "__main__":
    main()
