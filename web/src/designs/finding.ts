import { Extension, type Editor } from "@tiptap/core";
import { Fragment, type Mark, type Schema } from "@tiptap/pm/model";
import { TextSelection } from "@tiptap/pm/state";
import { search, SearchQuery, setSearchState } from "prosemirror-search";

declare module "@tiptap/core" {
  interface Storage {
    findInText: { open: (() => void) | null };
  }
}

/** Escape leaves the text: the page's keys hold again, and Tab goes on to what follows instead of being written. */
export const leaving = Extension.create({
  name: "leaving",
  // After whatever else Escape closes.
  priority: 10,
  addKeyboardShortcuts() {
    return { Escape: () => this.editor.commands.blur() };
  },
});

/** What is looked for is marked in the text; Ctrl F opens the bar of whoever shows one. */
export const findInText = Extension.create({
  name: "findInText",
  addStorage: () => ({ open: null as (() => void) | null }),
  addProseMirrorPlugins: () => [search()],
  addKeyboardShortcuts() {
    return {
      "Mod-f": () => {
        const { open } = this.editor.storage.findInText;
        open?.();
        return open !== null;
      },
    };
  },
});

export interface Wanted {
  text: string;
  matchCase: boolean;
  wholeWord: boolean;
}

export interface Match {
  from: number;
  to: number;
}

const queryOf = (w: Wanted) => new SearchQuery({ search: w.text, caseSensitive: w.matchCase, wholeWord: w.wholeWord, literal: true });

/** Marks what is looked for. */
export function mark(editor: Editor, wanted: Wanted) {
  editor.view.dispatch(setSearchState(editor.state.tr, queryOf(wanted)));
}

/** Where the text stands, from the beginning; more than the most is not looked for. */
export function matchesOf(editor: Editor, wanted: Wanted, most = 10_000): Match[] {
  const query = queryOf(wanted);
  if (!query.valid) return [];
  const found: Match[] = [];
  for (let at = 0; found.length < most; ) {
    const next = query.findNext(editor.state, at);
    if (!next) break;
    found.push({ from: next.from, to: next.to });
    at = Math.max(next.to, at + 1);
  }
  return found;
}

/** The match that is selected, from 0; -1 where none is. */
export const chosen = (matches: readonly Match[], selection: Match) =>
  matches.findIndex((m) => m.from === selection.from && m.to === selection.to);

/** Selects the match after the cursor, or before it; at the end it goes on at the other. */
export function walk(editor: Editor, matches: readonly Match[], by: 1 | -1) {
  const { from, to } = editor.state.selection;
  const next =
    by > 0
      ? (matches.find((m) => m.from >= to || (m.from === from && m.to > to)) ?? matches[0])
      : (matches.findLast((m) => m.to <= from) ?? matches.at(-1));
  if (next) select(editor, next);
}

function select(editor: Editor, match: Match) {
  editor.view.dispatch(editor.state.tr.setSelection(TextSelection.create(editor.state.doc, match.from, match.to)).scrollIntoView());
}

/** What is put in place of a match: text, and fields where there are braces, as when it is typed. */
export function written(schema: Schema, text: string, marks: readonly Mark[]) {
  const nodes = text
    .split(/(\{[^{}]+\})/)
    .filter((part) => part !== "")
    .map((part) => {
      const source = /^\{([^{}]+)\}$/.exec(part)?.[1]?.trim();
      return source && schema.nodes.field ? schema.nodes.field.create({ source }, null, marks) : schema.text(part, marks);
    });
  return Fragment.fromArray(nodes);
}

/** Puts a text in place of matches, in one step that one undo takes back; answers how many. */
export function replace(editor: Editor, matches: readonly Match[], text: string) {
  const { state } = editor;
  const tr = state.tr;
  for (const m of [...matches].reverse())
    tr.replaceWith(m.from, m.to, written(state.schema, text, state.doc.resolve(m.from).nodeAfter?.marks ?? []));
  if (matches.length === 0) return 0;
  const last = matches.length === 1 ? matches[0] : undefined;
  if (last) tr.setSelection(TextSelection.near(tr.doc.resolve(tr.mapping.map(last.to))));
  editor.view.dispatch(tr.scrollIntoView());
  return matches.length;
}
