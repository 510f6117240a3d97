import { useQuery } from "@tanstack/react-query";
import { FileSpreadsheet, Upload } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, queryClient, sendFile, ServerError, type Schema } from "../api/client";
import { jobQuery, settingsQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { count, size } from "../ui/words";
import { FirstRows } from "./FirstRows";
import type { ChosenColumn } from "./columns";

type Look = Schema["SourceLook"];
type Options = Schema["SourceOptions"];
type Upload = Schema["UploadView"];

export function ImportPage() {
  const settings = useQuery(settingsQuery()).data;
  const [upload, setUpload] = useState<Upload | null>(null);
  const [sending, setSending] = useState<{ name: string; share: number; cancel: () => void } | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);

  const take = async (file: File | undefined) => {
    if (!file) return;
    setWrong(null);
    const { maxUpload } = await queryClient.ensureQueryData(settingsQuery());
    if (file.size > maxUpload) {
      setWrong(`“${file.name}” has ${size(file.size)}; at most ${size(maxUpload)} can be brought in at once. Divide it and bring the parts in.`);
      return;
    }
    const abort = new AbortController();
    setSending({ name: file.name, share: 0, cancel: () => abort.abort() });
    try {
      setUpload(await sendFile<Upload>(`/api/uploads?name=${encodeURIComponent(file.name)}`, file, (share) => setSending((s) => s && { ...s, share }), abort.signal));
    } catch (e) {
      if (!abort.signal.aborted) setWrong(e instanceof Error ? e.message : String(e));
    } finally {
      setSending(null);
    }
  };

  if (upload) return <Reading key={upload.id} upload={upload} again={() => setUpload(null)} />;
  return (
    <>
      <Header kind="Lists" title="Bring a list in" />
      <div className="flex min-h-0 flex-1 gap-8 p-6">
        <div
          className={`flex h-64 w-[560px] flex-col items-center justify-center gap-3 rounded-box border-2 border-dashed ${over ? "border-primary bg-base-200" : "border-base-300"}`}
          onDragOver={(e) => {
            e.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(e) => {
            e.preventDefault();
            setOver(false);
            void take(e.dataTransfer.files[0]);
          }}
        >
          {sending ? (
            <>
              <span className="font-semibold">{sending.name}</span>
              <progress className="progress progress-primary w-72" value={sending.share} max={1} aria-label="Bringing the file over" />
              <span className="text-faint">{Math.round(sending.share * 100)} %</span>
              <button className="btn btn-quiet btn-sm" onClick={sending.cancel}>
                Cancel
              </button>
            </>
          ) : (
            <>
              <FileSpreadsheet size={34} strokeWidth={1.3} className="text-faint" />
              <p>Drop a CSV file or an XLSX workbook here</p>
              <button className="btn btn-primary" onClick={() => input.current?.click()}>
                <Upload size={15} /> Choose a file
              </button>
              <input ref={input} type="file" className="hidden" aria-label="List file" accept=".csv,.tsv,.txt,.xlsx,.xlsm,.xls" onChange={(e) => void take(e.target.files?.[0])} />
              <p className="text-[12px] text-faint">up to {settings ? size(settings.maxUpload) : "…"}</p>
            </>
          )}
        </div>
        <div className="max-w-sm text-faint">
          <h2 className="mb-2 text-base-content">What happens next</h2>
          <p className="mb-2">You see the first rows as they were read: which sheet, which row holds the headings, what each column is. Nothing is stored before you say so.</p>
          <p>Postal codes, member numbers and telephones stay as they are written, leading zeros included.</p>
        </div>
      </div>
      {wrong && (
        <p role="alert" className="mx-6 max-w-2xl rounded-box border-l-4 border-error bg-error/10 px-4 py-3">
          {wrong}
        </p>
      )}
    </>
  );
}

/** The options that say how the file is read, beside its first rows. */
function Reading({ upload, again }: { upload: Upload; again: () => void }) {
  const navigate = useNavigate();
  const known = useQuery(settingsQuery()).data;
  const [options, setOptions] = useState<Options>({ sheet: null, headingRow: null, encoding: null, delimiter: null });
  const [chosen, setChosen] = useState<ChosenColumn[]>([]);
  const [name, setName] = useState(upload.name.replace(/\.[^.]+$/, ""));
  const [wrong, setWrong] = useState<string | null>(null);
  const [waiting, setWaiting] = useState<number | null>(null);
  const look = useQuery({
    queryKey: ["look", upload.id, options],
    queryFn: () => ask(api.POST("/api/uploads/{id}/look", { params: { path: { id: upload.id } }, body: options })),
    placeholderData: (previous) => previous,
    staleTime: Infinity,
  });
  const read: Look | undefined = look.data;
  useEffect(() => {
    if (read) setChosen(read.columns.map((c, position) => ({ ...c, position, include: true })));
  }, [read]);

  // Asked for again and again, and not only told by events: the work may end before anybody listens.
  const job = useQuery({ ...jobQuery(waiting ?? 0), enabled: waiting !== null, refetchInterval: 300 }).data;
  useEffect(() => {
    if (!job || job.id !== waiting) return;
    if (job.state === "done" && job.message) void navigate(`/lists/${(JSON.parse(job.message) as { listId: number }).listId}`);
    if (job.state === "failed") setWrong(job.message);
    if (job.state === "failed" || job.state === "cancelled") setWaiting(null);
  }, [job, waiting, navigate]);

  const bringIn = async () => {
    if (!read) return;
    setWrong(null);
    try {
      const body: Schema["ListOrder"] = {
        name,
        options: { sheet: read.sheet, headingRow: read.headingRow, encoding: read.encoding, delimiter: read.delimiter },
        width: read.columns.length,
        columns: chosen.filter((c) => c.include).map((c) => ({ position: c.position, name: c.name, type: c.type, dateOrder: c.dateOrder, role: c.role })),
      };
      const begun = await ask(api.POST("/api/uploads/{id}/list", { params: { path: { id: upload.id } }, body }));
      setWaiting(begun.jobId);
    } catch (e) {
      setWrong(e instanceof ServerError ? e.message : String(e));
    }
  };

  const problem = wrong ?? read?.problem ?? (look.error instanceof Error ? look.error.message : null);
  const select = "select select-sm w-full";
  const included = chosen.filter((c) => c.include).length;
  return (
    <>
      <Header kind="Bring a list in" title={upload.name} state={`${size(upload.size)}${read ? ` · ${read.kind === "csv" ? "text" : "workbook"}` : ""}`}>
        <button className="btn btn-quiet" onClick={again}>
          Another file
        </button>
        <button className="btn btn-primary" disabled={!read || problem !== null || included === 0 || waiting !== null || look.isFetching || !name.trim()} onClick={() => void bringIn()}>
          {waiting !== null ? `Bringing in ${job ? count(job.done) : ""}…` : `Bring in ${included} columns`}
        </button>
      </Header>
      <div className="flex min-h-0 flex-1">
        <aside className="flex w-60 shrink-0 flex-col gap-3 overflow-auto border-r border-line p-4">
          <label className="block">
            <span className="mb-1 block font-semibold">Name of the list</span>
            <input className="input input-sm w-full" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
          </label>
          {read && read.sheets.length > 1 && (
            <label className="block">
              <span className="mb-1 block font-semibold">Sheet</span>
              <select className={select} value={read.sheet ?? ""} onChange={(e) => setOptions({ ...options, sheet: e.target.value, headingRow: null })}>
                {read.sheets.map((s) => (
                  <option key={s.name} value={s.name}>
                    {s.name}
                    {s.hidden ? " (hidden)" : ""}
                  </option>
                ))}
              </select>
            </label>
          )}
          {read?.kind === "csv" && (
            <>
              <label className="block">
                <span className="mb-1 block font-semibold">Encoding</span>
                <select className={select} value={read.encoding ?? ""} onChange={(e) => setOptions({ ...options, encoding: e.target.value, headingRow: null })}>
                  {known?.encodings.map((e) => (
                    <option key={e}>{e}</option>
                  ))}
                </select>
              </label>
              <label className="block">
                <span className="mb-1 block font-semibold">Cells are divided by</span>
                <select className={select} value={read.delimiter ?? ""} onChange={(e) => setOptions({ ...options, delimiter: e.target.value, headingRow: null })}>
                  <option value=",">comma</option>
                  <option value=";">semicolon</option>
                  <option value={"\t"}>tab</option>
                  <option value="|">vertical bar</option>
                </select>
              </label>
            </>
          )}
          {read && (
            <div>
              <span className="mb-1 block font-semibold">Headings</span>
              <p className="mb-2 text-faint">{read.headingRow >= 0 ? `in row ${read.firstRowNumbers[read.headingRow]}. Click another row to change that.` : "none: the columns are numbered. Click the row that holds them, if there is one."}</p>
              <label className="flex items-center gap-2">
                <input type="checkbox" className="checkbox checkbox-sm" checked={(options.headingRow ?? read.headingRow) < 0} onChange={(e) => setOptions({ ...options, headingRow: e.target.checked ? -1 : null })} />
                No headings
              </label>
            </div>
          )}
          {read && read.notes.length > 0 && (
            <div className="border-t border-line pt-3">
              <span className="mb-1 block font-semibold">What was found</span>
              <ul className="flex flex-col gap-1.5 text-[12px] text-doubt-ink">
                {read.notes.map((n) => (
                  <li key={n}>{n}</li>
                ))}
              </ul>
            </div>
          )}
        </aside>
        <div className="flex min-w-0 flex-1 flex-col">
          {problem && (
            <p role="alert" className="m-4 rounded-box border-l-4 border-error bg-error/10 px-4 py-3">
              {problem}
            </p>
          )}
          {read && read.firstRows.length > 0 && <FirstRows look={read} chosen={chosen} onChosen={setChosen} onHeadingRow={(row) => setOptions({ ...options, headingRow: row })} />}
          {look.isPending && !problem && <p className="p-6 text-faint">Reading the first rows…</p>}
        </div>
      </div>
    </>
  );
}
