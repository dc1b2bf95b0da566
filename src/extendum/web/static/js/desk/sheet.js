// The sheet: walk along it, read why a part lasts so long, see its figure.
import { choose } from "./turns.js";

const why = (words) => { document.getElementById("why").textContent = words; };
// The figure of what is pointed at, on the side that is worked there.
function figureOf(segment) {
  const picture = document.getElementById("sheet-figure");
  const address = segment && document.getElementById(`row-${segment.dataset.item}`)?.dataset.figure;
  picture.hidden = !address;
  if (!address) return;
  const side = segment.classList.contains("s-right") ? "right" : "left";
  picture.src = address.replace("size=small&", "").replace(/side=\w+/, `side=${side}`);
  const at = segment.getBoundingClientRect(), box = document.querySelector(".right").getBoundingClientRect();
  picture.classList.toggle("aside", at.left > box.left + box.width / 2);
}
document.addEventListener("pointerover", (event) => {
  const segment = event.target.closest?.(".seg");
  if (segment) why(segment.dataset.about);
  figureOf(segment);
});
document.addEventListener("focusin", (event) => {
  const segment = event.target.closest?.(".seg");
  if (segment) why(segment.dataset.about);
  figureOf(segment);
});
document.addEventListener("keydown", (event) => {
  if (event.target.closest?.(".seg") && !document.querySelector("dialog[open]")) sheetKeys(event);
}, true);
function sheetKeys(event) {
  const segments = [...document.querySelectorAll('.seg[role="button"]')];
  const at = segments.indexOf(event.target.closest(".seg"));
  const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: segments.length - 1 }[event.key];
  if (event.key === "Enter" || event.key === " ") {
    event.preventDefault();
    choose(segments[at].dataset.item);
    return;
  }
  if (to === undefined) return;
  event.preventDefault();
  if (segments[to]) {
    segments[at].setAttribute("tabindex", "-1");
    segments[to].setAttribute("tabindex", "0");
    segments[to].focus();
    segments[to].scrollIntoView({ block: "nearest" });
  }
}
