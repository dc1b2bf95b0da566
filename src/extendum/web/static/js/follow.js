// Follows a run from elsewhere: asks the server what is new, keeps its clock to the server's, and folds what happened.
// When the server is away it goes on from what it knows; when another class is taught the page comes again.
import { el } from "./drawing.js";
import { advance, fold } from "./playing.js";
import { prepared } from "./seen.js";

const EVERY = 1000,
  AWAY = 3000,
  SAMPLES = 12;
const { now: address, run: pageRun, revision } = el("follows").dataset;
const score = el("score") ? prepared(JSON.parse(el("score").textContent)) : null;

// The server's clock from here: the sample that travelled least tells best.
const samples = [];
const local = () => performance.timeOrigin + performance.now();
function sampled(sent, got, theirs) {
  const one = { took: got - sent, off: theirs - (sent + got) / 2 };
  // A clock that was set makes everything before it worthless.
  if (samples.length && Math.abs(one.off - serverOff()) > 2000 + one.took) samples.length = 0;
  samples.push(one);
  if (samples.length > SAMPLES) samples.shift();
}
const serverOff = () => samples.reduce((best, one) => (one.took <= best.took ? one : best)).off;

let known = { run: null, events: [], off: 0 },
  folded = null;
export const state = { score, reached: true, waiting: true };
// The run at this instant; null while nothing is taught.
export function here() {
  if (!folded || !samples.length) return null;
  folded = advance(folded, Math.round(local() + serverOff() - known.off));
  return folded;
}
async function ask(changed) {
  const seen = known.run === null ? "" : `${known.run}.${known.events.at(-1)?.n ?? 0}`;
  try {
    const sent = local();
    const answer = await fetch(`${address}?seen=${seen}`, { cache: "no-store" });
    if (answer.status === 404) {
      state.gone = true;
      return changed();
    }
    if (!answer.ok) throw new Error(String(answer.status));
    const told = await answer.json();
    sampled(sent, local(), told.now);
    state.reached = true;
    take(told, changed);
    return setTimeout(ask, EVERY, changed);
  } catch {
    state.reached = false;
    changed();
    return setTimeout(ask, AWAY, changed);
  }
}
function take(told, changed) {
  if (told.run === null || told.run === undefined) {
    if (known.run !== null || pageRun) known = { run: null, events: [], off: 0 };
    folded = null;
    state.waiting = true;
    return changed();
  }
  // The page was made for the class of one run; for another it is made again.
  if (String(told.run) !== pageRun || String(told.revision) !== revision) {
    if (!state.coming) {
      state.coming = true;
      location.reload();
    }
    return;
  }
  const news = told.events.length > 0 || known.run === null;
  const events = told.run === known.run ? [...known.events, ...told.events] : told.events;
  known = { run: told.run, events: events.toSorted((a, b) => a.at - b.at || a.n - b.n), off: told.off };
  if (news) folded = fold(score.steps, known.events, score.spare.steps);
  state.waiting = !folded?.started;
  changed();
}
// ``changed`` is called whenever something new is known; between that ``here()`` moves by the clock.
export const follow = (changed) => ask(changed);
