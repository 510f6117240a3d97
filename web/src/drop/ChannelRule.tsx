import { useQuery } from "@tanstack/react-query";
import { api, ask, queryClient } from "../api/client";
import { listQuery } from "../api/queries";
import { say, sayWrong } from "../ui/notices";
import { count } from "../ui/words";
import { useDrop } from "./DropPage";
import { keys } from "../api/keys";

/** Who gets their pieces on paper, who by email: the rule, and how many each. */
export function ChannelRule() {
  const drop = useDrop();
  const columns = useQuery(listQuery(drop.listId)).data?.columns ?? [];
  const c = drop.channels;
  const set = async (by: "Package" | "Address" | "Column", columnId: number | null) => {
    try {
      await ask(api.PUT("/api/drops/{id}/channels", { params: { path: { id: drop.id } }, body: { by, columnId } }));
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
      say("Saved. The pieces are being checked again.");
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <section className="mt-5" aria-label="Channel">
      <h2 className="mb-1.5">Channel: paper or email</h2>
      <div className="flex flex-wrap items-center gap-2">
        <select
          className="select select-sm w-full"
          aria-label="Channel rule"
          value={c.by}
          onChange={(e) => void set(e.target.value as "Package", e.target.value === "Column" ? (columns[0]?.id ?? null) : null)}
        >
          <option value="Package">Send both to every recipient</option>
          <option value="Address">Email if the address is valid, otherwise paper</option>
          <option value="Column">Use a column</option>
        </select>
        {c.by === "Column" && (
          <select
            className="select select-sm w-40"
            aria-label="Channel column"
            value={c.columnId ?? ""}
            onChange={(e) => void set("Column", Number(e.target.value))}
          >
            {columns.map((x) => (
              <option key={x.id} value={x.id}>
                {x.name}
              </option>
            ))}
          </select>
        )}
      </div>
      {c.by === "Column" && (
        <p className="mt-1 text-[12px] text-faint">The column contains “email,” “paper,” or “both.” If it is blank, the address decides.</p>
      )}
      <table className="mt-2 w-full" aria-label="Recipients by channel">
        <tbody>
          {(["Paper", "Email", "Both"] as const).map((way) => {
            const of = c.counts.find((x) => x.channel === way);
            return of ? (
              <tr key={way} className="border-b border-line">
                <td className="py-1">{{ Paper: "Paper", Email: "Email", Both: "Paper and email" }[way]}</td>
                <td className="py-1 text-right font-semibold">{count(of.recipients)}</td>
                <td className="w-32 py-1 text-right text-faint">
                  {of.byHand > 0 ? `${count(of.byHand)} by hand` : `${count(of.ready)} Ready`}
                </td>
              </tr>
            ) : null;
          })}
        </tbody>
      </table>
      <p className="mt-1 text-[12px] text-faint">
        {drop.checking
          ? "Checking the pieces. Counts will follow."
          : "Held recipients are not counted. To change the channel for one recipient, use the bench."}
      </p>
    </section>
  );
}
