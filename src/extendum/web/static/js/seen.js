// What is to be seen of a run at a time: the segment, the count, the side, the words and what comes next.
import { rungOf, stepOf } from "./playing.js";

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
    step,
    segment,
    works: step.works,
    waits: step.waits,
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
  let at = run.into - (nth - 1) * step.unit,
    phase = dose.phases.at(-1),
    part = 1;
  for (const one of dose.phases) {
    if (at < one[1]) {
      phase = one;
      part = at / one[1];
      break;
    }
    at -= one[1];
  }
  const side = dose.alternates ? (nth % 2 ? dose.lead : SWAPPED[dose.lead]) : shown.side;
  return {
    ...shown,
    counted: dose.kind,
    nth,
    total: Math.max(1, Math.round(step.ms / step.unit)),
    word: phase[0],
    breath: phase[2] ?? "free",
    part,
    opening: phase[0] === dose.phases[0][0],
    side,
  };
}

// The words of a cue, with the other side where sides were swapped.
export function textOf(score, step, cue) {
  const { side } = segmentOf(score, step);
  return step.side && side && step.side !== side ? overturned(cue.text) : cue.text;
}

// How the item that is on is done otherwise: its rung, and what is said of it; null where it is done as it is.
export function optionOn(score, run, side) {
  const { item } = stepOf(run),
    rung = rungOf(run, item),
    other = insteadOn(score, run);
  if (other) return { rung: 0, of: 1, ...filled(other, side) };
  if (!rung) return null;
  const { down = [], up = [] } = score.ladder?.[item] ?? {},
    easier = score.easier[item];
  const words = (rung < 0 ? (down[-rung - 1] ?? easier?.words) : up[rung - 1]) ?? "";
  const name = rung === -1 ? (easier?.name ?? "") : "";
  if (!words && !name) return null;
  return { rung, of: Math.max(1, (rung < 0 ? down : up).length), ...filled({ name, words }, side) };
}
export const filled = ({ name, words }, side) => ({
  name,
  words: words.replaceAll("{side}", side ?? "").replaceAll("{other}", SWAPPED[side] ?? ""),
});
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
  const { item, group } = stepOf(run),
    stands = score.stands?.[item];
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
  const step = stepOf(run),
    ahead = run.steps.slice(run.at).find((one) => one.group === step.group && one.works);
  if (run.instead[step.item]) return `${step.item}@+${run.instead[step.item]}`;
  const stage = segmentOf(score, ahead ?? step)?.stage ?? 1;
  return stage > 1 ? `${step.item}@${stage}` : step.item;
}

// The teacher's own note that comes soon, or has just come: its text and in how many milliseconds.
const AHEAD = 10_000,
  STAYS = 5000;
export function noteNow(score, run) {
  const from = Math.max(0, run.at - 1);
  let ahead = -run.into - (from < run.at ? run.steps[from].ms : 0),
    found = null;
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
      .filter(
        (cue) =>
          (cue.kind === "wait" || (cue.mode === "spoken" && !without.includes(cue.kind))) && cueMs(cue, step) <= into,
      )
      .sort((a, b) => cueMs(a, step) - cueMs(b, step));
    const cue = begun.at(-1);
    if (cue) {
      const said = into > cueMs(cue, step) + (cue.end - cue.start) * 1000;
      if (cue.kind === "wait")
        return { text: `… ${cue.text.startsWith("until") ? cue.text : ""}`.trim(), key: "", said: true };
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
  const got = run.log
    .filter((span) => span.step === first.id && !span.paused)
    .reduce((sum, span) => sum + span.end - span.start, 0);
  return got > 0 && Math.ceil(got / (first.unit || 1)) * (first.unit || 1) === step.ms;
}

// What comes next: the other side of the same item, or the next item.
export function following(run) {
  const now = stepOf(run);
  const next = run.steps.slice(run.at + 1).find((step) => step.item !== now.item || step.side !== now.side);
  return next && { ...next, same: next.item === now.item };
}
