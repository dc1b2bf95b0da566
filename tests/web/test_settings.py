"""Settings: what new classes begin with."""

import re

from django.urls import reverse

from extendum.core.model.body import Base, Posture
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass


def test_new_classes_begin_with_the_words_for_ways_that_were_kept(asking):
    page = asking.get(reverse("settings")).content.decode()
    field = re.search(r'name="(way_\d+)" value="" maxlength="200" placeholder="Have a seat on your chair\."', page)
    asking.post(reverse("settings"), {"part": "ways", field.group(1): "Chairs, everybody.", "way_9": " "})
    asking.post(reverse("make"), {"title": "New", "length": "10:00"})
    made = store.script_of(StretchClass.objects.get(title="New").present)
    assert [(one.before, one.posture, one.words) for one in made.style.way_words] == [
        (Base.STANDING, Posture.CHAIR, "Chairs, everybody.")
    ]
    refused = asking.post(reverse("settings"), {"part": "ways", field.group(1): "x" * 201})
    assert refused.status_code == 422
    assert "x" * 201 in refused.content.decode()


def test_each_choice_says_what_it_does_by_an_example(asking):
    page = asking.get("/settings/").content.decode()
    for told in (
        "Right first, then left, in every move that has sides.",
        "You move your left side as they do.",
        "You say “5, 4, 3, 2, 1” before a hold ends.",
        "A short tone in each of the last seconds.",
        "165 words a minute, holds begin after 3 s in position.",
    ):
        assert f"<span>{told}" in page
