"""axe-core finds nothing on any view, in any of its states."""

import pytest
from axe_playwright_python.sync_playwright import Axe

pytestmark = pytest.mark.browser
RULES = {"runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]}


#: What every state of the Desk has in common is looked at once, in the first; of the others, what is theirs.
OWN_PARTS = {
    "desk, settings": "#panel",
    "desk, reps": "#panel",
    "desk, talk": "#panel",
    "desk, quiet": "#panel",
    "desk, group": "#panel",
    "desk, stages": "#panel",
    "desk, search": ".adder",
    "desk, suggestions": ".adder",
    "desk, keys": "#keys",
    "desk, steps": "#steps",
    "desk, order": "#order",
    "desk, refusal": "#notice",
    "desk, preview": "#preview",
    "checks, keeping": ".finding",
}


def complaints(page, context=None):
    found = Axe().run(page, context=context, options=RULES).response["violations"]
    return [(v["id"], [n["html"][:160] for n in v["nodes"][:3]]) for v in found]


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
    "desk, settings": ("/classes/{pk}/", None),
    "desk, move": ("/classes/{pk}/?item=i6", None),
    "desk, reps": ("/classes/{pk}/?item=i3", None),
    "desk, talk": ("/classes/{pk}/?item=i1", None),
    "desk, quiet": ("/classes/{pk}/?item=i16", None),
    "desk, group": ("/classes/{pk}/?item=g3", None),
    "desk, stages": ("/classes/{pk}/?item=i6", lambda p: (p.click("#add-stage"), p.wait_for_selector("#wanted-2"))),
    "desk, search": ("/classes/{pk}/", lambda p: (p.fill("#add", "c"), p.wait_for_selector("#found [data-move]"))),
    "desk, keys": ("/classes/{pk}/", lambda p: p.click("#open-keys")),
    "desk, steps": ("/classes/{pk}/", lambda p: (p.click("#open-steps"), p.wait_for_selector("#steps[open]"))),
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
    "versions": ("/classes/{pk}/versions/", None),
    "versions, warm-up": ("/classes/{pk}/versions/?any=1&warm=4:00&region=calf", None),
    "versions, refused": ("/classes/{pk}/versions/?warm=soon", None),
    "words": ("/classes/{pk}/words/", None),
    "words, calibration": ("/classes/{pk}/words/", lambda p: p.click("#calibrate")),
    "stage, before": ("/classes/{pk}/stage/", None),
    "stage, running": ("/classes/{pk}/stage/", lambda p: (p.click("#start"), p.keyboard.press("n"))),
    "stage, leaving": ("/classes/{pk}/stage/", lambda p: (p.click("#start"), p.click("#leave"))),
    "not found": ("/classes/999999/", None),
}


@pytest.mark.parametrize("view", VIEWS)
def test_axe_finds_nothing(page, digging, view):
    address, prepare = VIEWS[view]
    page.goto(address.format(pk=digging.pk))
    if prepare:
        prepare(page)
    part = OWN_PARTS.get(view)
    assert complaints(page, {"include": [[part]]} if part else None) == []


def test_axe_finds_nothing_for_a_newcomer(page):
    assert complaints(page) == []
    page.context.clear_cookies()
    page.goto("/sign-in/")
    assert complaints(page) == []
    page.fill("[name=username]", "ada")
    page.fill("[name=password]", "a long password")
    page.click("text=Sign in >> nth=-1")
    page.locator("text=The shelf is empty").wait_for()
