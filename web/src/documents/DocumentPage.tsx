import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { designQuery, detailsQuery, listQuery, listsQuery, previewQuery } from "../api/queries";
import { completeLetter, fieldsOf, sheetPixels } from "../designs/letter";
import { BracketList } from "../designs/nodes/BracketNodes";
import { Chips } from "../designs/nodes/FieldNode";
import { Header } from "../ui/Header";
import { say, sayWrong } from "../ui/notices";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { useSize } from "../ui/useSize";
import { many, size } from "../ui/words";
import { DocumentReport } from "./DocumentReport";
import { DocumentSheet } from "./DocumentSheet";
import { MarksBar } from "./MarksBar";
import { PlaceholderTable } from "./PlaceholderTable";
import { openOnes, useDocument } from "./useDocument";
import { Beside } from "../ui/Beside";
import { keys } from "../api/keys";

/** A word processor document on its way to become a letter: its placeholders, its page, and what did not come over whole. */
export function DocumentPage() {
  const d = useDocument();
  const navigate = useNavigate();
  const design = useQuery({ ...designQuery(d.designId ?? 0), enabled: d.designId !== null }).data;
  const lists = useQuery(listsQuery()).data ?? [];
  const listId = design ? design.listId : d.listId;
  const list = useQuery({ ...listQuery(listId ?? 0), enabled: listId !== null }).data;
  const sets = useQuery({ ...detailsQuery(listId ?? 0), enabled: listId !== null }).data ?? [];
  const look = d.look.data;
  const [name, setName] = useState<string | null>(null);
  const [finished, setFinished] = useState(false);
  const [making, setMaking] = useState(false);
  const sheet = useRef<HTMLDivElement>(null);
  const letter = useMemo(() => (look ? completeLetter(look.letter) : null), [look]);
  const open = openOnes(look?.placeholders ?? []);
  const title = name ?? look?.name.replace(/\.[a-z]+$/i, "") ?? "";
  const chips = useMemo(() => {
    const names = openOnes(look?.placeholders ?? []).map((p) => `\`${p.name}\``);
    const sources = letter ? fieldsOf(letter).map((f) => f.source) : [];
    const unsettled = sources.filter((s) => names.some((n) => s.startsWith(n)));
    return {
      mistakes: new Map(unsettled.map((s) => [s, "Not matched: choose a field on the left."])),
      values: new Map<string, string>(),
      mode: "names" as const,
    };
  }, [look, letter]);
  const brackets = useMemo(
    () => ({ listId, total: list?.recipients ?? 0, sets: sets.map((s) => s.name) }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [listId, list?.recipients, sets.length],
  );
  const lead = (block: number | null) => {
    setFinished(false);
    requestAnimationFrame(() => {
      const blocks = sheet.current?.querySelector(".ProseMirror")?.children;
      const place = block === null ? null : blocks?.[Math.min(block, blocks.length - 1)];
      if (!place) return;
      place.scrollIntoView({ block: "center" });
      place.animate([{ backgroundColor: "#f6e7c8" }, { backgroundColor: "transparent" }], 1600);
    });
  };
  const make = async () => {
    setMaking(true);
    try {
      const chosen = { marks: d.marks, answers: look?.answers ?? {} };
      let id = d.designId;
      if (id !== null) {
        const version = await ask(
          api.POST("/api/documents/{id}/replace/{designId}", {
            params: { path: { id: d.upload, designId: id } },
            body: { basedOn: look?.version ?? 0, ...chosen },
          }),
        );
        say(`${design?.name ?? "The letter"} has a new version, ${version}. Earlier versions are kept.`);
      } else {
        id = await ask(
          api.POST("/api/documents/{id}/letter", { params: { path: { id: d.upload } }, body: { name: title.trim(), listId, ...chosen } }),
        );
      }
      await queryClient.invalidateQueries({ queryKey: keys.designs() });
      void navigate(`/designs/${id}`);
    } catch (e) {
      sayWrong(e);
    } finally {
      setMaking(false);
    }
  };
  useEffect(() => {
    document.title = title ? `${title} · Bandeja` : "Bandeja";
  }, [title]);
  if (d.look.error && !look)
    return (
      <div className="p-8">
        <h1 className="mb-2">This file cannot be read</h1>
        <p className="mb-4">{d.look.error.message}</p>
        <Link className="btn btn-primary" to={d.designId === null ? "/designs" : `/designs/${d.designId}`}>
          Back
        </Link>
      </div>
    );
  if (!look || !letter) return <p className="p-8 text-faint">Reading the file…</p>;
  return (
    <Chips.Provider value={chips}>
      <BracketList.Provider value={brackets}>
        <Header
          kind={design ? `Newer file for ${design.name}` : "New letter from a file"}
          title={
            design ? (
              look.name
            ) : (
              <input
                className="-ml-1 w-56 rounded bg-transparent px-1 hover:bg-base-200"
                aria-label="Letter name"
                value={title}
                maxLength={120}
                onChange={(e) => setName(e.target.value)}
              />
            )
          }
          state={
            <>
              <div className="max-w-52 truncate">
                {look.pages > 0 && `${many(look.pages, "page", "pages")} · `}
                {size(look.size)} · {look.name}
              </div>
              <div>not saved yet</div>
            </>
          }
        >
          {!design && (
            <label className="flex items-center gap-2">
              <span className="text-faint">List</span>
              <select
                className="select select-sm w-44"
                aria-label="Fields come from"
                value={listId ?? ""}
                onChange={(e) => d.setList(e.target.value)}
              >
                <option value="">no list yet</option>
                {lists.map((l) => (
                  <option key={l.id} value={l.id}>
                    {l.name}
                  </option>
                ))}
              </select>
            </label>
          )}
          <button className="btn btn-quiet" aria-pressed={finished} onClick={() => setFinished(!finished)}>
            {finished ? "Show fields" : "Preview"}
          </button>
          <Link className="btn btn-quiet" to={d.designId === null ? "/designs?new" : `/designs/${d.designId}?file`}>
            Choose another file
          </Link>
          <button className="btn btn-primary" disabled={making || (!design && !title.trim())} onClick={() => void make()}>
            {design ? `Save as version ${(look.version ?? 0) + 1}` : "Create letter"}
          </button>
        </Header>
        {d.look.error && (
          <p role="alert" className="bg-doubt px-4 py-2">
            {d.look.error.message}
          </p>
        )}
        <div className="flex min-h-0 flex-1">
          <aside className="flex w-[372px] shrink-0 flex-col overflow-auto border-r border-line px-3 py-3" aria-label="Placeholders found">
            <div className="mb-2 flex items-baseline justify-between">
              <h2 className="text-[13.5px] font-semibold">Placeholders: {look.placeholders.length}</h2>
              <span className={open.length ? "text-doubt-ink" : "text-faint"} data-testid="open-placeholders">
                {open.length ? `${open.length} not matched` : "all matched"}
              </span>
            </div>
            <MarksBar marks={look.marks} onToggle={d.toggleMarks} />
            {look.placeholders.length === 0 ? (
              <p className="mt-3 text-faint">
                None found. If the document marks placeholders another way, type the marks above. Without placeholders, the letter is the
                same for all recipients. You can insert fields later.
              </p>
            ) : (
              <PlaceholderTable
                placeholders={look.placeholders}
                columns={list?.columns ?? []}
                sets={sets}
                listId={listId}
                onAnswer={d.answer}
                onPlace={lead}
              />
            )}
          </aside>
          {finished ? <Printed letter={letter} listId={listId} /> : <DocumentSheet letter={letter} sheet={sheet} />}
          <Beside label="Imported parts" className="w-[270px] shrink-0 overflow-auto border-l border-line px-4 py-3">
            {look.differences && <Changes lines={look.differences} />}
            <DocumentReport lines={look.report} onPlace={lead} />
          </Beside>
        </div>
      </BracketList.Provider>
    </Chips.Provider>
  );
}

/** The finished pages of the list's first recipient. */
function Printed({ letter, listId }: { letter: ReturnType<typeof completeLetter>; listId: number | null }) {
  const shown = useQuery(previewQuery(0, listId, 0, null, letter));
  const [area, space] = useSize<HTMLDivElement>();
  const pdf = useMemo(() => (shown.data ? fromBase64(shown.data.pdf) : undefined), [shown.data]);
  const width = Math.min(sheetPixels(letter.page).width, Math.max(300, space.width - 48));
  return (
    <div ref={area} className="on-sand min-h-0 flex-1 overflow-auto bg-base-200 p-5">
      {shown.error && <p role="alert">{shown.error.message}</p>}
      {shown.data?.recipient && <p className="mb-2 text-center text-[12px]">Preview for {shown.data.recipient}</p>}
      <div className="mx-auto" style={{ width }}>
        <PdfPages data={pdf} width={width} mark={shown.data?.pageMarks.join() ?? ""} />
      </div>
    </div>
  );
}

/** Where the text differs from the letter's newest version. */
function Changes({ lines }: { lines: Schema["TextDifference"][][] }) {
  const changed = lines.filter((line) => line.some((t) => t.kind !== "Same"));
  return (
    <section className="mb-4" aria-label="Changes">
      <h2 className="mb-1 text-[13px] font-semibold">{changed.length ? "Changes in the text" : "No changes in the text"}</h2>
      {changed.map((line, i) => (
        <p key={i} className="mb-1.5 rounded bg-base-200 px-2 py-1 text-[13px] break-words">
          {line.map((t, k) =>
            t.kind === "Added" ? (
              <ins key={k}>{t.text}</ins>
            ) : t.kind === "Removed" ? (
              <del key={k}>{t.text}</del>
            ) : (
              <span key={k}>{t.text}</span>
            ),
          )}
        </p>
      ))}
    </section>
  );
}
