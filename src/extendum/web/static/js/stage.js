// The Stage: draws where the run is from the clock, so that a late frame is never a late class. What happened is kept
// in this browser at once and told to the server when it can be.
const el = (id) => document.getElementById(id);
const root = el("stage").dataset;
// By their addresses from the page: static files carry a hash in their names.
const [playing, sounds] = await Promise.all([import(root.playing), import(root.sounds)]);
const { advance, after, cueMs, cuesOf, fold, following, leftMs, prepared, seenNow, stepOf, textOf, wordsNow } = playing;

const score = prepared(JSON.parse(el("score").textContent));
const plannedMs = score.length * 1000;
const show = (id, words) => { if (el(id).textContent !== words) el(id).textContent = words; };
const clock = (s) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
const opposite = { left: "right", right: "left" };
const PHASES = {
  transition: "get there", switch: "change sides", turn: "change direction", setup: "set up", settle: "settle",
  hold: "hold", timed: "keep moving", open: "stay until you go on", release: "let go", talk: "talk", quiet: "quiet", demonstration: "show it",
  "check-in": "check in", notice: "notice", recheck: "check again", rest: "rest", props: "props", station: "next place",
};

// ---- the clock: monotonic, set again by the wall clock when the two part (the laptop slept) -------------------
let base = Date.now() - performance.now();
let slept = 0;
function now() {
  const apart = Date.now() - performance.now() - base;
  if (Math.abs(apart) > 2000) {
    base += apart;
    if (run.running && apart > 0) asleep(Math.round(apart));
  }
  return Math.round(base + performance.now());
}
function asleep(ms) {
  slept = ms;
  tell(`The computer slept for ${Math.round(ms / 1000)} s; the class has gone on. Press Z to go back to where it was.`, 20_000);
}

// ---- what happened: kept here at once, told to the server later, each exactly once ------------------------------
const KEY = `extendum-run-${root.class}-${root.stamp}`;
const LONGEST_AWAY = 6 * 3600 * 1000;
const stored = JSON.parse(localStorage.getItem(KEY) ?? "null");
const lastAt = stored?.events.at(-1)?.at ?? 0;
let record = stored && Date.now() - lastAt < LONGEST_AWAY ? stored : newRecord();
let run = fold(score.steps, record.events, score.spare.steps);
function newRecord() { return { run: crypto.randomUUID?.() ?? `${Date.now()}-${Math.random()}`.slice(0, 40), events: [], told: 0 }; }
const keep = () => localStorage.setItem(KEY, JSON.stringify(record));
// One Stage teaches; this one is known by a name that a reload keeps.
const ME = sessionStorage.getItem("extendum-me") ?? newRecord().run;
sessionStorage.setItem("extendum-me", ME);
let telling = false, watching = false;
async function tellServer(take = false) {
  const holds = run.started && !run.ended;
  if (telling || watching || (record.told >= record.events.length && !holds)) return;
  telling = true;
  const { run: name } = record, upTo = Math.min(record.events.length, record.told + 500);
  try {
    const body = JSON.stringify({ run: name, stamp: Number(root.stamp), me: ME, take, events: record.events.slice(record.told, upTo) });
    const answer = await fetch(root.events, { method: "POST", headers: { "X-CSRFToken": root.csrf, "Content-Type": "application/json" }, body, keepalive: body.length < 60_000 });
    if (answer.ok && record.run === name) { record.told = upTo; keep(); }
    else if (answer.status === 423) watch((await answer.json()).run);
  } catch { /* the server is away: later */ }
  telling = false;
  showKept();
}
setInterval(() => (watching ? look() : tellServer()), 4000);

