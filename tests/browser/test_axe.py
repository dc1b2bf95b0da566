"""axe-core finds nothing on any view, in any of its states."""

import pytest
from axe_playwright_python.sync_playwright import Axe
from django.utils import timezone

from extendum.web.records.demo import teach_for_months
from extendum.web.records.models import Session
from extendum.web.teach.models import Link, LiveEvent, LiveRun

pytestmark = pytest.mark.browser
RULES = {
    "runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
    "resultTypes": ["violations"],  # of what passes it describes one element, not all: a third of the time
}


#: What every state of a screen has in common is looked at once, in one of them; of the others, what is theirs.
OWN_PARTS = {
    "shelf, menu": "details.menu[open]",
    "desk, settings": "#panel",
    "desk, reps": "#panel",
    "desk, talk": "#panel",
    "desk, quiet": "#panel",
    "desk, group": "#panel",
    "desk, stages": "#panel",
    "desk, picked": "#picked",
    "desk, look": "#look",
    "desk, finder": "#finder",
    "desk, search": ".adder",
    "desk, suggestions": ".adder",
    "desk, help": "#help",
    "desk, steps": "#steps",
    "desk, table": "#table",
    "desk, order": "#order",
    "desk, refusal": "#notice",
    "desk, preview": "#preview",
    "checks, keeping": ".finding",
    "brief, profile": "#brief-form",
    "brief, refused": "#notice",
    "moves, none": "main",
    "settings, refused": "main",
    "words, calibration": "#calibration",
    "stage, help": "#help",
}


def complaints(page, context=None):
    found = Axe().run(page, context=context, options=RULES).response["violations"]
    return [(v["id"], [n["html"][:160] for n in v["nodes"][:3]]) for v in found]


def keep_a_recording(page):
    """A recording that is kept with the class, on the page of those."""
    page.click("text=Hear the timed text of one")
    page.fill(
        "textarea", "[0:05] Calf stretch. Left foot back.\n[0:09] And hold.\n[0:40] Other side.\n[1:10] And rest."
    )
    page.click("text=Preview")
    page.select_option("[name=against]", index=1)
    page.click("text=Keep with the class")
    page.wait_for_selector("text=Beside the script")


VIEWS = {
    "shelf": ("/", None),
    "shelf, refused": (
        "/",
        lambda p: (
            p.fill("#new-title", "A"),
            p.fill("[name=length]", "x"),
            p.keyboard.press("Enter"),
            p.wait_for_url("**/new/"),
        ),
    ),
    "shelf, menu": ("/", lambda p: p.click("summary >> nth=0")),
    "archive, empty": ("/?archived=1", None),
    "readings": ("/classes/{pk}/readings/", None),
    "readings, voice": (
        "/classes/{pk}/readings/",
        lambda p: (
            p.fill("#new-voice [name=name]", "Ada"),
            p.keyboard.press("Enter"),
            p.wait_for_selector("#texts li"),
        ),
    ),
    "music": ("/classes/{pk}/music/", None),
    "desk, settings": ("/classes/{pk}/?item=settings", None),
    "desk, picked": ("/classes/{pk}/?item=i6", lambda p: p.keyboard.press("Shift+ArrowDown")),
    "desk, look": ("/classes/{pk}/", lambda p: (p.click("#by-look"), p.wait_for_selector("#look:not([hidden])"))),
    "desk, finder": ("/classes/{pk}/", lambda p: (p.keyboard.press("j"), p.wait_for_selector("#finder li kbd"))),
    "desk, move": ("/classes/{pk}/?item=i6", None),
    "desk, reps": ("/classes/{pk}/?item=i3", None),
    "desk, talk": ("/classes/{pk}/?item=i1", None),
    "desk, quiet": ("/classes/{pk}/?item=i16", None),
    "desk, group": ("/classes/{pk}/?item=g3", None),
    "desk, stages": ("/classes/{pk}/?item=i6", lambda p: (p.click("#add-stage"), p.wait_for_selector("#wanted-2"))),
    "desk, search": ("/classes/{pk}/", lambda p: (p.fill("#add", "c"), p.wait_for_selector("#found [data-move]"))),
    "desk, help": ("/classes/{pk}/", lambda p: p.keyboard.press("?")),
    "desk, steps": ("/classes/{pk}/", lambda p: (p.keyboard.press("h"), p.wait_for_selector("#steps[open]"))),
    "desk, table": ("/classes/{pk}/", lambda p: (p.keyboard.press("d"), p.wait_for_selector("#table[open]"))),
    "desk, refusal": (
        "/classes/{pk}/",
        lambda p: (p.fill("#target", "59:00"), p.keyboard.press("Enter"), p.wait_for_selector("#notice-text")),
    ),
    "desk, preview": (
        "/classes/{pk}/",
        lambda p: (p.focus("#peg"), p.keyboard.press("PageDown"), p.wait_for_selector("#ghost")),
    ),
    "desk, order": (
        "/classes/{pk}/?item=i6",
        lambda p: (p.click("[data-order-of] >> nth=1"), p.wait_for_selector("#order[open]")),
    ),
    "desk, suggestions": ("/classes/{pk}/", lambda p: (p.focus("#add"), p.wait_for_selector(".found-head"))),
    "proposals": ("/classes/{pk}/proposals/", lambda p: p.wait_for_selector("#take-1")),
    "checks": ("/classes/{pk}/checks/?area=chest", lambda p: p.click("#as-table summary")),
    "checks, keeping": ("/classes/{pk}/checks/", lambda p: p.click(".keeping summary >> nth=0")),
    "brief": ("/classes/{pk}/brief/", None),
    "brief, profile": (
        "/classes/{pk}/brief/",
        lambda p: (p.click("text=Older adults on chairs"), p.wait_for_selector("#brief-wpm[value='145']")),
    ),
    "brief, refused": (
        "/classes/{pk}/brief/",
        lambda p: (p.fill("#brief-length", "x"), p.click("#to-desk"), p.wait_for_selector("#notice-text")),
    ),
    "moves": ("/moves/", None),
    "moves, none": ("/moves/?area=eyes&prop=strap", None),
    "move": ("/moves/half-kneeling-hip/", None),
    "move, own version": ("/moves/half-kneeling-hip/edit/", None),
    "move, new": ("/moves/new/", None),
    "help": ("/help/", lambda p: p.click("summary >> nth=2")),
    "settings": ("/settings/", None),
    "settings, refused": (
        "/settings/",
        lambda p: (
            p.fill("[name=length]", "x"),
            p.click("button:text-is('Save') >> nth=0"),
            p.wait_for_selector("[role=alert]"),
        ),
    ),
    "stage, help": (
        "/classes/{pk}/stage/",
        lambda p: (p.keyboard.press("?"), p.click("text=Words on this screen")),
    ),
    "versions": ("/classes/{pk}/versions/", None),
    "versions, warm-up": ("/classes/{pk}/versions/?any=1&warm=4:00&region=calf", None),
    "versions, refused": ("/classes/{pk}/versions/?warm=soon", None),
    "words": ("/classes/{pk}/words/", None),
    "words, calibration": ("/classes/{pk}/words/", lambda p: p.click("#calibrate")),
    "stage, before": ("/classes/{pk}/stage/", None),
    "stage running": ("/classes/{pk}/stage/", lambda p: (p.click("#start"), p.keyboard.press("n"))),
    "stage leaving": ("/classes/{pk}/stage/", lambda p: (p.click("#start"), p.click("#leave"))),
    "rehearse, before": ("/classes/{pk}/rehearse/", None),
    "rehearse running": ("/classes/{pk}/rehearse/", lambda p: p.click("#tap")),
    "take, before": ("/classes/{pk}/take/", None),
    "screens": ("/screens/", lambda p: (p.click("text=New screen"), p.wait_for_selector(".qr"))),
    "logbook, empty": ("/logbook/", None),
    "overview, empty": ("/logbook/overview/", None),
    "files": ("/classes/{pk}/give/", None),
    "read in": ("/read-in/", None),
    "read in, refused": ("/read-in/", lambda p: (p.click("text=Preview"), p.wait_for_selector("[role=alert]"))),
    "read in, list": (
        "/read-in/",
        lambda p: (
            p.fill("textarea", "Main\nWall calf stretch, 30 s each side\nFlying, 9999 s"),
            p.click("text=Preview"),
            p.wait_for_selector(".read-table"),
        ),
    ),
    "read in, recording": (
        "/read-in/",
        lambda p: (
            p.fill("textarea", "[0:05] Calf stretch. Left foot back.\n[0:09] And hold.\n[0:40] Other side, and hold."),
            p.click("text=Preview"),
            p.wait_for_selector(".heard"),
        ),
    ),
    "recordings, empty": ("/classes/{pk}/recordings/", None),
    "recordings": ("/classes/{pk}/recordings/", keep_a_recording),
    "not found": ("/classes/999999/", None),
}


