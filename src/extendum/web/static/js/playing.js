// What playing a timeline is: a small reducer over events, and what is to be seen at a position.
// Time is milliseconds of the class; `now` is a monotonic clock. Nothing here touches the page.

export const fresh = () => ({ running: false, at: 0, anchor: null, ended: false });

export function position(state, now, lengthMs) {
  const at = state.running ? state.at + (now - state.anchor) : state.at;
  return Math.min(Math.max(at, 0), lengthMs);
}

export function reduce(state, event, now, score) {
  const lengthMs = score.length * 1000;
  const at = position(state, now, lengthMs);
  const going = { ...state, at, anchor: now };
  switch (event) {
    case "start":
    case "resume": return { ...going, running: true };
    case "pause": return { ...going, running: false };
    case "back": return { ...going, at: backFrom(at, score), ended: false };
    case "skip": {
      const to = score.stops.find((stop) => stop > at);
      return to === undefined ? { ...going, at: lengthMs, running: false, ended: true } : { ...going, at: to };
    }
    case "end": return { ...going, at: lengthMs, running: false, ended: true };
    default: throw new Error(`no such event: ${event}`);
  }
}

// Within two seconds of a start, back means the one before it.
function backFrom(at, score) {
  const before = score.stops.filter((stop) => stop <= at - 2000);
  return before.length ? before.at(-1) : 0;
}

// A stop is where a pass begins: one item, one side.
export function withStops(score) {
  const stops = [];
  let last = null;
  for (const segment of score.segments) {
    const pass = segment.id.split(".").slice(0, -1).join(".");
    if (pass !== last) stops.push(segment.start * 1000);
    last = pass;
  }
  return { ...score, stops };
}

const WORKS = new Set(["hold", "reps", "breaths"]);

export function segmentAt(score, ms) {
  let low = 0, high = score.segments.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (score.segments[middle].start * 1000 <= ms) low = middle; else high = middle - 1;
  }
  return low;
}

// What comes next: the other side of the same item, or the next item.
export function following(score, index) {
  const now = score.segments[index];
  const next = score.segments.slice(index + 1).find((s) => s.item !== now.item || s.side !== now.side);
  return next && { ...next, same: next.item === now.item };
}

export function phase(score, index, ms) {
  const segment = score.segments[index];
  const left = Math.max(0, Math.ceil(segment.end - ms / 1000));
  const beat = score.beats[segment.id]?.findLast((cue) => cue.start * 1000 <= ms);
  return { segment, left, beat, works: WORKS.has(segment.kind), share: (ms / 1000 - segment.start) / (segment.end - segment.start) };
}

export function withBeats(score) {
  const beats = {};
  for (const cue of score.cues) if (cue.kind.endsWith("-phase")) (beats[cue.segment] ??= []).push(cue);
  const spoken = score.cues.filter((cue) => cue.mode === "spoken" && !["count", "halfway"].includes(cue.kind));
  return { ...score, beats, spoken };
}

// The words to say now: those being said, or the last ones said in this pass.
export function wordsAt(score, index, ms) {
  const segment = score.segments[index];
  const pass = segment.id.split(".").slice(0, 3).join(".");
  const cue = score.spoken.findLast((one) => one.start * 1000 <= ms);
  if (!cue || !cue.segment.startsWith(`${pass}.`)) return { text: "", said: true };
  return { text: cue.text, said: ms > cue.end * 1000 };
}
