// The run that is on: its clock, what happened (kept in this browser at once, told to the server when it can be, each
// event exactly once), and whether this Stage teaches or watches. A rehearsal is a run of its own that holds no class.
import { clock, el, hide, show } from "../drawing.js";
import { after, fold, leftMs } from "../playing.js";
import { prepared } from "../seen.js";
import { post, root, tell } from "./page.js";

export const rehearses = root.rehearses === "yes";
// In front of a camera.
export const records = root.takes === "yes";
//: Neither holds the class; both are kept apart from what was taught.
export const apart = rehearses || records;
const plain = JSON.parse(el("score").textContent);
const scores = { plan: prepared(plain), tap: plain.tap && prepared({ ...plain, ...plain.tap }) };
//: A rehearsal that is faster than life.
export const TIMES = 4;
const LONGEST_AWAY = 6 * 3600 * 1000;
const KEY = `extendum-${records ? "take" : rehearses ? "rehearsal" : "run"}-${root.class}-${root.stamp}`;

const newName = () => crypto.randomUUID?.() ?? `${Date.now()}-${Math.random()}`.slice(0, 40);
const newRecord = () => ({
  run: newName(),
  events: [],
  told: 0,
  stamp: Number(root.stamp),
  revision: Number(root.revision),
});
const stored = JSON.parse(localStorage.getItem(KEY) ?? "null");
const fresh = stored && Date.now() - (stored.wall ?? stored.events.at(-1)?.at ?? 0) < LONGEST_AWAY;

//: ``run``: the fold; ``score``: what is played; ``watching``: another Stage teaches.
export const live = {
  record: stored ?? newRecord(),
  run: null,
  score: null,
  watching: false,
  changed: () => {},
  ended: () => {},
};
const again = () => {
  live.score = scores[live.record.mode] ?? scores.plan;
  live.run = fold(live.score.steps, live.record.events, live.score.spare.steps);
};
again();
export const keep = () => localStorage.setItem(KEY, JSON.stringify(live.record));
// A run that is over, or was left for long, before all of it was told: put aside until the server has it.
const ASIDE = "extendum-aside-";
function putAside() {
  const { record } = live;
  if (record.told < record.events.length && !record.fast)
    localStorage.setItem(`${ASIDE}${record.run}`, JSON.stringify({ ...record, of: root.class, apart, takes: records }));
}
async function tellAside() {
  for (const key of Object.keys(localStorage).filter((one) => one.startsWith(ASIDE))) {
    const kept = JSON.parse(localStorage.getItem(key));
    if (kept.of !== root.class) continue;
    try {
      const answer = await post(root.events, {
        run: kept.run,
        stamp: kept.stamp ?? Number(root.stamp),
        revision: kept.revision ?? Number(root.revision),
        rehearsal: kept.apart,
        taking: kept.takes,
        late: true,
        events: kept.events.slice(kept.told, kept.told + 500),
      });
      if (!answer.ok) continue;
      kept.told += 500;
      if (kept.told >= kept.events.length) localStorage.removeItem(key);
      else localStorage.setItem(key, JSON.stringify(kept));
    } catch {
      return; /* still away: later */
    }
  }
}
// A class that was paused and is begun anew ended where it was paused; what is after that was not reached.
export function endOld() {
  const { record } = live,
    at = record.events.at(-1).at;
  record.events.push({ id: `${record.events.length}-${at}`, at, kind: "end", step: "", ms: 0 });
}
export function newRun(mode) {
  putAside();
  live.record = { ...newRecord(), ...(mode && { mode }) };
  again();
  keep();
  tellAside();
}
if (!fresh || live.run.ended) newRun();
// So is what was not told of the class as it was before it was changed.
for (const key of Object.keys(localStorage).filter(
  (one) => !apart && one !== KEY && one.startsWith(`extendum-run-${root.class}-`),
)) {
  const old = JSON.parse(localStorage.getItem(key));
  if (old.told >= old.events.length) continue;
  localStorage.setItem(
    `${ASIDE}${old.run}`,
    JSON.stringify({ stamp: Number(key.split("-").at(-1)), ...old, of: root.class, apart }),
  );
  localStorage.setItem(key, JSON.stringify({ ...old, told: old.events.length }));
}
export const returned = live.run.started;

// ---- the clock: monotonic; where the wall clock got ahead of it the laptop slept, and the class has gone on ---------
// A wall clock that was set back changes nothing: by how much is kept, so that a reload knows it, too.
const wallMs = () => Date.now() - performance.now() + (live.record.setBack ?? 0);
let base = wallMs();
let slept = 0;
export function now() {
  const apart = wallMs() - base;
  if (apart > 2000) {
    base += apart;
    if (live.run.running) asleep(Math.round(apart));
  } else if (apart < -2000) {
    live.record.setBack = (live.record.setBack ?? 0) - apart;
    keep();
  }
  const at = Math.round(base + performance.now()),
    { fast } = live.record;
  return fast ? fast + (at - fast) * TIMES : at;
}
function asleep(ms) {
  slept = ms;
  tell(
    `The computer slept for ${Math.round(ms / 1000)} s; the class has gone on. Press Z to go back to where it was.`,
    20_000,
  );
}
export function backFromSleep() {
  if (!slept) return;
  act("rewind", { ms: slept });
  slept = 0;
  hide("told", true);
}

