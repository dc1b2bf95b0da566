// A page that plays a class by itself: from what it carries, on any phone, without a network. The playing is the Stage's own.
import { facts, remember, remembered } from "./given.js";
import {
  can,
  clock,
  drawBreath,
  drawStretch,
  el,
  fitLines,
  fitName,
  hide,
  mark,
  measureAgain,
  moveFigure,
  noFigure,
  opposite,
  put,
  show,
  showFigure,
  turned,
  watchStretch,
} from "../drawing.js";
import { advance, after, fold, fresh, leftMs, stepOf } from "../playing.js";
import { following, optionOn, placeShown, prepared, seenNow, textOf, wordsNow } from "../seen.js";
import { sounded } from "../sounded.js";
import * as sounds from "../sounds.js";
import * as voice from "../stage/voice.js";

const score = prepared(JSON.parse(el("score").textContent));
const LONGER_MS = 10_000;
const PHASES = {
  transition: "get there",
  switch: "change sides",
  turn: "the other way",
  setup: "come into it",
  settle: "settle",
  hold: "stay",
  timed: "keep moving",
  open: "stay as long as you like",
  release: "let go",
  talk: "listen",
  quiet: "quiet",
  demonstration: "watch first",
  rest: "rest",
};

// ---- what has happened, and where one was ---------------------------------------------------------------------------
const was = remembered();
let events = was.events ?? [],
  run = fresh(score.steps);
function restored() {
  if (!events.length) return;
  run = fold(score.steps, events);
  // What was closed while it played stands still where it was last seen.
  if (run.running) act("pause", {}, Math.max(was.seen ?? 0, events.at(-1).at));
  if (run.ended) clear();
}
function clear() {
  events = [];
  run = fresh(score.steps);
  remember({ events });
}
function act(kind, more = {}, at = Date.now()) {
  const event = { id: `${events.length}`, at, kind, ...more };
  events.push(event);
  run = after(run, event);
  remember({ events, seen: at });
  drawnKey = null;
  draw();
}
const active = () => run.started && !run.ended;

// ---- drawing ----------------------------------------------------------------------------------------------------------
const ARROW = '<svg viewBox="0 0 110 90" aria-hidden="true"><path d="M45 5 5 45l40 40V58h60V32H45z"/></svg>';
let drawnKey = null,
  ribbonAt = null;
