import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, queryClient, type Schema } from "../api/client";
import { campaignsQuery } from "../api/queries";
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
        `${many(undone, "return was", "returns were")} taken back.${kept.length ? ` ${count(kept.length)} could not be: ${kept[0]}` : ""}`,
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
              ` ${many(came.withoutAddress, "return has", "returns have")} no new address in the file: they are recorded, and nothing else.`}
          </p>
          {came.wrong.length > 0 && (
            <ul className="max-h-48 overflow-auto border-l-[3px] border-error bg-doubt px-3 py-2" aria-label="Not recorded">
              {came.wrong.slice(0, 200).map((w) => (
                <li key={w}>{w}</li>
              ))}
              {came.wrong.length > 200 && <li>and {count(came.wrong.length - 200)} more</li>}
            </ul>
          )}
          {came.corrected > 0 && <p className="text-faint">A correction that came without a return is taken back with Undo in its list.</p>}
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
            <span className="mb-1 block font-semibold">The drop they are from</span>
            <select className="select w-full" value={drop?.id ?? ""} onChange={(e) => setDropId(Number(e.target.value))}>
              {drops.length === 0 && <option value="">Nothing has been produced yet</option>}
              {drops.map((d) => (
                <option key={d.id} value={d.id}>
                  {d.name}
                </option>
              ))}
            </select>
          </label>
          <label>
            <span className="mb-1 block font-semibold">Paste rows with their headings, or choose a CSV file</span>
            <textarea
              className="textarea h-36 w-full font-mono text-[12.5px]"
              value={text}
              placeholder={"Number\tReason\tStreet\tCity\tState\tZIP\n0012\tmoved\n0040\tnew address\t5 Elm Street\tFernquay\tOR\t97412"}
              onChange={(e) => setText(e.target.value)}
            />
          </label>
          <input
            type="file"
            className="file-input file-input-sm w-full"
            aria-label="CSV file"
            accept=".csv,.txt,.tsv,text/csv,text/plain"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (!file) return;
              if (file.size > 8 << 20) sayWrong(new Error("This file is larger than 8 MB. Divide it."));
              else void file.text().then(setText);
            }}
          />
          <p className="text-[12px] leading-4 text-faint">
            The number is that of the piece, a barcode on it, or the recipient’s own. A row without a reason only corrects the address. What
            follows from each reason is said under “Rules by reason”.
          </p>
          {lines.length > 0 && <p>Found: {columns.map((c) => columnNames[c]).join(", ")}.</p>}
          {problems.length > 0 && (
            <ul className="max-h-24 overflow-auto text-error" role="alert">
              {problems.slice(0, 20).map((p) => (
                <li key={p}>{p}</li>
              ))}
            </ul>
          )}
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
