"""The Stage in front of a class: its fold beside the core's, what can be read from afar, control, nothing lost."""

import dataclasses
import json
from random import Random

import pytest
from playwright.sync_api import expect

from extendum.core.edit.choice_edits import add_instead
from extendum.core.edit.script_edits import add_group, add_move, new_script, set_group, set_move_item
from extendum.core.model.dose import Breaths, Reps
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import DirectionOrder, ReleaseAfter, Stage
from extendum.core.model.section import SidePlan
from extendum.core.run.actions import ACTIONS
from extendum.core.run.fold import fold
from extendum.core.run.seen import Watched
from extendum.core.run.state import Event
from extendum.core.run.steps import steps_of
from extendum.core.timing.compile import compile_script
from extendum.formats.library import shipped_move
from extendum.formats.score import played, step_plain
from extendum.web.classes import store
from extendum.web.teach.models import LiveEvent, LiveRun
from tests.browser.test_main_path import pass_time, to_the_stage

pytestmark = pytest.mark.browser


def until(page, condition):
    """Wait until an expression is true in the page, asked from outside: its policy lets nothing evaluate text."""
    for _ in range(500):
        if page.evaluate(condition):
            return
        page.wait_for_timeout(20)
    raise AssertionError(f"never true within 10 s: {condition}")


def until_there(page, rows, n):
    """Wait until the server has as many of these rows."""
    for _ in range(500):
        if rows.count() == n:
            return
        page.wait_for_timeout(20)
    raise AssertionError(f"{rows.count()} instead of {n} after 10 s")


def sequence(random, steps, n):
    """Events as a teacher might make them in any order, some of them twice."""
    at, found = random.randint(0, 3000), []
    for k in range(random.randint(2, 24)):
        kind = "start" if k == 0 else random.choice(list(ACTIONS))
        step = random.choice(steps)
        step = step.item if kind == "bring" else step.id if kind in ("fit", "insert") else ""
        event = Event(f"{n}-{k}", at, kind, step, random.choice((0, 1000, 10_000, -4000, 33_000)))
        found += [event] * random.choice((1, 1, 1, 2))
        at += random.choice((0, 1, 700, 2500, 9000, 31_000, 90_000))
    return found


def plain(run):
    """A run as the browser's fold has it."""
    told = dataclasses.asdict(run)
    told["steps"] = [step_plain(step) for step in run.steps]
    told["seen"], told["rungs"] = sorted(run.seen), dict(run.rungs)
    told["instead"] = dict(run.instead)
    told["log"] = list(told["log"])
    told["left"] = run.left and [run.left[0], [step_plain(step) for step in run.left[1]]]
    told["spare"] = [step_plain(step) for step in run.spare]
    return told


def of_sides_and_ways():
    """A class with a chain, directions that come first, breaths that alternate, further sets, and ways between."""
    script = new_script("Sides and ways", 600)
    for key in ("calf-lean", "standing-thigh-stretch", "half-kneeling-hip"):
        script, item = add_move(script, shipped_move(key))
    script = add_instead(script, item, shipped_move("bent-knee-calf-lean"))
    script = add_group(set_group(script, "g1", side_plan=SidePlan.CHAIN, rounds=2), "s1")
    script, turning = add_move(script, shipped_move("ankle-circles"))
    by_way = DirectionOrder.DIRECTION_BY_DIRECTION
    script = set_move_item(script, turning, direction_order=by_way, sets=2, release_after=ReleaseAfter.ONCE)
    script, breathing = add_move(script, shipped_move("seated-march"))
    return set_move_item(script, breathing, dose=Breaths(Elastic(2, 4, 6)), then=(Stage(Reps(Elastic(1, 3, 6))),))


def test_the_browsers_fold_is_the_one_of_the_core(page, digging):
    script = of_sides_and_ways()
    steps = steps_of(script, compile_script(script))
    random = Random(8)  # noqa: S311 - the same sequences every time
    sequences = [sequence(random, steps, n) for n in range(500)]
    page.goto(f"/classes/{digging.pk}/stage/")
    expect(page.locator("#start")).to_be_enabled()
    theirs = page.evaluate(
        """async ([steps, sequences]) => {
            const { fold } = await import("/static/js/playing.js");
            const sorted = (run) => ({ ...run, seen: run.seen.toSorted() });
            return sequences.map((events) => sorted(fold(steps, events)));
        }""",
        [[step_plain(step) for step in steps], [[dataclasses.asdict(e) for e in one] for one in sequences]],
    )
    ours = [json.loads(json.dumps(plain(fold(steps, events)))) for events in sequences]
    assert theirs == ours
    assert sum(run["ended"] for run in ours) > 30
    assert sum(len(run["log"]) > 5 for run in ours) > 100


