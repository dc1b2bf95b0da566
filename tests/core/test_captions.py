"""Captions keep every word within the limits of reading, and chapters tile the class."""

from itertools import pairwise
from pathlib import Path
from typing import NamedTuple

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.model.dose import Hold
from extendum.core.model.item import MoveItem
from extendum.core.model.timeline import Anchor, Cue, CueKind, CueRef, Mode, Segment, SegmentKind, Timeline
from extendum.core.outputs.breaking import LINES, WIDE
from extendum.core.outputs.captions import (
    BEFORE,
    COMFORTABLE,
    LONGEST_MS,
    SHORTEST_MS,
    Caption,
    Chapter,
    captions,
    chapters,
    hasty,
)
from extendum.core.outputs.cue_sheet import cue_sheet
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from tests.strategies import scripts

DEMO = Path(__file__).parents[2] / "src/extendum/data/demo"


class At(NamedTuple):
    """A visit, as far as chapters need it."""

    start_s: int
    end_s: int
    title: str


def said(*cues, length=60):
    """A timeline in which (start ms, end ms, text, kind) is spoken."""
    segment = Segment("a", SegmentKind.TALK, 0, length, "a", "Talk", None, 1, 1, None)
    made = [
        Cue(
            CueRef(f"c{n}", 1, 1, 1, kind[0] if kind else CueKind.TALK, 0),
            Mode.SPOKEN,
            "a",
            Anchor.START,
            start,
            start,
            end,
            text,
        )
        for n, (start, end, text, *kind) in enumerate(cues)
    ]
    return Timeline(length, (segment,), tuple(made))


def words(some):
    return " ".join(line for one in some for line in one.lines).split()


def check(timeline):
    found = captions(timeline)
    for one in found:
        assert 1 <= len(one.lines) <= LINES
        assert all(0 < len(line) <= WIDE for line in one.lines)
        assert one.end_ms - one.start_ms <= LONGEST_MS
        assert one.readable or one in hasty(found)
    for one, other in pairwise(found):
        assert one.start_ms < one.end_ms <= other.start_ms
    return found


@settings(max_examples=28)
@given(scripts())
def test_every_word_of_a_class_is_in_its_captions_in_order(script):
    timeline = compile_script(script)
    found = check(timeline)
    spoken = sorted((c for c in timeline.cues if c.mode is Mode.SPOKEN), key=lambda c: c.start_ms)
    said = [w.strip(",").casefold() for c in spoken for w in c.text.split()]
    assert [w.strip(",").casefold() for w in words(found)] == said
    tiles = chapters(cue_sheet(script, timeline))
    assert [one.start_s for one in tiles] == [0, *(one.end_s for one in tiles)][: len(tiles)]
    assert not tiles or tiles[-1].end_s == timeline.length_s
    lines = [line for entry in cue_sheet(script, timeline) for line in entry.lines]
    read = " ".join(line.text for line in lines if not line.private and not line.text.startswith("("))
    assert [w.strip(",").casefold() for w in read.split()] == said
    notes = [cue.text for cue in timeline.cues if cue.mode is Mode.PRIVATE]
    assert sorted(line.text for line in lines if line.private) == sorted(notes)


@given(st.lists(st.sampled_from(("Breathe", "out.", "and", "shoulders,", "longer", "knees.", "x" * 50)), min_size=1))
def test_any_text_is_cut_to_lines_that_can_be_read(some):
    found = check(said((1000, 1000 + 350 * len(some), " ".join(some)), length=600))
    assert "".join(words(found)) == "".join(some)


def test_a_caption_stays_on_into_the_quiet_and_what_has_none_is_told():
    text = "Bring the other foot forward and lean in slowly until you feel it."
    (alone,) = captions(said((0, 2000, text)))
    assert alone.end_ms == -(-len("".join(alone.lines)) * 1000 // COMFORTABLE)
    assert not hasty([alone])
    pressed = captions(said((0, 2000, text), (2000, 6000, "Now stay.")))
    assert pressed[0].end_ms == 2000
    assert hasty(pressed) == [pressed[0]]
    (short,) = captions(said((0, 400, "Stay.")))
    assert short.end_ms == SHORTEST_MS


def test_a_countdown_is_one_caption():
    count = [(n * 1000, n * 1000 + 600, str(3 - n), CueKind.COUNT) for n in range(3)]
    (one, after) = captions(said(*count, (4000, 5000, "And let go.")))
    assert (one.lines, one.start_ms) == (("3, 2, 1",), 0)
    assert after.lines == ("And let go.",)


def test_the_demo_classes_read_well_and_have_their_chapters():
    script = loads((DEMO / "hall-two-rounds.json").read_bytes())
    timeline = compile_script(script)
    found = check(timeline)
    assert len(hasty(found)) * 10 < len(found)
    titles = [one.title for one in chapters(cue_sheet(script, timeline))]
    assert titles[0] == "Welcome"
    assert any(title.endswith(", round 2") for title in titles)


@settings(max_examples=28)
@given(scripts())
def test_what_a_cue_sheet_calls_the_dose_of_a_visit_is_what_is_really_held(script):
    timeline = compile_script(script)
    for entry in cue_sheet(script, timeline):
        if not isinstance(entry.item, MoveItem) or not isinstance(entry.item.dose, Hold) or entry.item.then:
            continue
        held = {
            s.seconds
            for s in timeline.segments
            if (s.item, s.round, s.kind) == (entry.item.id, entry.round, SegmentKind.HOLD)
        }
        assert held <= {entry.item.dose.quantity.value}


@pytest.mark.parametrize(("ms", "readable"), [(999, False), (1000, True), (7000, True), (7001, False)])
def test_a_caption_is_on_for_one_to_seven_seconds(ms, readable):
    assert Caption(0, ms, ("Breathe.",)).readable is readable


def test_a_short_word_stays_on_for_a_second_and_a_long_one_no_longer_than_seven():
    (short,) = captions(said((0, 300, "Now."), length=20))
    assert short.end_ms == 1000
    (long,) = captions(said((0, 9000, "Slowly let the breath go."), length=20))
    assert long.end_ms == 7000


def test_chapters_begin_at_nought_and_last_ten_seconds():
    talks = [At(0, 6, "Hello"), At(6, 40, "Calf"), At(40, 45, "Rest"), At(45, 80, "Neck"), At(80, 84, "Bye")]
    assert [(one.start_s, one.end_s, one.title) for one in chapters(talks)] == [(0, 45, "Calf"), (45, 84, "Neck")]
    late = [At(one.start_s + 30, one.end_s + 30, one.title) for one in talks[1:]]
    assert [(one.start_s, one.title) for one in chapters(late)] == [(0, BEFORE), (36, "Calf"), (75, "Neck")]
    assert chapters([At(0, 4, "Short")]) == [Chapter(0, 4, "Short")]
    assert chapters([]) == []
