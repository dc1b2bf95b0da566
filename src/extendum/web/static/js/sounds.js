// Tones of our own making and the browser's own voice, with the settings of this browser.
const KEPT = "extendum-sound";
const kinds = { start: [520, 0.25], halfway: [600, 0.3], count: [660, 0.09], release: [880, 0.5] };
const plain = {
  start: true,
  halfway: false,
  count: true,
  release: true,
  speaks: "me",
  auto: false,
  volume: 50,
  words: "all",
  music: 50,
  softer: true,
};
// A page that is opened from a disk may have nowhere to keep anything.
function remembered() {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "{}");
  } catch {
    return {};
  }
}
const kept = remembered();
if (kept.voice) kept.speaks ??= "browser"; // as it was called before there were readings
delete kept.voice;
export const settings = { ...plain, ...kept };
export function set(name, value) {
  settings[name] = value;
  try {
    localStorage.setItem(KEPT, JSON.stringify(settings));
  } catch {
    /* it holds until the page is closed */
  }
}

let audio = null;
export function on() {
  if (!audio && window.AudioContext) audio = new AudioContext();
  audio?.resume?.();
  return audio;
}
// Whoever plays under the tones hears of each, and how many seconds it lasts.
let listener = (/** @type {number} */ _seconds) => {};
export function listen(what) {
  listener = what;
}
export function tone(kind) {
  if (!audio || !settings[kind] || !settings.volume) return;
  const [pitch, seconds] = kinds[kind];
  const at = audio.currentTime,
    voice = audio.createOscillator(),
    gain = audio.createGain();
  voice.frequency.value = pitch;
  gain.gain.setValueAtTime(settings.volume / 200, at);
  gain.gain.exponentialRampToValueAtTime(0.001, at + seconds);
  voice.connect(gain).connect(audio.destination);
  voice.start(at);
  voice.stop(at + seconds);
  listener(seconds);
}
// The clap of a slate: heard by the camera whatever is set.
export function clap() {
  on();
  if (!audio) return;
  const at = audio.currentTime,
    voice = audio.createOscillator(),
    gain = audio.createGain();
  voice.type = "square";
  voice.frequency.value = 1000;
  gain.gain.setValueAtTime(0.4, at);
  gain.gain.setValueAtTime(0, at + 0.06);
  voice.connect(gain).connect(audio.destination);
  voice.start(at);
  voice.stop(at + 0.08);
}
export const voices = () =>
  window.speechSynthesis?.getVoices().filter((one) => one.localService && one.lang.startsWith("en")) ?? [];
export function speak(words) {
  const [voice] = voices();
  if (settings.speaks !== "browser" || !voice) return;
  const said = new SpeechSynthesisUtterance(words);
  said.voice = voice;
  said.volume = settings.volume / 100;
  window.speechSynthesis.speak(said);
}
export const hush = () => window.speechSynthesis?.cancel();
