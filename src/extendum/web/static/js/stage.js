// The Stage: draws the position of the class from a monotonic clock, so that a late frame is never a late class.
const el = (id) => document.getElementById(id);
const root = el("stage").dataset;
// By its address from the page: static files carry a hash in their names.
const { following, fresh, phase, position, reduce, segmentAt, withBeats, withStops, wordsAt } = await import(root.playing);

const score = withBeats(withStops(JSON.parse(el("score").textContent)));
const lengthMs = score.length * 1000;
let state = fresh();
let heard = 0; // ticks up to here have sounded

const show = (id, words) => { if (el(id).textContent !== words) el(id).textContent = words; };
const clock = (s) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
const opposite = { left: "right", right: "left" };
const PHASES = {
  transition: "get there", switch: "change sides", turn: "change direction", setup: "set up", settle: "settle",
  hold: "hold", timed: "keep moving", open: "stay", release: "let go", talk: "talk", quiet: "quiet", demonstration: "show it",
  "check-in": "check in", notice: "notice", recheck: "check again", rest: "rest", props: "props", station: "next place",
};

// ---- events ------------------------------------------------------------------------------------
function act(event) {
  state = reduce(state, event, performance.now(), score);
  heard = position(state, performance.now(), lengthMs);
  el("before").hidden = event !== "end" && state.anchor !== null;
  show("pause", state.running ? "Pause " : "Go on ");
  el("pause").insertAdjacentHTML("beforeend", "<kbd>Space</kbd>");
  if (event === "start") { stayAwake(); soundOn(); if (!document.fullscreenElement) document.documentElement.requestFullscreen?.().catch(() => {}); }
  if (state.ended) finish();
  else el("after").hidden = true;
  draw();
}
function toggle() {
  if (state.ended || !score.segments.length) return;
  act(state.running ? "pause" : state.anchor === null ? "start" : "resume");
}
function finish() {
  el("after").hidden = false;
  show("after-facts", `${clock(score.length)} from the first word to the last.`);
  awake?.release();
  document.exitFullscreen?.().catch(() => {});
  fetch(root.taught, { method: "POST", headers: { "X-CSRFToken": root.csrf }, keepalive: true }).catch(() => {});
}
function leave() {
  if (state.anchor === null || state.ended) { location.href = root.desk; return; }
  if (state.running) act("pause");
  el("ask").showModal();
}

// ---- the screen stays awake ----------------------------------------------------------------------
let awake = null;
async function stayAwake() {
  try { awake = await navigator.wakeLock?.request("screen"); } catch { awake = null; }
}
document.addEventListener("visibilitychange", () => { if (document.visibilityState === "visible" && state.running) stayAwake(); });

// ---- ticks -----------------------------------------------------------------------------------------
let audio = null;
let ticking = localStorage.getItem("extendum-ticks") !== "off";
function soundOn() {
  if (ticking && !audio && window.AudioContext) audio = new AudioContext();
  audio?.resume?.();
}
function tick(pitch, seconds) {
  if (!audio || !ticking) return;
  const at = audio.currentTime, tone = audio.createOscillator(), gain = audio.createGain();
  tone.frequency.value = pitch;
  gain.gain.setValueAtTime(0.25, at);
  gain.gain.exponentialRampToValueAtTime(0.001, at + seconds);
  tone.connect(gain).connect(audio.destination);
  tone.start(at);
  tone.stop(at + seconds);
}
const sounds = [
  ...score.cues.filter((cue) => cue.kind === "count").map((cue) => [cue.start * 1000, 660, 0.09]),
  ...score.segments.filter((s) => s.stage !== null).flatMap((s) => [[s.start * 1000, 520, 0.25], [s.end * 1000, 880, 0.5]]),
].sort((a, b) => a[0] - b[0]);
function sound(ms) {
  if (ms - heard < 500) for (const [at, pitch, seconds] of sounds) if (at > heard && at <= ms) tick(pitch, seconds);
  heard = ms;
}
function toggleSound() {
  ticking = !ticking;
  localStorage.setItem("extendum-ticks", ticking ? "on" : "off");
  showSound();
  if (ticking) { soundOn(); tick(660, 0.09); }
}
function showSound() {
  el("sound").setAttribute("aria-pressed", String(ticking));
  el("sound").firstChild.textContent = ticking ? "Ticks on " : "Ticks off ";
}

