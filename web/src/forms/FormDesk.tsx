import { useQuery } from "@tanstack/react-query";
import { ZoomIn, ZoomOut } from "lucide-react";
import { useMemo, useState, type ReactNode } from "react";
import { api, ask } from "../api/client";
import { settingsQuery } from "../api/queries";
import { builtIns } from "../designs/FieldsPane";
import { mistakesBySource } from "../designs/mistakes";
import { PreviewIssues, StepButtons } from "../designs/RecipientWalk";
import type { usePreview } from "../designs/usePreview";
import { useSteps } from "../designs/useSteps";
import { useActions } from "../ui/keys";
import { say, sayWrong } from "../ui/notices";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { useSize } from "../ui/useSize";
import { many } from "../ui/words";
import {
  fieldOutputs,
  fieldText,
  isOpen,
  millimetres,
  newBox,
  useNames,
  type Form,
  type FormBox,
  type FormBoxUse,
  type FormField,
} from "./form";
import { FormBoxPanel } from "./FormBoxPanel";
import { FormCanvas } from "./FormCanvas";
import { FormColumns } from "./FormColumns";
import { FormFields } from "./FormFields";
import { Beside } from "../ui/Beside";
import { lengths } from "../ui/customs";

const uses = Object.keys(useNames) as FormBoxUse[];

interface Props {
  form: Form;
  write: (form: Form) => void;
  listId: number | null;
  columns: { name: string }[];
  readOnly: boolean;
  preview: Pick<ReturnType<typeof usePreview>, "shown" | "error" | "offset" | "isNow">;
  /** What stands in the bar after the boxes. */
  tools?: ReactNode;
  /** At the end of the bar: whose page is shown. */
  whose?: ReactNode;
}

