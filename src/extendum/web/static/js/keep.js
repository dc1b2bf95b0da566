// What is typed stays: an answer from the server never overwrites a field that was typed in and is not yet saved.
const typed = new Set();
// The fields whose values a request of this element carries: those of a form, or its own; keys and most buttons carry none.
function fieldsOf(source) {
  if (source.matches("[hx-include]")) return [...document.querySelector(source.getAttribute("hx-include")).elements];
  if (source.matches("input, textarea, select")) return [source];
  return source.matches("form") ? [...source.elements] : [];
}

document.addEventListener("input", (event) => typed.add(event.target), true);

// The values leave with a request when it is sent, not when it is queued.
document.body.addEventListener("htmx:configRequest", (event) => {
  if (event.detail.verb === "post") for (const field of fieldsOf(event.detail.elt)) typed.delete(field);
});
// A refusal, or no answer, saved nothing: they are typed and unsaved again.
for (const failed of ["htmx:responseError", "htmx:sendError"]) {
  document.body.addEventListener(failed, (event) => {
    for (const field of fieldsOf(event.detail.elt)) if (field.value !== field.defaultValue) typed.add(field);
  });
}
// Another item has other fields, though they stand in the same place.
document.body.addEventListener("htmx:beforeSwap", (event) => {
  const next = /data-item="([^"]*)"/.exec(event.detail.serverResponse ?? "");
  if (event.detail.target.id === "desk" && next && next[1] !== event.detail.target.dataset.item) typed.clear();
});

const holds = { value: true, checked: true, selected: true };
Idiomorph.defaults.callbacks.beforeAttributeUpdated = (name, node) => {
  const field = node.closest?.("select") ?? node;
  return !(holds[name] && typed.has(field));
};
