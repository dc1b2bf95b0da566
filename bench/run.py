"""Measures what the server computes, a row each with median and 95th percentile: a part of `make bench`."""

from __future__ import annotations

import itertools
import math
import os
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from random import Random

import django
from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.test import Client, RequestFactory

from bench.oracle import least_cost
from bench.random_classes import random_class
from extendum.core.checks import lexicon
from extendum.core.checks.report import check
from extendum.core.edit.script_edits import add_group, add_move, new_script, set_group, set_move_item
from extendum.core.figure.figure import body_in
from extendum.core.figure.marks import marks_of
from extendum.core.fit.fit import Fitter
from extendum.core.listening.words import stem
from extendum.core.model.dose import Hold
from extendum.core.model.item import MoveItem, may_go
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.script import Script
from extendum.core.model.section import SidePlan
from extendum.core.model.timeline import Timeline
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import outline
from extendum.draw.figures import picture
from extendum.draw.figures.drawing import drawing_of
from extendum.draw.figures.svg import inside_svg
from extendum.draw.sheet import draw_sheet
from extendum.formats.document import dumps, loads
from extendum.formats.figures import shipped_figures
from extendum.formats.library import shipped_moves
from extendum.web.library.figures import figure, figure_address


def class_of(items: int) -> Script:
    """A class of so many items, taken from the library in turn; about a minute an item."""
    script = new_script("Measured", 3600)
    moves = shipped_moves()
    for n in range(items):
        script, _ = add_move(script, moves[n % len(moves)])
    return script


def rich_class(items: int = 60) -> Script:
    """The same with everything that a fit must know: optional items and marks, rounds with taper, a chain, snapping.

    Of about an hour: half of the moves are in one plain group, the rest in a chain and in two rounds.
    """
    script, moves = new_script("Measured, with everything", 3600), shipped_moves()
    for n in range(items - 1):
        if n == items // 2:
            script = set_group(add_group(script, "s1"), "g3", side_plan=SidePlan.CHAIN)
        if n == items * 3 // 4:
            script = set_group(add_group(script, "s1"), "g4", rounds=2, taper_percent=70)
        script, new = add_move(script, moves[n % len(moves)])
        item = script.item(new)
        if isinstance(item, MoveItem):
            keep = Keep.OPTIONAL if n % 5 == 2 else Keep.ALWAYS
            matters = (Matters.AS_OTHERS, Matters.MOST, Matters.AS_OTHERS, Matters.LESS)[n % 4]
            snap = isinstance(item.dose, Hold) and n % 7 == 3 and item.dose.seconds.most >= 30
            dose = replace(item.dose, snap=True) if snap and isinstance(item.dose, Hold) else item.dose
            script = set_move_item(script, new, keep=keep, matters=matters, dose=dose)
    return script


def against_a_general_solver(count: int, targets: int) -> tuple[bool, float]:
    """The fit and CP-SAT on the same random classes and targets; of one target each, a fifth cannot be met.

    Gives whether every cost was the same, and how many times less time the fit took.
    """
    ours = theirs = 0.0
    agreed = refused = compiled = asked = 0
    for seed in range(count):
        script, rng = random_class(seed, 4 + seed % 17), Random(seed)
        start = time.perf_counter()
        fitter = Fitter(script)
        least_s, most_s = fitter.least_s, fitter.most_s
        ours += time.perf_counter() - start
        for _ in range(targets):
            target_s = least_s + round((most_s - least_s) * rng.uniform(0.02, 0.98))
            if targets == 1 and seed % 5 == 0:
                target_s = least_s - rng.randint(1, 60) if rng.random() < 0.5 else most_s + rng.randint(1, 90)
            start = time.perf_counter()
            result = fitter.fit(target_s)
            ours += time.perf_counter() - start
            start = time.perf_counter()
            cost = least_cost(script, target_s)
            theirs += time.perf_counter() - start
            asked += 1
            agreed += cost == result.cost
            refused += cost is None
            compiled += result.reached and compile_script(result.script).length_s == target_s
    print(f"{count} random classes of 4 to 20 items, {targets} target(s) each: same cost {agreed} of {asked},")
    print(f"  out of reach {refused}, compiled to the target {compiled};")
    print(f"  fit {ours:.1f} s, CP-SAT {theirs:.1f} s, ratio {theirs / ours:.1f}", flush=True)
    return agreed == asked, theirs / ours


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


def slope(turns: int = 30) -> float:
    """How the time of compiling grows with items, between 30 and 120, on a log-log plot: the median of pairs.

    The two of a pair are compiled right after one another, since the machine's speed drifts.
    """
    half, double = class_of(30), class_of(120)
    ratios = []
    for _ in range(turns):
        start = time.perf_counter()
        compile_script(half)
        between = time.perf_counter()
        compile_script(double)
        ratios.append((time.perf_counter() - between) / (between - start))
    return math.log(statistics.median(ratios)) / math.log(4)


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