def test_what_a_film_shows_is_what_the_screens_show(page, digging):
    script = of_sides_and_ways()
    script, _ = add_move(script, shipped_move("shoulder-circles"))
    timeline = compile_script(script)
    moments = sorted(Random(4).sample(range(timeline.length_s * 1000), 300))  # noqa: S311 - the same every time
    page.goto(f"/classes/{digging.pk}/stage/")
    expect(page.locator("#start")).to_be_enabled()
    theirs = page.evaluate(
        """async ([score, moments]) => {
            const { advance, fold } = await import("/static/js/playing.js");
            const { prepared, seenNow } = await import("/static/js/seen.js");
            const { outOf } = await import("/static/js/drawing.js");
            const ready = prepared(score), begun = fold(score.steps, [{ id: "a", at: 0, kind: "start" }]);
            return moments.map((ms) => {
                const seen = seenNow(ready, advance(begun, ms));
                const { segment, left, side, nth = 0, total = 0, word = "", breath = "", pace = "" } = seen;
                return [segment.id, left, side ?? "", nth, total, word, breath, pace, Math.round(outOf(seen) * 1e6)];
            });
        }""",
        [played(script, timeline, {}), moments],
    )
    ours = []
    for ms in moments:
        seen = Watched(script, timeline).at(ms)
        told = (seen.nth, seen.total, seen.word, seen.breath, seen.pace)
        ours.append([seen.segment.id, seen.left_s, str(seen.side or ""), *told, round(seen.out * 1e6)])
    for one, other in zip(theirs, ours, strict=True):
        assert one[:-1] == other[:-1] and abs(one[-1] - other[-1]) <= 1
    assert len({one[5] for one in ours}) > 3 and len({one[2] for one in ours}) > 2


KEPT = "JSON.parse(localStorage[Object.keys(localStorage).find((key) => key.startsWith('extendum-run'))])"
CAPITALS = """([id]) => {
    const box = document.querySelector(id);
    const style = getComputedStyle(box);
    const pen = document.createElement("canvas").getContext("2d");
    pen.font = `${style.fontWeight} ${style.fontSize} ${style.fontFamily}`;
    return pen.measureText("H").actualBoundingBoxAscent / innerHeight;
}"""
TIERS = {"#count": 0.20, "#name": 0.05, "#side span": 0.09, "#next": 0.06, "#words": 0.05}
INSIDE = """() => [...document.querySelectorAll("#name, #side, #count, #words, #next, canvas, .stage-keys button")]
    .map((box) => [box.id, box.getBoundingClientRect()])
    .filter(([, at]) => at.width && (at.right > innerWidth + 1 || at.bottom > innerHeight + 1 || at.left < -1))
    .map(([id]) => id)"""


@pytest.mark.parametrize("size", [(1280, 800), (1920, 1080)])
def test_it_can_be_read_from_afar(page, digging, size):
    page.set_viewport_size({"width": size[0], "height": size[1]})
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    sides = 0
    for seconds in (5, 60, 20, 95, 20, 30, 60, 60, 60, 60, 60, 100):  # talk, reps, holds on both sides, breaths
        pass_time(page, seconds)
        for box, least in TIERS.items():
            if box == "#side span" and not page.locator(box).count():
                continue
            sides += box == "#side span"
            assert page.evaluate(CAPITALS, [box]) >= least - 0.0005, (box, page.inner_text("#name"))
        assert page.evaluate(INSIDE) == []
        line = page.evaluate("parseFloat(getComputedStyle(document.getElementById('words')).lineHeight)")
        assert page.locator("#words").bounding_box()["height"] <= 3.3 * line
    assert sides > 3


def test_a_longer_hold_is_matched_on_the_second_side_and_said_so(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 200)
    assert (page.inner_text("#name"), page.inner_text("#phase")) == ("Wall calf stretch", "hold")
    before = int(page.inner_text("#count"))
    page.keyboard.press("l")
    page.keyboard.press("l")
    assert int(page.inner_text("#count")) == before + 20
    expect(page.locator("#late")).to_contain_text("0:40 late")  # both sides
    pass_time(page, before + 20 + 10)
    assert page.locator("#side > span").inner_text() == "right"
    assert page.inner_text("#note") == "as long as the first side"


