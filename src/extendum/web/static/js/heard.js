// What was heard: the ends of bars are dragged on the sheet, and a correction leads back to where it was made.
import { el } from "./drawing.js";

const form = el("heard-form");
const clock = (s) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;

// Where the minutes of a sheet lie, and which second a point of the screen is: on the line that is nearest, as far as that goes.
const ruled = (sheet) => {
  const minutes = sheet.dataset.minutes.split(" ").map((place) => place.split(",").map(Number));
  const second = Number(sheet.dataset.second),
    length = Number(sheet.dataset.length);
  const at = (event) => {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(sheet.getScreenCTM().inverse());
    const off = ([x, y]) => Math.abs(point.y - y - 9) + Math.max(0, x - 8 - point.x, point.x - x - 60 * second - 8);
    const line = minutes.reduce((best, place, n) => (off(place) < off(minutes[best]) ? n : best), 0);
    const within = Math.min(60, Math.max(0, (point.x - minutes[line][0]) / second));
    return Math.round(Math.min(length, 60 * line + within));
  };
  return { minutes, second, at };
};

const send = (where) => {
  form.action = `${form.action.split("#")[0]}#${where}`;
  form.requestSubmit(form.querySelector("button[name=look]"));
};

const draggable = (edge, { minutes, second, at }) => {
  const { row, pass, end } = edge.dataset;
  const field = form.elements[`${end}-${row}-${pass}`];
  const was = field.value;
  const told = edge.querySelector("title");
  const place = (seconds) => {
    const line = Math.min(minutes.length - 1, Math.floor(Math.max(0, seconds - (end === "to" ? 1 : 0)) / 60));
    edge.setAttribute("x", minutes[line][0] + (seconds - 60 * line) * second - 5);
    edge.setAttribute("y", minutes[line][1] - 1);
    field.value = clock(seconds);
    told.textContent = `${clock(seconds)}`;
  };
  edge.addEventListener("pointerdown", (event) => {
    event.preventDefault();
    edge.setPointerCapture(event.pointerId);
    edge.classList.add("held");
    field.closest("li").classList.add("dragged");
  });
  edge.addEventListener("pointermove", (event) => edge.hasPointerCapture(event.pointerId) && place(at(event)));
  const over = (event) => {
    if (!edge.classList.contains("held")) return;
    edge.classList.remove("held");
    field.closest("li").classList.remove("dragged");
    if (event.type === "pointercancel") field.value = was;
    else if (field.value !== was) send("heard-sheet");
  };
  edge.addEventListener("pointerup", over);
  edge.addEventListener("pointercancel", over);
};

for (const sheet of form.querySelectorAll("svg.heard[data-minutes]")) {
  const ruling = ruled(sheet);
  for (const edge of sheet.querySelectorAll(".edge")) draggable(edge, ruling);
}

// A class that is chosen is laid beside at once.
form.elements.against?.addEventListener("change", () => send("top"));

// Enter in a row leads back to that row.
for (const row of form.querySelectorAll(".heard-row"))
  row.addEventListener("keydown", (event) => {
    if (event.key !== "Enter" || event.target.localName !== "input") return;
    event.preventDefault();
    send(row.id);
  });
