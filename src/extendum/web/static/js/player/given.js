// What came with the page, before anything draws: the figures in their tones, and how they stand.
import { give } from "../figure.js";

export const facts = JSON.parse(document.getElementById("facts").textContent);
const KEPT = `extendum-page-${facts.code}`;
// What this browser remembers of this page; a page from a disk may have nowhere to keep it.
export function remembered() {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "{}");
  } catch {
    return {};
  }
}
export function remember(some) {
  try {
    localStorage.setItem(KEPT, JSON.stringify({ ...remembered(), ...some }));
  } catch {
    /* it is gone when the page is closed */
  }
}

const dark = matchMedia("(prefers-color-scheme: dark)").matches;
async function unpacked(id) {
  const bytes = Uint8Array.from(atob(document.getElementById(id).textContent.trim()), (one) => one.charCodeAt(0));
  const plain = new Blob([bytes]).stream().pipeThrough(new DecompressionStream("gzip"));
  return new Response(plain).json();
}
const figures = unpacked("figures");
for (const key of facts.figures)
  give(
    key,
    figures.then((some) => ({ ...some.drawings[key], tones: dark ? some.dark : some.light })),
  );

// Until they are unpacked, and where they cannot be: the still pictures of the handout.
for (const template of document.querySelectorAll("template")) {
  const holder = template.content.querySelector(".live"),
    still = document.querySelector(`[data-still="${holder?.dataset.figure}"] svg`);
  if (!holder || !still) continue;
  const copy = still.cloneNode(true);
  copy.classList.toggle("over", holder.dataset.flip === "yes");
  holder.append(copy);
}
// The figure as in a mirror, unless somebody wants it as one who stands opposite.
if (remembered().opposite) document.body.classList.add("opposite");
document.documentElement.className = "plays";
