// What was taken back or removed, told for a moment with the way to have it again. The words are the server's.
const notice = document.getElementById("notice");
const SHOWN_FOR = 8000;

document.body.addEventListener("told", ({ detail: { text, which } }) => {
  const box = Object.assign(document.createElement("div"), { className: "notice good" });
  const again = Object.assign(document.createElement("button"), {
    type: "button",
    className: "button small",
    textContent: which === "redo" ? "Redo" : "Undo",
  });
  again.dataset.which = which;
  const line = document.createElement("p");
  line.append(`${text} `, again);
  box.append(line);
  notice.replaceChildren(box);
  setTimeout(() => box.remove(), SHOWN_FOR);
});
