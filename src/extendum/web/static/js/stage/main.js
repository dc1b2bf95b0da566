// The Stage: what is pressed, what sounds, and the frames. What is shown is in drawn.js, what happened in live.js.
import { clock, el, hide, show, watchStretch } from "../drawing.js";
import { advance, leftMs, stepOf } from "../playing.js";
import { cuesOf, seenNow, textOf } from "../seen.js";
import * as sounds from "../sounds.js";
import { catchUp, catchUpAlone, leaveIt } from "./catching.js";
import { draw, drawAgain, hasWork, sizeAgain } from "./drawn.js";
import {
  act,
  apart,
  askWhoTeaches,
  backFromSleep,
  endBy,
  endOld,
  keep,
  lasted,
  lateMs,
  live,
  newRun,
  now,
  plannedMs,
  records,
  rehearses,
  returned,
  takeOver,
  tellOpened,
  tellServer,
  told,
} from "./live.js";
import { deeds, states, understand } from "../keys.js";
import { begins, follow } from "./music.js";
import { hushTold, post, root, tell } from "./page.js";
import { drawPrompter } from "./prompter.js";
import { openSound, showWords, sound } from "./sounding.js";
import { openTray } from "./tray.js";
import * as voice from "./voice.js";

const active = () => live.run.started && !live.run.ended;
const fullScreen = () => document.documentElement.requestFullscreen?.().catch(() => {});

// ---- beginning and ending ----------------------------------------------------------------------------------------
function begin() {
  const { run } = live;
  if (run.ended) return;
  if (run.started) {
    if (!run.running) act("resume");
    return;
  }
  act("start");
  begins();
  if (records) {
    sounds.clap();
    document.body.classList.add("claps");
    setTimeout(() => document.body.classList.remove("claps"), 160);
  }
  if (live.record.endBy && Math.abs(lateMs()) >= 2000) catchUp();
  stayAwake();
  sounds.on();
  voice.open();
  if (!document.fullscreenElement) fullScreen();
}
// Three seconds from the press to the first word, where the teacher asked for it.
let counting = null;
function countIn() {
  if ((!records && !el("count-in")?.checked) || counting !== null) {
    counting = null;
    return begin();
  }
  sounds.on();
  counting = performance.now();
}
function rehearse(mode) {
  if (live.run.started) return;
  newRun(mode);
  begin();
}
function toggle() {
  const { run } = live;
  if (run.ended || !live.score.steps.length) return;
  if (!run.started) return rehearses ? rehearse("tap") : countIn();
  act(run.running ? "pause" : "resume");
}
// One press that goes on: they are in; a hold that ends now; an open dose that is over.
function goOn() {
  if (!active()) return;
  const run = advance(live.run, now());
  const { works, segment } = seenNow(live.score, run);
  if (!run.running) act("resume");
  if (live.record.mode === "tap") return act("end-now");
  act(works ? "end-now" : hasWork(run) ? "in" : segment.kind === "release" ? "end-now" : "skip");
}
live.ended = async () => {
  if (!rehearses)
    show("after-facts", `${clock(lasted())} from the first word to the last; ${clock(plannedMs / 1000)} were planned.`);
  show("after-kept", live.record.fast ? "Nothing was measured: it was only looked through." : told());
  awake?.release();
  document.exitFullscreen?.().catch(() => {});
  // The end of the timeline is told, too: what was heard of last is not taken for the end.
  if (!live.watching && live.record.events.at(-1)?.kind !== "end") act("end");
  if (live.record.mode === "tap") return fetched(`${root.learned}?run=`);
  if (records) return fetched(root.takesOf, "?part=1");
  if (live.watching || apart) return;
  post(root.taught).catch(() => {});
  card();
};
// What the class was, in three facts, and what could be set.
async function card() {
  try {
    await tellServer();
    const answer = await fetch(`${root.card}?run=${encodeURIComponent(live.record.run)}`);
    if (!answer.ok) return;
    el("learned").innerHTML = await answer.text();
    show("after-facts", "");
    show("after-kept", "");
  } catch {
    /* the logbook has it later */
  }
}
// What a rehearsal teaches, or the takes of a recording: the server compares what was told with the script.
async function fetched(before, after = "") {
  try {
    await tellServer();
    const answer = await fetch(`${before}${encodeURIComponent(live.record.run)}${after}`);
    el("learned").innerHTML = answer.ok
      ? await answer.text()
      : "<p>What was measured cannot be shown now: the server did not take it.</p>";
  } catch {
    show("after-kept", "What was measured is kept here, and told when the server answers and this page is open.");
  }
}
function leave() {
  if (live.watching) {
    location.href = root.desk;
    return;
  }
  if (leaveIt()) return;
  if (!active()) {
    location.href = root.desk;
    return;
  }
  if (live.run.running) act("pause");
  el("ask").showModal();
}
live.changed = () => {
  cover();
  drawAgain();
};
function sayWherePaused() {
  const { item } = stepOf(live.run),
    at = new Date(live.run.clock);
  const paused = live.record.events.findLast(({ kind }) => kind === "pause")?.at ?? live.run.clock;
  at.setTime(paused);
  const day =
    at.toDateString() === new Date().toDateString()
      ? ""
      : `${at.toLocaleDateString("en-GB", { day: "numeric", month: "short" })}, `;
  show(
    "paused-where",
    `${clock(Math.round((paused - live.run.log[0].start) / 1000))} in, at ${live.score.names[item] ?? "a rest"}; paused at ${day}${at.toTimeString().slice(0, 5)}. ${clock(Math.ceil(leftMs(live.run) / 1000))} left.`,
  );
}
// What lies over the Stage before it begins, while it counts in, and when it is over.
function cover() {
  const { run } = live;
  hide("counting", counting === null);
  hide("before", run.started || counting !== null);
  if (el("paused")) hide("paused", !asksPaused || live.watching || counting !== null);
  hide("after", !run.ended);
}