// Watching: what the other Stage tells, folded here; nothing is told from here.
function watch(theirs) {
  watching = true;
  el("watching").hidden = false;
  document.body.classList.add("watches");
  follow(theirs);
}
function follow(theirs) {
  if (!theirs || theirs.stamp !== Number(root.stamp)) return;
  record = { run: theirs.run, events: theirs.events, told: theirs.events.length };
  run = fold(score.steps, record.events, score.spare.steps);
  drawnKey = null;
  draw();
}
async function look() {
  try { follow((await (await fetch(root.events)).json()).run); } catch { /* later */ }
}
async function takeOver() {
  if (!watching) return;
  await look();
  watching = false;
  el("watching").hidden = true;
  document.body.classList.remove("watches");
  record.told = 0;
  keep();
  await tellServer(true);
}
window.addEventListener("online", () => tellServer());
function showKept() {
  const waiting = record.events.length - record.told;
  show("after-kept", waiting ? `${waiting} of ${record.events.length} events are kept here until the server answers.` : "What happened is kept with the class.");
}

// ---- events -----------------------------------------------------------------------------------------------------
function act(kind, more = {}) {
  if (watching) return;
  const at = now();
  const event = { id: `${record.events.length}-${at}`, at, kind, step: "", ms: 0, ...more };
  const before = run;
  run = after(run, event);
  record.events.push(event);
  keep();
  tellServer();
  if (["skip", "back", "repeat", "end", "rewind"].includes(kind)) sounds.hush();
  if (run.ended && !before.ended) finish();
  drawnKey = null;
  draw();
}
function begin() {
  if (run.ended) return;
  if (run.started) { if (!run.running) act("resume"); return; }
  el("before").hidden = true;
  act("start");
  if (record.endBy && Math.abs(lateMs()) >= 2000) catchUp();
  stayAwake();
  sounds.on();
  if (!document.fullscreenElement) document.documentElement.requestFullscreen?.().catch(() => {});
}
// Three seconds from the press to the first word, where the teacher asked for it.
let counting = null;
function countIn() {
  if (!el("count-in").checked || counting !== null) { counting = null; el("counting").hidden = true; return begin(); }
  sounds.on();
  counting = performance.now();
  el("counting").hidden = false;
}
function toggle() {
  if (run.ended || !score.steps.length) return;
  if (!run.started) return countIn();
  act(run.running ? "pause" : "resume");
}
// One press that goes on: they are in; a hold that ends now; an open dose that is over.
function goOn() {
  if (!run.started || run.ended) return;
  const { works, segment } = seenNow(score, advance(run, now()));
  if (!run.running) act("resume");
  act(works ? "end-now" : hasWork() ? "in" : segment.kind === "release" ? "end-now" : "skip");
}
function hasWork() {
  const step = stepOf(run);
  return run.steps.some((one, n) => n > run.at && one.group === step.group && one.works);
}
function finish() {
  el("after").hidden = false;
  const first = run.log[0]?.start ?? run.clock;
  show("after-facts", `${clock(Math.round((run.clock - first) / 1000))} from the first word to the last; ${clock(score.length)} were planned.`);
  showKept();
  awake?.release();
  document.exitFullscreen?.().catch(() => {});
  if (!watching) fetch(root.taught, { method: "POST", headers: { "X-CSRFToken": root.csrf }, keepalive: true }).catch(() => {});
}
function leave() {
  if (watching) { location.href = root.desk; return; }
  if (catching && !catching.off) { catching.off = true; tell("Left as it was."); return; }
  if (!run.started || run.ended) { location.href = root.desk; return; }
  if (run.running) act("pause");
  el("ask").showModal();
}
// ---- the end: as planned from the first word, or by the clock on the wall; and catching up ---------------------------
const firstAt = () => run.log[0]?.start ?? run.clock;
const endsAt = () => record.endBy ?? firstAt() + plannedMs;
const lateMs = () => (run.started && !run.ended ? run.clock + leftMs(run) - endsAt() : 0);
function endBy() {
  const [hours, minutes] = el("end-by").value.split(":").map(Number);
  if (Number.isNaN(hours)) { delete record.endBy; show("end-by-told", ""); return keep(); }
  const end = new Date(now());
  end.setHours(hours, minutes, 0, 0);
  if (end.getTime() < now()) end.setDate(end.getDate() + 1);
  record.endBy = end.getTime();
  keep();
  const over = Math.round((now() + plannedMs - record.endBy) / 1000);
  show("end-by-told", Math.abs(over) < 2 ? "as planned" : `${clock(Math.abs(over))} too ${over > 0 ? "long" : "short"} from now: it is fitted at the start`);
}
el("end-by")?.addEventListener("change", endBy);

