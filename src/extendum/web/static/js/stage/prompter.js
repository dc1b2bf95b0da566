// The prompter: all that is said, scrolling so that what is to be said now stands at the mark, at the timeline's pace.
import { el } from "../drawing.js";
import { cueMs, cuesOf, textOf } from "../playing.js";
import { live } from "./live.js";

const SHORT = ["count", "halfway", "last", "time-left", "say-breath"];
const MARK = 0.28; // of the prompter's height
let made = null, lines = [], tall = 0;
// Every text with its step and when it is said in it, once for the steps as they are.
function make() {
  const box = el("prompter-text");
  lines = live.run.steps.flatMap((step, index) => cuesOf(live.score, step)
    .filter((cue) => cue.mode === "spoken" && !SHORT.includes(cue.kind))
    .map((cue) => ({ index, at: cueMs(cue, step), text: textOf(live.score, step, cue) }))
    .sort((a, b) => a.at - b.at));
  box.replaceChildren(...lines.map(({ text }) => Object.assign(document.createElement("p"), { textContent: text })));
  [...box.children].forEach((node, n) => { lines[n].top = node.offsetTop; lines[n].node = node; });
  tall = el("prompter").clientHeight;
  made = live.run.steps;
}
const msBetween = (from, to, steps) => {
  let ms = to.at - from.at;
  for (let n = from.index; n < to.index; n += 1) ms += steps[n].ms;
  return ms;
};
let current = null;
export function drawPrompter() {
  const { run } = live;
  if (made !== run.steps) make();
  if (!lines.length) return;
  let now = -1;
  for (const [n, line] of lines.entries()) if (line.index < run.at || (line.index === run.at && line.at <= run.into)) now = n;
  const line = lines[Math.max(0, now)], next = lines[now + 1];
  let top = line.top;
  if (now >= 0 && next) {
    const whole = Math.max(1, msBetween(line, next, run.steps));
    const gone = msBetween(line, { index: run.at, at: run.into }, run.steps);
    top += (next.top - line.top) * Math.min(1, Math.max(0, gone / whole));
  }
  el("prompter-text").style.transform = `translateY(${Math.round(tall * MARK - top)}px)`;
  if (current === line.node) return;
  current?.classList.remove("now");
  current = line.node;
  current.classList.add("now");
}
window.addEventListener("resize", () => { made = null; });
document.fonts?.ready.then(() => { made = null; });
