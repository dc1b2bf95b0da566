// The Desk: keys, dragging, the peg, and choosing on the sheet. Every time and dose is the server's.
import "./remedies.js";
import "./told.js";
import { address, choose, chooseNeighbour, edit, editChosen, here, intoView, reload, send, step } from "./turns.js";

const shown = import("./preview.js");
const preview = (target) => shown.then((it) => it.preview(target));
const endPreview = () => shown.then((it) => it.endPreview());
const clock = (s) => {
  const [h, m, r] = [Math.floor(s / 3600), Math.floor(s / 60) % 60, String(s % 60).padStart(2, "0")];
  return h ? `${h}:${String(m).padStart(2, "0")}:${r}` : `${m}:${r}`;
};

// ---- notices -------------------------------------------------------------------------------
const notice = document.getElementById("notice");
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target.id !== "desk") return;
  if (document.activeElement !== adder()) closeFound();
  if (event.detail.requestConfig.verb === "post") {
    notice.replaceChildren();
    intoView();
    history.replaceState(null, "", address());
    document.title = `${document.getElementById("class-title").textContent} · Extendum`;
  }
});

// Where a length is out of reach the first offer has the focus: arrows go to the others, Escape back to where it was typed.
let asked = null;
const offers = () => [...notice.querySelectorAll("button")];
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target.id !== "notice" || !notice.querySelector("[data-edit=fit], [data-edit=remedy]")) return;
  asked = document.activeElement.id;
  offers()[0].focus();
});
notice.addEventListener("keydown", (event) => {
  const by = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key];
  if (!by && event.key !== "Escape") return;
  event.preventDefault();
  event.stopPropagation();
  if (by) return offers()[(offers().indexOf(event.target) + by + offers().length) % offers().length].focus();
  notice.replaceChildren();
  document.getElementById(asked)?.focus();
});

