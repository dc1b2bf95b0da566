// What an edit would do, told while something is dragged: asked of the server, one request at a time, the latest wins.
import { clear, draw } from "./preview.js";
import { here } from "./turns.js";

let wanted = null,
  asking = false;
const token = () => JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
function box() {
  const made = document.getElementById("drag-told") ?? Object.assign(document.createElement("p"), { id: "drag-told" });
  if (!made.isConnected) document.body.append(made);
  return made;
}
// ``at``: where the pointer is; ``words``: what is known without asking.
export function tell(values, words, at) {
  const told = box();
  told.textContent = words;
  told.style.left = `${Math.min(at.clientX + 14, innerWidth - 240)}px`;
  told.style.top = `${Math.min(at.clientY + 18, innerHeight - 60)}px`;
  wanted = { values, words };
  ask();
}
async function ask() {
  if (asking || !wanted) return;
  asking = true;
  const { values, words } = wanted;
  try {
    const answer = await fetch(here().whatIf, {
      method: "POST",
      headers: { "X-CSRFToken": token() },
      body: new URLSearchParams(values),
    });
    const found = await answer.json();
    if (wanted) {
      box().textContent = found.message ?? `${words}; class ${found.clock}, ${found.off}`;
      clear();
      if (found.stretches) draw(found);
    }
  } catch {
    if (wanted) box().textContent = `${words}; the server does not answer`;
  }
  asking = false;
  if (wanted && wanted.values !== values) ask();
}
export function endTelling() {
  wanted = null;
  document.getElementById("drag-told")?.remove();
  clear();
}
// Follows a pointer until it is let go (``done`` with the event), or Escape (without).
export function follow(move, done) {
  const stop = (event) => {
    for (const [kind, what] of kinds) document.removeEventListener(kind, what, true);
    done(event?.type === "pointerup" ? event : null);
  };
  const onEscape = (event) => {
    if (event.key === "Escape") {
      event.preventDefault();
      event.stopPropagation();
      stop(null);
    }
  };
  const kinds = [
    ["pointermove", move],
    ["pointerup", stop],
    ["pointercancel", () => stop(null)],
    ["keydown", onEscape],
  ];
  for (const [kind, what] of kinds) document.addEventListener(kind, what, true);
}
