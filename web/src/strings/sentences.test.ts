import { expect, test } from "vitest";
import { sentences } from "./sentences";

const sources = import.meta.glob<string>(["../**/*.{ts,tsx}", "!../**/*.test.{ts,tsx}", "!../**/*.gen.ts", "!./*"], {
  query: "?raw",
  import: "default",
  eager: true,
});

test("each sentence is collected once, with a mark for each value; class names and identifiers are not", () => {
  const source = `
    import x from "some where";
    export function P({ n, one }: { n: number; one: boolean }) {
      const look = "flex gap-2";
      if (n === "not this one") return null;
      return (
        <p className="text faint" title="Opens the list">
          You have <b>{n}</b> {one ? "letter" : "letters"} in “{look}”.
          <button aria-label="Close" onClick={() => say(\`Removed \${n} recipients\`)} />
        </p>
      );
    }`;
  expect(sentences("P.tsx", source)).toEqual([
    "You have {…} {letter | letters} in “{…}”.",
    "Opens the list",
    "Close",
    "Removed {…} recipients",
  ]);
});

/** The first folder is the area; what lies in none is the frame around all of them. */
const areas = new Map<string, string[]>();
for (const path of Object.keys(sources).sort()) {
  const [, first = "", rest] = /^\.\.\/(?:([^/]+)\/)?(.+)$/.exec(path) ?? [];
  const said = sentences(path, sources[path] ?? "");
  if (said.length === 0) continue;
  const area = first || "frame";
  areas.set(area, [...(areas.get(area) ?? []), `## ${rest}`, "", ...said.map((s) => `- ${s}`), ""]);
}

test("the book has a file for each area, and no other", () => {
  const files = Object.keys(import.meta.glob("../../strings/*.md")).map((f) => f.replace(/^.*\/|\.md$/g, ""));
  expect(files.sort()).toEqual([...areas.keys()].sort());
});

/** What people read, a file for each area, to be read in a row and to be seen in a change. `npm run strings` writes it anew. */
test.each([...areas.keys()])("the strings of %s are in the book", async (area) => {
  const book = `# ${area}\n\n${(areas.get(area) ?? []).join("\n")}`;
  await expect(book).toMatchFileSnapshot(`../../strings/${area}.md`);
});
