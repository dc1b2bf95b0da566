"""A class of an older document says once by how much it is longer now, and why."""

import json

import pytest
from django.urls import reverse

from extendum.core.timing.corrected import Cause, corrected_words, corrections
from extendum.core.timing.layout import length_of
from extendum.formats.document import script_from
from extendum.web.classes.models import StretchClass

HOLD = {"type": "hold", "seconds": {"least": 5, "wanted": 10, "most": 20}}
REPS = {"type": "reps", "count": {"least": 1, "wanted": 3, "most": 6}, "out_ms": 2000, "back_ms": 2000}


def document(*items, version=2, **group):
    made = [{"type": "move", "id": f"i{n}", **item} for n, item in enumerate(items)]
    sections = [{"id": "s", "groups": [{"id": "g", "items": made, **group}]}]
    return {"format": "extendum-class", "version": version, "title": "Old", "sections": sections}


def move(posture="standing", sides="each side", dose=HOLD, more=None, **item):
    return {"move": {"name": "Reach", "posture": posture, "sidedness": sides, **(more or {})}, "dose": dose, **item}


CHAIN = document(move(), move(), side_plan="whole chain")
#: What each of these lasted, worked out by hand from the rules of version 2, and what is told of it today.
OLD = [
    (CHAIN, 4 * 13, {Cause.SECOND_SIDE: 4}),
    (document(move(sides="alternating", dose=REPS, then=[{"dose": REPS}])), 24 + 12, {Cause.EACH_SIDE: 12}),
    (document(move(sides="together", sets=2)), 26, {Cause.ANNOUNCED: 2}),
    (document(move(sides="together", more={"props": [{"name": "wall"}]})), 5 + 13, {Cause.PROPS: -5}),
    (
        document(move(sides="each direction", dose=REPS, words={"release": "Let go."})),
        12 + 2 + 1 + 12 + 2,
        {Cause.RELEASE: -2},
    ),
    (
        document(move(sides="each direction", dose=REPS, more={"end_posture": "kneeling"})),
        12 + 6 + 12,
        {Cause.TURNS: -5},
    ),
    (
        document(
            move(
                sides="alternating", dose={**REPS, "count": {"least": 2, "wanted": 6, "most": 9}}, count_is="in total"
            ),
            rounds=2,
            taper_percent=55,
        ),
        24 + 8,
        {Cause.TAPER: 8},
    ),
]


@pytest.mark.parametrize(("plain", "then_s", "told"), OLD, ids=[str(next(iter(one[2]))) for one in OLD])
def test_what_an_older_class_lasts_otherwise_is_told_by_its_cause(plain, then_s, told):
    script = script_from(plain)
    assert corrections(script) == told
    assert length_of(script) == then_s + sum(told.values())


def test_it_is_said_in_one_sentence():
    assert corrected_words({Cause.SECOND_SIDE: 12}) == "Now 12 s longer: the way to the second side is counted."
    both = corrected_words({Cause.SECOND_SIDE: 4, Cause.PROPS: -9})
    assert both.startswith("Now 5 s shorter: props ")
    assert both.endswith("(\N{MINUS SIGN}9 s); the way to the second side is counted (+4 s).")
    assert corrected_words({Cause.SECOND_SIDE: 4, Cause.PROPS: -4}) == ""


@pytest.mark.django_db
def test_the_shelf_says_it_until_it_is_seen(asking):
    asking.post(reverse("read-in"), {"text": json.dumps(CHAIN)})
    made = StretchClass.objects.get(title="Old")
    told = "Now 4 s longer: the way to the second side is counted."
    assert told in asking.get(reverse("shelf")).content.decode()
    asking.post(reverse("length-known", args=[made.pk]))
    assert told not in asking.get(reverse("shelf")).content.decode()


@pytest.mark.django_db
def test_a_class_of_today_is_never_told(asking):
    asking.post(reverse("read-in"), {"text": json.dumps({**CHAIN, "version": 3})})
    assert "Now 4 s longer" not in asking.get(reverse("shelf")).content.decode()
