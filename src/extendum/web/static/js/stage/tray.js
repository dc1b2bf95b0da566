// The tray: what was skipped, and what fits here by posture and props; it comes before the next pass.
import { clock, el, show } from "../drawing.js";
import { stepOf, visitOf } from "../playing.js";
import { act, live } from "./live.js";
import { tell } from "./page.js";

function button({ item, name, seconds }, why) {
  const made = document.createElement("button");
  made.type = "button";
  made.className = "button";
  made.dataset.item = item;
  const picture = document.createElement("span");
  const drawn = el(`figure-${item}-left`) ?? el(`figure-${item}-both`);
  if (drawn) picture.append(drawn.content.cloneNode(true));
  made.append(
    picture,
    `${name} `,
    Object.assign(document.createElement("small"), { textContent: `${why}${clock(seconds)}` }),
  );
  return made;
}
const worked = (run) => new Set(run.log.filter(({ paused }) => !paused).map(({ step }) => step));
// The parts of an item as planned, by pass, and whether any work of each was done.
function partsOf(run, item) {
  const on = worked(run),
    parts = new Map();
  for (const step of live.score.steps.filter((one) => one.item === item && one.works))
    parts.set(step.group, parts.get(step.group) || on.has(step.id));
  return [...parts.values()];
}
// The moves that the run is past, and how many of their parts were left out: "3 of 4 parts".
function skipped(run) {
  const coming = new Set(run.steps.slice(run.at).map(visitOf));
  const items = [
    ...new Set(live.score.steps.filter((step) => step.works && !coming.has(visitOf(step))).map(({ item }) => item)),
  ];
  return items
    .map((item) => [item, partsOf(run, item)])
    .filter(([, parts]) => !parts.every(Boolean))
    .map(([item, parts]) => [
      item,
      parts.some(Boolean) ? `${parts.filter((done) => !done).length} of ${parts.length} parts skipped, ` : "skipped, ",
    ]);
}
export function openTray() {
  const box = el("tray");
  if (box.open) return box.close();
  const { run, score } = live;
  const posture = score.postures[stepOf(run).item];
  const fits = score.tray.filter((one) => one.posture === posture && !run.steps.some((step) => step.item === one.item));
  const lasting = (item) =>
    Math.round(score.steps.filter((step) => step.item === item).reduce((sum, step) => sum + step.ms, 0) / 1000);
  el("tray-found").replaceChildren(
    ...skipped(run).map(([item, why]) => button({ item, name: score.names[item], seconds: lasting(item) }, why)),
    ...fits.map((one) => button(one, "")),
  );
  show(
    "tray-none",
    el("tray-found").children.length ? "" : "Nothing else of this posture and these props keeps to the brief.",
  );
  box.showModal();
}
el("tray").addEventListener("click", (event) => {
  const { item } = event.target.closest("button[data-item]")?.dataset ?? {};
  if (!item) return;
  el("tray").close();
  act("bring", { step: item });
  tell(`${live.score.names[item]} comes before the next pass.`);
});
