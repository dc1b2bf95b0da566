// Playing a class: the fold of events into a run, and what is to be seen of it at a time.
// The fold is the one of core/run/actions.py, rule by rule; a test holds them together. Times are whole milliseconds of the
// wall clock. Nothing here touches the page.

const BACK_WITHIN = 2000;
const LONGEST = 3_600_000;
const MOST_STEPS = 4000;

export const fresh = (steps, spare = []) => ({ steps, at: 0, into: 0, running: false, started: false, ended: false, clock: 0, log: [], rungs: {}, instead: {}, seen: [], spare, left: null, stopped: "" });
export const stepOf = (run) => run.steps[Math.min(run.at, run.steps.length - 1)];
export const leftMs = (run) => run.ended ? 0
  : Math.max(0, stepOf(run).ms - run.into) + run.steps.slice(run.at + 1).reduce((sum, step) => sum + step.ms, 0);
export const fold = (steps, events, spare = []) => events.reduce(after, fresh(steps, spare));

// The run after one more event; one that was seen before changes nothing, and time never runs backwards.
export function after(run, event) {
  if (run.seen.includes(event.id)) return run;
  if (!kinds[event.kind]) throw new Error(`no such event: ${event.kind}`);
  const now = { ...advance(run, event.at) };
  now.seen = [...now.seen, event.id];
  if (!now.steps.length || (event.kind !== "start" && !now.started) || (now.ended && !["back", "retake"].includes(event.kind))) return now;
  const then = kinds[event.kind](now, event);
  return keepsLeft.includes(event.kind) ? then : { ...then, left: null };
}

// The run at a time: what is running goes on, step after step; an open step waits.
export function advance(run, now) {
  if (!run.started || run.ended || now <= run.clock) return run.started && !run.ended ? run : { ...run, clock: Math.max(run.clock, now) };
  if (!run.running) return { ...run, clock: now, log: logged(run.log, { step: stepOf(run).id, start: run.clock, end: now, paused: true }) };
  let it = run;
  while (it.clock < now && !it.ended) {
    const step = it.steps[it.at];
    const rest = step.waits ? now - it.clock : Math.max(0, step.ms - it.into);
    const taken = Math.min(rest, now - it.clock);
    const log = taken ? logged(it.log, { step: step.id, start: it.clock, end: it.clock + taken, paused: false }) : it.log;
    it = { ...it, into: it.into + taken, clock: it.clock + taken, log };
    if (!step.waits && it.into >= step.ms) it = finished(it);
  }
  return it.ended ? { ...it, clock: now } : it;
}

function logged(log, span) {
  const last = log.at(-1);
  if (last && last.step === span.step && last.paused === span.paused && last.end === span.start) return [...log.slice(0, -1), { ...last, end: span.end }];
  return [...log, span];
}
const withStep = (run, index, changes) => ({ ...run, steps: run.steps.map((step, n) => (n === index ? { ...step, ...changes } : step)) });
const indexOf = (run, id) => run.steps.findIndex((step) => step.id === id);
const to = (run, index) => index >= run.steps.length
  ? { ...run, at: run.steps.length, into: 0, running: false, ended: true }
  : { ...run, at: index, into: 0 };

// On to the next step; the other side gets what this one really got.
const finished = (run) => to(matched(run, run.into), run.at + 1);
function matched(run, ms) {
  const step = stepOf(run);
  const other = step.works && step.partner ? indexOf(run, step.partner) : -1;
  return other > run.at && ms ? withStep(run, other, { ms, waits: false }) : run;
}
function begins(run, index) {
  while (index > 0 && run.steps[index - 1].group === run.steps[index].group) index -= 1;
  return index;
}
function nextPass(run) {
  const { group } = stepOf(run);
  let index = run.at;
  while (index < run.steps.length && run.steps[index].group === group) index += 1;
  return index;
}
function putIn(run, steps) {
  const index = nextPass(run);
  return run.steps.length + steps.length > MOST_STEPS ? run : { ...run, steps: [...run.steps.slice(0, index), ...steps, ...run.steps.slice(index)] };
}
// What the steps of an item in one round have in common, over all its passes.
export const visitOf = (step) => [step.item, ...step.group.split(".").slice(2)].join(".");
// What leaves it open to go back to the item that was skipped just now.
const keepsLeft = ["skip-item", "pause", "resume", "easier", "deeper", "instead", "mark"];
const most = (ms) => Math.min(LONGEST, ms);
// Where an item is on the ladder of its options: 0 as it is, below it the easier ones, above it the deeper ones.
export const rungOf = (run, item) => run.rungs[item] ?? 0;
function onRung(run, item, rung) {
  const { [item]: _, ...others } = run.rungs;
  return { ...run, rungs: rung ? { ...others, [item]: rung } : others };
}