/** A form on its real page: its fields beside the list's columns, and boxes placed where it has none. */
export function FormDesk({ form, write, listId, columns, readOnly, preview, tools, whose }: Props) {
  const steps = useSteps(form, write);
  const { set, undo, redo } = steps;
  const [page, setPage] = useState(1);
  const [chosen, setChosen] = useState<string[]>([]);
  const [field, setField] = useState<string | null>(null);
  const hasFields = form.facts.fields.some((f) => f.kind !== "other");
  const [pane, setPane] = useState<"fields" | "columns">(hasFields ? "fields" : "columns");
  const [zoom, setZoom] = useState<number | null>(null);
  const families = useQuery(settingsQuery()).data?.families ?? ["Arimo"];
  const { shown } = preview;
  const pdf = useMemo(() => (shown ? fromBase64(shown.pdf) : undefined), [shown]);
  const names = useMemo(() => ({ columns: columns.map((c) => c.name), made: builtIns.map((b) => b.name) }), [columns]);
  const valueOf = (name: string) => {
    const at = names.columns.indexOf(name);
    return at < 0 ? (builtIns.find((b) => b.name === name)?.hint ?? null) : shown?.values[at] || null;
  };
  const mistakes = useMemo(() => mistakesBySource(shown?.mistakes), [shown]);
  const chosenBoxes = form.boxes.filter((b) => chosen.includes(b.id));
  const setBoxes = (changed: FormBox[], typed?: string) =>
    set({ ...form, boxes: form.boxes.map((b) => changed.find((c) => c.id === b.id) ?? b) }, typed);
  const addBoxes = (boxes: FormBox[]) => {
    set({ ...form, boxes: [...form.boxes, ...boxes] });
    setChosen(boxes.map((b) => b.id));
    setField(null);
  };
  const remove = () => {
    set({ ...form, boxes: form.boxes.filter((b) => !chosen.includes(b.id)) });
    setChosen([]);
  };
  const answer = (name: string, text: string | null, typed = false) => {
    const answers = Object.fromEntries(Object.entries(form.answers).filter(([n]) => n !== name));
    set({ ...form, answers: text === null ? answers : { ...answers, [name]: text } }, typed ? `answer ${name}` : undefined);
  };
  const facts = form.facts.pages[page - 1] ?? form.facts.pages[0];
  const size = { width: millimetres(facts?.width ?? 612), height: millimetres(facts?.height ?? 792) };
  const add = (use: FormBoxUse, values: string[] = [""], at?: { x: number; y: number }) => {
    const start = at ?? { x: size.width / 2 - 30, y: size.height / 3 + 8 * (form.boxes.length % 10) };
    addBoxes(values.map((v, i) => newBox(use, page, start.x, start.y + i * 8, v)));
  };
  const dropped = (fields: string[], at: { x: number; y: number }, onto: FormField | null) => {
    if (onto && fields.length === 1) {
      answer(onto.name, fieldText(fields[0] ?? ""));
      setField(onto.name);
    } else add("text", fields.map(fieldText), { x: at.x, y: at.y - 3 });
  };
  const copyTo = (to: number) => {
    const pages = to === 0 ? form.facts.pages.map((_, i) => i + 1).filter((n) => n !== page) : [to];
    set({
      ...form,
      boxes: [...form.boxes, ...pages.flatMap((n) => chosenBoxes.map((b) => ({ ...b, id: newBox(b.use, n, 0, 0).id, page: n })))],
    });
    say(`Copied to ${pages.length === 1 ? `page ${pages[0]}` : many(pages.length, "page", "pages")}.`);
  };
  const matchRest = async () => {
    if (listId === null) return;
    try {
      const found = await ask(
        api.POST("/api/designs/form/match", { body: { document: form as unknown as Record<string, never>, listId } }),
      );
      const open = form.facts.fields.filter((f) => isOpen(form, f) && found[f.name] !== undefined);
      set({ ...form, answers: { ...form.answers, ...Object.fromEntries(open.map((f) => [f.name, found[f.name] as string])) } });
      say(open.length === 0 ? "No other column fits an open field." : `${many(open.length, "field", "fields")} matched.`);
    } catch (e) {
      sayWrong(e);
    }
  };
  const [area, room] = useSize<HTMLDivElement>();
  const fit = room.width > 0 ? Math.min((room.width - 48) / size.width, 5) : 2;
  const scale = zoom === null ? fit : (zoom * 96) / 25.4;
  const shownZoom = Math.round((scale / (96 / 25.4)) * 100);
  const zoomBy = (by: number) => setZoom(Math.max(0.25, Math.min(4, Math.round(shownZoom / 10) / 10 + by)));
  const show = (name: string | null) => {
    setField(name);
    const at = form.facts.fields.find((f) => f.name === name)?.widgets[0];
    if (at) setPage(at.page);
    if (name !== null) {
      setChosen([]);
      setPane("fields");
    }
  };
  useActions([
    { keys: "Ctrl+z", label: "Undo", run: undo },
    { keys: "Ctrl+y Ctrl+Shift+z", label: "Redo", run: redo },
    { keys: "PageDown", label: "Next page of the form", run: () => setPage((p) => Math.min(form.facts.pages.length, p + 1)), quiet: true },
    { keys: "PageUp", label: "Page of the form before", run: () => setPage((p) => Math.max(1, p - 1)), quiet: true },
    ...uses.map((use) => ({ label: `Add: ${useNames[use].toLowerCase()}`, run: () => add(use) })),
  ]);
  const open = form.facts.fields.filter((f) => isOpen(form, f)).length;
  const boxMistake = chosenBoxes.length === 1 ? mistakes.get(chosenBoxes[0]?.value ?? "") : undefined;
  return (
    <>
      <div className="flex min-h-11 shrink-0 flex-wrap py-1 items-center gap-2 border-b border-line px-4">
        <StepButtons steps={steps} readOnly={readOnly} />
        {uses.map((use) => (
          <button key={use} className="btn btn-quiet btn-sm" disabled={readOnly} onClick={() => add(use)}>
            + {useNames[use]}
          </button>
        ))}
        {tools}
        {whose}
      </div>
      <div className="flex min-h-0 flex-1">
        {form.facts.pages.length > 1 && (
          <nav className="on-sand w-[106px] shrink-0 overflow-auto bg-base-200 py-2" aria-label="Pages">
            {form.facts.pages.slice(0, 50).map((_, i) => (
              <button
                key={i}
                className={`mx-auto mb-2 flex w-[92px] cursor-pointer flex-col items-center gap-0.5 rounded p-1 ${page === i + 1 ? "outline-2 outline-primary" : ""}`}
                aria-label={`Page ${i + 1}`}
                aria-current={page === i + 1}
                onClick={() => setPage(i + 1)}
              >
                <Thumbnail pdf={pdf} page={i + 1} mark={shown?.pageMarks[i]} />
                <span className="text-[12px] text-faint">{i + 1}</span>
              </button>
            ))}
            {form.facts.pages.length > 50 && (
              <p className="px-2 text-[12px] text-faint">{form.facts.pages.length} pages; Page Down for the next.</p>
            )}
          </nav>
        )}
        <section className="flex min-w-0 flex-1 flex-col bg-base-200" aria-label="The page">
          <div ref={area} className="min-h-0 flex-1 overflow-auto p-6">
            <PreviewIssues issues={shown?.issues ?? []} className="mx-auto mb-4 max-w-3xl" />
            {room.width > 0 && (
              <FormCanvas
                form={form}
                page={page}
                scale={scale}
                pdf={pdf}
                mark={preview.isNow ? `${preview.offset}` : ""}
                pageMarks={shown?.pageMarks}
                chosen={chosen}
                field={field}
                readOnly={readOnly}
                onChoose={setChosen}
                onField={show}
                onBoxes={setBoxes}
                onRemove={remove}
                onDropFields={dropped}
              />
            )}
            {preview.error && <p className="mt-4 text-error">{preview.error.message}</p>}
          </div>
          <p className="flex shrink-0 items-center gap-2 px-4 pb-2 text-[12px] text-faint tabular-nums">
            <span className="flex-1">
              Page {page} of {form.facts.pages.length} · print preview · {lengths(size.width, size.height)}
            </span>
            <button className="btn btn-ghost btn-xs btn-square" aria-label="Zoom out" onClick={() => zoomBy(-0.25)}>
              <ZoomOut size={14} />
            </button>
            <button className="btn btn-ghost btn-xs" title="Fit the width" onClick={() => setZoom(null)}>
              {shownZoom} %
            </button>
            <button className="btn btn-ghost btn-xs btn-square" aria-label="Zoom in" onClick={() => zoomBy(0.25)}>
              <ZoomIn size={14} />
            </button>
          </p>
        </section>
        <Beside label="Fields" className="flex w-[352px] shrink-0 flex-col border-l border-line">
          {chosenBoxes.length > 0 ? (
            <div className="min-h-0 flex-1 overflow-auto">
              <FormBoxPanel
                key={`${chosen.join()}.${steps.epoch}`}
                form={form}
                boxes={chosenBoxes}
                page={page}
                families={families}
                readOnly={readOnly}
                mistake={boxMistake}
                onChange={setBoxes}
                onCopy={copyTo}
                onRemove={remove}
              />
            </div>
          ) : (
            <>
              <div className="flex h-9 shrink-0 items-center gap-4 border-b border-line px-3">
                <div className="flex h-full gap-4" role="tablist" aria-label="What fills in the form">
                  {(["fields", "columns"] as const).map((p) => (
                    <button
                      key={p}
                      role="tab"
                      aria-selected={pane === p}
                      className={`h-full cursor-pointer ${pane === p ? "border-b-2 border-primary font-semibold" : "text-faint"}`}
                      onClick={() => setPane(p)}
                    >
                      {p === "fields" ? "Form fields" : "Columns"}
                    </button>
                  ))}
                </div>
                <span className="flex-1" />
                {pane === "fields" && open > 0 && (
                  <button
                    className="cursor-pointer font-semibold text-accent"
                    disabled={readOnly}
                    title="Match open fields with columns"
                    onClick={() => void matchRest()}
                  >
                    {open} not matched
                  </button>
                )}
              </div>
              <div className="min-h-0 flex-1 overflow-auto">
                {pane === "fields" ? (
                  <>
                    <FormFields
                      form={form}
                      field={field}
                      names={names}
                      valueOf={valueOf}
                      mistakes={mistakes}
                      readOnly={readOnly}
                      onField={show}
                      onAnswer={answer}
                    />
                    {form.facts.notes.length > 0 && (
                      <ul className="flex flex-col gap-1 p-3 text-[12px] text-faint" aria-label="About this PDF">
                        {form.facts.notes.map((n) => (
                          <li key={n}>{n}</li>
                        ))}
                      </ul>
                    )}
                  </>
                ) : (
                  <FormColumns
                    names={names}
                    valueOf={valueOf}
                    readOnly={readOnly}
                    onPlace={(picked) => add("text", picked.map(fieldText))}
                  />
                )}
              </div>
              <div className="shrink-0 border-t border-line p-3">
                {hasFields && (
                  <div className="flex items-center gap-1.5 mb-2" role="group" aria-label="Fields in the finished file">
                    <span className="flex-1 text-faint">Fields in a PDF per recipient</span>
                    {fieldOutputs.map(([key, label]) => (
                      <button
                        key={key}
                        className={`btn btn-xs ${form.output === key ? "btn-primary" : "btn-quiet"}`}
                        aria-pressed={form.output === key}
                        disabled={readOnly}
                        onClick={() => set({ ...form, output: key })}
                      >
                        {label}
                      </button>
                    ))}
                  </div>
                )}
                <label className="flex items-center gap-2">
                  <span className="whitespace-nowrap text-faint">Include when</span>
                  <input
                    className="input input-sm min-w-0 flex-1 font-mono text-[12px]"
                    aria-label="Include when"
                    placeholder="always"
                    disabled={readOnly}
                    value={form.when ?? ""}
                    onChange={(e) => set({ ...form, when: e.target.value || null }, "when")}
                  />
                </label>
                {form.when && mistakes.get(form.when) && <p className="text-[12px] text-error">{mistakes.get(form.when)}</p>}
                <label
                  className="mt-2 flex items-center gap-2"
                  title="The name of a document on the recipient’s page, used instead of this file"
                >
                  <span className="whitespace-nowrap text-faint">Personal document</span>
                  <input
                    className="input input-sm min-w-0 flex-1 font-mono text-[12px]"
                    aria-label="Personal document"
                    placeholder="none, or a file name"
                    disabled={readOnly}
                    value={form.own ?? ""}
                    onChange={(e) => set({ ...form, own: e.target.value || null }, "own")}
                  />
                </label>
                {form.own && mistakes.get(form.own) && <p className="text-[12px] text-error">{mistakes.get(form.own)}</p>}
              </div>
            </>
          )}
        </Beside>
      </div>
    </>
  );
}

/** A page, small. */
function Thumbnail({ pdf, page, mark }: { pdf: Uint8Array | undefined; page: number; mark: string | undefined }) {
  const only = useMemo(() => [page], [page]);
  const marks = useMemo(() => (mark ? Array.from({ length: page }, (_, i) => (i + 1 === page ? mark : "")) : undefined), [mark, page]);
  return (
    <span className="pointer-events-none block w-[76px] overflow-hidden" aria-hidden>
      <PdfPages data={pdf} width={76} mark="" only={only} pageMarks={marks} silent />
    </span>
  );
}
