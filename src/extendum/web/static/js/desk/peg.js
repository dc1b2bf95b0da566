// The peg: the length that is wanted, dragged or moved by keys; while it is away what would change shows over the sheet.
import { endPreview, preview, previewAgain } from "./preview.js";
import { edit } from "./turns.js";

const clock = (s) => {
  const [h, m, r] = [Math.floor(s / 3600), Math.floor(s / 60) % 60, String(s % 60).padStart(2, "0")];
  return h ? `${h}:${String(m).padStart(2, "0")}:${r}` : `${m}:${r}`;
};

let pegged = null; // seconds while the peg is away from its target
function showPeg(seconds) {
  const { ruler, left, wide } = document.getElementById("band").dataset;
  const peg = document.getElementById("peg");
  pegged = Math.max(1, Math.min(Number(ruler), Math.round(seconds)));
  peg.setAttribute("transform", `translate(${Number(left) + (pegged / Number(ruler)) * Number(wide)} 0)`);
  peg.setAttribute("aria-valuenow", pegged);
  peg.setAttribute("aria-valuetext", clock(pegged));
  document.getElementById("target").value = clock(pegged);
  preview(clock(pegged));
}
function leavePeg(apply) {
  if (pegged === null) return;
  const target = clock(pegged);
  if (!apply) showPeg(Number(document.getElementById("band").dataset.target));
  pegged = null;
  endPreview();
  if (apply) edit("fit", { target });
}
document.addEventListener(
  "keydown",
  (event) => {
    if (event.target.closest?.("#peg") && !document.querySelector("dialog[open]")) pegKeys(event);
  },
  true,
);
function pegKeys(event) {
  const now = pegged ?? Number(document.getElementById("band").dataset.target);
  const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 60, PageDown: -60 }[event.key];
  if (event.altKey || event.ctrlKey || event.metaKey) return;
  if (by) showPeg(now + by * (event.shiftKey && Math.abs(by) === 1 ? 5 : 1));
  else if (event.key === "Enter" || event.key === " ") leavePeg(true);
  else if (event.key === "Escape" && pegged !== null) leavePeg(false);
  else return;
  event.preventDefault();
}
document.addEventListener("pointerdown", (event) => {
  const peg = event.target.closest?.("#peg");
  if (!peg) return;
  event.preventDefault();
  peg.focus();
  const band = document.getElementById("band");
  const scale = band.viewBox.baseVal.width / band.getBoundingClientRect().width;
  const { ruler, wide, target } = band.dataset;
  const from = event.clientX;
  const move = (at) => showPeg(Number(target) + ((at.clientX - from) * scale * Number(ruler)) / Number(wide));
  const stop = (at) => {
    document.removeEventListener("pointermove", move);
    document.removeEventListener("pointerup", stop);
    document.removeEventListener("keydown", onEscape, true);
    leavePeg(at.type === "pointerup");
  };
  const onEscape = (at) => {
    if (at.key === "Escape") {
      at.preventDefault();
      at.stopPropagation();
      stop(at);
    }
  };
  document.addEventListener("pointermove", move);
  document.addEventListener("pointerup", stop);
  document.addEventListener("keydown", onEscape, true);
});
document.addEventListener("focusout", (event) => {
  if (event.target.id === "peg") leavePeg(false);
  if (event.target.id === "target" && pegged === null) endPreview();
});
// An answer that draws the Desk anew while the peg is away, or a length is typed, takes neither back.
document.body.addEventListener("htmx:afterSwap", ({ detail }) => {
  if (detail.target.id !== "desk") return;
  if (pegged === null) previewAgain();
  else showPeg(pegged);
});
// A length that is typed is shown as it would be, too.
document.addEventListener("input", (event) => {
  if (event.target.id === "target") preview(event.target.value);
});
document.addEventListener(
  "keydown",
  (event) => {
    if (event.target.id !== "target" || event.key !== "Escape") return;
    event.target.value = clock(Number(document.getElementById("band").dataset.target));
    endPreview();
  },
  true,
);
document.addEventListener(
  "submit",
  (event) => {
    if (event.target.id === "fit-form") endPreview();
  },
  true,
);