const kinds = {
  start: (run, event) => (run.started ? run : { ...run, started: true, running: true, clock: event.at }),
  pause: (run) => ({ ...run, running: false }),
  resume: (run) => ({ ...run, running: true }),
  longer(run, event) {
    const step = stepOf(run);
    if (!step.works || step.waits) return run;
    const ms = Math.max(run.into, most(step.ms + event.ms));
    return matched(withStep(run, run.at, { ms }), ms);
  },
  more(run) {
    const step = stepOf(run);
    if (!step.unit || !step.works) return run;
    const ms = most(step.ms + step.unit);
    return matched(withStep(run, run.at, { ms }), ms);
  },
  "end-now"(run) {
    const { works, unit } = stepOf(run);
    if (!works || !run.into) return to(run, run.at + 1);
    const whole = Math.ceil(run.into / (unit || 1)) * (unit || 1);
    return to(matched(run, whole), run.at + 1);
  },
  in(run) {
    const { group } = stepOf(run);
    const work = run.steps.findIndex((step, n) => n >= run.at && step.group === group && step.works);
    return work < 0 || work === run.at ? run : to(run, work);
  },
  skip: (run) => to(run, nextPass(run)),
  "skip-item"(run) {
    const visit = visitOf(stepOf(run));
    let index = run.at;
    while (index < run.steps.length && visitOf(run.steps[index]) === visit) index += 1;
    const later = run.steps.slice(index).filter((step) => visitOf(step) !== visit);
    return { ...to({ ...run, steps: [...run.steps.slice(0, index), ...later] }, index), left: [run.at, run.steps] };
  },
  repeat: (run) => to(run, begins(run, run.at)),
  back(run) {
    const index = Math.min(run.at, run.steps.length - 1);
    let begin = begins(run, index);
    const lasted = run.steps.slice(begin, index).reduce((sum, step) => sum + step.ms, 0) + run.into;
    if (run.left && (run.ended || lasted < BACK_WITHIN)) {
      const whole = { ...run, steps: run.left[1] };
      return { ...to(whole, begins(whole, run.left[0])), ended: false, running: run.ended ? true : run.running };
    }
    if (!run.ended && lasted < BACK_WITHIN && begin > 0) begin = begins(run, begin - 1);
    return { ...to(run, begin), ended: false, running: run.ended ? true : run.running, stopped: "" };
  },
  retake(run) {
    let index = Math.min(run.at, run.steps.length - 1);
    while (index > 0 && run.steps[index - 1].item === run.steps[index].item) index -= 1;
    return { ...to(run, index), ended: false, running: true, stopped: "" };
  },
  mark: (run) => run,
  swap(run) {
    const { item, side } = stepOf(run);
    const here = run.steps.map((step, n) => [step, n]).filter(([step]) => step.item === item && step.side);
    if (!side || here.some(([step, n]) => n < run.at && step.side !== side)) return run;
    const from = begins(run, run.at);
    for (const [step, n] of here) if (n >= from) run = withStep(run, n, { side: step.side === "left" ? "right" : "left" });
    return run;
  },
  insert(run, event) {
    const rest = { id: event.id, item: event.step, group: event.id, ms: most(Math.max(1000, event.ms)), side: "", works: false, waits: false, unit: 0, partner: "", down: 1, up: 0, instead: 0 };
    return putIn(run, [rest]);
  },
  bring(run, event) {
    const first = [...run.spare, ...run.steps].filter((step) => step.item === event.step && !step.id.includes("~") && step.group.endsWith(".1"));
    const mark = (name) => (name ? `${name}~${event.id}` : "");
    return putIn(run, first.map((step) => ({ ...step, id: mark(step.id), group: mark(step.group), partner: mark(step.partner) })));
  },
  fit(run, event) {
    const index = indexOf(run, event.step);
    return index <= run.at ? run : withStep(run, index, { ms: most(Math.max(0, event.ms)) });
  },
  easier(run) {
    const { item, down } = stepOf(run), rung = rungOf(run, item) - 1;
    return onRung(run, item, rung < -down ? 0 : rung);
  },
  deeper(run) {
    const { item, up } = stepOf(run);
    return onRung(run, item, Math.min(up, rungOf(run, item) + 1));
  },
  instead(run) {
    const step = stepOf(run), nth = ((run.instead[step.item] ?? 0) + 1) % (step.instead + 1);
    const { [step.item]: _, ...others } = run.instead;
    return { ...run, instead: nth ? { ...others, [step.item]: nth } : others };
  },
  rewind(run, event) {
    let index = Math.min(run.at, run.steps.length - 1), into = run.into, back = Math.max(0, event.ms);
    while (back > into && index > 0) { back -= into; index -= 1; into = run.steps[index].ms; }
    return { ...run, at: index, into: Math.max(0, into - back) };
  },
  end: (run) => ({ ...to(run, run.steps.length), stopped: stepOf(run).id }),
};

