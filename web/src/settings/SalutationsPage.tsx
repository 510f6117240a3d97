import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ArrowDown, ArrowUp, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { listsQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { say, sayWrong } from "../ui/notices";
import { useDelayed } from "../ui/useDelayed";
import { count, many } from "../ui/words";
import { useBasis } from "../api/basis";
import { keys } from "../api/keys";

const ladderQuery = { queryKey: keys.settings("salutations"), queryFn: () => ask(api.GET("/api/settings/salutations")) };

/** The salutations' ladders: forms in order, the first whose parts are all there is taken; how many take each, and who. */
export function SalutationsPage() {
  const stored = useQuery(ladderQuery).data;
  return (
    <>
      <Header kind="Settings" title="Salutation rules" />
      {stored && <Ladders stored={stored} />}
    </>
  );
}

function Ladders({ stored }: { stored: Schema["LaddersView"] }) {
  const [ladders, setLadders] = useState(() => stored.ladders.map((l) => ({ ...l, forms: [...l.forms] })));
  const basis = useBasis("/api/settings/salutations");
  const lists = useQuery(listsQuery()).data ?? [];
  const [list, setList] = useState<number | null>(null);
  const listId = list ?? lists[0]?.id ?? null;
  const [language, setLanguage] = useState("en");
  const [opened, setOpened] = useState<number | null>(null);
  const delayed = useDelayed(ladders, 350);
  const order = (all: typeof ladders) => all.map((l) => ({ language: l.language, forms: l.forms }));
  const counted = useQuery({
    queryKey: keys.lists(listId, "salutations", delayed),
    queryFn: () =>
      ask(api.POST("/api/lists/{id}/salutations", { params: { path: { id: listId ?? 0 } }, body: { ladders: order(delayed) } })),
    enabled: listId !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const rungs = counted.data ?? [];
  const ladder = ladders.find((l) => l.language === language) ?? ladders[0];
  const of = (rung: number) => rungs.find((r) => r.language === language && r.rung === rung);
  const changed = JSON.stringify(order(ladders)) !== JSON.stringify(order(stored.ladders));
  const setForms = (forms: string[]) => setLadders(ladders.map((l) => (l.language === language ? { ...l, forms } : l)));
  const save = async () => {
    try {
      await ask(api.PUT("/api/settings/salutations", { headers: basis.headers(), body: order(ladders) }));
      basis.saved();
      await queryClient.invalidateQueries({ queryKey: keys.settings() });
      say("Saved. Pieces with a salutation are being checked again.");
    } catch (e) {
      sayWrong(e);
    }
  };
  useActions([{ keys: "Ctrl+s", label: "Save salutation rules", run: () => void save() }]);
  if (!ladder) return null;
  const move = (i: number, by: number) => {
    const forms = [...ladder.forms];
    const [form] = forms.splice(i, 1);
    if (form !== undefined) forms.splice(i + by, 0, form);
    setForms(forms);
    setOpened(null);
  };
  const shown = opened === null ? undefined : of(opened);
  const inUse = (l: string) => rungs.filter((r) => r.language === l).reduce((n, r) => n + r.recipients, 0);
  return (
    <div className="flex min-h-0 flex-1">
      <section className="flex w-52 shrink-0 flex-col overflow-auto border-r border-line p-2" aria-label="Languages">
        {ladders.map((l) => (
          <button
            key={l.language}
            className={`flex cursor-pointer items-baseline gap-2 rounded px-2 py-1 text-left ${l.language === language ? "chosen" : "hover:bg-base-200"}`}
            onClick={() => (setLanguage(l.language), setOpened(null))}
          >
            <span className="flex-1">{l.name}</span>
            <span className="tabular-nums text-faint">{inUse(l.language) > 0 ? count(inUse(l.language)) : ""}</span>
          </button>
        ))}
        <p className="mt-3 px-2 text-[12px] text-faint">
          Uses the recipient’s language if the list has a language column, otherwise the organization’s language.
        </p>
      </section>
      <section className="min-w-0 flex-1 overflow-auto p-5" aria-label="Salutation rules">
        <div className="mb-3 flex items-center gap-3">
          <label className="flex items-center gap-2">
            <span className="text-faint">Count for</span>
            <select
              className="select select-sm w-56"
              aria-label="List to count"
              value={listId ?? ""}
              onChange={(e) => setList(Number(e.target.value))}
            >
              {lists.map((l) => (
                <option key={l.id} value={l.id}>
                  {l.name}
                </option>
              ))}
            </select>
          </label>
          <button className="btn btn-primary btn-sm ml-auto" disabled={!changed} onClick={() => void save()}>
            Save
          </button>
          {changed && (
            <button className="btn btn-quiet btn-sm" onClick={() => setLadders(stored.ladders.map((l) => ({ ...l, forms: [...l.forms] })))}>
              Discard changes
            </button>
          )}
        </div>
        {counted.error && (
          <p className="mb-2 border-l-[3px] border-error bg-base-200 px-2 py-1 text-error" role="alert">
            {counted.error.message}
          </p>
        )}
        <ol className="flex flex-col">
          {ladder.forms.map((form, i) => (
            <li key={i} className="flex items-center gap-2 border-b border-line py-1.5">
              <span className="w-5 text-right text-faint tabular-nums">{i + 1}</span>
              <input
                className="input input-sm flex-1 font-mono text-[12.5px]"
                aria-label={`Rule ${i + 1}`}
                value={form}
                maxLength={300}
                onChange={(e) => setForms(ladder.forms.map((f, n) => (n === i ? e.target.value : f)))}
              />
              <button
                className="w-28 cursor-pointer text-right tabular-nums hover:underline"
                title="Show recipients who get this salutation"
                disabled={!of(i)?.recipients}
                onClick={() => setOpened(opened === i ? null : i)}
              >
                {of(i) ? many(of(i)?.recipients ?? 0, "recipient") : "–"}
              </button>
              <button
                className="btn btn-ghost btn-xs btn-square"
                aria-label={`Move rule ${i + 1} up`}
                disabled={i === 0}
                onClick={() => move(i, -1)}
              >
                <ArrowUp size={13} />
              </button>
              <button
                className="btn btn-ghost btn-xs btn-square"
                aria-label={`Move rule ${i + 1} down`}
                disabled={i === ladder.forms.length - 1}
                onClick={() => move(i, 1)}
              >
                <ArrowDown size={13} />
              </button>
              <button
                className="btn btn-ghost btn-xs btn-square"
                aria-label={`Remove rule ${i + 1}`}
                disabled={ladder.forms.length === 1}
                onClick={() => (setForms(ladder.forms.filter((_, n) => n !== i)), setOpened(null))}
              >
                <Trash2 size={13} />
              </button>
            </li>
          ))}
        </ol>
        <button className="btn btn-quiet btn-sm mt-2" onClick={() => setForms([...ladder.forms, "Dear friend"])}>
          <Plus size={14} /> Add rule
        </button>
        {(of(-1)?.recipients ?? 0) > 0 && (
          <button className="mt-3 block cursor-pointer hover:underline" onClick={() => setOpened(opened === -1 ? null : -1)}>
            {many(of(-1)?.recipients ?? 0, "recipient has", "recipients have")} a personal salutation, which is used instead.
          </button>
        )}
        {(of(-2)?.recipients ?? 0) > 0 && (
          <button
            className="mt-3 block cursor-pointer border-l-[3px] border-warning bg-doubt px-2 py-1 hover:underline"
            onClick={() => setOpened(opened === -2 ? null : -2)}
          >
            No rule fits {many(of(-2)?.recipients ?? 0, "recipient")}. Add a last rule that needs no name.
          </button>
        )}
        <p className="mt-4 max-w-2xl text-faint">
          Each recipient gets the first rule whose parts are all filled in, so no letter says “Dear ,”. Available parts:{" "}
          {stored.parts.map((p) => `{${p}}`).join(", ")}. You can use any field expression inside the braces. If a rule does not end with
          punctuation, the usual mark for its language is added.
        </p>
      </section>
      {shown && (
        <aside className="w-80 shrink-0 overflow-auto border-l border-line p-4" aria-label="Show recipients who get this salutation">
          <h2 className="mb-2">{many(shown.recipients, "recipient")}</h2>
          <ul>
            {shown.first.map((g) => (
              <li key={g.recipientId} className="border-b border-line py-1">
                <Link className="hover:underline" to={`/lists/${listId}/recipients/${g.recipientId}`}>
                  {g.name}
                </Link>
                <span className="block text-faint">{g.text}</span>
              </li>
            ))}
          </ul>
          {shown.recipients > shown.first.length && (
            <p className="mt-2 text-faint">and {count(shown.recipients - shown.first.length)} more</p>
          )}
        </aside>
      )}
    </div>
  );
}
