// Reading a class in: one text after the other, by the microphone. What was read stays in this browser until it is kept.
import { can, el, hide, mark, show } from "../drawing.js";
import { deeds } from "../keys.js";
import { microphone, open, roomDb, spokenIn, start, stop, wav } from "./microphone.js";
import * as waiting from "./waiting.js";

const root = el("readings");
const AGAIN_MS = 5000,
  NEXT_MS = 500,
  LOUD_ROOM_DB = -50,
  TOO_LOUD_DB = -1,
  QUIET_DB = -40;
let rows = JSON.parse(el("rows")?.textContent ?? "[]"),
  now = 0,
  shown = [];
const pending = new Map(); // what waits in this browser, by its text
const row = () => rows[now];
const seconds = (ms) => `${(ms / 1000).toFixed(1)} s`;

// ---- the list -----------------------------------------------------------------------------------------------------
const shortest = () => document.querySelector("[name=order]:checked").value === "short";
function listed() {
  const missing = el("missing").checked;
  const some = rows.filter((one) => !missing || one.ms === null || one === row());
  return shortest() ? some.sort((a, b) => a.text.length - b.text.length || a.n - b.n) : some;
}
function lengthOf(one) {
  const here = pending.get(one.text);
  const ms = here?.ms ?? one.ms;
  if (ms === null || ms === undefined) return one.room === null ? "no room yet" : `has ${seconds(one.room)}`;
  return one.room === null ? seconds(ms) : `${seconds(ms)} of ${seconds(one.room)}`;
}
function stateOf(one) {
  const here = pending.get(one.text);
  if (here) return here.keep ? "waits" : "not kept";
  if (one.ms === null) return "";
  return one.fits ? "read" : "too long";
}
function draw() {
  shown = listed();
  el("texts").replaceChildren(
    ...shown.map((one) => {
      const button = document.createElement("button"),
        line = document.createElement("li");
      button.type = "button";
      button.dataset.n = one.n;
      button.classList.toggle("done", one.ms !== null);
      if (one === row()) button.setAttribute("aria-current", "true");
      for (const [kind, words] of [
        ["what", one.text],
        ["num", [lengthOf(one), stateOf(one)].filter(Boolean).join(" · ")],
      ]) {
        const part = document.createElement("span");
        part.className = kind;
        part.textContent = words;
        button.append(part);
      }
      line.append(button);
      return line;
    }),
  );
  el("texts").querySelector("[aria-current]")?.scrollIntoView({ block: "nearest" });
}
function drawText() {
  const one = row(),
    here = pending.get(one.text),
    ms = here?.ms ?? one.ms;
  show("read-of", [one.of, one.times > 1 ? `said ${one.times} times` : ""].filter(Boolean).join(" · "));
  show("read-text", one.text);
  hide("read-room", one.room === null);
  const share = one.room ? Math.min(1, (ms ?? 0) / one.room) : 0;
  el("read-bar").style.width = `${100 * share}%`;
  mark("read-bar", "over", one.room !== null && ms > one.room);
  const length = lengthOf(one);
  show("read-length", ms > one.room && one.room !== null ? `${length}: longer than its room` : length);
  el("read-text").classList.toggle("long", one.text.length > 160);
  can("listen", Boolean(here || one.sound));
  can("keep-it", Boolean(here) && !here.keep);
  can("forget", Boolean(here || one.sound));
}
function go(n) {
  if (microphone.pieces) stop();
  now = n;
  show("record-words", "Read it");
  tell([]);
  draw();
  drawText();
}
function beside(by) {
  return shown[shown.indexOf(row()) + by] ?? null;
}
const step = (by) => {
  const one = beside(by);
  if (one) go(one.n);
};
const tell = (words) => {
  el("read-told").replaceChildren(
    ...words.map((one) => {
      const line = document.createElement("li");
      line.textContent = one;
      return line;
    }),
  );
};

// ---- reading -------------------------------------------------------------------------------------------------------
const free = () => el("hands-free").checked;
async function record() {
  if (microphone.pieces) return finish();
  player.pause();
  try {
    await open(root.dataset.worklet);
  } catch (error) {
    const refused = error.name === "NotAllowedError";
    tell([
      refused
        ? "The browser may not use the microphone. Allow it beside the address, and press Space again."
        : "No microphone was found. Plug one in, and press Space again; or read a recording in.",
    ]);
    return null;
  }
  tell([]);
  start();
  show("record-words", "Stop");
  mark("record", "on", true);
  return null;
}
async function finish() {
  const samples = stop(),
    one = row(),
    ms = spokenIn(samples);
  mark("record", "on", false);
  show("record-words", "Read it again");
  if (!ms) {
    tell(["Nothing was heard. Is this the right microphone?"]);
    return;
  }
  const reading = { class: root.dataset.class, voice: root.dataset.voice, text: one.text, ms, sound: wav(samples) };
  await hold({ ...reading, at: Date.now(), keep: free() });
  draw();
  drawText();
  if (!free()) return;
  const after = beside(1);
  send();
  if (!after) {
    tell(["That was the last one."]);
    return;
  }
  setTimeout(() => {
    if (!free() || now !== one.n) return;
    go(after.n);
    record();
  }, NEXT_MS);
}
async function hold(one) {
  pending.set(one.text, one);
  try {
    await waiting.put(one);
  } catch {
    tell(["This browser has no room for more: what is not kept yet is lost on a reload."]);
  }
}
microphone.ended = () => {
  if (free()) finish();
};
microphone.heard = ({ level, peak }) => {
  el("level").value = peak;
  const room = roomDb();
  const loudest = Math.max(peak, (el("level").loudest ?? -60) - 0.6);
  el("level").loudest = loudest;
  if (loudest > TOO_LOUD_DB) show("level-told", "Too loud: move away a little.");
  else if (room !== null && room > LOUD_ROOM_DB && level < room + 6)
    show("level-told", "The room is loud. Close the window.");
  else if (microphone.pieces && loudest < QUIET_DB) show("level-told", "Too quiet: come nearer.");
  else show("level-told", microphone.pieces ? "Good." : "Ready.");
};

