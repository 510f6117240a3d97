import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask, queryClient, type Schema } from "../api/client";
import { listQuery } from "../api/queries";
import { limitsQuery } from "../settings/ContactPage";
import { sayWrong } from "../ui/notices";
import { count, many } from "../ui/words";
import { release } from "./acts";
import { ListIssues } from "./ListIssues";
import { ChannelRule } from "./ChannelRule";
import { useDrop } from "./DropPage";
import { useDuplicates } from "../lists/useDuplicates";
import { keys } from "../api/keys";

/** Who gets it: the list, and who of it is kept out and why. */
export function WhoPlace() {
  const drop = useDrop();
  const list = useQuery(listQuery(drop.listId)).data;
  const duplicates = useDuplicates(drop.listId);
  const groups = useQuery({
    queryKey: keys.drop(drop.id, "held"),
    queryFn: () => ask(api.GET("/api/drops/{id}/held", { params: { path: { id: drop.id } } })),
  }).data;
  const without = useQuery({
    queryKey: keys.drop(drop.id, "households-without"),
    queryFn: () => ask(api.GET("/api/drops/{id}/households-without", { params: { path: { id: drop.id } } })),
  }).data;
  const releaseAll = async (reason: string) => {
    const ids = await ask(api.GET("/api/drops/{id}/held/recipients", { params: { path: { id: drop.id }, query: { reason } } }));
    await release(drop.id, ids);
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[1fr_1fr] overflow-auto">
      <section className="border-r border-line p-5">
        <h2 className="mb-1">
          <Link className="hover:underline" to={`/lists/${drop.listId}`}>
            {drop.listName}
          </Link>
        </h2>
        <p className="mb-4 text-faint">
          {list ? `${count(list.recipients)} recipients, imported from ${list.sourceName ?? "a file"}. ` : ""}
          {drop.segmentName
            ? `This drop goes to the segment “${drop.segmentName}”. Other recipients on the list are held.`
            : "All recipients on the list are in this drop. Held recipients are not produced."}
        </p>
        <table className="w-full">
          <tbody>
            <Line label="On the list" n={drop.trays.onTheList} strong />
            <Line label="Held (kept out of this drop)" n={drop.trays.held} minus />
            <Line label="Will get it" n={drop.trays.onTheList - drop.trays.held} strong />
          </tbody>
        </table>
        {duplicates && duplicates.sure + duplicates.toCompare > 0 && (
          <p className="mt-3 border-l-[3px] border-warning bg-doubt px-3 py-2 text-doubt-ink" role="note" aria-label="Possible duplicates">
            {many(duplicates.sure + duplicates.toCompare, "pair")} of recipients on the list may be the same person.{" "}
            <Link className="underline" to={`/lists/${drop.listId}?pane=duplicates`}>
              Compare {duplicates.sure + duplicates.toCompare === 1 ? "them" : "each pair"}
            </Link>
          </p>
        )}
        <div className="mt-3">
          <ListIssues drop={drop} />
        </div>
        {drop.channels.ways === "Both" && <ChannelRule />}
        <Priority drop={drop} />
        <div className="mt-5 flex gap-2">
          <Link className="btn btn-quiet" to={`/lists/${drop.listId}`}>
            Open list
          </Link>
          <Link className="btn btn-primary" to="../proof">
            View on the bench
          </Link>
        </div>
      </section>
      <section className="p-5">
        <h2 className="mb-2">Held, by reason</h2>
        {groups?.length === 0 && <p className="text-faint">No recipients are held. To hold one, press H on the bench.</p>}
        <table className="w-full">
          <tbody>
            {groups?.map((h) => (
              <tr key={h.reason} className="border-b border-line">
                <td className="py-1.5">
                  {h.each.length < 2 ? (
                    (h.each[0]?.reason ?? h.reason)
                  ) : (
                    <details>
                      <summary className="cursor-pointer leading-6">{h.reason}</summary>
                      <ul className="mt-1 pl-4 text-[12px] text-faint">
                        {h.each.map((e) => (
                          <li key={e.reason}>
                            {count(e.count)}: {e.reason}
                          </li>
                        ))}
                      </ul>
                    </details>
                  )}
                </td>
                <td className="py-1.5 text-right align-top leading-6 font-semibold">{count(h.count)}</td>
                <td className="py-1.5 pl-4 text-right align-top">
                  <button className="btn btn-quiet btn-xs whitespace-nowrap" onClick={() => void releaseAll(h.reason)}>
                    Release {many(h.count, "recipient")}
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {(without?.length ?? 0) > 0 && (
          <>
            <h2 className="mt-6 mb-1">Households that get no piece</h2>
            <p className="mb-2 text-faint">All their members are held.</p>
            <ul aria-label="Households that get no piece">
              {without?.slice(0, 50).map((h) => (
                <li key={h.id} className="border-b border-line py-1.5">
                  {h.address}
                  {h.members.map((m) => (
                    <span key={m.recipientId} className="block text-[12px] text-faint">
                      {m.name}: {m.why}
                    </span>
                  ))}
                </li>
              ))}
            </ul>
            {(without?.length ?? 0) > 50 && <p className="mt-1 text-faint">and {count((without?.length ?? 0) - 50)} more.</p>}
          </>
        )}
      </section>
    </div>
  );
}

const priorities: Record<Schema["MailPriority"], string> = {
  Always: "always: not limited",
  First: "high: before other drops",
  Usual: "normal: the earlier mail date first",
  Last: "low: after other drops",
};

/** Which of two drops goes where a contact limit lets only one go. */
function Priority({ drop }: { drop: ReturnType<typeof useDrop> }) {
  const limits = useQuery(limitsQuery()).data;
  const set = async (priority: Schema["MailPriority"]) => {
    try {
      await ask(api.PUT("/api/drops/{id}/priority", { params: { path: { id: drop.id } }, body: { priority } }));
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
    } catch (e) {
      sayWrong(e);
    }
  };
  if (!limits) return null;
  return (
    <div className="mt-5">
      {limits.length === 0 ? (
        <p className="text-faint">
          No{" "}
          <Link className="underline" to="/settings/contact-limit">
            contact limit
          </Link>{" "}
          is set.
        </p>
      ) : (
        <label className="flex items-center gap-3" title="Which drop is mailed when the contact limit allows only one">
          <span>Priority under the contact limit</span>
          <select
            className="select select-sm w-64"
            aria-label="Priority"
            value={drop.priority}
            onChange={(e) => void set(e.target.value as Schema["MailPriority"])}
          >
            {(Object.keys(priorities) as Schema["MailPriority"][]).map((p) => (
              <option key={p} value={p}>
                {priorities[p]}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}

function Line({ label, n, strong, minus }: { label: string; n: number; strong?: boolean; minus?: boolean }) {
  return (
    <tr className="border-b border-line">
      <td className={`py-1.5 ${strong ? "font-semibold" : ""}`}>{label}</td>
      <td className={`py-1.5 text-right ${strong ? "font-semibold" : ""}`}>
        {minus && n > 0 ? "− " : ""}
        {count(n)}
      </td>
    </tr>
  );
}
