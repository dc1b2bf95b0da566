// What is pressed, clicked or changed before the page's scripts are there waits, in its order, until they are. It runs before
// everything else of the page, so that nobody can see a key or a button that is not listened to.
{
  const waiting = [];
  const kinds = ["keydown", "click", "input", "change", "focus"];
  const textual = "input:not([type=checkbox], [type=radio], [type=range]), textarea, select";
  // The browser itself acts on these, with or without scripts: links, submit buttons, what is typed into a field.
  const acts = "a[href], input, select, textarea, label, summary, button:not([type=button])";
  const own = (event) => {
    const { key } = event,
      on = (selector) => event.target.closest?.(selector);
    if (event.type === "click") return on(acts);
    if (event.type === "focus") return !on(textual);
    if (event.type !== "keydown") return false;
    // Tab goes on from where an earlier key will lead, if it was pressed outside a field.
    if (key === "Tab") return !waiting.length || on(textual);
    if (["Shift", "Control", "Alt", "Meta"].includes(key)) return true;
    return (
      on(textual) && !event.ctrlKey && !event.metaKey && key !== "Escape" && (key !== "Enter" || event.target.form)
    );
  };
  const keep = (event) => {
    if (!event.isTrusted || own(event)) return;
    event.stopImmediatePropagation();
    if (event.key === "Tab") event.preventDefault();
    waiting.push(event);
  };
  // A letter that was pressed for a field which only an earlier key has opened is put into it.
  function write(field, key) {
    if (key.length === 1 && field.selectionStart !== null) {
      field.setRangeText(key, field.selectionStart, field.selectionEnd, "end");
      field.dispatchEvent(new Event("input", { bubbles: true }));
    } else if (key === "Enter") field.form?.requestSubmit();
  }
  function goOn(back) {
    const within = document.querySelector("dialog[open]") ?? document;
    const all = [...within.querySelectorAll("a[href], button, input, select, textarea, summary, [tabindex]")].filter(
      (one) => one.tabIndex >= 0 && !one.disabled && one.getClientRects().length,
    );
    const at = all.indexOf(document.activeElement);
    const next = all[back ? (at < 0 ? all.length : at) - 1 : at + 1];
    next?.focus();
    next?.select?.();
  }
  function again(event) {
    if (event.key === "Tab") {
      goOn(event.shiftKey);
      return;
    }
    const there = event.target.isConnected && event.target !== document.body;
    const target = there ? event.target : document.activeElement;
    if (event.type === "focus" && target !== document.activeElement) return;
    const unspent = target.dispatchEvent(new event.constructor(event.type, event));
    const inserts =
      event.type === "keydown" && target !== event.target && !event.ctrlKey && !event.metaKey && !event.altKey;
    if (unspent && inserts && target.matches("input, textarea")) write(target, event.key);
  }
  for (const kind of kinds) addEventListener(kind, keep, true);
  // The window hears of it after the document, where the others begin with it.
  addEventListener("DOMContentLoaded", () => {
    for (const kind of kinds) removeEventListener(kind, keep, true);
    waiting.forEach(again);
  });
}
