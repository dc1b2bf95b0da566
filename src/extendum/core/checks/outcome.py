"""What a remedy comes to: the class with it applied, with what belongs to it, and what changes in so many words."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import takewhile

from extendum.core.checks.finding import Finding
from extendum.core.checks.report import Report, check, keep
from extendum.core.model.dose_kinds import describe
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Script
from extendum.core.model.spoken import spoken_texts
from extendum.core.model.timeline import Timeline, clock
from extendum.core.timing.compile import compile_script
from extendum.core.timing.talking import pieces_of

#: How many further remedies one may need before there is no more to find than at first.
FOLLOWED = 6
#: So many changes are named, the others counted.
TOLD = 2
#: A sentence of so many words is quoted whole where it changes.
SHORT = 12
#: Remedies that touch the whole class: another remedy takes them along only where nothing nearer helps.
WIDE = ("floor-often", "supports-often", "prop-often", "off-slot")


@dataclass(frozen=True, slots=True)
class Outcome:
    """A class after a remedy: what was mended with it, what the remedy changed, its length before and now, in s."""

    script: Script
    also: tuple[str, ...]
    changes: tuple[str, ...]
    before_s: int
    now_s: int
    found: int

    @property
    def told(self) -> str:
        """All of it in a few sentences."""
        more = len(self.changes) - TOLD
        changes = [*self.changes[:TOLD], *([f"{more} more like {'it' if more == 1 else 'them'}"] if more > 0 else [])]
        also = f"also: {'; '.join(one[:1].lower() + one[1:] for one in dict.fromkeys(self.also))}" if self.also else ""
        lines = [_sentence(one) for one in (*changes, also) if one]
        left = f"{self.found} finding{'s' * (self.found != 1)} left." if self.found else "No finding is left."
        return " ".join([*lines, self._length(), left])

    def _length(self) -> str:
        by = self.now_s - self.before_s
        if not by:
            return f"The class stays {clock(self.now_s)}."
        again = "; fit it again" if self.before_s == self.script.brief.target_s else ""
        return f"The class becomes {clock(self.now_s)}, {abs(by)} s {'longer' if by > 0 else 'shorter'}{again}."


def _sentence(words: str) -> str:
    """Words as a sentence; one that ends with a quoted sentence has its full stop there."""
    return f"{words[:1].upper()}{words[1:]}{'' if words.endswith(('.”', '?”', '!”')) else '.'}"


def mended(
    script: Script,
    finding: Finding,
    library: Sequence[LibraryMove] = (),
    taken: Callable[[str], str] = lambda key: "",
) -> Outcome:
    """The class with a finding's remedy, and with those of whatever the remedy brings up.

    There is never more to find afterwards than before; RefusedError where no edit mends it, or only at the price of
    something else.
    """
    if finding.found.mend is None:
        raise RefusedError("finding", "one that an edit can mend", finding.key)
    refused = []
    for change in (finding.found.mend.change, *finding.found.mend.instead):
        try:
            return _settled(script, change(script), partial(_look, library=library, taken=taken))
        except RefusedError as error:
            refused.append(error)
    raise refused[0]


def _settled(script: Script, after: Script, look: Callable[[Script], tuple[Timeline, Report]]) -> Outcome:
    """A class after an edit, with the remedies of what the edit brings up; RefusedError where they do not suffice."""
    timeline, before = look(script)
    also, changes = list[str](), tuple(_changes(script, after))
    for _ in range(FOLLOWED):
        now_at, now = look(after)
        after = _still_kept(after, before, now)
        now_at, now = look(after) if now.open and before.kept else (now_at, now)
        if len(now.open) <= len(before.open):
            return Outcome(after, tuple(also), changes, timeline.length_s, now_at.length_s, len(now.open))
        step = next(_steps(after, before, now), None)
        if step is None:
            break
        after, words = step
        also.append(words)
    told = "; ".join(dict.fromkeys(one.found.message for one in _new(before, now)))
    raise RefusedError("remedy", "one after which there is no more to find than before", told)


def _look(script: Script, library: Sequence[LibraryMove], taken: Callable[[str], str]) -> tuple[Timeline, Report]:
    timeline = compile_script(script)
    return timeline, check(script, timeline, library, taken)


def _new(before: Report, now: Report) -> list[Finding]:
    """What is found now and was not before."""
    known = {one.key for one in before.open}
    return [one for one in now.open if one.key not in known]


def _steps(script: Script, before: Report, now: Report) -> Iterator[tuple[Script, str]]:
    """The class with a remedy of something new, for each that can be mended; what touches all of it comes last."""
    for one in sorted(_new(before, now), key=lambda found: WIDE.index(found.code) if found.code in WIDE else -1):
        if one.found.mend is not None:
            try:
                yield one.found.mend.change(script), one.found.mend.words
            except RefusedError:
                continue


def _still_kept(script: Script, before: Report, now: Report) -> Script:
    """What the teacher kept stays kept where it is found in the same words, though its item has changed."""
    kept = {(one.key, _bare(one)): one.because for one in before.kept}
    for one in now.open:
        if because := kept.get((one.key, _bare(one))):
            script = keep(script, one, because)
    return script


def _bare(finding: Finding) -> str:
    return re.sub(r"\d+(:\d+)?", "", finding.found.message)


def _changes(before: Script, after: Script) -> Iterator[str]:
    """What is different, item by item: what is said, how long it is done, what comes and what goes."""
    had, has = {item.id: item for item in before.items()}, {item.id: item for item in after.items()}
    for one, item in has.items():
        if one not in had:
            yield f"{item.name} comes in"
        elif had[one] != item:
            yield from _of_item(had[one], item, after)
    yield from (f"{item.name} goes out" for one, item in had.items() if one not in has)
    if [one for one in had if one in has] != [one for one in has if one in had]:
        yield "the order changes"
    if before.style != after.style:
        yield "how the class is cued changes"
    if before.meanwhiles != after.meanwhiles:
        yield "what is said meanwhile changes"


def _of_item(old: Item, new: Item, after: Script) -> Iterator[str]:
    if isinstance(old, MoveItem) and isinstance(new, MoveItem):
        if old.move.key != new.move.key:
            yield f"{new.name} takes the place of {old.name}"
            return
        doses = zip(old.doses, new.doses, strict=False)
        yield from (f"{new.name}: {describe(a)} become {describe(b)}" for a, b in doses if describe(a) != describe(b))
    elif old.quantity.value != new.quantity.value:
        yield f"{new.name}: {old.quantity.value} s become {new.quantity.value} s"
    was, said = _sentences(old), _sentences(new)
    gone, come = [one for one in was if one not in said], [one for one in said if one not in was]
    yield from _said(new.name, gone, come)
    if not gone and not come and describe_all(old) == describe_all(new) and old != new:
        yield _set(old, new, after)


def _said(name: str, gone: Sequence[str], come: Sequence[str]) -> Iterator[str]:
    """Sentences that are no longer said and that are; of a long one that only differs in some words, these."""
    if len(gone) == len(come) and all(len(one.split()) > SHORT for one in gone):
        for old, new in zip(gone, come, strict=True):
            was, now = _differing(old.split(), new.split())
            yield f"{name} says “{now}” instead of “{was}”"
        return
    yield from (f"{name} no longer says “{one}”" for one in gone)
    yield from (f"{name} says “{one}”" for one in come)


def _differing(old: list[str], new: list[str]) -> tuple[str, str]:
    """The words in which two sentences differ, each with one word before and after it."""
    first = _alike(old, new)
    last = _alike(old[first:][::-1], new[first:][::-1])
    parts = []
    for words in (old, new):
        start, end = max(0, first - 1), min(len(words), len(words) - last + 1)
        parts.append(f"{'… ' * (start > 0)}{' '.join(words[start:end])}{' …' * (end < len(words))}")
    return parts[0], parts[1]


def _alike(some: Sequence[str], others: Sequence[str]) -> int:
    """How many words are the same from the first on."""
    return sum(1 for _ in takewhile(lambda pair: pair[0] == pair[1], zip(some, others, strict=False)))


def _set(old: Item, new: Item, after: Script) -> str:
    """What differs where nothing else is said or done."""
    if isinstance(old, MoveItem) and isinstance(new, MoveItem):
        if old.lead_side != new.lead_side:
            return f"{new.name} starts on the {new.lead_side or after.style.lead_side}"
        if old.facing != new.facing:
            return f"{new.name}: you stand {new.facing}"
        if old.words != new.words or old.then != new.then:
            return f"{new.name} gives its prompts at other times"
    return f"{new.name} is set differently"


def describe_all(item: Item) -> tuple[str, ...]:
    """All doses of an item in words, or its seconds."""
    return tuple(map(describe, item.doses)) if isinstance(item, MoveItem) else (str(item.quantity.value),)


def _sentences(item: Item) -> list[str]:
    texts = (words for _, words in spoken_texts(item))
    return list(dict.fromkeys(one for words in texts for one in pieces_of(words) if isinstance(one, str)))
