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
  const at = own ? own.at * perMillimetre : (Math.floor((x + slack) / usual) + 1) * usual;
  if (at > room + slack) return null;
  const kind = own?.kind ?? "left";
  const before = kind === "left" ? 0 : kind === "right" ? after.width : kind === "center" ? after.width / 2 : (after.sign ?? after.width);
  return Math.max(0, at - x - before);
}

/** Where a number's decimal sign is in a text: its last point or comma with no group of three digits after it. */
export function decimalSign(text: string): number | null {
  const word = text.split(" ")[0] ?? "";
  const at = Math.max(word.lastIndexOf("."), word.lastIndexOf(","));
  if (!/\d/.test(word) || at < 0 || at === word.length - 1) return null;
  const digits = word.slice(at + 1).replace(/[€$£)\u00a0]+$/, "");
  return digits.length !== 3 && /^\d*$/.test(digits) ? at : null;
}

interface Gap {
  from: number;
  width: number;
  leader: string;
}

const key = new PluginKey<DecorationSet>("tabs");

/** The gaps of all tabs as they should be by what is drawn now. What stands after a tab moves with it, so this is asked again. */
function measured(view: EditorView): Gap[] {
  const gaps: Gap[] = [];
  view.state.doc.descendants((node, at) => {
    if (!node.isTextblock) return true;
    // A thing in the line counts as one character, so that places in the text are places in the document.
    const text = node.textBetween(0, node.content.size, undefined, "\ufffc");
    if (!text.includes("\t")) return false;
    const dom = view.nodeDOM(at);
    if (!(dom instanceof HTMLElement) || dom.offsetWidth === 0) return false;
    gaps.push(...gapsIn(view, node, at + 1, text, dom));
    return false;
  });
  return gaps;
}

function gapsIn(view: EditorView, node: Node, start: number, text: string, dom: HTMLElement): Gap[] {
  const box = dom.getBoundingClientRect();
  // The page may be drawn larger or smaller than it is.
  const zoom = box.width / dom.offsetWidth;
  const stops = ((node.attrs.tabs as TabStop[] | null) ?? []).toSorted((a, b) => a.at - b.at);
  const room = dom.offsetWidth - parseFloat(getComputedStyle(dom).paddingRight);
  const gaps: Gap[] = [];
  for (let i = text.indexOf("\t"); i >= 0; i = text.indexOf("\t", i + 1)) {
    const x = (view.coordsAtPos(start + i, 1).left - box.left) / zoom;
    const next = text.slice(i + 1).search(/[\t\n]/);
    const end = next < 0 ? text.length : i + 1 + next;
    const first = view.coordsAtPos(start + i + 1, 1);
    // What goes on in the next line does not stand at this stop.
    const reach = (to: number) => {
      const last = view.coordsAtPos(start + to, -1);
      return last.top < first.bottom && last.left > first.left ? (last.left - first.left) / zoom : 0;
    };
    const sign = decimalSign(text.slice(i + 1, end));
    const width = end > i + 1 ? reach(end) : 0;
    const gap = gapOf(x, stops, room, { width, sign: sign === null ? null : sign === 0 ? 0 : reach(i + 1 + sign) });
    const leader = stops.find((s) => s.at * perMillimetre > x + slack)?.leader ?? "";
    if (gap !== null) gaps.push({ from: start + i, width: Math.round(gap * 4) / 4, leader });
  }
  return gaps;
}

const drawn = (doc: Node, gaps: Gap[]) =>
  DecorationSet.create(
    doc,
    gaps.map((g) =>
      Decoration.inline(
        g.from,
        g.from + 1,
        { class: "tab-gap", style: `width: ${g.width}px`, ...(g.leader ? { "data-leader": g.leader } : {}) },
        { gap: g },
      ),
    ),
  );

const same = (set: DecorationSet | undefined, gaps: Gap[]) => {
  const before = set?.find() ?? [];
  return (
    before.length === gaps.length &&
    gaps.every((g, i) => {
      const b = before[i];
      const was = b?.spec.gap as Gap | undefined;
      return b?.from === g.from && was !== undefined && Math.abs(was.width - g.width) < slack && was.leader === g.leader;
    })
  );
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
        // A tab is moved by those before it, so each change takes as many looks as a line has tabs, and some for what they make wrap.
        const most = 24;
        let looks = 0;
        let frame = 0;
        const look = () => {
          frame = 0;
          if (view.isDestroyed || view.composing) return;
          const gaps = measured(view);
          if (same(key.getState(view.state), gaps) || ++looks > most) return;
          view.dispatch(view.state.tr.setMeta(key, drawn(view.state.doc, gaps)).setMeta("addToHistory", false));
        };
        const soon = () => {
          if (frame === 0) frame = requestAnimationFrame(look);
        };
        const anew = () => {
          looks = 0;
          soon();
        };
        const sized = new ResizeObserver(anew);
        sized.observe(view.dom);
        document.fonts.addEventListener("loadingdone", anew);
        anew();
        return {
          update: (_, before) => (before.doc === view.state.doc ? soon() : anew()),
          destroy: () => {
            cancelAnimationFrame(frame);
            sized.disconnect();
            document.fonts.removeEventListener("loadingdone", anew);
          },
        };
      },
    }),
  ],
});
