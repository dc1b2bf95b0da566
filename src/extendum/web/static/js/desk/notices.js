// Notices of the Desk, and offers in them: the first has the focus, arrows go to the others, Escape back to where it was typed.
import { closeFound, adder } from "./adding.js";
import { address, here, intoView, reload, send } from "./turns.js";

export const notice = document.getElementById("notice");
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
// What the server says is typed next. What is pressed before its field is there waits for it: words that are typed at once
// after T are no commands.
let held = null;
export function expectTyping() {
  held ??= [];
}
const hold = (event) => {
  if (
    !held ||
    !event.isTrusted ||
    event.ctrlKey ||
    event.metaKey ||
    ["Shift", "Control", "Alt", "Meta"].includes(event.key)
  )
    return;
  event.preventDefault();
  event.stopImmediatePropagation();
  held.push(event);
};
addEventListener("keydown", hold, true);
const keep = ({ target }) => target.dispatchEvent(new Event("change", { bubbles: true })); // no browser tells of what a script wrote
function write(field, key) {
  field.removeEventListener("blur", keep);
  field.addEventListener("blur", keep, { once: true });
  field.setRangeText(key === "Enter" ? "\n" : key, field.selectionStart, field.selectionEnd, "end");
  field.dispatchEvent(new Event("input", { bubbles: true }));
}
function replay() {
  const waiting = held ?? [];
  held = null;
  for (const event of waiting) {
    const field = document.activeElement,
      types = field.matches("input, textarea");
    if (types && (event.key.length === 1 || (event.key === "Enter" && field.matches("textarea"))))
      write(field, event.key);
    else if (types && event.key === "Enter") field.blur();
    else field.dispatchEvent(new KeyboardEvent("keydown", event));
  }
}
document.body.addEventListener("focusing", ({ detail: { id } }) => {
  const field = document.getElementById(id);
  field?.focus();
  field?.select?.();
  field?.scrollIntoView({ block: "nearest" });
  replay();
});
for (const failed of ["htmx:responseError", "htmx:sendError"])
  document.body.addEventListener(failed, () => {
    held = null;
  });

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
  if (by) {
    offers()[
      (offers().indexOf(/** @type {HTMLButtonElement} */ (event.target)) + by + offers().length) % offers().length
    ].focus();
    return;
  }
  notice.replaceChildren();
  document.getElementById(asked)?.focus();
});

// What was refused because the class had changed meanwhile, asked again on the class as it is now.
export async function again(button) {
  const typed = {};
  for (const { name, value } of button.attributes) if (name.startsWith("data-typed-")) typed[name.slice(11)] = value;
  await reload();
  notice.replaceChildren();
  return send(typed.which ? here().step : here().edit, typed);
}
