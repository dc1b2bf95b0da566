// What every screen has: ? opens its help; Escape leaves a field, then the screen; a server that is away is told.
import "./finder.js";
import { typing } from "./keys.js";

const help = document.getElementById("help");

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-help]")) help.showModal();
  event.target.closest("[data-close-dialog]")?.closest("dialog").close();
});
document.addEventListener("keydown", (event) => {
  if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
  const open = document.querySelector("dialog[open]");
  if (event.key === "?" && help && (!open || open === help) && !typing(event.target)) {
    event.preventDefault();
    if (open) help.close();
    else help.showModal();
  } else if (event.key === "Escape" && !open) {
    if (typing(event.target)) event.target.blur();
    else document.querySelector("[data-back]")?.click();
  }
});
// A form that is on its way is not sent a second time: pressed twice is meant once.
const sent = new Set();
addEventListener("submit", (event) => {
  if (event.defaultPrevented || event.target.method !== "post") return; // what only asks may ask again
  if (sent.has(event.target)) event.preventDefault();
  else sent.add(event.target);
});
addEventListener("pageshow", () => sent.clear());
document.body.addEventListener("htmx:sendError", () => {
  const box = document.createElement("div");
  box.className = "notice";
  box.textContent =
    "The server does not answer. Nothing was lost: what you typed and chose is still here. Start it again, and repeat the change.";
  document.getElementById("notice")?.replaceChildren(box);
});
// A refusal names its field, by the end of its path: it is marked until it is typed in or something is saved, and told with
// the notice. A form that was sent has the focus there; who had only gone on to another field stays in that.
const FIELD = "input:not([type=hidden]), textarea, select";
const unmark = (field) => {
  field.removeAttribute("aria-invalid");
  if (field.getAttribute("aria-describedby") === "notice-text") field.removeAttribute("aria-describedby");
};
function refusedIn({ elt }, path) {
  const form = elt.closest("form") ?? elt.closest("#panel, article") ?? document;
  const names = path.split(/[.[\]]+/).filter(Boolean);
  const fields = [...form.querySelectorAll(FIELD)].filter(({ name }) => name);
  const row = `${names.at(-1).replace(/s$/, "")}_`; // "targets" are rows of target_1_region and so on
  const named = fields.filter(({ name }) => names.includes(name)).at(-1);
  return named ?? fields.find(({ name }) => name.startsWith(row)) ?? (elt.matches(FIELD) ? elt : null);
}
document.body.addEventListener("htmx:afterSwap", ({ detail }) => {
  if (detail.requestConfig.verb !== "post") return;
  document.querySelectorAll("[aria-invalid=true]").forEach(unmark);
  const path = document.getElementById("notice-text")?.dataset.field;
  const field = detail.xhr.status === 422 && path ? refusedIn(detail.requestConfig, path) : null;
  if (!field) return;
  field.setAttribute("aria-invalid", "true");
  field.setAttribute("aria-describedby", "notice-text");
  const sentWhole = detail.requestConfig.triggeringEvent?.type === "submit";
  if (!sentWhole && document.activeElement?.matches(FIELD)) return;
  for (let over = field.closest("details"); over; over = over.parentElement.closest("details")) over.open = true;
  field.focus();
});
document.addEventListener("input", ({ target }) => target.matches("[aria-invalid=true]") && unmark(target));
