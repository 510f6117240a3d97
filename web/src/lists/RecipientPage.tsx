import { useQuery } from "@tanstack/react-query";
import { PenLine } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { listQuery, recipientQuery } from "../api/queries";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { say, sayWrong } from "../ui/notices";
import { ValueField } from "../ui/ValueField";
import { day, moment, pieceNumber, trayNames } from "../ui/words";
import { eventSentence } from "../drop/events";
import { InCampaigns } from "./InCampaigns";
import { PersonDocuments } from "./PersonDocuments";
import { PersonNotes } from "./PersonNotes";
import { SamePerson } from "./SamePerson";
import { WriteDialog } from "./WriteDialog";
import { cellText, roleNames, typeNames } from "./columns";
import { MissingRecord } from "../shell/WentWrong";
import { keys } from "../api/keys";

export function RecipientPage() {
  const params = useParams();
  const [id, recipientId] = [Number(params.id), Number(params.recipientId)];
  const list = useQuery(listQuery(id)).data;
  const query = useQuery(recipientQuery(id, recipientId));
  const [editing, setEditing] = useState<number | null>(null);
  const [writing, setWriting] = useState(false);
  useActions([{ keys: "w", label: "Write to them", run: () => setWriting(true) }]);
  const person = query.data;
  if (query.error) return <MissingRecord error={query.error} what="recipient" to="/lists" back="Go to Lists" />;
  if (!list || !person) return null;
  const correct = async (column: Schema["Column"], value: string, was: string | null) => {
    try {
      await ask(
        api.PUT("/api/lists/{id}/recipients/{recipientId}/values/{columnId}", {
          params: { path: { id, recipientId, columnId: column.id } },
          body: { value, was: { value: was } },
        }),
      );
      say(`Corrected ${column.name}.`);
      setEditing(null);
      await queryClient.invalidateQueries({ queryKey: keys.lists(id) });
    } catch (e) {
      sayWrong(e);
    }
  };
  const name = (columnId: number) =>
    columnId === 0 ? "On the list" : (list.columns.find((c) => c.id === columnId)?.name ?? "a removed column");
  return (
    <>
      <Header
        kind={
          <Link to={`/lists/${id}`} className="hover:underline">
            {list.name}
          </Link>
        }
        title={person.name}
        state={person.place}
      >
        <button className="btn btn-primary" onClick={() => setWriting(true)}>
          <PenLine size={15} /> Write to them
        </button>
      </Header>
      {writing && <WriteDialog listId={id} recipientId={recipientId} name={person.name} onClose={() => setWriting(false)} />}
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(330px,1fr)_minmax(330px,1fr)] overflow-hidden">
        <section className="overflow-auto border-r border-line p-4" aria-label="Values">
          <h2 className="mb-2">Values</h2>
          <table className="w-full">
            <tbody>
              {list.columns.map((c, i) => (
                <tr key={c.id} className="border-b border-line">
                  <th className="w-44 py-1 pr-3 text-left align-top font-normal text-faint">
                    {c.name}
                    <span className="block text-[11px]">{c.role === "None" ? typeNames[c.type] : roleNames[c.role]}</span>
                  </th>
                  <td className="py-1">
                    {editing === c.id ? (
                      <ValueField
                        label={c.name}
                        value={person.values[i] ?? ""}
                        onSave={(v) => void correct(c, v, person.values[i] ?? null)}
                        onCancel={() => setEditing(null)}
                      />
                    ) : (
                      <button
                        className="w-full cursor-text rounded px-1 py-0.5 text-left whitespace-pre-wrap hover:bg-base-200"
                        onClick={() => setEditing(c.id)}
                        title="Edit this value"
                      >
                        {cellText(c.type, person.values[i]) ?? <span className="text-faint italic">blank</span>}
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <section className="overflow-auto p-4">
          <h2 className="mb-2">Mail history</h2>
          {person.mail.length === 0 && <p className="text-faint">Not in any drop yet.</p>}
          <table className="mb-6 w-full" aria-label="Mail history">
            <tbody>
              {person.mail.map((m) => (
                <tr key={`${m.dropId}.${m.recipientId}`} className="border-b border-line">
                  <td className="w-28 py-1.5 text-faint">
                    {m.mailedOn ? day(m.mailedOn) : m.producedAt ? `produced ${day(m.producedAt, false)}` : ""}
                  </td>
                  <td>
                    <Link className="block py-1 hover:underline" to={`/drops/${m.dropId}`}>
                      {m.campaignName} · {m.dropName}
                    </Link>
                    <span className="block text-[12px] text-faint">
                      <Link
                        className="inline-block pt-0.5 pb-1.5 leading-[18px] underline"
                        to={`/drops/${m.dropId}/proof?piece=${m.pieceNumber}`}
                      >
                        {m.designName}, piece {pieceNumber(m.pieceNumber)}
                      </Link>
                      {m.listId !== id && ` · ${m.listName}`}
                    </span>
                  </td>
                  <td className={`text-right ${m.tray === "Returned" ? "text-error" : ""}`}>
                    {trayNames[m.tray]}
                    {(m.returnReason ?? m.holdReason) && (
                      <span className="block text-[12px] text-faint">{m.returnReason ?? m.holdReason}</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <SamePerson listId={id} recipientId={recipientId} name={person.name} />
          <InCampaigns listId={id} recipientId={recipientId} name={person.name} />
          <PersonNotes listId={id} recipientId={recipientId} />
          <PersonDocuments listId={id} recipientId={recipientId} />
          <h2 className="mb-2">Corrections</h2>
          {person.changes.length === 0 && <p className="mb-6 text-faint">No corrections. Every value is as imported.</p>}
          <ul className="mb-6 flex flex-col gap-1.5">
            {person.changes.map((c) => (
              <li key={c.id}>
                {name(c.columnId)}: <s className="text-faint">{c.old ?? "blank"}</s> → {c.new ?? "blank"}
                <span className="block text-[12px] text-faint">
                  {moment(c.at)}, {c.by}
                </span>
              </li>
            ))}
          </ul>
          <h2 className="mb-2">Ledger</h2>
          <ul className="flex flex-col gap-1.5">
            {person.events.map((e) => (
              <li key={e.id} className="grid grid-cols-[104px_1fr] gap-2">
                <span className="text-faint">{moment(e.at)}</span>
                <span>
                  {eventSentence(e)}
                  <span className="block text-[12px] text-faint">
                    {e.dropName} · {e.by}
                  </span>
                </span>
              </li>
            ))}
          </ul>
        </section>
      </div>
    </>
  );
}
