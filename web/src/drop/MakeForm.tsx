import { useQuery } from "@tanstack/react-query";
import { FileArchive, FileStack, FileText, Inbox, Mail as MailIcon, Printer, Send } from "lucide-react";
import { useId } from "react";
import { api, ask, type Schema } from "../api/client";
import { listQuery } from "../api/queries";
import { StartPicker } from "../surfaces/StartPicker";
import type { OwnStock } from "../surfaces/surface";
import { count } from "../ui/words";
import type { Drop } from "./DropPage";
import type { useOrder, Who } from "./order";
import { PasswordFields } from "./PasswordFields";
import { kinds, onPaper, paged } from "../designs/kinds";

interface Props {
  drop: Drop;
  o: ReturnType<typeof useOrder>;
  selected: number;
  plan: Schema["PlanView"] | undefined;
}

/** Who, in which order, as what: everything that is asked before a run. */
export function MakeForm({ drop, o, selected, plan }: Props) {
  const { form, set } = o;
  const id = useId();
  const list = useQuery(listQuery(drop.listId)).data;
  const segments =
    useQuery({
      queryKey: ["lists", drop.listId, "segments"],
      queryFn: () => ask(api.GET("/api/lists/{id}/segments", { params: { path: { id: drop.listId } } })),
    }).data ?? [];
  const prices = useQuery({ queryKey: ["settings", "prices"], queryFn: () => ask(api.GET("/api/settings/prices")) }).data;
  const letters = paged(drop.package) !== undefined;
  const label = (text: string, target?: string) => (
    <label className="text-faint" htmlFor={target}>
      {text}
    </label>
  );
  const outputs = [
    ["print", "print", Printer],
    ["one", onPaper(drop.package).length === 1 ? "one PDF" : "PDFs", FileText],
    ["parts", "parts", FileStack],
    ["each", "a PDF each", FileArchive],
  ] as const;
  const mailOutputs = [
    ["email", "send email", Send],
    ["eml", ".eml files", MailIcon],
    ["mbox", "mbox", Inbox],
  ] as const;
  const { ways } = drop.channels;
  return (
    <div className="grid grid-cols-[78px_1fr] items-center gap-x-2 gap-y-2">
      <h2 className="col-span-2 mb-1">Make</h2>
      {label("who", `${id}who`)}
      <span className="flex gap-2">
        <select
          id={`${id}who`}
          className="select select-sm w-52"
          value={form.who}
          onChange={(e) =>
            set({ who: e.target.value as Who, ...(e.target.value === "reprint" && o.mailing ? { output: "one" as const } : {}) })
          }
        >
          <option value="ready">all Ready, {count(drop.trays.ready)}</option>
          <option value="pieces">piece numbers…</option>
          <option value="selected" disabled={selected === 0}>
            the selected{selected ? `, ${count(selected)}` : ""}
          </option>
          <option value="segment" disabled={segments.length === 0}>
            a segment…
          </option>
          <option value="reprint" disabled={drop.trays.produced + drop.trays.mailed + drop.trays.returned + drop.trays.held === 0}>
            reprints…
          </option>
        </select>
        {(form.who === "pieces" || form.who === "reprint") && (
          <input
            className="input input-sm min-w-0 flex-1"
            aria-label="Piece numbers"
            autoFocus
            placeholder={form.who === "reprint" ? "118-123" : "1-200, 350"}
            value={form.pieces}
            onChange={(e) => set({ pieces: e.target.value })}
          />
        )}
        {form.who === "segment" && (
          <select
            className="select select-sm min-w-0 flex-1"
            aria-label="Segment"
            value={form.segment ?? ""}
            onChange={(e) => set({ segment: e.target.value ? Number(e.target.value) : null })}
          >
            <option value="">choose…</option>
            {segments.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}, {count(s.recipients)}
              </option>
            ))}
          </select>
        )}
      </span>
      {form.who === "reprint" && onPaper(drop.package).length > 1 && (
        <>
          {label("what")}
          <span className="flex flex-wrap gap-x-3">
            {onPaper(drop.package).map((d) => (
              <label key={d.designId} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={!form.leave.includes(d.designId)}
                  onChange={(e) =>
                    set({ leave: e.target.checked ? form.leave.filter((x) => x !== d.designId) : [...form.leave, d.designId] })
                  }
                />{" "}
                {d.name}
              </label>
            ))}
          </span>
        </>
      )}
      {form.who === "reprint" && ((plan?.corrected ?? 0) > 0 || form.corrected !== null) && (
        <>
          {label("values")}
          <div role="radiogroup" aria-label="Values of the reprint">
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                className="radio radio-sm"
                name={`${id}values`}
                checked={form.corrected === false}
                onChange={() => set({ corrected: false })}
              />{" "}
              as it was printed
            </label>
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                className="radio radio-sm"
                name={`${id}values`}
                checked={form.corrected === true}
                onChange={() => set({ corrected: true })}
              />{" "}
              with the corrections made since
            </label>
          </div>
        </>
      )}
      {form.who !== "reprint" && (
        <>
          {label("in order of", `${id}sort`)}
          <SortPicker id={`${id}sort`} columns={list?.columns ?? []} value={form.sort} onChange={(sort) => set({ sort })} />
        </>
      )}
      {ways !== "Email" && (
        <>
          {label(ways === "Both" ? "on paper" : "as")}
          <div className="join">
            {outputs.map(([value, name, Icon]) => (
              <button
                key={value}
                className={`btn btn-sm join-item px-2 ${form.output === value ? "btn-primary" : "btn-quiet"}`}
                aria-pressed={form.output === value}
                onClick={() => set({ output: value })}
              >
                <Icon size={14} /> {name}
              </button>
            ))}
          </div>
        </>
      )}
      {ways !== "Paper" && (
        <>
          {label(ways === "Both" ? "by email" : "as")}
          <div className="join">
            {mailOutputs.map(([value, name, Icon]) => (
              <button
                key={value}
                className={`btn btn-sm join-item px-2 ${form.output === value ? "btn-primary" : "btn-quiet"}`}
                aria-pressed={form.output === value}
                disabled={form.who === "reprint"}
                onClick={() => set({ output: value })}
              >
                <Icon size={14} /> {name}
              </button>
            ))}
          </div>
        </>
      )}
      {form.output === "email" && (
        <>
          {label("through", `${id}account`)}
          <select
            id={`${id}account`}
            className="select select-sm w-60"
            value={o.account?.id ?? ""}
            onChange={(e) => set({ account: Number(e.target.value) })}
          >
            {o.accounts.map((a) => (
              <option key={a.id} value={a.id}>
                {a.name}
              </option>
            ))}
          </select>
          {label("when", `${id}at`)}
          <span className="flex items-center gap-2">
            <input
              id={`${id}at`}
              type="datetime-local"
              step={1}
              className="input input-sm w-52"
              value={form.at}
              onChange={(e) => set({ at: e.target.value })}
            />
            <span className="text-faint">{form.at ? "" : "at once"}</span>
          </span>
        </>
      )}
      {form.output === "parts" && (
        <>
          {label("files of", `${id}part`)}
          <span className="flex items-center gap-2">
            <input
              id={`${id}part`}
              type="number"
              className="input input-sm w-24 tabular-nums"
              min={1}
              max={100000}
              value={form.partOf}
              onChange={(e) => set({ partOf: Math.max(1, Number(e.target.value) || 1) })}
            />{" "}
            pieces each
          </span>
        </>
      )}
      {(form.output === "each" || form.output === "eml") && (
        <>
          {label("named", `${id}name`)}
          <span>
            <input
              id={`${id}name`}
              className="input input-sm w-full font-mono text-[12px]"
              value={form.nameBy}
              maxLength={300}
              onChange={(e) => set({ nameBy: e.target.value })}
            />
          </span>
          {plan && plan.names.length > 0 && (
            <p className="col-start-2 text-[12px] leading-4 text-faint" data-testid="file-names">
              {plan.names.slice(0, 3).join(", ")} …{plan.numbered > 0 ? ` ${count(plan.numbered)} alike are numbered.` : ""} All in one ZIP,
              in a folder with date and time.
            </p>
          )}
        </>
      )}
      {form.output === "print" ? (
        <>
          {label("to", `${id}printer`)}
          <select
            id={`${id}printer`}
            className="select select-sm w-60"
            value={o.printer?.id ?? ""}
            onChange={(e) => set({ printer: Number(e.target.value) })}
          >
            {o.printing.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
          {label("batches of", `${id}batch`)}
          <span className="flex flex-wrap items-center gap-x-2">
            <input
              id={`${id}batch`}
              type="number"
              className="input input-sm w-20 tabular-nums"
              min={0}
              max={100000}
              value={form.batchOf}
              onChange={(e) => set({ batchOf: Math.max(0, Number(e.target.value) || 0) })}
              title="0 for all in one"
            />{" "}
            pieces
            {form.batchOf > 0 && letters && (
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={form.breakSheets}
                  onChange={(e) => set({ breakSheets: e.target.checked })}
                />{" "}
                a break sheet between
              </label>
            )}
          </span>
          {label("copies", `${id}copies`)}
          <span className="flex items-center gap-2">
            <input
              id={`${id}copies`}
              type="number"
              className="input input-sm w-20 tabular-nums"
              min={1}
              max={100}
              value={form.copies}
              onChange={(e) => set({ copies: Math.min(100, Math.max(1, Number(e.target.value) || 1)) })}
            />
            {form.copies > 1 && (
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={form.collated}
                  onChange={(e) => set({ collated: e.target.checked })}
                />{" "}
                one set after the other
              </label>
            )}
          </span>
        </>
      ) : (
        <>
          {!o.mailing && onPaper(drop.package).some((d) => !kinds[d.kind].hasPages) && (
            <>
              {label("for", `${id}for`)}
              <select
                id={`${id}for`}
                className="select select-sm w-60"
                value={form.printer ?? ""}
                onChange={(e) => set({ printer: e.target.value ? Number(e.target.value) : null })}
                title="Whose feed and offsets hold for envelopes and label sheets"
              >
                <option value="">no printer in particular</option>
                {o.allPrinters.map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.name}
                  </option>
                ))}
              </select>
            </>
          )}
          {form.who !== "reprint" && !o.mailing && <PasswordFields form={form} set={set} blank={plan?.blankPasswords ?? []} />}
        </>
      )}
      {letters && !o.mailing && (
        <>
          {label("sides", `${id}duplex`)}
          <label className="flex items-center gap-1.5">
            <input
              id={`${id}duplex`}
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={form.duplex}
              onChange={(e) => set({ duplex: e.target.checked })}
            />{" "}
            {form.output === "print" ? "print" : "will be printed on"} both, each piece on a sheet of its own
          </label>
        </>
      )}
      {prices && prices.postage.length > 0 && !o.mailing && (
        <>
          {label("postage", `${id}postage`)}
          <span className="flex gap-2">
            <PostagePicker
              id={`${id}postage`}
              name="Postage"
              classes={prices.postage.filter((c) => !c.abroad)}
              value={form.postage}
              none="none yet"
              onChange={(postage) => set({ postage })}
            />
            <PostagePicker
              name="Postage abroad"
              classes={prices.postage.filter((c) => c.abroad)}
              value={form.abroad}
              none="abroad: the same"
              onChange={(abroad) => set({ abroad })}
            />
          </span>
        </>
      )}
      {plan?.designs.map((d) =>
        d.stock && form.who !== "reprint" ? (
          <details key={d.designId} className="col-span-2 mt-2" open={form.starts[d.designId] !== undefined || undefined}>
            <summary className="cursor-pointer font-semibold">
              A partly used sheet of {d.stock.name}
              {form.starts[d.designId] && form.starts[d.designId]?.start !== 1 ? `: begin at ${form.starts[d.designId]?.start}` : ""}
            </summary>
            <div className="mt-2">
              <StartPicker
                stock={d.stock as OwnStock}
                byColumns={d.byColumns}
                width={240}
                value={form.starts[d.designId] ?? { start: 1, spoiled: [] }}
                onChange={(value) => set({ starts: { ...form.starts, [d.designId]: value } })}
              />
            </div>
          </details>
        ) : null,
      )}
    </div>
  );
}

