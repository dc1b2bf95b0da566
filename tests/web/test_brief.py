"""The brief: what it keeps, what a profile sets, and what is refused with everything typed still there."""

import re
from dataclasses import replace

import pytest

from extendum.core.edit.brief_edits import apply_activities
from extendum.core.edit.script_edits import new_script
from extendum.core.model.audience import WhatNext, When
from extendum.core.model.body import Posture, Region
from extendum.core.model.brief import AtHand
from extendum.core.moves.objections import CONTRARY
from extendum.formats.library import activities
from extendum.web.classes import store
from extendum.web.classes.models import OwnAudience, StretchClass
from extendum.web.classes.posted_brief import PROPS
from tests.web.test_pages import BRIEF, script

HX = {"HX-Request": "true"}


def send(asking, of, path="brief", **changes):
    of.refresh_from_db()
    form = {"edit": "brief", "stamp": of.stamp, **BRIEF, **changes}
    return asking.post(f"/classes/{of.pk}/{path}/", form, headers=HX)


def test_everything_that_is_said_is_kept_and_shown_again(asking, stretch_class):
    answer = send(asking, stretch_class)
    assert (answer.status_code, answer.headers["HX-Redirect"]) == (204, f"/classes/{stretch_class.pk}/")
    brief, style = script(stretch_class).brief, script(stretch_class).style
    assert brief.props == (AtHand("chair", "with arms"), AtHand("strap", "a scarf"), AtHand("bench", "low"))
    assert brief.conditions == ("glaucoma", "a stiff thumb")
    assert (brief.avoid, brief.setting, brief.before) == (("plank", "kneeling"), "recorded", "gentle activity")
    assert (style.pace_percent, style.words_per_minute, style.one_leg_most_s) == (110, 150, 20)
    assert script(stretch_class).start_posture is Posture.CHAIR
    page = asking.get(f"/classes/{stretch_class.pk}/brief/").content.decode()
    for shown in ('value="strap: a scarf; bench: low"', 'value="a stiff thumb"', 'value="plank, kneeling"'):
        assert shown in page
    for ticked in ("neck", "glaucoma", "with arms", "on a chair"):
        assert f'value="{ticked}" checked' in page
    again = send(asking, stretch_class)
    assert again.status_code == 204
    assert script(stretch_class).brief == brief


def test_a_profile_is_shown_with_what_was_typed_and_nothing_is_kept_yet(asking, stretch_class):
    before = script(stretch_class)
    shown = send(asking, stretch_class, audience="Older adults on chairs", apply="1", group="Thursdays")
    text = shown.content.decode()
    assert 'value="145"' in text
    assert 'value="Thursdays"' in text
    assert 'value="osteoporosis" checked' in text
    assert 'value="7:30"' in text
    assert script(stretch_class) == before


def test_activities_bring_the_areas_that_they_load_and_take_theirs_away_again(asking, stretch_class):
    shown = send(asking, stretch_class, apply="activities", activity=["cycling", "singing"], when="before it")
    text = shown.content.decode()
    for ticked in ("neck", "front of thigh", "jaw", "cycling", "strength or speed", "before it"):
        assert f'value="{ticked}" checked' in re.sub(r"\s+(id|name)=\S+", "", text), ticked
    assert "Numb hands" in text and 'value="cycling; singing"' in text
    chosen = [region for region in Region if f'value="{region}" checked' in text]
    shown = send(
        asking, stretch_class, apply="activities", activity="singing", activities_were="cycling; singing", area=chosen
    )
    text = shown.content.decode()
    assert 'value="jaw" checked' in text and 'value="front of thigh" checked' not in text
    assert send(asking, stretch_class, activity="singing").status_code == 204
    assert script(stretch_class).brief.activities == ("singing",)


