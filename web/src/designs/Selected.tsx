import type { Editor, JSONContent } from "@tiptap/core";
import { NodeSelection } from "@tiptap/pm/state";
import { useEditorState } from "@tiptap/react";
import type { Schema } from "../api/client";
import { BoxPanel, ColumnsPanel, FootnotePanel } from "./BoxPanel";
import { BarcodePanel } from "./BarcodePanel";
import { removeMarker } from "./brackets";
import { ChipPanel, MarkerPanel } from "./ChipPanel";
import { isMarker } from "./letter";
import { Mistake } from "./Mistake";
import { aroundCursor } from "./nodes/boxes";
import type { PageLayout } from "./nodes/textParts";
import { PageBreakPanel } from "./PageBreakPanel";
import { PicturePanel } from "./PicturePanel";

const firstSheet: PageLayout = { sheet: "letter", margins: { top: 25, right: 25, bottom: 25, left: 25 } };
const selectable = ["field", "marker", "picture", "inlinePicture", "barcode", "footnote", "pageBreak"];

/** What is known and can be set about the thing that is selected. */
export function Selected({
  editor,
  columns,
  sets,
  listId,
  designId,
  offset,
  mistakes,
  offers,
  sheet,
}: {
  editor: Editor;
  columns: Schema["Column"][];
  sets: Schema["DetailView"][];
  listId: number | null;
  designId: number;
  offset: number;
  mistakes: ReadonlyMap<string, string>;
  offers: ReadonlyMap<string, string>;
  /** The letter's own sheet. */
  sheet?: PageLayout;
}) {
  const chosen = useEditorState({
    editor,
    selector: ({ editor: e }) => {
      const selection = e.state.selection;
      const chosenNode = selection instanceof NodeSelection ? selection.node.type.name : "";
      if (!(selection instanceof NodeSelection) || !selectable.includes(chosenNode)) {
        const around = aroundCursor(e);
        return around ? { type: around.type, from: around.at, attrs: JSON.stringify(around.attrs), within: null } : null;
      }
      const type = chosenNode;
      // The rows that *each* around the field goes over, the innermost.
      let within: string | null = null;
      for (let depth = selection.$from.depth; depth > 0 && within === null; depth--) {
        const around = selection.$from.node(depth);
        if (around.type.name === "each") within = String(around.attrs.rows);
        if (around.type.name === "tableRow") within = /^\s*each\s+`?([^`]+?)`?\s*$/i.exec(String(around.attrs.bracket ?? ""))?.[1] ?? null;
      }
      return { type, from: selection.from, attrs: JSON.stringify(selection.node.attrs), within };
    },
  });
  if (!chosen) return null;
  const attrs = JSON.parse(chosen.attrs) as Record<string, unknown>;
  const source = String(attrs.source ?? "");
  const setSource = (text: string) => {
    // Leaving a box of the panel sets the field, too; then the writer is elsewhere already and must not be called back.
    const still = editor.state.selection instanceof NodeSelection && editor.state.selection.from === chosen.from && !editor.isFocused;
    const set = editor.chain().command(({ tr }) => (tr.setNodeAttribute(chosen.from, "source", text), true));
    (still ? set.setNodeSelection(chosen.from) : set).run();
  };
  const mistake = mistakes.get(source);
  const offer = offers.get(source);
  const take = (text: string) =>
    chosen.type === "field" && isMarker(text)
      ? // What was meant as a bracket becomes one.
        editor
          .chain()
          .focus()
          .insertContentAt({ from: chosen.from, to: chosen.from + 1 }, { type: "marker", attrs: { source: text } })
          .run()
      : setSource(text);
  if (chosen.type === "field")
    return (
      <ChipPanel
        key={chosen.from}
        source={source}
        within={chosen.within}
        columns={columns}
        sets={sets}
        listId={listId}
        designId={designId}
        offset={offset}
        mistake={mistake && <Mistake message={mistake} offer={offer} onTake={take} />}
        onChange={setSource}
        onRemove={() => editor.chain().focus().deleteSelection().run()}
      />
    );
  if (chosen.type === "marker")
    return (
      <MarkerPanel
        key={chosen.from}
        source={source}
        listId={listId}
        mistake={mistake && <Mistake message={mistake} offer={offer} onTake={take} />}
        onChange={setSource}
        onRemove={() => removeMarker(editor, chosen.from)}
      />
    );
  if (chosen.type === "box") return <BoxPanel key={chosen.from} editor={editor} at={chosen.from} attrs={attrs} />;
  if (chosen.type === "columns") return <ColumnsPanel key={chosen.from} editor={editor} at={chosen.from} attrs={attrs} />;
  if (chosen.type === "footnote") return <FootnotePanel key={chosen.from} editor={editor} content={attrs.content as JSONContent[]} />;
  if (chosen.type === "pageBreak")
    return (
      <PageBreakPanel key={chosen.from} editor={editor} page={(attrs.page as PageLayout | null) ?? null} letter={sheet ?? firstSheet} />
    );
  if (chosen.type === "barcode")
    return <BarcodePanel key={chosen.from} editor={editor} attrs={attrs} columns={columns} mistake={mistake} />;
  return (
    <PicturePanel
      paged={sheet !== undefined}
      key={chosen.from}
      editor={editor}
      type={chosen.type as "picture" | "inlinePicture"}
      attrs={attrs}
      columns={columns}
      mistake={mistake}
    />
  );
}
