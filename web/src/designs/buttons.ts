import type { JSONContent } from "@tiptap/core";
import type { EditorState } from "@tiptap/pm/state";

/** The button that the cursor stands in, if it does: what it says, with fields in braces, where it leads, its color. */
export function buttonAt(state: EditorState) {
  const { $from } = state.selection;
  const color = $from.parent.attrs.button as string | undefined | null;
  if (!color) return null;
  let [says, href] = ["", ""];
  $from.parent.forEach((node) => {
    says += node.type.name === "field" ? `{${String(node.attrs.source)}}` : (node.text ?? "");
    href ||= String(node.marks.find((m) => m.type.name === "link")?.attrs.href ?? "");
  });
  return { says, href, color, from: $from.before(), to: $from.after() };
}

/** A paragraph whose link is a button. */
export const buttonParagraph = (says: string, href: string, color: string): JSONContent => ({
  type: "paragraph",
  attrs: { button: color },
  content: says
    .split(/(\{[^{}]+\})/)
    .filter((part) => part !== "")
    .map((part): JSONContent => {
      const source = /^\{([^{}]+)\}$/.exec(part)?.[1]?.trim();
      const marks = [{ type: "link", attrs: { href } }];
      return source ? { type: "field", attrs: { source }, marks } : { type: "text", text: part, marks };
    }),
});