let catching = null;
async function catchUp() {
  if (catching) return;
  const body = JSON.stringify({ run: record.run, stamp: Number(root.stamp), events: record.events, at: now(), ends_at: Math.round(endsAt()) });
  const mine = (catching = { off: false });
  try {
    const answer = await fetch(root.catchUp, { method: "POST", headers: { "X-CSRFToken": root.csrf, "Content-Type": "application/json" }, body });
    const told = await answer.json();
    if (!answer.ok) { tell(told.message, 8000); catching = null; return; }
    tell(told.sentence, 4500);
    // Two seconds to read it, and to leave it with Escape.
    setTimeout(() => {
      if (!mine.off) for (const { step, ms } of told.fits) act("fit", { step, ms });
      catching = null;
    }, 2000);
  } catch {
    tell("Catching up needs the server, which does not answer: it is off until it does. The class goes on.", 8000);
    catching = null;
  }
}
let passCaught = null;
function catchUpAlone() {
  const { group } = stepOf(run);
  if (!sounds.settings.auto || passCaught === group || Math.abs(lateMs()) < 15_000) return;
  passCaught = group;
  catchUp();
}
let toldUntil = 0;
function tell(words, ms = 4000) {
  show("told", words);
  el("told").hidden = false;
  toldUntil = performance.now() + ms;
}

// ---- the screen stays awake ----------------------------------------------------------------------
let awake = null;
async function stayAwake() {
  try { awake = await navigator.wakeLock?.request("screen"); } catch { awake = null; }
}
document.addEventListener("visibilitychange", () => { if (document.visibilityState === "visible" && run.running) stayAwake(); });

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

// How much narrower the bead is drawn to be round in a picture that is stretched to the screen's width.
let roundness = 1;
new ResizeObserver(([{ contentRect }]) => {
  roundness = contentRect.height ? ((contentRect.height / 120) * 1200) / contentRect.width : 1;
}).observe(el("stretch"));

// The band is drawn out towards the spoken side while the hold lasts, and lets go at its end.
function drawStretch(seen) {
  const { segment, share, works } = seen;
  const middle = 600, reach = 560;
  let out = 0;
  if (segment.kind === "hold") out = share;
  else if (segment.kind === "release") out = Math.max(0, 1 - share * 3);
  else if (segment.kind === "pulses") out = seen.opening ? 1 : 0.35;
  else if (segment.kind === "timed" || segment.kind === "open") out = 0.5 + 0.5 * share;
  else if (seen.word) out = { out: segment.kind === "breaths" ? 1 - seen.part : seen.part, in: seen.part, back: 1 - seen.part, stay: 1, full: 1, rest: 0, empty: 0 }[seen.word] ?? 0;
  const both = seen.side !== "left" && seen.side !== "right";
  const from = both ? middle : seen.side === "left" ? middle + reach : middle - reach;
  const toward = seen.side === "left" ? -1 : 1;
  const full = both ? reach : 2 * reach - 20;
  const tip = from + toward * out * full;
  const thick = 34 - 22 * out; // a band grows thinner as it is drawn out
  const one = (end) => `M${from} ${60 - 40}L${end} ${60 - thick}V${60 + thick}L${from} ${60 + 40}Z`;
  el("pull").setAttribute("d", out > 0.002 ? one(tip) + (both ? one(from - out * full) : "") : "");
  el("post").setAttribute("x", from - 5);
  el("bead").setAttribute("cx", tip);
  el("bead").setAttribute("transform", `translate(${tip} 0) scale(${roundness} 1) translate(${-tip} 0)`);
  const ticks = segment.kind === "hold" ? [0.5, ...[3, 2, 1].map((s) => 1 - s / (seen.step.ms / 1000))].filter((t) => t > 0.02) : works ? [1] : [];
  el("marks").setAttribute("d", ticks.map((t) => `M${from + toward * t * full} 4v${t === 0.5 ? 26 : 16}`).join(""));
  return out;
}

