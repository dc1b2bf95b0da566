"""Takes one picture of each main view from the demo data: `make shots` writes docs/screenshots/."""

from __future__ import annotations

import base64
import sys
import tempfile
from collections.abc import Callable, Collection
from io import BytesIO
from pathlib import Path
from typing import Literal

from playwright.sync_api import Page, expect, sync_playwright

from bench.chromium import chromium
from bench.demo import served
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from extendum.formats.film import Film, painter_of, still
from extendum.formats.library import shipped_moves
from extendum.formats.playing_page import Shows
from extendum.formats.playing_page import playing_page as made_page

DIGGING = Path("src/extendum/data/demo/after-digging.json")
OUT = Path("docs/screenshots")


def shelf(page: Page) -> None:
    """Every class."""
    page.goto("/")


def brief(page: Page) -> None:
    """The brief of the class for gardeners."""
    page.goto("/")
    page.click("text=After the digging")
    page.click("#to-brief")
    page.wait_for_selector("#brief-form")


def readings(page: Page) -> None:
    """A class to be read in, by a voice that has read nothing yet."""
    page.goto("/")
    page.click("text=Wheel wrists")
    page.wait_for_selector("#desk")
    page.goto(page.url.split("?")[0] + "readings/")
    page.fill("#new-voice [name=name]", "Ada")
    page.keyboard.press("Enter")
    page.wait_for_selector("#texts li")


def moves(page: Page) -> None:
    """The library."""
    page.goto("/moves/")


def move(page: Page) -> None:
    """One move of it."""
    page.goto("/moves/half-kneeling-hip/")


def desk(page: Page) -> None:
    """The twelve-minute class with a move chosen."""
    page.goto("/")
    page.click("text=After the digging")
    page.click("#row-i6 .name")
    page.wait_for_selector("#item-name")


def proposals(page: Page) -> None:
    """Three classes for the brief of the class for gardeners, with what each is worth."""
    page.goto("/")
    page.click("text=After the digging")
    page.click("#to-proposals")
    page.wait_for_selector("#take-3", timeout=120_000)
    page.wait_for_selector("#propose")


def desk_group(page: Page) -> None:
    """A chain in two rounds, with the panel of its group."""
    page.goto("/")
    page.click("text=Wheel wrists")
    page.locator(".sides").nth(2).click()
    page.wait_for_selector("#group-form")
    page.locator("label:has(#plan-whole-chain)").click()
    page.locator(".sides.on", has_text="whole chain").wait_for()
    page.fill("#rounds", "2")
    page.fill("#taper", "70")
    page.press("#taper", "Tab")
    page.locator(".sides.on", has_text="2 rounds at 70 %").wait_for()


def order(page: Page) -> None:
    """Three orders for the ten moves that are done twice."""
    page.goto("/")
    page.click("text=Hall class in two rounds")
    page.click("[data-order-of] >> nth=1")
    page.wait_for_selector("#order[open]")


def words(page: Page) -> None:
    """The script as a page to be read aloud."""
    page.goto("/")
    page.click("text=After the digging")
    page.goto(page.url + "words/")
    page.locator("#passage-i6").scroll_into_view_if_needed()


def checks(page: Page) -> None:
    """What is found in the thirty-minute class for people with osteoporosis, and what works the calf."""
    page.goto("/")
    page.click("text=Hall class in two rounds")
    page.click("#to-brief")
    page.locator("label", has_text="osteoporosis").click()
    page.click("#to-desk")
    page.click("#to-checks")
    page.locator('.body-picture a[data-area="calf"]').first.dispatch_event("click")
    page.wait_for_selector(".area-items")
    page.locator(".will:not(:empty)").nth(2).wait_for()


def stage(page: Page) -> None:
    """In the middle of a hold."""
    page.goto("/")
    page.click("text=After the digging")
    page.goto(page.url + "stage/")
    page.locator("#start:enabled").wait_for()
    page.clock.install()
    page.keyboard.press(" ")
    page.clock.run_for(259_000)  # the first hold, on the left


