import { Extension, InputRule, PasteRule } from "@tiptap/core";
import Blockquote from "@tiptap/extension-blockquote";
import Bold from "@tiptap/extension-bold";
import Document from "@tiptap/extension-document";
import HardBreak from "@tiptap/extension-hard-break";
import Heading from "@tiptap/extension-heading";
import HorizontalRule from "@tiptap/extension-horizontal-rule";
import Italic from "@tiptap/extension-italic";
import Link from "@tiptap/extension-link";
import { BulletList, ListItem, ListKeymap, OrderedList } from "@tiptap/extension-list";
import Paragraph from "@tiptap/extension-paragraph";
import Strike from "@tiptap/extension-strike";
import Text from "@tiptap/extension-text";
import TextAlign from "@tiptap/extension-text-align";
import { Color, FontFamily, FontSize, TextStyle } from "@tiptap/extension-text-style";
import Underline from "@tiptap/extension-underline";
import { Dropcursor, Gapcursor, UndoRedo } from "@tiptap/extensions";
import { Plugin } from "@tiptap/pm/state";
import { say } from "../ui/notices";
import { many } from "../ui/words";
import { cleanPaste } from "./cleanPaste";
import { fieldCompletion, type FieldChoice } from "./completion";
import { tabs } from "./tabs";
import { findInText, leaving } from "./finding";
import { BranchNode, EachNode, WhenNode } from "./nodes/BracketNodes";
import { isMarker } from "./letter";
import { isLink } from "./links";
import { plainMistakes } from "./plainMistakes";
import { FieldNode, MarkerNode } from "./nodes/FieldNode";
import { BarcodeNode } from "./nodes/BarcodeNode";
import { InlinePictureNode, PictureNode } from "./nodes/PictureNode";
import { BoxNode, ColumnsNode, FootnoteNode } from "./nodes/boxes";
import { tables } from "./nodes/tables";
import { foreignFields, typographicMarks } from "./typing";
import { PageBreak, ParagraphMeasures, Subscript, Superscript } from "./nodes/textParts";

/** `{First name | else "friend"}` typed or pasted in full becomes a field, `{when …}` a bracket. */
const typedFields = Extension.create({
  name: "typedFields",
  addInputRules() {
    return [
      new InputRule({
        find: /\{([^{}]+)\}$/,
        handler: ({ state, range, match }) => {
          const text = match[1]?.trim();
          const type = state.schema.nodes[text && isMarker(text) ? "marker" : "field"];
          if (!type || !text) return null;
          state.tr.replaceWith(range.from, range.to, type.create({ source: text }, null, state.doc.resolve(range.from).marks()));
        },
      }),
    ];
  },
  addPasteRules() {
    return [
      new PasteRule({
        find: /\{([^{}]+)\}/g,
        handler: ({ state, range, match }) => {
          const text = match[1]?.trim();
          const type = state.schema.nodes[text && isMarker(text) ? "marker" : "field"];
          if (!type || !text) return;
          state.tr.replaceWith(range.from, range.to, type.create({ source: text }, null, state.doc.resolve(range.from).marks()));
        },
      }),
    ];
  },
});

const cleanPasting = Extension.create({
  name: "cleanPasting",
  addProseMirrorPlugins: () => [
    new Plugin({
      props: {
        transformPastedHTML: (html) => {
          // What is copied here brings its pictures along; those of other programs are addresses of files that are not here.
          const dropped = html.includes("data-pm-slice") ? 0 : (html.match(/<img\b/gi)?.length ?? 0);
          if (dropped > 0)
            say(
              `${many(dropped, "picture")} in the pasted text ${dropped === 1 ? "was" : "were"} not kept. Add pictures with “Insert picture.”`,
            );
          return cleanPaste(html);
        },
      },
    }),
  ],
});

/**
 * Everything that can be written. The names of nodes and marks are those of the stored form.
 * @param paged True for letters: boxes, columns, and footnotes need pages.
 */
export const letterExtensions = (choices: () => FieldChoice[], paged: boolean) => [
  ...(paged ? [BoxNode, ColumnsNode, FootnoteNode] : []),
  plainMistakes,
  findInText,
  tabs,
  leaving,
  Document,
  Paragraph,
  Text,
  HardBreak,
  Heading.configure({ levels: [1, 2, 3] }),
  Blockquote,
  HorizontalRule,
  BulletList,
  OrderedList,
  ListItem,
  ListKeymap,
  Bold,
  Italic,
  Underline,
  Strike,
  Superscript,
  Subscript,
  Link.configure({
    openOnClick: false,
    autolink: true,
    linkOnPaste: true,
    protocols: ["http", "https", "mailto"],
    isAllowedUri: isLink,
  }),
  TextStyle,
  FontFamily,
  FontSize,
  Color,
  TextAlign.configure({ types: ["paragraph", "heading"] }),
  ParagraphMeasures,
  PageBreak,
  ...tables,
  WhenNode,
  BranchNode,
  EachNode,
  FieldNode,
  MarkerNode,
  PictureNode,
  InlinePictureNode,
  BarcodeNode,
  UndoRedo,
  Dropcursor,
  Gapcursor,
  fieldCompletion(choices),
  foreignFields(choices),
  typedFields,
  typographicMarks,
  cleanPasting,
];