// A circle that fills and empties with the breath.
function drawBreath(seen) {
  const breathes = seen.counted === "breaths" && seen.works;
  el("pacer").toggleAttribute("hidden", !breathes);
  if (!breathes) return;
  const full = { in: seen.part, full: 1, out: 1 - seen.part, empty: 0 }[seen.word] ?? 0;
  el("pacer-now").setAttribute("r", String(Math.round(16 + 32 * full)));
}

// ---- figures: the one of now moves as the timeline does, still where less motion is asked for ----------
const still = matchMedia("(prefers-reduced-motion: reduce)");
function showFigure(id, item, side) {
  const box = el(id), wanted = `${item}-${side || "both"}`;
  if (box.dataset.shown === wanted) return;
  box.dataset.shown = wanted;
  const drawn = el(`figure-${wanted}`) ?? el(`figure-${item}-left`) ?? el(`figure-${item}-both`);
  box.replaceChildren(...(drawn ? [drawn.content.cloneNode(true)] : []));
}
let frameOn = null;
function moveFigure(seen, out) {
  const frames = el("figure").querySelectorAll(".frame");
  if (!frames.length) return;
  let share = 0;
  if (!still.matches && seen.works && run.running) {
    if (seen.word) share = out;
    else if (seen.segment.kind === "timed") share = 0.5 - 0.5 * Math.cos((run.into / 1500) * Math.PI);
  }
  const at = Math.round(Math.min(1, Math.max(0, share)) * (frames.length - 1));
  if (frameOn === frames[at]) return;
  frameOn?.classList.remove("on");
  frames[0].classList.toggle("on", at === 0);
  frames[at].classList.add("on");
  frameOn = frames[at];
}

// Never smaller than can be read from four metres: words at 5 % of the screen's height in capitals, the name at 9 %.
const CAPITALS = 0.66;
function fit(box, least, roomy) {
  box.style.fontSize = "";
  let size = parseFloat(getComputedStyle(box).fontSize);
  const floor = (window.innerHeight * least) / CAPITALS;
  while (!roomy(size) && size > floor) { size = Math.max(floor, size - 2); box.style.fontSize = `${size}px`; }
}
const fitWords = () => fit(el("words"), 0.05, (size) => el("words").scrollHeight <= size * 1.16 * 2 + 6);
const fitName = () => fit(el("name"), 0.09, () => el("name").scrollWidth <= el("name").clientWidth);

