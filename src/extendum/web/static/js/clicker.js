// The clicker: large keys. The Stage does what is pressed; what is on is folded here, so that the keys say what they do.
import { can, clock, el, hide, opposite, show } from "./drawing.js";
import { follow, here, state } from "./follow.js";
import { leftMs } from "./playing.js";
import { seenNow } from "./seen.js";

const { press: address, csrf } = el("follows").dataset;
let toldUntil = 0;
function tell(words) {
  show("told", words);
  toldUntil = performance.now() + 5000;
}
async function press(kind) {
  const id = crypto.randomUUID?.() ?? `${Date.now()}-${Math.random()}`.slice(0, 40);
  navigator.vibrate?.(20);
  // The same press is sent again when the answer is lost; the Stage does it once.
  for (let tries = 0; tries < 3; tries += 1) {
    try {
      const answer = await fetch(address, {
        method: "POST",
        headers: { "X-CSRFToken": csrf, "Content-Type": "application/json" },
        body: JSON.stringify({ id, kind }),
      });
      if (answer.status === 404) return tell("This clicker was revoked. Its owner makes another under Screens.");
      const { message } = await answer.json();
      return tell(message ?? "sent");
    } catch {
      tell("The server does not answer: trying again.");
    }
  }
  return tell("That press was not sent: the server does not answer.");
}
for (const button of document.querySelectorAll("button[data-press]")) {
  // Without the focus, so that the space bar is the pause again and not this key once more.
  button.addEventListener("click", () => {
    button.blur();
    press(button.dataset.press);
  });
}
const keys = {
  " ": "pause",
  enter: "go",
  pagedown: "go",
  pageup: "back",
  ".": "pause",
  l: "longer",
  o: "more",
  b: "back",
  r: "again",
  n: "skip",
  x: "easier",
};
document.addEventListener("keydown", (event) => {
  const kind = keys[event.key.toLowerCase()];
  if (!kind || event.ctrlKey || event.metaKey || event.altKey || event.repeat || event.target.closest("button")) return;
  event.preventDefault();
  press(kind);
});

function draw() {
  const run = state.gone ? null : here();
  const on = Boolean(run?.started) && !run.ended;
  hide("keys", !on);
  hide("over", !run?.ended);
  hide("waits", on || run?.ended || state.gone);
  hide("gone", !state.gone);
  if (performance.now() > toldUntil) show("told", state.reached ? "" : "The server does not answer.");
  if (!on) return;
  const { score } = state,
    seen = seenNow(score, run),
    { step, works, waits, left } = seen;
  const work = run.steps.some((one, n) => n > run.at && one.group === step.group && one.works);
  show("name", score.names[step.item] ?? "A rest");
  show("side", opposite[seen.side] ? seen.side : "");
  show("count", seen.total ? `${seen.nth} of ${seen.total}` : waits ? "open" : `${left} s`);
  show("left", `${clock(Math.ceil(leftMs(run) / 1000))} to go`);
  show("go-word", works ? (waits ? "Go on" : "End it now") : work ? "They are in" : "Go on");
  show("pause-word", run.running ? "Pause" : "Go on");
  can("longer", works && !waits);
  can("more", works && step.unit);
  can("easier", score.easier[step.item]);
}
follow(draw);
(function frame() {
  draw();
  requestAnimationFrame(frame);
})();
