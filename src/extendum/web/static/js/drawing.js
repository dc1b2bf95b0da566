// What the screens of a running class draw: the band, the breath, the figure, and texts that stay readable from afar.
// Nothing is written to the page that is there already, and nothing here makes the browser lay out the page.
import { live, load } from "./figure.js";

const found = new Map();
export function el(id) {
  let node = found.get(id);
  if (!node?.isConnected) {
    node = document.getElementById(id);
    found.set(id, node);
  }
  return node;
}
const written = new WeakMap();
function changed(node, name, value) {
  if (!written.has(node)) written.set(node, new Map());
  const of = written.get(node);
  if (of.get(name) === value) return false;
  of.set(name, value);
  return true;
}
export const show = (id, words) => {
  const node = el(id);
  if (node && changed(node, "text", words)) node.textContent = words;
};
export const put = (id, name, value) => {
  if (el(id) && changed(el(id), name, value)) el(id).setAttribute(name, value);
};
export const mark = (id, name, on) => {
  if (changed(el(id), `class ${name}`, on)) el(id).classList.toggle(name, on);
};
export const hide = (id, hidden) => {
  if (changed(el(id), "hidden", hidden)) el(id).toggleAttribute("hidden", hidden);
};
export const can = (id, able) => {
  if (el(id) && changed(el(id), "disabled", !able)) el(id).disabled = !able;
};
export const clock = (s) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
export const opposite = { left: "right", right: "left" };

// ---- the band: drawn out towards the spoken side while a hold lasts, and it lets go at its end ------------------
const MIDDLE = 600,
  REACH = 560;
// A screen that shows somebody who stands opposite turns everything over: limb, arrow and band together.
export const turned = Boolean(document.querySelector(".opposite"));
// How much narrower the bead is drawn to be round in a picture that is stretched to the screen's width.
let roundness = 1;
export function watchStretch() {
  new ResizeObserver(([{ contentRect }]) => {
    roundness = contentRect.height ? ((contentRect.height / 120) * 1200) / contentRect.width : 1;
  }).observe(el("stretch"));
}
// How far the band is drawn out, from 0 to 1.
export function outOf(seen) {
  const { segment, share } = seen;
  if (segment.kind === "hold") return share;
  if (segment.kind === "release") return Math.max(0, 1 - share * 3);
  if (segment.kind === "pulses") return seen.opening ? 1 : 0.35;
  if (segment.kind === "timed" || segment.kind === "open") return 0.5 + 0.5 * share;
  if (!seen.word) return 0;
  return (
    {
      out: segment.kind === "breaths" ? 1 - seen.part : seen.part,
      in: seen.part,
      back: 1 - seen.part,
      stay: 1,
      full: 1,
      rest: 0,
      empty: 0,
    }[seen.word] ?? 0
  );
}
// To whole units of the picture, about a pixel: a frame in which nothing can be seen to move is not drawn again.
export function drawStretch(seen) {
  const out = outOf(seen);
  const both = seen.side !== "left" && seen.side !== "right";
  const toward = (seen.side === "left") !== turned ? -1 : 1;
  const from = both ? MIDDLE : MIDDLE - toward * REACH;
  const full = both ? REACH : 2 * REACH - 20;
  const far = Math.round(out * full),
    tip = from + toward * far;
  const thick = Math.round(34 - 22 * out); // a band grows thinner as it is drawn out
  const one = (end) => `M${from} 20L${end} ${60 - thick}V${60 + thick}L${from} 100Z`;
  put("pull", "d", far ? one(tip) + (both ? one(from - far) : "") : "");
  put("post", "x", from - 5);
  put("bead", "transform", `translate(${tip} 0) scale(${roundness} 1)`);
  const ticks =
    seen.segment.kind === "hold"
      ? [0.5, ...[3, 2, 1].map((s) => 1 - s / (seen.step.ms / 1000))].filter((t) => t > 0.02)
      : seen.works
        ? [1]
        : [];
  put("marks", "d", ticks.map((t) => `M${from + toward * t * full} 4v${t === 0.5 ? 26 : 16}`).join(""));
  return out;
}

// A circle that fills and empties with the breath.
export function drawBreath(seen) {
  const breathes = seen.counted === "breaths" && seen.works;
  hide("pacer", !breathes);
  if (!breathes) return;
  const full = { in: seen.part, full: 1, out: 1 - seen.part, empty: 0 }[seen.word] ?? 0;
  put("pacer-now", "r", (16 + 32 * full).toFixed(1));
}

