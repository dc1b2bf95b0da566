// One map of keys: what the help tells (help.toml) is what is pressed. A screen says what each deed does; a deed without a
// function of its own presses the button or the link of that id. A screen with states says which deeds there are in each.
const NAMES = {
  "↑": "ArrowUp",
  "↓": "ArrowDown",
  "←": "ArrowLeft",
  "→": "ArrowRight",
  "↵": "Enter",
  Del: "Delete",
  Esc: "Escape",
  Space: " ",
};
const MODIFIERS = { "⇧": "Shift" };
const also = { Backspace: "Delete" };
const told = JSON.parse(document.getElementById("screen-keys")?.textContent ?? "[]");
const known = new Map(),
  functions = {};
let stateNow = (_event) => null;
// From what the help shows ("Alt+↑", "⇧+N", "U") to what a press is compared with ("Alt+ArrowUp", "Shift+n", "u").
const named = (pressed) => {
  const parts = pressed.split("+"),
    last = parts.pop() || "+";
  const held = parts.map((part) => MODIFIERS[part] ?? part);
  return [...held, NAMES[last] ?? (last.length === 1 ? last.toLowerCase() : last)].join("+");
};
// Keys beside those that the help tells, such as those of the tour while it is there.
export function bind(pressed, deed) {
  const name = named(pressed);
  known.set(name, [...(known.get(name) ?? []), deed]);
}
for (const [pressed, , deed] of told) if (deed) bind(pressed, deed);

export const typing = (target) =>
  target.closest?.("input:not([type=checkbox], [type=radio], [type=range]), textarea, select");
export function pressedIn(event) {
  const shifted = event.shiftKey && (event.key.length > 1 || /[a-z]/i.test(event.key)) ? "Shift+" : "";
  const name = also[event.key] ?? (event.key.length === 1 ? event.key.toLowerCase() : event.key);
  return `${event.ctrlKey || event.metaKey ? "Ctrl+" : ""}${event.altKey ? "Alt+" : ""}${shifted}${name}`;
}
export const deeds = (some) => Object.assign(functions, some);
// What a screen understands beside the keys that its help tells: what a clicker for slides sends, say.
export const understand = (some) => Object.assign(also, some);
// A screen with states: the deeds that there are now, each with what it does in this state.
export const states = (now) => {
  stateNow = now;
};
function run(deed, state = stateNow()) {
  const what = (state ?? functions)[deed];
  if (what) what();
  else if (!state) document.getElementById(deed)?.click();
}
// What can be done here, for the finder: what is pressed, what it does, and how it is set going.
export const actions = () =>
  told
    .filter(([pressed, , deed]) => pressed !== "?" && (!deed || !stateNow() || deed in stateNow()))
    .map(([pressed, does, deed]) => ({
      pressed,
      does,
      run: () => {
        if (deed) return run(deed);
        const parts = named(pressed).split("+"),
          key = parts.at(-1);
        document.body.dispatchEvent(
          new KeyboardEvent("keydown", {
            key,
            shiftKey: parts.includes("Shift"),
            altKey: parts.includes("Alt"),
            bubbles: true,
            cancelable: true,
          }),
        );
        return null;
      },
    }));
document.addEventListener("keydown", (event) => {
  const pressed = pressedIn(event),
    state = stateNow(event);
  if (event.defaultPrevented || (!state && document.querySelector("dialog[open]"))) return;
  if (typing(event.target) && pressed !== "Ctrl+Enter") return;
  const deed = known.get(pressed)?.find((one) => !state || one in state);
  if (["copy", "cut"].includes(deed) && String(getSelection())) return; // what is marked on the page is copied itself
  if (!deed || (event.target.closest("button, a, summary, input, [role=button]") && ["Enter", " "].includes(pressed)))
    return;
  event.preventDefault();
  run(deed, state);
});