def test_they_are_in_begins_the_hold_and_page_down_of_a_clicker_ends_it(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 176)
    assert page.inner_text("#name") == "Wall calf stretch"
    assert page.locator("#go").inner_text().startswith("They are in")
    page.keyboard.press("Enter")
    assert (page.inner_text("#phase"), page.inner_text("#count")) == ("hold", "35")
    pass_time(page, 10)
    page.keyboard.press("PageDown")
    assert page.inner_text("#phase") == "let go"
    page.keyboard.press("PageUp")
    assert page.inner_text("#phase") == "get there"
    page.keyboard.press("s")
    assert page.locator("#side > span").inner_text() == "right"
    page.keyboard.press(".")
    assert page.inner_text("#phase") == "paused"


def test_reps_count_one_more_and_the_easier_way_is_named(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 75)
    assert page.inner_text("#name") == "Shoulder rolls"
    assert page.inner_text("#phase").endswith("of 7")
    page.keyboard.press("o")
    assert page.inner_text("#phase").endswith("of 8")
    pass_time(page, 190)
    page.keyboard.press("i")
    expect(page.locator("#told")).to_contain_text("A rest of 30 s")
    expect(page.locator("#next")).to_have_text("a rest")


def test_a_reload_comes_back_to_the_right_second_and_each_event_is_told_once(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 100)
    page.keyboard.press("l")
    left = page.text_content("#left")
    pass_time(page, 5)
    page.once("dialog", lambda dialog: dialog.accept())
    page.reload()
    expect(page.locator("#told")).to_contain_text("Back where the class is")
    minutes, seconds = map(int, left.split()[0].split(":"))
    now = page.text_content("#left").split()[0].split(":")
    assert 4 <= minutes * 60 + seconds - int(now[0]) * 60 - int(now[1]) <= 8
    expect(page.locator("#before")).to_be_hidden()
    page.keyboard.press(" ")
    page.clock.run_for(9000)
    expect(page.locator("#phase")).to_have_text("paused")
    kept = page.evaluate(
        "JSON.parse(localStorage[Object.keys(localStorage).find((k) => k.startsWith('extendum-run'))])"
    )
    page.clock.run_for(9000)
    until(page, f"({KEPT}).told === {len(kept['events'])}")
    assert LiveRun.objects.get().key == kept["run"]
    assert sorted(LiveEvent.objects.values_list("key", flat=True)) == sorted(e["id"] for e in kept["events"])


def test_without_the_server_it_plays_on_reloads_and_tells_later(page, digging):
    to_the_stage(page, digging)
    page.clock.resume()
    expect(page.locator("#stage[data-kept=yes]")).to_be_attached()
    page.keyboard.press(" ")
    expect(page.locator("#before")).to_be_hidden()
    page.context.set_offline(True)
    page.keyboard.press("n")
    expect(page.locator("#name")).to_contain_text("Standing slow breathing")
    page.once("dialog", lambda dialog: dialog.accept())
    page.reload()
    expect(page.locator("#name")).to_contain_text("Standing slow breathing")
    page.keyboard.press(" ")
    expect(page.locator("#phase")).to_have_text("paused")
    page.context.set_offline(False)
    page.evaluate("window.dispatchEvent(new Event('online'))")
    page.clock.run_for(9000)
    expect(page.locator("#after-kept")).to_have_text("What happened is kept with the class.")
    assert list(LiveEvent.objects.values_list("kind", flat=True)) == ["start", "skip-item", "pause"]


def test_a_laptop_that_slept_goes_on_by_the_clock_on_the_wall_and_one_key_goes_back(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 30)
    left = page.text_content("#left")
    page.evaluate("(() => { const wall = Date.now; Date.now = () => wall() + 60_000; })()")
    page.clock.run_for(200)
    expect(page.locator("#told")).to_contain_text("slept for 60 s")
    assert page.text_content("#left") != left
    page.keyboard.press("z")
    minutes, seconds = map(int, left.split()[0].split(":"))
    now = page.text_content("#left").split()[0].split(":")
    assert abs(minutes * 60 + seconds - int(now[0]) * 60 - int(now[1])) <= 1


