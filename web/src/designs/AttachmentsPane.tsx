import { useQuery } from "@tanstack/react-query";
import { FileUp, FolderUp, Lock, Paperclip, Trash2 } from "lucide-react";
import { useId, useRef, useState } from "react";
import { api, ask, queryClient, sendFile, type Schema } from "../api/client";
import { designsQuery } from "../api/queries";
import { say, sayWrong } from "../ui/notices";
import { many, size } from "../ui/words";
import type { Attached, Email } from "./email";
import { kinds } from "./kinds";
import { onPaper } from "./kinds";
import { keys } from "../api/keys";

interface Props {
  email: Email;
  columns: Schema["Column"][];
  readOnly: boolean;
  usedIn: string[];
  onChange: (attachments: Attached[]) => void;
  onPart: (part: Partial<Email>) => void;
}

export const foldersQuery = () => ({ queryKey: keys.mailFolders(), queryFn: () => ask(api.GET("/api/mail-folders")) });

/**
 * What goes with the message: designs of the package as the recipient's own PDF, a file for all, a file of their own; and how the
 * message is made.
 */
export function AttachmentsPane({ email, columns, readOnly, onChange, onPart }: Props) {
  const designs = onPaper(useQuery(designsQuery()).data ?? []).filter((d) => !d.archived);
  const isText = (id: number) => designs.some((d) => d.id === id && kinds[d.kind].isText);
  const folders = useQuery(foldersQuery()).data ?? [];
  const file = useRef<HTMLInputElement>(null);
  const set = (i: number, part: object) => onChange(email.attachments.map((a, n) => (n === i ? ({ ...a, ...part } as Attached) : a)));
  const add = (a: Attached) => onChange([...email.attachments, a]);
  const bring = async (files: FileList | null) => {
    for (const f of files ?? []) {
      try {
        const brought = await sendFile<Schema["BroughtFile"]>(`/api/mail-files?name=${encodeURIComponent(f.name)}`, f);
        add({ kind: "file", file: brought.file, name: brought.name, size: brought.size });
      } catch (e) {
        sayWrong(e);
      }
    }
  };
  return (
    <section className="relative mt-3 border-t border-line pt-3" aria-label="Attachments">
      <div className="mb-1.5 flex items-center gap-2">
        <h2 className="flex-1">Attachments</h2>
        {!readOnly && (
          <>
            <select
              className="select select-sm w-44"
              aria-label="Attach a design"
              value=""
              onChange={(e) =>
                e.target.value &&
                add({ kind: "design", designId: Number(e.target.value), name: "{Piece number} {Name in full}", password: null })
              }
            >
              <option value="">+ a design</option>
              {designs.map((d) => (
                <option key={d.id} value={d.id}>
                  {d.name}, {kinds[d.kind].name}
                </option>
              ))}
            </select>
            <button className="btn btn-quiet btn-sm" onClick={() => file.current?.click()} title="The same file for every recipient">
              <FileUp size={14} /> Attach file
            </button>
            <button
              className="btn btn-quiet btn-sm"
              onClick={() => add({ kind: "folder", folderId: folders[0]?.id ?? 0, source: "", name: "" })}
              title="A separate file for each recipient, named by their data"
            >
              <FolderUp size={14} /> Personal file
            </button>
            <input
              ref={file}
              type="file"
              multiple
              className="sr"
              aria-label="File to attach"
              tabIndex={-1}
              onChange={(e) => (void bring(e.target.files), (e.target.value = ""))}
            />
          </>
        )}
      </div>
      {email.attachments.length === 0 && (
        <p className="text-faint">
          No attachments yet. You can attach a letter from the package as a personal PDF for each recipient, with its own password.
        </p>
      )}
      <ul className="flex flex-col gap-2">
        {email.attachments.map((a, i) => (
          <li key={i} className="flex items-start gap-2 border border-line bg-base-100 px-2.5 py-1.5">
            <Paperclip size={14} className="mt-1.5 shrink-0 text-faint" />
            <div className="grid min-w-0 flex-1 grid-cols-[88px_1fr] items-center gap-x-2 gap-y-1">
              {a.kind === "design" && (
                <>
                  <span className="col-span-2 flex items-center gap-2 font-semibold">
                    <span className="min-w-0 truncate">
                      {designs.find((d) => d.id === a.designId)?.name ?? "a deleted design"}, as their own
                    </span>
                    <select
                      className="select select-xs w-24"
                      aria-label="Attached as"
                      disabled={readOnly || !isText(a.designId)}
                      title={
                        isText(a.designId)
                          ? "A PDF looks the same everywhere; a DOCX can be edited"
                          : "Only letters can be attached as DOCX"
                      }
                      value={a.as ?? "pdf"}
                      onChange={(e) => set(i, e.target.value === "docx" ? { as: "docx", password: null } : { as: "pdf" })}
                    >
                      <option value="pdf">PDF</option>
                      <option value="docx">DOCX</option>
                    </select>
                  </span>
                  <Text
                    label="File name"
                    value={a.name}
                    readOnly={readOnly}
                    placeholder="{Piece number} {Name in full}"
                    onChange={(name) => set(i, { name })}
                  />
                  {a.as !== "docx" && (
                    <Text
                      label={
                        <>
                          <Lock size={12} className="inline" /> password
                        </>
                      }
                      name="Attachment password"
                      value={a.password ?? ""}
                      readOnly={readOnly}
                      placeholder="None, or a field such as {Member no.}"
                      onChange={(password) => set(i, { password: password || null })}
                    />
                  )}
                </>
              )}
              {a.kind === "file" && (
                <>
                  <span className="col-span-2 text-faint">Same for every recipient, {size(a.size)}</span>
                  <Text
                    label="File name"
                    value={a.name}
                    readOnly={readOnly}
                    placeholder="Original name"
                    onChange={(name) => set(i, { name })}
                  />
                </>
              )}
              {a.kind === "folder" && (
                <OwnFile attached={a} columns={columns} folders={folders} readOnly={readOnly} onChange={(part) => set(i, part)} />
              )}
            </div>
            {!readOnly && (
              <button
                className="btn btn-ghost btn-xs btn-square"
                aria-label="Remove attachment"
                title="Remove attachment"
                onClick={() => onChange(email.attachments.filter((_, n) => n !== i))}
              >
                <Trash2 size={13} />
              </button>
            )}
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-1.5">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            disabled={readOnly}
            checked={email.unsubscribe}
            onChange={(e) => onPart({ unsubscribe: e.target.checked })}
          />{" "}
          Footer with your address and an unsubscribe link
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            disabled={readOnly}
            checked={email.format === "text"}
            onChange={(e) => onPart({ format: e.target.checked ? "text" : "html" })}
          />{" "}
          Plain text only
        </label>
        <label className="flex items-center gap-1.5">
          Size limit
          <input
            type="number"
            className="input input-sm w-16 tabular-nums"
            aria-label="Size limit, in MB"
            min={0.1}
            max={50}
            step={0.5}
            disabled={readOnly}
            value={email.sizeLimit}
            onChange={(e) => onPart({ sizeLimit: Math.min(50, Math.max(0.1, Number(e.target.value) || 10)) })}
          />{" "}
          MB
        </label>
      </div>
    </section>
  );
}

function Text({
  label,
  name,
  value,
  placeholder,
  readOnly,
  onChange,
}: {
  label: React.ReactNode;
  name?: string;
  value: string;
  placeholder: string;
  readOnly: boolean;
  onChange: (value: string) => void;
}) {
  return (
    <>
      <span className="text-faint">{label}</span>
      <input
        className="input input-sm w-full font-mono text-[12px]"
        aria-label={name ?? (typeof label === "string" ? label : undefined)}
        value={value}
        maxLength={300}
        placeholder={placeholder}
        disabled={readOnly}
        onChange={(e) => onChange(e.target.value)}
      />
    </>
  );
}

/** Stands for the documents that are kept with each recipient, in place of a folder. */
const ownDocuments = -1;

/** A file of the recipient's own: which folder, and what its name is made of. */
function OwnFile({
  attached,
  columns,
  folders,
  readOnly,
  onChange,
}: {
  attached: Extract<Attached, { kind: "folder" }>;
  columns: Schema["Column"][];
  folders: Schema["MailFolderRow"][];
  readOnly: boolean;
  onChange: (part: object) => void;
}) {
  const names = useId();
  const files = useRef<HTMLInputElement>(null);
  const [progress, setProgress] = useState<string | null>(null);
  const [name, setName] = useState("");
  const folder = folders.find((f) => f.id === attached.folderId);
  const begin = async () => {
    try {
      const id = await ask(api.POST("/api/mail-folders", { body: { name } }));
      await queryClient.invalidateQueries({ queryKey: foldersQuery().queryKey });
      onChange({ folderId: id });
      setName("");
    } catch (e) {
      sayWrong(e);
    }
  };
  const bring = async (chosen: FileList | null) => {
    if (!folder || !chosen) return;
    let done = 0;
    const list = [...chosen];
    try {
      for (const f of list) {
        setProgress(`${++done} of ${list.length}`);
        await sendFile(`/api/mail-folders/${folder.id}/files?name=${encodeURIComponent(f.name)}`, f);
      }
      say(`Added ${many(list.length, "file")} to ${folder.name}.`);
    } catch (e) {
      sayWrong(e);
    } finally {
      setProgress(null);
      void queryClient.invalidateQueries({ queryKey: foldersQuery().queryKey });
      void queryClient.invalidateQueries({ queryKey: keys.preview() });
    }
  };
  return (
    <>
      <span className="col-span-2 font-semibold">Personal file</span>
      <span className="text-faint">Folder</span>
      <span className="flex min-w-0 flex-wrap items-center gap-1.5">
        {(folders.length > 0 || !readOnly) && (
          <select
            className="select select-sm w-48"
            aria-label="Folder"
            disabled={readOnly}
            value={attached.folderId}
            onChange={(e) => onChange({ folderId: Number(e.target.value) })}
          >
            {!folder && attached.folderId !== ownDocuments && <option value={attached.folderId}>Choose a folder…</option>}
            <option value={ownDocuments}>Documents kept with the recipient</option>
            {folders.map((f) => (
              <option key={f.id} value={f.id}>
                {f.name}, {many(f.files, "file")}
              </option>
            ))}
          </select>
        )}
        {folder && !readOnly && (
          <button className="btn btn-quiet btn-sm" onClick={() => files.current?.click()} disabled={progress !== null}>
            <FolderUp size={13} /> {progress ?? "Add files"}
          </button>
        )}
        {!readOnly && attached.folderId !== ownDocuments && (
          <form
            className="flex gap-1"
            onSubmit={(e) => {
              e.preventDefault();
              if (name.trim()) void begin();
            }}
          >
            <input
              className="input input-sm w-32"
              aria-label="New folder name"
              placeholder="New folder"
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
            {name.trim() && <button className="btn btn-primary btn-sm">Create folder</button>}
          </form>
        )}
        <input
          ref={files}
          type="file"
          multiple
          className="sr"
          aria-label="Files in the folder"
          tabIndex={-1}
          onChange={(e) => (void bring(e.target.files), (e.target.value = ""))}
        />
      </span>
      <span className="text-faint">File name from</span>
      <span className="min-w-0">
        <input
          className="input input-sm w-full font-mono text-[12px]"
          aria-label="What names the file"
          list={names}
          value={attached.source}
          maxLength={300}
          placeholder={'Member no. & ".pdf"'}
          disabled={readOnly}
          onChange={(e) => onChange({ source: e.target.value })}
        />
        <datalist id={names}>
          {columns.map((c) => (
            <option key={c.id} value={c.name} />
          ))}
        </datalist>
        <span className="text-[12px] text-faint">A column that holds the whole name, or an expression: text goes in quotes, & joins.</span>
      </span>
    </>
  );
}