def test_activities_after_work_make_a_warm_class_and_before_it_one_that_moves():
    digging, singing = (
        next(one for one in activities() if one.name.startswith(name)) for name in ("digging", "singing")
    )
    now = new_script("A", 600)
    after = apply_activities(now, [digging, singing], activities(), When.COMES_AFTER).brief
    assert (after.warm, after.before) == (True, WhatNext.NOTHING)
    before = apply_activities(now, [digging, singing], activities(), When.COMES_BEFORE).brief
    assert (before.warm, before.before) == (False, WhatNext.STRENGTH)
    assert apply_activities(replace(now, brief=after), [], activities(), When.COMES_AFTER).brief.areas == ()


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        ({"length": "soon"}, "length: must be"),
        ({"pace_percent": "fast"}, "pace percent: must be a whole number; found fast"),
        ({"pace_percent": "9"}, "pace_percent: must be a whole number from 50 to 300"),
        ({"posture": ["floating"]}, "posture: must be one of standing"),
        ({"activity": "juggling"}, "activity: must be one of sitting at a screen"),
        ({"area": ["elbow pit"]}, "area: must be one of neck"),
        ({"other_props": ": low"}, "other things: must be a thing"),
        ({"stand_ins": "a towel"}, "stand-ins: must be a thing and what it serves as"),
        ({"avoid": "x" * 121}, "avoid[0]: must be 1 to 120 characters"),
        ({"audience": "Acrobats", "apply": "1"}, "audience: must be one of Mixed adults"),
    ],
)
def test_what_is_wrong_is_named_and_nothing_is_changed(asking, stretch_class, wrong, said):
    before = script(stretch_class)
    answer = send(asking, stretch_class, **wrong)
    assert answer.status_code == 422
    assert said in answer.content.decode()
    assert script(stretch_class) == before


def test_what_stands_in_for_something_else_is_at_hand_and_counts_as_it(asking, stretch_class):
    told = "a towel as a strap; broom as stick"
    send(asking, stretch_class, prop=["chair"], chair_is=[], other_props="towel: long", stand_ins=told)
    has = {one.name: (one.like, one.counts_as) for one in script(stretch_class).brief.props}
    assert has == {"chair": ("", ""), "towel": ("long", "strap"), "broom": ("", "stick")}
    page = asking.get(f"/classes/{stretch_class.pk}/brief/").content.decode()
    assert 'value="towel as strap; broom as stick"' in page
    assert 'value="towel: long"' in page


def test_a_class_changed_meanwhile_is_not_overwritten_unless_asked_again(asking, stretch_class):
    old = stretch_class.stamp
    store.change(stretch_class, old, "Nudged", lambda s: store.set_style(s, s.style.__class__(name="Other")))
    answer = send(asking, stretch_class, stamp=old)
    assert answer.status_code == 409
    assert "Nudged" in answer.content.decode()
    assert send(asking, stretch_class, stamp=answer.headers["X-Stamp"]).status_code == 204


def test_a_profile_of_ones_own_is_kept_offered_and_never_over_a_shipped_one(asking, stretch_class):
    shown = send(asking, stretch_class, "audience", audience_name="Choir on Mondays")
    assert "Choir on Mondays" in shown.content.decode()
    applied = send(asking, stretch_class, audience="Choir on Mondays", apply="1", pace_percent="100")
    assert 'id="brief-pace" inputmode="numeric" value="110"' in applied.content.decode()
    refused = send(asking, stretch_class, "audience", audience_name="Beginners")
    assert refused.status_code == 422
    assert "other than the profiles that ship" in refused.content.decode()
    assert [one.name for one in OwnAudience.objects.all()] == ["Choir on Mondays"]
    assert StretchClass.objects.get().stamp == 1  # keeping a profile changes no class


def test_the_desk_says_what_is_still_missing_and_what_does_not_keep_to_the_brief(asking, stretch_class):
    send(asking, stretch_class)
    page = asking.get(f"/classes/{stretch_class.pk}/?item=i2").content.decode()
    assert 'data-look="neck"' in page
    assert 'data-look="calf"' not in page  # the calf lean reaches it
    assert "lunge is not in the brief" in page
    assert 'data-move="heel-raises"' in page  # stands in: it keeps to the brief
    assert 'data-move="seated-calf-strap"' not in page  # its own option does not
    send(asking, stretch_class, posture=[], prop=[], chair_is=[], other_props="")
    assert "Not in the brief" not in asking.get(f"/classes/{stretch_class.pk}/?item=i2").content.decode()


def test_whatever_the_form_lets_one_say_of_a_prop_means_something_to_the_core():
    known = {contrary for contraries in CONTRARY.values() for contrary in contraries}
    said = {trait for traits in PROPS.values() for trait in traits}
    assert said
    assert said <= known