def test_a_clock_that_is_set_back_an_hour_changes_nothing_also_after_a_reload(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 100)
    left = page.text_content("#left")
    set_back = "(() => { const wall = Date.now; Date.now = () => wall() - 3_600_000; })()"
    page.evaluate(set_back)
    page.clock.run_for(200)
    assert page.text_content("#left") == left
    pass_time(page, 20)
    minutes, seconds = map(int, left.split()[0].split(":"))
    later = minutes * 60 + seconds - 20
    assert page.text_content("#left").split()[0] == f"{later // 60}:{later % 60:02}"
    page.keyboard.press("l")
    page.once("dialog", lambda dialog: dialog.accept())
    page.add_init_script(set_back)
    page.reload()
    expect(page.locator("#told")).to_contain_text("Back where the class is")
    now = page.text_content("#left").split()[0].split(":")
    assert -2 <= later + 20 - int(now[0]) * 60 - int(now[1]) <= 12  # ten seconds longer on both sides


def test_running_late_one_key_says_what_gives_way_and_does_it(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 100)
    page.keyboard.press(" ")
    pass_time(page, 25)
    page.keyboard.press(" ")
    pass_time(page, 60)
    expect(page.locator("#late")).to_contain_text("0:25 late")
    page.keyboard.press("c")
    expect(page.locator("#told")).to_contain_text("On time again: ")
    expect(page.locator("#told")).to_contain_text("shorter")
    expect(page.locator("#late")).to_contain_text("0:25 late")
    page.clock.run_for(2200)
    expect(page.locator("#late")).to_contain_text("on time")
    kinds = page.evaluate(KEPT)["events"]
    assert {event["kind"] for event in kinds} == {"start", "pause", "resume", "fit"}


def test_catching_up_is_off_without_the_server_and_escape_leaves_it(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 200)
    for _ in range(3):
        page.keyboard.press("l")
    page.keyboard.press("c")
    expect(page.locator("#told")).to_contain_text("On time again")
    page.keyboard.press("Escape")
    expect(page.locator("#told")).to_contain_text("Left as it was")
    page.clock.run_for(3000)
    expect(page.locator("#late")).to_contain_text("1:00 late")
    page.context.set_offline(True)
    page.keyboard.press("c")
    expect(page.locator("#told")).to_contain_text("needs the server")
    page.context.set_offline(False)


def test_a_class_that_ends_by_the_clock_is_fitted_at_its_start(page, digging):
    to_the_stage(page, digging)
    end = page.evaluate("new Date(Date.now() + 11 * 60_000).toTimeString().slice(0, 5)")
    page.fill("#end-by", end)
    page.locator("#end-by").blur()
    expect(page.locator("#end-by-told")).to_contain_text("too long from now")
    page.keyboard.press(" ")
    expect(page.locator("#told")).to_contain_text("On time again")
    page.clock.run_for(2200)
    expect(page.locator("#late")).to_contain_text(f"on time, ends {end}")


def test_a_second_stage_watches_and_takes_over(page, digging, live_server):
    page.goto(f"/classes/{digging.pk}/stage/")
    expect(page.locator("#start")).to_be_enabled()
    page.keyboard.press(" ")
    page.keyboard.press("n")
    expect(page.locator("#name")).to_contain_text("Standing slow breathing")
    other = page.context.browser.new_context(storage_state={**page.context.storage_state(), "origins": []})
    second = other.new_page()
    second.goto(f"{live_server.url}/classes/{digging.pk}/stage/")
    expect(second.locator("#watching")).to_be_visible()
    expect(second.locator("#name")).to_contain_text("Standing slow breathing")
    second.keyboard.press("n")
    expect(second.locator("#name")).to_contain_text("Standing slow breathing")
    second.keyboard.press("t")
    expect(second.locator("#watching")).to_be_hidden()
    second.keyboard.press("n")
    expect(second.locator("#name")).to_contain_text("Shoulder rolls")
    expect(page.locator("#watching")).to_be_visible()
    expect(page.locator("#name")).to_contain_text("Shoulder rolls")
    other.close()


def test_a_tab_that_is_duplicated_watches_too(page, digging):
    page.goto(f"/classes/{digging.pk}/stage/")
    expect(page.locator("#start")).to_be_enabled()
    page.keyboard.press(" ")
    page.keyboard.press("n")
    expect(page.locator("#name")).to_contain_text("Standing slow breathing")
    second = page.context.new_page()
    second.add_init_script(f"sessionStorage.setItem('extendum-me', '{page.evaluate('sessionStorage[`extendum-me`]')}')")
    second.goto(f"/classes/{digging.pk}/stage/")
    expect(second.locator("#watching")).to_be_visible()
    page.keyboard.press("n")
    expect(second.locator("#name")).to_contain_text("Shoulder rolls")
    expect(page.locator("#watching")).to_be_hidden()