// ---- what is to be seen -----------------------------------------------------------------------------------

const SHORT = ["count", "counted", "halfway", "pulse-phase", "phase-words", "last", "time-left", "say-breath"];
export function prepared(score) {
  const segments = new Map([...score.segments, ...score.spare.segments].map((segment) => [segment.id, segment]));
  const cues = new Map();
  for (const cue of [...score.cues, ...score.spare.cues]) {
    if (!cues.has(cue.segment)) cues.set(cue.segment, []);
    cues.get(cue.segment).push(cue);
  }
  return { ...score, byId: segments, cuesOf: cues };
}
// A move that was brought in has the segments and cues of the one that it is a copy of.
const plainId = (id) => id.split("~")[0];
export const segmentOf = (score, step) => score.byId.get(plainId(step.id));
export const cuesOf = (score, step) => score.cuesOf.get(plainId(step.id)) ?? [];

// When a cue comes in its step: anchors shift with the length, and no cue is invented.
export function cueMs(cue, step) {
  const from = { start: 0, middle: Math.floor(step.ms / 2), end: step.ms }[cue.anchor];
  return from + cue.offset;
}

const SWAPPED = { left: "right", right: "left", Left: "Right", Right: "Left" };
const overturned = (text) => text.replace(/\b(left|right)\b/gi, (side) => SWAPPED[side] ?? side);

// What is on: the segment, seconds left, how far, and in counted work the phase, the count and the side.
export function seenNow(score, run) {
  const step = stepOf(run);
  const segment = segmentOf(score, step) ?? { id: step.id, item: step.item, kind: "rest", side: null, stage: null };
  const shown = {
    step, segment, works: step.works, waits: step.waits,
    left: Math.max(0, Math.ceil((step.ms - run.into) / 1000)),
    share: step.ms ? Math.min(1, run.into / step.ms) : 1,
    side: step.side || segment.side,
    turned: Boolean(step.side) && Boolean(segment.side) && step.side !== segment.side,
  };
  // On the way into what alternates, the side is the one that comes first.
  const turns = score.doses[segment.item]?.find((one) => one?.alternates);
  const dosed = segment.stage === null ? null : score.doses[segment.item]?.[segment.stage - 1];
  if (dosed?.kind === "own pace") return { ...shown, pace: dosed.told };
  if (turns && !step.works && segment.kind !== "release" && shown.side === "both") shown.side = turns.lead;
  const dose = dosed;
  if (!dose || !step.unit) return shown;
  const nth = Math.min(Math.floor(run.into / step.unit) + 1, Math.max(1, Math.round(step.ms / step.unit)));
  let at = run.into - (nth - 1) * step.unit, phase = dose.phases.at(-1), part = 1;
  for (const one of dose.phases) {
    if (at < one[1]) { phase = one; part = at / one[1]; break; }
    at -= one[1];
  }
  const side = dose.alternates ? (nth % 2 ? dose.lead : SWAPPED[dose.lead]) : shown.side;
  return { ...shown, counted: dose.kind, nth, total: Math.max(1, Math.round(step.ms / step.unit)), word: phase[0], breath: phase[2] ?? "free", part, opening: phase[0] === dose.phases[0][0], side };
}

// The words of a cue, with the other side where sides were swapped.
export function textOf(score, step, cue) {
  const { side } = segmentOf(score, step);
  return step.side && side && step.side !== side ? overturned(cue.text) : cue.text;
}

// How the item that is on is done otherwise: its rung, and what is said of it; null where it is done as it is.
export function optionOn(score, run, side) {
  const { item } = stepOf(run), rung = rungOf(run, item), other = insteadOn(score, run);
  if (other) return { rung: 0, of: 1, ...filled(other, side) };
  if (!rung) return null;
  const { down = [], up = [] } = score.ladder?.[item] ?? {}, easier = score.easier[item];
  const words = (rung < 0 ? down[-rung - 1] ?? easier?.words : up[rung - 1]) ?? "";
  const name = rung === -1 ? easier?.name ?? "" : "";
  if (!words && !name) return null;
  return { rung, of: Math.max(1, (rung < 0 ? down : up).length), ...filled({ name, words }, side) };
}
export const filled = ({ name, words }, side) => ({ name, words: words.replaceAll("{side}", side ?? "").replaceAll("{other}", SWAPPED[side] ?? "") });
// The other move that is done instead of the item that is on; nothing where it is done as it is.
export const insteadOn = (score, run) => score.instead?.[stepOf(run).item]?.[(run.instead[stepOf(run).item] ?? 0) - 1];