// ---- listening ----------------------------------------------------------------------------------------------------
const player = new Audio();
function listen() {
  const here = pending.get(row().text);
  if (!player.paused) return player.pause();
  if (player.src.startsWith("blob:")) URL.revokeObjectURL(player.src);
  player.src = here ? URL.createObjectURL(here.sound) : row().sound;
  return player.play().catch(() => tell(["It cannot be played here."]));
}

// ---- keeping -------------------------------------------------------------------------------------------------------
async function keep() {
  const here = pending.get(row().text);
  if (!here || here.keep) return;
  const after = beside(1);
  await hold({ ...here, at: Date.now(), keep: true });
  send();
  if (after) go(after.n);
  else {
    draw();
    drawText();
  }
}
const token = () => document.querySelector("[name=csrfmiddlewaretoken]").value;
async function post(address, facts) {
  const form = new FormData();
  for (const [name, value] of Object.entries(facts)) form.append(name, value);
  return fetch(address, { method: "POST", body: form, headers: { "X-CSRFToken": token() } });
}
let sending = false,
  again = null;
async function send() {
  if (sending) return;
  sending = true;
  clearTimeout(again);
  try {
    for (let one = first(); one; one = first()) {
      const answer = await post(root.dataset.keep, { text: one.text, sound: one.sound });
      const found = await answer.json();
      await waiting.told(one);
      if (pending.get(one.text)?.at === one.at) pending.delete(one.text);
      if (answer.ok) took(found, one);
      else tell([`“${one.text}”: ${found.refused}`]);
    }
    notice("");
  } catch {
    const many = [...pending.values()].filter((one) => one.keep).length;
    notice(
      `The server does not answer. ${many} ${many === 1 ? "reading waits" : "readings wait"} in this browser, and will be sent when it is back.`,
    );
    again = setTimeout(send, AGAIN_MS);
  }
  sending = false;
  draw();
  drawText();
}
const first = () => [...pending.values()].find((one) => one.keep);
function took({ row: made, counts, told }, one) {
  if (made) {
    const at = rows.findIndex(({ text }) => text === one.text);
    if (at >= 0) rows[at] = { ...rows[at], ms: made.ms, sound: made.sound, fits: made.fits, room: made.room };
  }
  count(counts);
  if (told.length) tell(told.map((words) => `“${one.text}”: ${words}`));
}
function count(counts) {
  show("counts", counts.told);
  show("counts-long", counts.long);
  show("counts-rate", counts.rate);
  can("take-in", counts.behind);
  show("take-told", counts.behind ? counts.takes : "The class has everything that was read.");
}
function notice(words) {
  const box = document.createElement("div");
  box.className = "notice";
  box.textContent = words;
  el("notice").replaceChildren(...(words ? [box] : []));
}
async function forget() {
  const one = row(),
    here = pending.get(one.text);
  if (here) {
    pending.delete(one.text);
    await waiting.told(here);
    draw();
    drawText();
    return;
  }
  try {
    const answer = await post(root.dataset.forget, { text: one.text });
    const found = await answer.json();
    rows = found.rows;
    now = Math.max(
      0,
      rows.findIndex(({ text }) => text === one.text),
    );
    count(found.counts);
    draw();
    drawText();
  } catch {
    notice("The server does not answer. It was not forgotten.");
  }
}

// ---- the page -----------------------------------------------------------------------------------------------------
document.addEventListener("click", (event) => {
  const opens = event.target.closest("[data-opens]"),
    text = event.target.closest("#texts button");
  if (opens) document.getElementById(opens.dataset.opens).showModal();
  if (text) go(Number(text.dataset.n));
});
document.getElementById("voice")?.addEventListener("change", (event) => event.target.form.submit());
if (root) {
  const pressed = { record, listen, "keep-it": keep, forget, previous: () => step(-1), next: () => step(1) };
  for (const [id, deed] of Object.entries(pressed)) el(id).addEventListener("click", () => deed());
  deeds({ record, listen, keep, previous: () => step(-1), next: () => step(1) });
  for (const field of document.querySelectorAll("[name=order], #missing, #hands-free"))
    field.addEventListener("change", () => {
      field.blur(); // so that Space is for reading again
      if (field.name === "order") el("file-order").value = field.value;
      draw();
    });
  addEventListener("online", send);
  waiting
    .all(root.dataset.voice)
    .catch(() => [])
    .then((some) => {
      for (const one of some) pending.set(one.text, one);
      const missing = rows.find((one) => one.ms === null);
      go(missing?.n ?? 0);
      if (first()) send();
    });
}