def test_the_tray_has_what_was_skipped_and_what_fits_here(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 60)
    assert page.inner_text("#name") == "Shoulder rolls"
    page.keyboard.press("n")
    page.keyboard.press("n")
    assert page.inner_text("#name") == "Hip hinge"
    page.keyboard.press("t")
    tray = page.locator("#tray-found button")
    expect(tray.first).to_contain_text("Shoulder rolls skipped")
    expect(tray.nth(1)).to_contain_text("Standing trunk rotations skipped")
    assert tray.count() == 6
    tray.nth(2).click()
    name = page.inner_text("#told").removesuffix(" comes before the next pass.")
    expect(page.locator("#next")).to_contain_text(name)
    page.keyboard.press("n")
    assert page.inner_text("#name").split(",")[0] == name.split(",")[0]
    expect(page.locator("#figure canvas")).to_be_visible()
    pass_time(page, 15)
    assert page.inner_text("#words")


def test_a_rehearsal_measures_words_and_ways_and_sets_what_is_ticked(page, digging):
    page.clock.install(time=0)
    page.goto(f"/classes/{digging.pk}/stage/")
    page.keyboard.press("h")
    expect(page.locator("#tap")).to_be_enabled()
    page.clock.pause_at(3_600_000)
    page.keyboard.press(" ")
    for _ in range(12):  # sentences of the welcome, then words and ways, each at 6 s
        pass_time(page, 6)
        page.keyboard.press("Enter")
    assert page.inner_text("#late") == "rehearsal, at your pace"
    page.reload()
    expect(page.locator("#told")).to_have_text("Back where the rehearsal is.")
    page.keyboard.press("Escape")
    page.click("#enough")
    expect(page.locator(".lessons")).to_contain_text("Welcome took 24 s and the script has 20 s: use 24 s.")
    page.uncheck(".lessons li:has-text('a minute') input")
    page.click("text=Apply what is ticked")
    page.wait_for_url(f"**/classes/{digging.pk}/")
    expect(page.locator("#length")).not_to_have_text("12:00")
    digging.refresh_from_db()
    assert next(iter(store.script_of(digging.head).items())).quantity.wanted == 24
    assert digging.last_action.startswith("From the rehearsal")
    assert digging.taught_at is None


def test_a_rehearsal_faster_than_life_only_looks(page, digging):
    page.clock.install(time=0)
    page.goto(f"/classes/{digging.pk}/rehearse/")
    expect(page.locator("#tap")).to_be_enabled()
    page.clock.pause_at(3_600_000)
    page.keyboard.press("f")
    pass_time(page, 50)
    assert (page.inner_text("#name"), page.inner_text("#phase")) == (
        "Wall calf stretch",
        "hold",
    )  # at 200 s of the class
    pass_time(page, 140)
    expect(page.locator("#after-kept")).to_contain_text("only looked through")
    assert LiveRun.objects.count() == 0


def test_a_class_that_ended_without_the_server_is_told_when_its_stage_is_opened_again(page, digging):
    to_the_stage(page, digging)
    page.clock.resume()
    expect(page.locator("#stage[data-kept=yes]")).to_be_attached()
    with page.expect_response("**/events/"):
        page.keyboard.press(" ")
    page.context.set_offline(True)
    while not page.locator("#after").is_visible():
        page.keyboard.press("n")
    expect(page.locator("#after-kept")).to_contain_text("are kept here")
    page.close()
    again = page.context.new_page()
    again.context.set_offline(False)
    with again.expect_response(lambda one: one.url.endswith("/events/") and one.request.method == "POST"):
        again.goto(f"/classes/{digging.pk}/stage/")
    kinds = list(LiveEvent.objects.values_list("kind", flat=True))
    assert (kinds[0], kinds[-1]) == ("start", "end")
    assert len(kinds) > 10
    assert LiveRun.objects.get().session.of == digging


@pytest.fixture
def ankles(owner):
    """A class of ankle circles, on each side in each direction, and a move after them."""
    script = new_script("Ankles", 300)
    for key in ("ankle-circles", "shoulder-circles"):
        script, _ = add_move(script, shipped_move(key))
    return store.create(owner, script, "Made")


