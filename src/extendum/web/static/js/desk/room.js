// How much room the window has for the sheet: told to the server, which draws the sheet to it.
import { here, reload } from "./turns.js";

const NEAR = 8; // pixels that make no difference
const PADDING = 28,
  LEAST = 100;
let asked = ""; // what was told with the last reload: it is asked for once
export function tell() {
  const body = document.querySelector(".desk-body"),
    right = document.querySelector(".right"),
    drawer = document.querySelector(".drawer");
  const line = document.querySelector(".sheet-line");
  const tabs = matchMedia("(max-width: 1099px)").matches;
  const wide = Math.max(LEAST, (tabs ? body.clientWidth : right.offsetWidth + (drawer?.offsetWidth ?? 0)) - PADDING);
  const high = Math.max(LEAST, body.clientHeight - (line.offsetHeight || 40) - 8);
  document.querySelector(".desk-page").dataset.measured = `${innerWidth}x${innerHeight}`;
  document.cookie = `room=${wide}x${high}${tabs ? "x1" : ""}; path=/; max-age=31536000; samesite=lax`;
  const told = `${wide}x${high}${tabs}`;
  const [w, h, t] = here().room.split("x").map(Number);
  const other = Math.abs(w - wide) > NEAR || Math.abs(h - high) > NEAR || Boolean(t) !== tabs;
  if (!other || asked === told) return;
  asked = told;
  reload();
}
let waiting = 0;
addEventListener("resize", () => {
  clearTimeout(waiting);
  waiting = setTimeout(tell, 150);
});
// After what was typed before the scripts were there has been taken up (early.js): the answer must not overwrite it.
addEventListener("DOMContentLoaded", tell);