// What is said in the phase that is on: its words, in the first ones and the last; else nothing.
export function phaseWords(score, seen) {
  const says = seen.total ? score.says?.[seen.segment.item]?.[seen.segment.stage - 1] : null;
  if (!says || (seen.nth > says.first && seen.nth < seen.total)) return "";
  return (says.words[seen.word] ?? "").replace("{side}", seen.side ?? "").replace("{other}", SWAPPED[seen.side] ?? "");
}

// How the teacher stands: as the stage says that is on or comes next in this pass, or as a note has turned her since.
export function standing(score, run) {
  const { item, group } = stepOf(run), stands = score.stands?.[item];
  if (!stands) return "";
  let first = Math.min(run.at, run.steps.length - 1);
  while (first > 0 && run.steps[first - 1].group === group) first -= 1;
  const coming = run.steps.slice(run.at).find((step) => step.group === group && step.works);
  let facing = stands[(segmentOf(score, coming ?? stepOf(run))?.stage ?? stands.length) - 1] ?? stands[0];
  for (let n = first; n <= run.at && n < run.steps.length; n += 1) {
    for (const cue of cuesOf(score, run.steps[n])) {
      const turn = cue.kind === "note" ? score.turns?.[item]?.[Number(cue.id.split(".").at(-1))] : "";
      if (turn && (n < run.at || cueMs(cue, run.steps[n]) <= run.into)) facing = turn;
    }
  }
  return facing;
}

// What is to be shown of the item that is on: the part of it that is done now, or comes next in this pass.
export function placeShown(score, run) {
  const step = stepOf(run), ahead = run.steps.slice(run.at).find((one) => one.group === step.group && one.works);
  if (run.instead[step.item]) return `${step.item}@+${run.instead[step.item]}`;
  const stage = segmentOf(score, ahead ?? step)?.stage ?? 1;
  return stage > 1 ? `${step.item}@${stage}` : step.item;
}

// The teacher's own note that comes soon, or has just come: its text and in how many milliseconds.
const AHEAD = 10_000, STAYS = 5000;
export function noteNow(score, run) {
  const from = Math.max(0, run.at - 1);
  let ahead = -run.into - (from < run.at ? run.steps[from].ms : 0), found = null;
  for (let n = from; n < run.steps.length && ahead <= AHEAD; n += 1) {
    const step = run.steps[n];
    for (const cue of cuesOf(score, step)) {
      if (cue.kind !== "note") continue;
      const ms = ahead + cueMs(cue, step);
      if (ms > -STAYS && ms <= AHEAD && (!found || ms < found.ms)) found = { text: cue.text, ms };
    }
    ahead += step.ms;
  }
  return found;
}

// The words to say now: those being said, or the last ones said in this pass; or the silence between them.
export function wordsNow(score, run, without = SHORT) {
  const { group } = stepOf(run);
  let into = run.into;
  for (let index = Math.min(run.at, run.steps.length - 1); index >= 0 && run.steps[index].group === group; index -= 1) {
    const step = run.steps[index];
    const begun = cuesOf(score, step)
      .filter((cue) => (cue.kind === "wait" || (cue.mode === "spoken" && !without.includes(cue.kind))) && cueMs(cue, step) <= into)
      .sort((a, b) => cueMs(a, step) - cueMs(b, step));
    const cue = begun.at(-1);
    if (cue) {
      const said = into > cueMs(cue, step) + (cue.end - cue.start) * 1000;
      if (cue.kind === "wait") return { text: `… ${cue.text.startsWith("until") ? cue.text : ""}`.trim(), key: "", said: true };
      return { text: textOf(score, step, cue), key: cue.key ? textOf(score, step, { text: cue.key }) : "", said };
    }
    into = Infinity;
  }
  return { text: "", key: "", said: true };
}

// Whether a second side lasts otherwise than planned because that is what its first side really got.
export function asTheFirst(run, step, planned) {
  const first = planned.find((one) => one.partner === step.id);
  const plan = planned.find((one) => one.id === step.id);
  if (!first || !plan || step.ms === plan.ms) return false;
  const got = run.log.filter((span) => span.step === first.id && !span.paused).reduce((sum, span) => sum + span.end - span.start, 0);
  return got > 0 && Math.ceil(got / (first.unit || 1)) * (first.unit || 1) === step.ms;
}

// What comes next: the other side of the same item, or the next item.
export function following(run) {
  const now = stepOf(run);
  const next = run.steps.slice(run.at + 1).find((step) => step.item !== now.item || step.side !== now.side);
  return next && { ...next, same: next.item === now.item };
}
