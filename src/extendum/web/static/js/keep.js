// What is typed stays: an answer from the server never overwrites a field that was typed in and is not yet saved.
const typed = new Set();
const textual = "input, textarea, select";
export const valueIn = (field) => (["checkbox", "radio"].includes(field.type) ? field.checked : field.value);
const saved = (field) => (["checkbox", "radio"].includes(field.type) ? field.defaultChecked : field.defaultValue);
// Fields whose values are on their way: the answer may show what the server made of them.
export const leaves = (fields) => fields.forEach((field) => typed.delete(field));
// A refusal, or no answer, saved nothing: they are typed and unsaved again.
export const comesBack = (fields) =>
  fields.filter((field) => valueIn(field) !== saved(field)).forEach((field) => typed.add(field));

// The fields whose values a request of this element carries: those of a form, or its own; keys and most buttons carry none.
function fieldsOf(source) {
  if (source.matches("[hx-include]")) return [...document.querySelector(source.getAttribute("hx-include")).elements];
  if (source.matches(textual)) return [source];
  return source.matches("form") ? [...source.elements] : [];
}

document.addEventListener("input", (event) => typed.add(event.target), true);
// The values leave with a request when it is sent, not when it is queued.
document.body.addEventListener("htmx:configRequest", (event) => {
  if (event.detail.verb === "post") leaves(fieldsOf(event.detail.elt));
});
for (const failed of ["htmx:responseError", "htmx:sendError"]) {
  document.body.addEventListener(failed, (event) => comesBack(fieldsOf(event.detail.elt)));
}

const holds = { value: true, checked: true, selected: true };
Idiomorph.defaults.callbacks.beforeAttributeUpdated = (name, node) => {
  if (name === "open" && node.matches?.("details")) return false; // what was opened stays open
  const field = node.closest?.("select") ?? node;
  return !(holds[name] && typed.has(field));
};
// A field that was opened to be typed over stays all chosen when its value is another by then.
let over = null;
Idiomorph.defaults.callbacks.beforeNodeMorphed = (node) => {
  if (node.dataset?.stays !== undefined) return false; // filled by answers of its own
  const all =
    node === document.activeElement && node.matches?.("input, textarea") && node.value && node.selectionStart === 0;
  over = all && node.selectionEnd === node.value.length ? node : null;
  return true;
};
Idiomorph.defaults.callbacks.afterNodeMorphed = (node) => {
  if (node === over && over.matches("input, textarea")) over.select();
};
