// The brief: the key that keeps it. Everything it computes is the server's.
const page = document.getElementById("brief-page");
document.addEventListener("keydown", (event) => {
  if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
    event.preventDefault();
    document.getElementById("to-desk").click();
  }
});
// After a refusal because of another window, the next try is made on the class as it is now.
document.body.addEventListener("htmx:afterRequest", (event) => {
  const stamp = event.detail.xhr?.getResponseHeader("X-Stamp");
  if (stamp) page.elements.stamp.value = stamp;
});