@pytest.mark.parametrize("screen", dict.fromkeys(view.split(",")[0] for view in VIEWS))
def test_axe_finds_nothing(page, digging, screen):
    found = {}
    for view in (one for one in VIEWS if one.split(",")[0] == screen):
        address, prepare = VIEWS[view]
        page.goto(address.format(pk=digging.pk))
        if prepare:
            prepare(page)
        part = OWN_PARTS.get(view)
        found[view] = complaints(page, {"include": [[part]]} if part else None)
    assert {view: told for view, told in found.items() if told} == {}


def test_axe_finds_nothing_for_a_newcomer(page):
    page.goto("/")
    assert complaints(page) == []
    page.context.clear_cookies()
    page.goto("/sign-in/")
    assert complaints(page) == []
    page.fill("[name=username]", "ada")
    page.fill("[name=password]", "a long password")
    page.click("text=Sign in >> nth=-1")
    page.locator("text=The shelf is empty").wait_for()


def test_axe_finds_nothing_on_what_was_taught_and_what_follows(page, digging, owner):
    teach_for_months([digging])
    session = Session.objects.exclude(run=None).first()
    room, clicker = (Link.objects.create(owner=owner, kind=kind, name="Mine", easier=True) for kind in Link.Kind.values)
    run = session.run
    for address in ("/logbook/", f"/logbook/{session.pk}/", "/logbook/overview/", f"/classes/{digging.pk}/"):
        page.goto(address)
        for part in page.locator("main details:not(.menu) > summary").all():
            part.click()
        assert complaints(page) == [], address
    for link in (room, clicker):
        page.goto(f"/{link.kind}/{link.code}/")
        assert complaints(page) == [], link.kind
        page.goto(f"/{link.kind}/wrong/")
        assert complaints(page) == [], link.kind
    now = timezone.now()
    LiveRun.objects.filter(pk=run.pk).update(held_at=now, holder="a", clock_off=0)
    run.events.all().delete()
    LiveEvent.objects.create(run=run, key="0", at=round(now.timestamp() * 1000) - 200_000, kind="start")
    for link, part in ((room, "#room-on"), (clicker, "#keys")):
        page.goto(f"/{link.kind}/{link.code}/")
        page.locator(part).wait_for()
        assert complaints(page) == [], link.kind
    LiveRun.objects.filter(pk=run.pk).update(rehearsal=True, take=True)
    page.goto(f"/classes/{digging.pk}/takes/{run.key}/")
    assert complaints(page) == []
