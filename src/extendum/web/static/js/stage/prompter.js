// The prompter: all that is said, scrolling so that what is to be said now stands at the mark, at the timeline's pace.
import { el } from "../drawing.js";
import { cueMs, cuesOf, textOf } from "../seen.js";
import { live } from "./live.js";

const SHORT = ["count", "counted", "halfway", "last", "time-left", "say-breath"];
const MARK = 0.28; // of the prompter's height
let made = null,
  lines = [],
  stale = true;
// Every text with its step and when it is said in it, once for the steps as they are.
function make() {
  lines = live.run.steps.flatMap((step, index) =>
    cuesOf(live.score, step)
      .filter((cue) => cue.kind === "note" || (cue.mode === "spoken" && !SHORT.includes(cue.kind)))
      .map((cue) => ({ index, at: cueMs(cue, step), own: cue.kind === "note", text: textOf(live.score, step, cue) }))
      .sort((a, b) => a.at - b.at),
  );
  for (const line of lines)
    line.node = Object.assign(document.createElement("p"), {
      textContent: line.text,
      className: line.own ? "own" : "",
    });
  el("prompter-text").replaceChildren(...lines.map((line) => line.node));
  made = live.run.steps;
  stale = true;
}
const msBetween = (from, to, steps) => {
  let ms = to.at - from.at;
  for (let n = from.index; n < to.index; n += 1) ms += steps[n].ms;
  return ms;
};
let current = null,
  from = 0,
  to = 0,
  mark = 0;
export function drawPrompter() {
  const { run } = live;
  if (made !== run.steps) make();
  if (!lines.length) return;
  let now = -1;
  for (const [n, line] of lines.entries())
    if (line.index < run.at || (line.index === run.at && line.at <= run.into)) now = n;
  const line = lines[Math.max(0, now)],
    next = lines[now + 1];
  if (stale || current !== line.node) {
    current?.classList.remove("now");
    current = line.node;
    current.classList.add("now");
    // Where they stand once this one is set off: laid out once for each text.
    from = current.offsetTop;
    to = next && now >= 0 ? next.node.offsetTop : from;
    mark = el("prompter").clientHeight * MARK;
    stale = false;
  }
  let gone = 0;
  if (now >= 0 && next)
    gone = msBetween(line, { index: run.at, at: run.into }, run.steps) / Math.max(1, msBetween(line, next, run.steps));
  const top = from + (to - from) * Math.min(1, Math.max(0, gone));
  el("prompter-text").style.transform = `translateY(${Math.round(mark - top)}px)`;
}
window.addEventListener("resize", () => {
  stale = true;
});
document.fonts?.addEventListener("loadingdone", () => {
  stale = true;
});
