// The form of a move of one's own: its figure is shown as it is chosen. One that is seen from elsewhere is drawn when it
// is asked for; until it is there, and where it never comes, the picture before it stays.
const holder = document.getElementById("figure-seen");
const {
  figure,
  figure_view: view,
  figure_flipped: flipped,
  sidedness,
} = /** @type {any} */ (holder.closest("form").elements);
const told = holder.querySelector("[role=status]");
let wanted = 0;

function address() {
  const degrees = view.selectedOptions[0].dataset.degrees;
  const asked = new URLSearchParams(holder.dataset.asked);
  if (degrees) asked.set("view", degrees);
  if (flipped.checked) asked.set("flipped", "1");
  if ("sided" in sidedness.selectedOptions[0].dataset) asked.set("side", "left");
  return `${holder.dataset.figures.replace("-key-", encodeURIComponent(figure.value))}?${asked}`;
}
async function show() {
  const mine = ++wanted;
  if (!figure.value) {
    holder.querySelector("img")?.remove();
    told.textContent = "This move has no figure.";
    return;
  }
  const made = new Image(144, 144);
  made.alt = "";
  made.src = address();
  const slow = setTimeout(() => {
    if (mine === wanted) told.textContent = "Being drawn …";
  }, 150);
  try {
    await made.decode();
    if (mine !== wanted) return;
    holder.querySelector("img")?.remove();
    holder.prepend(made);
    told.textContent = "";
  } catch {
    if (mine === wanted) told.textContent = "It could not be drawn just now; this is the one before it.";
  } finally {
    clearTimeout(slow);
  }
}
for (const field of [figure, view, flipped, sidedness]) field.addEventListener("change", show);
if (figure.value && !holder.querySelector("img")) show();
