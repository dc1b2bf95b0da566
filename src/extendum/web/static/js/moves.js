// Keys of the Moves: find, new, change, keep. Everything else is links and forms.
const press = (id) => document.getElementById(id)?.click();
document.addEventListener("keydown", (event) => {
  const typing = event.target.closest("input:not([type=checkbox], [type=radio]), textarea, select");
  if (event.key === "Enter" && (event.ctrlKey || event.metaKey) && document.getElementById("keep")) {
    event.preventDefault();
    return press("keep");
  }
  if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
  const act = { "/": () => document.getElementById("q")?.focus(), n: () => press("new-move"), e: () => press("edit") }[
    event.key.toLowerCase()
  ];
  if (!act) return;
  event.preventDefault();
  act();
});
