// Draws where the run is: from the clock, so that a late frame is never a late class.
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
} from "../drawing.js";
import { advance, leftMs, stepOf, visitOf } from "../playing.js";
import {
  asTheFirst,
  filled,
  following,
  noteNow,
  optionOn,
  phaseWords,
  placeShown,
  seenNow,
  standing,
  wordsNow,
} from "../seen.js";
import { settings } from "../sounds.js";
import { lasted, lateMs, live, now, records, rehearses, TIMES } from "./live.js";

const PHASES = {
  transition: "get there",
  switch: "change sides",
  turn: "change direction",
  setup: "set up",
  settle: "settle",
  hold: "hold",
  timed: "keep moving",
  open: "stay until you go on",
  release: "let go",
  talk: "talk",
  quiet: "quiet",
  demonstration: "show it",
  "check-in": "check in",
  notice: "notice",
  recheck: "check again",
  rest: "rest",
  props: "props",
  station: "next place",
};
const ARROW = '<svg viewBox="0 0 110 90" aria-hidden="true"><path d="M45 5 5 45l40 40V58h60V32H45z"/></svg>';
const SMALL = 0.42; // of the name, what comes after its first comma
// Shares of the screen's height in capitals, to be read from four metres.
const NAME = 0.05,
  WORDS = 0.05;

const TOWARDS = "towards the class";
let drawnSide = null;
function drawSide(side, stands) {
  if (`${side} ${stands}` === drawnSide) return;
  drawnSide = `${side} ${stands}`;
  const own = live.score.teaching === "mirror" && stands === TOWARDS ? opposite[side] : side;
  // What is done together has no side to speak of.
  if (opposite[side]) el("side").innerHTML = `${ARROW}<span>${side}</span>`;
  else el("side").replaceChildren();
  const told = [opposite[side] ? own : "", stands && stands !== TOWARDS ? stands : ""].filter(Boolean);
  show("own", told.length ? `you: ${told.join(", ")}` : "");
  el("side")
    .querySelector("svg")
    ?.setAttribute("transform", side === "right" ? "scale(-1 1)" : "");
}

let drawnKey = null,
  drawnWords = null,
  ribbonAt = null;