let drawnKey = null;
let ribbonAt = null;
function draw() {
  if (!score.steps.length) return;
  const at = now();
  const was = run;
  run = advance(run, at);
  if (run.ended && !was.ended) finish();
  el("before").hidden = run.started || counting !== null;
  el("after").hidden = !run.ended;
  const seen = seenNow(score, run);
  const { segment, step, works, left } = seen;
  const easy = run.easier.includes(step.item) && score.easier[step.item];
  const name = score.names[step.item] ? (easy && easy.name) || score.names[step.item] : "A rest";
  const key = `${step.id} ${seen.side} ${Boolean(easy)}`;
  if (drawnKey !== key) {
    drawnKey = key;
    const [main, ...rest] = name.split(", ");
    el("name").replaceChildren(main, ...(rest.length ? [Object.assign(document.createElement("small"), { textContent: `, ${rest.join(", ")}` })] : []));
    fitName();
    if (works) show("live", `${name}${opposite[seen.side] ? `, ${seen.side}` : ""}, ${Math.round(step.ms / 1000)} seconds`);
    drawNext();
    drawNote(step, easy);
  }
  drawSide(seen.side, step.item);
  showFigure("figure", step.item, seen.side);
  const out = drawStretch(seen);
  moveFigure(seen, out);
  drawBreath(seen);
  if (seen.total) {
    show("count", String(seen.nth));
    show("phase", `${seen.word}, ${seen.nth} of ${seen.total}`);
  } else {
    show("count", seen.waits ? String(Math.floor(run.into / 1000)) : String(left));
    const stages = score.doses[step.item]?.length ?? 1;
    show("phase", stages > 1 && works ? `${PHASES[segment.kind]}, part ${segment.stage} of ${stages}` : PHASES[segment.kind] ?? "");
  }
  el("count").classList.toggle("quiet", !works);
  const words = easy && easy.words && works ? { text: easy.words, said: false } : wordsNow(score, run);
  if (el("words").textContent !== words.text) { show("words", words.text); fitWords(); }
  el("words").classList.toggle("said", words.said);
  const seconds = Math.ceil(leftMs(run) / 1000);
  show("left", `${clock(seconds)} left`);
  drawLate(at, seconds);
  const paused = !run.running && run.started && !run.ended;
  if (paused) show("phase", "paused");
  el("stage").classList.toggle("paused", paused);
  show("pause", run.running || !run.started ? "Pause " : "Go on ");
  if (!el("pause").querySelector("kbd")) el("pause").insertAdjacentHTML("beforeend", "<kbd>Space</kbd>");
  const going = works ? (seen.waits ? "Go on " : "End it now ") : hasWork() ? "They are in " : "Go on ";
  if (el("go").firstChild.textContent !== going) el("go").firstChild.textContent = going;
  el("more").disabled = !(works && step.unit);
  el("longer").disabled = !works || seen.waits;
  el("easier").disabled = !score.easier[step.item];
  el("easier").setAttribute("aria-pressed", String(Boolean(easy)));
  if (performance.now() > toldUntil) el("told").hidden = true;
  const planned = score.segments.includes(seen.segment) ? seen.segment : null;
  const here = run.ended ? score.length : planned ? planned.start + seen.share * (planned.end - planned.start) : null;
  if (here !== null) {
    el("here").setAttribute("d", `M${((here / score.length) * el("ribbon").dataset.width).toFixed(1)} 0v26`);
    const second = Math.floor(here);
    if (second !== ribbonAt) for (const bar of el("ribbon").querySelectorAll("[data-end]")) bar.classList.toggle("past", Number(bar.dataset.end) <= second);
    ribbonAt = second;
  }
}
// On time, or by how much not; and when the class will end by the clock on the wall.
function drawLate(at, seconds) {
  const by = Math.round(lateMs() / 1000);
  const ends = new Date(at + seconds * 1000).toTimeString().slice(0, 5);
  show("late", Math.abs(by) < 2 ? `on time, ends ${ends}` : `${clock(Math.abs(by))} ${by > 0 ? "late" : "early"}, ends ${ends}`);
  el("late").classList.toggle("off", Math.abs(by) >= 2);
}
// What the teacher has to know of this move before it starts: how to stand, the room, and what a side is matched to.
function drawNote(step, easy) {
  const notes = [];
  if (score.facing[step.item] && score.facing[step.item] !== "towards the class") notes.push(`you: ${score.facing[step.item]}`);
  const planned = new Map(score.steps.map((one) => [one.id, one]));
  const seconds = new Set(score.steps.map((one) => one.partner));
  const here = run.steps.filter((one) => one.group === step.group && seconds.has(one.id));
  if (here.some((one) => one.ms !== planned.get(one.id)?.ms)) notes.push("as long as the first side");
  if (easy) notes.push("the easier way");
  show("note", notes.join(" · "));
}
function drawNext() {
  const now_ = stepOf(run), next = following(run);
  if (!next) { show("next", "the end"); show("fetch", ""); el("next-figure").replaceChildren(); delete el("next-figure").dataset.shown; return; }
  showFigure("next-figure", next.item, next.side);
  const side = opposite[next.side] ? `, ${next.side}` : "";
  show("next", next.same ? `same${side}` : `${score.names[next.item] ?? "a rest"}${side}`);
  const has = new Set(score.props[now_.item] ?? []);
  const fetching = next.same ? [] : (score.props[next.item] ?? []).filter((prop) => !has.has(prop));
  show("fetch", fetching.length ? `fetch: ${fetching.join(", ")}` : "");
}

