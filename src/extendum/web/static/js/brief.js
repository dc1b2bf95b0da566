// The brief. Everything it computes is the server's.
const page = document.getElementById("brief-page");
// After a refusal because of another window, the next try is made on the class as it is now.
document.body.addEventListener("htmx:afterRequest", (event) => {
  const stamp = event.detail.xhr?.getResponseHeader("X-Stamp");
  if (stamp) page.elements.stamp.value = stamp;
});