// Whether work is still to come in this pass.
export function hasWork(run) {
  const step = stepOf(run);
  return run.steps.some((one, n) => n > run.at && one.group === step.group && one.works);
}
export function drawAgain() {
  drawnKey = drawnWords = null;
  draw();
}
export function sizeAgain() {
  measureAgain();
  drawAgain();
}
export function draw() {
  const { score } = live;
  if (!score.steps.length) return;
  const at = now(),
    was = live.run;
  live.run = advance(was, at);
  const { run } = live;
  if (run.ended && !was.ended) live.ended();
  const seen = seenNow(score, run);
  const { step, works } = seen;
  const easy = optionOn(score, run, seen.side);
  const stands = standing(score, run);
  const drawing = `${step.id} ${seen.side} ${easy?.rung ?? 0} ${run.instead[step.item] ?? 0} ${stands}`;
  if (drawnKey !== drawing) {
    drawnKey = drawing;
    drawName(seen, easy);
    drawNext(run);
    drawNote(run, step, easy, stands);
    drawKeys(run, seen, easy);
  }
  drawSide(seen.side, stands);
  drawOwnNote(run);
  drawWatch(seen, easy);
  showFigure("figure", placeShown(score, run), seen.side);
  moveFigure("figure", seen, drawStretch(seen), run.into, run.running);
  drawBreath(seen);
  drawCount(run, seen);
  const words = easy?.words && works ? { text: easy.words, key: "", said: false } : wordsNow(score, run);
  const key = settings.words === "key words" && words.key,
    told = settings.words === "none" ? "" : key || words.text;
  if (drawnWords !== `${Boolean(key)} ${told}`) {
    drawnWords = `${Boolean(key)} ${told}`;
    hide("words", Boolean(key));
    hide("key-words", !key);
    if (key) fitLines("key-words", told, WORDS, 1);
    else fitLines("words", told, WORDS, 3);
    show(key ? "key-words" : "words", told);
  }
  for (const id of ["words", "key-words"]) mark(id, "said", words.said && live.record.mode !== "tap");
  drawClock(run, at);
  drawRibbon(run, seen);
}
function drawName({ side, works, step }, easy) {
  const { names } = live.score;
  const name = names[step.item] ? easy?.name || names[step.item] : "A rest";
  const [main, ...rest] = name.split(", ");
  const small = rest.length ? `, ${rest.join(", ")}` : "";
  fitName("name", main, small, SMALL, records ? NAME / 2 : NAME);
  el("name").replaceChildren(
    main,
    ...(small ? [Object.assign(document.createElement("small"), { textContent: small })] : []),
  );
  const items = [...new Set(live.score.steps.map((one) => one.item))],
    at = items.indexOf(step.item);
  show(
    "where",
    at < 0 ? "" : [live.score.where?.[step.item], `${at + 1} of ${items.length}`].filter(Boolean).join(" · "),
  );
  if (works) show("live", `${name}${opposite[side] ? `, ${side}` : ""}, ${Math.round(step.ms / 1000)} seconds`);
}
function drawCount(run, seen) {
  const { segment, step, works, waits, left } = seen;
  const paused = !run.running && run.started && !run.ended;
  const into = Math.floor(run.into / 1000);
  const shown = seen.total ? seen.nth : waits ? into : left;
  show("count", String(shown));
  const stages = live.score.doses[step.item]?.length ?? 1;
  const kind = PHASES[segment.kind] ?? "";
  const done = seen.breath && seen.breath !== "free" ? `breathe ${seen.breath}` : seen.word;
  let phase = stages > 1 && works ? `${kind}, part ${segment.stage} of ${stages}` : kind;
  if (seen.total) phase = phaseWords(live.score, seen) || `${done}, ${seen.nth} of ${seen.total}`;
  if (seen.pace) phase = `your pace, ${seen.pace}`;
  if (waits && !works) phase = `${kind}, planned ${Math.round(step.ms / 1000)} s`;
  show("phase", paused ? "paused" : phase);
  mark("stage", "paused", paused);
  mark("count", "quiet", !works);
  mark("count", "long", String(shown).length > 2);
  show("pause-word", run.running || !run.started ? "Pause" : "Go on");
}
function drawKeys(run, { works, waits, step }, easy) {
  const going =
    live.record.mode === "tap"
      ? "Done"
      : works
        ? waits
          ? "Go on"
          : "End it now"
        : hasWork(run)
          ? "They are in"
          : "Go on";
  show("go-word", going);
  can("more", works && step.unit);
  can("longer", works && !waits);
  can("easier", live.score.easier[step.item] || easy);
  can("deeper", step.up || easy?.rung);
  if (el("instead")) hide("instead", !step.instead);
  put("instead", "aria-pressed", String(Boolean(live.run.instead[step.item])));
  can("skip-part", hasMoreParts(run));
  put("easier", "aria-pressed", String((easy?.rung ?? 0) < 0));
  put("deeper", "aria-pressed", String((easy?.rung ?? 0) > 0));
}
// Whether more than this pass is left of the item that is on.
function hasMoreParts(run) {
  const step = stepOf(run),
    visit = visitOf(step);
  return run.steps.slice(run.at + 1).some((one) => one.group !== step.group && visitOf(one) === visit);
}
// On time, or by how much not; and when the class will end by the clock on the wall.
function drawClock(run, at) {
  if (live.record.mode === "tap") {
    const items = [...new Set(live.score.steps.map((step) => step.item))];
    show("left", `${items.indexOf(stepOf(run).item) + 1} of ${items.length}`);
    return show("late", "rehearsal, at your pace");
  }
  const seconds = Math.ceil(leftMs(run) / 1000),
    by = Math.round(lateMs() / 1000);
  show("left", `${clock(seconds)} to go`);
  if (records) return show("late", `${clock(lasted())} in the file`);
  if (rehearses) return show("late", `rehearsal, ${TIMES} times as fast`);
  const ends = new Date(at + seconds * 1000).toTimeString().slice(0, 5);
  show(
    "late",
    Math.abs(by) < 2 ? `on time, ends ${ends}` : `${clock(Math.abs(by))} ${by > 0 ? "late" : "early"}, ends ${ends}`,
  );
  mark("late", "off", Math.abs(by) >= 2);
}
function drawRibbon(run, seen) {
  const { score } = live;
  const planned = score.segments.includes(seen.segment) ? seen.segment : null;
  const here = run.ended ? score.length : planned ? planned.start + seen.share * (planned.end - planned.start) : null;
  if (here === null) return;
  put("here", "d", `M${((here / score.length) * el("ribbon").dataset.width).toFixed(1)} 0v26`);
  const second = Math.floor(here);
  if (second === ribbonAt) return;
  for (const bar of el("ribbon").querySelectorAll("[data-end]"))
    bar.classList.toggle("past", Number(bar.dataset.end) <= second);
  ribbonAt = second;
}
// What the teacher has to know of this move before it starts: how to stand, the room, and what a side is matched to.
function drawNote(run, step, easy, _stands) {
  const { score } = live,
    notes = [];
  if (run.steps.some((one) => one.group === step.group && asTheFirst(run, one, score.steps)))
    notes.push("as long as the first side");
  if (records && score.space[step.item]) notes.push(score.space[step.item]);
  if (easy && !easy.rung) notes.push(`instead of ${score.names[step.item]}`);
  if (easy?.rung)
    notes.push(
      `${easy.rung < 0 ? "the easier way" : "deeper"}${easy.of > 1 ? `, ${Math.abs(easy.rung)} of ${easy.of}` : ""}`,
    );
  show("note", notes.join(" · "));
}
// Her own note, from ten seconds before its moment.
function drawOwnNote(run) {
  const note = run.started && !run.ended ? noteNow(live.score, run) : null;
  hide("mine", !note);
  if (!note) return;
  const seconds = Math.ceil(note.ms / 1000);
  show("mine-when", seconds > 0 ? `in ${seconds} s` : "now");
  show("mine-text", note.text);
  mark("mine", "now", seconds <= 0);
}
// What the teacher looks out for while people work, silently; only where all words are shown and nothing else is there.
let drawnWatch = null;
function drawWatch({ works, step, side }, easy) {
  if (!el("watch")) return;
  const watch = works && !easy && el("mine").hidden && settings.words === "all" ? live.score.watch?.[step.item] : null;
  hide("watch", !watch);
  const drawing = `${step.item} ${side}`;
  if (!watch || drawing === drawnWatch) return;
  drawnWatch = drawing;
  el("watch").replaceChildren(
    ...watch.map(([seen, say]) => {
      const line = document.createElement("li");
      line.append(
        Object.assign(document.createElement("span"), { textContent: seen }),
        ` ${filled({ name: "", words: say }, side).words}`,
      );
      return line;
    }),
  );
}
function drawNext(run) {
  const { score } = live;
  const step = stepOf(run),
    next = following(run);
  if (!next) {
    show("next", "the end");
    show("fetch", "");
    return noFigure("next-figure");
  }
  showFigure("next-figure", next.item, next.side);
  const side = opposite[next.side] ? `, ${next.side}` : "";
  show("next", next.same ? `same${side}` : `${score.names[next.item] ?? "a rest"}${side}`);
  const has = new Set(score.props[step.item] ?? []);
  const fetching = next.same ? [] : (score.props[next.item] ?? []).filter((prop) => !has.has(prop));
  const told = fetching.length ? [`fetch: ${fetching.join(", ")}`] : [];
  // The camera has to see the next move, too.
  const [then] = score.stands[next.item] ?? [];
  if (records && !next.same && then && then !== (standing(score, run) || TOWARDS)) told.push(`you: ${then}`);
  if (records && !next.same && score.space[next.item]) told.push(score.space[next.item]);
  show("fetch", told.join(" · "));
}
