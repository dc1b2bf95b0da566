// Several rows: picked with Ctrl or Shift (or by their grips), moved, dosed, cut, copied and pasted together, made a chain or
// rounds; and rows dragged to another place, by mouse anywhere on them, by finger at the grip.
import { edit, here } from "./turns.js";

const picked = new Set();
const rows = () => [...document.querySelectorAll(".row")];
const idOf = (row) => row.dataset.item;
// The picked rows in their order, or the chosen one.
export const picks = () =>
  rows()
    .map(idOf)
    .filter((id) => picked.has(id));
export const hasPicks = () => picked.size > 0;
const those = () => (hasPicks() ? picks() : [here().item].filter((id) => rows().some((row) => idOf(row) === id)));

function show() {
  const there = new Set(rows().map(idOf));
  for (const id of picked) if (!there.has(id)) picked.delete(id);
  for (const row of rows()) row.classList.toggle("picked", picked.has(idOf(row)));
  const bar = document.getElementById("picked");
  bar.hidden = !picked.size;
  document.getElementById("picked-count").textContent = `${picked.size} row${picked.size > 1 ? "s" : ""}`;
  const kept = clipboard();
  document.getElementById("paste-rows").hidden = !kept;
}
document.body.addEventListener("htmx:afterSettle", (event) => {
  if (event.detail.target.id === "desk") show();
});

let from = null; // where a range begins
export function pick(id, how) {
  if (how === "range") {
    const all = rows().map(idOf),
      ends = [all.indexOf(from ?? here().item), all.indexOf(id)];
    if (ends[0] < 0) ends[0] = ends[1];
    picked.clear();
    for (const one of all.slice(Math.min(...ends), Math.max(...ends) + 1)) picked.add(one);
    from ??= here().item || id;
  } else {
    // The row that is chosen already is one of them.
    if (!picked.size && here().item && here().item !== id && rows().some((row) => idOf(row) === here().item))
      picked.add(here().item);
    if (picked.has(id)) picked.delete(id);
    else picked.add(id);
    from = id;
  }
  show();
}
let tip = null;
export function extend(by) {
  const all = rows().map(idOf),
    start = from ?? here().item;
  if (!hasPicks()) tip = start;
  const to = all[Math.max(0, Math.min(all.length - 1, all.indexOf(tip) + by))];
  if (!to || !start) return;
  from = start;
  tip = to;
  pick(to, "range");
  document.getElementById(`row-${to}`).scrollIntoView({ block: "nearest" });
}
export function unpick() {
  picked.clear();
  from = tip = null;
  show();
}

// ---- what is done with them ----------------------------------------------------------------
export const together = (kind, values = {}) => edit(kind, { rows: picks().join(" "), ...values });
const KEPT = "extendum-rows";
function clipboard() {
  try {
    return JSON.parse(localStorage.getItem(KEPT));
  } catch {
    return null;
  }
}
export function copy() {
  const some = those();
  if (!some.length) return;
  localStorage.setItem(KEPT, JSON.stringify({ of: here().class, revision: here().revision, rows: some.join(" ") }));
  show();
}
export function cut() {
  const some = those();
  if (!some.length) return;
  copy();
  edit("remove-rows", { rows: some.join(" "), cut: 1 });
  unpick();
}
export function paste() {
  const kept = clipboard();
  if (kept) edit("paste-rows", kept);
  unpick();
}
document.addEventListener(
  "click",
  (event) => {
    const grip = event.target.closest(".row .grip");
    if (grip && !moved) {
      event.preventDefault();
      event.stopPropagation();
      return pick(idOf(grip.closest(".row")), "one");
    }
    const button = event.target.closest("#picked [data-rows], #paste-rows");
    if (!button) return undefined;
    const { rows: kind, plan, steps } = button.dataset;
    const deed = { copy, cut, "paste-rows": paste, unpick }[kind ?? button.id];
    if (deed) return deed();
    return together(kind, { ...(plan && { plan }), ...(steps && { steps }) }).then(() => {
      if (plan || kind === "remove-rows") unpick();
    });
  },
  true,
);

// ---- dragging --------------------------------------------------------------------------------
const FAR = 6;
let moved = false; // a drag that has just ended is no click
const clearDrop = () =>
  document
    .querySelectorAll(".drop-before, .drop-after, .drop-end")
    .forEach((one) => one.classList.remove("drop-before", "drop-after", "drop-end"));
function placeAt(x, y, going) {
  const box = document.getElementById("order-list").getBoundingClientRect();
  const list = document
    .elementFromPoint(Math.min(Math.max(x, box.left + 12), box.right - 24), y)
    ?.closest("ol[data-group]");
  if (!list) return null;
  const others = [...list.querySelectorAll(".row")].filter((row) => !going.has(idOf(row)));
  const at = others.findIndex((row) => {
    const { top, height } = row.getBoundingClientRect();
    return y < top + height / 2;
  });
  return { list, others, at: at < 0 ? others.length : at };
}
function mark(place) {
  clearDrop();
  if (!place) return;
  const { list, others, at } = place;
  if (at < others.length) others[at].classList.add("drop-before");
  else (others.at(-1) ?? list).classList.add(others.length ? "drop-after" : "drop-end");
}
document.addEventListener("dragstart", (event) => {
  if (event.target.closest?.(".row")) event.preventDefault();
});
document.addEventListener("pointerdown", (event) => {
  const row = event.target.closest?.(".row"),
    grip = event.target.closest?.(".grip");
  moved = false;
  if (!row || event.button || (event.pointerType !== "mouse" && !grip)) return;
  const start = [event.clientX, event.clientY],
    item = idOf(row);
  const going = new Set(picked.has(item) ? picks() : [item]);
  const list = document.getElementById("order-list");
  let place = null,
    scrolls = 0;
  const move = (at) => {
    if (!moved && Math.hypot(at.clientX - start[0], at.clientY - start[1]) < FAR) return;
    moved = true;
    at.preventDefault();
    for (const one of rows()) one.classList.toggle("dragged", going.has(idOf(one)));
    mark((place = placeAt(at.clientX, at.clientY, going)));
    const { top, bottom } = list.getBoundingClientRect();
    scrolls = at.clientY < top + 30 ? -9 : at.clientY > bottom - 30 ? 9 : 0;
  };
  const timer = setInterval(() => {
    if (scrolls) list.scrollTop += scrolls;
  }, 16);
  const stop = (at) => {
    clearInterval(timer);
    for (const [kind, what] of Object.entries(kinds)) document.removeEventListener(kind, what, true);
    for (const one of rows()) one.classList.remove("dragged");
    clearDrop();
    if (!moved || at.type !== "pointerup" || !place) return;
    const where = { group: place.list.dataset.group, at: place.at };
    if (going.size > 1) together("place-rows", where);
    else edit("place", { item, ...where });
  };
  const onEscape = (at) => {
    if (at.key === "Escape") {
      at.preventDefault();
      at.stopPropagation();
      stop(at);
    }
  };
  const kinds = { pointermove: move, pointerup: stop, pointercancel: stop, keydown: onEscape };
  for (const [kind, what] of Object.entries(kinds)) document.addEventListener(kind, what, true);
});
document.addEventListener(
  "click",
  (event) => {
    if (moved && event.target.closest(".row")) {
      event.preventDefault();
      event.stopPropagation();
    }
  },
  true,
);
show();
