import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api, ask, queryClient } from "../api/client";
import { designQuery, versionsQuery } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { say, sayWrong } from "../ui/notices";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { moment } from "../ui/words";

/** Every version of a letter, seen as its page, and brought back as the newest one. */
export function VersionsDialog({ designId, close, onRestored, before }: { designId: number; close: () => void; onRestored: () => void; before: () => Promise<void> }) {
  const versions = useQuery(versionsQuery(designId)).data ?? [];
  const listId = useQuery(designQuery(designId)).data?.listId ?? null;
  const newest = versions[0]?.number ?? 0;
  const [chosen, setChosen] = useState<number | null>(null);
  const number = chosen ?? newest;
  const preview = useQuery({
    queryKey: ["designs", designId, "version", number, versions.find((v) => v.number === number)?.updatedAt],
    queryFn: async () => {
      const document = await ask(api.GET("/api/designs/{id}/versions/{number}", { params: { path: { id: designId, number } } }));
      return ask(api.POST("/api/designs/preview", { body: { document, listId, offset: 0 } }));
    },
    enabled: number > 0,
  }).data;
  const pdf = useMemo(() => (preview ? fromBase64(preview.pdf) : undefined), [preview]);
  const restore = async () => {
    try {
      await before();
      await ask(api.POST("/api/designs/{id}/restore", { params: { path: { id: designId } }, body: { number } }));
      await queryClient.invalidateQueries({ queryKey: ["designs"] });
      say(`Version ${number} is back as the newest one; nothing in between is lost.`);
      onRestored();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Versions" onClose={close} wide>
      <div className="flex gap-4">
        <ul className="max-h-[430px] w-64 overflow-auto">
          {versions.map((v) => (
            <li key={v.number}>
              <button className={`w-full cursor-pointer rounded px-2 py-1.5 text-left ${v.number === number ? "bg-primary text-primary-content" : "hover:bg-base-200"}`} onClick={() => setChosen(v.number)}>
                <span className="font-semibold">Version {v.number}</span>
                {v.produced && " · produced"}
                {v.restoredFrom !== null && ` · from ${v.restoredFrom}`}
                <span className="block text-[12px] opacity-80">
                  {moment(v.updatedAt)}, {v.by}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <div className="on-sand max-h-[430px] flex-1 overflow-auto bg-base-200 p-3">
          <PdfPages data={pdf} width={310} mark={String(number)} />
        </div>
      </div>
      <div className="mt-4 flex gap-2">
        <button className="btn btn-primary" disabled={number === newest || number === 0} onClick={() => void restore()}>
          Bring version {number} back
        </button>
        <button className="btn btn-quiet" onClick={close}>
          Close
        </button>
      </div>
    </Dialog>
  );
}
