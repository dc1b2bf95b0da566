// What sounds on the Stage, and the settings of sound and words: what lies between the last frame and this one has sounded.
import { el, show } from "../drawing.js";
import { stepOf } from "../playing.js";
import { cueMs, cuesOf, textOf } from "../seen.js";
import * as sounds from "../sounds.js";
import { drawAgain } from "./drawn.js";
import { apart, live, records } from "./live.js";
import { tell } from "./page.js";
import * as voice from "./voice.js";

let heard = { id: null, into: 0, works: false };
export function sound() {
  const { run, score } = live,
    step = stepOf(run),
    same = heard.id === step.id;
  const from = same ? heard.into : -1;
  const jumped = records || (same && run.into - heard.into > 500);
  if (!records && !same && heard.works && !step.works) sounds.tone("release");
  if (!records && !same && step.works) sounds.tone("start");
  if (!same) voice.prepare(score, run.steps.slice(run.at, run.at + 2));
  heard = { id: step.id, into: run.into, works: step.works };
  if (jumped) return;
  for (const cue of cuesOf(score, step)) {
    const at = cueMs(cue, step);
    if (at <= from || at > run.into) continue;
    if (cue.kind === "count") sounds.tone("count");
    else if (cue.kind === "halfway") sounds.tone("halfway");
    if (cue.mode !== "spoken" || apart) continue;
    if (voice.speaks()) voice.say(textOf(score, step, cue), cue.kind);
    else sounds.speak(textOf(score, step, cue));
  }
}
export function openSound() {
  const box = el("sound");
  if (box.open) return box.close();
  for (const field of box.querySelectorAll("input, select")) {
    if (field.type === "range") field.value = sounds.settings[field.name];
    else if (field.type === "checkbox") field.checked = sounds.settings[field.name];
    else field.value = sounds.settings[field.name];
  }
  const found = sounds.voices();
  box.querySelector("[value=browser]").disabled = !found.length;
  show("voices", found.length ? found[0].name : "The browser has no voice of its own here.");
  box.showModal();
}
el("sound").addEventListener("change", ({ target }) => {
  sounds.set(
    target.name,
    target.type === "range" ? Number(target.value) : target.type === "checkbox" ? target.checked : target.value,
  );
  if (target.name === "speaks") voice.open();
  drawAgain();
});
const WORDS = { all: "key words", "key words": "none", none: "all" };
const SHOWN = { all: "All the words.", "key words": "Key words only, where they are marked.", none: "No words." };
export function showWords() {
  sounds.set("words", WORDS[sounds.settings.words] ?? "all");
  tell(SHOWN[sounds.settings.words]);
  drawAgain();
}
