// The Desk: what is clicked and pressed. Every time and dose is the server's.
import { deeds } from "../keys.js";
import "../look.js";
import "../remedies.js";
import "../told.js";
import { adder, closeFound, look, openNewer, take } from "./adding.js";
import { again, expectTyping, notice } from "./notices.js";
import { listen } from "./listening.js";
import "./panel.js";
import "./peg.js";
import "./room.js";
import { copy, cut, extend, hasPicks, paste, pick, together, unpick } from "./rows.js";
import "./sheet.js";
import "./tabs.js";
import { choose, chooseNeighbour, edit, editChosen, here, reload, step } from "./turns.js";

// ---- clicks --------------------------------------------------------------------------------
function values(data, names) {
  const found = {};
  for (const name of names) if (data[name] !== undefined) found[name] = data[name];
  return found;
}
const POSTED = [
  "item",
  "by",
  "section",
  "target",
  "stage",
  "group",
  "gives",
  "of",
  "part",
  "value",
  "told",
  "order",
  "move",
  "finding",
  "condition",
  "where",
];
// What is pressed in a panel is for what that panel shows.
function panelOf(button) {
  const of = button.closest("[data-panel-of]");
  return of ? { item: of.dataset.panelOf } : {};
}
document.addEventListener("click", (event) => {
  const on = (selector) => event.target.closest(selector);
  let it;
  if ((it = on("#found [data-move], #found [data-set]"))) return take(it);
  if ((it = on("[data-look]"))) return look(it.dataset.look);
  if ((it = on("[data-newer-of]"))) return openNewer(it.dataset.newerOf);
  if ((it = on("[data-choose]"))) {
    const row = it.closest(".row");
    if (event.ctrlKey || event.metaKey || event.shiftKey) {
      if (!row) return undefined;
      event.preventDefault();
      return pick(row.dataset.item, event.shiftKey ? "range" : "one");
    }
    event.preventDefault();
    if (hasPicks()) unpick();
    return choose(it.dataset.choose);
  }
  if (on("#order button[data-edit]")) document.getElementById("order").close();
  if (on("#stand-ins button[data-edit]")) document.getElementById("stand-ins").close();
  if ((it = on("[data-replace]"))) return openStandIns(it.dataset.replace);
  if ((it = on("button[data-edit]"))) return edit(it.dataset.edit, { ...panelOf(it), ...values(it.dataset, POSTED) });
  if ((it = on("button[data-which]"))) {
    document.getElementById("steps").close();
    return step(it.dataset.which, values(it.dataset, ["revision"]));
  }
  if (on("[data-close]")) return notice.replaceChildren();
  if (on("[data-reload]")) return reload().then(() => notice.replaceChildren());
  if ((it = on("[data-again]"))) return again(it);
  if (on("[data-listen]")) return listen();
  if (on("#open-steps")) return openDialog("steps");
  if (on("#open-table")) return openDialog("table");
  if ((it = on("[data-pins]"))) return pinned(it.dataset.section, it.dataset.pins, it.dataset.where);
  if ((it = on("[data-order-of]"))) return openOrder(it.dataset.orderOf);
  if ((it = on(".seg"))) return choose(it.dataset.item);
  if (!on(".adder")) closeFound();
  return undefined;
});

function openDialog(id) {
  htmx
    .ajax("GET", here()[id], { target: `#${id}`, swap: "innerHTML" })
    .then(() => document.getElementById(id).showModal());
}

// Orders for a section; pins are edits of their own, and the proposals are made again after each.
function openOrder(section) {
  const dialog = document.getElementById("order");
  const address = `${here().order}?section=${encodeURIComponent(section)}`;
  htmx.ajax("GET", address, { target: "#order", swap: "innerHTML" }).then(() => dialog.open || dialog.showModal());
}
// What could be done instead of the chosen move, with what each costs.
function openStandIns(item) {
  const dialog = document.getElementById("stand-ins");
  const address = `${here().standIns}?item=${encodeURIComponent(item)}`;
  htmx
    .ajax("GET", address, { target: "#stand-ins", swap: "innerHTML" })
    .then(() => dialog.open || !dialog.childElementCount || dialog.showModal());
}
const pinned = (section, item, where) => edit("pin", { section, pinned: item, where }).then(() => openOrder(section));
document.addEventListener("change", ({ target }) => {
  if (target.matches?.("select.pin")) pinned(target.dataset.section, target.dataset.pinned, target.value);
});
const listHere = () =>
  document.querySelector(".row[data-chosen]")?.closest("ol") ??
  document.querySelector("ol[data-group] .row")?.closest("ol");

// ---- keys: help.toml says which ------------------------------------------------------------
const shift = (by) => (hasPicks() ? together("shift-rows", { by }) : editChosen("shift", { by }));
const dose = (steps) => (hasPicks() ? together("dose-rows", { steps }) : editChosen("nudge", { steps }));
deeds({
  next: () => chooseNeighbour(1),
  previous: () => chooseNeighbour(-1),
  down: () => shift(1),
  up: () => shift(-1),
  "extend-down": () => extend(1),
  "extend-up": () => extend(-1),
  longer: () => dose(1),
  shorter: () => dose(-1),
  "second-longer": () => editChosen("nudge", { by: 1 }),
  "second-shorter": () => editChosen("nudge", { by: -1 }),
  remove: () => (hasPicks() ? together("remove-rows").then(unpick) : editChosen("remove")),
  cut,
  copy,
  paste,
  lock: () => editChosen("lock"),
  "may-go": () => editChosen("mark", { keep: "may be left out", toggle: 1 }),
  "leave-out": () => editChosen("mark", { keep: "left out", toggle: 1 }),
  talk: () => {
    expectTyping();
    edit("talk");
  },
  "add-section": () => {
    expectTyping();
    edit("section");
  },
  listen,
  peg: () => document.getElementById("peg").focus(),
  order: () => {
    const list = listHere();
    if (list) openOrder(list.dataset.section);
  },
  replace: () => here().item && openStandIns(here().item),
  sides: () => {
    const list = listHere();
    if (list) choose(list.dataset.group);
  },
  add: () => {
    adder().focus();
    adder().select();
  }, // what an earlier search left is typed over
  fit: () => {
    const target = document.getElementById("target");
    target.focus();
    target.select();
  },
  undo: () => step("undo"),
  redo: () => step("redo"),
  "to-checks": () => document.getElementById("to-checks")?.click(),
  leave: () => (hasPicks() ? unpick() : choose("")),
});
document.addEventListener("keydown", (event) => {
  if (event.key === "Escape" && event.target.matches("input, textarea, select") && event.target !== adder())
    event.target.blur();
});
