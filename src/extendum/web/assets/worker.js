// Keeps the Stage when the server is away: the page itself puts what it is made of into the cache, and a reload finds it
// there. Pages come from the server while it answers; static files carry a hash in their names and come from the cache.
const KEPT = "extendum-stage";
self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("fetch", (event) => {
  const { request } = event;
  const address = new URL(request.url);
  if (request.method !== "GET" || address.origin !== self.location.origin) return;
  if (
    address.pathname.startsWith("/static/") ||
    address.pathname.endsWith("/figure.json") ||
    address.pathname.startsWith("/voices/")
  ) {
    event.respondWith(caches.match(request).then((kept) => kept ?? fetch(request)));
  } else if (/^\/classes\/\d+\/stage\/$/.test(address.pathname)) {
    event.respondWith(
      fetch(request).catch(() => caches.match(request, { cacheName: KEPT }).then((kept) => kept ?? Response.error())),
    );
  }
});
