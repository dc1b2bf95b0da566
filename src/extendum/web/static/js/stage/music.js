// The teacher's own music under the class: it pauses with the class, is softer under tones and words, has faded away when the
// closing quiet begins, and needs no server.
import { el, show } from "../drawing.js";
import { leftMs } from "../playing.js";
import { wordsNow } from "../seen.js";
import * as sounds from "../sounds.js";
import { live, plannedMs, returned } from "./live.js";
import { root, tell } from "./page.js";
import { list, playlist } from "./playlist.js";

const FADE_MS = 8000; // into the closing quiet
const SOFTER = 0.25; // of its volume, under tones and words
const AT = `extendum-music-at-${root.class}`;

const player = new Audio();
let gain = null,
  n = 0,
  over = false,
  blocked = false,
  softUntil = 0,
  target = 0,
  stopping = null,
  samples = false;
export const state = () => ({ playing: !player.paused, n, at: player.currentTime, target, over });

// From the beginning of the closing quiet to the end, in milliseconds; nothing where there is none, or it is not done.
function quietMs({ closes }, steps) {
  const first = closes ? steps.findIndex((step) => step.id === closes) : -1;
  return first < 0 ? 0 : steps.slice(first).reduce((sum, step) => sum + step.ms, 0);
}
// How much of the music is to be heard by where the class is: all of it, less and less, and nothing in the closing quiet.
export const shareOf = (score, run) => Math.max(0, Math.min(1, (leftMs(run) - quietMs(score, run.steps)) / FADE_MS));

function connected() {
  const audio = sounds.on();
  if (!audio || gain) return;
  gain = audio.createGain();
  gain.gain.value = 0;
  audio.createMediaElementSource(player).connect(gain).connect(audio.destination);
}
function to(value, seconds) {
  if (!gain || Math.abs(value - target) < 0.001) return;
  target = value;
  gain.gain.setTargetAtTime(value, gain.context.currentTime, seconds / 3);
}
function load() {
  const { address } = list.files[n];
  if (player.src !== address) player.src = address;
}
function play() {
  load();
  connected();
  player.play().catch((error) => {
    if (error.name !== "NotAllowedError") return;
    // A browser plays nothing before its page was touched.
    blocked = true;
    tell("Press any key, and the music plays on.", 20_000);
    for (const kind of ["keydown", "pointerdown"])
      addEventListener(
        kind,
        () => {
          blocked = false;
          connected();
        },
        { once: true, capture: true },
      );
  });
}
function next() {
  n += 1;
  if (n >= list.files.length) {
    n = 0;
    if (!list.again) {
      over = true;
      tell("The music has ended.");
      return;
    }
  }
  if (!stopping) play();
}
player.addEventListener("ended", next);
player.addEventListener("error", () => {
  if (!list.files[n] || player.src !== list.files[n].address) return;
  tell(`${list.files[n].file.name} cannot be played on: the next one plays.`);
  list.files.splice(n, 1);
  n -= 1;
  if (list.files.length) next();
  else over = true;
});
// Where it was, for a reload: told four times a second, and by the page as it goes.
function remember() {
  if (!samples) sessionStorage.setItem(AT, JSON.stringify({ run: live.record.run, n, at: player.currentTime, over }));
}
player.addEventListener("timeupdate", remember);
addEventListener("pagehide", () => {
  if (player.src) remember();
});
function backWhereItWas() {
  const was = JSON.parse(sessionStorage.getItem(AT) ?? "null");
  if (!was || was.run !== live.record.run || !list.files[was.n]) return;
  ({ n, over } = was);
  load();
  player.currentTime = was.at;
}

sounds.listen((seconds) => {
  softUntil = performance.now() + seconds * 1000;
});
function stop(seconds) {
  to(0, seconds);
  stopping ??= setTimeout(() => {
    player.pause();
    stopping = null;
  }, seconds * 1000);
}
// Called with every frame, and where frames do not come, with what the music itself tells.
export function follow() {
  if (samples || !list.files.length) return;
  const { run, score, watching } = live;
  const share = run.started && run.running && !run.ended && !watching && !over ? shareOf(score, run) : 0;
  if (!share) {
    if (!player.paused) stop(run.ended ? 2 : 0.4);
    return;
  }
  if (stopping) {
    clearTimeout(stopping);
    stopping = null;
  }
  if (player.paused && !blocked) play();
  const words = sounds.settings.softer ? wordsNow(score, run) : null;
  const soft = performance.now() < softUntil || window.speechSynthesis?.speaking || (words?.text && !words.said);
  to((sounds.settings.music / 100) * share * (soft ? SOFTER : 1), soft ? 0.2 : 0.8);
}
player.addEventListener("timeupdate", follow);

// ---- before the start: listen to it --------------------------------------------------------------------------------------
function listens(on) {
  samples = on && list.files.length > 0;
  show("music-listen", samples ? "Stop" : "Listen");
  [n, over] = [0, false];
  player.pause();
  player.currentTime = 0;
  if (samples) {
    play();
    to(sounds.settings.music / 100, 0.2);
  }
}
//: The class begins: the music begins with it, whatever was listened to before.
export const begins = () => {
  if (list.files.length) listens(false);
};
if (el("music-choose")) {
  const quiet = quietMs(live.score, live.score.steps) / 1000;
  list.changed = () => {
    if (samples) listens(false);
  };
  el("music-listen").addEventListener("click", () => listens(!samples));
  playlist(plannedMs / 1000 - quiet, quiet > 0).then(() => {
    if (returned) backWhereItWas();
  });
}
