// The finder: every action of this screen, every screen and every class, found by typing. J opens it anywhere.
import { actions, typing } from "./keys.js";

let dialog = null,
  places = null,
  shown = [],
  at = 0;

const make = (tag, fields, ...inside) => {
  const made = Object.assign(document.createElement(tag), fields);
  made.append(...inside);
  return made;
};
function build() {
  const field = make("input", {
    type: "text",
    id: "finder-words",
    placeholder: "an action, a screen or a class",
    autocomplete: "off",
  });
  for (const [name, value] of [
    ["aria-label", "Find an action, a screen or a class"],
    ["role", "combobox"],
    ["aria-expanded", "true"],
    ["aria-controls", "finder-found"],
  ])
    field.setAttribute(name, value);
  const list = make("ul", { id: "finder-found" });
  list.setAttribute("role", "listbox");
  list.setAttribute("aria-label", "Found");
  dialog = make("dialog", { id: "finder" }, field, list);
  dialog.setAttribute("aria-label", "Finder");
  document.body.append(dialog);
  field.addEventListener("input", () => {
    at = 0;
    show();
  });
  field.addEventListener("keydown", move);
  list.addEventListener("click", (event) => {
    const row = event.target.closest("li[data-nth]");
    if (row) go(shown[Number(row.dataset.nth)]);
  });
}
function move(event) {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (by && shown.length) {
    at = (at + by + shown.length) % shown.length;
    show();
  } else if (event.key === "Enter") {
    if (shown[at]) go(shown[at]);
  } else return;
  event.preventDefault();
}
function go(one) {
  dialog.close();
  if (one.address) location.href = one.address;
  else one.run();
}
const sentence = (words) => words[0].toUpperCase() + words.slice(1);
function everything() {
  const here = actions().map((one) => ({ ...one, words: sentence(one.does), kind: "here" }));
  const { screens = [], classes = [] } = places ?? {};
  return [
    ...here,
    ...screens.map(([words, address]) => ({ words, address, kind: "screen" })),
    ...classes.map(([words, address, about]) => ({ words, address, about, kind: "class" })),
  ];
}
// Every word typed begins a word; what begins with the first comes first.
function found(typed) {
  const asked = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const hit = everything().filter(({ words, kind }) => {
    const its = `${words} ${kind}`.toLowerCase().split(/[^\p{L}\p{N}]+/u);
    return asked.every((one) => its.some((word) => word.startsWith(one)));
  });
  const first = (one) => (asked.length && one.words.toLowerCase().startsWith(asked[0]) ? 0 : 1);
  return hit.sort((a, b) => first(a) - first(b));
}
function show() {
  const list = document.getElementById("finder-found");
  shown = found(document.getElementById("finder-words").value);
  at = Math.min(at, Math.max(0, shown.length - 1));
  list.replaceChildren(
    ...shown.map((one, n) => {
      const row = make(
        "li",
        { id: `finder-${n}` },
        make("span", { className: "words", textContent: one.words }),
        make("span", { className: "lead-in", textContent: one.about ?? (one.kind === "here" ? "" : one.kind) }),
      );
      row.setAttribute("role", "option");
      row.setAttribute("aria-selected", String(n === at));
      row.dataset.nth = n;
      if (one.pressed) row.append(make("kbd", { textContent: one.pressed }));
      return row;
    }),
  );
  if (!shown.length) {
    const none = make("li", {
      className: "lead-in",
      textContent: places
        ? "Nothing here is called that."
        : "The server does not answer: only the actions of this screen are found.",
    });
    none.setAttribute("role", "option");
    none.setAttribute("aria-disabled", "true");
    list.replaceChildren(none);
  }
  document.getElementById("finder-words").setAttribute("aria-activedescendant", `finder-${at}`);
  list.querySelector("[aria-selected=true]")?.scrollIntoView({ block: "nearest" });
}
export async function openFinder() {
  if (!dialog) build();
  document.getElementById("finder-words").value = "";
  at = 0;
  dialog.showModal();
  show();
  const answer = await fetch(`/finder/?here=${encodeURIComponent(location.pathname)}`).catch(() => null);
  if (answer?.ok) places = await answer.json();
  if (dialog.open) show();
}
document.addEventListener("click", (event) => {
  if (event.target.closest("[data-find]")) openFinder();
});
document.addEventListener("keydown", (event) => {
  if (event.key.toLowerCase() !== "j" || event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented)
    return;
  if (typing(event.target) || document.querySelector("dialog[open]")) return;
  event.preventDefault();
  openFinder();
});
