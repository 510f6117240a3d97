import { useQuery } from "@tanstack/react-query";
import type { Editor } from "@tiptap/core";
import { useMemo, useState } from "react";
import { detailsQuery, listQuery, settingsQuery } from "../api/queries";
import { BandEditor } from "../designs/BandEditor";
import { builtIns } from "../designs/FieldsPane";
import { paperStyle, sheetPixels, type Letter } from "../designs/letter";
import { mistakesBySource } from "../designs/mistakes";
import { BracketList } from "../designs/nodes/BracketNodes";
import { Chips } from "../designs/nodes/FieldNode";
import { Pieces } from "../designs/Pieces";
import { PreviewIssues } from "../designs/RecipientWalk";
import { Toolbar } from "../designs/Toolbar";
import { usePreview } from "../designs/usePreview";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { useSize } from "../ui/useSize";

/** The letter of one recipient: its text, and beside it what will be printed. */
export function OneOffLetter(props: {
  designId: number;
  listId: number;
  recipientId: number;
  letter: Letter;
  onContent: (content: Letter["content"]) => void;
}) {
  const { letter, listId } = props;
  const [editor, setEditor] = useState<Editor | null>(null);
  const settings = useQuery(settingsQuery()).data;
  const list = useQuery(listQuery(listId)).data;
  const sets = useQuery(detailsQuery(listId)).data;
  const setNames = useMemo(() => sets?.map((s) => s.name) ?? [], [sets]);
  const choices = useMemo(() => {
    const all = [...(list?.columns ?? []).map((c) => ({ name: c.name, hint: "" })), ...builtIns];
    return () => all;
  }, [list]);
  const preview = usePreview({ ...props, document: letter, rest: 60 });
  const pdf = useMemo(() => (preview.shown ? fromBase64(preview.shown.pdf) : undefined), [preview.shown]);
  const chips = useMemo(
    () => ({ mistakes: mistakesBySource(preview.shown?.mistakes), values: new Map<string, string>(), mode: "names" as const }),
    [preview.shown],
  );
  const brackets = useMemo(() => ({ listId: listId, total: list?.recipients ?? 0, sets: setNames }), [listId, list, setNames]);
  const [area, size] = useSize<HTMLDivElement>();
  const sheet = sheetPixels(letter.page);
  const zoom = size.width > 0 ? Math.min(1, (size.width - 48) / sheet.width) : 0.7;
  return (
    <Chips.Provider value={chips}>
      <BracketList.Provider value={brackets}>
        <div className="flex min-h-0 flex-1">
          <section className="flex min-w-0 flex-1 flex-col" aria-label="Editor">
            {editor && (
              <Toolbar
                editor={editor}
                letter={letter}
                families={settings?.families ?? [letter.type.family]}
                sets={setNames}
                pieces={<Pieces editor={editor} today={settings?.today ?? ""} inBand={false} />}
                onPage={null}
              />
            )}
            <div ref={area} className="min-h-0 flex-1 overflow-auto bg-base-200 py-4">
              <div className="paper letter-page relative mx-auto" style={paperStyle(letter, zoom) as React.CSSProperties}>
                <BandEditor
                  label="Letter"
                  content={letter.content}
                  editable
                  paged
                  choices={choices}
                  onChange={(content) => props.onContent(content)}
                  onFocus={setEditor}
                  onReady={setEditor}
                />
              </div>
            </div>
          </section>
          <section className="w-[372px] shrink-0 overflow-auto border-l border-line p-4" aria-label="Print preview" tabIndex={0}>
            <PdfPages data={pdf} width={336} mark={preview.isNow ? "alone" : ""} pageMarks={preview.shown?.pageMarks} />
            {preview.error && <p className="p-3 text-error">{preview.error.message}</p>}
            <PreviewIssues issues={preview.shown?.issues ?? []} className="mt-3" />
          </section>
        </div>
      </BracketList.Provider>
    </Chips.Provider>
  );
}
