import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link } from "react-router";
import { api, ask } from "../api/client";
import { designQuery, versionsQuery } from "../api/queries";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { useSize } from "../ui/useSize";
import { many, moment } from "../ui/words";
import { useDrop } from "./DropPage";

/** What they get: the letter of this drop, as its first recipient will see it. */
export function WhatPlace() {
  const drop = useDrop();
  const design = useQuery(designQuery(drop.designId)).data;
  const versions = useQuery(versionsQuery(drop.designId)).data;
  const preview = useQuery({
    queryKey: ["designs", drop.designId, "preview", design?.version, design?.updatedAt],
    queryFn: () => ask(api.POST("/api/designs/preview", { body: { document: design?.document ?? {}, listId: drop.listId, offset: 0, designId: drop.designId, recipientId: null } })),
    enabled: design !== undefined,
  }).data;
  const data = useMemo(() => (preview ? fromBase64(preview.pdf) : undefined), [preview]);
  const [area, size] = useSize<HTMLDivElement>();
  return (
    <div className="flex min-h-0 flex-1">
      <section className="w-[420px] shrink-0 overflow-auto border-r border-line p-5">
        <h2 className="mb-1">{drop.designName}</h2>
        {design && (
          <p className="mb-4 text-faint">
            Letter, version {design.version}, changed {moment(design.updatedAt)} by {design.by}. {many(preview?.pages ?? 1, "page")}.
          </p>
        )}
        <Link className="btn btn-primary" to={`/designs/${drop.designId}`}>
          Write
        </Link>
        {preview && preview.mistakes.length > 0 && (
          <div className="mt-5 border-l-[3px] border-warning bg-doubt px-3 py-2">
            <strong className="block">Fields that this list cannot fill</strong>
            {preview.mistakes.map((m) => (
              <p key={`${m.block}${m.source}${m.position}`}>{m.message}</p>
            ))}
          </div>
        )}
        <h2 className="mt-6 mb-2">Versions</h2>
        <table className="w-full">
          <tbody>
            {versions?.map((v) => (
              <tr key={v.number} className="border-b border-line">
                <td className="py-1.5">{v.number}</td>
                <td className="py-1.5 text-faint">
                  {moment(v.updatedAt)}, {v.by}
                </td>
                <td className="py-1.5 text-right">{v.produced ? "produced" : ""}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="mt-3 text-faint">A version that was produced stays as it was; writing on makes a new one.</p>
      </section>
      <div ref={area} className="min-w-0 flex-1 overflow-auto bg-base-200 p-6" role="region" tabIndex={0} aria-label="Pages">
        {size.width > 0 && <PdfPages data={data} width={Math.min(620, Math.floor(size.width - 20))} mark={String(design?.version ?? "")} />}
      </div>
    </div>
  );
}
