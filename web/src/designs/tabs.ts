import { Extension } from "@tiptap/core";
import type { Node } from "@tiptap/pm/model";
import { Plugin, PluginKey } from "@tiptap/pm/state";
import { Decoration, DecorationSet, type EditorView } from "@tiptap/pm/view";
import type { TabStop } from "./nodes/textParts";

/** CSS pixels of a millimeter, and of the way to the next stop where none was set: half an inch. */
const perMillimetre = 96 / 25.4;
const usual = 48;
const slack = 0.5;

/** What stands after a tab, up to the next one or the end of the line. */
interface After {
  width: number;
  /** How much of it stands before the decimal sign; null where it has none. */
  sign: number | null;
}

/**
 * How far a tab goes, as on the finished page (LineFiller.TabGap); null where no stop is left on the line.
 * @param x Where it begins, and all else in pixels from the left edge of the text.
 */
export function gapOf(x: number, stops: readonly TabStop[], room: number, after: After): number | null {
  const own = stops.find((s) => s.at * perMillimetre > x + slack);
  const stop = own ? own.at * perMillimetre : (Math.floor((x + slack) / usual) + 1) * usual;
  if (stop > room + slack) return null;
  const at = Math.min(stop, room);
  const kind = own?.kind ?? "left";
  const before = kind === "left" ? 0 : kind === "right" ? after.width : kind === "center" ? after.width / 2 : (after.sign ?? after.width);
  return Math.max(0, at - x - before);
}

/** Where the decimal sign of a text's first number that has one is: its last point or comma with no group of three digits after it. */
export function decimalSign(text: string): number | null {
  for (const { 0: word, index } of text.matchAll(/\S+/g)) {
    const at = Math.max(word.lastIndexOf("."), word.lastIndexOf(","));
    if (!/\d/.test(word) || at < 0 || at === word.length - 1) continue;
    const digits = word.slice(at + 1).replace(/[€$£)\u00a0]+$/, "");
    if (digits.length !== 3 && /^\d*$/.test(digits)) return index + at;
  }
  return null;
}

interface Gap {
  from: number;
  width: number;
  leader: string;
}

/** A paragraph with tabs: where it begins and ends in the document, and the gaps its tabs should have. */
interface Tabbed {
  from: number;
  to: number;
  gaps: Gap[];
}

const key = new PluginKey<DecorationSet>("tabs");

/** The paragraphs with tabs, as they should be by what stands in them; how they are drawn now does not matter. */
function measured(view: EditorView): Tabbed[] {
  const found: Tabbed[] = [];
  view.state.doc.descendants((node, at) => {
    if (!node.isTextblock) return true;
    // A thing in the line counts as one character, so that places in the text are places in the document.
    const text = node.textBetween(0, node.content.size, undefined, "\ufffc");
    if (!text.includes("\t")) return false;
    const dom = view.nodeDOM(at);
    if (!(dom instanceof HTMLElement) || dom.offsetWidth === 0) return false;
    const stops = ((node.attrs.tabs as TabStop[] | null) ?? []).toSorted((a, b) => a.at - b.at);
    const places = [...text.matchAll(/\t/g)].map((m) => at + 1 + m.index);
    const gaps = gapsOf(view, node, dom, stops).map((g, i) => ({ ...g, from: places[i] ?? at + 1 }));
    found.push({ from: at, to: at + node.nodeSize, gaps });
    return false;
  });
  return found;
}

/** A tab of a copied paragraph, the end of what follows it, and the decimal sign in that. */
interface Marks {
  tab: HTMLElement;
  end: HTMLElement;
  sign: HTMLElement | null;
}

const mark = () => {
  const at = document.createElement("span");
  at.style.cssText = "display: inline-block; width: 0";
  return at;
};

