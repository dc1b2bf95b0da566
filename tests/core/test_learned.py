"""What a teacher is offered to set, at the edges of when it is offered at all."""

import pytest

from extendum.core.model.body import Posture
from extendum.core.model.brief import Brief
from extendum.core.model.dose import Hold
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Move
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section
from extendum.core.model.style import CueStyle
from extendum.core.model.talk import Talk
from extendum.core.run.learned import lessons, usually_late
from extendum.core.run.rehearse import rehearsed
from extendum.core.timing.compile import compile_script


def script(words, rate=160):
    items = (
        Talk("t", Elastic(20, 20, 60), " ".join(["a"] * words)),
        MoveItem("m", Move("Lie long", posture=Posture.SUPINE), Hold(Elastic(1, 20, 60))),
    )
    sections = (Section("s", "", Role.MAIN, (Group("g", "", items),)),)
    return Script("Learned", Brief(target_s=600), CueStyle(words_per_minute=rate), Posture.STANDING, sections)


def learned(took, words=40, rate=160):
    one = script(words, rate)
    timeline = compile_script(one)
    ms = {s.id: took[s.kind] for s in timeline.segments if s.kind in took}
    return [str(lesson.what) for lesson in lessons(one, timeline, ms)]


@pytest.mark.parametrize(
    ("kind", "ms", "found"),
    [
        ("transition", 12_000, []),  # from standing to lying: 11 s
        ("transition", 13_000, ["way"]),
        ("transition", 10_000, []),
        ("transition", 9000, ["way"]),
        ("talk", 22_000, []),
        ("talk", 23_000, ["talk"]),
    ],
)
def test_a_way_is_told_from_two_seconds_on_and_a_talk_from_three(kind, ms, found):
    assert learned({kind: ms}, words=10) == found


@pytest.mark.parametrize(
    ("words", "real", "found"),
    [(40, 168, ["rate"]), (40, 167, []), (39, 200, []), (40, 152, ["rate"]), (40, 153, [])],
)
def test_a_rate_is_told_from_five_percent_and_forty_words_on(words, real, found):
    assert learned({"talk": round(words * 60_000 / real) + 300}, words) == found


@pytest.mark.parametrize(
    ("offs_s", "late"), [((20, 20, 20), 20), ((19, 19, 19), None), ((30, 30), None), ((-5, -5, 90, 90, 90), 90)]
)
def test_a_class_is_usually_late_when_it_was_three_times_by_twenty_seconds(offs_s, late):
    found = usually_late(script(10), offs_s)
    assert (None if found is None else found.said - found.real) == late


def test_work_is_rehearsed_for_three_seconds():
    short = rehearsed(compile_script(script(10)))
    assert [s.seconds for s in short.segments if s.kind.works] == [3]
