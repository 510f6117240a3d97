import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ArrowLeft, Check, ChevronLeft, ChevronRight, PencilLine, X } from "lucide-react";
import { useCallback, useMemo, useState } from "react";
import { Link } from "react-router";
import { PdfPages } from "../ui/PdfPages";
import { useSize } from "../ui/useSize";
import { windowShares } from "../ui/windowShares";
import { moment, pieceNumber } from "../ui/words";
import type { Drop } from "./DropPage";
import { MailView } from "../mail/MailView";
import { mailQuery, proofQuery, removeOwn, type Member } from "./proof";
import { VerdictSign } from "./ProofCard";
import { capital, changeable, isSent, kinds } from "../designs/kinds";

/** One member of the proof set, large enough to read, with what was said of it and where it is mended. */
export function ProofClose({
  drop,
  member,
  place,
  onStep,
  onRight,
  onWrong,
  onBack,
}: {
  drop: Drop;
  member: Member;
  place: string;
  onStep: (by: number) => void;
  onRight: () => void;
  onWrong: () => void;
  onBack: () => void;
}) {
  const printed = useMemo(() => member.pieces.filter((p) => p.pages > 0), [member.pieces]);
  const emailed = isSent(member.pieces);
  const proof = useQuery({ ...proofQuery(drop.id, member.id), placeholderData: keepPreviousData, enabled: printed.length > 0 });
  const mail = useQuery({ ...mailQuery(drop.id, member.id), enabled: emailed }).data;
  const [area, size] = useSize<HTMLDivElement>();
  const [larger, setLarger] = useState(0);
  const most = Math.max(300, size.width - 40);
  const paper = Math.min(most, Math.round(Math.min(most, ((size.height - 30) / 1.3) * 1.35) * (1 + larger * 0.35)));
  const widthOf = useCallback(
    (points: number) => Math.round(Math.min(most, points * (paper / 612) * (points < 330 ? 1.4 : 1))),
    [most, paper],
  );
  const pieces = useMemo(
    () =>
      printed.map((p) => ({
        name: member.pieces.length > 1 ? `${capital(kinds[p.kind].name)}: ${p.name}${p.attached ? ", attached" : ""}` : "",
        pages: p.pages,
        window: windowShares(p.window),
      })),
    [printed, member.pieces.length],
  );
  const letter = changeable(member.pieces);
  return (
    <>
      <div className="flex h-11 shrink-0 items-center gap-2 border-b border-line bg-base-100 px-3">
        <button className="btn btn-quiet btn-sm" onClick={onBack} title="Back to all pieces (Esc)">
          <ArrowLeft size={14} /> All
        </button>
        <button className="btn btn-quiet btn-sm px-1.5" onClick={() => onStep(-1)} aria-label="Previous piece" title="Piece before (←)">
          <ChevronLeft size={15} />
        </button>
        <span className="text-faint">{place}</span>
        <button className="btn btn-quiet btn-sm px-1.5" onClick={() => onStep(1)} aria-label="Next piece" title="Next piece (→)">
          <ChevronRight size={15} />
        </button>
        <span className="min-w-0 flex-1 truncate">
          <span className="text-faint">{pieceNumber(member.piece)}</span> <strong>{member.name}</strong>{" "}
          <span className="text-faint">{member.place}</span>
        </span>
        <button className="btn btn-quiet btn-xs" onClick={() => setLarger((n) => (n >= 2 ? 0 : n + 1))}>
          {larger >= 2 ? "Smaller" : "Larger"}
        </button>
        <VerdictSign member={member} />
        <button
          className={`btn btn-sm ${member.verdict === "right" ? "btn-primary" : "btn-quiet"}`}
          aria-pressed={member.verdict === "right"}
          onClick={onRight}
        >
          <Check size={14} /> Mark as right <kbd className="kbd">R</kbd>
        </button>
        <button
          className={`btn btn-sm ${member.verdict === "wrong" ? "bg-error text-error-content" : "btn-quiet"}`}
          aria-pressed={member.verdict === "wrong"}
          onClick={onWrong}
        >
          <X size={14} /> Mark as wrong <kbd className="kbd">W</kbd>
        </button>
      </div>
      <div className="shrink-0 border-b border-line bg-base-100 px-4 py-1.5 text-[12.5px]">
        <span className="text-doubt-ink">{member.reasons.length ? member.reasons.join("; ") : "Added by hand"}</span>
        {member.own && (
          <button className="ml-3 cursor-pointer underline" onClick={() => void removeOwn(drop.id, member.id).then((ok) => ok && onBack())}>
            Remove from proof set
          </button>
        )}
        {(member.verdict !== null || member.outdated) && (
          <p className={member.verdict === "wrong" ? "text-error" : "text-faint"}>
            {member.outdated ? "Reviewed before the change: " : ""}
            {member.verdict === "wrong" ? "wrong" : member.verdict === "right" ? "right" : ""}
            {member.note ? `, ${member.note}` : ""} · {member.by}, {moment(member.at)}
          </p>
        )}
        {member.verdict === "wrong" && (
          <p className="mt-1 flex gap-2">
            <Link className="btn btn-quiet btn-xs" to={`/drops/${drop.id}/proof?piece=${member.piece}`}>
              <PencilLine size={12} /> Fix value on the bench
            </Link>
            {member.pieces.map((p) => (
              <Link key={p.designId} className="btn btn-quiet btn-xs" to={`/designs/${p.designId}`}>
                Change the {kinds[p.kind].name} for all recipients
              </Link>
            ))}
            {letter && (
              <Link className="btn btn-quiet btn-xs" to={`/drops/${drop.id}/proof/letter/${member.id}/${letter.designId}`}>
                Change the {kinds[letter.kind].name} for this recipient only
              </Link>
            )}
          </p>
        )}
      </div>
      <div ref={area} className="min-h-0 flex-1 overflow-auto p-4" tabIndex={0} role="region" aria-label="Pages">
        {emailed && mail && (
          <div className="mb-4" style={{ height: printed.length > 0 ? Math.max(320, size.height * 0.72) : size.height - 20 }}>
            <MailView mail={mail} />
          </div>
        )}
        {size.width > 0 && printed.length > 0 && (
          <PdfPages
            data={proof.data}
            width={paper}
            widthOf={widthOf}
            pieces={pieces}
            mark={proof.isPlaceholderData ? "" : `${member.id}`}
          />
        )}
      </div>
    </>
  );
}