// ---- clicks --------------------------------------------------------------------------------
function values(data, names) {
  const found = {};
  for (const name of names) if (data[name] !== undefined) found[name] = data[name];
  return found;
}
// What is pressed in a panel is for what that panel shows.
function panelOf(button) {
  const of = button.closest("[data-panel-of]");
  return of ? { item: of.dataset.panelOf } : {};
}
document.addEventListener("click", (event) => {
  const on = (selector) => event.target.closest(selector);
  let it;
  if ((it = on("#found [data-move], #found [data-set]"))) return take(it);
  if ((it = on("[data-look]"))) return look(it.dataset.look);
  if ((it = on("[data-newer-of]"))) return openNewer(it.dataset.newerOf);
  if ((it = on("[data-choose]"))) {
    if (event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    return choose(it.dataset.choose);
  }
  if (on("#order button[data-edit]")) document.getElementById("order").close();
  if ((it = on("button[data-edit]"))) return edit(it.dataset.edit, { ...panelOf(it), ...values(it.dataset, ["by", "section", "target", "stage", "group", "gives", "of", "part", "value", "told", "order", "move", "finding", "condition", "where"]) });
  if ((it = on("button[data-which]"))) {
    document.getElementById("steps").close();
    return step(it.dataset.which, values(it.dataset, ["revision"]));
  }
  if (on("[data-close]")) return notice.replaceChildren();
  if (on("[data-reload]")) return reload().then(() => notice.replaceChildren());
  if ((it = on("[data-again]"))) return again(it);
  if (on("#open-steps")) return openDialog("steps");
  if (on("#open-table")) return openDialog("table");
  if ((it = on("[data-order-of]"))) return openOrder(it.dataset.orderOf);
  if ((it = on(".seg"))) return choose(it.dataset.item);
  if (!on(".adder")) closeFound();
});

function openDialog(id) {
  htmx.ajax("GET", here()[id], { target: `#${id}`, swap: "innerHTML" }).then(() => document.getElementById(id).showModal());
}

// Orders for a section; pins are edits of their own, and the proposals are made again after each.
function openOrder(section) {
  const dialog = document.getElementById("order");
  const address = `${here().order}?section=${encodeURIComponent(section)}`;
  htmx.ajax("GET", address, { target: "#order", swap: "innerHTML" }).then(() => dialog.open || dialog.showModal());
}
document.addEventListener("change", (event) => {
  const pin = event.target.closest?.("select.pin");
  if (!pin) return;
  const { section, pinned } = pin.dataset;
  edit("pin", { section, pinned, where: pin.value }).then(() => openOrder(section));
});
const sectionHere = () => {
  const list = document.querySelector(".row[data-chosen]")?.closest("ol") ?? document.querySelector("ol[data-group] .row")?.closest("ol");
  return list?.dataset.section;
};

async function again(button) {
  const typed = {};
  for (const { name, value } of button.attributes) if (name.startsWith("data-typed-")) typed[name.slice(11)] = value;
  await reload();
  notice.replaceChildren();
  const path = typed.which ? here().step : here().edit;
  return send(path, typed);
}

// ---- adding a move -------------------------------------------------------------------------
const FOUND = "#found [data-move], #found [data-set], #found [data-write]";
const adder = () => document.getElementById("add");
// What was found is for what is typed; Enter pressed sooner waits for it.
let waiting = false;
// Enter pressed twice adds one move: the second waits for nothing that has not been seen.
let taken = false;
const fresh = () => document.querySelector("#found [data-for]")?.dataset.for === adder().value.trim();
function closeFound() {
  waiting = false;
  document.getElementById("found").replaceChildren();
  adder().setAttribute("aria-expanded", "false");
}
function take(found) {
  const { dataset } = found;
  if (dataset.write !== undefined) { location.href = found.href; return null; }
  adder().value = "";
  closeFound();
  taken = true;
  const added = dataset.set ? edit("add-set", { set: dataset.set }) : edit("add", { move: dataset.move });
  // Whoever goes on adding sees at once what could come after it.
  return added.then(() => { if (document.activeElement === adder()) adder().dispatchEvent(new Event("focus")); });
}
// Looks for an area as if it had been typed.
function look(words) {
  adder().value = words;
  adder().focus();
}
function openNewer(item) {
  const dialog = document.getElementById("newer");
  const address = `${here().newer}?item=${encodeURIComponent(item)}`;
  htmx.ajax("GET", address, { target: "#newer", swap: "innerHTML" }).then(() => dialog.open || dialog.showModal());
}
document.addEventListener("submit", (event) => { if (event.target.id === "newer-form") document.getElementById("newer").close(); }, true);
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target.id !== "found") return;
  taken = false;
  adder().setAttribute("aria-expanded", "true");
  document.querySelector("[data-chosen]")?.scrollIntoView({ block: "nearest" });
  document.querySelector("#found [aria-selected=true]")?.scrollIntoView({ block: "nearest" });
  if (!waiting || !fresh()) return;
  waiting = false;
  // What was not seen yet is taken only where it is what was asked for: no move that the brief rules out, and no form.
  const first = document.querySelector("#found [data-move][aria-selected=true]");
  if (first) take(first);
});
function searchKeys(event) {
  const found = [...document.querySelectorAll(FOUND)];
  const at = found.findIndex((one) => one.getAttribute("aria-selected") === "true");
  if (event.key === "Escape") { closeFound(); adder().blur(); event.preventDefault(); return; }
  if (event.key === "Enter" && !fresh()) { event.preventDefault(); waiting = !taken || Boolean(adder().value.trim()); return; }
  if (!found.length) return;
  if (event.key === "Enter") { event.preventDefault(); if (at >= 0) take(found[at]); return; }
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (!by) return;
  event.preventDefault();
  const to = at < 0 ? (by > 0 ? 0 : found.length - 1) : (at + by + found.length) % found.length;
  found.forEach((one, index) => one.setAttribute("aria-selected", String(index === to)));
  found[to].scrollIntoView({ block: "nearest" });
  adder().setAttribute("aria-activedescendant", found[to].id);
}