def room(page: Page) -> None:
    """The class's screen in a hold, beside the Stage that it follows."""
    page.goto("/screens/")
    page.click("text=New screen")
    address = page.locator("a.qr").get_attribute("href")
    page.goto("/")
    page.click("text=Wheel wrists")
    page.wait_for_url("**/classes/**")
    teacher = page.context.new_page()
    teacher.goto(page.url + "stage/")
    teacher.locator("#start:enabled").wait_for()
    teacher.keyboard.press(" ")
    while teacher.inner_text("#name") != "Wrist flexor stretch":
        teacher.keyboard.press("n")
    teacher.keyboard.press("Enter")
    page.goto(str(address))
    expect(page.locator("#count")).to_have_text("18", timeout=20_000)


def session(page: Page) -> None:
    """The log of one class that was taught."""
    page.goto("/logbook/")
    page.locator("tr:has-text('Hall class in two rounds') a[href^='/logbook/']").first.click()
    page.wait_for_selector(".compare")


def overview(page: Page) -> None:
    """Thirteen weeks of the demo instructor."""
    page.goto("/logbook/overview/")


def film(page: Page) -> None:
    """Four frames of the film of the class for gardeners: its title, a hold, reps, and the dark."""
    script = loads(DIGGING.read_bytes())
    timeline, pictures = compile_script(script), []
    for second, dark in ((4, False), (256, False), (125, False), (352, True)):
        made = Film(dark=dark)
        painter, out = painter_of(script, timeline, made), BytesIO()
        still(painter, second * 1000, *made.pixels).save(out, "PNG")
        pictures.append(base64.b64encode(out.getvalue()).decode())
    _beside(page, pictures, 628)


def playing_page(page: Page) -> None:
    """The page that plays, on a phone: before it begins, in a hold, and paused in the dark."""
    script, pictures = loads(DIGGING.read_bytes()), []
    text = made_page(script, {one.move.key: one for one in shipped_moves()}, Shows(line="Thursdays, 18:30"))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "class.html"
        path.write_text(text, "utf-8")
        for second, dark in ((0, False), (395, False), (300, True)):
            tone: Literal["dark", "light"] = "dark" if dark else "light"
            size = {"width": 390, "height": 730}
            context = page.context.browser.new_context(viewport=size, color_scheme=tone)  # type: ignore[union-attr,arg-type]
            phone = context.new_page()
            phone.clock.install()
            phone.goto(path.as_uri())
            if second:
                phone.click("#start")
                phone.clock.fast_forward(second * 1000)
                phone.clock.run_for(300)
            if dark:
                phone.click("#pause")
                phone.clock.run_for(300)
            phone.wait_for_timeout(400)
            pictures.append(base64.b64encode(phone.screenshot()).decode())
            context.close()
    _beside(page, pictures, 416)


def _beside(page: Page, pictures: list[str], wide: int) -> None:
    """Pictures beside and under one another."""
    shown = "".join(
        f'<img src="data:image/png;base64,{one}" style="width: {wide}px; padding: 4px">' for one in pictures
    )
    page.goto("about:blank")
    page.set_content(f'<body style="margin: 0; display: flex; flex-wrap: wrap; background: #d5c8b0">{shown}</body>')


def recording(page: Page) -> None:
    """In front of a camera, in the middle of a hold."""
    page.goto("/")
    page.click("text=After the digging")
    page.goto(page.url + "take/")
    page.locator("#start:enabled").wait_for()
    page.clock.install()
    page.keyboard.press(" ")
    page.clock.run_for(210_000)


def heard(page: Page) -> None:
    """What was heard of a past recording."""
    page.goto("/read-in/")
    page.set_input_files("input[type=file]", "tests/data/heard/dev-01.txt")
    page.click("text=Preview")
    page.wait_for_selector(".heard")