// ---- drawing -----------------------------------------------------------------------------------------
const ARROW = '<svg viewBox="0 0 110 90" aria-hidden="true"><path d="M45 5 5 45l40 40V58h60V32H45z"/></svg>';
const BOTH = '<svg viewBox="0 0 150 90" aria-hidden="true"><path d="M42 8 5 45l37 37V57h66v25l37-37-37-37v25H42z"/></svg>';
let drawnSide = null;
function drawSide(side, item) {
  if (`${side} ${item}` === drawnSide) return;
  drawnSide = `${side} ${item}`;
  const own = score.mirrored.includes(item) ? opposite[side] : side;
  if (side === "left") el("side").innerHTML = `${ARROW}<span>left</span><small>you:<br>${own}</small>`;
  else if (side === "right") el("side").innerHTML = `<span>right</span>${ARROW}<small>you:<br>${own}</small>`;
  else el("side").innerHTML = side === "both" ? `<span class="both">${BOTH}both</span>` : "";
  el("side").querySelector("svg")?.setAttribute("transform", side === "right" ? "scale(-1 1)" : "");
}

// The band is drawn out towards the spoken side while the hold lasts, and lets go at its end.
function drawStretch(now) {
  const { segment, share, works, beat } = now;
  const middle = 600, reach = 560;
  let out = 0;
  if (segment.kind === "hold") out = share;
  else if (segment.kind === "release") out = Math.max(0, 1 - share * 3);
  else if (segment.kind === "pulses") out = now.opening ? 1 : 0.35;
  else if (segment.kind === "timed" || segment.kind === "open") out = 0.5 + 0.5 * share;
  else if (beat) {
    const ms = position(state, performance.now(), lengthMs);
    const part = Math.min(1, (ms - beat.start * 1000) / ((beat.end - beat.start) * 1000));
    const word = beat.text.split(" ")[0];
    out = { out: segment.kind === "breaths" ? 1 - part : part, in: part, back: 1 - part, stay: 1, full: 1, rest: 0, empty: 0 }[word];
  }
  const both = segment.side !== "left" && segment.side !== "right";
  const from = both ? middle : segment.side === "left" ? middle + reach : middle - reach;
  const toward = segment.side === "left" ? -1 : 1;
  const full = both ? reach : 2 * reach - 20;
  const tip = from + toward * out * full;
  const thick = 34 - 22 * out; // a band grows thinner as it is drawn out
  const one = (end) => `M${from} ${60 - 40}L${end} ${60 - thick}V${60 + thick}L${from} ${60 + 40}Z`;
  el("pull").setAttribute("d", out > 0.002 ? one(tip) + (both ? one(from - out * full) : "") : "");
  el("post").setAttribute("x", from - 5);
  el("bead").setAttribute("cx", tip);
  const tall = el("stretch").getBoundingClientRect();
  el("bead").setAttribute("r", 24);
  el("bead").setAttribute("transform", `translate(${tip} 0) scale(${tall.height ? ((tall.height / 120) * 1200) / tall.width : 1} 1) translate(${-tip} 0)`);
  const ticks = segment.kind === "hold" ? [0.5, ...[3, 2, 1].map((s) => 1 - s / (segment.end - segment.start))].filter((t) => t > 0.02) : works ? [1] : [];
  el("marks").setAttribute("d", ticks.map((t) => `M${from + toward * t * full} 4v${t === 0.5 ? 26 : 16}`).join(""));
  return out;
}

// ---- figures: the one of now moves as the timeline does, still where less motion is asked for ----------
const still = matchMedia("(prefers-reduced-motion: reduce)");
function showFigure(id, item, side) {
  const box = el(id), wanted = `${item}-${side ?? "both"}`;
  if (box.dataset.shown === wanted) return;
  box.dataset.shown = wanted;
  const drawn = el(`figure-${wanted}`) ?? el(`figure-${item}-left`) ?? el(`figure-${item}-both`);
  box.replaceChildren(...(drawn ? [drawn.content.cloneNode(true)] : []));
}
let frameOn = null;
function moveFigure(now, out) {
  const frames = el("figure").querySelectorAll(".frame");
  if (!frames.length) return;
  let share = 0;
  if (!still.matches && now.works) {
    if (now.beat) share = out;
    else if (now.segment.kind === "timed") share = 0.5 - 0.5 * Math.cos((position(state, performance.now(), lengthMs) / 1500) * Math.PI);
  }
  const at = Math.round(Math.min(1, Math.max(0, share)) * (frames.length - 1));
  if (frameOn === frames[at]) return;
  frameOn?.classList.remove("on");
  frames[0].classList.toggle("on", at === 0);
  frames[at].classList.add("on");
  frameOn = frames[at];
}

