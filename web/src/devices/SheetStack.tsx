import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ChevronLeft, ChevronRight } from "lucide-react";
import { useState } from "react";
import { api, ask } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { PdfPages } from "../ui/PdfPages";
import { count } from "../ui/words";
import { keys } from "../api/keys";

/** The sheets that came out of the practice printer, the newest on top, each as it is printed. */
export function SheetStack({ id, close }: { id: number; close: () => void }) {
  const [at, setAt] = useState(0);
  const stack = useQuery({
    queryKey: keys.printers(id, "stack", at),
    queryFn: () => ask(api.GET("/api/printers/{id}/practice/stack", { params: { path: { id }, query: { offset: at, limit: 1 } } })),
    placeholderData: keepPreviousData,
  }).data;
  const sheet = stack?.sheets[0];
  const file = useQuery({
    queryKey: keys.printers("job", sheet?.jobId),
    queryFn: async () =>
      new Uint8Array(
        await ask(
          api.GET("/api/practice-jobs/{id}/file", { params: { path: { id: sheet?.jobId ?? 0 } }, parseAs: "arrayBuffer" }) as Promise<{
            data?: ArrayBuffer;
            error?: unknown;
            response: Response;
          }>,
        ),
      ),
    enabled: sheet !== undefined,
    staleTime: Infinity,
    retry: false,
  });
  const go = (by: number) => setAt((n) => Math.max(0, Math.min((stack?.total ?? 1) - 1, n + by)));
  return (
    <Dialog title="Output stack, newest sheet first" onClose={close} wide>
      <div
        className="flex flex-col gap-2"
        tabIndex={-1}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown" || e.key === "ArrowRight") go(1);
          if (e.key === "ArrowUp" || e.key === "ArrowLeft") go(-1);
          if (e.key === "PageDown") go(10);
          if (e.key === "PageUp") go(-10);
        }}
      >
        <div className="flex items-center gap-2">
          <button className="btn btn-quiet btn-sm px-1.5" autoFocus aria-label="Previous sheet" disabled={at === 0} onClick={() => go(-1)}>
            <ChevronLeft size={15} />
          </button>
          <span className="text-faint">
            {count(at + 1)} of {count(stack?.total ?? 0)}
          </span>
          <button
            className="btn btn-quiet btn-sm px-1.5"
            aria-label="Next sheet"
            disabled={at + 1 >= (stack?.total ?? 0)}
            onClick={() => go(1)}
          >
            <ChevronRight size={15} />
          </button>
          <span className="min-w-0 flex-1 truncate">{sheet?.title}</span>
          {sheet?.spoiled && <strong className="text-error">Jammed and spoiled</strong>}
        </div>
        <div
          className={`on-sand max-h-[62vh] overflow-auto bg-base-200 p-3 ${sheet?.spoiled ? "outline-2 -outline-offset-2 outline-error" : ""}`}
          role="region"
          tabIndex={0}
          aria-label="Sheet"
        >
          {file.error ? (
            <p className="text-faint">{file.error.message}</p>
          ) : (
            sheet && (
              <PdfPages
                data={file.data}
                width={420}
                only={sheet.secondPage === null ? [sheet.firstPage] : [sheet.firstPage, sheet.secondPage]}
                mark={`${sheet.id}`}
              />
            )
          )}
        </div>
      </div>
    </Dialog>
  );
}
