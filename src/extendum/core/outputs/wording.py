"""The words of a class as they are read aloud: how long each text takes, the room it has, and what is wrong in it."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass
from functools import lru_cache

from extendum.core.listening.named_sides import sides_named
from extendum.core.listening.reminding import reminder
from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.marks import without_marks
from extendum.core.model.placeholders import fill
from extendum.core.model.script import Script
from extendum.core.model.style import RATES, CueStyle
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import Cue, CueKind, Mode, Segment, Timeline
from extendum.core.timing.durations import line_of_way
from extendum.core.timing.facts import sides_told
from extendum.core.timing.layout import Laid, lay_out
from extendum.core.timing.sequence import Arrival, Pass
from extendum.core.timing.speech import SENTENCE_MS, ceil_s, sentences, speaking_ms, word_count
from extendum.core.timing.talking import talk_ms
from extendum.core.timing.way import Situation, way_into

#: Read aloud once to find the speaking rate of a person.
SAMPLE = (
    "Stand with your feet under your hips and let the shoulders sink. Breathe in, and as you breathe out, reach one "
    "arm up and lean a little to the other side. Keep both feet heavy. You should feel the whole side of the body "
    "grow long, without any pain. If it is too much, put the hand on your hip instead. Stay here, keep breathing, and "
    "come back to the middle slowly."
)
#: Once everybody is in position, the work begins within so many seconds; words that last longer keep people waiting.
THERE_MOST_S = 15
#: The same reminder said more often than this is too often.
REMINDERS_MOST = 4
#: Each text with the arrivals that it is said at; None for every pass.
_FIELDS: dict[str, tuple[Arrival, ...] | None] = {
    "moving": (Arrival.FIRST,),
    "there": (Arrival.FIRST,),
    "short": (Arrival.AGAIN, Arrival.OTHER),
    "switch": (Arrival.SWITCH, Arrival.OTHER, Arrival.OVER),
    "turn": (Arrival.TURN, Arrival.OVER),
    "again": (Arrival.SET,),
    "each": None,
    "release": None,
    "demonstration": (Arrival.FIRST,),
}
#: Texts that are said while something else takes its time: only what is longer pushes the work.
_ON_THE_WAY = ("moving", "short", "switch", "turn")


def literal_sides(words: str) -> list[str]:
    """Each left or right that names a side instead of a placeholder; 'right now' and 'what is left' do not."""
    return [words[one.start : one.end] for one in sides_named(words)]


def placed_sides(words: str, meant: Side) -> str:
    """The words with {side} and {other} for each left and right that names a side; ``meant`` is the side worked."""
    for one in reversed(sides_named(words)):
        words = words[: one.start] + ("{side}" if one.text == meant.value else "{other}") + words[one.end :]
    return words


def without_sides(words: str) -> str:
    """The words without {side} and {other} and without each left and right that names a side."""
    for one in reversed(sides_named(words)):
        words = words[: one.start] + words[one.end :]
    words = re.sub(r"\{(side|other)\}", "", words)
    return re.sub(r"\s+([.,;:!?])", r"\1", re.sub(r"\s{2,}", " ", words)).strip()


@dataclass(frozen=True, slots=True)
class Reading:
    """A text of an item: as written, as it is said on each side, and the time it takes and has."""

    item: str
    field: str
    words: str
    said: tuple[tuple[str, str], ...]
    said_ms: int
    room_ms: int | None
    literal: tuple[str, ...] = ()

    @property
    def waits_s(self) -> int:
        """Whole seconds that it keeps everybody waiting in position, beyond what is patient; 0 for other texts."""
        return max(0, ceil_s(self.said_ms) - THERE_MOST_S) if self.field == "there" else 0

    @property
    def over_s(self) -> int:
        """Whole seconds that it takes beyond the time that it has, as the timeline counts; 0 where it has its own."""
        return 0 if self.room_ms is None else max(0, ceil_s(self.said_ms) - ceil_s(self.room_ms))


def readings(script: Script) -> dict[str, list[Reading]]:
    """Every text that the passes of an item say, by item, in the order that they are said."""
    by_item: dict[str, list[Laid]] = {}
    for one in lay_out(script):
        by_item.setdefault(one.step.item.id, []).append(one)
    found: dict[str, list[Reading]] = {}
    for item in script.items():
        own = by_item.get(item.id, [])
        if isinstance(item, MoveItem):
            found[item.id] = [r for name in _FIELDS if (r := _of_field(script, item, name, own))]
            for n, stage in enumerate(item.then, 2):
                room = stage.way_s * 1000 or None
                found[item.id].append(_reading(script, item, f"stage-{n}", stage.words, own, room))
                if stage.short:
                    found[item.id].append(_reading(script, item, f"stage-short-{n}", stage.short, own, room))
        elif isinstance(item, Talk):
            said = without_marks(fill(item.words, own[0].facts)) if own else ""
            ms = max((talk_ms(item, one.facts, script.style) for one in own), default=0)
            reading = Reading(item.id, "words", item.words, (("", said),), ms, item.quantity.value * 1000)
            found[item.id] = [reading]
    return found


def _of_field(script: Script, item: MoveItem, name: str, own: list[Laid]) -> Reading | None:
    arrivals, words = _FIELDS[name], getattr(item.words, name)
    if name == "each":
        return _of_each(script, item, own) if words or item.move.sidedness.alternates else None
    which = [one for one in own if isinstance(one.step, Pass) and (arrivals is None or one.step.arrival in arrivals)]
    asked = bool(which) and (name != "demonstration" or item.demonstrate_s > 0)
    if not asked and (not words or name == "again"):
        return None
    room: int | None = None
    if name in _ON_THE_WAY and which:
        # Where nobody moves, the words have a time of their own.
        room = min(_room_ms(one.step, one.before, script.style) for one in which if isinstance(one.step, Pass)) or None
    elif name == "again":
        room = item.rest_s * 1000 or None
    elif name == "release":
        room = item.move.slow_rise_s * 1000 or None
    elif name == "demonstration":
        room = item.demonstrate_s * 1000
    return _reading(script, item, name, words, which or own, room)


def _room_ms(this: Pass, before: Situation, style: CueStyle) -> int:
    """Milliseconds of a way that are left for the item's own words; 0 where there is none."""
    line_ms = speaking_ms(line_of_way(this, before, style), style.speech)
    return max(0, way_into(this, before, style).ms - line_ms)