// ---- sounds: what lies between the last frame and this one has sounded ------------------------------------------------
let heard = { id: null, into: 0 };
function sound() {
  const step = stepOf(run);
  const from = heard.id === step.id ? heard.into : -1;
  const jumped = heard.id === step.id && run.into - heard.into > 500;
  if (heard.id && heard.id !== step.id && score.steps.find((one) => one.id === heard.id)?.works && !step.works) sounds.tone("release");
  if (heard.id !== step.id && step.works) sounds.tone("start");
  heard = { id: step.id, into: run.into };
  if (jumped) return;
  for (const cue of cuesOf(score, step)) {
    const at = cueMs(cue, step);
    if (at <= from || at > run.into) continue;
    if (cue.kind === "count") sounds.tone("count");
    else if (cue.kind === "halfway") sounds.tone("halfway");
    if (cue.mode === "spoken") sounds.speak(textOf(score, step, cue));
  }
}

// ---- input -------------------------------------------------------------------------------------------
function full() { if (document.fullscreenElement) document.exitFullscreen(); else document.documentElement.requestFullscreen?.().catch(() => {}); }
function stay() { el("ask").close(); act("resume"); }
function openSound() {
  const box = el("sound");
  if (box.open) return box.close();
  for (const field of box.querySelectorAll("input")) {
    if (field.type === "range") field.value = sounds.settings[field.name];
    else field.checked = sounds.settings[field.name];
  }
  const found = sounds.voices();
  box.querySelector("[name=voice]").disabled = !found.length;
  show("voices", found.length ? `(${found[0].name})` : "(there is none here: the words stay silent text)");
  box.showModal();
}
el("sound").addEventListener("change", ({ target }) => sounds.set(target.name, target.type === "range" ? Number(target.value) : target.checked));
const going = (what) => () => { if (run.started && !run.ended) what(); };
const deeds = {
  go: goOn, pause: toggle, start: countIn, longer: going(() => act("longer", { ms: 10_000 })), more: going(() => act("more")),
  back: () => { if (run.started) act("back"); }, again: going(() => act("repeat")), skip: going(() => act("skip")), swap: going(swap),
  easier: going(() => act("easier")), rest: going(() => { el("tray").close(); act("insert", { ms: 30_000 }); tell("A rest of 30 s comes before the next pass."); }),
  "catch-up": going(catchUp), "take-over": takeOver, "open-tray": going(openTray), "tray-close": () => el("tray").close(), settings: openSound, "sound-close": openSound, try: () => { sounds.on(); sounds.tone("release"); sounds.speak("Keep breathing."); }, full, leave, stay,
};
// The tray: what was skipped, and what fits here by posture and props; it comes before the next pass.
function openTray() {
  const box = el("tray");
  if (box.open) return box.close();
  const on = new Map();
  for (const span of run.log) if (!span.paused) on.set(span.step, (on.get(span.step) ?? 0) + span.end - span.start);
  const passed = run.steps.slice(0, run.at).filter((step) => step.works);
  const skipped = [...new Set(passed.map((step) => step.item))].filter((item) => passed.every((step) => step.item !== item || !on.get(step.id)));
  const posture = score.postures[stepOf(run).item];
  const fits = score.tray.filter((one) => one.posture === posture && !run.steps.some((step) => step.item === one.item));
  const button = ({ item, name, seconds }, why) => {
    const made = document.createElement("button");
    made.type = "button";
    made.className = "button";
    made.dataset.item = item;
    const picture = document.createElement("span");
    const drawn = el(`figure-${item}-left`) ?? el(`figure-${item}-both`);
    if (drawn) picture.append(drawn.content.cloneNode(true));
    made.append(picture, `${name} `, Object.assign(document.createElement("small"), { textContent: `${why}${clock(seconds)}` }));
    return made;
  };
  const lasting = (item) => Math.round(score.steps.filter((step) => step.item === item).reduce((sum, step) => sum + step.ms, 0) / 1000);
  el("tray-found").replaceChildren(
    ...skipped.map((item) => button({ item, name: score.names[item], seconds: lasting(item) }, "skipped, ")),
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
  tell(`${score.names[item]} comes before the next pass.`);
});
function swap() {
  const was = stepOf(run).side;
  act("swap");
  tell(stepOf(run).side === was ? "The second side has begun, or this has no sides." : `The ${stepOf(run).side} side first.`);
}
function goBackFromSleep() {
  if (!slept) return;
  act("rewind", { ms: slept });
  slept = 0;
  el("told").hidden = true;
}
for (const [id, what] of Object.entries(deeds)) el(id)?.addEventListener("click", (event) => { event.currentTarget.blur(); what(); });
let leaving = false;
el("really").addEventListener("click", () => { leaving = true; });
// Keys of our own, and what presentation clickers send: page down and up, and the full stop for a dark screen.
const keys = {
  " ": toggle, enter: goOn, pagedown: goOn, pageup: deeds.back, ".": toggle, l: deeds.longer, o: deeds.more, b: deeds.back, r: deeds.again,
  n: deeds.skip, s: deeds.swap, x: deeds.easier, i: deeds.rest, e: going(() => act("end-now")), c: deeds["catch-up"], z: goBackFromSleep,
  arrowleft: deeds.back, arrowright: deeds.skip, t: () => (watching ? takeOver() : deeds["open-tray"]()), m: openSound, w: full, escape: leave,
};
document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
  if (el("ask").open) {
    if (event.key === " " && !event.target.closest("a")) { event.preventDefault(); stay(); }
    return;
  }
  if (el("tray").open) {
    if (event.key.toLowerCase() === "t") el("tray").close();
    if (event.key.toLowerCase() === "i") deeds.rest();
    return;
  }
  if (el("sound").open) {
    if (event.key.toLowerCase() === "m") openSound();
    return;
  }
  const what = keys[event.key.toLowerCase()];
  if (!what || ([" ", "Enter"].includes(event.key) && event.target.closest("a, button, input"))) return;
  event.preventDefault();
  if (!run.started && !watching && ![toggle, goOn, openSound, full, leave].includes(what)) return;
  if (!run.started && what === goOn) return countIn();
  what();
});
window.addEventListener("beforeunload", (event) => {
  if (run.running && !leaving && !watching) event.preventDefault();
});
window.addEventListener("resize", () => { fitName(); fitWords(); });

