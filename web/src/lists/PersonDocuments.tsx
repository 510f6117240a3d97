import { useQuery } from "@tanstack/react-query";
import { FilePlus2 } from "lucide-react";
import { useRef, useState } from "react";
import { api, ask, queryClient, sendFile, type Schema } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { DropZone } from "../ui/DropZone";
import { say, sayWrong } from "../ui/notices";
import { PdfPages } from "../ui/PdfPages";
import { many, moment, size } from "../ui/words";
import { keys } from "../api/keys";

type Row = Schema["PersonFileRow"];

const fileOf = (row: Row) => `/api/documents-of-people/${row.id}/file`;

/** Documents that are kept with a recipient: a signed form, a scan, a photo. */
export function PersonDocuments({ listId, recipientId }: { listId: number; recipientId: number }) {
  const path = { id: listId, recipientId };
  const rows = useQuery({
    queryKey: keys.lists(listId, "documents", recipientId),
    queryFn: () => ask(api.GET("/api/lists/{id}/recipients/{recipientId}/documents", { params: { path } })),
  }).data;
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [shown, setShown] = useState<Row | null>(null);
  const [removing, setRemoving] = useState<Row | null>(null);
  const add = async (files: FileList) => {
    setBusy(true);
    try {
      for (const f of files) {
        await sendFile(`/api/lists/${listId}/recipients/${recipientId}/documents?name=${encodeURIComponent(f.name)}`, f);
        say(`${f.name} was added.`);
      }
    } catch (e) {
      sayWrong(e);
    } finally {
      setBusy(false);
      await queryClient.invalidateQueries({ queryKey: keys.lists(listId, "documents") });
    }
  };
  const remove = async (row: Row) => {
    try {
      await ask(api.DELETE("/api/documents-of-people/{fileId}", { params: { path: { fileId: row.id } } }));
      say(`${row.name} was removed.`);
      setRemoving(null);
      await queryClient.invalidateQueries({ queryKey: keys.lists(listId, "documents") });
    } catch (e) {
      sayWrong(e);
    }
  };
  if (!rows) return null;
  return (
    <section className="mb-6" aria-label="Documents">
      <h2 className="mb-2">Documents</h2>
      <ul>
        {rows.map((r) => (
          <li key={r.id} className="flex items-start gap-3 border-b border-line py-1.5">
            <div className="min-w-0 flex-1">
              <button className="cursor-pointer font-semibold hover:underline" onClick={() => setShown(r)}>
                {r.name}
              </button>
              <span className="block text-[12px] text-faint">
                {size(r.size)}
                {r.pages > 1 && `, ${many(r.pages, "page")}`} · {moment(r.at)}, {r.by}
                {r.recipientId !== recipientId && ` · ${r.listName}`}
              </span>
            </div>
            <button className="btn btn-xs btn-quiet" onClick={() => setRemoving(r)}>
              Remove…
            </button>
          </li>
        ))}
      </ul>
      <DropZone className="mt-2 px-3 py-2" onFiles={(f) => void add(f)}>
        <button className="btn btn-quiet btn-sm" disabled={busy} onClick={() => input.current?.click()}>
          <FilePlus2 size={14} /> {busy ? "Adding…" : "Add a document"}
        </button>
        <span className="text-[12px] leading-4 text-faint">
          PDF, PNG, JPEG, or SVG. A picture chosen by a column, an email’s “Personal file”, and a form’s “Personal document” find it by its
          name.
        </span>
        <input
          ref={input}
          type="file"
          multiple
          className="sr"
          aria-label="Document"
          tabIndex={-1}
          accept=".pdf,.png,.jpg,.jpeg,.svg"
          onChange={(e) => {
            if (e.target.files) void add(e.target.files);
            e.target.value = "";
          }}
        />
      </DropZone>
      {shown && <Shown row={shown} onClose={() => setShown(null)} />}
      {removing && (
        <Dialog title={`Remove ${removing.name}?`} onClose={() => setRemoving(null)}>
          <p className="mb-3">This cannot be undone. Pieces that are already printed do not change.</p>
          <div className="flex gap-2">
            <button className="btn btn-primary" onClick={() => void remove(removing)}>
              Remove {removing.name}
            </button>
            <button className="btn btn-quiet" onClick={() => setRemoving(null)}>
              Cancel
            </button>
          </div>
        </Dialog>
      )}
    </section>
  );
}

function Shown({ row, onClose }: { row: Row; onClose: () => void }) {
  const pdf = useQuery({
    queryKey: keys.personFile(row.id),
    queryFn: async () => new Uint8Array(await (await fetch(fileOf(row))).arrayBuffer()),
    enabled: row.mediaType === "application/pdf",
    gcTime: 0,
  }).data;
  return (
    <Dialog title={row.name} onClose={onClose} wide>
      <div className="max-h-[70vh] overflow-auto" role="region" tabIndex={0} aria-label="Document">
        {row.mediaType === "application/pdf" ? (
          <PdfPages data={pdf} width={600} mark={String(row.id)} />
        ) : (
          <img src={fileOf(row)} alt={row.name} className="mx-auto max-w-full" />
        )}
      </div>
      <div className="mt-3 flex gap-2">
        <a className="btn btn-quiet" href={fileOf(row)} download={row.name}>
          Download
        </a>
        <button className="btn btn-quiet" onClick={onClose}>
          Close
        </button>
      </div>
    </Dialog>
  );
}
