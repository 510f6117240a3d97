import { Extension, InputRule, PasteRule } from "@tiptap/core";
import { queryClient, type Schema } from "../api/client";
import { settingsQuery } from "../api/queries";
import type { FieldChoice } from "./completion";

/** The marks of a language: double quotes, single quotes, and the dash that two hyphens become. */
interface Marks {
  double: [string, string];
  single: [string, string];
  dash: string;
}

const english: Marks = { double: ["“", "”"], single: ["‘", "’"], dash: "—" };
// Bringhurst, The Elements of Typographic Style, 5.4; for German DIN 5008, for French and Spanish the quotes of their academies.
const byLanguage: Record<string, Marks> = {
  en: english,
  de: { double: ["„", "“"], single: ["‚", "‘"], dash: "–" },
  fr: { double: ["«\u00a0", "\u00a0»"], single: ["‘", "’"], dash: "–" },
  es: { double: ["«", "»"], single: ["‘", "’"], dash: "—" },
};

/** The language in which the organization writes, as a tag. */
export const writingLocale = () =>
  queryClient.getQueryData<Schema["SettingsView"]>(settingsQuery().queryKey)?.organization.locale ?? "en-US";

export const marksOf = (locale: string) => byLanguage[locale.slice(0, 2)] ?? english;

/** True where a quote that is typed after a text opens one: at the beginning, after a space, an opening mark, or a dash. */
export const opens = (before: string) => /(^|[\s([{<—–\-“„‘‚«])$/.test(before);

/** True within a field that is being typed: there a quote is the field language's. */
export const inField = (before: string) => before.lastIndexOf("{") > before.lastIndexOf("}");

/** What a typed character makes of the text before it: how many characters it replaces and what stands there then; null for itself. */
export function typographic(before: string, typed: string, marks: Marks): { replaces: number; text: string } | null {
  if (inField(before)) return null;
  if (typed === '"') return { replaces: 0, text: opens(before) ? marks.double[0] : marks.double[1] };
  if (typed === "'") return { replaces: 0, text: opens(before) ? marks.single[0] : "’" === marks.single[1] ? "’" : closing(before, marks) };
  if (typed === "-" && before.endsWith("-") && !before.endsWith("--")) return { replaces: 1, text: marks.dash };
  if (typed === "." && before.endsWith("..") && !before.endsWith("...")) return { replaces: 2, text: "…" };
  return null;
}

// Where single quotes close with another mark than the apostrophe, one within a word is an apostrophe all the same.
const closing = (before: string, marks: Marks) => (before.includes(marks.single[0]) ? marks.single[1] : "’");

/** Straight quotes, two hyphens, and three periods become typographic marks; undo brings back what was typed. */
export const typographicMarks = Extension.create({
  name: "typographicMarks",
  // Before the editor's own undo.
  priority: 1000,
  addStorage: () => ({ isLast: false }),
  // What other rules made (a field of its braces) goes with the editor's own undo, which can be redone.
  onTransaction({ transaction }) {
    if (transaction.docChanged) this.storage.isLast = transaction.getMeta("typographic") === true;
  },
  addInputRules() {
    return [
      new InputRule({
        find: /["'.-]$/,
        handler: ({ state, range, match }) => {
          const $from = state.doc.resolve(range.from);
          if ($from.parent.type.spec.code) return null;
          const before = $from.parent.textBetween(0, $from.parentOffset, undefined, "\ufffc");
          const made = typographic(before, match[0].slice(-1), marksOf(writingLocale()));
          if (!made) return null;
          state.tr.insertText(made.text, range.from - made.replaces, range.to).setMeta("typographic", true);
        },
      }),
    ];
  },
  addKeyboardShortcuts() {
    return { "Mod-z": () => this.storage.isLast && this.editor.commands.undoInputRule() };
  },
});

const folded = (name: string) =>
  name
    .toLowerCase()
    .replace(/[\s_.-]+/g, " ")
    .trim();

/**
 * The field that a placeholder of another program means: the column of that name, whatever its case and its spaces. Between braces it is a
 * field also where no column has its name, so that it is seen; between angle quotes, which are quotation marks too, it is not.
 */
export function foreignField(written: string, names: readonly string[]): string | null {
  const inner = /^(?:«\s*(.+?)\s*»|\{\{\s*(.+?)\s*\}\})$/.exec(written);
  const name = inner?.[1] ?? inner?.[2];
  if (!name) return null;
  return names.find((n) => folded(n) === folded(name)) ?? (inner?.[2] ? name : null);
}

/** Pasted «Name» and {{Name}} become fields. */
export const foreignFields = (choices: () => FieldChoice[]) =>
  Extension.create({
    name: "foreignFields",
    // Before braces of our own are read.
    priority: 900,
    addPasteRules() {
      return [
        new PasteRule({
          find: /«[^«»{}]{1,80}»|\{\{[^{}]{1,80}\}\}/g,
          handler: ({ state, range, match }) => {
            const source = foreignField(
              match[0],
              choices().map((c) => c.name),
            );
            const type = state.schema.nodes.field;
            // Nothing, and not null: null would undo what became of the others in the same text.
            if (!source || !type) return;
            state.tr.replaceWith(range.from, range.to, type.create({ source }, null, state.doc.resolve(range.from).marks()));
          },
        }),
      ];
    },
  });
