"""Every program that measures has a small run here, so that none is found broken when it is asked for."""

import asyncio
from contextlib import contextmanager

import pytest
from playwright.sync_api import sync_playwright

from bench import attack, budgets, demo, figures, load, page, rooms, run, shots, stage, walk
from bench.chromium import chromium
from tests.apart import apart

pytestmark = pytest.mark.browser


@pytest.fixture(scope="module")
def served():
    with demo.served_with_data() as found:
        yield found


@pytest.fixture
def base(served, monkeypatch):
    """The address of one server for all that ask for one of their own."""

    @contextmanager
    def shared():
        yield served

    monkeypatch.setattr(attack, "served_with_data", shared)
    return served[0]


@pytest.mark.django_db(transaction=True)
def test_the_table_of_budgets_has_a_figure_for_every_row(monkeypatch, capsys):
    """What is computed is measured here, once; what a server is asked for, in tests of its own."""
    names = ("octets", "paint", "shift", "listen", "memory", "off", "script", "over", "answer", "seen")
    elsewhere = {name: n for n, name in enumerate(names)}
    for part, name in ((page, "measured"), (budgets, "on_the_stage"), (rooms, "measured")):
        monkeypatch.setattr(part, name, lambda *_: elsewhere)
    monkeypatch.setattr(attack, "measured", lambda clients: [("something", "got through", False)])
    assert budgets.main(runs=1, classes=3) == 0
    rows = capsys.readouterr().out.split("budget ")[1].strip().splitlines()[1:]
    figure = {row[:58].strip(): float(row[58:69]) for row in rows}
    assert len(figure) == 21 and min(figure[name] for name in ("compile a 60-item class", "all checks on the same")) > 0
    assert figure["costs that differ from the oracle's, of 500 classes"] == 0
    assert figure["attacks that did not hold"] == 1
    assert isinstance(run.slope(1), float)


def test_the_page_the_stage_and_the_screens_are_measured(base, capsys):
    octets, paint, _ = apart(lambda: page.first_load(base))
    assert octets > 50_000 and paint > 0
    processes, memory = page.memory_mb(int(base.rsplit(":", 1)[1]))
    assert processes >= 3 and memory > 50
    stage.report("held", apart(lambda: stage.measure(base, 2, held=True)))
    assert "off by at most" in capsys.readouterr().out
    found = apart(lambda: asyncio.run(rooms.measure(rooms.Teacher(base), 3, 7)))
    assert found.answers and not found.failed and len(found.seen) == 3 * len(found.told)


def test_some_who_edit_at_once_are_measured(base):
    teacher = rooms.Teacher(base)
    found = apart(lambda: asyncio.run(load.measure(teacher, load.copies(teacher, 2), seconds=load.EVERY_S + 1)))
    assert found.answers and not found.failed


def test_pictures_are_taken(base, tmp_path):
    apart(lambda: shots.take(base, tmp_path, only=("shelf",)))
    apart(lambda: figures.main(tmp_path, most=2))
    assert sorted(path.name for path in tmp_path.iterdir()) == ["01.png", "shelf.png"]


def test_a_way_to_a_class_of_ones_own_ends_on_the_stage(base):
    def walked():
        with sync_playwright() as playwright:
            browser = chromium(playwright)
            opened = browser.new_context(base_url=base, viewport={"width": 1280, "height": 800}).new_page()
            return len(walk.chairs(opened).done), len(walk.proposed(opened).done)

    assert apart(walked) == (31, 9)


def test_every_attack_is_held_whatever_the_machine_is_doing(base, monkeypatch, capsys):
    for limit in ("BUDGET_MS", "REFUSED_MS", "READ_MS"):
        monkeypatch.setattr(attack, limit, float("inf"))
    lines = apart(lambda: attack.measured(clients=6))
    assert len(lines) >= 20 and [line for line in lines if not line[2]] == []
    monkeypatch.setattr(attack, "BUDGET_MS", 0.0)
    client = attack.Client(rooms.Teacher(base))
    assert not all(held for *_, held in apart(lambda: asyncio.run(attack.slow_clients(client, 1))))
