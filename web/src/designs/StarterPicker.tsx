import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { api, ask } from "../api/client";
import { previewQuery, starterQuery, startersQuery } from "../api/queries";
import { MailFrame } from "../mail/MailView";
import { kinds, type DesignKind } from "./kinds";
import { keys } from "../api/keys";

const PdfPages = lazy(async () => ({ default: (await import("../ui/PdfPages")).PdfPages }));

interface Props {
  kind: DesignKind;
  /** With whose first recipient they are shown; null where there is no list yet. */
  listId: number | null;
  /** The id of a starter; null for an empty design. */
  value: string | null;
  onChange: (id: string | null, name: string) => void;
}

/** Designs to start from, each as the first recipient of the list would get it. */
export function StarterPicker({ kind, listId, value, onChange }: Props) {
  const starters = (useQuery(startersQuery()).data ?? []).filter((s) => s.kind === kind);
  if (starters.length === 0) return null;
  const tile = (checked: boolean) =>
    `flex w-[150px] shrink-0 cursor-pointer flex-col gap-1 rounded-box border p-2 text-left focus-within:outline-2 focus-within:outline-primary ${checked ? "border-primary bg-primary/10" : "border-line hover:bg-base-200"}`;
  return (
    <fieldset className="min-w-0">
      <legend className="mb-1 font-semibold">Start from</legend>
      {/* As high before the starters have come as after: nobody's click lands beside a button that moved away. */}
      <div className="flex h-[252px] items-start gap-2 overflow-x-auto overflow-y-hidden p-0.5 pb-2" tabIndex={-1}>
        <label className={tile(value === null)}>
          <input type="radio" className="sr" name="starter" checked={value === null} onChange={() => onChange(null, "")} />
          <span className="flex h-[130px] items-center justify-center border border-dashed border-line bg-base-100" />
          <span className="font-semibold">Empty design</span>
          <span className="text-[12px] leading-4 text-faint">{kinds[kind].blank}</span>
        </label>
        {starters.map((s) => (
          <label key={s.id} className={tile(value === s.id)} title={s.description}>
            <input type="radio" className="sr" name="starter" checked={value === s.id} onChange={() => onChange(s.id, s.name)} />
            <StarterLook id={s.id} kind={kind} listId={listId} />
            <span className="font-semibold">{s.name}</span>
            <span className="line-clamp-3 text-[12px] leading-4 text-faint">{s.description}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function StarterLook({ id, kind, listId }: { id: string; kind: DesignKind; listId: number | null }) {
  const document = useQuery(starterQuery(id)).data?.document;
  const preview = useQuery({
    ...previewQuery(0, listId, 0, null, document ?? {}),
    enabled: document !== undefined,
    staleTime: 60_000,
  }).data;
  const { pdf, mail } = preview ?? {};
  const data = useQuery({
    queryKey: keys.starters(id, "pdf", listId, pdf?.length),
    queryFn: () => Uint8Array.from(atob(pdf ?? ""), (c) => c.charCodeAt(0)),
    enabled: !!pdf,
    staleTime: Infinity,
  }).data;
  return (
    <span className="pointer-events-none flex h-[130px] items-start justify-center overflow-hidden bg-base-200 p-1" aria-hidden>
      {!kinds[kind].isPaper ? (
        mail && (
          <span className="block h-[244px] w-[260px] origin-top-left scale-50 bg-white" style={{ marginRight: -130 }}>
            <MailFrame html={mail.html ?? ""} width={260} title={`Preview of ${id}`} />
          </span>
        )
      ) : (
        <Suspense fallback={null}>
          <PdfPages data={data} width={kinds[kind].hasPages ? 98 : 130} mark="" />
        </Suspense>
      )}
    </span>
  );
}

/** A design begun from a starter; answers its id. */
export async function createFromStarter(id: string, name: string, listId: number | null) {
  const starter = await ask(api.GET("/api/starters/{id}", { params: { path: { id } } }));
  return ask(api.POST("/api/designs", { body: { name: name.trim() || starter.name, listId, document: starter.document as never } }));
}
