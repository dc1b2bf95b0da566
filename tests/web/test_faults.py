"""Power that goes in the middle of writing, and data from the first version of the tables: nothing is lost."""

import json
import os
import signal
import sqlite3
import subprocess
import sys
import zlib
from contextlib import suppress
from datetime import timedelta

import pytest
from django.contrib.auth import get_user_model
from django.db import OperationalError, connection
from django.db.migrations.executor import MigrationExecutor
from django.test import Client
from django.utils import timezone

from extendum.core.edit.script_edits import new_script, set_title
from extendum.formats.document import dumps
from extendum.web.classes import store
from extendum.web.classes.models import Revision, StretchClass
from extendum.web.teach.following import held, running
from extendum.web.teach.models import LiveRun

WRITES = """
import os, sys
import django
django.setup()
from django.contrib.auth import get_user_model
from django.core.management import call_command
from extendum.core.edit.script_edits import add_move, new_script, set_title
from extendum.formats.library import shipped_moves
from extendum.web.classes import store
call_command("migrate", verbosity=0)
owner = get_user_model().objects.create_user("ada")
script = new_script("Class 0", 600)
for entry in shipped_moves()[:20]:
    script, _ = add_move(script, entry)
of = store.create(owner, script, "Made")
n = 0
while True:
    n += 1
    of = store.change(of, of.stamp, f"Title {n}", lambda s: set_title(s, f"Class {n}"))
    print(n, flush=True)
"""


on_sqlite = pytest.mark.skipif(connection.vendor != "sqlite", reason="the lock and the file are SQLite's")


@on_sqlite
@pytest.mark.parametrize("after", [1, 7, 23])
def test_a_process_that_is_killed_while_it_writes_leaves_a_whole_class(tmp_path, after):
    env = {**os.environ, "EXTENDUM_DATA": str(tmp_path), "EXTENDUM_INSECURE": "1"}
    env["DJANGO_SETTINGS_MODULE"] = "extendum.web.settings"
    process = subprocess.Popen([sys.executable, "-c", WRITES], env=env, stdout=subprocess.PIPE, text=True)  # noqa: S603
    told = 0
    for line in process.stdout:
        told = int(line)
        if told >= after:
            break
    process.send_signal(signal.SIGKILL)
    told = max([told, *(int(line) for line in process.stdout.read().split("\n") if line.strip().isdigit())])
    process.wait()
    with sqlite3.connect(tmp_path / "extendum.sqlite3") as opened:
        assert opened.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        title, stamp, head = opened.execute("SELECT title, stamp, head_id FROM classes_stretchclass").fetchone()
        document, written = opened.execute(
            "SELECT document, stamp FROM classes_revision WHERE id = ?", (head,)
        ).fetchone()
        revisions = opened.execute("SELECT count(*) FROM classes_revision").fetchone()[0]
    last = int(title.removeprefix("Class "))
    assert last >= told  # what was said to be written is there
    assert f'"title":"{title}"' in zlib.decompress(document).decode().replace(": ", ":")
    assert stamp == written == last + 1 == revisions


@pytest.mark.django_db(transaction=True)
def test_classes_of_the_first_tables_are_there_after_every_upgrade():
    latest = MigrationExecutor(connection).loader.graph.leaf_nodes()
    first = [("classes", "0001_initial"), ("library", None), ("teach", None), ("records", None), ("giving", None)]
    try:
        executor = MigrationExecutor(connection)
        executor.migrate(first)
        old = executor.loader.project_state([("classes", "0001_initial")]).apps
        owner = get_user_model().objects.create_user("ada")
        document = zlib.compress(dumps(new_script("From the beginning", 600), indent=None).encode())
        of = old.get_model("classes", "StretchClass").objects.create(
            owner_id=owner.pk, title="From the beginning", stamp=1
        )
        head = old.get_model("classes", "Revision").objects.create(of=of, document=document, label="Made", stamp=1)
        of.head = head
        of.save()
    finally:
        MigrationExecutor(connection).migrate(latest)
    from extendum.web.classes import store

    found = StretchClass.objects.get(title="From the beginning")
    assert store.script_of(found.head).title == "From the beginning"
    assert store.change(found, 1, "Renamed", lambda s: s).stamp == 1
    assert found.runs.count() == found.sessions.count() == found.jobs.count() == 0


@pytest.fixture
def calm(owner):
    """A client that gets the answer to what failed, as a browser would."""
    client = Client(raise_request_exception=False)
    client.force_login(owner)
    return client


#: Every kind of write: what is asked, and of what.
WRITES_ASKED = {
    "an edit": ("/classes/{pk}/edit/", {"edit": "talk", "stamp": "{stamp}"}),
    "a new class": ("/classes/new/", {"title": "Other", "length": "9:00"}),
    "a copy": ("/classes/{pk}/duplicate/", {}),
    "putting away": ("/classes/{pk}/archive/", {}),
    "a plan": ("/logbook/plan/", {"class": "{pk}", "day": "2030-01-02", "hour": "10:00"}),
    "a reminder": ("/classes/{pk}/next-time/", {"text": "Chairs"}),
    "a screen": ("/screens/", {"kind": "room"}),
    "what classes begin with": (
        "/settings/",
        {"part": "begin", "length": "12:30", "style": "Steady and spoken", "words_per_minute": "140"},
    ),
    "a setting": ("/settings/", {"part": "name", "name": "Other"}),
    "what was taught": ("/classes/{pk}/events/", None),
}
#: These write over what is there, or the same again.
GROWS_NOT = {"putting away", "what classes begin with", "a setting", "what was taught"}
EVENT = {"id": "0-1", "at": 1_700_000_000_000, "kind": "start", "step": "", "ms": 0}