def test_skipping_leaves_the_whole_item_and_says_how_much_of_it(page, ankles):
    to_the_stage(page, ankles)
    page.keyboard.press(" ")
    assert page.inner_text("#name") == "Ankle circles"
    page.keyboard.press("Enter")  # they are in
    pass_time(page, 5)
    page.keyboard.press("Shift+N")
    assert page.inner_text("#name") == "Ankle circles" and page.locator("#skip-part").is_enabled()
    page.keyboard.press("n")
    assert page.inner_text("#name") == "Shoulder rolls" and page.locator("#skip-part").is_disabled()
    expect(page.locator("#told")).to_contain_text("Skipped: Ankle circles")
    page.keyboard.press("b")  # at once: it goes on where it was left
    assert page.inner_text("#name") == "Ankle circles"
    page.keyboard.press("n")
    page.keyboard.press("t")
    expect(page.locator("#tray-found button").first).to_contain_text("3 of 4 parts skipped")
    page.keyboard.press("t")
    pass_time(page, 20)
    page.keyboard.press("Escape")
    page.keyboard.press("e")
    card = page.locator("#learned")
    expect(card).to_contain_text("Skipped: Ankle circles (3 of 4 parts)")
    card.locator("text=Its log").click()
    expect(page.locator("tr", has_text="Ankle circles").last).to_contain_text("skipped, 3 of 4 parts")


def test_a_class_is_ended_in_the_middle_and_its_log_tells_what_was_not_reached(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 20)
    page.keyboard.press("n")
    pass_time(page, 30)
    page.keyboard.press("Escape")
    page.locator("#ask[open]").wait_for()
    page.click("text=End here and log it")
    card = page.locator("#learned .facts")
    expect(card).to_contain_text("Skipped: Standing slow breathing")
    expect(card).to_contain_text("not reached: ")
    assert store.StretchClass.objects.get(pk=digging.pk).taught_at


def test_a_paused_class_asks_whether_it_goes_on_or_begins_again(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    pass_time(page, 20)
    left = page.text_content("#left")
    page.keyboard.press("Escape")
    page.keyboard.press("p")
    page.wait_for_selector("#desk")
    page.goto(f"/classes/{digging.pk}/stage/")
    expect(page.locator("#paused")).to_be_visible()
    expect(page.locator("#paused-where")).to_contain_text("0:20 in, at Standing slow breathing")
    page.keyboard.press("n")  # nothing moves before it is said
    page.keyboard.press(" ")
    expect(page.locator("#paused")).to_be_hidden()
    assert page.text_content("#left") == left and page.inner_text("#phase") != "paused"
    page.keyboard.press(" ")
    page.reload()
    expect(page.locator("#paused")).to_be_visible()
    page.click("#restart")
    expect(page.locator("#left")).to_have_text("12:00 to go")
    page.clock.run_for(9000)
    until(page, "!Object.keys(localStorage).some((key) => key.startsWith('extendum-aside'))")
    until_there(page, LiveRun.objects, 2)
    first, second = LiveRun.objects.order_by("pk")
    until_there(page, second.events, 1)
    assert list(first.events.values_list("kind", flat=True)) == ["start", "pause", "resume", "pause", "end"]
    assert list(second.events.values_list("kind", flat=True)) == ["start"]


def test_the_first_side_is_named_only_where_the_second_has_its_length(page, digging):
    to_the_stage(page, digging)
    script = store.script_of(digging.head)
    steps = [step_plain(step) for step in steps_of(script, compile_script(script))]
    told = page.evaluate(
        """async (steps) => {
            const { fold } = await import("/static/js/playing.js");
            const { asTheFirst } = await import("/static/js/seen.js");
            const first = steps.find((one) => one.partner), second = first.partner;
            const at = steps.slice(0, steps.indexOf(first)).reduce((sum, one) => sum + one.ms, 0);
            const after = (kind, at, more) => {
                const events = [["start", 0], [kind, at, more]].map(([kind, at, more], n) =>
                    ({ id: String(n), at, kind, step: "", ms: 0, ...more }));
                const run = fold(steps, events);
                return asTheFirst(run, run.steps.find((one) => one.id === second), steps);
            };
            return [after("end-now", at + 9000), after("fit", at - 1, { step: second, ms: 9000 }),
                after("skip", at + 5000), after("pause", at + 90000)];
        }""",
        steps,
    )
    assert told == [True, False, False, False]
