import { useQuery } from "@tanstack/react-query";
import { Plus, Settings2 } from "lucide-react";
import { useMemo, useState } from "react";
import { settingsQuery } from "../api/queries";
import { BracketList } from "../designs/nodes/BracketNodes";
import { Chips } from "../designs/nodes/FieldNode";
import { Drop } from "../designs/Toolbar";
import { useActions } from "../ui/keys";
import { fromBase64 } from "../ui/PdfPages";
import { useSize } from "../ui/useSize";
import { BoxPanel } from "./BoxPanel";
import { EnvelopeDialog } from "./EnvelopeDialog";
import { envelopesQuery, stocksQuery } from "./queries";
import { SheetView } from "./SheetView";
import { StockDialog } from "./StockDialog";
import { changed, completeSurface, newBox, surfaceSize, useNames, type Box, type BoxUse, type Surface } from "./surface";
import { SurfaceCanvas } from "./SurfaceCanvas";
import { DesignFrame } from "../designs/DesignFrame";
import { useDesign } from "../designs/useDesign";
import { mistakesBySource } from "../designs/mistakes";
import type { EditorProps } from "../designs/editor";
import { useChoices } from "../designs/useChoices";
import { PreviewIssues, RecipientWalk, StepButtons } from "../designs/RecipientWalk";
import { usePreview } from "../designs/usePreview";
import { useSteps } from "../designs/useSteps";
import { Beside } from "../ui/Beside";
import { lengths } from "../ui/customs";

const rest = 60;
const addable: Record<Surface["kind"], BoxUse[]> = {
  envelope: ["delivery", "return", "indicia", "endorsement", "teaser", "barcode", "picture", "number", "text"],
  labels: ["delivery", "text", "barcode", "picture", "number"],
};