VIEWS: dict[str, Callable[[Page], None]] = {
    "shelf": shelf,
    "brief": brief,
    "moves": moves,
    "move": move,
    "desk": desk,
    "proposals": proposals,
    "desk-group": desk_group,
    "order": order,
    "words": words,
    "readings": readings,
    "checks": checks,
    "stage": stage,
    "room": room,
    "session": session,
    "overview": overview,
    "page": playing_page,
    "film": film,
    "heard": heard,
    "take": recording,
}


WAYS = Path("docs/sides-and-ways.json")


def sides_and_ways(page: Page, out: Path) -> None:
    """The Desk's panel at a chain with a way, an alternating breath, and a strap that is put on otherwise: in one."""
    page.set_viewport_size({"width": 1280, "height": 1600})
    page.goto("/read-in/")
    page.fill("textarea[name=text]", WAYS.read_text())
    page.click("form button.main")
    page.wait_for_url("**/classes/*/")
    desk, panels = page.url, []
    for name in ("Half-kneeling hip flexor stretch", "Breath into one side", "Strap stretch, one leg"):
        page.goto(desk)
        page.locator(".row", has_text=name).locator(".name").click()
        page.locator(f'#item-name[value="{name}"]').wait_for()
        panels.append(base64.b64encode(page.locator("#panel").screenshot()).decode())
    shown = "".join(f'<img src="data:image/png;base64,{one}" style="display:block">' for one in panels)
    page.set_content(f'<div id="all" style="width: max-content">{shown}</div>')
    page.locator("#all").screenshot(path=out)


def words_in_use(page: Page, out: Path) -> None:
    """Words with the quiet of a talk and with scopes; the Stage with own pace, a note ahead, and key words."""
    page.set_viewport_size({"width": 1280, "height": 800})
    page.goto("/")
    page.click("text=Hands after throwing")
    page.wait_for_url("**/classes/**")
    desk, pictures = page.url, []

    def keep() -> None:
        pictures.append(base64.b64encode(page.screenshot()).decode())

    page.goto(desk + "words/")
    for passage in ("i2", "i8"):
        page.evaluate("(id) => document.getElementById(`passage-${id}`).scrollIntoView()", passage)
        page.evaluate("scrollBy(0, -60)")
        keep()
    page.goto(desk + "stage/")
    page.locator("#start:enabled").wait_for()
    page.clock.install()
    page.keyboard.press(" ")
    for seconds, presses in ((107, ""), (85, ""), (6, "d")):  # circles; the note ahead of the next move; its key words
        page.clock.run_for(seconds * 1000)
        if presses:
            page.keyboard.press(presses)
            page.clock.run_for(5000)
        keep()
    shown = "".join(f'<img src="data:image/png;base64,{one}" style="width: 640px; display: block">' for one in pictures)
    page.set_content(f'<div id="all" style="width: 1290px; display: flex; flex-wrap: wrap; gap: 10px">{shown}</div>')
    page.locator("#all").screenshot(path=out)


def main() -> int:
    """Take the pictures from a demo of its own."""
    OUT.mkdir(parents=True, exist_ok=True)
    with served() as base:
        take(base)
    return 0


def take(base: str, out: Path = OUT, only: Collection[str] = ()) -> None:
    """One picture per view, or of some of them."""
    with sync_playwright() as playwright:
        browser = chromium(playwright)
        for name, prepare in VIEWS.items():
            if only and name not in only:
                continue
            context = browser.new_context(base_url=base, viewport={"width": 1280, "height": 800})
            page = context.new_page()
            prepare(page)
            page.mouse.move(0, 0)
            page.screenshot(path=out / f"{name}.png")
            context.close()
        if not only:
            context = browser.new_context(base_url=base, bypass_csp=True)
            sides_and_ways(context.new_page(), WAYS.with_suffix(".png"))
            words_in_use(context.new_page(), WAYS.with_name("words-in-use.png"))
            context.close()
        browser.close()


if __name__ == "__main__":
    sys.exit(main())
