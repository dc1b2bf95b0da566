// Playing a class: the fold of events into a run. What is to be seen of it at a time is in seen.js.
// The fold is the one of core/run/actions.py, rule by rule; a test holds them together. Times are whole milliseconds of the
// wall clock. Nothing here touches the page.

const BACK_WITHIN = 2000;
const LONGEST = 3_600_000;
const MOST_STEPS = 4000;

export const fresh = (steps, spare = []) => ({
  steps,
  at: 0,
  into: 0,
  running: false,
  started: false,
  ended: false,
  clock: 0,
  log: [],
  rungs: {},
  instead: {},
  seen: [],
  spare,
  left: null,
  stopped: "",
});
export const stepOf = (run) => run.steps[Math.min(run.at, run.steps.length - 1)];
export const leftMs = (run) =>
  run.ended
    ? 0
    : Math.max(0, stepOf(run).ms - run.into) + run.steps.slice(run.at + 1).reduce((sum, step) => sum + step.ms, 0);
export const fold = (steps, events, spare = []) => events.reduce(after, fresh(steps, spare));

// The run after one more event; one that was seen before changes nothing, and time never runs backwards.
export function after(run, event) {
  if (run.seen.includes(event.id)) return run;
  if (!kinds[event.kind]) throw new Error(`no such event: ${event.kind}`);
  const now = { ...advance(run, event.at) };
  now.seen = [...now.seen, event.id];
  if (
    !now.steps.length ||
    (event.kind !== "start" && !now.started) ||
    (now.ended && !["back", "retake"].includes(event.kind))
  )
    return now;
  const then = kinds[event.kind](now, event);
  return keepsLeft.includes(event.kind) ? then : { ...then, left: null };
}

// The run at a time: what is running goes on, step after step; an open step waits.
export function advance(run, now) {
  if (!run.started || run.ended || now <= run.clock)
    return run.started && !run.ended ? run : { ...run, clock: Math.max(run.clock, now) };
  if (!run.running)
    return {
      ...run,
      clock: now,
      log: logged(run.log, { step: stepOf(run).id, start: run.clock, end: now, paused: true }),
    };
  let it = run;
  while (it.clock < now && !it.ended) {
    const step = it.steps[it.at];
    const rest = step.waits ? now - it.clock : Math.max(0, step.ms - it.into);
    const taken = Math.min(rest, now - it.clock);
    const log = taken
      ? logged(it.log, { step: step.id, start: it.clock, end: it.clock + taken, paused: false })
      : it.log;
    it = { ...it, into: it.into + taken, clock: it.clock + taken, log };
    if (!step.waits && it.into >= step.ms) it = finished(it);
  }
  return it.ended ? { ...it, clock: now } : it;
}

function logged(log, span) {
  const last = log.at(-1);
  if (last && last.step === span.step && last.paused === span.paused && last.end === span.start)
    return [...log.slice(0, -1), { ...last, end: span.end }];
  return [...log, span];
}
const withStep = (run, index, changes) => ({
  ...run,
  steps: run.steps.map((step, n) => (n === index ? { ...step, ...changes } : step)),
});
const indexOf = (run, id) => run.steps.findIndex((step) => step.id === id);
const to = (run, index) =>
  index >= run.steps.length
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
  return run.steps.length + steps.length > MOST_STEPS
    ? run
    : { ...run, steps: [...run.steps.slice(0, index), ...steps, ...run.steps.slice(index)] };
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
    for (const [step, n] of here)
      if (n >= from) run = withStep(run, n, { side: step.side === "left" ? "right" : "left" });
    return run;
  },
  insert(run, event) {
    const rest = {
      id: event.id,
      item: event.step,
      group: event.id,
      ms: most(Math.max(1000, event.ms)),
      side: "",
      works: false,
      waits: false,
      unit: 0,
      partner: "",
      down: 1,
      up: 0,
      instead: 0,
    };
    return putIn(run, [rest]);
  },
  bring(run, event) {
    const first = [...run.spare, ...run.steps].filter(
      (step) => step.item === event.step && !step.id.includes("~") && step.group.endsWith(".1"),
    );
    const mark = (name) => (name ? `${name}~${event.id}` : "");
    return putIn(
      run,
      first.map((step) => ({ ...step, id: mark(step.id), group: mark(step.group), partner: mark(step.partner) })),
    );
  },
  fit(run, event) {
    const index = indexOf(run, event.step);
    return index <= run.at ? run : withStep(run, index, { ms: most(Math.max(0, event.ms)) });
  },
  easier(run) {
    const { item, down } = stepOf(run),
      rung = rungOf(run, item) - 1;
    return onRung(run, item, rung < -down ? 0 : rung);
  },
  deeper(run) {
    const { item, up } = stepOf(run);
    return onRung(run, item, Math.min(up, rungOf(run, item) + 1));
  },
  instead(run) {
    const step = stepOf(run),
      nth = ((run.instead[step.item] ?? 0) + 1) % (step.instead + 1);
    const { [step.item]: _, ...others } = run.instead;
    return { ...run, instead: nth ? { ...others, [step.item]: nth } : others };
  },
  rewind(run, event) {
    let index = Math.min(run.at, run.steps.length - 1),
      into = run.into,
      back = Math.max(0, event.ms);
    while (back > into && index > 0) {
      back -= into;
      index -= 1;
      into = run.steps[index].ms;
    }
    return { ...run, at: index, into: Math.max(0, into - back) };
  },
  end: (run) => ({ ...to(run, run.steps.length), stopped: stepOf(run).id }),
};
