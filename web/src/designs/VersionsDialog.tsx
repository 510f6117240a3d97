import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api, ask, queryClient } from "../api/client";
import { designQuery, versionsQuery } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { say, sayWrong } from "../ui/notices";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { moment } from "../ui/words";
import { keys } from "../api/keys";

/** Every version of a letter, seen as its page or held against the newest one, and brought back. */
export function VersionsDialog({
  designId,
  close,
  onRestored,
  before,
}: {
  designId: number;
  close: () => void;
  onRestored: () => void;
  before: () => Promise<void>;
}) {
  const versions = useQuery(versionsQuery(designId)).data ?? [];
  const listId = useQuery(designQuery(designId)).data?.listId ?? null;
  const newest = versions[0]?.number ?? 0;
  const [chosen, setChosen] = useState<number | null>(null);
  const [against, setAgainst] = useState<number | null>(null);
  const number = chosen ?? newest;
  const marked = versions.find((v) => v.number === number)?.updatedAt;
  const preview = useQuery({
    queryKey: keys.designs(designId, "version", number, marked),
    queryFn: async () => {
      const document = await ask(api.GET("/api/designs/{id}/versions/{number}", { params: { path: { id: designId, number } } }));
      return ask(api.POST("/api/designs/preview", { body: { document, listId, offset: 0, designId, recipientId: null } }));
    },
    enabled: number > 0 && against === null,
  }).data;
  const differences = useQuery({
    queryKey: keys.designs(designId, "compare", number, against, marked),
    queryFn: () =>
      ask(
        api.GET("/api/designs/{id}/compare", {
          params: { path: { id: designId }, query: { from: Math.min(number, against ?? 0), to: Math.max(number, against ?? 0) } },
        }),
      ),
    enabled: against !== null && number > 0,
  }).data;
  const changed = differences?.filter((line) => line.some((d) => d.kind !== "Same"));
  const pdf = useMemo(() => (preview ? fromBase64(preview.pdf) : undefined), [preview]);
  const restore = async () => {
    try {
      await before();
      await ask(api.POST("/api/designs/{id}/restore", { params: { path: { id: designId } }, body: { number } }));
      await queryClient.invalidateQueries({ queryKey: keys.designs() });
      say(`Version ${number} is now the newest. All later versions are still here.`);
      onRestored();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Versions" onClose={close} wide>
      <div className="flex gap-4">
        <ul className="max-h-[430px] w-60 shrink-0 overflow-auto">
          {versions.map((v) => (
            <li key={v.number}>
              <button
                className={`w-full cursor-pointer rounded px-2 py-1.5 text-left ${v.number === number ? "chosen" : "hover:bg-base-200"}`}
                onClick={() => setChosen(v.number)}
              >
                <span className="font-semibold">Version {v.number}</span>
                {v.produced && " · produced"}
                {v.restoredFrom !== null && ` · from ${v.restoredFrom}`}
                <span className="block text-[12px] text-faint">
                  {moment(v.updatedAt)}, {v.by}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <div className="min-w-0 flex-1">
          <label className="mb-2 flex items-center gap-2">
            Compare with
            <select
              className="select select-sm"
              aria-label="Compare with"
              value={against ?? ""}
              onChange={(e) => setAgainst(e.target.value ? Number(e.target.value) : null)}
            >
              <option value="">Nothing, show the page</option>
              {versions
                .filter((v) => v.number !== number)
                .map((v) => (
                  <option key={v.number} value={v.number}>
                    version {v.number}
                  </option>
                ))}
            </select>
          </label>
          <div className="on-sand h-[390px] overflow-auto bg-base-200 p-3" role="region" tabIndex={0} aria-label="Pages of this version">
            {against === null ? (
              <PdfPages data={pdf} width={310} mark={String(number)} />
            ) : (
              <div aria-label="Differences" role="region" tabIndex={0}>
                {changed?.length === 0 && <p>The text is the same. Only formatting may differ.</p>}
                {changed?.map((line, i) => (
                  <p key={i} className="mb-2 rounded bg-base-100 px-2 py-1 break-words">
                    {line.map((d, k) =>
                      d.kind === "Added" ? (
                        <ins key={k}>{d.text}</ins>
                      ) : d.kind === "Removed" ? (
                        <del key={k}>{d.text}</del>
                      ) : (
                        <span key={k}>{d.text}</span>
                      ),
                    )}
                  </p>
                ))}
              </div>
            )}
          </div>
        </div>
      </div>
      <div className="mt-4 flex gap-2">
        <button className="btn btn-primary" disabled={number === newest || number === 0} onClick={() => void restore()}>
          Restore version {number}
        </button>
        <button className="btn btn-quiet" onClick={close}>
          Close
        </button>
      </div>
    </Dialog>
  );
}
