/** The handbook's chapters, as they lie in docs/handbook, loaded when help is opened. */
const files = import.meta.glob<string>("../../../docs/handbook/*.md", { query: "?raw", import: "default" });

export interface Chapter {
  /** The file's name without its ending: `02-lists`. */
  id: string;
  title: string;
  text: string;
}

export const titleOf = (text: string) => /^# (.+)$/m.exec(text)?.[1] ?? "";

/** All chapters in the order of their numbers; the glossary last. */
export const handbook = async (): Promise<Chapter[]> =>
  Promise.all(
    Object.entries(files)
      .sort(([a], [b]) => a.localeCompare(b))
      .map(async ([path, load]) => {
        const text = await load();
        return { id: path.replace(/^.*\/|\.md$/g, ""), title: titleOf(text), text };
      }),
  );

const pages: [RegExp, string][] = [
  [/^\/drops\/\d+\/(produce|what)/, "08-produce"],
  [/^\/drops\/\d+\/ledger/, "09-ledger-returns"],
  [/^\/drops\/\d+\/proof\/(set|issues)/, "07-proofing"],
  [/^\/drops\//, "06-bench"],
  [/^\/(returns|responses)/, "09-ledger-returns"],
  [/^\/(campaigns\/new)/, "01-first-mailing"],
  [/^\/(campaigns|calendar)/, "10-campaigns"],
  [/^\/(lists|suppressions)/, "02-lists"],
  [/^\/designs/, "03-letters"],
  [/^\/devices\/post-office/, "05-email"],
  [/^\/(devices|settings)/, "11-settings"],
];

/** The chapter that speaks of the page at an address. */
export const chapterOf = (path: string) => pages.find(([of]) => of.test(path))?.[1] ?? "01-first-mailing";

/** A part of a chapter that has all the words that are searched for. */
export interface Found {
  chapter: Chapter;
  text: string;
}

/** The paragraphs, list items, and rows in which all words stand, those of the glossary first. */
export function search(chapters: Chapter[], words: string): Found[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  if (wanted.length === 0) return [];
  const found = chapters.flatMap((chapter) =>
    chapter.text
      .split(/\n\s*\n|\n(?=[-|] |\d+\. )/)
      .map((part) => part.trim())
      .filter((part) => !part.startsWith("# ") && wanted.every((w) => part.toLowerCase().includes(w)))
      .map((text) => ({ chapter, text })),
  );
  return [...found.filter((f) => f.chapter.id === "glossary"), ...found.filter((f) => f.chapter.id !== "glossary")].slice(0, 30);
}