/** Makes each tab of a copied paragraph a place without width, with marks at the ends of what follows and at its decimal sign. */
function marked(paragraph: HTMLElement): Marks[] {
  const tabs: Marks[] = [];
  let tab: HTMLElement | null = null;
  let after: Text[] = [];
  const close = (before: ChildNode) => {
    if (tab) {
      const at = decimalSign(after.map((t) => t.data).join(""));
      let sign: HTMLElement | null = null;
      for (let i = 0, left = at ?? -1; left >= 0 && i < after.length; left -= after[i++]?.length ?? 0) {
        const text = after[i];
        if (!text || left >= text.length) continue;
        sign = mark();
        const rest = text.splitText(left);
        rest.before(sign);
        after.splice(i + 1, 0, rest);
        break;
      }
      // Spaces at the end take no room, as on the page.
      const last = after.at(-1);
      const solid = last?.data.trimEnd().length ?? 0;
      const spaces = last && solid > 0 && solid < last.length ? last.splitText(solid) : null;
      const end = mark();
      (spaces ?? before).before(end);
      tabs.push({ tab, end, sign });
    }
    [tab, after] = [null, []];
  };
  // What is drawn now has no say.
  for (const gap of paragraph.querySelectorAll(".tab-gap")) gap.replaceWith(...gap.childNodes);
  const walk = document.createTreeWalker(paragraph, NodeFilter.SHOW_ELEMENT | NodeFilter.SHOW_TEXT);
  const parts: (Text | HTMLBRElement)[] = [];
  for (let node = walk.nextNode(); node; node = walk.nextNode())
    if (node instanceof Text || node instanceof HTMLBRElement) parts.push(node);
  for (const part of parts) {
    // What a field shows belongs to what follows a tab, but has none itself.
    const own = part.parentElement?.closest("[contenteditable=false]") === null;
    if (part instanceof HTMLBRElement) {
      close(part);
      continue;
    }
    let text = part;
    for (let at = own ? text.data.indexOf("\t") : -1; at >= 0; at = text.data.indexOf("\t")) {
      if (at > 0) {
        const rest = text.splitText(at);
        after.push(text);
        text = rest;
      }
      const place = mark();
      text.before(place);
      text.deleteData(0, 1);
      close(place);
      tab = place;
    }
    after.push(text);
  }
  const last = mark();
  paragraph.append(last);
  close(last);
  return tabs;
}

type Measured = { width: number; leader: string }[];

/** What was measured of paragraphs that are still as they were: a long list with tabs is not measured anew with each key. */
const kept = new WeakMap<Node, { by: string; gaps: Measured }>();

/** How often typefaces arrived: what was measured before is no longer true. */
let arrived = 0;

/** How wide the gaps of a paragraph's tabs should be. */
function gapsOf(view: EditorView, node: Node, dom: HTMLElement, stops: readonly TabStop[]): Measured {
  const look = getComputedStyle(dom);
  const by = [arrived, dom.getBoundingClientRect().width, look.font, look.letterSpacing, look.paddingRight, dom.textContent].join("|");
  const before = kept.get(node);
  if (before?.by === by) return before.gaps;
  const gaps = gapsIn(view, dom, look, stops);
  kept.set(node, { by, gaps });
  return gaps;
}

