import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { useParams } from "react-router";
import { api, ask, queryClient, ServerError, type Schema } from "../api/client";
import { suppressionsQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { say, sayWrong } from "../ui/notices";
import { useDelayed } from "../ui/useDelayed";
import { count, day, many } from "../ui/words";
import { FileDrop, type Upload } from "./bring/FileDrop";
import { Reading } from "./bring/Reading";
import { useReading, useWaiting } from "./bring/useReading";
import { MissingRecord } from "../shell/WentWrong";
import { keys } from "../api/keys";

const fresh = () =>
  Promise.all([queryClient.invalidateQueries({ queryKey: keys.suppressions() }), queryClient.invalidateQueries({ queryKey: keys.drop() })]);

/** The people who must not be mailed, and why. */
export function SuppressionPage() {
  const id = Number(useParams().id);
  const list = useQuery(suppressionsQuery()).data?.find((l) => l.id === id);
  const [bringing, setBringing] = useState(false);
  const [upload, setUpload] = useState<Upload | null>(null);
  const [search, setSearch] = useState("");
  const asked = useDelayed(search, 200);
  const page = useQuery({
    queryKey: keys.suppressions(id, asked),
    queryFn: () =>
      ask(api.GET("/api/suppressions/{id}/entries", { params: { path: { id }, query: { search: asked || undefined, limit: 200 } } })),
  });
  if (page.error) return <MissingRecord error={page.error} what="suppression list" to="/lists" back="Go to Lists" />;
  if (upload)
    return (
      <BringEntries
        key={upload.id}
        id={id}
        upload={upload}
        again={() => setUpload(null)}
        done={() => (setUpload(null), setBringing(false))}
      />
    );
  const remove = async (e: Schema["SuppressionRow"]) => {
    try {
      await ask(api.DELETE("/api/suppressions/entries/{entryId}", { params: { path: { entryId: e.id } } }));
      await fresh();
      say(`${called(e)} can be mailed again. Holds from this entry were released.`, {
        action: {
          label: "Undo",
          run: () =>
            void ask(api.POST("/api/suppressions/entries/{entryId}/restore", { params: { path: { entryId: e.id } } })).then(
              fresh,
              sayWrong,
            ),
        },
      });
    } catch (error) {
      sayWrong(error);
    }
  };
  return (
    <>
      <Header kind="Suppression list" title={list?.name ?? ""} state={list ? many(list.entries, "entry", "entries") : ""}>
        <button className="btn btn-quiet" onClick={() => setBringing(!bringing)}>
          {bringing ? "Back to entries" : "Import entries"}
        </button>
      </Header>
      {bringing ? (
        <div className="flex min-h-0 flex-1 gap-8 overflow-auto p-6">
          <FileDrop onUpload={setUpload} pasted="Pasted entries" />
          <p className="max-w-sm text-faint">
            Entries are matched by key, by email address, or by name with street and postal code. Your file needs at least one of these.
            Columns named Reason and Until are also used.
          </p>
        </div>
      ) : (
        <div className="flex min-h-0 flex-1">
          <div className="min-w-0 flex-1 overflow-auto">
            <div className="flex h-11 items-center border-b border-line px-4">
              <input
                className="input input-sm w-60"
                aria-label="Search"
                placeholder="Search"
                value={search}
                onChange={(e) => setSearch(e.target.value)}
              />
            </div>
            {page.data?.total === 0 && (
              <p className="p-6 text-faint">
                {asked ? "No entries match your search." : "No entries yet. Add one on the right, or import entries from a file."}
              </p>
            )}
            <table className="table table-sm w-full">
              {page.data && page.data.total > 0 && (
                <thead>
                  <tr className="text-faint">
                    <th>Name</th>
                    <th>Address</th>
                    <th>Email</th>
                    <th>Key</th>
                    <th>Reason</th>
                    <th>Until</th>
                    <th />
                  </tr>
                </thead>
              )}
              <tbody>
                {page.data?.rows.map((e) => (
                  <tr key={e.id}>
                    <td>{e.name}</td>
                    <td>{[e.street, [e.postalCode, e.city].filter(Boolean).join(" ")].filter(Boolean).join(", ")}</td>
                    <td>{e.email}</td>
                    <td>{e.key}</td>
                    <td>
                      {e.reason}
                      {e.channel === "email" && (
                        <span className="ml-1.5 rounded bg-base-300 px-1.5 text-[11px] whitespace-nowrap">email only</span>
                      )}
                    </td>
                    <td className="whitespace-nowrap">{e.until ? day(e.until) : <span className="text-faint">No end date</span>}</td>
                    <td className="text-right">
                      <button
                        className="btn btn-ghost btn-xs btn-square"
                        aria-label={`Remove ${called(e)}`}
                        title="Remove (can be mailed again)"
                        onClick={() => void remove(e)}
                      >
                        <X size={13} />
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <AddEntry id={id} />
        </div>
      )}
    </>
  );
}

const called = (e: Schema["SuppressionRow"]) => e.name ?? e.email ?? e.key ?? "This entry";

function AddEntry({ id }: { id: number }) {
  const blank = { name: "", street: "", city: "", postalCode: "", email: "", key: "", reason: "", until: "", channel: "all" };
  const [entry, setEntry] = useState(blank);
  const add = async () => {
    try {
      const or = (v: string) => v.trim() || null;
      await ask(
        api.POST("/api/suppressions/{id}/entries", {
          params: { path: { id } },
          body: {
            name: or(entry.name),
            street: or(entry.street),
            city: or(entry.city),
            postalCode: or(entry.postalCode),
            email: or(entry.email),
            key: or(entry.key),
            reason: or(entry.reason),
            until: or(entry.until),
            channel: entry.channel,
          },
        }),
      );
      await fresh();
      say(
        entry.channel === "email"
          ? "Added. Matching recipients get no email. Letters are still sent."
          : "Added. Matching recipients are held in every drop.",
      );
      setEntry(blank);
    } catch (e) {
      sayWrong(e);
    }
  };
  const box = (key: keyof typeof blank, label: string, type = "text", placeholder = "") => (
    <label className="grid grid-cols-[80px_1fr] items-center gap-2">
      <span>{label}</span>
      <input
        className="input input-sm w-full"
        type={type}
        placeholder={placeholder}
        value={entry[key]}
        onChange={(e) => setEntry({ ...entry, [key]: e.target.value })}
      />
    </label>
  );
  return (
    <form
      className="on-sand flex w-[300px] shrink-0 flex-col gap-2 overflow-auto border-l border-line bg-base-200 p-4"
      onSubmit={(e) => {
        e.preventDefault();
        void add();
      }}
    >
      <h2>Add entry</h2>
      <p className="text-[12px] text-faint">Enter a key, an email address, or a name with street and postal code.</p>
      {box("key", "Key")}
      {box("email", "Email")}
      {box("name", "Name")}
      {box("street", "Street")}
      {box("postalCode", "Postal code")}
      {box("city", "City")}
      {box("reason", "Reason", "text", "Asked by phone")}
      {box("until", "Until", "date")}
      <label className="grid grid-cols-[80px_1fr] items-center gap-2">
        <span>Ends</span>
        <select className="select select-sm w-full" value={entry.channel} onChange={(e) => setEntry({ ...entry, channel: e.target.value })}>
          <option value="all">all mail</option>
          <option value="email">email only</option>
        </select>
      </label>
      <button className="btn btn-primary btn-sm mt-1 self-end" disabled={!entry.key && !entry.email && !(entry.name && entry.street)}>
        Add
      </button>
    </form>
  );
}

function BringEntries({ id, upload, again, done }: { id: number; upload: Upload; again: () => void; done: () => void }) {
  const reading = useReading(upload);
  const [reason, setReason] = useState("");
  const [until, setUntil] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const work = useWaiting((message) => {
    const { added, unusable } = JSON.parse(message ?? "{}") as { added: number; unusable: number };
    say(
      `Added ${many(added, "entry", "entries")}.${unusable > 0 ? ` ${count(unusable)} could not be used because they have no key, email address, or full name and address.` : ""}`,
    );
    void fresh();
    done();
  }, setWrong);
  const bringIn = async () => {
    if (!reading.body) return;
    setWrong(null);
    try {
      work.wait(
        (
          await ask(
            api.POST("/api/suppressions/{id}/bring-in", {
              params: { path: { id } },
              body: { uploadId: upload.id, ...reading.body, reason: reason || null, until: until || null },
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
      kind="Import entries"
      upload={upload}
      reading={reading}
      wrong={wrong}
      aside={
        <>
          <label className="block">
            <span className="mb-1 block font-semibold">Default reason</span>
            <input
              className="input input-sm w-full"
              placeholder="Asked not to be mailed"
              value={reason}
              onChange={(e) => setReason(e.target.value)}
            />
          </label>
          <label className="block">
            <span className="mb-1 block font-semibold">Default end date</span>
            <input type="date" className="input input-sm w-full" value={until} onChange={(e) => setUntil(e.target.value)} />
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
              !reading.read || reading.problem !== null || reading.question !== null || wrong !== null || work.waiting || reading.busy
            }
            onClick={() => void bringIn()}
          >
            {work.waiting ? "Importing…" : "Import entries"}
          </button>
        </>
      }
    />
  );
}