def everything():
    """All rows that an instructor's work is in."""
    with connection.cursor() as cursor:
        tables = [
            name for name in connection.introspection.table_names() if name.split("_")[0] not in ("django", "axes")
        ]
        return {name: cursor.execute(f"SELECT * FROM {name} ORDER BY 1").fetchall() for name in sorted(tables)}  # noqa: S608


def asked(client, of, what, **more):
    """Do one of the writes."""
    address, form = WRITES_ASKED[what]
    address = address.format(pk=of.pk)
    if form is None:
        body = json.dumps({"run": "r", "stamp": of.stamp, "events": [EVENT]})
        return client.post(address, body, content_type="application/json", **more)
    return client.post(address, {name: value.format(pk=of.pk, stamp=of.stamp) for name, value in form.items()}, **more)


@on_sqlite
@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("what", WRITES_ASKED)
def test_a_locked_database_is_told_and_nothing_is_half_done(calm, stretch_class, what):
    before = everything()
    connection.cursor().execute("PRAGMA busy_timeout = 30")
    other = sqlite3.connect(connection.settings_dict["NAME"], isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    try:
        answer = asked(calm, stretch_class, what)
    finally:
        other.execute("ROLLBACK")
        other.close()
    assert answer.status_code == 503
    assert b"Nothing was changed. Try again" in answer.content
    assert everything() == before
    assert asked(calm, stretch_class, what).status_code < 500  # and then it can be done


@on_sqlite
@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("what", WRITES_ASKED)
def test_a_full_disk_is_told_beside_what_was_typed_and_nothing_is_half_done(calm, stretch_class, what):
    with connection.cursor() as cursor:
        cursor.execute("CREATE TABLE ballast (x)")
        cursor.execute(f"PRAGMA max_page_count = {cursor.execute('PRAGMA page_count').fetchone()[0]}")
        try:
            with suppress(OperationalError):
                while True:  # no page is left
                    cursor.execute("INSERT INTO ballast VALUES (zeroblob(3000))")
            for _ in range(200):  # until there is no room in those that are begun
                stretch_class.refresh_from_db()
                before = everything()
                answer = asked(calm, stretch_class, what, HTTP_HX_REQUEST="true")
                if answer.status_code >= 500:
                    break
            after = everything()
        finally:
            cursor.execute("PRAGMA max_page_count = 1073741823")
            cursor.execute("DROP TABLE ballast")
        assert cursor.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    if what not in GROWS_NOT:
        assert answer.status_code == 507
        assert b"The disk is full" in answer.content
        assert b"<html" not in answer.content
    assert after == before or answer.status_code < 500
    assert asked(calm, stretch_class, what).status_code < 500


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("what", WRITES_ASKED)
def test_a_write_that_stops_before_any_of_its_statements_is_not_half_done(calm, stretch_class, what):
    before, reached, stops_at = everything(), 0, 0

    def stop(execute, sql, params, many, context):
        nonlocal reached
        if sql.startswith(("INSERT", "UPDATE", "DELETE")) and "django_session" not in sql:
            reached += 1
            if reached > stops_at:
                raise OperationalError("power went")
        return execute(sql, params, many, context)

    for stops_at in range(40):
        reached = 0
        with connection.execute_wrapper(stop):
            answer = asked(calm, stretch_class, what)
        if answer.status_code < 500:
            break
        assert everything() == before, f"half done: stopped before statement {stops_at + 1}"
    assert 1 <= stops_at == reached


def test_what_failed_otherwise_says_that_nothing_was_changed(calm, stretch_class, monkeypatch):
    monkeypatch.setattr(store, "change", lambda *_: 1 / 0)
    answer = asked(calm, stretch_class, "an edit")
    assert answer.status_code == 500
    assert b"Something went wrong here." in answer.content


def test_a_form_that_is_too_old_is_told_beside_what_was_typed(owner, stretch_class):
    strict = Client(enforce_csrf_checks=True)
    strict.force_login(owner)
    answer = asked(strict, stretch_class, "an edit", HTTP_HX_REQUEST="true")
    assert answer.status_code == 403
    assert b"What you typed is still in its field" in answer.content
    assert b"<html" not in answer.content


def test_a_clock_that_is_set_back_loses_no_step(stretch_class):
    of = store.change(stretch_class, stretch_class.stamp, "Title 1", lambda s: set_title(s, "One"), "title")
    Revision.objects.filter(pk=of.head_id).update(at=timezone.now() + timedelta(hours=1))
    of = store.change(of, of.stamp, "Title 2", lambda s: set_title(s, "Two"), "title")
    assert [store.script_of(r).title for r in Revision.objects.order_by("pk")] == ["Evening class", "One", "Two"]


@pytest.mark.parametrize(("ahead", "holds"), [(timedelta(seconds=-5), True), (timedelta(hours=1), False)])
def test_a_stage_told_before_the_clock_was_set_back_holds_nothing_for_long(stretch_class, ahead, holds):
    told = timezone.now() + ahead
    run = LiveRun.objects.create(
        of=stretch_class, key="r", stamp=1, revision=stretch_class.head, holder="a", held_at=told
    )
    assert (held(stretch_class) == run, running(stretch_class.owner_id) == run) == (holds, holds)