// ---- keys ----------------------------------------------------------------------------------
const press = (id) => () => document.getElementById(id).click();
const keys = {
  ArrowDown: () => chooseNeighbour(1),
  ArrowUp: () => chooseNeighbour(-1),
  "Alt+ArrowDown": () => editChosen("shift", { by: 1 }),
  "Alt+ArrowUp": () => editChosen("shift", { by: -1 }),
  ArrowRight: () => editChosen("nudge", { steps: 1 }),
  ArrowLeft: () => editChosen("nudge", { steps: -1 }),
  "Shift+ArrowRight": () => editChosen("nudge", { by: 1 }),
  "Shift+ArrowLeft": () => editChosen("nudge", { by: -1 }),
  Delete: () => editChosen("remove"),
  Backspace: () => editChosen("remove"),
  l: () => editChosen("lock"),
  o: () => editChosen("mark", { keep: "may be left out", toggle: 1 }),
  x: () => editChosen("mark", { keep: "left out", toggle: 1 }),
  t: () => edit("talk"),
  p: () => document.getElementById("peg").focus(),
  v: press("to-versions"),
  e: press("to-files"),
  s: () => { if (sectionHere()) openOrder(sectionHere()); },
  a: () => { adder().focus(); adder().select(); }, // what an earlier search left is typed over
  f: () => { const target = document.getElementById("target"); target.focus(); target.select(); },
  u: () => step("undo"),
  r: () => step("redo"),
  h: () => openDialog("steps"),
  d: () => openDialog("table"),
  g: press("teach"),
  w: press("to-words"),
  b: press("to-brief"),
  m: press("to-moves"),
  c: () => document.getElementById("to-checks")?.click(),
  Escape: () => choose(""),
};
document.addEventListener("keydown", (event) => {
  if (document.querySelector("dialog[open]")) return;
  if (event.target === adder()) return searchKeys(event);
  if (event.target.closest("input, textarea, select")) {
    if (event.key === "Escape") event.target.blur();
    return;
  }
  if (event.target.closest("#peg")) { if (pegKeys(event)) return; }
  if (event.target.closest(".seg")) { if (sheetKeys(event)) return; }
  if (event.ctrlKey || event.metaKey) {
    if (event.key.toLowerCase() !== "z") return;
    event.preventDefault();
    return step(event.shiftKey ? "redo" : "undo");
  }
  const named = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  const shifted = event.shiftKey && event.key.startsWith("Arrow") ? "Shift+" : "";
  const action = keys[`${event.altKey ? "Alt+" : ""}${shifted}${named}`];
  if (!action) return;
  if (event.target.closest("button, a") && ["Enter", " "].includes(event.key)) return;
  event.preventDefault();
  action();
});

// ---- the sheet: walk along it, read why ------------------------------------------------------
const why = (words) => { document.getElementById("why").textContent = words; };
// The figure of what is pointed at, on the side that is worked there.
function figureOf(segment) {
  const picture = document.getElementById("sheet-figure");
  const address = segment && document.getElementById(`row-${segment.dataset.item}`)?.dataset.figure;
  picture.hidden = !address;
  if (!address) return;
  const side = segment.classList.contains("s-right") ? "right" : "left";
  picture.src = address.replace("size=small&", "").replace(/side=\w+/, `side=${side}`);
  const at = segment.getBoundingClientRect(), box = document.querySelector(".right").getBoundingClientRect();
  picture.classList.toggle("aside", at.left > box.left + box.width / 2);
}
document.addEventListener("pointerover", (event) => {
  const segment = event.target.closest?.(".seg");
  if (segment) why(segment.dataset.about);
  figureOf(segment);
});
document.addEventListener("focusin", (event) => {
  const segment = event.target.closest?.(".seg");
  if (segment) why(segment.dataset.about);
  figureOf(segment);
});
function sheetKeys(event) {
  const segments = [...document.querySelectorAll('.seg[role="button"]')];
  const at = segments.indexOf(event.target.closest(".seg"));
  const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: segments.length - 1 }[event.key];
  if (event.key === "Enter" || event.key === " ") {
    event.preventDefault();
    choose(segments[at].dataset.item);
    return true;
  }
  if (to === undefined) return false;
  event.preventDefault();
  if (segments[to]) {
    segments[at].setAttribute("tabindex", "-1");
    segments[to].setAttribute("tabindex", "0");
    segments[to].focus();
    segments[to].scrollIntoView({ block: "nearest" });
  }
  return true;
}

