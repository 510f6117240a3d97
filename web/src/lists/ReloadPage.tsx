import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask, queryClient, ServerError, type Schema } from "../api/client";
import { listQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { say, sayWrong } from "../ui/notices";
import { count, many } from "../ui/words";
import { FileDrop, type Upload } from "./bring/FileDrop";
import { KeepTimes } from "./bring/KeepTimes";
import { ReadingOptions } from "./bring/ReadingOptions";
import { useWaiting, type Options } from "./bring/useReading";
import { keys } from "../api/keys";

type List = Schema["ListView"];
type Kind = "added" | "changed" | "gone";

/** A newer file of a list: how its columns are those of the list, then who is added, changed and gone. */
export function ReloadPage() {
  const id = Number(useParams().id);
  const list = useQuery(listQuery(id)).data;
  const [upload, setUpload] = useState<Upload | null>(null);
  if (!list) return null;
  if (list.reload !== null && !upload) return <Compared list={list} reload={list.reload} />;
  if (upload)
    return <Matching key={upload.id} list={list} upload={upload} again={() => setUpload(null)} compared={() => setUpload(null)} />;
  return (
    <>
      <Header kind={<Link to={`/lists/${id}`}>{list.name}</Link>} title="Update from file" />
      <div className="flex min-h-0 flex-1 gap-8 overflow-auto p-6">
        <FileDrop onUpload={setUpload} pasted="Pasted rows" />
        <div className="max-w-sm text-faint">
          <h2 className="mb-2 text-base-content">What happens next</h2>
          <p className="mb-2">
            The file is compared with the list. You will see which recipients are new, changed, or missing from the file, and choose which
            changes to apply. Nothing changes until you apply them.
          </p>
          <p className="mb-2">
            Corrections you made here are kept. If the file has a different value for a corrected cell, you will see both. Added columns,
            holds, segments, and history are kept.
          </p>
          <p>
            The list is at version {list.version}.{" "}
            <Link className="underline" to={`/lists/${id}/versions`}>
              Every version
            </Link>{" "}
            can be viewed and restored.
          </p>
        </div>
      </div>
    </>
  );
}

function Matching({ list, upload, again, compared }: { list: List; upload: Upload; again: () => void; compared: () => void }) {
  const path = { id: list.id };
  const [options, setOptions] = useState<Options>({
    sheet: null,
    headingRow: null,
    encoding: null,
    delimiter: null,
    headingSpan: null,
    query: null,
  });
  const [changed, setChanged] = useState<Record<number, number | "new" | "out">>({});
  const [times, setTimes] = useState<Record<number, boolean>>({});
  const [wrong, setWrong] = useState<string | null>(null);
  const answer = useQuery({
    queryKey: keys.lists(list.id, "reload-look", upload.id, options),
    queryFn: () => ask(api.POST("/api/lists/{id}/reload/look", { params: { path }, body: { uploadId: upload.id, options } })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const work = useWaiting(async () => {
    await queryClient.invalidateQueries({ queryKey: keys.lists(list.id) });
    compared();
  }, setWrong);
  const look = answer.data?.look;
  const chosen = (look?.columns ?? []).map((_, i): number | "new" | "out" => changed[i] ?? answer.data?.columnIds[i] ?? "new");
  const taken = new Set(chosen);
  const sources = list.columns.filter((c) => c.kind === "Source");
  const missing = sources.filter((c) => !taken.has(c.id) && !answer.data?.made.includes(c.id));
  // Whether the times of day of a column are kept; null where it has none to keep.
  const keeps = (c: Schema["SourceColumn"], i: number) =>
    chosen[i] !== "out" && (sources.find((s) => s.id === chosen[i]) ?? c).type === "Date" && (c.time !== null || c.keepTimes)
      ? (times[i] ?? c.keepTimes)
      : null;
  const unreadable = look?.problem ?? (answer.error instanceof Error ? answer.error.message : null);
  const problem = wrong ?? unreadable;
  const compare = async () => {
    setWrong(null);
    try {
      const body = {
        uploadId: upload.id,
        options,
        columnIds: chosen.map((c) => (typeof c === "number" ? c : null)),
        excluded: chosen.flatMap((c, i) => (c === "out" ? [i] : [])),
        keepTimes: look?.columns.flatMap((c, i) => (keeps(c, i) ? [i] : [])) ?? null,
      };
      work.wait((await ask(api.POST("/api/lists/{id}/reload", { params: { path }, body }))).jobId);
    } catch (e) {
      setWrong(e instanceof ServerError ? e.message : String(e));
    }
  };
  return (
    <>
      <Header kind={`Update ${list.name} from file`} title={upload.name}>
        <button className="btn btn-quiet" onClick={again}>
          Choose another file
        </button>
        <button
          className="btn btn-primary"
          disabled={!look || unreadable !== null || work.waiting || answer.isFetching}
          onClick={() => void compare()}
        >
          {work.waiting ? `Comparing ${work.done > 0 ? count(work.done) : ""}…` : "Compare with list"}
        </button>
      </Header>
      <div className="flex min-h-0 flex-1">
        <aside className="flex w-60 shrink-0 flex-col gap-3 overflow-auto border-r border-line p-4">
          {look && <ReadingOptions key={look.kind} read={look} options={options} onOptions={setOptions} />}
        </aside>
        <div className="min-h-0 min-w-0 flex-1 overflow-auto p-4">
          {problem && (
            <p role="alert" className="mb-4 rounded-box border-l-4 border-error bg-error/10 px-4 py-3">
              {problem}
            </p>
          )}
          {missing.length > 0 && look && (
            <p className="mb-3 bg-doubt px-3 py-2">
              Missing from this file: {missing.map((c) => c.name).join(", ")}.{" "}
              {missing.length === 1 ? "It stays unchanged" : "They stay unchanged"}; if {missing.length === 1 ? "it has" : "one has"}{" "}
              another heading now, say so below.
            </p>
          )}
          <table className="w-full max-w-3xl text-[12.5px]">
            <thead>
              <tr className="text-left text-faint">
                <th className="py-1 font-normal">Column in the file</th>
                <th className="font-normal">Example</th>
                <th className="w-64 font-normal">Column in the list</th>
              </tr>
            </thead>
            <tbody>
              {look?.columns.map((c, i) => (
                <tr key={i} className="border-b border-line">
                  <td className="py-1 pr-3 font-semibold">{c.name}</td>
                  <td className="max-w-60 truncate pr-3 text-faint">{look.firstRows.slice(look.headingRow + 1).find((r) => r[i])?.[i]}</td>
                  <td className="py-1">
                    <select
                      aria-label={`List column for ${c.name}`}
                      className={`select select-xs w-full ${chosen[i] === "new" ? "text-doubt-ink" : ""}`}
                      value={String(chosen[i])}
                      onChange={(e) =>
                        setChanged({
                          ...changed,
                          [i]: e.target.value === "new" || e.target.value === "out" ? e.target.value : Number(e.target.value),
                        })
                      }
                    >
                      <option value="new">Add as new column</option>
                      <option value="out">Do not import</option>
                      {sources
                        .filter((s) => s.id === chosen[i] || !taken.has(s.id))
                        .map((s) => (
                          <option key={s.id} value={s.id}>
                            {s.name}
                          </option>
                        ))}
                    </select>
                    {keeps(c, i) !== null && (
                      <KeepTimes
                        column={c.name}
                        time={c.time}
                        checked={keeps(c, i) === true}
                        onChange={(on) => setTimes({ ...times, [i]: on })}
                      />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {look && look.firstRows.length > 0 && (
            <>
              <h2 className="mt-6 mb-2">The file's first rows</h2>
              <PlainRows look={look} />
            </>
          )}
        </div>
      </div>
    </>
  );
}

/** The first rows of the file as they were read; the headings are marked. */
function PlainRows({ look }: { look: Schema["SourceLook"] }) {
  return (
    <div className="overflow-x-auto">
      <table className="text-[12px]">
        <tbody>
          {look.firstRows.slice(0, Math.max(0, look.headingRow) + 9).map((row, i) => (
            <tr key={i} className={i === look.headingRow ? "font-semibold" : i < look.headingRow ? "text-faint" : ""}>
              <td className="border-b border-line py-1 pr-3 text-right text-faint tabular-nums">{look.firstRowNumbers[i]}</td>
              {look.columns.map((c, p) => (
                <td key={p} className="max-w-52 truncate border-b border-line py-1 pr-4" title={c.name}>
                  {row[p] ?? <span className="text-faint">·</span>}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Compared({ list, reload }: { list: List; reload: number }) {
  const navigate = useNavigate();
  const path = { id: reload };
  const r = useQuery({
    queryKey: keys.lists(list.id, "reload", reload),
    queryFn: () => ask(api.GET("/api/reloads/{id}", { params: { path } })),
    staleTime: Infinity,
  }).data;
  const [kind, setKind] = useState<Kind | null>(null);
  const [off, setOff] = useState<ReadonlySet<number>>(new Set());
  const [takes, setTakes] = useState<Record<Kind, boolean> | null>(null);
  const [keepHere, setKeepHere] = useState(false);
  const shown: Kind = kind ?? (r && r.changed > 0 ? "changed" : r && r.added > 0 ? "added" : "gone");
  const items = useQuery({
    queryKey: keys.lists(list.id, "reload", reload, shown),
    queryFn: () => ask(api.GET("/api/reloads/{id}/{kind}", { params: { path: { ...path, kind: shown }, query: { limit: 200 } } })),
    enabled: r !== undefined,
    staleTime: Infinity,
  }).data;
  if (!r) return null;
  // Many gone at once are more often half a file than half a membership; nobody is taken off unless somebody says so.
  const manyGone = r.gone * 5 > list.recipients;
  const take = takes ?? { added: true, changed: true, gone: false };
  const n = (take.added ? r.added : 0) + (take.changed ? r.changed : 0) + (take.gone ? r.gone : 0) - off.size;
  const leave = async () => {
    try {
      await ask(api.DELETE("/api/reloads/{id}", { params: { path } }));
      await queryClient.invalidateQueries({ queryKey: keys.lists(list.id) });
      say("Discarded the file. The list is unchanged.");
      void navigate(`/lists/${list.id}`);
    } catch (e) {
      sayWrong(e);
    }
  };
  const takeOver = async () => {
    try {
      const outcome = await ask(api.POST("/api/reloads/{id}/take", { params: { path }, body: { ...take, keepHere, except: [...off] } }));
      await queryClient.invalidateQueries();
      say(`${outcome.label}.`);
      void navigate(`/lists/${list.id}`);
    } catch (e) {
      sayWrong(e);
    }
  };
  const tab = (k: Kind, label: string, amount: number) => (
    <div className={`flex items-center gap-2 border-b-2 px-3 ${shown === k ? "border-primary" : "border-transparent"}`}>
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        aria-label={`Apply ${k === "gone" ? "missing" : k} recipients`}
        checked={take[k] && amount > 0}
        disabled={amount === 0}
        onChange={(e) => setTakes({ ...take, [k]: e.target.checked })}
      />
      <button role="tab" aria-selected={shown === k} className="cursor-pointer py-2" onClick={() => setKind(k)}>
        {label} <b>{count(amount)}</b>
      </button>
    </div>
  );
  return (
    <>
      <Header
        kind={<Link to={`/lists/${list.id}`}>{list.name}</Link>}
        title={`${r.sourceName} compared with the list`}
        state={`matched by ${r.matchedBy}; ${count(r.unchanged)} unchanged`}
      >
        <button className="btn btn-quiet" onClick={() => void leave()}>
          Discard file
        </button>
        <button className="btn btn-primary" disabled={n <= 0} onClick={() => void takeOver()}>
          Apply {count(Math.max(0, n))}
        </button>
      </Header>
      <div className="flex h-10 shrink-0 items-stretch gap-2 border-b border-line px-2" role="tablist">
        {tab("added", "Added", r.added)}
        {tab("changed", "Changed", r.changed)}
        {tab("gone", "Missing from the file", r.gone)}
        {r.inBoth > 0 && (
          <label className="ml-auto flex items-center gap-2 pr-2">
            For {many(r.inBoth, "recipient")} also changed here, use
            <select
              className="select select-xs w-40"
              value={keepHere ? "here" : "file"}
              onChange={(e) => setKeepHere(e.target.value === "here")}
            >
              <option value="file">The file’s value</option>
              <option value="here">The list’s value</option>
            </select>
          </label>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-4 py-2">
        {(r.report.length > 0 || r.newColumns.length > 0) && (
          <ul className="mb-3 text-[12px] text-doubt-ink">
            {r.newColumns.length > 0 && <li>New columns: {r.newColumns.map((c) => c.name).join(", ")}.</li>}
            {r.report.map((x) => (
              <li key={x}>{x}</li>
            ))}
          </ul>
        )}
        {shown === "gone" && r.gone > 0 && (
          <p className="mb-3 bg-doubt px-3 py-2">
            {manyGone
              ? `${count(r.gone)} of ${count(list.recipients)} are not in this file. Is it the whole list, or a part of it? `
              : `${many(r.gone, "recipient is", "recipients are")} not in this file. `}
            No recipient is removed unless you select the box next to “Missing from the file.”
          </p>
        )}
        {items?.length === 0 && <p className="text-faint">No {shown === "gone" ? "missing" : shown} recipients.</p>}
        <table className="w-full text-[12.5px]">
          <tbody>
            {items?.map((i) => (
              <Item
                key={i.number}
                list={list}
                item={i}
                newColumns={r.newColumns}
                keepHere={keepHere}
                on={take[shown] && !off.has(i.number)}
                onToggle={(on) => {
                  const next = new Set(off);
                  if (on) next.delete(i.number);
                  else next.add(i.number);
                  setOff(next);
                }}
              />
            ))}
          </tbody>
        </table>
        {items && { added: r.added, changed: r.changed, gone: r.gone }[shown] > items.length && (
          <p className="py-2 text-faint">
            and {count({ added: r.added, changed: r.changed, gone: r.gone }[shown] - items.length)} more like these
          </p>
        )}
      </div>
    </>
  );
}

function Item({
  list,
  item,
  newColumns,
  keepHere,
  on,
  onToggle,
}: {
  list: List;
  item: Schema["ReloadItem"];
  newColumns: Schema["Column"][];
  keepHere: boolean;
  on: boolean;
  onToggle: (on: boolean) => void;
}) {
  const name = (id: number) => [...list.columns, ...newColumns].find((c) => c.id === id)?.name ?? "";
  const value = (role: Schema["Role"]) => {
    const at = list.columns.findIndex((c) => c.role === role);
    return at < 0
      ? null
      : item.recipient
        ? (item.recipient.values[at] ?? null)
        : (item.cells.find((c) => c.c === list.columns[at]?.id)?.file ?? null);
  };
  const who =
    [value("Key"), [value("GivenName"), value("FamilyName")].filter(Boolean).join(" ") || value("FullName")].filter(Boolean).join(" · ") ||
    (item.recipient ? `No. ${item.recipient.number}` : "");
  return (
    <tr className={`border-b border-line align-top ${on ? "" : "text-faint [&_b]:text-inherit [&_s]:text-inherit"}`}>
      <td className="w-8 py-1.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          aria-label={`Apply ${who}`}
          checked={on}
          onChange={(e) => onToggle(e.target.checked)}
        />
      </td>
      <td className="w-64 py-1.5 pr-3 font-semibold">{who}</td>
      <td className="py-1.5">
        {item.kind === "changed" ? (
          item.cells.map((c) => {
            const both = c.c > 0 && c.here !== c.before;
            return (
              <span key={c.c} className={`mr-4 inline-block ${both ? "bg-doubt px-1" : ""}`}>
                <span className="text-faint">{name(c.c)}: </span>
                {both ? (
                  <>
                    was {c.before ?? "blank"}, here{" "}
                    <b className={keepHere ? "text-success" : "text-error line-through"}>{c.here ?? "blank"}</b>, in the file{" "}
                    <b className={keepHere ? "text-error line-through" : "text-success"}>{c.file ?? "blank"}</b>
                  </>
                ) : (
                  <>
                    <s className="text-error">{c.here ?? "blank"}</s> <b className="text-success">{c.file ?? "blank"}</b>
                  </>
                )}
              </span>
            );
          })
        ) : (
          <span className="text-faint">{item.kind === "added" ? item.cells.map((c) => c.file).join(" · ") : "Missing from the file"}</span>
        )}
      </td>
    </tr>
  );
}
