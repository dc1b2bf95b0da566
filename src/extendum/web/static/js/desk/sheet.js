// The sheet: walk along it, read why a part lasts so long, see its figure; drag an end to change its dose, drag a move to
// another place, double-click to write its words.
import { endTelling, follow, tell } from "./dragging.js";
import { choose, edit, here } from "./turns.js";

const why = (words) => {
  document.getElementById("why").textContent = words;
};
// The figure of what is pointed at, on the side that is worked there.
function figureOf(segment) {
  const picture = document.getElementById("sheet-figure");
  const address = segment && document.getElementById(`row-${segment.dataset.item}`)?.dataset.figure;
  picture.hidden = !address;
  if (!address) return;
  const side = segment.classList.contains("s-right") ? "right" : "left";
  picture.src = address.replace("size=small&", "").replace(/side=\w+/, `side=${side}`);
  const at = segment.getBoundingClientRect(),
    box = document.querySelector(".right").getBoundingClientRect();
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
document.addEventListener(
  "keydown",
  (event) => {
    if (event.target.closest?.(".seg") && !document.querySelector("dialog[open]")) sheetKeys(event);
  },
  true,
);
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

// ---- dragged -------------------------------------------------------------------------------
const FAR = 6;
const ruled = () => {
  const sheet = document.getElementById("sheet"),
    second = Number(sheet.dataset.ruling.split(" ")[5]);
  return second * (sheet.getBoundingClientRect().width / sheet.viewBox.baseVal.width); // pixels of a second
};
const nameOf = (item) => document.querySelector(`#row-${CSS.escape(item)} .name`)?.textContent ?? "";
function dragEnd(event, edge) {
  const { stage, value, seconds, unit } = edge.dataset,
    item = edge.closest(".seg").dataset.item;
  const from = event.clientX,
    per = ruled() * Number(seconds),
    by = unit === "s" ? 5 : 1;
  let now = Number(value);
  edge.classList.add("on");
  const values = () => ({ edit: "set", item, field: "wanted", stage, value: now });
  follow(
    (at) => {
      const free = Number(value) + (at.clientX - from) / per,
        fine = at.shiftKey ? 1 : by;
      now = Math.max(1, Math.round(free / fine) * fine);
      tell(values(), `${nameOf(item)} ${value} → ${now} ${unit}`, at);
    },
    (done) => {
      edge.classList.remove("on");
      endTelling();
      if (!done || now === Number(value)) return;
      const { edit: kind, ...rest } = values();
      edit(kind, rest);
    },
  );
}
// Where a move would go: before or after the one that is pointed at, as its row lies in its group.
function placeOf(at, item) {
  const over = document.elementFromPoint(at.clientX, at.clientY)?.closest(".seg");
  const row = over && over.dataset.item !== item && document.getElementById(`row-${over.dataset.item}`);
  if (!row) return null;
  const own = [...document.querySelectorAll(`.seg[data-item="${CSS.escape(over.dataset.item)}"]`)];
  const later = own.indexOf(over) >= own.length / 2;
  const others = [...row.closest("ol").querySelectorAll(".row")].filter((one) => one.dataset.item !== item);
  return { row, later, group: row.closest("ol").dataset.group, at: others.indexOf(row) + (later ? 1 : 0) };
}
let dragged = false;
function dragMove(event, item) {
  const start = [event.clientX, event.clientY];
  let place = null;
  const clear = () =>
    document
      .querySelectorAll(".drop-before, .drop-after")
      .forEach((one) => one.classList.remove("drop-before", "drop-after"));
  follow(
    (at) => {
      if (!dragged && Math.hypot(at.clientX - start[0], at.clientY - start[1]) < FAR) return;
      dragged = true;
      place = placeOf(at, item) ?? place;
      clear();
      if (!place) return;
      place.row.classList.add(place.later ? "drop-after" : "drop-before");
      tell(
        { edit: "place", item, group: place.group, at: place.at },
        `${nameOf(item)} ${place.later ? "after" : "before"} ${nameOf(place.row.dataset.item)}`,
        at,
      );
    },
    (done) => {
      clear();
      endTelling();
      if (done && dragged && place) edit("place", { item, group: place.group, at: place.at });
    },
  );
}
document.addEventListener("pointerdown", (event) => {
  dragged = false;
  if (event.button || event.target.closest?.(".handle")) return;
  const edge = event.target.closest?.(".edge"),
    segment = event.target.closest?.("#sheet .seg");
  if (edge) {
    event.preventDefault();
    dragged = true;
    return void dragEnd(event, edge);
  }
  if (segment && event.pointerType === "mouse") dragMove(event, segment.dataset.item);
});
document.addEventListener(
  "click",
  (event) => {
    if (dragged && event.target.closest("#sheet")) {
      event.preventDefault();
      event.stopPropagation();
    }
  },
  true,
);
// Double-click: the words of what is there.
const wordsField = () => document.querySelector("#panel #words-moving, #panel #words-talk");
document.addEventListener("dblclick", (event) => {
  const item = event.target.closest("#sheet .seg")?.dataset.item;
  if (!item || event.target.closest(".edge")) return;
  const write = () => {
    const field = document.getElementById("panel").dataset.panelOf === item && wordsField();
    if (!field) return false;
    field.focus();
    field.setSelectionRange(field.value.length, field.value.length);
    return true;
  };
  if (write()) return;
  const later = () => {
    if (here().item !== item || write()) document.body.removeEventListener("htmx:afterSettle", later);
  };
  document.body.addEventListener("htmx:afterSettle", later);
});
