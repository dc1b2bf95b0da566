// The microphone: what it hears, how loud that is, and when somebody has finished speaking.
export const RATE = 48_000;
//: Speech is so many decibels above the room; a second of silence after it ends a reading that ends by itself.
const ABOVE_DB = 12,
  SILENCE_MS = 1000,
  SPOKEN_MS = 150;
const decibels = (power) => 10 * Math.log10(Math.max(power, 1e-10));
const powerOf = (piece) => piece.reduce((sum, one) => sum + one * one, 0) / piece.length;

let audio = null;
export const microphone = {
  heard: (_level) => {}, // told of each piece: its level and peak in decibels
  ended: () => {}, // told when somebody has spoken and is silent
  pieces: null,
};
// The quietest fifth of the last seconds is the room.
const levels = [];
export function roomDb() {
  const sorted = [...levels].sort((a, b) => a - b);
  return sorted.length < 20 ? null : sorted[Math.floor(sorted.length / 5)];
}
let spokenMs = 0,
  silentMs = 0;
function hear(piece) {
  const level = decibels(powerOf(piece)),
    peak = 20 * Math.log10(Math.max(1e-5, ...piece.map(Math.abs)));
  const ms = (1000 * piece.length) / RATE;
  levels.push(level);
  if (levels.length > 200) levels.shift();
  microphone.heard({ level, peak });
  if (!microphone.pieces) return;
  microphone.pieces.push(piece);
  if (level > Math.max(roomDb() ?? -60, -60) + ABOVE_DB) {
    spokenMs += ms;
    silentMs = 0;
  } else silentMs += ms;
  if (spokenMs >= SPOKEN_MS && silentMs >= SILENCE_MS) microphone.ended();
}
export async function open(worklet) {
  if (audio) return;
  const asked = { channelCount: 1, echoCancellation: false, noiseSuppression: false, autoGainControl: false };
  const stream = await navigator.mediaDevices.getUserMedia({ audio: asked });
  audio = new AudioContext({ sampleRate: RATE });
  await audio.audioWorklet.addModule(worklet);
  const hearing = new AudioWorkletNode(audio, "hearing", { numberOfOutputs: 0 });
  hearing.port.onmessage = ({ data }) => hear(data);
  audio.createMediaStreamSource(stream).connect(hearing);
  await audio.resume();
}
export function start() {
  spokenMs = 0;
  silentMs = 0;
  microphone.pieces = [];
}
export function stop() {
  const pieces = microphone.pieces ?? [];
  microphone.pieces = null;
  const whole = new Float32Array(pieces.reduce((sum, one) => sum + one.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
// About how long somebody speaks in it, in milliseconds: the server measures it when it is kept.
export function spokenIn(samples) {
  const step = RATE / 100,
    loud = [];
  for (let at = 0; at + step <= samples.length; at += step)
    loud.push(decibels(powerOf(samples.subarray(at, at + step))));
  const least = Math.max(
    [...loud].sort((a, b) => a - b)[Math.floor(loud.length / 30)] + ABOVE_DB,
    Math.max(...loud) - 38,
  );
  const first = loud.findIndex((one) => one > least),
    last = loud.findLastIndex((one) => one > least);
  return first < 0 ? 0 : (last - first + 1) * 10;
}
// One channel, 16 bits, as a file.
export function wav(samples) {
  const view = new DataView(new ArrayBuffer(44 + 2 * samples.length));
  const words = (at, text) => [...text].forEach((letter, n) => view.setUint8(at + n, letter.charCodeAt(0)));
  words(0, "RIFF");
  view.setUint32(4, 36 + 2 * samples.length, true);
  words(8, "WAVEfmt ");
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, RATE, true);
  view.setUint32(28, 2 * RATE, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  words(36, "data");
  view.setUint32(40, 2 * samples.length, true);
  samples.forEach((one, n) => view.setInt16(44 + 2 * n, Math.round(Math.max(-1, Math.min(1, one)) * 32767), true));
  return new Blob([view.buffer], { type: "audio/wav" });
}
