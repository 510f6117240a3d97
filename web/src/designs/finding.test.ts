// @vitest-environment jsdom
import { Editor } from "@tiptap/core";
import { afterEach, expect, test } from "vitest";
import { letterExtensions } from "./extensions";
import { chosen, mark, matchesOf, replace, walk } from "./finding";

const paragraph = (...content: object[]) => ({ type: "paragraph", content });
const text = (t: string, ...marks: string[]) => ({ type: "text", text: t, marks: marks.map((type) => ({ type })) });
let editor: Editor;
const letter = (...content: object[]) =>
  (editor = new Editor({
    element: document.createElement("div"),
    extensions: letterExtensions(() => [], true),
    content: { type: "doc", content },
  }));
afterEach(() => editor.destroy());
const wanted = (t: string, matchCase = false, wholeWord = false) => ({ text: t, matchCase, wholeWord });

test("text is found across looks, in tables and lists, and never across a field", () => {
  letter(
    paragraph(text("Gar"), text("den", "bold"), text(" garden GARDENS")),
    paragraph(text("gar"), { type: "field", attrs: { source: "First" } }, text("den")),
    { type: "bulletList", content: [{ type: "listItem", content: [paragraph(text("garden"))] }] },
  );
  expect(matchesOf(editor, wanted("garden"))).toHaveLength(4);
  expect(matchesOf(editor, wanted("garden", true))).toHaveLength(2);
  expect(matchesOf(editor, wanted("garden", false, true))).toHaveLength(3);
  expect(matchesOf(editor, wanted(""))).toEqual([]);
  expect(matchesOf(editor, wanted("nowhere"))).toEqual([]);
});

test("what is looked for is taken as it is written, not as a pattern", () => {
  letter(paragraph(text("a.b a\\nb axb (1+1)")));
  expect(matchesOf(editor, wanted("a.b"))).toHaveLength(1);
  expect(matchesOf(editor, wanted("a\\nb"))).toHaveLength(1);
  expect(matchesOf(editor, wanted("(1+1)"))).toHaveLength(1);
});

test("one walks from match to match and around the end", () => {
  letter(paragraph(text("one two one two one")));
  const all = matchesOf(editor, wanted("one"));
  mark(editor, wanted("one"));
  const seen = [1, 1, 1, 1, -1].map((by) => {
    walk(editor, all, by as 1 | -1);
    return chosen(all, editor.state.selection);
  });
  expect(seen).toEqual([0, 1, 2, 0, 2]);
});

test("another text takes over the look, braces become fields, and one undo brings all back", () => {
  letter(paragraph(text("Dear "), text("friend", "bold"), text(", dear friend")));
  const before = editor.getJSON();
  expect(replace(editor, matchesOf(editor, wanted("friend")), "{First} of ours")).toBe(2);
  expect(editor.getJSON().content?.[0]?.content).toMatchObject([
    { text: "Dear " },
    { type: "field", attrs: { source: "First" }, marks: [{ type: "bold" }] },
    { text: " of ours", marks: [{ type: "bold" }] },
    { text: ", dear " },
    { type: "field", attrs: { source: "First" } },
    { text: " of ours" },
  ]);
  editor.commands.undo();
  expect(editor.getJSON()).toEqual(before);
});

test("what is put in its place may hold what is looked for, and may be nothing", () => {
  letter(paragraph(text("aa a")));
  expect(replace(editor, matchesOf(editor, wanted("a")), "aa")).toBe(3);
  expect(editor.getText()).toBe("aaaa aa");
  expect(replace(editor, matchesOf(editor, wanted("aa")), "")).toBe(3);
  expect(editor.getText().trim()).toBe("");
});
