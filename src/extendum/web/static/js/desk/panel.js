// The panel: every part of a pass can be dragged, or typed where it stands.
import { endTelling, follow, tell } from "./dragging.js";
import { edit } from "./turns.js";

const UNITS = {
  least: "least",
  most: "most",
  wanted: "wanted",
  way_s: "way",
  switch_s: "change",
  turn_s: "turn",
  settle_s: "settle",
  demonstrate_s: "shown",
  rest_s: "rest",
};
const step = (field, value, fine) => {
  if (field.endsWith("_ms")) return Math.round(value * 2) / 2;
  const by = fine || !["least", "most", "wanted"].includes(field) ? 1 : 5;
  return Math.round(value / by) * by;
};
document.addEventListener("pointerdown", (event) => {
  const handle = event.target.closest?.(".handle");
  if (!handle || event.button) return;
  event.preventDefault();
  const { field, per, value, least, most } = handle.dataset,
    strip = handle.closest("svg");
  const [, x, y] = /translate\(([-\d.]+) ([-\d.]+)\)/.exec(handle.getAttribute("transform")).map(Number);
  const scale = strip.viewBox.baseVal.width / strip.getBoundingClientRect().width;
  const item = strip.closest("[data-panel-of]").dataset.panelOf,
    from = event.clientX;
  const coarse = Number(per) >= 0.6 ? 1 : 0; // what is counted goes by one
  let now = Number(value);
  strip.classList.add("dragging");
  const values = () => ({ edit: "set", item, field, stage: strip.dataset.stage, value: now });
  follow(
    (at) => {
      const dx = (at.clientX - from) * scale;
      const free = Number(value) + dx * Number(per);
      now = Math.max(
        Number(least),
        Math.min(Number(most), step(field, free, at.shiftKey || coarse || Number(most) < 20)),
      );
      handle.setAttribute("transform", `translate(${x + (now - Number(value)) / Number(per)} ${y})`);
      const typed = strip.querySelector(`[data-typed="${field}"]`);
      if (typed) typed.value = now;
      tell(values(), `${UNITS[field] ?? field.replace("_ms", "")} ${value} → ${now}`, at);
    },
    (done) => {
      strip.classList.remove("dragging");
      endTelling();
      if (done && now !== Number(value)) {
        const { edit: kind, ...rest } = values();
        edit(kind, rest);
        return;
      }
      handle.setAttribute("transform", `translate(${x} ${y})`);
      const typed = strip.querySelector(`[data-typed="${field}"]`);
      if (typed) typed.value = typed.defaultValue;
    },
  );
});
// In what is typed, arrows up and down go by the usual step, with Shift by one.
document.addEventListener("keydown", (event) => {
  const field = event.target.closest?.("[data-typed]");
  const by = { ArrowUp: 1, ArrowDown: -1 }[event.key];
  if (!field || !by) {
    if (field && event.key === "Escape") field.value = field.defaultValue;
    return;
  }
  event.preventDefault();
  const fine = event.shiftKey || !["least", "most", "wanted"].includes(field.dataset.typed) ? 1 : 5;
  const tenths = field.dataset.typed.endsWith("_ms") ? 0.5 : fine;
  field.value = Math.max(0, Number(field.value) + by * tenths);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  field.dispatchEvent(new Event("change", { bubbles: true }));
});
