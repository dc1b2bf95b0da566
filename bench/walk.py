"""Ways from the demo's first page to teaching a class of one's own, action by action: `make walk`.

Four jobs: a class that is proposed; a new user's first class by hand; fifteen minutes on chairs with a chain and a
move of one's own; a circuit in two rounds.

An action is one key, one chord, one click, or one field typed. Beside what the machine took, the time of a person is
estimated by the keystroke-level model (Card, Moran and Newell, 1980, Communications of the ACM 23(7): 0.28 s a key,
1.1 s to point, 0.4 s to reach for the mouse, 1.35 s to make up one's mind): once for somebody who knows the way, and
once with the words on it read at 238 a minute (Brysbaert, 2019, Journal of Memory and Language 109).
"""

from __future__ import annotations

import sys
import time
from dataclasses import dataclass, field

from playwright.sync_api import Page, expect, sync_playwright

from bench.chromium import chromium
from bench.demo import served

KEY_S, POINT_S, REACH_S, MIND_S = 0.28, 1.1, 0.4, 1.35
READING_WPM = 238
MOVES = 6


@dataclass
class Walk:
    """What was done, what it waited for, and what a person would need."""

    page: Page
    done: list[tuple[str, float]] = field(default_factory=list)
    person_s: float = 0.0
    words: int = 0

    def _did(self, what: str, began: float, person_s: float) -> None:
        self.done.append((what, time.perf_counter() - began))
        self.person_s += person_s

    def press(self, key: str, what: str, until: str) -> None:
        """One key or chord, and wait until what it brings is there."""
        began = time.perf_counter()
        self.page.keyboard.press(key)
        self._settled(until)
        self._did(f"{key}: {what}", began, MIND_S + KEY_S * (1 + key.count("+")))

    def write(self, text: str, what: str) -> None:
        """One field."""
        began = time.perf_counter()
        self.page.keyboard.type(text)
        self._did(f"type {text!r}: {what}", began, MIND_S + KEY_S * len(text))

    def click(self, selector: str, what: str, until: str) -> None:
        """One click."""
        began = time.perf_counter()
        self.page.click(selector)
        self._settled(until)
        self._did(f"click: {what}", began, MIND_S + REACH_S + POINT_S + KEY_S)

    def pick(self, selector: str, option: str, what: str) -> None:
        """One field of choices: a click that opens it, and a click on what is meant."""
        began = time.perf_counter()
        self.page.select_option(selector, option)
        self._did(f"open: {what}", began, MIND_S + REACH_S + POINT_S + KEY_S)
        self._did(f"click: {option}", time.perf_counter(), MIND_S + POINT_S + KEY_S)

    def read(self, selector: str) -> None:
        """Count the words of a part that somebody new would read."""
        self.words += len(self.page.locator(selector).first.inner_text().split())

    def _settled(self, until: str) -> None:
        self.page.locator(until).first.wait_for()
        expect(self.page.locator(".htmx-request, .htmx-swapping, .htmx-settling")).to_have_count(0)


def _begun(on: Walk, title: str, length: str = "", profile: str = "") -> None:
    """From the Shelf to a Desk that suggests what could come next."""
    on.page.goto("/")
    on.read(".page > div")
    on.press("n", "a new class", "#new-title:focus")
    on.write(title, "its name" if length else "its name; ten minutes stand there")
    if length:
        on.press("Tab", "to its length", "[name=length]:focus")
        on.write(length, "how long it lasts")
    on.press("Enter", "make it", "#brief-form")
    on.read(".profiles")
    if profile:
        on.click(f"text={profile}", "who it is for", "#brief-form")
    on.press("Control+Enter", "to the Desk", "text=Add the first move.")
    on.read("#order-list")
    on.press("a", "what could come next", "#found [data-move]")
    for n in range(MOVES):
        on.read("#found [aria-selected=true]")
        on.press("Enter", "take the first", f".row >> nth={n + 1}")
        on.page.locator("#found [data-move]").first.wait_for()


def _fitted_and_taught(on: Walk) -> None:
    """To the length that stands there, and on the Stage."""
    on.press("f", "fit it", "#target:focus")
    on.press("Enter", "to the length that stands there", "#off-target:has-text('to the second'), .remedies")
    if on.page.locator(".remedies").count():
        on.read("#notice-text")
        on.press("Enter", "these moves cannot last so long: the first that makes it possible", "text=to the second")
    else:
        on.press("Escape", "out of the field", "#desk")
    on.press("g", "to the Stage", "#start:enabled")
    on.read("#before")
    on.press("Space", "start", "#name:not(:empty)")


