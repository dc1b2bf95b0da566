// What every part of the Stage needs of its page: the addresses, a message, and telling the server.
import { el, hide, show } from "../drawing.js";

export const root = el("stage").dataset;
export const post = (address, told) => {
  const body = told && JSON.stringify(told);
  const headers = { "X-CSRFToken": root.csrf, ...(body && { "Content-Type": "application/json" }) };
  return fetch(address, { method: "POST", headers, body, keepalive: (body?.length ?? 0) < 60_000 });
};

let toldUntil = 0;
export function tell(words, ms = 4000) {
  show("told", words);
  hide("told", false);
  toldUntil = performance.now() + ms;
}
export function hushTold(at = performance.now()) {
  if (at > toldUntil) hide("told", true);
}
