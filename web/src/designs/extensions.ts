import { Extension, InputRule, PasteRule } from "@tiptap/core";
import Bold from "@tiptap/extension-bold";
import Document from "@tiptap/extension-document";
import HardBreak from "@tiptap/extension-hard-break";
import Italic from "@tiptap/extension-italic";
import Paragraph from "@tiptap/extension-paragraph";
import Text from "@tiptap/extension-text";
import TextAlign from "@tiptap/extension-text-align";
import { FontFamily, FontSize, TextStyle } from "@tiptap/extension-text-style";
import Underline from "@tiptap/extension-underline";
import { UndoRedo } from "@tiptap/extensions";
import { fieldCompletion, type FieldChoice } from "./completion";
import { FieldNode } from "./FieldNode";
import { PictureNode } from "./PictureNode";

/** `{First name | else "friend"}` typed or pasted in full becomes a field. */
const typedFields = Extension.create({
  name: "typedFields",
  addInputRules() {
    return [
      new InputRule({
        find: /\{([^{}]+)\}$/,
        handler: ({ state, range, match }) => {
          const type = state.schema.nodes.field;
          if (!type || !match[1]?.trim()) return null;
          state.tr.replaceWith(range.from, range.to, type.create({ source: match[1].trim() }, null, state.doc.resolve(range.from).marks()));
        },
      }),
    ];
  },
  addPasteRules() {
    return [
      new PasteRule({
        find: /\{([^{}]+)\}/g,
        handler: ({ state, range, match }) => {
          const type = state.schema.nodes.field;
          if (!type || !match[1]?.trim()) return null;
          state.tr.replaceWith(range.from, range.to, type.create({ source: match[1].trim() }, null, state.doc.resolve(range.from).marks()));
        },
      }),
    ];
  },
});

/** Everything a letter can hold. The names of nodes and marks are those of the stored form. */
export const letterExtensions = (choices: () => FieldChoice[]) => [
  Document,
  Paragraph,
  Text,
  HardBreak,
  Bold,
  Italic,
  Underline,
  TextStyle,
  FontFamily,
  FontSize,
  TextAlign.configure({ types: ["paragraph"] }),
  UndoRedo,
  FieldNode,
  PictureNode,
  fieldCompletion(choices),
  typedFields,
];
