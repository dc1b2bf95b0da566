// A recording on ruled lines of half a minute: its waveform, the texts under it, and both ends of each to be moved.
import { el, mark, show } from "../drawing.js";
import { deeds } from "../keys.js";

const LINE_MS = 30_000,
  LEAST_MS = 60,
  STEP_MS = 20,
  SVG = "http://www.w3.org/2000/svg";
const { ms: whole, peak_ms: peakMs, peaks, pieces } = JSON.parse(el("facts").textContent);
const root = el("cut-lines");
for (const one of pieces) one.wanted = !one.doubt;
let now = Math.max(
  0,
  pieces.findIndex((one) => one.doubt),
);
const seconds = (ms) => `${(ms / 1000).toFixed(1)} s`;
const clock = (ms) => `${Math.floor(ms / 60_000)}:${String(Math.floor(ms / 1000) % 60).padStart(2, "0")}`;

// ---- the lines ----------------------------------------------------------------------------------------------------
function svg(name, facts, words) {
  const node = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(facts)) node.setAttribute(key, value);
  if (words) node.textContent = words;
  return node;
}
function wave(from) {
  const first = Math.floor(from / peakMs),
    last = Math.min(peaks.length, Math.ceil((from + LINE_MS) / peakMs));
  let up = "",
    down = "";
  for (let n = first; n < last; n += 1) {
    const x = n * peakMs - from;
    up += `${x},${50 - peaks[n] * 0.46} `;
    down = `${x},${50 + peaks[n] * 0.46} ${down}`;
  }
  return svg("polygon", { points: up + down, class: "cut-wave" });
}
function line(from) {
  const box = document.createElement("div");
  box.className = "cut-line";
  const drawing = svg("svg", { viewBox: `0 0 ${LINE_MS} 100`, preserveAspectRatio: "none", role: "presentation" });
  drawing.dataset.from = from;
  drawing.append(wave(from));
  const time = document.createElement("span");
  time.className = "num";
  time.textContent = clock(from);
  const texts = document.createElement("div");
  texts.className = "cut-texts";
  box.append(time, drawing, texts);
  return box;
}
const lines = Array.from({ length: Math.ceil(whole / LINE_MS) }, (_, n) => line(n * LINE_MS));
root.append(...lines);
const within = (ms, from) => Math.max(0, Math.min(LINE_MS, ms - from));
function draw() {
  lines.forEach((box, n) => {
    const from = n * LINE_MS,
      drawing = box.querySelector("svg"),
      texts = box.querySelector(".cut-texts");
    for (const old of drawing.querySelectorAll(".cut-piece, .cut-end")) old.remove();
    texts.replaceChildren();
    pieces.forEach((one, at) => {
      if (one.to <= from || one.from >= from + LINE_MS) return;
      const left = within(one.from, from),
        right = within(one.to, from);
      const kind = `cut-piece${at === now ? " now" : ""}${one.wanted ? "" : " out"}${one.doubt ? " doubt" : ""}`;
      const shape = svg("rect", { x: left, y: 1, width: right - left, height: 98, class: kind });
      shape.dataset.n = at;
      drawing.prepend(shape);
      for (const end of ["from", "to"]) {
        const x = one[end] - from;
        if (x < 0 || x > LINE_MS) continue;
        const handle = svg("rect", { x: x - 150, y: 0, width: 300, height: 100, class: "cut-end" });
        handle.dataset.n = at;
        handle.dataset.end = end;
        drawing.append(handle);
      }
      if (one.from < from) return; // its text is on the line before
      const words = document.createElement("button");
      words.type = "button";
      words.dataset.n = at;
      words.className = kind;
      words.style.left = `${(100 * left) / LINE_MS}%`;
      words.style.width = `${(100 * (right - left)) / LINE_MS}%`;
      words.textContent = (one.doubt ? "? " : "") + one.text;
      if (at === now) words.setAttribute("aria-current", "true");
      texts.append(words);
    });
  });
  const one = pieces[now],
    long = one.room !== null && one.to - one.from > one.room;
  show("cut-text", one.text);
  const room = one.room === null ? "" : ` of ${seconds(one.room)}${long ? ", longer than its room" : ""}`;
  show("cut-told", [`${seconds(one.to - one.from)}${room}`, one.doubt].filter(Boolean).join(" · "));
  mark("cut-told", "text-clay", Boolean(one.doubt));
  el("wanted").checked = one.wanted;
  const many = pieces.filter((some) => some.wanted).length;
  show("many", `${many} of ${pieces.length}`);
  el("keep-cuts").disabled = !many;
}
function go(n) {
  now = Math.max(0, Math.min(pieces.length - 1, n));
  draw();
  root.querySelector("button[aria-current]")?.scrollIntoView({ block: "nearest" });
}

