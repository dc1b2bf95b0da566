// The Shelf: N goes to the new class; menus close when one looks elsewhere; classes are found by what is typed.
import { deeds } from "./keys.js";

deeds({ "new-class": () => document.getElementById("new-title")?.focus() });
const closeMenus = (except) => {
  for (const menu of document.querySelectorAll("details.menu[open]")) if (menu !== except) menu.open = false;
};
document.addEventListener("click", (event) => closeMenus(event.target.closest("details.menu")));
document.addEventListener("keydown", (event) => {
  if (event.key === "Escape") closeMenus(null);
});

// From a dozen classes on they are found by their names and groups.
document.getElementById("find-class")?.addEventListener("input", ({ target }) => {
  const asked = target.value.toLowerCase().split(/\s+/).filter(Boolean),
    all = [...document.querySelectorAll(".shelf > li")];
  for (const one of all)
    one.hidden = !asked.every((word) => one.querySelector(".label-card").textContent.toLowerCase().includes(word));
  const shown = all.filter((one) => !one.hidden).length;
  document.getElementById("found-classes").textContent = asked.length ? `${shown} of ${all.length}` : "";
});
