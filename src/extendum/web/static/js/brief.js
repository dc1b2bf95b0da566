// The brief: the key that keeps it. Everything it computes is the server's.
const page = document.getElementById("brief-page");
document.addEventListener("keydown", (event) => {
  if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
    event.preventDefault();
    document.getElementById("to-desk").click();
  }
});
document.body.addEventListener("htmx:sendError", () => {
  const box = document.createElement("div");
  box.className = "notice";
  box.textContent = "The server does not answer. Nothing was lost: what you chose is still here. Start it again and keep it.";
  document.getElementById("notice").replaceChildren(box);
});
// After a refusal because of another window, the next try is made on the class as it is now.
document.body.addEventListener("htmx:afterRequest", (event) => {
  const stamp = event.detail.xhr?.getResponseHeader("X-Stamp");
  if (stamp) page.elements.stamp.value = stamp;
});
