/**
 * What does not fit a window: what lies outside of it, controls that lie over one another, and text that is cut. Runs in the page.
 * Parts that scroll, menus, and what is marked with `data-sideways` (a table as wide as its list, the canvas of a piece) may be wider.
 */
export function misfits() {
  const found = [];
  const wide = document.scrollingElement;
  if (wide.scrollWidth > innerWidth + 1) found.push(`the page scrolls sideways: ${wide.scrollWidth} of ${innerWidth}`);
  const shown = (e) => {
    const r = e.getBoundingClientRect();
    if (r.width < 2 || r.height < 2) return false;
    const style = getComputedStyle(e);
    return style.visibility !== "hidden" && style.opacity !== "0" && !e.closest(".sr, .sr-only, [aria-hidden=true], [data-sideways]");
  };
  // What scrolls it into view, if anything does; null where it has to fit as it is.
  const scroller = (e, axis) => {
    for (let p = e.parentElement; p && p !== document.body; p = p.parentElement) {
      const o = getComputedStyle(p)[axis === "x" ? "overflowX" : "overflowY"];
      if (o === "auto" || o === "scroll") return p;
    }
    return null;
  };
  const name = (e) =>
    `${e.tagName.toLowerCase()} “${(e.getAttribute("aria-label") ?? e.getAttribute("title") ?? e.textContent ?? "").trim().slice(0, 40)}”`;
  const controls = [...document.querySelectorAll("a[href], button, input, select, textarea, h1, h2, [role=tab]")].filter(shown);
  for (const e of controls) {
    const r = e.getBoundingClientRect();
    if ((r.right > innerWidth + 1 || r.left < -1) && !scroller(e, "x")) found.push(`outside at the side: ${name(e)}`);
    if ((r.bottom > innerHeight + 1 || r.top < -1) && !scroller(e, "y")) found.push(`outside below: ${name(e)}`);
  }
  // What scrolls ends within the window: where it grows with its content instead, the end cannot be reached.
  for (const e of document.querySelectorAll("main *, dialog[open] *")) {
    const r = e.getBoundingClientRect();
    if (r.bottom <= innerHeight + 1 || !/auto|scroll/.test(getComputedStyle(e).overflowY) || !shown(e)) continue;
    if (!scroller(e, "y")) found.push(`scrolls outside of the window: ${name(e)}`);
  }
  for (const e of controls.filter((c) => /^(A|BUTTON)$/.test(c.tagName) && c.classList.contains("btn")))
    if (e.scrollWidth > e.clientWidth + 2 && !e.querySelector(".truncate") && !e.classList.contains("truncate"))
      found.push(`cut: ${name(e)}`);
  // Controls of one strip lie beside one another, never over one another.
  const acts = controls.filter((c) => /^(A|BUTTON|INPUT|SELECT)$/.test(c.tagName) && c.closest("header, [role=toolbar], nav"));
  for (let i = 0; i < acts.length; i++)
    for (let j = i + 1; j < acts.length; j++) {
      const [a, b] = [acts[i].getBoundingClientRect(), acts[j].getBoundingClientRect()];
      if (acts[i].contains(acts[j]) || acts[j].contains(acts[i])) continue;
      const over = Math.min(a.right, b.right) - Math.max(a.left, b.left);
      const across = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
      if (over > 2 && across > 2 && acts[i].closest("header, [role=toolbar], nav") === acts[j].closest("header, [role=toolbar], nav"))
        found.push(`over one another: ${name(acts[i])} and ${name(acts[j])}`);
    }
  return [...new Set(found)].slice(0, 12);
}
