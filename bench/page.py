"""Measures the first load of the Desk and the memory of the server: `make bench-page`."""

from __future__ import annotations

import re
import statistics
import urllib.parse
from pathlib import Path

from playwright.sync_api import sync_playwright

from bench.chromium import chromium
from bench.demo import served

RUNS = 7
#: Counts in the page from its first moment.
WATCH = """
window.shifts = 0; window.paint = 0;
const watch = (type, told) => new PerformanceObserver((list) => list.getEntries().forEach(told)).observe({ type, buffered: true });
watch("layout-shift", (entry) => { if (!entry.hadRecentInput) window.shifts += entry.value; });
watch("largest-contentful-paint", (entry) => { window.paint = entry.startTime; });
"""  # noqa: E501


def first_load(base: str) -> tuple[int, float, float]:
    """Octets over the wire, the largest paint in milliseconds and the layout shift, with nothing remembered."""
    with sync_playwright() as playwright:
        browser = chromium(playwright)
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        page = context.new_page()
        page.goto(base)
        address = page.locator("a:has-text('Hall class in two rounds')").first.get_attribute("href")
        cookies = context.cookies()
        context.close()
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        context.add_cookies(cookies)  # type: ignore[arg-type]
        page = context.new_page()
        page.add_init_script(WATCH)
        wire = context.new_cdp_session(page)
        wire.send("Network.enable")
        octets = 0

        def came(event: dict[str, float]) -> None:
            nonlocal octets
            octets += int(event["encodedDataLength"])

        wire.on("Network.loadingFinished", came)
        page.goto(base + str(address), wait_until="networkidle")
        page.wait_for_timeout(300)
        paint, shifts = page.evaluate("paint"), page.evaluate("shifts")
        browser.close()
    return octets, float(paint), float(shifts)


#: Says when a sound begins that a page plays, in milliseconds since the page did, and keeps when Y was pressed.
HEARD = """
window.begun = []; window.pressed = 0;
const start = AudioBufferSourceNode.prototype.start;
AudioBufferSourceNode.prototype.start = function (at, ...rest) {
  window.begun.push(performance.now() + Math.max(0, (at ?? 0) - this.context.currentTime) * 1000);
  return start.call(this, at, ...rest);
};
document.addEventListener("keydown", (event) => { if (event.key === "y") window.pressed = event.timeStamp; }, true);
"""


def listening(base: str, places: int) -> list[float]:
    """Milliseconds from the key to the first sound, listening from so many items of the 30-minute class."""
    with sync_playwright() as playwright:
        browser = chromium(playwright, "--autoplay-policy=no-user-gesture-required")
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.add_init_script(HEARD)
        page.goto(base)
        page.locator("a:has-text('Hall class in two rounds')").first.click()
        page.wait_for_load_state("networkidle")
        found = []
        for _ in range(places):
            page.keyboard.press("ArrowDown")
            page.wait_for_timeout(600)
            page.evaluate("begun = []")
            page.keyboard.press("y")
            while not page.evaluate("begun.length"):
                page.wait_for_timeout(50)
            found.append(float(page.evaluate("begun[0] - pressed")))
            page.keyboard.press("y")
        browser.close()
    return found


def memory_mb(port: int) -> tuple[int, float]:
    """How many processes serve a port, and what they take together (proportional set size)."""
    found, whole = 0, 0
    for process in Path("/proc").iterdir():
        if not process.name.isdigit():
            continue
        try:
            command, environment = (process / "cmdline").read_text(), (process / "environ").read_text()
            if f"PORT={port}\0" not in environment or not re.search("extendum.web.serve|multiprocessing", command):
                continue
            rollup = (process / "smaps_rollup").read_text()
        except OSError:
            continue
        found += 1
        whole += next(int(line.split()[1]) for line in rollup.splitlines() if line.startswith("Pss:"))
    return found, whole / 1024


def measured(runs: int = RUNS) -> dict[str, float]:
    """Loads the Desk so many times and says what was found: octets, paint in ms, shift, memory in MB."""
    with served() as base:
        loads = [first_load(base) for _ in range(runs)]
        port = int(urllib.parse.urlparse(base).port or 0)
        processes, memory = memory_mb(port)
        heard = listening(base, 2 * runs)
        _, after = memory_mb(port)
    octets, paints, shifts = zip(*loads, strict=True)
    print(
        f"Desk of a 30-minute class, first load, {runs} times: {max(octets) / 1000:.0f} kB at most, "
        f"largest paint {statistics.median(paints):.0f} ms median, {max(paints):.0f} ms most, "
        f"layout shift {max(shifts):.4f} at most\n"
        f"memory of the server after that: {memory:.0f} MB in {processes} processes (one starts the two that work)\n"
        f"listening from {len(heard)} of its items: {statistics.median(heard):.0f} ms from the key to the sound, "
        f"median; {heard[0]:.0f} ms for the first of a server, {max(heard[1:]):.0f} ms most after it, "
        f"{after:.0f} MB then",
        flush=True,
    )
    return {
        "octets": max(octets),
        "paint": statistics.median(paints),
        "shift": max(shifts),
        "listen": statistics.median(heard),
        "memory": memory,
    }


if __name__ == "__main__":
    measured()
