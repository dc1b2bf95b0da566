// Adding a move: what is found for what is typed, and what could come next.
import { edit, here } from "./turns.js";

const FOUND = "#found [data-move], #found [data-set], #found [data-write]";
export const adder = () => document.getElementById("add");
// What was found is for what is typed; Enter pressed sooner waits for it.
let waiting = false;
// Enter pressed twice adds one move: the second waits for nothing that has not been seen.
let taken = false;
const fresh = () => document.querySelector("#found [data-for]")?.dataset.for === adder().value.trim();
export function closeFound() {
  waiting = false;
  document.getElementById("found").replaceChildren();
  adder().setAttribute("aria-expanded", "false");
}
export function take(found) {
  const { dataset } = found;
  if (dataset.write !== undefined) {
    location.href = found.href;
    return null;
  }
  adder().value = "";
  closeFound();
  taken = true;
  const added = dataset.set ? edit("add-set", { set: dataset.set }) : edit("add", { move: dataset.move });
  // Whoever goes on adding sees at once what could come after it.
  return added.then(() => {
    if (document.activeElement === adder()) adder().dispatchEvent(new Event("focus"));
  });
}
// Looks for an area as if it had been typed.
export function look(words) {
  adder().value = words;
  adder().focus();
}
export function openNewer(item) {
  const dialog = document.getElementById("newer");
  const address = `${here().newer}?item=${encodeURIComponent(item)}`;
  htmx.ajax("GET", address, { target: "#newer", swap: "innerHTML" }).then(() => dialog.open || dialog.showModal());
}
document.addEventListener(
  "submit",
  (event) => {
    if (event.target.id === "newer-form") document.getElementById("newer").close();
  },
  true,
);
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
document.addEventListener("keydown", (event) => {
  if (event.target === adder() && !document.querySelector("dialog[open]")) searchKeys(event);
});
function searchKeys(event) {
  const found = [...document.querySelectorAll(FOUND)];
  const at = found.findIndex((one) => one.getAttribute("aria-selected") === "true");
  if (event.key === "Escape") {
    closeFound();
    adder().blur();
    event.preventDefault();
    return;
  }
  if (event.key === "Enter" && !fresh()) {
    event.preventDefault();
    waiting = !taken || Boolean(adder().value.trim());
    return;
  }
  if (!found.length) return;
  if (event.key === "Enter") {
    event.preventDefault();
    if (at >= 0) take(found[at]);
    return;
  }
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (!by) return;
  event.preventDefault();
  const to = at < 0 ? (by > 0 ? 0 : found.length - 1) : (at + by + found.length) % found.length;
  found.forEach((one, index) => one.setAttribute("aria-selected", String(index === to)));
  found[to].scrollIntoView({ block: "nearest" });
  adder().setAttribute("aria-activedescendant", found[to].id);
}
