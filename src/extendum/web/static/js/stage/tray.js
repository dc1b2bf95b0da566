// The tray: what was skipped, and what fits here by posture and props; it comes before the next pass.
import { clock, el, show } from "../drawing.js";
import { stepOf } from "../playing.js";
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
  made.append(picture, `${name} `, Object.assign(document.createElement("small"), { textContent: `${why}${clock(seconds)}` }));
  return made;
}
// The moves of which no work was done although the run is past them.
function skipped(run) {
  const on = new Map();
  for (const span of run.log) if (!span.paused) on.set(span.step, (on.get(span.step) ?? 0) + span.end - span.start);
  const passed = run.steps.slice(0, run.at).filter((step) => step.works);
  return [...new Set(passed.map((step) => step.item))].filter((item) => passed.every((step) => step.item !== item || !on.get(step.id)));
}
export function openTray() {
  const box = el("tray");
  if (box.open) return box.close();
  const { run, score } = live;
  const posture = score.postures[stepOf(run).item];
  const fits = score.tray.filter((one) => one.posture === posture && !run.steps.some((step) => step.item === one.item));
  const lasting = (item) => Math.round(score.steps.filter((step) => step.item === item).reduce((sum, step) => sum + step.ms, 0) / 1000);
  el("tray-found").replaceChildren(
    ...skipped(run).map((item) => button({ item, name: score.names[item], seconds: lasting(item) }, "skipped, ")),
    ...fits.map((one) => button(one, "")),
  );
  show("tray-none", el("tray-found").children.length ? "" : "Nothing else of this posture and these props keeps to the brief.");
  box.showModal();
}
el("tray").addEventListener("click", (event) => {
  const { item } = event.target.closest("button[data-item]")?.dataset ?? {};
  if (!item) return;
  el("tray").close();
  act("bring", { step: item });
  tell(`${live.score.names[item]} comes before the next pass.`);
});