def _of_each(script: Script, item: MoveItem, own: list[Laid]) -> Reading:
    """The words of each change of sides, as they are said on either; they have the time of one rep."""
    words, style = item.words.each, item.cued(script.style)
    passes = [one for one in own if isinstance(one.step, Pass)]
    said: list[tuple[str, str]] = []
    for one in passes[:1]:
        lead = one.step.lead if isinstance(one.step, Pass) else style.lead_side
        for side in (lead, lead.other):
            told = one.step.item.words.each if isinstance(one.step, Pass) else words
            said.append((str(side), without_marks(fill(told, {**one.facts, **sides_told(side, lead, style)}))))
    longest = max((speaking_ms(text, style.speech) for _, text in said), default=0)
    return Reading(item.id, "each", words, tuple(said), longest, item.dose.cycle_ms, tuple(literal_sides(words)))


def _reading(script: Script, item: MoveItem, name: str, words: str, own: list[Laid], room: int | None) -> Reading:
    said: dict[str, str] = {}
    for one in own:
        if isinstance(one.step, Pass):
            label = " ".join(filter(None, (str(one.step.side), one.step.direction)))
            said.setdefault(label, without_marks(fill(_text(one.step.item, name), one.facts)))
    longest = max((speaking_ms(text, script.style.speech) for text in said.values()), default=0)
    literal = tuple(literal_sides(words)) if item.move.sided or item.alternates else ()
    return Reading(item.id, name, words, tuple(said.items()), longest, room, literal)


def _text(item: MoveItem, name: str) -> str:
    """A text of an item as it is taught, with what stands in for its props."""
    if name.startswith("stage-"):
        stage = item.then[int(name.rsplit("-", 1)[1]) - 2]
        return stage.short if name.startswith("stage-short-") else stage.words
    text: str = getattr(item.words, name)
    return text


@dataclass(frozen=True, slots=True)
class TalkShare:
    """How much is said in a stretch: spoken share in percent, and the longest quiet in seconds."""

    percent: int
    longest_quiet_s: int


def talk_share(timeline: Timeline, stretch: Segment) -> TalkShare:
    """How much is said in one stretch of the class."""
    start, end = stretch.start_s * 1000, stretch.end_s * 1000
    spoken = [c for c in timeline.cues if c.mode is Mode.SPOKEN and start <= c.start_ms < end]
    at, quiet, total = start, 0, 0
    for cue in spoken:
        quiet, at = max(quiet, cue.start_ms - at), max(at, cue.end_ms)
        total += cue.end_ms - cue.start_ms
    return TalkShare(round(100 * total / (end - start)), max(quiet, end - at) // 1000)


_PROMPTS = frozenset(
    {CueKind.CAUTION, CueKind.EASIER, CueKind.FEEL, CueKind.FORM, CueKind.BREATH, CueKind.DEEPER}
    | {CueKind.ENCOURAGEMENT}
)


@dataclass(frozen=True, slots=True)
class Repeated:
    """A reminder that is said too often: how it is worded first, how often it is said, and whether always so."""

    text: str
    times: int
    alike: bool


def repeated(timeline: Timeline) -> list[Repeated]:
    """Reminders that are said too often, the most frequent first.

    One in the same words counts each time; in other words it counts once for each move, since each hold may
    have its own.
    """
    said: dict[str, list[Cue]] = {}
    for cue in timeline.cues:
        if cue.kind in _PROMPTS:
            said.setdefault(reminder(cue.text), []).append(cue)
    found = []
    for cues in said.values():
        if len(cues) <= REMINDERS_MOST:
            continue
        alike = Counter(bare(cue.text) for cue in cues)
        most = max(alike.values())
        moves = len({cue.of.item for cue in cues})
        if max(most, moves) > REMINDERS_MOST:
            often = most >= moves
            key = max(alike, key=lambda one: alike[one]) if often else ""
            text = next(cue.text for cue in cues if not often or bare(cue.text) == key)
            found.append(Repeated(text, max(most, moves), often))
    return sorted(found, key=lambda one: -one.times)


@lru_cache(maxsize=8192)
def bare(words: str) -> str:
    """Words without case and punctuation."""
    return re.sub(r"\W+", " ", words.casefold()).strip()


def calibrated(milliseconds: int) -> int:
    """Words a minute of somebody who read the SAMPLE in this time; RefusedError when it cannot be true."""
    speaking = milliseconds - SENTENCE_MS * len(sentences(SAMPLE))
    rate = round(word_count(SAMPLE) * 60_000 / speaking) if speaking > 0 else 0
    slowest, fastest = RATES
    if not slowest <= rate <= fastest:
        must = f"a reading of the whole sample, at {slowest} to {fastest} words a minute"
        raise RefusedError("reading", must, f"{milliseconds / 1000:.1f} s for {word_count(SAMPLE)} words")
    return rate
