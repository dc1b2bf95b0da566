// The takes of a recording: the clap on the waveform of the camera, and each take as it sounds.
import { el } from "./drawing.js";

const SVG = "http://www.w3.org/2000/svg";
const seconds = el("clap-s"),
  ms = el("clap-ms");
// What is typed goes as milliseconds.
const typed = () => Math.round(1000 * Number(seconds.value.replace(",", ".")));
const told = () => {
  ms.value = Number.isFinite(typed()) ? typed() : "";
  const at = el("clap-at");
  if (at) at.textContent = (typed() / 1000).toFixed(3);
};
seconds.addEventListener("input", () => {
  told();
  place();
});
el("clap-form").addEventListener("submit", told);

let place = () => {};
const wave = JSON.parse(el("wave")?.textContent ?? "null");
if (wave) {
  const whole = wave.peaks.length * wave.peak_ms;
  const drawing = document.createElementNS(SVG, "svg");
  drawing.setAttribute("viewBox", `0 0 ${whole} 100`);
  drawing.setAttribute("preserveAspectRatio", "none");
  drawing.setAttribute("role", "presentation");
  const up = wave.peaks.map((peak, n) => `${n * wave.peak_ms},${50 - 0.48 * peak}`),
    down = wave.peaks.map((peak, n) => `${n * wave.peak_ms},${50 + 0.48 * peak}`).reverse();
  const shape = document.createElementNS(SVG, "polygon");
  shape.setAttribute("class", "cut-wave");
  shape.setAttribute("points", [...up, ...down].join(" "));
  const line = document.createElementNS(SVG, "line");
  line.setAttribute("class", "clap-line");
  line.setAttribute("y1", 0);
  line.setAttribute("y2", 100);
  drawing.append(shape, line);
  const root = el("clap-wave");
  root.append(drawing);
  place = () => {
    const x = typed() - wave.from;
    line.setAttribute("x1", x);
    line.setAttribute("x2", x);
  };
  const move = ({ clientX }) => {
    const box = drawing.getBoundingClientRect();
    const x = Math.max(0, Math.min(1, (clientX - box.left) / box.width)) * whole;
    seconds.value = ((wave.from + x) / 1000).toFixed(3);
    told();
    place();
  };
  drawing.addEventListener("pointerdown", (event) => {
    event.preventDefault();
    move(event);
    const done = () => {
      removeEventListener("pointermove", move);
      removeEventListener("pointerup", done);
    };
    addEventListener("pointermove", move);
    addEventListener("pointerup", done);
  });
  place();
  // A take as it sounds, from its beginning.
  const player = new Audio();
  let loaded = null,
    until = 0,
    button = null;
  const stop = () => {
    player.pause();
    if (button) button.textContent = "▶";
    button = null;
  };
  player.addEventListener("timeupdate", () => {
    if (player.currentTime >= until) stop();
  });
  document.addEventListener("click", async ({ target }) => {
    const on = target.closest("[data-from]");
    if (!on) return;
    const again = on === button;
    stop();
    if (again) return;
    button = on;
    on.textContent = "■";
    loaded ??= fetch(root.dataset.sound)
      .then((answer) => answer.blob())
      .then((blob) => {
        player.src = URL.createObjectURL(blob);
      });
    await loaded;
    player.currentTime = Number(on.dataset.from) / 1000;
    until = player.currentTime + Number(on.dataset.lasts);
    await player.play();
  });
}
told();