def preview(edit_first: Callable[[], object]) -> Callable[[], object]:
    """One preview of the peg on a class of 60 items with everything, server side."""
    edit_first()
    from extendum.web.classes import store

    owner = get_user_model().objects.get(username="measured")
    of = store.create(owner, rich_class(), "Made")
    client = Client(SERVER_NAME="localhost")
    client.force_login(owner)
    turn = itertools.count()

    def ask() -> object:
        answer = client.get(f"/classes/{of.pk}/preview/?target=50:{next(turn) % 60:02}")
        assert answer.json()["reached"]  # noqa: S101
        return answer

    return ask


def first_look(script: Script, timeline: Timeline) -> object:
    """All checks without what is remembered of texts looked at before."""
    for module in (
        lexicon,
        *(sys.modules[name] for name in sys.modules if name.startswith("extendum.core.listening.")),
    ):
        for one in vars(module).values():
            for listener in (one, *(one.values() if isinstance(one, dict) else ())):
                for listening in (listener, getattr(listener, "heard", None), getattr(listener, "_told", None)):
                    if hasattr(listening, "cache_clear") and listening is not stem:
                        listening.cache_clear()
    return check(script, timeline, shipped_moves())


def next_figure(poses: int) -> Callable[[], object]:
    """Draws one figure after the other of those with so many poses, none of them remembered."""
    moves = {entry.move.key: entry.move for entry in shipped_moves()}
    drawn = itertools.cycle((key, one) for key, one in shipped_figures().items() if len(one.poses) == poses)

    def draw() -> object:
        key, one = next(drawn)
        for remembers in (body_in, picture.scene_of):
            remembers.cache_clear()
        return inside_svg(drawing_of(picture.picture_of(one, marks_of(moves[key]))))

    return draw


def asked_again() -> Callable[[], object]:
    """Serves one picture after the other, small and large; a server has each of them after it was asked for once."""
    addresses = [figure_address(entry.move, small=small) for entry in shipped_moves() for small in (True, False)]
    requests = RequestFactory()

    def serve(address: str) -> object:
        return figure(requests.get(address), address.split("/")[2])

    for one in addresses:
        serve(one)
    again = itertools.cycle(addresses)
    return lambda: serve(next(again))


def measured(runs: int = 30) -> dict[str, tuple[float, float]]:
    """Print the table; median and 95th percentile by row."""
    script = class_of(60)
    half, double = class_of(30), class_of(120)
    text = dumps(script)
    timeline = compile_script(script)
    rich = rich_class()
    rich_timeline, fitted = compile_script(rich), Fitter(rich)
    rich_s = rich_timeline.length_s
    fitted.fit(rich_s)
    print(f"60 items with everything: {rich_s} s, {sum(may_go(item) for item in rich.items())} may go")
    print(f"60 plain items: {len(text)} bytes, {timeline.length_s} s")
    print(f"{'what':48} {'median ms':>10} {'95 % ms':>10}")
    edited = desk_edit()
    rows: list[tuple[str, Callable[[], object]]] = [
        ("compile 60 items", lambda: compile_script(script)),
        ("compile 30 items", lambda: compile_script(half)),
        ("compile 120 items", lambda: compile_script(double)),
        ("fit 60 plain items, tables and one target", lambda: Fitter(script).fit(timeline.length_s + 61)),
        ("fit 60 items with everything, and one target", lambda: Fitter(rich).fit(rich_s - 300)),
        ("  another target of the same tables", lambda: fitted.fit(rich_s - 240)),
        ("  where everything would lie", lambda: outline(fitted.script)),
        ("all checks on 60 items", lambda: check(script, timeline, shipped_moves())),
        ("all checks on 60 items with everything", lambda: check(rich, rich_timeline, shipped_moves())),
        ("  the same, words not yet looked at", lambda: first_look(script, timeline)),
        ("read a document of 60 items", lambda: loads(text)),
        ("write a document of 60 items", lambda: dumps(script)),
        ("draw the sheet of 60 items", lambda: draw_sheet(timeline)),
        ("draw a figure, one pose (median of all)", next_figure(1)),
        ("draw a figure, two poses (median of all)", next_figure(2)),
        ("serve a figure that was asked for before", asked_again()),
        ("an edit on the Desk, 25 items, server side", edited),
        ("a preview of the peg, 60 items with everything", preview(edited)),
    ]
    found = {}
    for name, what in rows:
        median, high = found[name.strip()] = measure(what, runs)
        print(f"{name:48} {median:10.2f} {high:10.2f}", flush=True)
    return found


if __name__ == "__main__":
    measured()