// ---- moving an end ------------------------------------------------------------------------------------------------
function set(n, end, ms) {
  const one = pieces[n],
    before = pieces[n - 1]?.to ?? 0,
    after = pieces[n + 1]?.from ?? whole;
  one[end] = Math.round(
    end === "from"
      ? Math.max(before, Math.min(one.to - LEAST_MS, ms))
      : Math.min(after, Math.max(one.from + LEAST_MS, ms)),
  );
  one.doubt = "";
  one.wanted = true;
  draw();
}
root.addEventListener("pointerdown", (event) => {
  const handle = event.target.closest(".cut-end"),
    piece = event.target.closest(".cut-piece");
  if (piece) go(Number(piece.dataset.n));
  if (!handle) return;
  event.preventDefault();
  const n = Number(handle.dataset.n),
    { end } = handle.dataset,
    drawing = handle.closest("svg"),
    box = drawing.getBoundingClientRect(),
    from = Number(drawing.dataset.from);
  now = n;
  const move = ({ clientX }) => set(n, end, from + ((clientX - box.left) / box.width) * LINE_MS);
  const done = () => {
    removeEventListener("pointermove", move);
    removeEventListener("pointerup", done);
    listen();
  };
  addEventListener("pointermove", move);
  addEventListener("pointerup", done);
});

// ---- listening ----------------------------------------------------------------------------------------------------
const player = new Audio();
let until = 0;
const loaded = fetch(root.dataset.sound)
  .then((answer) => answer.blob())
  .then((blob) => {
    player.src = URL.createObjectURL(blob);
  });
async function listen() {
  if (!player.paused) return player.pause();
  await loaded;
  player.currentTime = pieces[now].from / 1000;
  until = pieces[now].to / 1000;
  await player.play();
  const watch = () => {
    if (player.currentTime >= until) player.pause();
    else if (!player.paused) requestAnimationFrame(watch);
  };
  return watch();
}

// ---- keeping ------------------------------------------------------------------------------------------------------
let sent = false;
async function keep() {
  if (sent) return;
  sent = true;
  const form = new FormData();
  const some = pieces.filter((one) => one.wanted).map(({ text, from, to }) => ({ text, from, to }));
  form.append("pieces", JSON.stringify(some));
  const token = document.querySelector("[name=csrfmiddlewaretoken]").value;
  let told = "The server does not answer. Nothing was lost: press again when it is back.";
  try {
    const answer = await fetch(root.dataset.keep, { method: "POST", body: form, headers: { "X-CSRFToken": token } });
    const found = await answer.json();
    if (answer.ok && !found.refused.length) {
      location.assign(found.to);
      return;
    }
    told = found.refused.join(" ");
  } catch {
    // told below
  }
  sent = false;
  const box = document.createElement("div");
  box.className = "notice";
  box.textContent = told;
  el("notice").replaceChildren(box);
}
el("keep-cuts").addEventListener("click", keep);
el("listen").addEventListener("click", listen);
el("previous").addEventListener("click", () => go(now - 1));
el("next").addEventListener("click", () => go(now + 1));
el("wanted").addEventListener("change", () => {
  pieces[now].wanted = el("wanted").checked;
  el("wanted").blur();
  draw();
});
const nudge = (end, by) => () => set(now, end, pieces[now][end] + by);
deeds({
  listen,
  keep,
  previous: () => go(now - 1),
  next: () => go(now + 1),
  "begin-earlier": nudge("from", -STEP_MS),
  "begin-later": nudge("from", STEP_MS),
  "end-earlier": nudge("to", -STEP_MS),
  "end-later": nudge("to", STEP_MS),
});
go(now);
