// What comes between the last look at a run and this one: work that begins or ends, and the cues that have been reached.
import { stepOf } from "./playing.js";
import { cueMs, cuesOf } from "./seen.js";

let heard = { id: null, into: 0, works: false };
// ``on``: what to do at the beginning of a step, of work, at its end, and at a cue; after a jump nothing is made up for.
export function sounded(score, run, on) {
  const step = stepOf(run),
    same = heard.id === step.id;
  const from = same ? heard.into : -1,
    jumped = same && run.into - heard.into > 500;
  if (!same && heard.works && !step.works) on.ends?.();
  if (!same && step.works) on.begins?.();
  if (!same) on.step?.(run);
  heard = { id: step.id, into: run.into, works: step.works };
  if (jumped) return;
  for (const cue of cuesOf(score, step)) {
    const at = cueMs(cue, step);
    if (at > from && at <= run.into) on.cue(cue, step);
  }
}
