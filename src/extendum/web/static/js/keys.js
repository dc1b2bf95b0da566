// One map of keys: what the help tells (help.toml) is what is pressed. A screen says what each deed does; a deed without a
// function of its own presses the button or the link of that id.
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
const ALSO = { Backspace: "Delete" };
const told = JSON.parse(document.getElementById("screen-keys")?.textContent ?? "[]");
const known = new Map(),
  functions = {};
// As it is told ("Alt+↑", "Shift+N", "U"), as it is compared ("Alt+ArrowUp", "Shift+n", "u").
const named = (pressed) => {
  const parts = pressed.split("+"),
    last = parts.pop() || "+";
  return [...parts, NAMES[last] ?? (last.length === 1 ? last.toLowerCase() : last)].join("+");
};
for (const [pressed, , deed] of told) if (deed) known.set(named(pressed), deed);

export const typing = (target) =>
  target.closest?.("input:not([type=checkbox], [type=radio], [type=range]), textarea, select");
export function pressedIn(event) {
  const shifted = event.shiftKey && (event.key.length > 1 || /[a-z]/i.test(event.key)) ? "Shift+" : "";
  const name = event.key.length === 1 ? event.key.toLowerCase() : (ALSO[event.key] ?? event.key);
  return `${event.ctrlKey || event.metaKey ? "Ctrl+" : ""}${event.altKey ? "Alt+" : ""}${shifted}${name}`;
}
export const deeds = (some) => Object.assign(functions, some);
export function run(deed) {
  if (functions[deed]) functions[deed]();
  else document.getElementById(deed)?.click();
}
// What can be done here, for the finder: what is pressed, what it does, and how it is set going.
export const actions = () =>
  told
    .filter(([pressed]) => pressed !== "?")
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
  if (event.defaultPrevented || document.querySelector("dialog[open]") || typing(event.target)) return;
  const deed = known.get(pressedIn(event));
  if (["copy", "cut"].includes(deed) && String(getSelection())) return; // what is marked on the page is copied itself
  if (!deed || (event.target.closest("button, a, [role=button]") && ["Enter", " "].includes(event.key))) return;
  event.preventDefault();
  run(deed);
});
