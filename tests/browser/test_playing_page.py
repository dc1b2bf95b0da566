"""The page that plays, opened from a disk without a network: the whole class with the clock moved on."""

import re
from importlib.resources import files
from math import ceil

import numpy as np
import pytest
from axe_playwright_python.sync_playwright import Axe

from extendum.core.model.body import Side
from extendum.core.run.steps import steps_of
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from extendum.formats.library import shipped_moves
from extendum.formats.playing_page import playing_page

DIGGING = loads(files("extendum.data").joinpath("demo", "after-digging.json").read_bytes())
TIMELINE = compile_script(DIGGING)
STEPS = steps_of(DIGGING, TIMELINE)
MOMENTS = 200
_BEGAN = 1_800_000_000_000


@pytest.fixture(scope="module")
def path(tmp_path_factory):
    """The page on a disk."""
    path = tmp_path_factory.mktemp("page") / "class.html"
    path.write_text(playing_page(DIGGING, {one.move.key: one for one in shipped_moves()}), "utf-8")
    return path


@pytest.fixture
def opened(chromium, path):
    """The page from a disk, in a browser that has no network, with a clock that a test moves."""
    context = chromium.new_context(viewport={"width": 390, "height": 844}, offline=True)
    page = context.new_page()
    page.wrong = []
    page.on("console", lambda told: page.wrong.append(told.text))
    page.on("pageerror", lambda error: page.wrong.append(str(error)))
    page.on("requestfailed", lambda request: page.wrong.append(request.url))
    page.clock.install(time=_BEGAN)
    page.goto(path.as_uri())
    page.clock.pause_at(_BEGAN + 60_000)
    yield page
    context.close()


def shown(at_ms):
    """The count, the side and the name that the timeline has at a moment."""
    segment = next(one for one in TIMELINE.segments if one.start_s * 1000 <= at_ms < one.end_s * 1000)
    step = next(one for one in STEPS if one.id == segment.id)
    into = at_ms - segment.start_s * 1000
    counted = step.unit_ms and step.works
    count = into // step.unit_ms + 1 if counted else ceil((segment.end_s * 1000 - at_ms) / 1000)
    side = segment.side if segment.side in (Side.LEFT, Side.RIGHT) else None
    return str(count), None if counted else side, segment.name


def test_the_whole_class_plays_offline_and_every_count_is_that_of_the_timeline(opened):
    page, at = opened, 0
    moments = np.random.default_rng(11).choice(np.arange(1, TIMELINE.length_s - 1), MOMENTS, replace=False)
    page.click("#start")
    for moment in (1000 * np.sort(moments) + 500).tolist():  # amid a second: a frame more or less tells the same
        page.clock.fast_forward(moment - at - 40)
        page.clock.run_for(40)
        at = moment
        count, side, name = shown(at)
        told = page.evaluate("['count', 'side', 'name'].map((id) => document.getElementById(id).textContent)")
        assert told[0] == count, (at, told)
        assert told[2] == name
        assert side is None or told[1] == side
    page.clock.fast_forward((TIMELINE.length_s * 1000) - at)
    page.clock.run_for(100)
    assert page.is_visible("#over")
    page.click("#afresh")
    page.clock.run_for(40)
    assert page.inner_text("#name") == shown(0)[2]
    assert page.wrong == []


def test_it_goes_on_where_one_was_and_the_second_side_follows_the_first(opened):
    page = opened
    page.click("#start")
    hold = next(one for one in TIMELINE.segments if one.kind == "hold" and one.side is Side.LEFT)
    page.clock.fast_forward(hold.start_s * 1000 + 2000)
    page.clock.run_for(40)
    page.keyboard.press("l")
    page.keyboard.press("Space")
    page.clock.run_for(40)
    assert page.inner_text("#phase") == f"{hold.seconds + 8} s of the left side are kept for you."
    assert re.search(r"\d:\d\d to go", page.inner_text("#list .now"))
    page.reload()
    page.clock.run_for(100)
    assert page.inner_text("#name") == "Paused"
    page.click("#pause")
    other = next(one for one in TIMELINE.segments if one.item == hold.item and one.kind == "hold" and one != hold)
    page.clock.fast_forward((hold.seconds + 8 + other.start_s - hold.end_s + 2) * 1000)
    page.clock.run_for(40)
    assert (page.inner_text("#side").strip(), page.inner_text("#name")) == ("right", hold.name)
    assert page.inner_text("#count") == str(hold.seconds + 8)  # ten more than planned, as the left side had
    assert page.wrong == []


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_axe_finds_nothing_and_every_key_is_a_button_with_its_name(chromium, opened, scheme):
    context = chromium.new_context(
        viewport={"width": 390, "height": 844}, offline=True, color_scheme=scheme, bypass_csp=True
    )
    page = context.new_page()
    page.goto(opened.url)
    for press in ("", "#start", "#pause"):
        if press:
            page.click(press)
        found = Axe().run(page).response["violations"]
        assert found == [], [(one["id"], [node["html"][:120] for node in one["nodes"]][:2]) for one in found]
    page.set_viewport_size({"width": 640, "height": 400})  # as at 200 % on a small laptop
    assert page.evaluate("document.documentElement.scrollWidth") <= 640
    assert page.locator("#pause").is_visible()
    context.close()


def test_where_no_script_runs_it_is_the_handout(chromium, opened):
    context = chromium.new_context(viewport={"width": 390, "height": 844}, offline=True, java_script_enabled=False)
    page = context.new_page()
    page.goto(opened.url)
    assert not page.is_visible("#start") and page.is_visible("text=This page plays the class where scripts may run.")
    assert page.is_visible("text=Step your left foot back")
    context.close()
