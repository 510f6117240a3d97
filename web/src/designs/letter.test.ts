import { getSchema, type JSONContent } from "@tiptap/core";
import { expect, it } from "vitest";
import { completeSurface } from "../surfaces/surface";
import { letterExtensions } from "./extensions";
import { completeLetter } from "./letter";

const p = (...content: JSONContent[]): JSONContent => ({ type: "paragraph", content });
const t = (text: string): JSONContent => ({ type: "text", text });
// What scripts may send and the server takes.
const written = [
  p(t("Dear {First}, "), t(""), { type: "text" }),
  p(t("")),
  { type: "bulletList", content: [{ type: "listItem", content: [p(t(""), t("{Last}"))] }] },
];

it("what scripts wrote is opened whole: fields are chips, and empty texts cost nothing", () => {
  const { content } = completeLetter({ content: written });
  const opened = getSchema(letterExtensions(() => [], true)).nodeFromJSON({ type: "doc", content });
  opened.check();
  expect(opened.toString()).toBe('doc(paragraph("Dear ", field, ", "), paragraph, bulletList(listItem(paragraph(field))))');
});

it("so are the boxes of envelopes and labels", () => {
  const surface = completeSurface({ kind: "labels", boxes: [{ id: "a", x: 0, y: 0, width: 9, height: 9, content: written }] });
  expect(surface.boxes[0]?.content[1]).toEqual(p());
  expect(surface.boxes[0]?.content[0]?.content?.map((n) => n.type)).toEqual(["text", "field", "text"]);
});
