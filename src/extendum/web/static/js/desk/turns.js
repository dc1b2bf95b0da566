// What is done on the Desk is done in its order: one post at a time, each on the class as the one before has left it and for
// what is chosen when its turn has come. A choice shows at once, and its panel follows; nothing waits for a panel.
import { comesBack, leaves, valueIn } from "../keep.js";

const desk = () => document.getElementById("desk");
const page = document.querySelector(".desk-page");
export const here = () => desk().dataset;

let last = Promise.resolve();
export function inTurn(what) {
  // htmx has told of an answer that did not come; anything else is a mistake of ours.
  last = last.then(what).catch((error) => {
    if (error) reportError(error);
  });
  return last;
}

// ---- posts ---------------------------------------------------------------------------------
// ``fields``: what was typed, and is on its way with this post unless it was typed on meanwhile.
function post(path, values, fields = new Map()) {
  stopLooking();
  leaves([...fields].filter(([field, value]) => valueIn(field) === value).map(([field]) => field));
  const posted = { item: here().item, ...values, stamp: here().stamp };
  const failed = (event) => {
    if (event.detail.elt === desk()) comesBack([...fields.keys()]);
  };
  for (const kind of FAILURES) document.body.addEventListener(kind, failed);
  return htmx.ajax("POST", path, { source: "#desk", values: posted }).finally(() => {
    for (const kind of FAILURES) document.body.removeEventListener(kind, failed);
  });
}
const FAILURES = ["htmx:responseError", "htmx:sendError"];
export const send = (path, values, fields) => inTurn(() => post(path, values, fields));
export const edit = (kind, values = {}) => send(here().edit, { edit: kind, ...values });
// The same for what is chosen by then; nothing where nothing is.
export const editChosen = (kind, values = {}) =>
  inTurn(() => (here().item ? post(here().edit, { edit: kind, ...values }) : null));
export const step = (which, values = {}) => send(here().step, { which, ...values });

// A form posts what it held when it was sent, though its turn comes later and other fields may stand there by then.
document.body.addEventListener("htmx:confirm", (event) => {
  const { elt, verb, path } = event.detail;
  if (verb !== "post" || elt === desk() || (elt.matches("form") && !elt.checkValidity())) return;
  event.preventDefault();
  const values = elt.hasAttribute("hx-vals") ? JSON.parse(elt.getAttribute("hx-vals")) : {};
  for (const [name, value] of htmx.values(elt, "post").entries())
    values[name] = name in values ? [values[name], value].flat() : value;
  const item = elt.closest("[data-panel-of]")?.dataset.panelOf;
  const fields = elt.matches("form") ? [...elt.elements] : [elt];
  send(
    path,
    { ...(item === undefined ? {} : { item }), ...values },
    new Map(fields.map((field) => [field, valueIn(field)])),
  );
});

// ---- choosing ------------------------------------------------------------------------------
const stopLooking = () => htmx.trigger(page, "htmx:abort");
function look() {
  stopLooking();
  return htmx.ajax("GET", address(), { source: page, target: "#desk", swap: "morph:outerHTML" });
}
export const address = () => (here().item ? `${here().here}?item=${encodeURIComponent(here().item)}` : here().here);
export function intoView() {
  document.querySelector("[data-chosen]")?.scrollIntoView({ block: "nearest" });
  document.querySelector(".seg.chosen")?.scrollIntoView({ block: "nearest" });
}
function chooseNow(item) {
  here().item = item;
  for (const row of document.querySelectorAll(".row")) row.toggleAttribute("data-chosen", row.dataset.item === item);
  for (const one of document.querySelectorAll("[data-choose]")) {
    if (one.dataset.choose === item) one.setAttribute("aria-current", "true");
    else one.removeAttribute("aria-current");
  }
  history.replaceState(null, "", address());
  intoView();
  look().then(intoView, () => {});
}
export const choose = (item) => inTurn(() => chooseNow(item));
// The next row up or down from what is chosen by then.
export const chooseNeighbour = (by) =>
  inTurn(() => {
    const all = [...document.querySelectorAll(".row")];
    const at = all.findIndex((row) => row.hasAttribute("data-chosen"));
    const to = at < 0 ? (by > 0 ? 0 : all.length - 1) : at + by;
    if (all[to]) chooseNow(all[to].dataset.item);
  });
// The class as it is now; later turns wait for it.
export const reload = () => inTurn(look);

// Whoever types into a panel keeps it: an answer about something else waits until its fields are left.
const stamped = /data-stamp="(\d+)"/,
  chosen = /data-item="([^"]*)"/;
document.body.addEventListener("htmx:beforeSwap", (event) => {
  const { detail } = event;
  if (detail.target.id !== "desk" || !detail.shouldSwap) return;
  // An answer that was overtaken by a later one shows a class that is no more.
  if (Number(stamped.exec(detail.serverResponse)?.[1]) < Number(here().stamp)) {
    detail.shouldSwap = false;
    return;
  }
  const panel = document.getElementById("panel"),
    shown = panel.dataset.panelOf;
  if (chosen.exec(detail.serverResponse)?.[1] === shown) return;
  if (document.activeElement.closest("#panel") === panel && document.activeElement.matches("input, textarea, select")) {
    detail.shouldSwap = false;
    here().stamp = stamped.exec(detail.serverResponse)[1];
    choose(shown);
  } else leaves([...panel.querySelectorAll("input, textarea, select")]);
});
