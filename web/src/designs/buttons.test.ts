// @vitest-environment jsdom
import { Editor } from "@tiptap/core";
import { expect, test } from "vitest";
import { buttonAt, buttonParagraph } from "./buttons";
import { inkOn } from "./contrast";
import { letterExtensions } from "./extensions";
import { wholeAddress } from "./links";

test("a button comes back from the text as it was put in", () => {
  const editor = new Editor({
    element: document.createElement("div"),
    extensions: letterExtensions(() => [], false),
    content: {
      type: "doc",
      content: [buttonParagraph("Renew, {First}", "https://example.org/?m={No.}", "#b4541f"), { type: "paragraph" }],
    },
  });
  editor.commands.setTextSelection(2);
  expect(buttonAt(editor.state)).toEqual({
    says: "Renew, {First}",
    href: "https://example.org/?m={No.}",
    color: "#b4541f",
    from: 0,
    to: 10,
  });
  // A new line after it is ordinary text.
  editor.commands.setTextSelection(9);
  editor.commands.splitBlock();
  expect(buttonAt(editor.state)).toBeNull();
  editor.destroy();
});

test("a link gets what was not typed", () => {
  expect(wholeAddress(" fernquay.example/renew ")).toBe("https://fernquay.example/renew");
  expect(wholeAddress("office@fernquay.example")).toBe("mailto:office@fernquay.example");
  expect(wholeAddress("http://a.example")).toBe("http://a.example");
  expect(wholeAddress("{Gift page}")).toBe("{Gift page}");
  expect(wholeAddress(" ")).toBe("");
});

test("of light and dark the ink that is read better is taken", () => {
  expect(["#1d5a44", "#000000", "#ffd94d", "#ffffff"].map(inkOn)).toEqual(["#ffffff", "#ffffff", "#1d1c18", "#1d1c18"]);
});
