import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, queryClient, ServerError, type Schema } from "../api/client";
import { Header } from "../ui/Header";
import { sayWrong } from "../ui/notices";
import { count, many } from "../ui/words";
import { FileDrop, type Upload } from "./bring/FileDrop";
import { Reading } from "./bring/Reading";
import { useReading, useWaiting } from "./bring/useReading";
import { keys } from "../api/keys";

export function ImportPage() {
  const [upload, setUpload] = useState<Upload | null>(null);
  if (upload) return <BringIn key={upload.id} upload={upload} again={() => setUpload(null)} />;
  return (
    <>
      <Header kind="Lists" title="Import list" />
      <div className="flex min-h-0 flex-1 gap-8 overflow-auto p-6">
        <FileDrop onUpload={setUpload} pasted="Pasted rows" />
        <div className="max-w-sm">
          <h2 className="mb-2">What happens next</h2>
          <p className="mb-2 text-faint">
            You will see the first rows, and which sheet, heading row, and column types were recognized. Nothing is saved until you import.
          </p>
          <p className="mb-6 text-faint">
            Postal codes, member numbers, and phone numbers are imported exactly as written, including leading zeros. Checks help you clean
            up the list afterward.
          </p>
          <ByHand />
        </div>
      </div>
    </>
  );
}

const readyColumns: [string, Schema["Column"]["role"]][] = [
  ["Title", "Title"],
  ["First name", "GivenName"],
  ["Last name", "FamilyName"],
  ["Organization", "Organization"],
  ["Street", "Street"],
  ["City", "City"],
  ["State", "Region"],
  ["ZIP", "PostalCode"],
  ["Country", "Country"],
  ["Email", "Email"],
  ["Phone", "Phone"],
];

/** A list that is typed, on columns that are ready made. */
function ByHand() {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const begin = async () => {
    try {
      const id = await ask(
        api.POST("/api/lists", {
          body: {
            name,
            columns: readyColumns.map(([heading, role]) => ({
              name: heading,
              type: "Text" as const,
              role,
              expression: null,
              format: null,
            })),
          },
        }),
      );
      await queryClient.invalidateQueries({ queryKey: keys.lists() });
      void navigate(`/lists/${id}`);
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void begin();
      }}
    >
      <h2 className="mb-2">Or create a list by hand</h2>
      <p className="mb-2 text-faint">Starts with columns for name, address, email, and phone. You can add more.</p>
      <div className="flex gap-2">
        <input
          className="input input-sm flex-1"
          aria-label="List name"
          placeholder="Seed names"
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button className="btn btn-quiet btn-sm" disabled={!name.trim()}>
          Create list
        </button>
      </div>
    </form>
  );
}

