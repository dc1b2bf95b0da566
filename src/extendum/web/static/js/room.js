// The Room: what the class sees. It follows the Stage, and has nothing to press.
import {
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
} from "./drawing.js";
import { follow, here, state } from "./follow.js";
import { rungOf, stepOf } from "./playing.js";
import { following, insteadOn, placeShown, prepared, seenNow, wordsNow } from "./seen.js";

const PHASES = {
  transition: "come along",
  switch: "change sides",
  turn: "the other way",
  setup: "come into it",
  settle: "settle",
  hold: "stay",
  timed: "keep moving",
  open: "stay",
  release: "let go",
  quiet: "quiet",
  demonstration: "watch first",
};
const { easier: withEasier } = el("follows").dataset;

// So long after its end a class is over; then the screen waits for the next one.
const OVER_FOR = 3 * 60 * 1000;

let drawnKey = null;
function draw() {
  const run = state.gone ? null : here();
  const ended = Boolean(run?.ended),
    over = ended && run.clock - (run.log.at(-1)?.end ?? 0) < OVER_FOR,
    on = Boolean(run?.started) && !ended;
  hide("room-waits", on || over || state.gone);
  if (ended && !over) {
    show("room-title", "The class begins soon.");
    show("room-soon", "");
  }
  hide("room-over", !over);
  hide("room-gone", !state.gone);
  hide("room-away", state.reached || !on);
  hide("room-on", !on);
  if (!on) return;
  const { score } = state;
  const seen = seenNow(score, run),
    { step, segment, works, waits, left } = seen;
  const easy = insteadOn(score, run) ?? (rungOf(run, step.item) < 0 && score.easier[step.item]);
  const key = `${step.id} ${seen.side} ${Boolean(easy)} ${run.instead[step.item] ?? 0}`;
  if (key !== drawnKey) {
    drawnKey = key;
    const name = easy?.name || score.names[step.item] || "Rest";
    const [main, ...rest] = name.split(", ");
    const small = rest.length ? `, ${rest.join(", ")}` : "";
    fitName("name", main, small, 0.42, 0.06);
    el("name").replaceChildren(
      main,
      ...(small ? [Object.assign(document.createElement("small"), { textContent: small })] : []),
    );
    const side = opposite[seen.side] ? seen.side : "";
    const way = turned ? opposite[side] : side;
    show("side", !side ? "" : way === "left" ? `← ${side}` : `${side} →`);
    const shown =
      easy && !run.instead[step.item] && el(`figure-easy-${step.item}-${seen.side ?? "both"}`)
        ? `easy-${step.item}`
        : placeShown(score, run);
    showFigure("figure", shown, seen.side);
    drawEasier(score, step, seen.side, shown.startsWith("easy-"));
    drawNext(score, run);
    show("live", `${name}${side ? `, ${side}` : ""}`);
  }
  moveFigure("figure", seen, drawStretch(seen), run.into, run.running);
  drawBreath(seen);
  show("count", works ? String(seen.total ? seen.nth : waits || seen.pace ? "" : left) : "");
  const done = seen.breath && seen.breath !== "free" ? `breathe ${seen.breath}` : seen.word;
  const counted = seen.total ? `${done}, ${seen.nth} of ${seen.total}` : seen.pace ? `your pace, ${seen.pace}` : "";
  show("phase", !run.running ? "a moment" : counted || (PHASES[segment.kind] ?? ""));
  drawCaption(run);
  mark("room-on", "paused", !run.running);
}
// Beside the main figure, where the screen is set to show it and there is one.
function drawEasier(score, { item }, side, shown) {
  const option = score.easier[item];
  const figure = option?.name && (el(`figure-easy-${item}-${side ?? "both"}`) ?? el(`figure-easy-${item}-both`));
  const on = withEasier === "yes" && Boolean(figure) && !shown;
  hide("easier", !on);
  if (!on) return;
  showFigure("easier-figure", `easy-${item}`, side);
  show("easier-name", option.name);
}
function drawNext(score, run) {
  const next = following(run),
    step = stepOf(run);
  if (!next) {
    show("next", "the end");
    return noFigure("next-figure");
  }
  showFigure("next-figure", next.item, next.side);
  const side = opposite[next.side] ? `, ${next.side}` : "";
  show("next", next.same && next.item === step.item ? `same${side}` : `${score.names[next.item] ?? "rest"}${side}`);
}

// ---- captions: what is being said, for people who hear badly; off until somebody asks ------------------------------------
const KEPT = "extendum-captions";
let captioned = null,
  captionsOn = localStorage.getItem(KEPT) === "on";
async function fetchCaptions() {
  try {
    const answer = await fetch(el("follows").dataset.captions, { cache: "no-store" });
    const told = answer.ok ? await answer.json() : null;
    if (told && state.score && String(told.revision) === el("follows").dataset.revision) {
      captioned = prepared({ ...state.score, cues: told.cues, spare: { ...state.score.spare, cues: told.spare } });
    }
  } catch {
    /* asked again at the next press, or when the page comes again */
  }
}
function showCaptions() {
  put("captions", "aria-pressed", String(captionsOn));
  hide("caption", !captionsOn);
  if (captionsOn && !captioned) fetchCaptions();
}
function drawCaption(run) {
  if (!captionsOn || !captioned) return;
  const { text, said } = wordsNow(captioned, run, []);
  const words = said ? "" : text;
  fitLines("caption", words, 0.035, 2);
  show("caption", words);
}
function switchCaptions() {
  captionsOn = !captionsOn;
  localStorage.setItem(KEPT, captionsOn ? "on" : "off");
  showCaptions();
}
el("captions").addEventListener("click", (event) => {
  event.currentTarget.blur();
  switchCaptions();
});
document.addEventListener("keydown", (event) => {
  if (event.key.toLowerCase() === "c" && !event.ctrlKey && !event.metaKey && !event.altKey && !event.repeat)
    switchCaptions();
});
showCaptions();

watchStretch();
follow(() => {
  drawnKey = null;
  draw();
});
const again = () => {
  measureAgain();
  drawnKey = null;
};
window.addEventListener("resize", again);
document.fonts?.ready.then(again);
navigator.wakeLock?.request("screen").catch(() => {});
(function frame() {
  draw();
  requestAnimationFrame(frame);
})();
