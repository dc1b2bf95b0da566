// What a fit would change, drawn over the sheet while the peg moves. Every number is the server's: this file only
// asks (one request at a time, the latest wins) and draws.

const SVG = "http://www.w3.org/2000/svg";
const here = () => document.getElementById("desk").dataset;

let wanted = null; // the latest length asked for; null when no preview is on
let asking = false;

export function preview(target) {
  wanted = target;
  ask();
}

// What was shown before the Desk was drawn anew.
export function previewAgain() {
  if (wanted !== null) preview(wanted);
}

async function ask() {
  if (asking || wanted === null) return;
  asking = true;
  const target = wanted;
  try {
    const answer = await fetch(`${here().preview}?target=${encodeURIComponent(target)}`);
    const found = await answer.json();
    if (wanted !== null) show(found);
  } catch {
    if (wanted !== null) show({ message: "The server does not answer: what would change is shown when it does." });
  }
  asking = false;
  if (wanted !== null && wanted !== target) ask();
}

export function endPreview() {
  wanted = null;
  clear();
  const box = document.getElementById("preview");
  box.hidden = true;
  box.replaceChildren();
}

export function clear() {
  document.getElementById("ghost")?.remove();
  const sheet = document.getElementById("sheet");
  if (sheet.dataset.box) sheet.setAttribute("viewBox", sheet.dataset.box);
  sheet.classList.remove("previewing", "longer");
  for (const one of document.querySelectorAll(".seg.goes, .row.goes")) one.classList.remove("goes");
  for (const one of document.querySelectorAll(".becomes")) one.textContent = "";
}

function line(words, kind) {
  const made = document.createElement("p");
  made.className = kind;
  made.textContent = words;
  return made;
}

function show(found) {
  clear();
  const box = document.getElementById("preview");
  box.hidden = false;
  box.replaceChildren(line(found.message ?? found.sentence, found.reached ? "sentence" : "sentence not"));
  if (found.limits?.length) box.append(line(`At a limit: ${found.limits.join(", ")}.`, "lead-in"));
  const then = found.reached ? "fits" : "shows what would have to give";
  if (!found.message) box.append(line(`Enter, or letting go, ${then}; Escape takes back.`, "lead-in"));
  const list = document.createElement("ol");
  list.className = "changes num";
  for (const { name, what } of found.binds?.length ? found.binds : (found.changes ?? [])) {
    const row = document.createElement("li");
    row.append(...[name, what].map((words) => Object.assign(document.createElement("span"), { textContent: words })));
    list.append(row);
  }
  box.append(list);
  for (const change of found.changes ?? []) {
    const row = document.getElementById(`becomes-${change.item}`);
    row.textContent = row.textContent ? `${row.textContent}, ${change.what}` : change.what;
    if (change.what !== "out") continue;
    document.getElementById(`row-${change.item}`).classList.add("goes");
    for (const one of document.querySelectorAll(`.seg[data-item="${CSS.escape(change.item)}"]`))
      one.classList.add("goes");
  }
  if (found.reached) draw(found);
}

// The number of each item where it would begin, and its name where there is room.
function label(ghost, stretches, place, second) {
  const starts = stretches.filter(([, , , , item], n) => !n || stretches[n - 1][4] !== item);
  starts.forEach(([start, , , , item], n) => {
    const row = document.getElementById(`row-${item}`);
    const minute = Math.floor(start / 60);
    const [x, y] = place(minute);
    const room = (Math.min(starts[n + 1]?.[0] ?? start + 60, (minute + 1) * 60) - start) * second;
    const name = row.querySelector(".name").textContent;
    const words = document.createElementNS(SVG, "text");
    words.textContent = row.querySelector(".num").textContent + (room > name.length * 6 + 24 ? ` ${name}` : "");
    words.setAttribute("x", x + (start - minute * 60) * second);
    words.setAttribute("y", y - 2.5);
    ghost.append(words);
  });
}

export function draw(found) {
  const sheet = document.getElementById("sheet");
  const [left, top, across, pitch, track, second, perColumn, columns] = sheet.dataset.ruling.split(" ").map(Number);
  const ghost = document.createElementNS(SVG, "g");
  ghost.id = "ghost";
  sheet.classList.add("previewing");
  const place = (minute) => {
    const column = Math.min(Math.floor(minute / perColumn), columns - 1);
    return [left + column * across, top + (minute - column * perColumn) * pitch];
  };
  for (const [start, end, half, kind] of found.stretches) {
    for (let at = start; at < end; ) {
      const minute = Math.floor(at / 60);
      const to = Math.min(end, (minute + 1) * 60);
      const [x, y] = place(minute);
      const box = document.createElementNS(SVG, "rect");
      box.setAttribute("x", x + (at - minute * 60) * second);
      box.setAttribute("y", half === 2 ? y + track / 2 + 0.7 : y);
      box.setAttribute("width", Math.max(0.6, (to - at) * second - 0.8));
      box.setAttribute("height", half ? track / 2 - 0.7 : track);
      box.setAttribute("class", `k-${kind}`);
      ghost.append(box);
      at = to;
    }
  }
  label(ghost, found.stretches, place, second);
  const minute = Math.floor((found.target - 1) / 60);
  const [x, y] = place(minute);
  const end = document.createElementNS(SVG, "path");
  end.setAttribute("d", `M${x + (found.target - minute * 60) * second} ${y - 3}v${track + 6}`);
  end.setAttribute("class", "target");
  ghost.append(end);
  const { x: x0, y: y0, width, height } = sheet.viewBox.baseVal;
  sheet.dataset.box ??= `${x0} ${y0} ${width} ${height}`;
  const foot = y + track + 6;
  for (let line = perColumn * columns; line <= minute; line += 1) {
    const [at, level] = place(line);
    const number = document.createElementNS(SVG, "text");
    number.textContent = String(line);
    number.setAttribute("x", at - 18);
    number.setAttribute("y", level + track * 0.72);
    ghost.append(number);
  }
  if (foot > height) {
    sheet.setAttribute("viewBox", `${x0} ${y0} ${width} ${foot}`);
    sheet.classList.add("longer");
  }
  sheet.append(ghost);
}
