import { useQuery } from "@tanstack/react-query";
import { Check, RotateCcw, X } from "lucide-react";
import { useMemo } from "react";
import { useSeen } from "../ui/useSeen";
import { PdfPages } from "../ui/PdfPages";
import { pieceNumber } from "../ui/words";
import type { Schema } from "../api/client";
import type { Drop } from "./DropPage";
import { MailFrame } from "../mail/MailView";
import { longestQuery, mailQuery, proofQuery, type Member } from "./proof";
import { isSent, paged } from "../designs/kinds";

type MailLook = Schema["MailLook"];
const width = 163;
/** All pieces in one measure, a letter's page filling the card; small labels a little larger, so that they can be told apart. */
const widthOf = (points: number) => Math.round(Math.min(width, Math.max(60, points * (width / 612))));

/** The sign over a page: found right, found wrong, looked at before it changed, not looked at. */
export function VerdictSign({ member }: { member: Pick<Member, "verdict" | "outdated"> }) {
  const [face, look, label] =
    member.verdict === "right"
      ? [<Check key="r" size={15} strokeWidth={3} />, "bg-primary text-primary-content", "marked right"]
      : member.verdict === "wrong"
        ? [<X key="w" size={15} strokeWidth={3} />, "bg-error text-error-content", "marked wrong"]
        : member.outdated
          ? [<RotateCcw key="o" size={13} strokeWidth={2.4} />, "bg-doubt text-doubt-ink border border-warning", "changed since review"]
          : [null, "border border-line bg-base-100/80", "not reviewed"];
  return (
    <span className={`flex h-6 w-6 items-center justify-center rounded-full ${look}`} role="img" aria-label={label} title={label}>
      {face}
    </span>
  );
}

/** A member of the proof set: the first page of each of its pieces, who it is, why it was chosen. */
export function ProofCard({
  drop,
  member,
  current,
  onChoose,
  onOpen,
}: {
  drop: Drop;
  member: Member;
  current: boolean;
  onChoose: () => void;
  onOpen: () => void;
}) {
  const [ref, seen] = useSeen<HTMLLIElement>();
  const printed = member.pieces.some((p) => p.pages > 0);
  const emailed = isSent(member.pieces);
  const proof = useQuery({ ...proofQuery(drop.id, member.id), enabled: seen && printed });
  const mail = useQuery({ ...mailQuery(drop.id, member.id), enabled: seen && emailed });
  const first = useMemo(
    () =>
      member.pieces.flatMap((piece, i) => (piece.pages > 0 ? [1 + member.pieces.slice(0, i).reduce((sum, p) => sum + p.pages, 0)] : [])),
    [member.pieces],
  );
  const pages = paged(member.pieces)?.pages ?? 1;
  const why = member.reasons.length
    ? member.reasons.slice(0, 3).join("; ") + (member.reasons.length > 3 ? ` and ${member.reasons.length - 3} more` : "")
    : "added by hand";
  return (
    <li ref={ref} data-member={member.id} data-testid="proof-member">
      <button
        className={`relative block w-full cursor-pointer rounded-sm text-left ${current ? "outline-2 outline-offset-4 outline-primary" : ""}`}
        aria-current={current || undefined}
        aria-label={`Piece ${pieceNumber(member.piece)}, ${member.name}`}
        onClick={onChoose}
        onDoubleClick={onOpen}
      >
        <span className="block min-h-[211px]">
          {emailed && (
            <span className="pointer-events-none mb-1.5 block h-[150px] overflow-hidden border border-line bg-white">
              {mail.data && <SmallMail mail={mail.data} />}
            </span>
          )}
          {printed && proof.data && <PdfPages data={proof.data} width={width} widthOf={widthOf} only={first} mark={`${member.id}`} />}
        </span>
        <span className="absolute top-1.5 right-1.5">
          <VerdictSign member={member} />
        </span>
        {pages > 1 && (
          <span className="absolute top-[190px] right-1.5 rounded bg-base-content/75 px-1.5 text-[11px] text-base-100">{pages} pages</span>
        )}
      </button>
      <p className="mt-1.5 truncate text-[13px]">
        <span className="text-faint">{pieceNumber(member.piece)}</span> <strong className="font-semibold">{member.name}</strong>
      </p>
      {member.verdict === "wrong" && <p className="text-[12px] leading-4 text-error">Wrong: {member.note}</p>}
      {member.outdated && (
        <p className="text-[12px] leading-4 text-doubt-ink">
          Changed since {member.by} reviewed it{member.note ? ` (${member.note})` : ""}
        </p>
      )}
      {member.pieces.some((p) => p.alone) && <p className="text-[12px] leading-4 font-semibold">Changed for this recipient only</p>}
      <p className="line-clamp-3 text-[12px] leading-4 text-doubt-ink" title={member.reasons.join("\n")}>
        {why}
      </p>
    </li>
  );
}

/** A message as large as a card: its subject and the top of its body, a quarter of its size. */
function SmallMail({ mail }: { mail: MailLook }) {
  return (
    <>
      <span className="block truncate bg-base-200 px-1 text-[10px] leading-4 font-semibold text-base-content">
        {mail.subject || "No subject"}
      </span>
      <span className="block origin-top-left" style={{ width: 600, height: 480, transform: `scale(${width / 600})` }}>
        {mail.html === null ? (
          <span className="block p-6 text-[26px] leading-8 whitespace-pre-wrap text-black">{mail.text}</span>
        ) : (
          <MailFrame html={mail.html} title={`Email to ${mail.to}`} />
        )}
      </span>
    </>
  );
}

/** A piece that nobody gets: every column at its longest, all at once. */
export function LongestCard({ drop }: { drop: Drop }) {
  const [ref, seen] = useSeen<HTMLLIElement>();
  const data = useQuery({ ...longestQuery(drop.id), enabled: seen });
  return (
    <li ref={ref} data-testid="longest-piece">
      <a className="block" href={`/api/drops/${drop.id}/longest.pdf`} target="_blank" rel="noreferrer" title="Open in a new window">
        <span className="block min-h-[211px]">
          {data.data && <PdfPages data={data.data} width={width} widthOf={widthOf} mark="longest" />}
        </span>
      </a>
      <p className="mt-1.5 text-[13px] font-semibold">Test piece (no recipient)</p>
      <p className="text-[12px] leading-4 text-faint">The longest value of every column in one piece</p>
    </li>
  );
}
