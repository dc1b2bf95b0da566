"""Revisions: undo and redo without limit, branches that stay reachable, and stale edits refused."""

from datetime import timedelta
from threading import Barrier, Thread

import pytest
from django.db import connection
from django.utils import timezone

from extendum.core.edit import script_edits as edit
from extendum.web.classes import store
from extendum.web.classes.models import Revision, StretchClass


def named(title):
    return lambda script: edit.set_title(script, title)


def title(of):
    return store.script_of(StretchClass.objects.get(pk=of.pk).head).title


def test_undo_and_redo_go_all_the_way_also_after_a_restart(stretch_class):
    of = stretch_class
    for name in ("One", "Two", "Three"):
        of = store.change(of, of.stamp, name, named(name))
    seen = []
    for _ in range(4):
        of = store.undo(StretchClass.objects.get(pk=of.pk), of.stamp)
        seen.append(title(of))
    assert seen == ["Two", "One", "Evening class", "Evening class"]
    for _ in range(4):
        of = store.redo(StretchClass.objects.get(pk=of.pk), of.stamp)
    assert title(of) == of.title == "Three"


def test_an_edit_after_an_undo_starts_a_branch_and_the_other_stays_reachable(stretch_class):
    of = store.change(stretch_class, 1, "One", named("One"))
    of = store.change(of, of.stamp, "Two", named("Two"))
    two = of.head_id
    of = store.undo(of, of.stamp)
    of = store.change(of, of.stamp, "Other", named("Other"))
    of = store.go_to(of, of.stamp, two)
    assert title(of) == "Two"
    of = store.undo(of, of.stamp)
    of = store.redo(of, of.stamp)
    assert title(of) == "Two"
    assert {r.label for r in of.revisions.all()} == {"Made", "One", "Two", "Other"}


def test_an_edit_on_an_old_state_is_refused_with_what_happened(stretch_class):
    store.change(stretch_class, 1, "Renamed One", named("One"))
    with pytest.raises(store.StaleEditError) as stale:
        store.change(stretch_class, 1, "Renamed Two", named("Two"))
    assert stale.value.happened == ["Renamed One"]
    assert title(stretch_class) == "One"
    of = store.undo(StretchClass.objects.get(pk=stretch_class.pk), 2)
    with pytest.raises(store.StaleEditError) as stale:
        store.change(of, 2, "Late", named("Late"))
    assert stale.value.happened == ["Undo: Renamed One"]


def test_quick_repeats_of_one_field_are_one_revision(stretch_class):
    of = stretch_class
    for n in range(5):
        of = store.change(of, of.stamp, f"T{n}", named(f"T{n}"), "title")
    assert of.revisions.count() == 2
    of = store.change(of, of.stamp, "T9", named("T9"), "other")
    Revision.objects.filter(pk=of.head_id).update(at=timezone.now() - timedelta(minutes=1))
    of = store.change(of, of.stamp, "T8", named("T8"), "other")
    assert of.revisions.count() == 4
    assert title(store.undo(of, of.stamp)) == "T9"


def test_an_edit_that_fails_or_changes_nothing_leaves_no_trace(stretch_class):
    same = store.change(stretch_class, 1, "Same", named("Evening class"))
    with pytest.raises(ValueError, match="halfway"):
        store.change(stretch_class, 1, "Bad", lambda script: int("halfway"))
    assert (same.stamp, stretch_class.revisions.count()) == (1, 1)


@pytest.mark.django_db(transaction=True)
def test_of_two_edits_at_once_on_the_same_state_one_is_made_and_the_other_is_told(stretch_class):
    together, ended = Barrier(2), []

    def change(title):
        together.wait()
        try:
            store.change(stretch_class, stretch_class.stamp, title, named(title))
            ended.append("made")
        except store.StaleEditError as stale:
            ended.append(stale.happened[0])
        finally:
            connection.close()

    threads = [Thread(target=change, args=(title,)) for title in ("One", "Two")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    stretch_class.refresh_from_db()
    assert sorted(ended) == sorted(["made", stretch_class.title])
    assert stretch_class.revisions.count() == 2