// ---- figures: the one of now moves as the timeline does and breathes, still where less motion is asked for ----------
const still = matchMedia("(prefers-reduced-motion: reduce)");
const figures = new WeakMap();
// Every drawing that the page may need, before it needs it: the network may go away.
for (const one of document.querySelectorAll("template")) {
  const holder = one.content.querySelector(".live");
  if (holder) load(holder.dataset.figure);
}
export function showFigure(id, item, side) {
  const box = el(id),
    wanted = `${item}-${side || "both"}`;
  if (!changed(box, "figure", wanted)) return;
  figures.get(box)?.gone();
  figures.delete(box);
  const [plain] = item.split("@");
  const drawn = [wanted, `${item}-left`, `${item}-both`, `${plain}-${side || "both"}`, `${plain}-left`, `${plain}-both`]
    .map((name) => el(`figure-${name}`))
    .find(Boolean);
  box.replaceChildren(...(drawn ? [drawn.content.cloneNode(true)] : []));
  const holder = box.querySelector(".live");
  if (holder)
    live(holder, { mirrored: Boolean(box.closest(".opposite")) }).then((made) => {
      if (made) figures.set(box, made);
      if (made) box.style.setProperty("--ground", made.ground.toFixed(3));
    });
}
export function noFigure(id) {
  if (changed(el(id), "figure", "")) el(id).replaceChildren();
}
const eased = (share) => 0.5 - 0.5 * Math.cos(Math.PI * Math.min(1, Math.max(0, share)));
const SWING = 1500,
  BREATH = 7000;
// Where a figure is in its movement: with the beats of reps, from side to side where they alternate, round for a circle.
function placeOf(figure, seen, out, into) {
  const { data } = figure;
  if (!figure.moves) return 0;
  if (!seen.works) return figure.still;
  const timed = seen.segment.kind === "timed" || seen.segment.kind === "open";
  if (data.turns)
    return timed
      ? (into % (2 * SWING)) / (2 * SWING)
      : seen.word
        ? seen.word === "out"
          ? seen.part / 2
          : seen.word === "back"
            ? 0.5 + seen.part / 2
            : 0
        : 0;
  if (timed) return eased(Math.abs(((into / SWING) % 2) - 1));
  if (!seen.word) return figure.still;
  if (data.held === 0 && opposite[seen.side]) return 0.5 + (seen.side === "left" ? -0.5 : 0.5) * eased(out);
  return eased(out);
}
export function moveFigure(id, seen, out, into, running) {
  const figure = figures.get(el(id));
  if (!figure) return;
  if (still.matches || !running) return figure.show(figure.still, 0);
  const paced = seen.counted === "breaths" && seen.works;
  const breath = paced
    ? ({ in: seen.part, full: 1, out: 1 - seen.part, empty: 0 }[seen.word] ?? 0)
    : eased(Math.abs(((into / (BREATH / 2)) % 2) - 1));
  figure.show(placeOf(figure, seen, out, into), breath);
}

// ---- texts as large as they fit in a number of lines, never smaller than can be read -----------------------------
const CAPITALS = 0.66;
const pen = document.createElement("canvas").getContext("2d");
const boxes = new Map();
// After a change of the window or the fonts.
export function measureAgain() {
  for (const id of boxes.keys()) {
    el(id).style.fontSize = "";
    written.get(el(id))?.delete("size");
  }
  boxes.clear();
}
function boxOf(id) {
  if (!boxes.has(id)) {
    const node = el(id);
    const style = getComputedStyle(node),
      size = parseFloat(style.fontSize);
    boxes.set(id, {
      size,
      width: node.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight),
      font: `${style.fontWeight} 100px ${style.fontFamily}`,
      spacing: (parseFloat(style.letterSpacing) || 0) / size,
    });
  }
  return boxes.get(id);
}
// The width of a text at a size of 1, in the box's font.
function widthOf(box, text) {
  pen.font = box.font;
  return pen.measureText(text).width / 100 + box.spacing * text.length;
}
function linesOf(box, text, size) {
  const space = widthOf(box, " ") * size;
  let lines = 1,
    at = 0;
  for (const word of text.split(/\s+/)) {
    const wide = widthOf(box, word) * size;
    if (at && at + space + wide > box.width) {
      lines += 1;
      at = wide;
    } else at += (at ? space : 0) + wide;
  }
  return lines;
}
// ``least``: the capitals' height as a share of the screen's; a text too long even so is cut by its box.
function fitted(id, least, roomy) {
  // On an upright screen it is the width that is short.
  const { innerWidth, innerHeight } = window,
    high = innerHeight > innerWidth ? innerWidth * 0.55 : innerHeight;
  const box = boxOf(id),
    floor = (high * least) / CAPITALS;
  let { size } = box;
  while (size > floor && !roomy(box, size)) size = Math.max(floor, size - 2);
  const style = size === box.size ? "" : `${size}px`;
  if (changed(el(id), "size", style)) el(id).style.fontSize = style;
}
export const fitLines = (id, text, least, most) => fitted(id, least, (box, size) => linesOf(box, text, size) <= most);
// A name with what is said small after it: one line.
export const fitName = (id, main, small, share, least) =>
  fitted(
    id,
    least,
    (box, size) => (widthOf(box, main) + share * widthOf({ ...box, spacing: 0 }, small)) * size <= box.width,
  );