// ---- the screen stays awake ----------------------------------------------------------------------
let awake = null;
async function stayAwake() {
  try {
    awake = await navigator.wakeLock?.request("screen");
  } catch {
    awake = null;
  }
}
document.addEventListener("visibilitychange", () => {
  if (document.visibilityState === "visible" && live.run.running) stayAwake();
});

// ---- input -------------------------------------------------------------------------------------------
function full() {
  if (document.fullscreenElement) document.exitFullscreen();
  else fullScreen();
}
// A class that was left in the middle: nothing moves until it is said whether it goes on.
let asksPaused = returned && !live.run.running && !live.run.ended && !apart;
function goOnPaused() {
  if (!asksPaused) return;
  asksPaused = false;
  cover();
  act("resume");
  stayAwake();
}
function restart() {
  if (!asksPaused) return;
  asksPaused = false;
  endOld();
  newRun();
  live.changed();
  countIn();
}
function stay() {
  el("ask").close();
  act("resume");
}
function swap() {
  const was = stepOf(live.run).side;
  act("swap");
  tell(
    stepOf(live.run).side === was
      ? "The second side has begun, or this has no sides."
      : `The ${stepOf(live.run).side} side first.`,
  );
}
// What goes somewhere else is not spoken to its end.
function jump(kind, more) {
  sounds.hush();
  voice.hush();
  act(kind, more);
}
// What was said last before this step: whoever takes an item again begins with it, so that the cut can be made in it.
function leadIn() {
  const { run, score } = live;
  for (let n = run.at - 1; n >= 0; n -= 1) {
    const said = cuesOf(score, run.steps[n]).findLast(({ mode, text }) => mode === "spoken" && text.length > 3);
    if (said) return `Lead in with: ${textOf(score, run.steps[n], said)}`;
  }
  return "";
}
// N leaves the whole item; for two seconds B brings it back.
function skipItem() {
  const { item } = stepOf(live.run),
    name = live.score.names[item];
  jump("skip-item");
  if (name) tell(`Skipped: ${name}. B brings it back.`, 2500);
}
const going = (what) => () => {
  if (active()) what();
};
const teaching = (what) => going(() => (apart ? tell("Not in a rehearsal.") : what()));
const stage = {
  go: goOn,
  pause: toggle,
  start: countIn,
  longer: going(() => act("longer", { ms: Number(root.longer) * 1000 })),
  more: going(() => act("more")),
  back: () => {
    if (live.run.started) jump("back");
  },
  again: going(() => jump("repeat")),
  skip: going(skipItem),
  "skip-part": going(() => jump("skip")),
  swap: going(swap),
  easier: going(() => act("easier")),
  deeper: going(() => act("deeper")),
  instead: going(() => {
    if (stepOf(live.run).instead) act("instead");
  }),
  rest: going(() => {
    el("tray").close();
    act("insert", { ms: 30_000 });
    tell("A rest of 30 s comes before the next pass.");
  }),
  "catch-up": teaching(catchUp),
  "take-over": takeOver,
  "open-tray": () => (live.watching ? takeOver() : teaching(openTray)()),
  "tray-close": () => el("tray").close(),
  settings: openSound,
  "sound-close": openSound,
  try: () => {
    sounds.on();
    sounds.tone("release");
    voice.open();
    if (voice.speaks()) voice.fetched().then(() => voice.sample());
    else sounds.speak("Keep breathing.");
  },
  "show-words": showWords,
  woke: backFromSleep,
  full,
  leave,
  stay,
  retake: going(() => {
    const { item } = stepOf(live.run);
    jump("retake", { step: item });
    const takes = 1 + live.record.events.filter(({ kind, step }) => kind === "retake" && step === item).length;
    if (records) sounds.clap(); // each take has a slate of its own
    tell(`Take ${takes} of ${live.score.names[item] ?? "this"}. ${leadIn()}`, 9000);
  }),
  mark: going(() => {
    if (!records) return;
    act("mark", { step: "insert shot" });
    tell("Marked: an insert shot here.");
  }),
  tap: () => rehearse("tap"),
  fast: () => {
    if (rehearses) rehearse("fast");
  },
  enough: going(() => {
    el("ask").close();
    jump("end");
  }),
  "go-on": goOnPaused,
  restart,
};
for (const [id, what] of Object.entries(stage))
  el(id)?.addEventListener("click", (event) => {
    event.currentTarget.blur();
    what();
  });
