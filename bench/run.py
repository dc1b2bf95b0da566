"""Measures the budgets: `make bench` prints one row per budget with median and 95th percentile."""

from __future__ import annotations

import itertools
import os
import platform
import statistics
import sys
import tempfile
import time
from collections.abc import Callable

import django
from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.test import Client

from extendum.core.compile import compile_script
from extendum.core.edit import add_move, new_script
from extendum.core.fit import Fitter
from extendum.core.script import Script
from extendum.draw.sheet import draw_sheet
from extendum.formats.document import dumps, loads
from extendum.formats.library import shipped_moves


def class_of(items: int) -> Script:
    """A class of so many items, taken from the library in turn; about a minute an item."""
    script = new_script("Measured", 3600)
    moves = shipped_moves()
    for n in range(items):
        script, _ = add_move(script, moves[n % len(moves)])
    return script


def measure(what: Callable[[], object], runs: int = 30) -> tuple[float, float]:
    """Median and 95th percentile in milliseconds, after three runs that are not counted."""
    for _ in range(3):
        what()
    found = []
    for _ in range(runs):
        start = time.perf_counter()
        what()
        found.append((time.perf_counter() - start) * 1000)
    found.sort()
    return statistics.median(found), found[int(len(found) * 0.95)]


def desk_edit() -> Callable[[], object]:
    """One edit of a class of 25 items through the whole server side: parse, edit, save, compile, render."""
    os.environ["EXTENDUM_DATA"] = tempfile.mkdtemp()
    os.environ["EXTENDUM_INSECURE"] = "1"
    os.environ["DJANGO_SETTINGS_MODULE"] = "extendum.web.settings"
    django.setup()
    settings.STORAGES["staticfiles"]["BACKEND"] = "django.contrib.staticfiles.storage.StaticFilesStorage"
    call_command("migrate", verbosity=0)
    from extendum.web.classes import store

    owner = get_user_model().objects.create_user("measured")
    of = store.create(owner, class_of(25), "Made")
    client = Client(SERVER_NAME="localhost")
    client.force_login(owner)
    turn = itertools.count()

    def edit() -> object:
        of.refresh_from_db()
        n = next(turn)
        form = {"stamp": of.stamp, "edit": "nudge", "item": f"i{n % 20 + 2}", "by": "1"}
        answer = client.post(f"/classes/{of.pk}/edit/", form, headers={"HX-Request": "true"})
        assert answer.status_code == 200  # noqa: S101
        return answer

    return edit


def main() -> None:
    """Print the table."""
    script = class_of(60)
    half, double = class_of(30), class_of(120)
    text = dumps(script)
    timeline = compile_script(script)
    print(f"Python {platform.python_version()}, {platform.machine()}, {len(text)} bytes, {timeline.length_s} s")
    print(f"{'what':48} {'median ms':>10} {'95 % ms':>10}")
    rows: list[tuple[str, Callable[[], object]]] = [
        ("compile 60 items", lambda: compile_script(script)),
        ("compile 30 items", lambda: compile_script(half)),
        ("compile 120 items", lambda: compile_script(double)),
        ("fit 60 items, tables and one target", lambda: Fitter(script).fit(timeline.length_s + 61)),
        ("read a document of 60 items", lambda: loads(text)),
        ("write a document of 60 items", lambda: dumps(script)),
        ("draw the sheet of 60 items", lambda: draw_sheet(timeline)),
        ("an edit on the Desk, 25 items, server side", desk_edit()),
    ]
    for name, what in rows:
        median, high = measure(what)
        print(f"{name:48} {median:10.2f} {high:10.2f}")


if __name__ == "__main__":
    sys.exit(main())
