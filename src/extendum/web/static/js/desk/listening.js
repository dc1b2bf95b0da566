// Listening from the chosen item: the next seconds come while the last ones are heard, so that it begins at once.
import { here } from "./turns.js";

const FIRST_MS = 3000,
  NEXT_MS = 9000,
  AHEAD_S = 5;
let playing = null;
const clock = (s) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
const shows = (words) => {
  document.getElementById("listening").hidden = !words;
  document.getElementById("listening-at").textContent = words;
};

async function part(query) {
  const answer = await fetch(`${here().hear}?${new URLSearchParams(query)}`);
  if (!answer.ok) throw new Error(answer.statusText);
  const facts = JSON.parse(answer.headers.get("X-Heard"));
  return { facts, sound: await playing.audio.decodeAudioData(await answer.arrayBuffer()) };
}
export function stop() {
  if (!playing) return;
  clearInterval(playing.watch);
  playing.audio.close();
  playing = null;
  shows("");
  mark("");
}
const mark = (item) => {
  for (const one of document.querySelectorAll("#desk .seg"))
    one.classList.toggle("heard", Boolean(item) && one.dataset.item === item);
};
function schedule(mine, { facts, sound }) {
  const source = mine.audio.createBufferSource();
  source.buffer = sound;
  source.connect(mine.audio.destination);
  mine.from ??= facts.from;
  mine.began ??= mine.audio.currentTime + 0.03;
  const at = mine.began + (facts.from - mine.from) / 1000;
  source.start(Math.max(at, mine.audio.currentTime), Math.max(0, mine.audio.currentTime - at));
  mine.items.push(...facts.items);
  mine.to = facts.to;
  mine.whole = facts.whole;
}
function tick(mine) {
  const ms = mine.from + Math.max(0, mine.audio.currentTime - mine.began) * 1000;
  if (ms >= mine.whole) return stop();
  const now = mine.items.findLast(([starts]) => starts <= ms);
  shows(`${clock(Math.floor(ms / 1000))} ${now?.[2] ?? ""}`);
  if (now && mine.item !== now[1]) {
    mine.item = now[1];
    mark(now[1]);
  }
  if (mine.busy || mine.to >= mine.whole || mine.to - ms > 1000 * AHEAD_S) return undefined;
  mine.busy = true;
  return part({ from: mine.to, for: NEXT_MS })
    .then((found) => {
      mine.busy = false;
      if (playing === mine) schedule(mine, found);
    })
    .catch(() => playing === mine && lost());
}
function lost() {
  stop();
  shows("The server does not answer.");
}
export async function listen() {
  if (playing) return stop();
  const mine = { audio: new AudioContext(), items: [], busy: true, item: "" };
  playing = mine;
  shows("…");
  try {
    const found = await part({ item: here().item, for: FIRST_MS });
    if (playing !== mine) return undefined;
    schedule(mine, found);
    mine.busy = false;
    mine.watch = setInterval(() => tick(mine), 100);
  } catch {
    if (playing === mine) lost();
  }
  return undefined;
}
// What is heard is the class as it was: an edit ends it.
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target.id === "desk" && event.detail.requestConfig.verb === "post") stop();
});
