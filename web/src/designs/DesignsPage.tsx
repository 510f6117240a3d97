import { useQuery } from "@tanstack/react-query";
import { Archive, ArchiveRestore, Copy, Pencil, Plus, Trash2 } from "lucide-react";
import { useMemo, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { designsQuery, listsQuery } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { say, sayWrong } from "../ui/notices";
import { PdfPages } from "../ui/PdfPages";
import { RemovalDialog } from "../ui/RemovalDialog";
import { count, many, moment } from "../ui/words";
import { DocumentDrop } from "../documents/DocumentDrop";
import { FormDrop } from "../forms/FormDrop";
import { useFormFile } from "../forms/useFormFile";
import { kindOrder, kinds, type DesignKind } from "./kinds";
import { createFromStarter, StarterPicker } from "./StarterPicker";
import { keys } from "../api/keys";

/** The library of designs: what each is, what its first page looks like, where it is used. */
export function DesignsPage() {
  const designs = useQuery(designsQuery()).data;
  const known = useQuery(listsQuery()).data;
  const lists = known ?? [];
  const [params, setParams] = useSearchParams();
  const [writing, setWriting] = useState(params.has("new"));
  const [describing, setDescribing] = useState<Schema["DesignView"] | null>(null);
  const [removing, setRemoving] = useState<number | null>(null);
  const [find, setFind] = useState("");
  const [tag, setTag] = useState<string | null>(null);
  const [archive, setArchive] = useState(false);
  useActions([{ keys: "n", label: "New design", run: () => setWriting(true) }]);
  const begin = (
    <button className="btn btn-primary" onClick={() => setWriting(true)}>
      <Plus size={15} /> New design
    </button>
  );
  const tags = useMemo(() => [...new Set(designs?.flatMap((d) => d.tags))].sort(), [designs]);
  const archived = designs?.filter((d) => d.archived).length ?? 0;
  const shown = designs?.filter(
    (d) =>
      d.archived === archive &&
      (tag === null || d.tags.includes(tag)) &&
      `${d.name} ${d.description} ${d.tags.join(" ")} ${d.usedIn.join(" ")}`.toLowerCase().includes(find.trim().toLowerCase()),
  );
  const act = async (run: () => Promise<unknown>, done: string) => {
    try {
      await run();
      await queryClient.invalidateQueries({ queryKey: keys.designs() });
      say(done);
    } catch (e) {
      sayWrong(e);
    }
  };
  const setArchived = (d: Schema["DesignView"], to: boolean) =>
    act(
      () =>
        ask(
          api.PATCH("/api/designs/{id}", {
            params: { path: { id: d.id } },
            body: { name: null, listId: null, description: null, tags: null, archived: to },
          }),
        ),
      to ? `${d.name} was archived. Drops that use it are not affected.` : `${d.name} was restored.`,
    );
  return (
    <>
      <Header kind="Letters, envelopes, labels, email" title="Designs">
        {begin}
      </Header>
      {designs?.length === 0 && (
        <Empty title="No designs yet" actions={begin}>
          Write a letter or email with fields from a list, or lay out an envelope or label sheet. A preview shows what a real recipient will
          get.
        </Empty>
      )}
      {designs && designs.length > 0 && (
        <>
          <div className="flex items-center gap-2 border-b border-line px-4 py-2">
            <input
              className="input input-sm w-56"
              aria-label="Search designs"
              placeholder="Search name, text, or drop"
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
            {tags.map((t) => (
              <button
                key={t}
                className={`btn btn-xs ${tag === t ? "btn-primary" : "btn-quiet"}`}
                aria-pressed={tag === t}
                onClick={() => setTag(tag === t ? null : t)}
              >
                {t}
              </button>
            ))}
            <span className="flex-1" />
            {(archived > 0 || archive) && (
              <button
                className={`btn btn-xs ${archive ? "btn-primary" : "btn-quiet"}`}
                aria-pressed={archive}
                onClick={() => setArchive(!archive)}
              >
                {many(archived, "archived design")}
              </button>
            )}
          </div>
          <div className="min-h-0 flex-1 overflow-auto">
            <table className="table table-sm w-full">
              <thead>
                <tr className="text-faint">
                  <th className="w-28">Preview</th>
                  <th>Design</th>
                  <th>Type</th>
                  <th>List</th>
                  <th className="text-right">Version</th>
                  <th>Changed</th>
                  <th>Used in</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {shown?.map((d) => (
                  <tr key={d.id} className="align-top hover:bg-base-200">
                    <td>
                      <Link to={`/designs/${d.id}`} aria-label={`Open ${d.name}`}>
                        <FirstPage design={d} />
                      </Link>
                    </td>
                    <td>
                      <Link className="font-semibold hover:underline" to={`/designs/${d.id}`}>
                        {d.name}
                      </Link>
                      {d.description && <p className="max-w-md text-faint">{d.description}</p>}
                      {d.tags.length > 0 && (
                        <p className="mt-1 flex flex-wrap gap-1">
                          {d.tags.map((t) => (
                            <span key={t} className="rounded bg-base-200 px-1.5 text-[11.5px]">
                              {t}
                            </span>
                          ))}
                        </p>
                      )}
                    </td>
                    <td className="whitespace-nowrap text-faint">{kinds[d.kind].name}</td>
                    <td className="text-faint">{lists.find((l) => l.id === d.listId)?.name ?? "No list"}</td>
                    <td className="text-right">{d.version}</td>
                    <td className="whitespace-nowrap text-faint">
                      {moment(d.updatedAt)}
                      <br />
                      {d.by}
                    </td>
                    <td className="max-w-60 text-faint">
                      {d.usedIn.map((u) => (
                        <p key={u}>{u}</p>
                      ))}
                      {d.usedIn.length === 0 && "Not used yet"}
                    </td>
                    <td className="whitespace-nowrap text-right">
                      <button
                        className="btn btn-ghost btn-xs btn-square"
                        aria-label={`Edit details of ${d.name}`}
                        title="Name, description, tags"
                        onClick={() => setDescribing(d)}
                      >
                        <Pencil size={14} />
                      </button>
                      <button
                        className="btn btn-ghost btn-xs btn-square"
                        aria-label={`Duplicate ${d.name}`}
                        title="Duplicate"
                        onClick={() =>
                          void act(
                            () =>
                              ask(
                                api.POST("/api/designs/{id}/duplicate", {
                                  params: { path: { id: d.id } },
                                  body: { name: `${d.name} (copy)` },
                                }),
                              ),
                            `Created ${d.name} (copy).`,
                          )
                        }
                      >
                        <Copy size={14} />
                      </button>
                      <button
                        className="btn btn-ghost btn-xs btn-square"
                        aria-label={`${d.archived ? "Restore:" : "Archive"} ${d.name}`}
                        title={d.archived ? "Restore from archive" : "Archive"}
                        onClick={() => void setArchived(d, !d.archived)}
                      >
                        {d.archived ? <ArchiveRestore size={14} /> : <Archive size={14} />}
                      </button>
                      <button
                        className="btn btn-ghost btn-xs btn-square"
                        aria-label={`Remove ${d.name}`}
                        title="Remove it"
                        onClick={() => setRemoving(d.id)}
                      >
                        <Trash2 size={14} />
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {shown?.length === 0 && <p className="p-6 text-faint">No {archive ? "archived " : ""}designs match your search.</p>}
          </div>
        </>
      )}
      {writing && (
        <NewLetter lists={lists} loaded={known !== undefined} close={() => (setWriting(false), setParams({}, { replace: true }))} />
      )}
      {removing !== null && <RemovalDialog kind="design" id={removing} close={() => setRemoving(null)} gone={() => setRemoving(null)} />}
      {describing && <Describe design={describing} close={() => setDescribing(null)} />}
    </>
  );
}

/** The first page of a design, small. */
function FirstPage({ design }: { design: Schema["DesignView"] }) {
  const letter = kinds[design.kind].hasPages || kinds[design.kind].isWritten;
  const page = useQuery({
    queryKey: keys.designs(design.id, "first-page", design.version, design.updatedAt),
    queryFn: async () => {
      const response = await fetch(`/api/designs/${design.id}/first-page`);
      if (!response.ok) throw new Error("No preview");
      return new Uint8Array(await response.arrayBuffer());
    },
    staleTime: Infinity,
  }).data;
  return (
    <div className={`pointer-events-none overflow-hidden ${letter ? "h-[84px] w-16" : "w-24 py-1"}`} aria-hidden>
      <PdfPages data={page} width={letter ? 64 : 94} mark="" />
    </div>
  );
}

function Describe({ design, close }: { design: Schema["DesignView"]; close: () => void }) {
  const [name, setName] = useState(design.name);
  const [description, setDescription] = useState(design.description);
  const [tags, setTags] = useState(design.tags.join(", "));
  const set = async () => {
    try {
      await ask(
        api.PATCH("/api/designs/{id}", {
          params: { path: { id: design.id } },
          body: { name, listId: null, description, tags: tags.split(",").map((t) => t.trim()), archived: null },
        }),
      );
      await queryClient.invalidateQueries({ queryKey: keys.designs() });
      close();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Design details" onClose={close}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void set();
        }}
      >
        <label>
          <span className="mb-1 block font-semibold">Name</span>
          <input className="input w-full" autoFocus value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
        </label>
        <label>
          <span className="mb-1 block font-semibold">Description</span>
          <textarea
            className="textarea w-full"
            rows={3}
            maxLength={1000}
            value={description}
            placeholder="For members past their renewal date"
            onChange={(e) => setDescription(e.target.value)}
          />
        </label>
        <label>
          <span className="mb-1 block font-semibold">Tags, separated by commas</span>
          <input
            className="input w-full"
            aria-label="Tags"
            value={tags}
            placeholder="renewal, spring"
            onChange={(e) => setTags(e.target.value)}
          />
        </label>
        <button className="btn btn-primary self-start" disabled={!name.trim()}>
          Save
        </button>
      </form>
    </Dialog>
  );
}

function NewLetter({
  lists,
  loaded,
  close,
}: {
  lists: { id: number; name: string; recipients: number }[];
  loaded: boolean;
  close: () => void;
}) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [kind, setKind] = useState<DesignKind>("letter");
  const [starter, setStarter] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const brought = useRef("");
  // Until one is chosen it is the newest list, also where the lists arrive after the dialog has opened.
  const list = chosen ?? String(lists[0]?.id ?? "");
  const begin = async () => {
    try {
      const listId = list ? Number(list) : null;
      const id = starter
        ? await createFromStarter(starter, name, listId)
        : await ask(api.POST("/api/designs", { body: { name, listId, kind } }));
      await queryClient.invalidateQueries({ queryKey: keys.designs() });
      void navigate(`/designs/${id}`);
    } catch (e) {
      sayWrong(e);
    }
  };
  const [busy, setBusy] = useState(false);
  const pdf = useFormFile();
  const bring = async (file: File) => {
    setBusy(true);
    try {
      const called = name.trim() || file.name.replace(/\.pdf$/i, "");
      const query = new URLSearchParams({ name: called.slice(0, 120), file: file.name, ...(list ? { listId: list } : {}) });
      const id = await pdf.send<number>(`/api/designs/form?${query}`, file);
      if (id === null) {
        setBusy(false);
        return;
      }
      await queryClient.invalidateQueries({ queryKey: keys.designs() });
      void navigate(`/designs/${id}`);
    } catch (e) {
      sayWrong(e);
      setBusy(false);
    }
  };
  return (
    <Dialog title="New design" onClose={close} wide>
      {pdf.dialog}
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (loaded && name.trim() && !kinds[kind].isFile) void begin();
        }}
      >
        <fieldset className="flex gap-1.5">
          <legend className="mb-1 font-semibold">Type</legend>
          {kindOrder.map((k) => (
            <label key={k} className={`btn btn-sm ${kind === k ? "btn-primary" : "btn-quiet"}`}>
              <input type="radio" className="sr" name="kind" checked={kind === k} onChange={() => (setKind(k), setStarter(null))} />
              {kinds[k].choice}
            </label>
          ))}
        </fieldset>
        <label>
          <span className="mb-1 block font-semibold">Name</span>
          <input
            className="input w-full"
            autoFocus
            value={name}
            maxLength={120}
            placeholder={kinds[kind].example}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label>
          <span className="mb-1 block font-semibold">List for fields</span>
          <select className="select w-full" value={list} onChange={(e) => setChosen(e.target.value)}>
            {lists.map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}, {count(l.recipients)}
              </option>
            ))}
            <option value="">{lists.length === 0 ? "No lists yet" : "No list"}</option>
          </select>
        </label>
        {!kinds[kind].isFile && (
          <StarterPicker
            key={kind}
            kind={kind}
            listId={list ? Number(list) : null}
            value={starter}
            onChange={(id, called) => {
              setStarter(id);
              // A name that was given stays; one that a starter brought goes with it.
              if (!name.trim() || brought.current === name) setName(called);
              brought.current = called;
            }}
          />
        )}
        {kinds[kind].isFile ? (
          <FormDrop busy={busy || !loaded} onFile={(file) => void bring(file)} />
        ) : (
          <button className="btn btn-primary self-start" disabled={!loaded || !name.trim()}>
            Create design
          </button>
        )}
      </form>
      {kinds[kind].isText && (
        <div className="mt-4 border-t border-line pt-4">
          <DocumentDrop onUpload={(u) => void navigate(`/designs/document/${u.id}${list ? `?list=${list}` : ""}`)}>
            Or import a letter: drop a DOCX or ODT file here.
          </DocumentDrop>
        </div>
      )}
    </Dialog>
  );
}