// ---- it stays without the server: what the page is made of is kept for a reload ---------------------------------------
async function keepPage() {
  if (!("serviceWorker" in navigator) || !window.caches) return;
  try {
    await navigator.serviceWorker.register(root.worker, { scope: "/" });
    const kept = await caches.open("extendum-stage");
    const made = performance.getEntriesByType("resource").map((one) => one.name).filter((name) => name.includes("/static/"));
    await kept.addAll([location.pathname, ...new Set(made)]);
    root.kept = "yes";
  } catch { /* without it the Stage plays on, and only a reload needs the server */ }
}

if (record !== stored) keep();
else if (run.started && !run.ended) { stayAwake(); tell("Back where the class is."); }
if (run.ended) { record = newRecord(); run = fold(score.steps, [], score.spare.steps); keep(); }
draw();
fetch(root.events).then((answer) => answer.json()).then(({ run: theirs }) => {
  if (theirs && theirs.stamp === Number(root.stamp) && !record.events.length) watch(theirs);
  else if (run.started && !run.ended) tellServer();
}).catch(() => {});
if (el("start")) { el("start").disabled = false; el("start").focus(); }
document.fonts?.ready.then(() => { fitName(); fitWords(); keepPage(); });
(function frame() {
  if (counting !== null) {
    const left = 3 - (performance.now() - counting) / 1000;
    if (left <= 0) { counting = null; el("counting").hidden = true; begin(); } else show("counting-in", String(Math.ceil(left)));
  }
  if (run.running) {
    draw();
    if (!watching) { sound(); catchUpAlone(); }
  } else if (run.started && !run.ended) draw();
  requestAnimationFrame(frame);
})();
