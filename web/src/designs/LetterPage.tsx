import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Editor, JSONContent } from "@tiptap/core";
import { FileText } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { api, ask } from "../api/client";
import { settingsQuery } from "../api/queries";
import { useActions } from "../ui/keys";
import { FileDialog } from "../documents/FileDialog";
import { useSize } from "../ui/useSize";
import { BandEditor } from "./BandEditor";
import { FieldsPane, FieldsPaneToCome } from "./FieldsPane";
import { FinishedPage } from "./FinishedPage";
import { completeLetter, fieldsOf, millimetre, paperStyle, sheetPixels, type Band } from "./letter";
import { BracketList } from "./nodes/BracketNodes";
import { Chips } from "./nodes/FieldNode";
import { PageDialog } from "./PageDialog";
import { Pieces } from "./Pieces";
import { Ruler } from "./Ruler";
import { Selected } from "./Selected";
import { Toolbar } from "./Toolbar";
import { DesignFrame } from "./DesignFrame";
import { useDesign } from "./useDesign";
import { mistakesBySource, offersBySource } from "./mistakes";
import type { EditorProps } from "./editor";
import { useChoices } from "./useChoices";
import { usePreview } from "./usePreview";
import { WatermarkText } from "./WatermarkText";
import { keys } from "../api/keys";

/** Pages that have a header and footer of their own. */
type Pages = "first" | "even" | "other";

/** A rest this short in the typing is enough for the finished page to follow. */
const rest = 5;

