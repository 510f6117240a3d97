import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../api/client";
import { campaignsQuery } from "../api/queries";
import { NotRecorded, PastedRows } from "../responses/PastedRows";
import { Dialog } from "../ui/Dialog";
import { say, sayWrong } from "../ui/notices";
import { count, many } from "../ui/words";
import { columnNames, readReturns } from "./lines";

/** Many returns or corrected addresses at once: pasted, or from a file. */
export function ImportReturns({ onClose }: { onClose: () => void }) {
  const drops = (useQuery(campaignsQuery()).data ?? []).flatMap((c) =>
    c.drops
      .filter((d) => d.trays.produced + d.trays.mailed + d.trays.returned > 0)
      .map((d) => ({ id: d.id, name: `${c.name} · ${d.name}` })),
  );
  const [dropId, setDropId] = useState<number | null>(null);
  const [text, setText] = useState("");
  const [came, setCame] = useState<Schema["ReturnImported"] | null>(null);
  const [busy, setBusy] = useState(false);
  const { lines, columns, problems } = readReturns(text);
  const drop = drops.find((d) => d.id === dropId) ?? drops[0];
  const go = async () => {
    if (!drop) return;
    setBusy(true);
    try {
      setCame(await ask(api.POST("/api/returns/import", { body: { dropId: drop.id, lines } })));
      await queryClient.invalidateQueries();
    } catch (e) {
      sayWrong(e);
    } finally {
      setBusy(false);
    }
  };
  const undo = async () => {
    if (came?.batch == null) return;
    try {
      const { undone, kept } = await ask(api.POST("/api/returns/imports/{batch}/undo", { params: { path: { batch: came.batch } } }));
      say(
        `${many(undone, "return was", "returns were")} undone.${kept.length ? ` ${count(kept.length)} could not be undone: ${kept[0]}` : ""}`,
      );
      await queryClient.invalidateQueries();
      onClose();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Import returns or corrected addresses" onClose={onClose} wide>
      {came ? (
        <div className="flex flex-col gap-3">
          <p role="status">
            {many(came.returned, "return was", "returns were")} recorded, and {many(came.corrected, "address was", "addresses were")}{" "}
            corrected.
            {came.withoutAddress > 0 &&
              ` ${many(came.withoutAddress, "return has", "returns have")} no new address in the file and ${came.withoutAddress === 1 ? "was" : "were"} only recorded.`}
          </p>
          <NotRecorded rows={came.wrong} />
          <NotRecorded rows={came.notCorrected} label="Not corrected on other lists" />
          {came.corrected > 0 && <p className="text-faint">To undo the corrections of rows without a reason, use Undo in the list.</p>}
          <div className="flex gap-2">
            <button className="btn btn-primary" onClick={onClose}>
              Close
            </button>
            {came.batch !== null && (
              <button className="btn btn-quiet" onClick={() => void undo()}>
                Undo these returns
              </button>
            )}
          </div>
        </div>
      ) : (
        <form
          className="flex flex-col gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            void go();
          }}
        >
          <label>
            <span className="mb-1 block font-semibold">Drop</span>
            <select className="select w-full" value={drop?.id ?? ""} onChange={(e) => setDropId(Number(e.target.value))}>
              {drops.length === 0 && <option value="">Nothing has been produced yet</option>}
              {drops.map((d) => (
                <option key={d.id} value={d.id}>
                  {d.name}
                </option>
              ))}
            </select>
          </label>
          <PastedRows
            label="Paste rows with their headings, or choose a CSV file"
            example={"Number\tReason\tStreet\tCity\tState\tZIP\n0012\tmoved\n0040\tnew address\t5 Elm Street\tFernquay\tOR\t97412"}
            help="The number is the piece number, a barcode on the piece, or the recipient’s own number. A row without a reason only corrects the address. Rules by reason say what happens next."
            text={text}
            problems={problems}
            onText={setText}
          />
          {lines.length > 0 && <p>Found: {columns.map((c) => columnNames[c]).join(", ")}.</p>}
          <div className="flex gap-2">
            <button className="btn btn-primary" disabled={busy || !drop || lines.length === 0 || problems.length > 0}>
              {lines.length ? `Import ${many(lines.length, "row")}` : "Import"}
            </button>
            <button type="button" className="btn btn-quiet" onClick={onClose}>
              Cancel
            </button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