function PostagePicker({
  id,
  name,
  classes,
  value,
  none,
  onChange,
}: {
  id?: string;
  name: string;
  classes: Schema["PostageClass"][];
  value: string;
  none: string;
  onChange: (value: string) => void;
}) {
  return (
    <select
      id={id}
      aria-label={id ? undefined : name}
      className="select select-sm min-w-0 flex-1"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      <option value="">{none}</option>
      {classes.map((c) => (
        <option key={c.name}>{c.name}</option>
      ))}
    </select>
  );
}

/** The order of the pieces: the same for every design, so that letter and envelope stay in step. */
function SortPicker({
  id,
  columns,
  value,
  onChange,
}: {
  id: string;
  columns: Schema["Column"][];
  value: string;
  onChange: (value: string) => void;
}) {
  const chosen = value === "piece" || value === "postal" ? [] : value.split(",");
  const name = (key: string) => columns.find((c) => String(c.id) === key)?.name ?? key;
  return (
    <span className="flex gap-2">
      <select
        id={id}
        className="select select-sm w-44"
        value={chosen.length ? "columns" : value}
        onChange={(e) => onChange(e.target.value === "columns" ? String(columns[0]?.id ?? "piece") : e.target.value)}
      >
        <option value="piece">the list (piece number)</option>
        <option value="postal">country, postal code</option>
        <option value="columns">columns…</option>
      </select>
      {chosen.length > 0 && (
        <span className="flex min-w-0 flex-1 flex-col gap-1">
          {chosen.map((key, i) => (
            <select
              key={i}
              className="select select-sm w-full"
              aria-label={`Order, ${i + 1}`}
              value={key}
              onChange={(e) =>
                onChange(
                  chosen
                    .map((k, n) => (n === i ? e.target.value : k))
                    .filter(Boolean)
                    .join(",") || "piece",
                )
              }
            >
              {i > 0 && <option value="">no more</option>}
              {columns.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </select>
          ))}
          {chosen.length < 4 && (
            <button
              className="cursor-pointer self-start text-[12px] underline"
              onClick={() =>
                onChange([...chosen, String(columns.find((c) => !chosen.includes(String(c.id)))?.id ?? "")].filter(Boolean).join(","))
              }
            >
              then by another, after {name(chosen.at(-1) ?? "")}
            </button>
          )}
        </span>
      )}
    </span>
  );
}