function draw() {
  if (run.running) run = advance(run, Date.now());
  const on = run.started;
  hide("before", on);
  hide("playing", !on || run.ended);
  hide("over", !run.ended);
  mark("play", "on", on && !run.ended);
  if (run.ended) finish();
  if (!on || run.ended) return;
  const seen = seenNow(score, run),
    { step, works, waits } = seen,
    easy = optionOn(score, run, seen.side);
  const key = `${step.id} ${seen.side} ${easy?.rung ?? 0} ${run.running}`;
  if (key !== drawnKey) {
    drawnKey = key;
    drawStep(seen, easy);
  }
  showFigure("figure", placeShown(score, run), seen.side);
  moveFigure("figure", seen, drawStretch(seen), run.into, run.running);
  drawBreath(seen);
  drawCount(seen, waits, works);
  const words = easy?.words && works ? { text: easy.words, said: false } : wordsNow(score, run);
  fitLines("words", words.text, 0.03, 3);
  show("words", settings().words === "hidden" ? "" : words.text);
  mark("words", "said", words.said);
  show("left", `${clock(Math.ceil(leftMs(run) / 1000))} to go`);
  drawRibbon(seen);
}
// Side, name and what comes next: as long as a step lasts.
function drawStep({ side, works, step, waits }, easy) {
  const name = (score.names[step.item] && easy?.name) || score.names[step.item] || "A rest";
  show("name", run.running ? name : "Paused");
  fitName("name", run.running ? name : "Paused", "", 1, 0.03);
  const way = turned ? opposite[side] : side;
  if (opposite[side]) el("side").innerHTML = `${ARROW}<span>${side}</span>`;
  else el("side").replaceChildren();
  put("side", "data-way", way ?? "");
  if (works) show("live", `${name}${opposite[side] ? `, ${side}` : ""}, ${Math.round(step.ms / 1000)} seconds`);
  const next = following(run);
  if (next) showFigure("next-figure", next.item, next.side);
  else noFigure("next-figure");
  const nextSide = next && opposite[next.side] ? `, ${next.side}` : "";
  show("next", !next ? "the end" : next.same ? `same${nextSide}` : `${score.names[next.item] ?? "a rest"}${nextSide}`);
  show("longer-word", step.unit ? "One more" : "+ 10 s");
  can("longer", works && !waits);
  can("easier", Boolean(score.easier[step.item] || easy));
  put("easier", "aria-pressed", String((easy?.rung ?? 0) < 0));
  show("pause-word", run.running ? (waits ? "Go on" : "Pause") : "Go on");
  mark("playing", "paused", !run.running);
  if (!run.running) drawList();
}
function drawCount(seen, waits, works) {
  const { segment, left } = seen;
  const shown = seen.total ? seen.nth : waits ? Math.floor(run.into / 1000) : left;
  show("count", works || !waits ? String(shown) : "");
  mark("count", "quiet", !works);
  mark("count", "long", String(shown).length > 2);
  const breath = seen.breath && seen.breath !== "free" ? `breathe ${seen.breath}` : seen.word;
  const told = seen.total ? `${breath}, ${seen.nth} of ${seen.total}` : seen.pace ? `your pace, ${seen.pace}` : "";
  show("phase", run.running ? told || (PHASES[segment.kind] ?? "") : kept(seen));
}
function kept({ works, left, side, total, nth, waits }) {
  if (total && works) return `You are at ${nth} of ${total}.`;
  if (!works || waits) return "It goes on from here.";
  return `${left} s ${opposite[side] ? `of the ${side} side ` : ""}are kept for you.`;
}
function drawRibbon({ segment, share }) {
  const here = score.segments.includes(segment) ? segment.start + share * (segment.end - segment.start) : null;
  if (here === null) return;
  put("here", "d", `M${((here / score.length) * el("ribbon").dataset.width).toFixed(1)} 0v26`);
  const second = Math.floor(here);
  if (second === ribbonAt) return;
  ribbonAt = second;
  for (const bar of el("ribbon").querySelectorAll("[data-end]"))
    bar.classList.toggle("past", Number(bar.dataset.end) <= second);
  remember({ seen: Date.now() });
}
// While it is paused the class lies open: what is done, where one is, how long the rest takes.
function drawList() {
  const items = [...new Set(run.steps.map((one) => one.item))].filter((one) => score.names[one]),
    here = stepOf(run).item;
  const rows = items.map((item) => {
    const own = run.steps.map((one, n) => ({ ...one, n })).filter((one) => one.item === item);
    const ahead = own.filter(({ n }) => n >= run.at).reduce((sum, one) => sum + one.ms, 0);
    const left = Math.ceil((ahead - (item === here ? run.into : 0)) / 1000);
    const row = Object.assign(document.createElement("li"), { className: item === here ? "now" : "" });
    if (item === here) row.setAttribute("aria-current", "step");
    const name = Object.assign(document.createElement("span"), { textContent: score.names[item] });
    const time = Object.assign(document.createElement("span"), {
      className: "num",
      textContent: ahead ? `${clock(left)}${item === here ? " to go" : ""}` : "done",
    });
    row.append(name, time);
    return row;
  });
  el("list").replaceChildren(...rows);
  el("list").querySelector(".now")?.scrollIntoView({ block: "center" });
}

