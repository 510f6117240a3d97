import { Extension } from "@tiptap/core";
import type { Node } from "@tiptap/pm/model";
import { Plugin, PluginKey } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";

type Mistakes = ReadonlyMap<string, string>;

const key = new PluginKey<{ mistakes: Mistakes; marks: DecorationSet }>("plainMistakes");

/** Marks a brace in plain text that is wrong, such as one that nobody closed: it is no field yet, so no chip shows the mistake. */
export const plainMistakes = Extension.create({
  name: "plainMistakes",
  addProseMirrorPlugins: () => [
    new Plugin({
      key,
      state: {
        init: () => ({ mistakes: new Map<string, string>() as Mistakes, marks: DecorationSet.empty }),
        apply(tr, state) {
          const mistakes = (tr.getMeta(key) as Mistakes | undefined) ?? state.mistakes;
          if (mistakes === state.mistakes && !tr.docChanged) return state;
          return { mistakes, marks: marksIn(tr.doc, mistakes) };
        },
      },
      props: { decorations: (state) => key.getState(state)?.marks },
    }),
  ],
});

/** Tells the text which mistakes there are now. */
export const setMistakes = (mistakes: Mistakes) => [key, mistakes] as const;

function marksIn(doc: Node, mistakes: Mistakes) {
  const marks: Decoration[] = [];
  if (mistakes.size === 0) return DecorationSet.empty;
  doc.descendants((node, at) => {
    if (!node.isTextblock) return;
    // A thing in the line counts as one character, so that places in the text are places in the document.
    const text = node.textBetween(0, node.content.size, undefined, "\ufffc");
    for (let open = text.indexOf("{"); open >= 0; open = text.indexOf("{", open + 1)) {
      const rest = text.slice(open + 1);
      for (const [source, message] of mistakes)
        if (source !== "" && rest.startsWith(source))
          marks.push(Decoration.inline(at + 1 + open, at + 1 + open + 1 + source.length, { class: "plain-mistake", title: message }));
    }
  });
  return DecorationSet.create(doc, marks);
}