function BringIn({ upload, again }: { upload: Upload; again: () => void }) {
  const navigate = useNavigate();
  const reading = useReading(upload, true);
  const [keep, setKeep] = useState<ReadonlySet<number>>(new Set());
  const body = reading.body;
  const survey = useQuery({
    queryKey: keys.survey(upload.id, reading.body),
    queryFn: ({ signal }) =>
      ask(
        api.POST("/api/uploads/{id}/survey", {
          params: { path: { id: upload.id } },
          body: body ?? { options: reading.options, width: 0, columns: [] },
          signal,
        }),
      ),
    enabled: body !== undefined && body.columns.length > 0 && reading.problem === null && !reading.busy,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const seen = survey.data;
  const leaveOut = seen?.totals.filter((t) => !keep.has(t.row)).map((t) => t.row) ?? [];
  const recipients = seen && seen.recipients + seen.totals.length - leaveOut.length;
  const [name, setName] = useState(upload.name.replace(/\.[^.]+$/, ""));
  const [wrong, setWrong] = useState<string | null>(null);
  const work = useWaiting((message) => message && void navigate(`/lists/${(JSON.parse(message) as { listId: number }).listId}`), setWrong);
  const bringIn = async () => {
    if (!reading.body) return;
    setWrong(null);
    try {
      work.wait(
        (await ask(api.POST("/api/uploads/{id}/list", { params: { path: { id: upload.id } }, body: { name, ...reading.body, leaveOut } })))
          .jobId,
      );
    } catch (e) {
      setWrong(e instanceof ServerError ? e.message : String(e));
    }
  };
  const told = wrong ?? (survey.error instanceof ServerError ? survey.error.message : null);
  const included = reading.chosen.filter((c) => c.include).length;
  const ready =
    reading.read &&
    told === null &&
    reading.problem === null &&
    reading.question === null &&
    included > 0 &&
    !work.waiting &&
    !reading.busy &&
    name.trim() !== "";
  return (
    <Reading
      kind="Import list"
      upload={upload}
      reading={reading}
      wrong={told}
      aside={
        <>
          <label className="block">
            <span className="mb-1 block font-semibold">List name</span>
            <input
              className="input input-sm w-full"
              autoFocus
              value={name}
              maxLength={120}
              onChange={(e) => setName(e.target.value)}
              onKeyDown={(e) => e.key === "Enter" && ready && void bringIn()}
            />
          </label>
          {/* The first line has its place from the beginning: what stands below must not move under the pointer. */}
          <div className="min-h-[18px]">
            {seen && recipients !== undefined && <Surveyed survey={seen} recipients={recipients} keep={keep} onKeep={setKeep} />}
          </div>
        </>
      }
      actions={
        <>
          <button className="btn btn-quiet" onClick={again}>
            Choose another file
          </button>
          <button className="btn btn-primary min-w-52" disabled={!ready} onClick={() => void bringIn()}>
            {work.waiting
              ? `Importing ${work.done > 0 ? count(work.done) : ""}…`
              : recipients === undefined || survey.isFetching
                ? "Import"
                : `Import ${many(recipients, "recipient")}`}
          </button>
        </>
      }
    />
  );
}

/** What the whole file would bring in: how many recipients, which values fit no type, which rows are totals. */
function Surveyed({
  survey,
  recipients,
  keep,
  onKeep,
}: {
  survey: Schema["SurveyView"];
  recipients: number;
  keep: ReadonlySet<number>;
  onKeep: (rows: ReadonlySet<number>) => void;
}) {
  return (
    <div aria-label="What comes in" className="flex flex-col gap-2 text-[12px]">
      <p>
        <b>{many(recipients, "recipient")}</b> will be imported.
      </p>
      {survey.totals.map((t) => (
        <label key={t.row} className="flex cursor-pointer items-start gap-2 rounded-box bg-doubt p-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs mt-0.5"
            checked={!keep.has(t.row)}
            onChange={(e) => {
              const next = new Set(keep);
              if (e.target.checked) next.delete(t.row);
              else next.add(t.row);
              onKeep(next);
            }}
          />
          <span className="min-w-0 break-words">
            Exclude row {count(t.row)}, which looks like a total or a note: {t.value}
          </span>
        </label>
      ))}
      {survey.misfits.map((m) => (
        <p key={m.position} className="rounded-box bg-doubt p-2">
          <b>{m.name}</b>: {many(m.count, "value does", "values do")} not fit the type:{" "}
          {m.examples.map((e) => `“${e.value}” (row ${count(e.row)})`).join(", ")}
          {m.count > m.examples.length ? " …" : ""}. {m.count === 1 ? "It is" : "They are"} kept as written, and a check lists{" "}
          {m.count === 1 ? "it" : "them"}.
        </p>
      ))}
      {survey.doNotMail > 0 && (
        <p className="rounded-box bg-doubt p-2">
          {many(survey.doNotMail, "recipient is", "recipients are")} marked as not to be mailed. Every drop holds them; if that is wrong,
          give the column no role.
        </p>
      )}
    </div>
  );
}