/** An envelope or a label is designed on the finished piece itself: its boxes are moved over it, their content stands beside it. */
export function SurfacePage(props: EditorProps) {
  const { design } = props;
  const frame = useDesign(props, completeSurface);
  const { document: surface, write: setSurface, listId, list, columns, readOnly, dialog, setDialog } = frame;
  const [selected, setSelected] = useState<string | null>(null);
  const [view, setView] = useState<"piece" | "sheet">("piece");
  const settings = useQuery(settingsQuery()).data;
  const families = settings?.families ?? [surface.type.family];
  const envelopes = useQuery(envelopesQuery()).data;
  const stocks = useQuery(stocksQuery()).data;

  const steps = useSteps(surface, setSurface);
  const { set, undo, redo, epoch } = steps;
  const setBox = (id: string, part: Partial<Box>) =>
    set({ ...surface, boxes: surface.boxes.map((b) => (b.id === id ? changed(b, part) : b)) }, `${id} ${Object.keys(part).join()}`);
  const removeBox = (id: string) => {
    set({ ...surface, boxes: surface.boxes.filter((b) => b.id !== id) });
    setSelected(null);
  };
  const size = surfaceSize(surface, envelopes ?? [], stocks ?? []);
  const add = (use: BoxUse) => {
    const box = newBox(use, surface.boxes, size, surface.kind, {
      postalAddress: settings?.organization.postalAddress ?? "",
      american: settings?.sheet !== "a4",
    });
    set({ ...surface, boxes: [...surface.boxes, box] });
    setSelected(box.id);
  };
  const preview = usePreview({ designId: design.id, listId, document: surface, rest });
  const { shown, offset, walk } = preview;
  const pdf = useMemo(() => (shown ? fromBase64(shown.pdf) : undefined), [shown]);
  useActions([
    { keys: "Ctrl+z", label: "Undo", run: undo },
    { keys: "Ctrl+y Ctrl+Shift+z", label: "Redo", run: redo },
    { keys: "ArrowDown", label: "Next recipient", run: () => walk(1), quiet: true },
    { keys: "ArrowUp", label: "Previous recipient", run: () => walk(-1), quiet: true },
    {
      label: surface.kind === "envelope" ? "Set envelope size and window" : "Choose label stock",
      run: () => setDialog("setup"),
    },
    { label: "Versions of this design", run: () => setDialog("versions") },
    ...addable[surface.kind].map((use) => ({ label: `Add: ${useNames[use].toLowerCase()}`, run: () => add(use) })),
  ]);

  const { setNames, choices } = useChoices(listId, columns);
  const mistakes = useMemo(() => mistakesBySource(shown?.mistakes), [shown]);
  const chips = useMemo(() => ({ mistakes, values: new Map<string, string>(), mode: "names" as const }), [mistakes]);
  const brackets = useMemo(() => ({ listId, total: list?.recipients ?? 0, sets: setNames }), [listId, list, setNames]);
  const [area, room] = useSize<HTMLDivElement>();
  const scale =
    room.width > 0
      ? Math.min((room.width - 56) / size.width, Math.max(1.2, (room.height - 90) / size.height), surface.kind === "labels" ? 8 : 4)
      : 2;
  const box = surface.boxes.find((b) => b.id === selected);
  const boxAt = surface.boxes.findIndex((b) => b.id === selected);
  const stockName = typeof surface.stock === "string" ? stocks?.find((s) => s.id === surface.stock)?.name : "Custom size";
  const setup =
    surface.kind === "envelope"
      ? surface.format === "custom"
        ? lengths(size.width, size.height)
        : envelopes?.find((e) => e.id === surface.format)?.name
      : stockName;
  return (
    <Chips.Provider value={chips}>
      <BracketList.Provider value={brackets}>
        <DesignFrame of={frame} values={shown?.values ?? []}>
          <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-2 py-1 border-b border-line px-4">
            <StepButtons steps={steps} readOnly={readOnly} />
            {!readOnly && view === "piece" && (
              <Drop
                label="Add box"
                face={
                  <>
                    <Plus size={14} /> Add
                  </>
                }
              >
                {(close) => (
                  <ul className="w-48">
                    {addable[surface.kind].map((use) => (
                      <li key={use}>
                        <button
                          className="w-full cursor-pointer rounded px-2 py-1 text-left hover:bg-base-200"
                          onClick={() => (add(use), close())}
                        >
                          {useNames[use]}
                        </button>
                      </li>
                    ))}
                  </ul>
                )}
              </Drop>
            )}
            <button className="btn btn-quiet btn-sm" disabled={readOnly} onClick={() => setDialog("setup")}>
              <Settings2 size={14} /> {setup ?? "…"}
              {surface.window ? ", window" : ""}
            </button>
            {surface.kind === "labels" && (
              <div className="flex gap-1" role="group" aria-label="View">
                <button
                  className={`btn btn-sm ${view === "piece" ? "btn-primary" : "btn-quiet"}`}
                  aria-pressed={view === "piece"}
                  onClick={() => setView("piece")}
                >
                  One label
                </button>
                <button
                  className={`btn btn-sm ${view === "sheet" ? "btn-primary" : "btn-quiet"}`}
                  aria-pressed={view === "sheet"}
                  onClick={() => setView("sheet")}
                >
                  Sheet
                </button>
              </div>
            )}
            {view === "piece" && <RecipientWalk preview={preview} listId={listId} />}
          </div>
          {view === "sheet" ? (
            <SheetView
              designId={design.id}
              listId={listId}
              surface={surface}
              columns={columns}
              readOnly={readOnly}
              onChange={(part) => set({ ...surface, ...part }, Object.keys(part).join())}
            />
          ) : (
            <div className="flex min-h-0 flex-1">
              <section className="flex min-w-0 flex-1 flex-col bg-base-200" aria-label="Piece preview">
                <div ref={area} className="min-h-0 flex-1 overflow-auto p-7">
                  {room.width > 0 && envelopes && stocks && (
                    <SurfaceCanvas
                      surface={surface}
                      size={size}
                      scale={scale}
                      pdf={pdf}
                      mark={preview.isNow ? `${offset}` : ""}
                      zones={shown?.zones ?? []}
                      selected={selected}
                      readOnly={readOnly}
                      onSelect={setSelected}
                      onChange={setBox}
                      onRemove={removeBox}
                    />
                  )}
                  {preview.error && <p className="mt-4 text-error">{preview.error.message}</p>}
                  <PreviewIssues issues={shown?.issues ?? []} className="mx-auto mt-5 max-w-3xl" />
                </div>
                <p className="shrink-0 px-4 pb-2 text-[12px] text-faint tabular-nums">
                  Print preview, {Math.round((scale / (96 / 25.4)) * 100)}% · {lengths(size.width, size.height)}
                </p>
              </section>
              <Beside label="Selected box" className="w-[330px] shrink-0 overflow-auto border-l border-line">
                {box ? (
                  <BoxPanel
                    key={`${box.id}.${epoch}`}
                    surface={surface}
                    box={box}
                    columns={columns}
                    families={families}
                    readOnly={readOnly}
                    choices={choices}
                    mistakes={shown?.mistakes.filter((m) => m.block === boxAt) ?? []}
                    onChange={(part) => setBox(box.id, part)}
                    onRemove={() => removeBox(box.id)}
                  />
                ) : (
                  <div className="flex flex-col gap-3 p-4">
                    <h2>Boxes</h2>
                    <ul>
                      {surface.boxes.map((b) => (
                        <li key={b.id}>
                          <button
                            className="w-full cursor-pointer rounded px-2 py-1 text-left hover:bg-base-200"
                            onClick={() => setSelected(b.id)}
                          >
                            {useNames[b.use]}
                          </button>
                        </li>
                      ))}
                    </ul>
                    <p className="text-faint">
                      {surface.boxes.length === 0
                        ? "No boxes yet. Add a delivery address to start."
                        : "Click a box to edit it. Drag it to move it."}
                    </p>
                    {surface.kind === "envelope" && surface.zones && (
                      <p className="text-faint">
                        The postal service requires the hatched zones to be clear. Anything inside them is an issue.
                      </p>
                    )}
                  </div>
                )}
              </Beside>
            </div>
          )}
          {dialog === "setup" && surface.kind === "envelope" && (
            <EnvelopeDialog
              surface={surface}
              families={families}
              onChange={(part) => set({ ...surface, ...part })}
              close={() => setDialog(null)}
            />
          )}
          {dialog === "setup" && surface.kind === "labels" && (
            <StockDialog surface={surface} onChange={(stock) => set({ ...surface, stock })} close={() => setDialog(null)} />
          )}
        </DesignFrame>
      </BracketList.Provider>
    </Chips.Provider>
  );
}