// ---- sound -------------------------------------------------------------------------------------------------------------
const settings = () => ({
  speaks: sounds.settings.speaks,
  words: sounds.settings.words === "none" ? "hidden" : "shown",
});
const SPEAKS = { mine: facts.guide, browser: "the browser's voice", me: "nobody" };
function ways() {
  const found = [];
  if (facts.guide) found.push("mine");
  if (sounds.voices().length) found.push("browser");
  return [...found, "me"];
}
function sound() {
  sounded(score, run, {
    step: () => voice.prepare(score, run.steps.slice(run.at, run.at + 2)),
    begins: () => sounds.tone("start"),
    ends: () => sounds.tone("release"),
    cue: (cue, step) => {
      if (cue.kind === "count") sounds.tone("count");
      if (cue.mode !== "spoken") return;
      if (voice.speaks()) voice.say(textOf(score, step, cue), cue.kind);
      else sounds.speak(textOf(score, step, cue));
    },
  });
}
function showSettings() {
  show("speaks-now", SPEAKS[settings().speaks] || SPEAKS.me);
  show("words-now", settings().words);
  show("figure-now", turned ? "facing you" : "mirror");
}
const quiet = () => {
  sounds.hush();
  voice.hush();
};
let awake = null;
async function stayAwake() {
  try {
    awake = await navigator.wakeLock?.request("screen");
  } catch {
    awake = null;
  }
}
document.addEventListener("visibilitychange", () => {
  if (document.visibilityState === "visible" && run.running) stayAwake();
});

// ---- what is pressed ---------------------------------------------------------------------------------------------------
function begin() {
  sounds.on();
  voice.open();
  stayAwake();
  act(run.started ? "resume" : "start");
}
const going = (what) => () => {
  if (active()) what();
};
const deeds = {
  start: begin,
  afresh: () => {
    clear();
    begin();
  },
  pause: () => {
    if (!run.started || !run.running) return begin();
    if (stepOf(run).waits && stepOf(run).works) return act("end-now");
    quiet();
    awake?.release?.();
    act("pause");
  },
  back: going(() => {
    quiet();
    act("back");
  }),
  again: going(() => {
    quiet();
    act("repeat");
  }),
  longer: going(() => act(stepOf(run).unit ? "more" : "longer", { ms: LONGER_MS })),
  easier: going(() => act("easier")),
  skip: going(() => {
    quiet();
    act("skip");
  }),
  speaks: () => {
    const all = ways(),
      now = all.indexOf(settings().speaks);
    sounds.set("speaks", all[(now + 1) % all.length]);
    quiet();
    voice.open();
    showSettings();
  },
  "words-on": () => {
    sounds.set("words", settings().words === "shown" ? "none" : "all");
    showSettings();
  },
  stands: () => {
    remember({ opposite: !turned });
    location.reload();
  },
  print: () => print(),
};
for (const [id, what] of Object.entries(deeds))
  el(id)?.addEventListener("click", (event) => {
    event.currentTarget.blur();
    what();
  });
const KEYS = { " ": "pause", b: "back", a: "again", l: "longer", e: "easier", n: "skip", v: "speaks", d: "words-on" };
addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
  const { target } = event;
  if (target instanceof HTMLElement && target.closest("a, button") && [" ", "Enter"].includes(event.key)) return;
  const deed = KEYS[event.key.toLowerCase()];
  if (!deed) return;
  event.preventDefault();
  deeds[deed]();
});

// ---- from here on --------------------------------------------------------------------------------------------------------
function finish() {
  if (!events.length) return;
  events = [];
  remember({ events });
  awake?.release?.();
}
if (facts.guide && !sounds.settings.chosen) sounds.set("speaks", "mine");
if (!ways().includes(settings().speaks)) sounds.set("speaks", "me");
sounds.set("chosen", true);
restored();
if (run.started) show("start-word", "Go on");
watchStretch();
showSettings();
speechSynthesis?.addEventListener?.("voiceschanged", showSettings);
const again = () => {
  measureAgain();
  drawnKey = null;
};
addEventListener("resize", again);
document.fonts?.ready.then(again);
(function frame() {
  draw();
  if (run.running) sound();
  voice.follow(run.running || !active());
  requestAnimationFrame(frame);
})();