/** All is measured on a copy, so that what is drawn has no say in what will be. */
function gapsIn(view: EditorView, dom: HTMLElement, look: CSSStyleDeclaration, stops: readonly TabStop[]): Measured {
  const beside = view.dom.parentElement;
  if (!beside) return [];
  const room = document.createElement("div");
  room.className = "ProseMirror";
  room.ariaHidden = "true";
  room.style.cssText = "position: absolute; visibility: hidden; width: 1000px; min-height: 0";
  const paragraph = dom.cloneNode(true) as HTMLElement;
  const { font, letterSpacing, paddingRight } = look;
  const tabs = marked(paragraph);
  room.append(paragraph);
  beside.append(room);
  try {
    // Pixels on the screen of one pixel of the page, which may be drawn larger or smaller than it is.
    const zoom = room.getBoundingClientRect().width / 1000;
    const width = dom.getBoundingClientRect().width / zoom;
    Object.assign(paragraph.style, { font, letterSpacing, boxSizing: "border-box", width: `${width}px`, margin: "0", textAlign: "start" });
    // What follows a tab counts whole, wherever its lines end.
    paragraph.style.whiteSpace = "pre";
    const left = (e: HTMLElement) => e.getBoundingClientRect().left / zoom;
    const after = tabs.map(({ tab, end, sign }) => ({ width: left(end) - left(tab), sign: sign && left(sign) - left(tab) }));
    // What stands before a tab does not change by those after it, so that one goes from the first to the last.
    paragraph.style.whiteSpace = "";
    const edge = left(paragraph);
    const end = width - parseFloat(paddingRight);
    return tabs.map(({ tab }, i) => {
      const follows = after[i] ?? { width: 0, sign: null };
      const x = left(tab) - edge;
      // Where no stop is left, the tab goes on in the next line.
      const from = gapOf(x, stops, end, follows) === null ? 0 : x;
      const gap = gapOf(from, stops, end, follows) ?? usual;
      const leader = stops.find((s) => s.at * perMillimetre > from + slack)?.leader ?? "";
      // Never wider than there is room for: a line that just fits would wrap.
      const drawn = Math.floor(gap * 4) / 4;
      tab.style.width = `${drawn}px`;
      return { width: drawn, leader };
    });
  } finally {
    room.remove();
  }
}

const drawn = (paragraphs: Tabbed[]) =>
  paragraphs.flatMap(({ from, to, gaps }) => [
    // On the page, too, a paragraph with tabs begins at its left edge, however others are aligned.
    Decoration.node(from, to, { class: "has-tabs" }, { says: "tabs" }),
    ...gaps.map((g) =>
      Decoration.inline(
        g.from,
        g.from + 1,
        { class: "tab-gap", style: `width: ${g.width}px`, ...(g.leader ? { "data-leader": g.leader } : {}) },
        { says: `${g.width} ${g.leader}` },
      ),
    ),
  ]);

const same = (a: Decoration[], b: Decoration[]) => {
  const list = (all: Decoration[]) => all.map((d) => `${d.from}–${d.to} ${d.spec.says}`).toSorted();
  const other = list(b);
  return a.length === b.length && list(a).every((d, i) => d === other[i]);
};

/** A tab in the text goes as far as it will on the page: to the next stop on the ruler. */
export const tabs = Extension.create({
  name: "tabs",
  addProseMirrorPlugins: () => [
    new Plugin<DecorationSet>({
      key,
      state: {
        init: () => DecorationSet.empty,
        apply: (tr, set) => (tr.getMeta(key) as DecorationSet | undefined) ?? set.map(tr.mapping, tr.doc),
      },
      props: { decorations: (state) => key.getState(state) },
      view(view) {
        let frame = 0;
        const look = () => {
          frame = 0;
          if (view.isDestroyed || view.composing) return;
          const gaps = drawn(measured(view));
          if (same(key.getState(view.state)?.find() ?? [], gaps)) return;
          view.dispatch(view.state.tr.setMeta(key, DecorationSet.create(view.state.doc, gaps)).setMeta("addToHistory", false));
        };
        const soon = () => {
          if (frame === 0) frame = requestAnimationFrame(look);
        };
        const sized = new ResizeObserver(soon);
        sized.observe(view.dom);
        // A field shows another value while the text stays the same.
        const written = new MutationObserver(soon);
        written.observe(view.dom, { subtree: true, childList: true, characterData: true });
        const anew = () => {
          arrived++;
          soon();
        };
        document.fonts.addEventListener("loadingdone", anew);
        soon();
        return {
          update: soon,
          destroy: () => {
            cancelAnimationFrame(frame);
            sized.disconnect();
            written.disconnect();
            document.fonts.removeEventListener("loadingdone", anew);
          },
        };
      },
    }),
  ],
});
