import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask, queryClient, ServerError, type Schema } from "../api/client";
import { listQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { say } from "../ui/notices";
import { count } from "../ui/words";
import { FileDrop, type Upload } from "./bring/FileDrop";
import { Reading } from "./bring/Reading";
import { useReading, useWaiting } from "./bring/useReading";
import { keys } from "../api/keys";

/** Brings in rows that belong to the recipients of a list, tied by its key. */
export function DetailImportPage() {
  const id = Number(useParams().id);
  const list = useQuery(listQuery(id)).data;
  const [upload, setUpload] = useState<Upload | null>(null);
  if (!list) return null;
  if (upload) return <BringRows key={upload.id} list={list} upload={upload} again={() => setUpload(null)} />;
  return (
    <>
      <Header kind={<Link to={`/lists/${id}?pane=rows`}>{list.name}</Link>} title="Import detail rows" />
      <div className="flex min-h-0 flex-1 gap-8 overflow-auto p-6">
        <FileDrop onUpload={setUpload} pasted="Pasted rows" />
        <div className="max-w-sm text-faint">
          <h2 className="mb-2 text-base-content">Rows that belong to recipients</h2>
          <p className="mb-2">
            For example, a member’s gifts or a customer’s visits. Each recipient can have any number of rows. One column must match the
            list’s {list.columns.find((c) => c.role === "Key")?.name ?? "key"}.
          </p>
          <p>Rows without a matching recipient, and recipients without rows, are counted and shown.</p>
        </div>
      </div>
    </>
  );
}

function BringRows({ list, upload, again }: { list: Schema["ListView"]; upload: Upload; again: () => void }) {
  const navigate = useNavigate();
  const reading = useReading(upload);
  const [name, setName] = useState(() => {
    const plain = (
      upload.name
        .replace(/\.[^.]+$/, "")
        .split(/[^\p{L}]+/u)
        .find(Boolean) ?? "Rows"
    ).slice(0, 40);
    return plain[0]?.toUpperCase() + plain.slice(1);
  });
  const [key, setKey] = useState<number | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const work = useWaiting(() => {
    void queryClient.invalidateQueries({ queryKey: keys.lists(list.id) });
    say(`Imported ${name}.`);
    void navigate(`/lists/${list.id}?pane=rows`);
  }, setWrong);
  const included = reading.chosen.filter((c) => c.include);
  const listKey = list.columns.find((c) => c.role === "Key");
  const guess = included.findIndex((c) => c.role === "Key" || c.name.toLowerCase() === listKey?.name.toLowerCase());
  const at = key !== null && key < included.length ? key : Math.max(0, guess);
  const bringIn = async () => {
    if (!reading.body) return;
    setWrong(null);
    try {
      work.wait(
        (
          await ask(
            api.POST("/api/lists/{id}/details", {
              params: { path: { id: list.id } },
              body: { uploadId: upload.id, name, key: at, ...reading.body },
            }),
          )
        ).jobId,
      );
    } catch (e) {
      setWrong(e instanceof ServerError ? e.message : String(e));
    }
  };
  return (
    <Reading
      kind={`Detail rows of ${list.name}`}
      upload={upload}
      reading={reading}
      wrong={wrong}
      aside={
        <>
          <label className="block">
            <span className="mb-1 block font-semibold">Name of the rows</span>
            <input
              className="input input-sm w-full"
              value={name}
              maxLength={40}
              placeholder="Gifts"
              onChange={(e) => setName(e.target.value)}
            />
            <span className="mt-1 block text-[12px] text-faint">
              Used in fields, such as sum({name || "Gifts"}.{included.find((c) => c.type === "Number")?.name ?? "Amount"})
            </span>
          </label>
          <label className="block">
            <span className="mb-1 block font-semibold">Matching column</span>
            <select className="select select-sm w-full" value={at} onChange={(e) => setKey(Number(e.target.value))}>
              {included.map((c, i) => (
                <option key={c.position} value={i}>
                  {c.name}
                </option>
              ))}
            </select>
            <span className="mt-1 block text-[12px] text-faint">Matched to {listKey?.name ?? "the list’s key"}</span>
          </label>
        </>
      }
      actions={
        <>
          <button className="btn btn-quiet" onClick={again}>
            Choose another file
          </button>
          <button
            className="btn btn-primary"
            disabled={
              !reading.read ||
              wrong !== null ||
              reading.problem !== null ||
              reading.question !== null ||
              included.length === 0 ||
              work.waiting ||
              reading.busy ||
              !name.trim()
            }
            onClick={() => void bringIn()}
          >
            {work.waiting ? `Importing ${work.done > 0 ? count(work.done) : ""}…` : "Import rows"}
          </button>
        </>
      }
    />
  );
}
