// A move's own page: its figures move as it is done, until they are held still.
import { live } from "./figure.js";

const still = matchMedia("(prefers-reduced-motion: reduce)");
const CYCLE = { out: 2600, stay: 900, back: 2600, rest: 700 },
  BREATH = 8000;
const button = document.getElementById("figure-still");
let held = still.matches;
const figures = (
  await Promise.all([...document.querySelectorAll(".move-figures .live")].map((one) => live(one)))
).filter(Boolean);

const eased = (share) => 0.5 - 0.5 * Math.cos(Math.PI * share);
// Where a movement is: out, a while there, back and a rest; round and round for a circle; from side to side.
function placeOf(data, ms) {
  if (data.turns) return (ms % 4200) / 4200;
  const { out, stay, back, rest } = CYCLE;
  const at = ms % (out + stay + back + rest);
  if (at < out) return eased(at / out);
  if (at < out + stay) return 1;
  return at < out + stay + back ? 1 - eased((at - out - stay) / back) : 0;
}
let since = performance.now();
function frame(now) {
  if (held) return;
  const ms = now - since;
  for (const one of figures)
    one.show(one.moves ? placeOf(one.data, ms) : one.still, 0.5 - 0.5 * Math.cos((2 * Math.PI * ms) / BREATH));
  requestAnimationFrame(frame);
}
function set(on) {
  held = on;
  button.textContent = held ? "Show it moving" : "Hold it still";
  if (held) for (const one of figures) one.show(one.still, 0);
  else {
    since = performance.now();
    requestAnimationFrame(frame);
  }
}
if (figures.length) {
  button.hidden = false;
  button.addEventListener("click", () => set(!held));
  set(held);
}