function fitWords() {
  const box = el("words");
  box.style.fontSize = "";
  let size = parseFloat(getComputedStyle(box).fontSize);
  const most = size * 1.16 * 2 + 4;
  while (box.scrollHeight > Math.max(most, box.clientHeight) && size > 18) { size -= 2; box.style.fontSize = `${size}px`; }
}
function fitName() {
  const box = el("name");
  box.style.fontSize = "";
  let size = parseFloat(getComputedStyle(box).fontSize);
  const most = window.innerHeight * 0.29;
  while ((box.scrollHeight > most || box.scrollWidth > box.clientWidth) && size > 24) { size -= 3; box.style.fontSize = `${size}px`; }
}

let drawnSegment = null;
function draw() {
  if (!score.segments.length) return;
  const ms = position(state, performance.now(), lengthMs);
  if (state.running && ms >= lengthMs) return act("end");
  const index = segmentAt(score, ms);
  const now = phase(score, index, ms);
  const { segment, left, works, beat } = now;
  if (drawnSegment !== segment.id) {
    drawnSegment = segment.id;
    show("name", score.names[segment.item]);
    fitName();
    const side = opposite[segment.side] ? `, ${segment.side}` : "";
    if (works) show("live", `${score.names[segment.item]}${side}, ${segment.end - segment.start} seconds`);
    drawNext(index);
  }
  drawSide(now.side, segment.item);
  if (now.total) {
    show("count", String(now.nth));
    show("phase", `${now.word}, ${now.nth} of ${now.total}`);
  } else {
    show("count", String(left));
    show("phase", PHASES[segment.kind]);
  }
  el("count").classList.toggle("quiet", !works);
  const words = wordsAt(score, index, ms);
  if (el("words").textContent !== words.text) { show("words", words.text); fitWords(); }
  el("words").classList.toggle("said", words.said);
  showFigure("figure", segment.item, now.side);
  moveFigure(now, drawStretch(now));
  const seconds = Math.max(0, Math.ceil((lengthMs - ms) / 1000));
  show("left", `${clock(seconds)} left`);
  if (!state.running && state.anchor !== null) show("phase", "paused");
  el("here").setAttribute("d", `M${((ms / lengthMs) * el("ribbon").dataset.width).toFixed(1)} 0v26`);
  for (const bar of el("ribbon").querySelectorAll("[data-end]")) bar.classList.toggle("past", bar.dataset.end * 1000 <= ms);
}
function drawNext(index) {
  const now = score.segments[index];
  const next = following(score, index);
  if (!next) { show("next", "the end"); show("fetch", ""); el("next-figure").replaceChildren(); return; }
  showFigure("next-figure", next.item, next.side);
  const side = opposite[next.side] ? `, ${next.side}` : "";
  show("next", next.same ? `same${side}` : `${score.names[next.item]}${side}`);
  const has = new Set(score.props[now.item] ?? []);
  const fetching = next.same ? [] : (score.props[next.item] ?? []).filter((prop) => !has.has(prop));
  show("fetch", fetching.length ? `fetch: ${fetching.join(", ")}` : "");
}

// ---- input -------------------------------------------------------------------------------------------
const buttons = { pause: toggle, start: toggle, back: () => act("back"), skip: () => act("skip"), sound: toggleSound, leave, stay: stay };
for (const [id, what] of Object.entries(buttons)) el(id)?.addEventListener("click", (event) => { event.currentTarget.blur(); what(); });
el("full").addEventListener("click", full);
function full() { if (document.fullscreenElement) document.exitFullscreen(); else document.documentElement.requestFullscreen?.().catch(() => {}); }
function stay() { el("ask").close(); act("resume"); }
let leaving = false;
el("really").addEventListener("click", () => { leaving = true; });
const keys = { " ": toggle, b: buttons.back, n: buttons.skip, arrowleft: buttons.back, arrowright: buttons.skip, m: toggleSound, w: full, escape: leave };
document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
  if (el("ask").open) {
    if (event.key === " " && !event.target.closest("a")) { event.preventDefault(); stay(); }
    return;
  }
  const what = keys[event.key.toLowerCase()];
  if (!what || (event.key === " " && event.target.closest("a, button"))) return;
  event.preventDefault();
  if (state.anchor === null && (what === buttons.back || what === buttons.skip)) return;
  what();
});
window.addEventListener("beforeunload", (event) => {
  if (state.anchor !== null && !state.ended && !leaving) event.preventDefault();
});
window.addEventListener("resize", () => { fitName(); fitWords(); });

showSound();
draw();
if (el("start")) { el("start").disabled = false; el("start").focus(); }
document.fonts?.ready.then(() => { fitName(); fitWords(); });
(function frame() {
  if (state.running) {
    const ms = position(state, performance.now(), lengthMs);
    sound(ms);
    draw();
  }
  requestAnimationFrame(frame);
})();
