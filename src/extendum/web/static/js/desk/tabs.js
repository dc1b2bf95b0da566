// On a narrow window the Desk is three tabs: the list, the sheet, and what is chosen. What is chosen opens at once.
import { tell } from "./room.js";

const page = document.querySelector(".desk-page"),
  narrow = matchMedia("(max-width: 1099px)");
export function show(tab) {
  page.dataset.tab = tab;
  for (const one of document.querySelectorAll(".tabs [role=tab]"))
    one.setAttribute("aria-selected", String(one.dataset.to === tab));
  if (narrow.matches) tell();
}
document.addEventListener("click", (event) => {
  const tab = event.target.closest(".tabs [role=tab]");
  if (tab) return show(tab.dataset.to);
  const chooser = event.target.closest("[data-choose], #sheet .seg");
  if (!chooser || !narrow.matches || event.ctrlKey || event.shiftKey || event.metaKey) return undefined;
  document.getElementById("more-items")?.hidePopover?.();
  return show(chooser.dataset.choose === "" ? "list" : "move");
});
document.body.addEventListener("htmx:afterSettle", (event) => {
  if (event.detail.target.id === "desk") show(page.dataset.tab);
});
document.body.addEventListener("focusing", ({ detail: { id } }) => {
  if (narrow.matches && id.startsWith("words")) show("move");
});
if (document.getElementById("desk").dataset.item) show("move");
else show("list");
