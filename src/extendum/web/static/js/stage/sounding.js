// What sounds on the Stage, and the settings of sound and words: what lies between the last frame and this one has sounded.
import { el, show } from "../drawing.js";
import { textOf } from "../seen.js";
import { sounded } from "../sounded.js";
import * as sounds from "../sounds.js";
import { drawAgain } from "./drawn.js";
import { apart, live, records } from "./live.js";
import { tell } from "./page.js";
import * as voice from "./voice.js";

// A recording has no tones and no other voice.
export function sound() {
  const { run, score } = live;
  sounded(score, run, {
    step: () => voice.prepare(score, run.steps.slice(run.at, run.at + 2)),
    begins: () => records || sounds.tone("start"),
    ends: () => records || sounds.tone("release"),
    cue: (cue, step) => {
      if (records) return;
      if (cue.kind === "count") sounds.tone("count");
      else if (cue.kind === "halfway") sounds.tone("halfway");
      if (cue.mode !== "spoken" || apart) return;
      if (voice.speaks()) voice.say(textOf(score, step, cue), cue.kind);
      else sounds.speak(textOf(score, step, cue));
    },
  });
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
