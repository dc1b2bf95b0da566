"""Measures the Stage in a real run: `make bench-stage` plays the thirty-minute demo class to its end.

After each frame what the screen says (the time that is left, and whether it is work or the way there) is compared
with what the timeline has at that instant of the wall clock. In a shorter run frames are held up at random.
"""

from __future__ import annotations

import sys
from typing import Any

from playwright.sync_api import sync_playwright

from bench.chromium import chromium
from bench.demo import served

#: What the script of a frame may take.
BUDGET_MS = 4

#: Counts in the page itself, so that nothing travels while it is measured. A deviation is how far in time the nearest
#: instant is at which the timeline has what is shown.
WATCH = """
(() => {
  const ask = window.requestAnimationFrame.bind(window);
  const held = new URLSearchParams(location.search).has("held");
  let random = 7;
  const chance = () => (random = (random * 16807) % 2147483647) / 2147483647;
  const found = window.measured = { frames: 0, script: [], left: 0, work: 0, longestGap: 0, lastAt: null };
  let score, begun, bounds;
  function start() {
    score ??= JSON.parse(document.getElementById("score").textContent);
    for (const key of Object.keys(localStorage)) {
      const kept = localStorage.getItem(key);
      if (kept.includes('"events"')) begun ??= JSON.parse(kept).events.find((event) => event.kind === "start")?.at;
    }
    bounds = [];
    let at = 0;
    for (const step of score.steps) {
      if (bounds.at(-1)?.works === step.works) bounds.at(-1).end = at + step.ms;
      else bounds.push({ works: step.works, start: at, end: at + step.ms });
      at += step.ms;
    }
  }
  const off = (at, start, end) => Math.max(0, start - at, at - end);
  function compare() {
    if (begun === undefined) { if (document.getElementById("before").hidden) start(); return; }
    if (!document.getElementById("after").hidden) return;
    const at = Date.now() - begun;
    const [, m, s] = document.getElementById("left").textContent.match(/(\\d+):(\\d\\d) to go/);
    const left = score.length - (Number(m) * 60 + Number(s));
    found.left = Math.max(found.left, off(at, left * 1000, left * 1000 + 1000));
    const works = !document.getElementById("count").classList.contains("quiet");
    const same = bounds.filter((one) => one.works === works);
    found.work = Math.max(found.work, Math.min(...same.map((one) => off(at, one.start, one.end))));
    found.frames += 1;
    if (found.lastAt !== null) found.longestGap = Math.max(found.longestGap, at - found.lastAt);
    found.lastAt = at;
  }
  window.requestAnimationFrame = (what) => {
    const run = () => ask((time) => {
      const from = performance.now();
      what(time);
      found.script.push(performance.now() - from);
      compare();
    });
    return held ? setTimeout(run, 400 * chance()) : run();
  };
})()
"""


def measure(base: str, seconds: int, *, held: bool) -> dict[str, Any]:
    """What was found in a run of so many seconds; with ``held`` frames come up to 0.4 s late."""
    with sync_playwright() as playwright:
        browser = chromium(playwright)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(base)
        page.click("text=Hall class in two rounds")
        page.wait_for_url("**/classes/**")
        page.add_init_script(WATCH)
        page.goto(page.url.rstrip("/") + "/stage/" + ("?held" if held else ""))
        page.locator("#start:enabled").wait_for()
        page.keyboard.press(" ")
        page.wait_for_timeout(seconds * 1000)
        found: dict[str, Any] = page.evaluate("measured")
        browser.close()
    return found


def report(name: str, found: dict[str, Any]) -> None:
    """One line of figures."""
    script = sorted(found["script"])
    if not found["frames"]:
        raise RuntimeError("the Stage did not run")
    median, most = script[len(script) // 2], script[int(len(script) * 0.95)]
    over = sum(one > BUDGET_MS for one in script)
    print(
        f"{name}: {found['lastAt'] / 1000:.0f} s, {found['frames']} frames, at most {found['longestGap']} ms apart;\n"
        f"  off by at most {found['left']} ms in the time left, {found['work']} ms in work or way;\n"
        f"  script a frame {median:.1f} ms median, {most:.1f} ms 95th percentile, {script[-1]:.1f} ms most; "
        f"{over} frames over {BUDGET_MS} ms",
        flush=True,
    )


def main() -> int:
    """Two minutes with held frames, then the whole class."""
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 30
    for name, held, lasts in (("frames held up to 0.4 s", True, min(2, minutes)), ("every frame", False, minutes)):
        with served() as base:
            report(name, measure(base, int(lasts * 60), held=held))
    return 0


if __name__ == "__main__":
    sys.exit(main())