// ---- events --------------------------------------------------------------------------------------------------
export function act(kind, more = {}) {
  if (live.watching) return;
  const { record } = live;
  if (kind === "start" && record.mode === "fast") record.fast = Math.round(base + performance.now());
  const at = now(),
    before = live.run;
  const event = { id: `${record.events.length}-${at}`, at, kind, step: "", ms: 0, ...more };
  live.run = after(before, event);
  record.events.push(event);
  record.wall = Date.now();
  keep();
  tellServer();
  if (live.run.ended && !before.ended) live.ended();
  live.changed();
}
export const told = () => {
  const waiting = live.record.events.length - live.record.told;
  return waiting
    ? `${waiting} of ${live.record.events.length} events are kept here until the server answers.`
    : "What happened is kept with the class.";
};

// One Stage teaches; this one is known by a name that a reload keeps.
let me = sessionStorage.getItem("extendum-me") ?? newName();
sessionStorage.setItem("extendum-me", me);
// A tab that was duplicated has the name of the first, too: the name belongs to whoever holds its lock, for as long as the page is there.
const named = new Promise((ready) => {
  if (!navigator.locks) return ready();
  // A page that is loaded again waits a moment until the one before has gone.
  const hold = () => {
    ready();
    return new Promise(() => {});
  };
  return navigator.locks.request(`extendum-stage-${me}`, { signal: AbortSignal.timeout(1500) }, hold).catch(() => {
    me = newName();
    sessionStorage.setItem("extendum-me", me);
    ready();
  });
});
let telling = null;
export function tellServer(take = false) {
  const { record, run } = live,
    holds = run.started && !run.ended && !apart;
  if (record.fast || live.watching || (record.told >= record.events.length && !holds)) return telling;
  // What happens while it tells is told right after.
  telling ??= tellNow(take).then((more) => {
    telling = null;
    return more ? tellServer() : null;
  });
  return telling;
}
async function tellNow(take) {
  const { record } = live,
    upTo = Math.min(record.events.length, record.told + 500);
  await named;
  try {
    const answer = await post(root.events, {
      run: record.run,
      stamp: Number(root.stamp),
      revision: Number(root.revision),
      me,
      take,
      rehearsal: apart,
      taking: records,
      session: Number(root.session) || 0,
      now: Math.round(base + performance.now()),
      events: record.events.slice(record.told, upTo),
    });
    if (answer.ok && record === live.record) {
      record.told = upTo;
      keep();
      const { message } = await answer.json();
      if (message) tell(message, 10_000);
    } else if (answer.status === 423) watch((await answer.json()).run);
    return answer.ok && record.told < record.events.length;
  } catch {
    return false; /* the server is away: later */
  } finally {
    show("after-kept", told());
  }
}
const tellAll = () => {
  if (live.watching) look();
  else tellServer();
  tellAside();
};
setInterval(tellAll, 4000);
window.addEventListener("online", tellAll);

// ---- watching: what the other Stage tells, folded here; nothing is told from here ------------------------------
export function watch(theirs) {
  live.watching = true;
  hide("watching", false);
  document.body.classList.add("watches");
  follow(theirs);
}
function follow(theirs) {
  if (!theirs || theirs.stamp !== Number(root.stamp)) return;
  live.record = { run: theirs.run, events: theirs.events, told: theirs.events.length };
  again();
  live.changed();
}
async function look() {
  try {
    follow((await (await fetch(root.events)).json()).run);
  } catch {
    /* later */
  }
}
export async function takeOver() {
  if (!live.watching) return;
  await look();
  live.watching = false;
  hide("watching", true);
  document.body.classList.remove("watches");
  live.record.told = 0;
  keep();
  await tellServer(true);
}
// What this page shows is kept as it is from now on; was it changed while the page was on its way, it comes again.
export function tellOpened() {
  const body = new URLSearchParams({ stamp: root.stamp });
  return fetch(root.opened, { method: "POST", headers: { "X-CSRFToken": root.csrf }, body })
    .then((answer) => {
      if (answer.status === 409 && !live.run.started) location.reload();
    })
    .catch(() => {});
}
// When this page opens, another Stage may be teaching already.
export function askWhoTeaches() {
  if (apart) return;
  fetch(root.events)
    .then((answer) => answer.json())
    .then(({ run: theirs }) => {
      if (theirs && theirs.stamp === Number(root.stamp) && !live.record.events.length) watch(theirs);
      else if (live.run.started && !live.run.ended) tellServer();
    })
    .catch(() => {});
}

// ---- the end: as planned from the first word, or by the clock on the wall --------------------------------------
export const plannedMs = plain.length * 1000;
const firstAt = () => live.run.log[0]?.start ?? live.run.clock;
export const endsAt = () => live.record.endBy ?? firstAt() + plannedMs;
export const lateMs = () => (live.run.started && !live.run.ended ? live.run.clock + leftMs(live.run) - endsAt() : 0);
export const lasted = () => Math.round((live.run.clock - firstAt()) / 1000);
export function endBy() {
  const { record } = live;
  const [hours, minutes] = el("end-by").value.split(":").map(Number);
  if (Number.isNaN(hours)) {
    delete record.endBy;
    show("end-by-told", "");
    return keep();
  }
  const end = new Date(now());
  end.setHours(hours, minutes, 0, 0);
  if (end.getTime() < now()) end.setDate(end.getDate() + 1);
  record.endBy = end.getTime();
  keep();
  const over = Math.round((now() + plannedMs - record.endBy) / 1000);
  show(
    "end-by-told",
    Math.abs(over) < 2
      ? "as planned"
      : `${clock(Math.abs(over))} too ${over > 0 ? "long" : "short"} from now: it is fitted at the start`,
  );
}
