import { useQuery } from "@tanstack/react-query";
import { FileUp } from "lucide-react";
import { useRef } from "react";
import { Link } from "react-router";
import { api, ask, queryClient, sendFile, type Schema } from "../api/client";
import { say, sayWrong } from "../ui/notices";
import { many, moment, pieceNumber } from "../ui/words";
import { settleReports } from "./acts";
import { keys } from "../api/keys";

/** Delivery reports: what mail servers sent back, and the proposal to write no more to addresses that are gone. */
export function Reports({ dropId }: { dropId: number }) {
  const reports =
    useQuery({
      queryKey: keys.drop(dropId, "reports"),
      queryFn: () => ask(api.GET("/api/drops/{id}/mail-reports", { params: { path: { id: dropId } } })),
    }).data ?? [];
  const file = useRef<HTMLInputElement>(null);
  const open = reports.filter((r) => r.hard && r.settled === null);
  const take = async (files: FileList | null) => {
    for (const f of files ?? []) {
      try {
        const taken = await sendFile<Schema["ReportTaken"]>("/api/mail-reports", f);
        say(taken.text);
      } catch (e) {
        sayWrong(e);
      }
    }
    void queryClient.invalidateQueries({ queryKey: keys.drop() });
  };
  return (
    <section
      className="relative mt-4"
      aria-label="Returned email"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void take(e.dataTransfer.files);
      }}
    >
      <div className="mb-1 flex items-center gap-2">
        <h2 className="flex-1">Returned email</h2>
        <button
          className="btn btn-quiet btn-xs"
          onClick={() => file.current?.click()}
          title="Choose a delivery report saved from your email program as .eml, or drag it here"
        >
          <FileUp size={13} /> Import report
        </button>
        <input
          ref={file}
          type="file"
          accept=".eml,message/rfc822"
          multiple
          className="sr"
          aria-label="Delivery report"
          tabIndex={-1}
          onChange={(e) => (void take(e.target.files), (e.target.value = ""))}
        />
      </div>
      {reports.length === 0 && (
        <p className="text-faint">No delivery reports yet. Reports that reach the practice post office appear here automatically.</p>
      )}
      {open.length > 0 && (
        <div className="mb-2 border-l-[3px] border-warning bg-doubt px-2.5 py-2">
          <p>
            {many(open.length, "address is", "addresses are")} permanently undeliverable. Mailing to them again hurts your sender
            reputation.
          </p>
          <span className="mt-1.5 flex gap-1.5">
            <button
              className="btn btn-primary btn-xs"
              onClick={() =>
                void settleReports(
                  dropId,
                  open.map((r) => r.id),
                  true,
                )
              }
            >
              Suppress {open.length === 1 ? "it" : "them"}
            </button>
            <button
              className="btn btn-xs bg-base-100"
              onClick={() =>
                void settleReports(
                  dropId,
                  open.map((r) => r.id),
                  false,
                )
              }
            >
              Ignore
            </button>
          </span>
        </div>
      )}
      <ul>
        {reports.map((r) => (
          <li key={r.id} className="border-b border-line py-1.5 text-[12.5px] leading-[17px]">
            <Link className="font-semibold hover:underline" to={`/drops/${dropId}/proof?piece=${r.pieceNumber}`}>
              {pieceNumber(r.pieceNumber ?? 0)} {r.address}
            </Link>
            <span className={`block ${r.action === "failed" ? "text-error" : "text-faint"}`}>
              {r.action}, {r.status}: {r.words}
            </span>
            <span className="block text-[11.5px] text-faint">
              {moment(r.at)}
              {r.settled === "suppressed" ? " · suppressed" : ""}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
