// The Checks screen: mending and keeping findings, the body picture, keys. What is found is the server's.
import { deeds } from "./keys.js";
import "./remedies.js";
import "./told.js";

const view = () => document.getElementById("checks-view");
const notice = document.getElementById("notice");
const shown = () => ({ view: "checks", effect: view().dataset.effect, area: view().dataset.area });

document.body.addEventListener("htmx:configRequest", (event) => {
  if (event.detail.verb !== "post") return;
  const { parameters } = event.detail;
  parameters.stamp = view().dataset.stamp;
  for (const [name, value] of Object.entries(shown())) parameters[name] ??= value;
});
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target.id === "checks-view") notice.replaceChildren();
});

let last = Promise.resolve();
const send = (path, values) =>
  (last = last.then(() => htmx.ajax("POST", path, { source: "#checks-view", values })).catch(() => {}));
const step = (which) => send(view().dataset.step, { which });
const fetch_ = (address) => last.then(() => htmx.ajax("GET", address, { source: "#checks-view" }));

document.addEventListener("click", (event) => {
  const on = (selector) => event.target.closest(selector);
  let it;
  if ((it = on("button[data-which]"))) return step(it.dataset.which);
  if ((it = on("button[data-do]"))) {
    const { do: edit, finding, move } = it.dataset;
    return send(view().dataset.edit, { edit, ...(finding ? { finding } : {}), ...(move ? { move } : {}) });
  }
  if ((it = on(".keeping summary"))) {
    event.preventDefault();
    return askWhy(it.closest("details"));
  }
  if (on("[data-close]")) return notice.replaceChildren();
  if (on("[data-reload], [data-again]")) return fetch_(view().dataset.here).then(() => notice.replaceChildren());
  if ((it = on("a[data-fragment], .body-picture a"))) {
    if (event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    const address = view().dataset.here + it.getAttribute("href");
    history.replaceState(null, "", address);
    fetch_(address);
  }
});
// The reason is typed at once: the field has the focus before the next key.
function askWhy(keeping) {
  keeping.open = true;
  keeping.querySelector("input").focus();
}

const findings = () => [...document.querySelectorAll("article.finding[tabindex]")];
const here = () => document.activeElement.closest("article.finding");
function walk(by) {
  const all = findings();
  const to = all[Math.max(0, Math.min(all.length - 1, all.indexOf(here()) + by))];
  to?.focus();
}
deeds({
  undo: () => step("undo"),
  redo: () => step("redo"),
  next: () => walk(1),
  previous: () => walk(-1),
  mend: () => here()?.querySelector(".mend")?.click(),
  keep: () => {
    const keeping = here()?.querySelector(".keeping");
    if (keeping) askWhy(keeping);
  },
});
document.addEventListener("keydown", (event) => {
  if (event.key !== "Escape" || !event.target.matches("details input")) return;
  event.preventDefault();
  event.target.closest("details").open = false;
});