// ---- the peg ---------------------------------------------------------------------------------
let pegged = null; // seconds while the peg is away from its target
function showPeg(seconds) {
  const { ruler, left, wide } = document.getElementById("band").dataset;
  const peg = document.getElementById("peg");
  pegged = Math.max(1, Math.min(Number(ruler), Math.round(seconds)));
  peg.setAttribute("transform", `translate(${Number(left) + (pegged / ruler) * wide} 0)`);
  peg.setAttribute("aria-valuenow", pegged);
  peg.setAttribute("aria-valuetext", clock(pegged));
  document.getElementById("target").value = clock(pegged);
  preview(clock(pegged));
}
function leavePeg(apply) {
  if (pegged === null) return;
  const target = clock(pegged);
  if (!apply) showPeg(Number(document.getElementById("band").dataset.target));
  pegged = null;
  endPreview();
  if (apply) edit("fit", { target });
}
function pegKeys(event) {
  const now = pegged ?? Number(document.getElementById("band").dataset.target);
  const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 60, PageDown: -60 }[event.key];
  if (event.altKey || event.ctrlKey || event.metaKey) return false;
  if (by) showPeg(now + by * (event.shiftKey && Math.abs(by) === 1 ? 5 : 1));
  else if (event.key === "Enter" || event.key === " ") leavePeg(true);
  else if (event.key === "Escape" && pegged !== null) leavePeg(false);
  else return false;
  event.preventDefault();
  return true;
}
document.addEventListener("pointerdown", (event) => {
  const peg = event.target.closest?.("#peg");
  if (!peg) return;
  event.preventDefault();
  peg.focus();
  const band = document.getElementById("band");
  const scale = band.viewBox.baseVal.width / band.getBoundingClientRect().width;
  const { ruler, left, wide, target } = band.dataset;
  const from = event.clientX;
  const move = (at) => showPeg(Number(target) + ((at.clientX - from) * scale * ruler) / wide);
  const stop = (at) => {
    document.removeEventListener("pointermove", move);
    document.removeEventListener("pointerup", stop);
    document.removeEventListener("keydown", escape, true);
    leavePeg(at.type === "pointerup");
  };
  const escape = (at) => { if (at.key === "Escape") { at.preventDefault(); at.stopPropagation(); stop(at); } };
  document.addEventListener("pointermove", move);
  document.addEventListener("pointerup", stop);
  document.addEventListener("keydown", escape, true);
});
document.addEventListener("focusout", (event) => {
  if (event.target.id === "peg") leavePeg(false);
  if (event.target.id === "target" && pegged === null) endPreview();
});
// A length that is typed is shown as it would be, too.
document.addEventListener("input", (event) => {
  if (event.target.id === "target") preview(event.target.value);
});
document.addEventListener("keydown", (event) => {
  if (event.target.id !== "target" || event.key !== "Escape") return;
  event.target.value = clock(Number(document.getElementById("band").dataset.target));
  endPreview();
}, true);
document.addEventListener("submit", (event) => { if (event.target.id === "fit-form") endPreview(); }, true);

// ---- reordering by drag ------------------------------------------------------------------------
let dragged = null;
const clearDrop = () => document.querySelectorAll(".drop-before, .drop-after, .drop-end").forEach((one) =>
  one.classList.remove("drop-before", "drop-after", "drop-end"));
function dropPlace(event) {
  const list = event.target.closest?.("ol[data-group]");
  if (!list) return null;
  const others = [...list.querySelectorAll(".row")].filter((row) => row !== dragged);
  const at = others.findIndex((row) => {
    const box = row.getBoundingClientRect();
    return event.clientY < box.top + box.height / 2;
  });
  return { list, others, at: at < 0 ? others.length : at };
}
document.addEventListener("dragstart", (event) => {
  dragged = event.target.closest?.(".row");
  if (!dragged) return;
  dragged.classList.add("dragged");
  event.dataTransfer.effectAllowed = "move";
  event.dataTransfer.setData("text/plain", dragged.dataset.item);
});
document.addEventListener("dragover", (event) => {
  const place = dragged && dropPlace(event);
  if (!place) return;
  event.preventDefault();
  clearDrop();
  const { list, others, at } = place;
  if (at < others.length) others[at].classList.add("drop-before");
  else (others.at(-1) ?? list).classList.add(others.length ? "drop-after" : "drop-end");
});
document.addEventListener("drop", (event) => {
  const place = dragged && dropPlace(event);
  if (!place) return;
  event.preventDefault();
  const item = dragged.dataset.item;
  edit("place", { item, group: place.list.dataset.group, at: place.at });
});
document.addEventListener("dragend", () => {
  dragged?.classList.remove("dragged");
  clearDrop();
  dragged = null;
});