el("end-by")?.addEventListener("change", endBy);
let leaving = false;
el("really").addEventListener("click", () => {
  leaving = true;
});
// A clicker sends the same deeds: each is done once, and one that came late is not done any more.
const CLICKED = {
  go: goOn,
  pause: toggle,
  longer: stage.longer,
  more: stage.more,
  back: stage.back,
  skip: stage.skip,
  again: stage.again,
  easier: stage.easier,
};
async function clicked() {
  if (active() && !live.watching) {
    try {
      const answer = await fetch(
        `${root.presses}?run=${encodeURIComponent(live.record.run)}&after=${live.record.pressed ?? 0}`,
      );
      for (const { n, kind } of answer.ok ? (await answer.json()).presses : []) {
        if (n <= (live.record.pressed ?? 0)) continue;
        live.record.pressed = n;
        keep();
        CLICKED[kind]?.();
      }
    } catch {
      /* the server is away: the keys of the Stage are there */
    }
  }
  setTimeout(clicked, 400);
}
if (root.clickers === "yes" && !apart) clicked();
// The help says what each key does (keys.js); which keys there are depends on what lies over the Stage.
deeds({ ...stage });
understand({ PageDown: "Enter", PageUp: "b", ".": " ", ArrowLeft: "b", ArrowRight: "n" }); // the first three from clickers for slides
const { enough, fast, rest, settings, "show-words": words } = stage;
const { restart: _again, ...TEACHING } = stage;
const ASKED = { pause: stay, enough, really: () => el("really").click() };
const PAUSED = {
  pause: goOnPaused,
  go: goOnPaused,
  restart,
  leave: () => {
    location.href = root.desk;
  },
};
const TRAY = { "open-tray": () => el("tray").close(), rest };
const BEFORE = {
  pause: toggle,
  go: toggle,
  settings,
  full,
  "show-words": words,
  leave,
  fast,
  rehearse: () => el("rehearse")?.click(),
};
states((event) => {
  if (event && (event.repeat || el("help").open || document.getElementById("finder")?.open)) return {};
  if (el("ask").open) return ASKED;
  if (asksPaused && !live.watching) return PAUSED;
  if (el("tray").open) return TRAY;
  if (el("sound").open) return { settings };
  return live.run.started || live.watching ? TEACHING : BEFORE;
});
window.addEventListener("beforeunload", (event) => {
  if (live.run.running && !leaving && !live.watching && !rehearses) event.preventDefault();
});
window.addEventListener("resize", sizeAgain);

// ---- it stays without the server: what the page is made of is kept for a reload ---------------------------------------
async function keepPage() {
  if (!("serviceWorker" in navigator) || !window.caches || apart) return;
  try {
    await navigator.serviceWorker.register(root.worker, { scope: "/" });
    const kept = await caches.open("extendum-stage");
    const named = [...document.querySelectorAll("script[src], link[href]")].map((one) => one.src ?? one.href);
    const made = [...named, ...performance.getEntriesByType("resource").map((one) => one.name)].filter((name) =>
      name.includes("/static/"),
    );
    const figures = [...document.querySelectorAll("template")]
      .map((one) => one.content.querySelector(".live")?.dataset.figure)
      .filter(Boolean);
    await kept.addAll([location.pathname, ...new Set([...made, ...figures, ...voice.voice.addresses])]);
    root.kept = "yes";
  } catch {
    /* without it the Stage plays on, and only a reload needs the server */
  }
}

if (asksPaused) sayWherePaused();
else if (returned) {
  stayAwake();
  tell(
    records ? "Back where the recording is." : rehearses ? "Back where the rehearsal is." : "Back where the class is.",
  );
}
if (voice.speaks()) {
  voice.fetched();
  for (const kind of ["keydown", "pointerdown"]) addEventListener(kind, voice.open, { once: true, capture: true });
}
watchStretch();
draw();
tellOpened();
askWhoTeaches();
const first = el("start") ?? el("tap");
if (first) {
  first.disabled = false;
  first.focus();
}
document.fonts?.ready.then(() => {
  sizeAgain();
  keepPage();
});
(function frame() {
  const left = counting === null ? 0 : 3 - (performance.now() - counting) / 1000;
  if (counting !== null && left <= 0) {
    counting = null;
    begin();
  }
  if (counting !== null) show("counting-in", String(Math.ceil(left)));
  cover();
  if (active()) {
    draw();
    if (records) drawPrompter();
    if (live.run.running && !live.watching) {
      sound();
      if (!apart) catchUpAlone();
    }
  }
  if (!apart) follow();
  voice.follow(live.run.running || !active());
  hushTold();
  requestAnimationFrame(frame);
})();
