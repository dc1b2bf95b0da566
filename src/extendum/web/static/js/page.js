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
