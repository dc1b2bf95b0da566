// The tour: a note beside what it is about, one step after the other. What is to be done is done on the Desk itself.
import { bind, deeds } from "./keys.js";

const el = (id) => document.getElementById(id);
const tour = el("tour"),
  ring = el("tour-ring");
const steps = [...tour.querySelectorAll("section")];
const KEY = `extendum-tour-${location.pathname}`;
const rows = () => document.querySelectorAll(".row").length;
const had = rows();
const DONE = {
  fitted: () => el("length").textContent.trim() === "10:00",
  added: () => rows() > had,
  undone: () => !el("redo").disabled,
};
const done = (step) => DONE[step.dataset.until]?.() ?? false;
let at = Number(sessionStorage.getItem(KEY) ?? 0);

function place() {
  if (tour.hidden) return;
  const target = document.querySelector(steps[at].dataset.at)?.getBoundingClientRect();
  ring.hidden = !target;
  if (!target) return;
  Object.assign(ring.style, {
    left: `${target.left - 5}px`,
    top: `${target.top - 5}px`,
    width: `${target.width + 10}px`,
    height: `${target.height + 10}px`,
  });
  const { width, height } = tour.getBoundingClientRect(),
    gap = 14;
  const left = Math.max(gap, Math.min(innerWidth - width - gap, target.left));
  const top = Math.max(gap, Math.min(innerHeight - height - gap, target.top));
  // Below, above, right, left of it: the first that has room; of what opens upwards, only to the right.
  const right = [target.right + gap, top];
  const places = steps[at].dataset.side
    ? [right]
    : [[left, target.bottom + gap], [left, target.top - gap - height], right, [target.left - gap - width, top]];
  const free = ([x, y]) => x >= 0 && y >= 0 && x + width <= innerWidth && y + height <= innerHeight;
  const [x, y] = places.find(free) ?? [innerWidth - width - gap, innerHeight - height - gap];
  Object.assign(tour.style, { left: `${x}px`, top: `${y}px` });
}
function show(to) {
  at = Math.max(0, Math.min(steps.length - 1, to));
  sessionStorage.setItem(KEY, String(at));
  tour.hidden = false;
  steps.forEach((step, n) => {
    step.hidden = n !== at;
  });
  el("tour-count").textContent = `${at + 1} of ${steps.length}`;
  el("tour-back").disabled = at === 0;
  el("tour-next").firstChild.textContent = at === steps.length - 1 ? "End the tour " : "Next ";
  el("tour-said").textContent = steps[at].textContent;
  place();
}
function leave() {
  tour.hidden = ring.hidden = true;
  sessionStorage.removeItem(KEY);
  fetch(tour.dataset.end, {
    method: "POST",
    headers: { "X-CSRFToken": tour.dataset.csrf },
    body: new URLSearchParams({ end: "1" }),
  }).catch(() => {});
}
const next = () => (at === steps.length - 1 ? leave() : show(at + 1));
el("tour-next").addEventListener("click", next);
el("tour-back").addEventListener("click", () => show(at - 1));
el("tour-leave").addEventListener("click", leave);
deeds({
  "tour-on": () => !tour.hidden && next(),
  "tour-before": () => !tour.hidden && show(at - 1),
});
bind(".", "tour-on");
bind(",", "tour-before");
document.body.addEventListener("htmx:afterSettle", () => {
  if (!tour.hidden && done(steps[at])) show(at + 1);
  else place();
});
addEventListener("resize", place);
show(at);
