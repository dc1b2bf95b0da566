"""Power that goes in the middle of writing, and data from the first version of the tables: nothing is lost."""

import os
import signal
import sqlite3
import subprocess
import sys
import zlib

import pytest
from django.contrib.auth import get_user_model
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from extendum.core.edit import new_script
from extendum.formats.document import dumps

WRITES = """
import os, sys
import django
django.setup()
from django.contrib.auth import get_user_model
from django.core.management import call_command
from extendum.core.edit import add_move, new_script, set_title
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
    from extendum.web.classes.models import StretchClass

    found = StretchClass.objects.get(title="From the beginning")
    assert store.script_of(found.head).title == "From the beginning"
    assert store.change(found, 1, "Renamed", lambda s: s).stamp == 1
    assert found.runs.count() == found.sessions.count() == found.makings.count() == 0
