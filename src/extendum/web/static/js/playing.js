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

// What is to be shown of a segment at a time: seconds left, and in counted work the phase, the count and the side.
export function phase(score, index, ms) {
  const segment = score.segments[index];
  const all = score.beats[segment.id] ?? [];
  const beat = all.findLast((cue) => cue.start * 1000 <= ms);
  const shown = {
    segment, beat,
    works: segment.stage !== null,
    left: Math.max(0, Math.ceil(segment.end - ms / 1000)),
    share: (ms / 1000 - segment.start) / (segment.end - segment.start),
    side: segment.side,
  };
  if (!beat) return shown;
  const opens = (cue) => cue.word === all[0].word;
  const nth = all.filter((cue) => opens(cue) && cue.start * 1000 <= ms).length;
  return { ...shown, word: beat.word, nth, total: all.filter(opens).length, opening: opens(beat), side: beat.side ?? segment.side };
}

export function withBeats(score) {
  const beats = {};
  for (const cue of score.cues) {
    if (!cue.kind.endsWith("-phase")) continue;
    // A rep's phase reads "out 3", or "out 3 left" where the side alternates.
    const [word, , side] = cue.kind === "rep-phase" ? cue.text.split(" ") : [cue.text];
    (beats[cue.segment] ??= []).push({ ...cue, word, side });
  }
  const short = ["count", "halfway", "pulse-phase", "last", "time-left", "say-breath"];
  const spoken = score.cues.filter((cue) => cue.mode === "spoken" && !short.includes(cue.kind));
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
