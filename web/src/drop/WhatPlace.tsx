import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { designQuery, designsQuery, versionsQuery } from "../api/queries";
import { PackagePicker } from "../campaigns/PackagePicker";
import { MailView } from "../mail/MailView";
import { Dialog } from "../ui/Dialog";
import { say, sayWrong } from "../ui/notices";
import { fromBase64, PdfPages } from "../ui/PdfPages";
import { useSize } from "../ui/useSize";
import { many, moment } from "../ui/words";
import { useDrop } from "./DropPage";
import { useBasis } from "../api/basis";
import { capital, kinds } from "../designs/kinds";
import { keys } from "../api/keys";

/** What they get: the designs of this drop's package, each as its first recipient will see it. */
export function WhatPlace() {
  const drop = useDrop();
  const [chosen, setChosen] = useState(drop.package[0]?.designId ?? 0);
  const [changing, setChanging] = useState(false);
  const designId = drop.package.some((p) => p.designId === chosen) ? chosen : (drop.package[0]?.designId ?? 0);
  const piece = drop.package.find((p) => p.designId === designId);
  const design = useQuery(designQuery(designId)).data;
  const versions = useQuery(versionsQuery(designId)).data;
  const preview = useQuery({
    queryKey: keys.designs(designId, "preview", design?.version, design?.updatedAt),
    queryFn: () =>
      ask(
        api.POST("/api/designs/preview", {
          body: { document: design?.document ?? {}, listId: drop.listId, offset: 0, designId, recipientId: null },
        }),
      ),
    enabled: design !== undefined,
  }).data;
  const data = useMemo(() => (preview?.pdf ? fromBase64(preview.pdf) : undefined), [preview]);
  const [area, size] = useSize<HTMLDivElement>();
  return (
    <div className="flex min-h-0 flex-1 max-[1000px]:flex-col">
      <section className="w-[420px] shrink-0 overflow-auto border-r border-line p-5 max-[1000px]:max-h-[50%] max-[1000px]:w-full max-[1000px]:overflow-auto max-[1000px]:border-b">
        <div className="mb-2 flex items-center">
          <h2 className="flex-1">Package</h2>
          <button className="btn btn-quiet btn-sm" onClick={() => setChanging(true)}>
            Edit package
          </button>
        </div>
        <ul className="mb-5" aria-label="The package">
          {drop.package.map((p) => (
            <li key={p.designId}>
              <button
                className={`flex w-full cursor-pointer items-baseline gap-2 rounded px-2 py-1.5 text-left ${p.designId === designId ? "chosen" : "hover:bg-base-200"}`}
                aria-pressed={p.designId === designId}
                onClick={() => setChosen(p.designId)}
              >
                <span className="flex-1 font-semibold">{p.name}</span>
                <span className="text-faint">{kinds[p.kind].name}</span>
              </button>
            </li>
          ))}
        </ul>
        <h2 className="mb-1">{piece?.name}</h2>
        {design && (
          <p className="mb-4 text-faint">
            {capital(kinds[design.kind].name)}, version {design.version}, last changed {moment(design.updatedAt)} by {design.by}.
            {kinds[design.kind].hasPages && ` ${many(preview?.pages ?? 1, "page")}.`}
          </p>
        )}
        <Link className="btn btn-primary" to={`/designs/${designId}`}>
          {design && kinds[design.kind].isWritten ? "Edit text" : "Edit design"}
        </Link>
        {preview && preview.mistakes.length > 0 && (
          <div className="mt-5 border-l-[3px] border-warning bg-doubt px-3 py-2">
            <strong className="block">Fields without a matching column</strong>
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
        <p className="mt-3 text-faint">A produced version never changes. New edits create a new version.</p>
      </section>
      <div ref={area} className="min-w-0 flex-1 overflow-auto bg-base-200 p-6" role="region" tabIndex={0} aria-label="Pages">
        {preview?.mail ? (
          <div style={{ height: Math.max(360, size.height - 50) }}>
            <MailView mail={preview.mail} />
          </div>
        ) : (
          size.width > 0 && (
            <PdfPages
              data={data}
              width={Math.min(design && kinds[design.kind].sharesSheets ? 420 : 620, Math.floor(size.width - 20))}
              mark={`${designId} ${design?.version ?? ""}`}
            />
          )
        )}
      </div>
      {changing && <PackageDialog close={() => setChanging(false)} />}
    </div>
  );
}

/** Which designs the drop sends from now on. */
function PackageDialog({ close }: { close: () => void }) {
  const drop = useDrop();
  const designs = useQuery(designsQuery()).data ?? [];
  const [chosen, setChosen] = useState(drop.package.map((p) => p.designId));
  const basis = useBasis(`/api/drops/${drop.id}`);
  const set = async () => {
    try {
      await ask(
        api.PUT("/api/drops/{id}/package", { params: { path: { id: drop.id } }, headers: basis.headers(), body: { designIds: chosen } }),
      );
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
      say("Package updated. The pieces are being checked again.");
      close();
    } catch (e) {
      sayWrong(e);
    }
  };
  return (
    <Dialog title="Edit package" onClose={close}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void set();
        }}
      >
        <PackagePicker designs={designs} listId={drop.listId} chosen={chosen} onChange={setChosen} />
        <p className="text-faint">
          The designs sent together to each recipient under one piece number. Pieces already produced do not change.
        </p>
        <button className="btn btn-primary self-start" disabled={chosen.length === 0}>
          Apply
        </button>
      </form>
    </Dialog>
  );
}
