// Catching up: what is still to come is fitted again by the server; it is read for two seconds before it is done.
import * as sounds from "../sounds.js";
import { stepOf } from "../playing.js";
import { act, endsAt, lateMs, live, now } from "./live.js";
import { post, root, tell } from "./page.js";

let catching = null;
export async function catchUp() {
  if (catching) return;
  const mine = (catching = { off: false });
  const { record } = live;
  try {
    const answer = await post(root.catchUp, {
      run: record.run,
      stamp: Number(root.stamp),
      events: record.events,
      at: now(),
      ends_at: Math.round(endsAt()),
    });
    const told = await answer.json();
    if (!answer.ok) {
      tell(told.message, 8000);
      catching = null;
      return;
    }
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
// Leave the class as it is; whether there was something to leave.
export function leaveIt() {
  if (!catching || catching.off) return false;
  catching.off = true;
  tell("Left as it was.");
  return true;
}
let passCaught = null;
export function catchUpAlone() {
  const { group } = stepOf(live.run);
  if (!sounds.settings.auto || passCaught === group || Math.abs(lateMs()) < Number(root.catchesAt) * 1000) return;
  passCaught = group;
  catchUp();
}
