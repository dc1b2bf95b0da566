// Choosing by look: an area and a position are written into the search as words, so that both can be seen and typed on.
const chosen = { area: "", position: "" };

function into(panel) {
  const field = document.getElementById(panel.dataset.for);
  field.value = [chosen.area, chosen.position].filter(Boolean).join(", ");
  field.dispatchEvent(new Event("input", { bubbles: true }));
  for (const one of panel.querySelectorAll("[data-part]")) {
    if (one.dataset.words) one.setAttribute("aria-pressed", String(chosen[one.dataset.part] === one.dataset.words));
  }
}
function press(one) {
  const { part, words } = one.dataset;
  if (part) chosen[part] = chosen[part] === words ? "" : words;
  else chosen.area = chosen.position = "";
  into(one.closest(".look"));
}
if (matchMedia("(max-width: 1100px)").matches) document.querySelector(".moves-look")?.removeAttribute("open");
document.addEventListener("click", (event) => {
  const one = event.target.closest(".look [data-part]");
  if (one) return press(one);
  const opener = event.target.closest("[data-open-look]");
  if (opener) open(document.getElementById("look").hidden);
  else if (document.querySelector("[data-open-look]") && !event.target.closest(".adder")) open(false);
});
function open(on) {
  const panel = document.getElementById("look");
  panel.hidden = !on;
  document.querySelector("[data-open-look]").setAttribute("aria-expanded", String(on));
  if (on) panel.querySelector("[role=button]").focus();
}
document.addEventListener("keydown", (event) => {
  if (event.key === "Escape" && event.target.closest?.(".adder .look")) {
    event.preventDefault();
    event.stopPropagation();
    open(false);
    return document.querySelector("[data-open-look]").focus();
  }
  const one = event.target.closest?.(".look [role=button]");
  if (!one || !["Enter", " "].includes(event.key)) return;
  event.preventDefault();
  press(one);
});
