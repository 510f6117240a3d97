/**
 * Pasted text without what its program put around it: looks that come from classes and style sheets, comments, scripts, empty
 * wrappers. Bold, italic, underline and strike that are said by style become marks; lists that are only drawn as such become lists.
 */
export function cleanPaste(html: string): string {
  // What was copied here keeps everything.
  if (/data-pm-slice/.test(html)) return html;
  const doc = new DOMParser().parseFromString(html.replace(/<!--[\s\S]*?-->/g, "").replace(/<!\[(?:if|endif)[\s\S]*?>/gi, ""), "text/html");
  doc.querySelectorAll("script, style, meta, link, title, xml, object, iframe, form, input, button, svg, img, o\\:p").forEach((e) => {
    // An empty o:p holds nothing; one with text holds the paragraph's.
    if (e.tagName.toLowerCase() === "o:p" && e.textContent.trim()) e.replaceWith(...e.childNodes);
    else e.remove();
  });
  drawnLists(doc);
  for (const e of [...doc.body.querySelectorAll<HTMLElement>("*")]) {
    const style = e.getAttribute("style") ?? "";
    const says = (pattern: RegExp) => pattern.test(style);
    const wraps: string[] = [];
    if (/^(SPAN|FONT|P|LI|TD|TH|DIV)$/.test(e.tagName)) {
      if (says(/(^|[;\s])font-weight\s*:\s*(bold|[6-9]00)/i)) wraps.push("strong");
      if (says(/font-style\s*:\s*italic/i)) wraps.push("em");
      if (says(/text-decoration[^;]*underline/i) && e.tagName !== "A") wraps.push("u");
      if (says(/text-decoration[^;]*line-through/i)) wraps.push("s");
      if (says(/vertical-align\s*:\s*super/i)) wraps.push("sup");
      if (says(/vertical-align\s*:\s*sub\b/i)) wraps.push("sub");
    }
    // Some programs wrap everything in a bold that is none.
    if (/^(B|STRONG)$/.test(e.tagName) && says(/(^|[;\s])font-weight\s*:\s*(normal|400)/i)) {
      e.replaceWith(...e.childNodes);
      continue;
    }
    const align =
      /text-align\s*:\s*(center|right|justify)/i.exec(style)?.[1] ??
      (/^(center|right|justify)$/i.test(e.getAttribute("align") ?? "") ? e.getAttribute("align") : null);
    const [href, colspan, rowspan] = [e.getAttribute("href"), e.getAttribute("colspan"), e.getAttribute("rowspan")];
    for (const a of [...e.attributes]) e.removeAttribute(a.name);
    if (e.tagName === "A" && href && /^(https?:|mailto:)/i.test(href)) e.setAttribute("href", href);
    if (colspan) e.setAttribute("colspan", colspan);
    if (rowspan) e.setAttribute("rowspan", rowspan);
    if (align) e.style.textAlign = align.toLowerCase();
    for (const tag of wraps) {
      const wrap = doc.createElement(tag);
      wrap.append(...e.childNodes);
      e.append(wrap);
    }
  }
  // Hard spaces are how programs keep spaces alive in HTML; written out, they are an entity.
  return doc.body.innerHTML.replace(/&nbsp;|\u00a0/g, " ");
}

/** Paragraphs that a word processor draws as list items, with the bullet or number as text, become real lists. */
function drawnLists(doc: Document) {
  const isItem = (e: Element | null): e is HTMLElement =>
    e !== null && /mso-list\s*:/i.test(e.getAttribute("style") ?? "") && !/mso-list\s*:\s*ignore/i.test(e.getAttribute("style") ?? "");
  for (const first of [...doc.querySelectorAll("p")]) {
    if (!isItem(first) || isItem(first.previousElementSibling)) continue;
    const items: HTMLElement[] = [];
    for (let e: Element | null = first; isItem(e); e = e.nextElementSibling) items.push(e);
    const marker =
      first.querySelector('[style*="mso-list:Ignore" i], [style*="mso-list: ignore" i]')?.textContent.trim() ??
      first.textContent.trim().slice(0, 3);
    const list = doc.createElement(/^[\da-z]{1,3}[.)]/i.test(marker) ? "ol" : "ul");
    first.before(list);
    for (const item of items) {
      item.querySelectorAll('[style*="mso-list:Ignore" i], [style*="mso-list: ignore" i]').forEach((m) => m.remove());
      const li = doc.createElement("li");
      const p = doc.createElement("p");
      p.append(...item.childNodes);
      li.append(p);
      list.append(li);
      item.remove();
    }
  }
}