def walk(page: Page) -> Walk:
    """A new user's first class: six moves, ten minutes."""
    on = Walk(page)
    _begun(on, "Lunch at the wheel", profile="Desk break")
    on.press("Escape", "enough", "#desk")
    _fitted_and_taught(on)
    return on


def chairs(page: Page) -> Walk:
    """Fifteen minutes on chairs, with a move of one's own and a chain of three moves."""
    on = Walk(page)
    _begun(on, "Knitters on chairs", "15:00", "Older adults on chairs")
    on.write("Knitter's fingers", "a move that the library has not")
    page.locator("#found a[href*=new]").wait_for()
    on.press("Enter", "write it", "#move-name:focus")
    on.click("#text-there", "to what is said", "#text-there:focus")
    on.write("Spread your fingers wide, then fold them in slowly.", "the words")
    on.pick("[name=target_0_region]", "hand", "what it targets")
    on.press("Control+Enter", "save it into the class", "#item-name")
    on.click(".row >> nth=2", "the first of three", ".row[data-chosen] >> nth=0")
    for _ in range(2):
        on.press("Shift+ArrowDown", "and the next", "#picked")
    on.click("#picked >> text=Make a chain", "one after the other, then the other side", ".sides.on")
    on.press("Escape", "nothing chosen", "#desk")
    _fitted_and_taught(on)
    return on


def circuit(page: Page) -> Walk:
    """A circuit of six moves in two rounds."""
    on = Walk(page)
    _begun(on, "Circuit in the hall", "20:00")
    on.press("Escape", "enough", "#desk")
    on.click(".row >> nth=0", "the first", ".row[data-chosen] >> nth=0")
    on.page.keyboard.down("Shift")
    on.click(f".row >> nth={MOVES - 1}", "all up to the last, with Shift", "#picked")
    on.page.keyboard.up("Shift")
    on.click("#picked >> text=Repeat as rounds", "as rounds", ".sides.on")
    _fitted_and_taught(on)
    return on


def proposed(page: Page) -> Walk:
    """A class that is proposed: for a neck after hours of sewing, ten minutes on chairs."""
    on = Walk(page)
    on.page.goto("/")
    on.read(".page > div")
    on.press("n", "a new class", "#new-title:focus")
    on.write("Necks after sewing", "its name; ten minutes stand there")
    on.press("Enter", "make it", "#brief-form")
    on.read(".profiles")
    on.click("text=Older adults on chairs", "who it is for", "#brief-wpm[value='145']")
    on.click(".areas-chips .chip >> nth=0", "what it is for: the neck", "[name=area]:checked")
    began = time.perf_counter()
    on.press("q", "propose", "#take-1")
    on.read(".proposal")
    expect(page.locator(".proposal h2").first).to_contain_text("10:00")
    print(f"a class to look at after {time.perf_counter() - began:.1f} s")
    page.locator("#take-1").wait_for()
    on.press("1", "take the first", "#off-target:has-text('to the second')")
    on.press("g", "to the Stage", "#start:enabled")
    on.read("#before")
    on.press("Space", "start", "#name:not(:empty)")
    return on


JOBS = (proposed, walk, chairs, circuit)


def main() -> int:
    """Walk each of the ways, and print each action with what it waited for."""
    with served() as base, sync_playwright() as playwright:
        browser = chromium(playwright)
        for job in JOBS:
            page = browser.new_context(base_url=base, viewport={"width": 1280, "height": 800}).new_page()
            on = job(page)
            taught = page.inner_text("#name")
            page.context.close()
            _tell(job.__doc__ or "", on, taught)
        browser.close()
    return 0


def _tell(job: str, on: Walk, taught: str) -> None:
    print(job)
    for n, (what, seconds) in enumerate(on.done, start=1):
        print(f"{n:3} {seconds:6.2f} s  {what}")
    machine = sum(seconds for _, seconds in on.done)
    print(f"{len(on.done)} actions; on the Stage: {taught}")
    print(f"machine {machine:.1f} s, a person who knows the way {machine + on.person_s:.0f} s,")
    print(f"one who reads the {on.words} words on it {machine + on.person_s + on.words * 60 / READING_WPM:.0f} s\n")


if __name__ == "__main__":
    sys.exit(main())