/** A letter is written. */
export function LetterPage(props: EditorProps) {
  const { design } = props;
  const frame = useDesign(props, completeLetter);
  const { document: letter, write: setLetter, listId, list, columns, readOnly, dialog, setDialog } = frame;
  const [mode, setMode] = useState<"names" | "values">("names");
  const [chosenPages, setPages] = useState<Pages>("first");
  const [main, setMain] = useState<Editor | null>(null);
  const [active, setActive] = useState<{ editor: Editor; band: Band } | null>(null);
  const settings = useQuery(settingsQuery()).data;
  const families = settings?.families ?? [letter.type.family];
  const { sets, setNames, choices } = useChoices(listId, columns);
  const write = (band: Band) => (content: JSONContent[]) => setLetter((l) => ({ ...l, [band]: content }));

  // The finished page of a recipient follows the typing.
  const preview = usePreview({ designId: design.id, listId, document: letter, rest });
  const { shown, offset, walk } = preview;
  const mistakes = useMemo(() => mistakesBySource(shown?.mistakes), [shown]);
  const offers = useMemo(() => offersBySource(shown?.mistakes), [shown]);
  const used = useMemo(() => fieldsOf(letter), [letter]);
  const asked = useMemo(() => [...new Map(used.map((f) => [f.source, f])).values()].slice(0, 400), [used]);
  const printed = useQuery({
    queryKey: keys.printed(design.id, listId, offset, asked),
    queryFn: () => ask(api.POST("/api/designs/print", { body: { designId: design.id, listId, offset, fields: asked } })),
    enabled: asked.length > 0,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  }).data;
  const values = useMemo(() => new Map(asked.map((f, i) => [f.source, printed?.[i]?.text ?? ""])), [asked, printed]);
  const chips = useMemo(() => ({ mistakes, values, mode }), [mistakes, values, mode]);
  const brackets = useMemo(() => ({ listId, total: list?.recipients ?? 0, sets: setNames }), [listId, list, setNames]);

  const [params] = useSearchParams();
  useEffect(() => {
    if (params.has("file")) setDialog("file");
  }, [params, setDialog]);
  const editor = active?.editor ?? main;
  useActions([
    { label: "Page setup, letterhead, and watermark", run: () => setDialog("setup") },
    { label: "Source file: download, update, or export", run: () => setDialog("file") },
    { label: "Versions of this letter", run: () => setDialog("versions") },
    { label: "Choose columns for fields", run: () => setDialog("matches") },
    { keys: "v", label: "Show field values or names", run: () => setMode((m) => (m === "names" ? "values" : "names")) },
    { keys: "ArrowDown", label: "Next recipient", run: () => walk(1), quiet: true },
    { keys: "ArrowUp", label: "Previous recipient", run: () => walk(-1), quiet: true },
  ]);

  const [area, size] = useSize<HTMLDivElement>();
  const [headBox, headSize] = useSize<HTMLDivElement>();
  const [footBox, footSize] = useSize<HTMLDivElement>();
  const sheet = sheetPixels(letter.page);
  const zoom = size.width > 0 ? Math.min(1, (size.width - 48) / sheet.width) : 0.7;
  const m = letter.page.margins;
  // Which pages' header and footer are shown: those that differ can be chosen.
  const kindsOfPages: Pages[] = [
    ...(letter.firstDiffers ? ["first" as const] : []),
    ...(letter.evenDiffers ? ["even" as const] : []),
    "other",
  ];
  const pages = kindsOfPages.includes(chosenPages) ? chosenPages : "other";
  const bandOf = (where: "header" | "footer"): Band =>
    pages === "other"
      ? where
      : where === "header"
        ? pages === "first"
          ? "firstHeader"
          : "evenHeader"
        : pages === "first"
          ? "firstFooter"
          : "evenFooter";
  // As on the finished page, a header or footer that needs more than its margin pushes the text in.
  const bandRoom = (where: "header" | "footer", margin: number) =>
    Math.max(
      margin * millimetre,
      letter[bandOf(where)].length
        ? letter.edge * millimetre + (where === "header" ? headSize : footSize).height - letter.type.spaceAfter / 0.75 + 8 / 0.75
        : 0,
    );
  const focus = (band: Band) => (e: Editor) => setActive({ editor: e, band });
  const band = (where: "header" | "footer") => (
    <div
      ref={where === "header" ? headBox : footBox}
      className={`letter-band letter-${where}`}
      style={
        {
          paddingLeft: `${m.left}mm`,
          paddingRight: `${m.right}mm`,
          [where === "header" ? "top" : "bottom"]: `${letter.edge}mm`,
          // What has a place of the page is counted from its corner, wherever the band begins.
          "--margin-top": where === "header" ? `${letter.edge}mm` : `calc(${sheet.height}px - ${letter.edge}mm - ${footSize.height}px)`,
        } as React.CSSProperties
      }
    >
      <BandEditor
        key={bandOf(where)}
        label={`${where === "header" ? "Header" : "Footer"}${{ first: " of the first page", even: " of even pages", other: "" }[pages]}`}
        content={letter[bandOf(where)]}
        editable={!readOnly}
        paged
        choices={choices}
        onChange={write(bandOf(where))}
        onFocus={focus(bandOf(where))}
      />
    </div>
  );
  return (
    <Chips.Provider value={chips}>
      <BracketList.Provider value={brackets}>
        <DesignFrame
          of={frame}
          values={shown?.values ?? []}
          actions={
            <>
              <button className="btn btn-quiet" title="Source file: download, update, or export" onClick={() => setDialog("file")}>
                <FileText size={15} /> File
              </button>
              <button
                className="btn btn-quiet"
                aria-pressed={mode === "values"}
                title="Show field values or field names (V)"
                onClick={() => setMode(mode === "names" ? "values" : "names")}
              >
                {mode === "names" ? "Show field values" : "Show field names"}
              </button>
            </>
          }
        >
          <div className="flex min-h-0 flex-1">
            {editor ? (
              <FieldsPane
                editor={editor}
                columns={columns}
                values={shown?.values ?? []}
                listId={listId}
                used={used}
                inBand={active !== null && active.band !== "content"}
                mistakes={mistakes}
                onInsert={(names) => {
                  const marks = (editor.state.storedMarks ?? editor.state.selection.$from.marks()).map(
                    (x) => x.toJSON() as { type: string },
                  );
                  const content = names.flatMap((name, i): JSONContent[] => [
                    ...(i > 0 ? [{ type: "text", text: " " }] : []),
                    { type: "field", attrs: { source: name }, marks },
                  ]);
                  editor.chain().focus().insertContent(content).run();
                }}
              />
            ) : (
              <FieldsPaneToCome />
            )}
            <section className="flex min-w-0 flex-1 flex-col" aria-label="Editor">
              {editor && (
                <Toolbar
                  key={active?.band ?? "content"}
                  editor={editor}
                  letter={letter}
                  families={families}
                  sets={setNames}
                  onPage={() => setDialog("setup")}
                  pieces={<Pieces editor={editor} today={settings?.today ?? ""} inBand={active !== null && active.band !== "content"} />}
                />
              )}
              <div ref={area} className="min-h-0 flex-1 overflow-auto bg-base-200 pb-5">
                {editor && (
                  <div className="sticky top-0 z-20 bg-base-200 pt-1">
                    <Ruler editor={editor} letter={letter} zoom={zoom} sheetWidth={sheet.width} />
                  </div>
                )}
                {kindsOfPages.length > 1 && (
                  <div className="mx-auto mb-1 flex gap-1" style={{ width: sheet.width * zoom }}>
                    {kindsOfPages.map((p) => (
                      <button key={p} className={`btn btn-xs ${p === pages ? "btn-primary" : "btn-quiet"}`} onClick={() => setPages(p)}>
                        {{ first: "First page", even: "Even pages", other: letter.evenDiffers ? "Odd pages" : "Other pages" }[p]}
                      </button>
                    ))}
                  </div>
                )}
                <div
                  className="paper letter-page relative mx-auto"
                  style={
                    paperStyle(letter, zoom, `${bandRoom("header", m.top)}px`, `${bandRoom("footer", m.bottom)}px`) as React.CSSProperties
                  }
                  onMouseDown={(e) => {
                    if (e.target !== e.currentTarget || !main) return;
                    e.preventDefault();
                    // Below a bracket, a table or a picture there is no line yet to go on in.
                    const last = main.state.doc.lastChild;
                    if (last && !last.isTextblock) main.commands.insertContentAt(main.state.doc.content.size, { type: "paragraph" });
                    main.commands.focus("end");
                  }}
                >
                  <WatermarkText mark={letter.watermark} />
                  {band("header")}
                  <div className="relative">
                    <BandEditor
                      label="Letter"
                      content={letter.content}
                      editable={!readOnly}
                      paged
                      choices={choices}
                      onChange={write("content")}
                      onFocus={focus("content")}
                      onReady={setMain}
                    />
                  </div>
                  {band("footer")}
                </div>
              </div>
            </section>
            <FinishedPage listId={listId} preview={preview}>
              {editor && (
                <Selected
                  editor={editor}
                  columns={columns}
                  sets={sets}
                  listId={listId}
                  designId={design.id}
                  offset={offset}
                  mistakes={mistakes}
                  offers={offers}
                  sheet={letter.page}
                />
              )}
            </FinishedPage>
          </div>
          {dialog === "file" && <FileDialog designId={design.id} close={() => setDialog(null)} />}
          {dialog === "setup" && (
            <PageDialog
              letter={letter}
              families={families}
              onChange={(part) => setLetter((l) => ({ ...l, ...part }))}
              close={() => setDialog(null)}
            />
          )}
        </DesignFrame>
      </BracketList.Provider>
    </Chips.Provider>
  );
}
