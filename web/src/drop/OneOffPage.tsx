import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Editor } from "@tiptap/core";
import { ArrowLeft, FileDown } from "lucide-react";
import { useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { listQuery, settingsQuery } from "../api/queries";
import { BandEditor } from "../designs/BandEditor";
import { builtIns } from "../designs/FieldsPane";
import { completeLetter, paperStyle, sheetPixels, type Letter } from "../designs/letter";
import { BracketList } from "../designs/nodes/BracketNodes";
import { Chips } from "../designs/nodes/FieldNode";
import { Pieces } from "../designs/Pieces";
import { Toolbar } from "../designs/Toolbar";
import { say, sayWrong } from "../ui/notices";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { useDelayed } from "../ui/useDelayed";
import { useSize } from "../ui/useSize";
import { moment, pieceNumber } from "../ui/words";
import { useDrop } from "./DropPage";
import { useBasis } from "../api/basis";
import { mistakesBySource } from "../designs/mistakes";
import { detailsQuery } from "../api/queries";

/** A letter is changed for one recipient alone; the design stays as it is for everybody else. */
export function OneOffPage() {
  const drop = useDrop();
  const params = useParams();
  const path = { id: drop.id, recipientId: Number(params.recipientId), designId: Number(params.designId) };
  const letter = useQuery({
    queryKey: ["drop", drop.id, "one-off", path.recipientId, path.designId],
    queryFn: () => ask(api.GET("/api/drops/{id}/recipients/{recipientId}/letters/{designId}", { params: { path } })),
    refetchOnWindowFocus: false,
  });
  const person = useQuery({
    queryKey: ["drop", drop.id, "person", path.recipientId],
    queryFn: () =>
      ask(api.GET("/api/drops/{id}/recipients/{recipientId}", { params: { path: { id: path.id, recipientId: path.recipientId } } })),
  });
  if (letter.error ?? person.error) return <p className="p-8 text-error">{(letter.error ?? person.error)?.message}</p>;
  if (!letter.data || !person.data) return null;
  return (
    <Writing
      key={`${path.recipientId}.${letter.data.at ?? ""}.${letter.data.newestVersion}`}
      path={path}
      letter={letter.data}
      person={person.data}
    />
  );
}

function Writing({
  path,
  letter: l,
  person,
}: {
  path: { id: number; recipientId: number; designId: number };
  letter: Schema["OneOffView"];
  person: Schema["BenchPerson"];
}) {
  const drop = useDrop();
  const navigate = useNavigate();
  const [letter, setLetter] = useState<Letter>(() => completeLetter(l.document));
  const [editor, setEditor] = useState<Editor | null>(null);
  const [busy, setBusy] = useState(false);
  const settings = useQuery(settingsQuery()).data;
  const list = useQuery(listQuery(drop.listId)).data;
  const sets = useQuery(detailsQuery(drop.listId)).data;
  const setNames = useMemo(() => sets?.map((s) => s.name) ?? [], [sets]);
  const choices = useMemo(() => {
    const all = [...(list?.columns ?? []).map((c) => ({ name: c.name, hint: "" })), ...builtIns];
    return () => all;
  }, [list]);
  const delayed = useDelayed(letter, 60);
  const preview = useQuery({
    queryKey: ["preview", path.designId, drop.listId, path.recipientId, delayed],
    queryFn: ({ signal }) =>
      ask(
        api.POST("/api/designs/preview", {
          body: {
            document: delayed as unknown as Record<string, never>,
            listId: drop.listId,
            offset: 0,
            designId: path.designId,
            recipientId: path.recipientId,
          },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
  const pdf = useMemo(() => (preview.data ? fromBase64(preview.data.pdf) : undefined), [preview.data]);
  const chips = useMemo(
    () => ({ mistakes: mistakesBySource(preview.data?.mistakes), values: new Map<string, string>(), mode: "names" as const }),
    [preview.data],
  );
  const brackets = useMemo(() => ({ listId: drop.listId, total: list?.recipients ?? 0, sets: setNames }), [drop.listId, list, setNames]);
  const [area, size] = useSize<HTMLDivElement>();
  const sheet = sheetPixels(letter.page);
  const zoom = size.width > 0 ? Math.min(1, (size.width - 48) / sheet.width) : 0.7;
  const changed = JSON.stringify(letter) !== JSON.stringify(completeLetter(l.document));
  const back = `/drops/${drop.id}/proof?piece=${person.piece}`;

  const basis = useBasis(`/api/drops/${path.id}/recipients/${path.recipientId}/letters/${path.designId}`);
  const act = async (what: () => Promise<{ label: string }>) => {
    setBusy(true);
    try {
      say(`${(await what()).label}.`);
      await queryClient.invalidateQueries({ queryKey: ["drop"] });
      void navigate(back);
    } catch (e) {
      sayWrong(e);
    } finally {
      setBusy(false);
    }
  };
  const save = (document: unknown) =>
    void act(() =>
      ask(
        api.PUT("/api/drops/{id}/recipients/{recipientId}/letters/{designId}", {
          params: { path },
          headers: basis.headers(),
          body: { document: document as Record<string, never> },
        }),
      ),
    );
  const remove = () => void act(() => ask(api.DELETE("/api/drops/{id}/recipients/{recipientId}/letters/{designId}", { params: { path } })));
  return (
    <Chips.Provider value={chips}>
      <BracketList.Provider value={brackets}>
        <div className="flex h-12 shrink-0 items-center gap-3 border-b border-line px-4">
          <Link className="btn btn-quiet btn-sm" to={back}>
            <ArrowLeft size={14} /> Bench
          </Link>
          <span className="min-w-0 flex-1 truncate">
            <strong>{l.designName}</strong> for <span className="text-faint">{pieceNumber(person.piece)}</span>{" "}
            <strong>{person.name}</strong> alone
            <span className="ml-2 text-faint">{l.own ? `changed ${moment(l.at)} by ${l.by}` : "the others’ letter stays as it is"}</span>
          </span>
          <a
            className={`btn btn-quiet btn-sm ${changed ? "btn-disabled" : ""}`}
            href={`/api/drops/${path.id}/recipients/${path.recipientId}/letters/${path.designId}/document.docx`}
            aria-disabled={changed}
            title={changed ? "Keep the changes first; then they are in the file" : "This letter with its values, to be edited elsewhere"}
            download
          >
            <FileDown size={14} /> DOCX
          </a>
          {l.own && (
            <button className="btn btn-quiet btn-sm" disabled={busy} onClick={remove}>
              Back to everybody’s letter
            </button>
          )}
          <button className="btn btn-primary btn-sm" disabled={busy || !changed} onClick={() => save(letter)}>
            Keep for this one
          </button>
        </div>
        {l.isOpen && (
          <div className="flex shrink-0 items-center gap-2 border-b border-line bg-doubt px-4 py-2" role="alert">
            <span className="flex-1">
              The letter was changed for {person.name} in version {l.settledVersion}; for everybody it is version {l.newestVersion} now.{" "}
              {l.merged ? "The change can be put into the new version." : "Both changed the same place, so which holds is yours to say."}
            </span>
            {l.merged !== null && (
              <button className="btn btn-primary btn-sm" disabled={busy} onClick={() => save(l.merged)}>
                Put it into version {l.newestVersion}
              </button>
            )}
            <button className="btn btn-sm bg-base-100" disabled={busy} onClick={() => save(letter)}>
              Keep this letter as it is
            </button>
            <button className="btn btn-sm bg-base-100" disabled={busy} onClick={remove}>
              Take version {l.newestVersion}
            </button>
          </div>
        )}
        <div className="flex min-h-0 flex-1">
          <section className="flex min-w-0 flex-1 flex-col" aria-label="Writing">
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
                  onChange={(content) => setLetter((x) => ({ ...x, content }))}
                  onFocus={setEditor}
                  onReady={setEditor}
                />
              </div>
            </div>
          </section>
          <section className="w-[372px] shrink-0 overflow-auto border-l border-line p-4" aria-label="As it will print" tabIndex={0}>
            <PdfPages
              data={pdf}
              width={336}
              mark={preview.isPlaceholderData || delayed !== letter ? "" : "alone"}
              pageMarks={preview.data?.pageMarks}
            />
            {preview.error && <p className="p-3 text-error">{preview.error.message}</p>}
            {preview.data && preview.data.issues.length > 0 && (
              <ul className="mt-3 flex flex-col gap-1" aria-label="Issues">
                {preview.data.issues.map((f) => (
                  <li key={f} className="border-l-[3px] border-warning bg-doubt px-2 py-1">
                    {f}
                  </li>
                ))}
              </ul>
            )}
          </section>
        </div>
      </BracketList.Provider>
    </Chips.Provider>
  );
}
