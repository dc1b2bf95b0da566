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
// What the server says is typed next.
document.body.addEventListener("focusing", ({ detail: { id } }) => {
  const field = document.getElementById(id);
  field?.focus();
  field?.select?.();
  field?.scrollIntoView({ block: "nearest" });
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
  if (by) { offers()[(offers().indexOf(event.target) + by + offers().length) % offers().length].focus(); return; }
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
