// The Words screen: strips that follow the typing, placeholders offered, calibration. Speaking times are the server's.
import { deeds } from "./keys.js";

const view = () => document.getElementById("words-view");
const notice = document.getElementById("notice");

document.body.addEventListener("htmx:configRequest", (event) => {
  if (event.detail.verb === "post") event.detail.parameters.stamp = view().dataset.stamp;
});
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target.id === "words-view") notice.replaceChildren();
});

// Requests wait for one another: what is undone is what was there when it was this one's turn.
const step = (which) =>
  htmx.ajax("POST", view().dataset.step, { source: "#words-view", values: { which, view: "words" } });
document.addEventListener("click", (event) => {
  const on = (selector) => event.target.closest(selector);
  const button = on("button[data-which]");
  if (button) step(button.dataset.which);
  else if (on("[data-close]")) notice.replaceChildren();
  else if (on("[data-reload], [data-again]"))
    htmx.ajax("GET", view().dataset.here, { source: "#words-view" }).then(() => notice.replaceChildren());
  else if (on("#calibrate")) openCalibration();
});

deeds({ undo: () => step("undo"), redo: () => step("redo") });

// ---- the strip beside a text, as it is typed -------------------------------------------------
let waiting = null;
document.addEventListener("input", (event) => {
  const box = event.target.closest("textarea[data-room]");
  if (!box || box.name.startsWith("prompt")) return;
  clearTimeout(waiting);
  waiting = setTimeout(() => follow(box), 150);
});
function follow(box) {
  const strip = document.getElementById(box.id.replace("text-", "strip-"));
  const values = { text: box.value, room: box.dataset.room, sided: box.dataset.sided, field: box.name };
  htmx.ajax("POST", view().dataset.speech, {
    source: box.closest("article"),
    target: strip,
    swap: "innerHTML",
    values,
  });
}

// ---- placeholders, offered after a brace ------------------------------------------------------
const offered = document.getElementById("offered");
const names = [...document.querySelectorAll("#placeholder-names option")].map((one) => [one.value, one.textContent]);
const ofTheClass = new Set(["next", "minutes", "moves", "moves_left", "rounds", "needs"]);
function typedBrace(box) {
  const before = box.value.slice(0, box.selectionStart);
  return /\{([a-z_]*)$/.exec(before);
}
function offer(box) {
  const brace = typedBrace(box);
  const fitting = brace
    ? names.filter(([name]) => name.startsWith(brace[1]) && (!box.dataset.class || ofTheClass.has(name)))
    : [];
  offered.hidden = !fitting.length;
  offered.replaceChildren(
    ...fitting.map(([name, about], index) => {
      const option = document.createElement("button");
      option.type = "button";
      option.role = "option";
      option.tabIndex = -1;
      option.dataset.name = name;
      option.setAttribute("aria-selected", String(index === 0));
      option.textContent = `{${name}} ${about}`;
      return option;
    }),
  );
  if (offered.hidden) return;
  const place = box.getBoundingClientRect();
  offered.style.left = `${place.left}px`;
  offered.style.top = `${place.bottom + 2}px`;
}
function insert(box, name) {
  const brace = typedBrace(box);
  if (!brace) return;
  box.setRangeText(`${name}}`, box.selectionStart - brace[1].length, box.selectionStart, "end");
  offered.hidden = true;
  box.dispatchEvent(new Event("input", { bubbles: true }));
}
let writing = null;
document.addEventListener("input", (event) => {
  if (event.target.matches("#words-view textarea")) {
    writing = event.target;
    offer(writing);
  }
});
document.addEventListener(
  "keydown",
  (event) => {
    if (offered.hidden || !writing) return;
    const all = [...offered.children];
    const at = all.findIndex((one) => one.getAttribute("aria-selected") === "true");
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by)
      all.forEach((one, index) =>
        one.setAttribute("aria-selected", String(index === (at + by + all.length) % all.length)),
      );
    else if (event.key === "Enter" || event.key === "Tab") insert(writing, all[at].dataset.name);
    else if (event.key === "Escape") offered.hidden = true;
    else return;
    event.preventDefault();
    event.stopPropagation();
  },
  true,
);
offered.addEventListener("pointerdown", (event) => {
  event.preventDefault();
  const option = event.target.closest("[data-name]");
  if (option && writing) insert(writing, option.dataset.name);
});
document.addEventListener("focusout", () => {
  offered.hidden = true;
});

// ---- calibration --------------------------------------------------------------------------------
const dialog = document.getElementById("calibration");
const [begin, done] = [document.getElementById("begin"), document.getElementById("done")];
let began = 0;
function openCalibration() {
  begin.hidden = false;
  done.hidden = true;
  dialog.showModal();
}
begin.addEventListener("click", () => {
  began = performance.now();
  begin.hidden = true;
  done.hidden = false;
  done.focus();
});
done.addEventListener("click", () => {
  const milliseconds = Math.round(performance.now() - began);
  dialog.close();
  htmx.ajax("POST", dialog.dataset.url, { source: "#words-view", values: { milliseconds } });
});
