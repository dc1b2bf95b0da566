// Texts by what is written (a line without its air), controls by their box; each as far as it can be seen in what scrolls or
// cuts it. A control with its own texts is one thing.
(root) => {
  const within = document.querySelector(root),
    found = [];
  const controls = "button, a[href], input, select, textarea, summary, label:has(input)";
  const cut = (box, node) => {
    let [l, t, r, b] = [box.left, box.top, box.right, box.bottom];
    for (let up = node; up && up !== document.documentElement; up = up.parentElement) {
      const style = getComputedStyle(up);
      if (up !== node && style.overflow === "visible" && style.overflowX === "visible") continue;
      if (style.overflow === "visible") continue;
      const of = up.getBoundingClientRect();
      [l, t, r, b] = [Math.max(l, of.left), Math.max(t, of.top), Math.min(r, of.right), Math.min(b, of.bottom)];
    }
    return { l, t, r, b };
  };
  const seen = (node) =>
    node.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true }) &&
    !node.closest(".sr-only, [aria-hidden=true], noscript");
  const told = (node) =>
    `${node.tagName.toLowerCase()}${node.id ? `#${node.id}` : ""}.${String(node.className?.baseVal ?? node.className).split(" ")[0]} ${(node.textContent || node.value || "").trim().slice(0, 24)}`;
  const scrolls = (node) => {
    for (let up = node; up; up = up.parentElement)
      if (/(auto|scroll)/.test(getComputedStyle(up).overflow + getComputedStyle(up).overflowY)) return true;
    return false;
  };
  for (const node of within.querySelectorAll("*")) {
    if (node.closest("svg") && !node.closest("foreignObject")) continue;
    if (!seen(node)) continue;
    const control = node.matches(controls) ? node : node.parentElement.closest(controls);
    if (control && control !== node && within.contains(control)) continue;
    let box = null,
      lines = [];
    if (control) lines = [node.getBoundingClientRect()];
    else {
      for (const text of node.childNodes) {
        if (text.nodeType !== 3 || !text.textContent.trim()) continue;
        const range = document.createRange();
        range.selectNodeContents(text);
        lines.push(...range.getClientRects());
      }
    }
    for (const line of lines) {
      const air = control ? 0 : line.height * 0.2;
      box = cut({ left: line.left, right: line.right, top: line.top + air, bottom: line.bottom - air }, node);
      if (box.r - box.l < 3 || box.b - box.t < 3) continue;
      found.push({ node, box, whole: line, control: Boolean(control) });
    }
  }
  const faults = [];
  for (const { node, box, whole, control } of found) {
    if (box.l < -1.5 || box.t < -1.5 || box.r > innerWidth + 1.5 || box.b > innerHeight + 1.5) {
      if (!scrolls(node))
        faults.push(
          `leaves the window: ${told(node)} ${Math.round(box.l)},${Math.round(box.t)} to ${Math.round(box.r)},${Math.round(box.b)}`,
        );
    }
    if (
      control &&
      !scrolls(node) &&
      (whole.right - box.r > 2 || whole.bottom - box.b > 2 || box.l - whole.left > 2 || box.t - whole.top > 2)
    )
      faults.push(`cut: ${told(node)}`);
  }
  for (let i = 0; i < found.length; i++)
    for (let k = i + 1; k < found.length; k++) {
      const a = found[i],
        b = found[k];
      if (a.node.contains(b.node) || b.node.contains(a.node)) continue;
      const wide = Math.min(a.box.r, b.box.r) - Math.max(a.box.l, b.box.l),
        high = Math.min(a.box.b, b.box.b) - Math.max(a.box.t, b.box.t);
      if (wide > 2.5 && high > 2.5)
        faults.push(`overlap: ${told(a.node)} | ${told(b.node)} (${Math.round(wide)}x${Math.round(high)})`);
    }
  return [...new Set(faults)];
};
