// The teacher's own readings, spoken by the Stage: they pause with the class, end where it goes somewhere else, and are all here
// before it begins, so that no server is needed.
import { el } from "../drawing.js";
import { cuesOf, textOf } from "../seen.js";
import * as sounds from "../sounds.js";

const { name = "", readings = {} } = JSON.parse(el("own-voice")?.textContent ?? "{}");
export const voice = { name, addresses: Object.values(readings) };
const MOST_DECODED = 40,
  LATE_MS = 600; // what comes later than this is not said any more
const files = new Map(), // what is known of a text, and its sound as it came
  decoded = new Map();
let audio = null,
  playing = null;

// What a text is known by, as the server has it (spoken_key).
export const spokenKey = (words) =>
  words
    .replaceAll("*", "")
    .replace(/[’‘]/g, "'")
    .replace(/[“”]/g, '"')
    .replace(/\s+/g, " ")
    .trim()
    .toLowerCase()
    .replace(/[.!…]+$/, "")
    .trimEnd();
export const speaks = () => name && ["mine", "counts"].includes(sounds.settings.speaks);

// Everything comes once, when it is first asked for; without a server it is what this browser has kept.
let coming = null;
export function fetched() {
  coming ??= Promise.all(
    Object.entries(readings).map(async ([key, address]) => {
      try {
        const answer = await fetch(address);
        if (answer.ok) files.set(key, await answer.arrayBuffer());
      } catch {
        // what is not here is not said
      }
    }),
  );
  return coming;
}
function ready(key) {
  if (!decoded.has(key) && files.has(key)) {
    decoded.set(key, audio.decodeAudioData(files.get(key).slice(0)));
    while (decoded.size > MOST_DECODED) decoded.delete(decoded.keys().next().value);
  }
  return decoded.get(key);
}
// What is said in this step and in the next one is made ready ahead.
export function prepare(score, steps) {
  if (!speaks() || !audio) return;
  for (const step of steps)
    for (const cue of cuesOf(score, step)) if (cue.mode === "spoken") ready(spokenKey(textOf(score, step, cue)));
}
export function open() {
  if (!speaks()) return;
  audio ??= new AudioContext();
  audio.resume();
  fetched();
}
// Whether it is said by the readings: what is not read is not, and is not said by another voice either.
export async function say(words, kind) {
  if (!audio || (sounds.settings.speaks === "counts" && kind !== "count")) return;
  const asked = performance.now();
  await coming;
  const sound = await ready(spokenKey(words));
  if (!sound || performance.now() - asked > LATE_MS) return;
  const source = audio.createBufferSource(),
    gain = audio.createGain();
  source.buffer = sound;
  gain.gain.value = Math.min(1.6, sounds.settings.volume / 50);
  source.connect(gain).connect(audio.destination);
  hush();
  source.start();
  playing = source;
}
// What it sounds like: the first text that is here.
export const sample = () => say(files.keys().next().value ?? "", "count");
export function hush() {
  playing?.stop();
  playing = null;
}
// With the class: its pause is a pause within a word.
export function follow(running) {
  if (!audio) return;
  if (running && audio.state === "suspended") audio.resume();
  else if (!running && audio.state === "running") audio.suspend();
}
