// What was read and the server does not have yet: kept in this browser until it says that it has it.
const asked = (request) =>
  new Promise((done, failed) => {
    request.onsuccess = () => done(request.result);
    request.onerror = () => failed(request.error);
  });
async function store(mode) {
  const opening = indexedDB.open("extendum-readings", 1);
  opening.onupgradeneeded = () => opening.result.createObjectStore("of");
  return (await asked(opening)).transaction("of", mode).objectStore("of");
}
const name = (voice, text) => `${voice} ${text}`;
//: A reading: its voice and text, its sound as a file, about how long it is, and whether it is to be kept.
export const put = async (one) => asked((await store("readwrite")).put(one, name(one.voice, one.text)));
// What was read once more meanwhile stays.
export async function told(one) {
  const of = await store("readwrite"),
    now = await asked(of.get(name(one.voice, one.text)));
  if (now?.at === one.at) await asked(of.delete(name(one.voice, one.text)));
}
export async function all(voice) {
  const every = await asked((await store("readonly")).getAll());
  return every.filter((one) => one.voice === voice);
}
