// The sound files that the teacher has picked for a class: kept in this browser, read here, never sent anywhere.
import { clock, el, hide, show } from "../drawing.js";
import { root } from "./page.js";

//: ``files``: each with its address in this page and its seconds, null where the browser cannot tell; ``again``: from the first one once more.
export const list = { files: [], again: true, changed: () => {} };

// ---- kept in this browser, a class at a time --------------------------------------------------------------------
const asked = (request) =>
  new Promise((done, failed) => {
    request.onsuccess = () => done(request.result);
    request.onerror = () => failed(request.error);
  });
async function store(mode) {
  const opening = indexedDB.open("extendum-music", 1);
  opening.onupgradeneeded = () => opening.result.createObjectStore("of");
  return (await asked(opening)).transaction("of", mode).objectStore("of");
}
async function keep() {
  try {
    const of = await store("readwrite"),
      files = list.files.map(({ file }) => file);
    await asked(files.length ? of.put({ files, again: list.again }, root.class) : of.delete(root.class));
    show("music-kept", "");
  } catch {
    show("music-kept", "This browser has no room to keep them: after a reload they have to be chosen again.");
  }
}
async function kept() {
  try {
    return await asked((await store("readonly")).get(root.class));
  } catch {
    return null;
  }
}

// ---- picked ---------------------------------------------------------------------------------------------------------
// How long a file is, as this browser reads it; nothing where it cannot play it.
const secondsOf = (address) =>
  new Promise((done) => {
    const probe = new Audio();
    probe.preload = "metadata";
    probe.addEventListener("loadedmetadata", () => done(Number.isFinite(probe.duration) ? probe.duration : null));
    probe.addEventListener("error", () => done(undefined));
    probe.src = address;
  });
async function add(files) {
  const refused = [];
  for (const file of files) {
    const address = URL.createObjectURL(file),
      seconds = await secondsOf(address);
    if (seconds === undefined) {
      refused.push(file.name);
      URL.revokeObjectURL(address);
    } else list.files.push({ file, address, seconds });
  }
  show(
    "music-refused",
    refused.length ? `This browser cannot play ${refused.join(", ")}. MP3, M4A, OGG, FLAC and WAV usually play.` : "",
  );
  draw();
}
function drop(n) {
  URL.revokeObjectURL(list.files.splice(n, 1)[0].address);
  draw();
}
function button(words, label, what) {
  const made = Object.assign(document.createElement("button"), {
    type: "button",
    className: "button",
    textContent: words,
  });
  made.setAttribute("aria-label", label);
  made.addEventListener("click", () => {
    what();
    keep();
  });
  return made;
}
function row({ file, seconds }, n) {
  const line = document.createElement("li"),
    name = Object.assign(document.createElement("span"), { className: "music-name", textContent: file.name });
  const lasts = Object.assign(document.createElement("span"), {
    className: "num",
    textContent: seconds === null ? "length unknown" : clock(Math.round(seconds)),
  });
  line.append(name, lasts);
  if (n)
    line.append(
      button("Earlier", `Play ${file.name} earlier`, () => {
        list.files.splice(n - 1, 0, ...list.files.splice(n, 1));
        draw();
      }),
    );
  line.append(button("Remove", `Remove ${file.name}`, () => drop(n)));
  return line;
}

// ---- what it comes to -------------------------------------------------------------------------------------------------
// What they come to beside what the class needs: the seconds until its closing quiet, or its end.
export function comesTo(files, again, needs, quiet) {
  const until = `${clock(needs)} until the ${quiet ? "closing quiet" : "end"}`;
  const many = `${files.length} ${files.length === 1 ? "file" : "files"}`;
  if (files.some(({ seconds }) => seconds === null))
    return `${many}. The class needs ${until}; whether that is enough cannot be told.`;
  const all = Math.round(files.reduce((sum, { seconds }) => sum + seconds, 0)),
    short = needs - all;
  if (short <= 0) return `${many}, ${clock(all)}: enough for the ${until}.`;
  const then = again ? `it begins again after ${clock(all)}` : `the last ${clock(short)} have no music`;
  return `${many}, ${clock(all)}: ${clock(short)} shorter than the ${until}, so ${then}.`;
}
let needed = [0, false];
function draw() {
  const some = list.files.length > 0;
  el("music-list").replaceChildren(...list.files.map(row));
  for (const id of ["music-list", "music-how"]) hide(id, !some);
  el("music-again").checked = list.again;
  show("music-choose", some ? "Add music…" : "Your music…");
  show("music-told", some ? comesTo(list.files, list.again, ...needed) : "");
  list.changed();
}

// What was picked before, and from now on what is picked; ``needs``: seconds of the class that want music, until its closing quiet or its end.
export async function playlist(needs, quiet) {
  needed = [needs, quiet];
  el("music-choose").addEventListener("click", () => el("music-files").click());
  el("music-files").addEventListener("change", async ({ target }) => {
    await add([...target.files]);
    target.value = "";
    keep();
  });
  el("music-again").addEventListener("change", ({ target }) => {
    list.again = target.checked;
    draw();
    keep();
  });
  const was = await kept();
  if (!was) return;
  list.again = was.again;
  await add(was.files);
}
