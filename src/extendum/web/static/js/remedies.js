// What a remedy would change, told beside its button as soon as that is seen. The words are the server's.
const told = new Map(); // by the address that they came from, which has the class's stamp in it

async function tell(place) {
  const from = place.dataset.from;
  if (!told.has(from)) {
    const answer = await fetch(from).catch(() => null);
    if (!answer?.ok) return; // without the network it stays empty, and the button still works later
    told.set(from, await answer.text());
  }
  if (place.dataset.from === from) show(place);
}
function show(place) {
  place.innerHTML = told.get(place.dataset.from);
  place.title = place.textContent; // where its room is too small
}

const seen = new IntersectionObserver((entries) => {
  for (const { isIntersecting, target } of entries) {
    if (!isIntersecting) continue;
    seen.unobserve(target);
    tell(target);
  }
});
function watch() {
  for (const place of document.querySelectorAll(".will:empty")) {
    if (told.has(place.dataset.from)) show(place);
    else seen.observe(place);
  }
}
document.body.addEventListener("htmx:afterSettle", watch);
watch();
