import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { FileDown } from "lucide-react";
import { useEffect, useState } from "react";
import { useActions } from "../ui/keys";
import { many } from "../ui/words";
import { useDrop } from "./DropPage";
import { findProof, proofSetQuery } from "./proof";
import { ProofCard, LongestCard } from "./ProofCard";
import { ProofClose } from "./ProofClose";
import { ReasonDialog } from "./ReasonDialog";
import { SignOffPanel } from "./SignOffPanel";
import { WhatVaries } from "./WhatVaries";
import { Beside } from "../ui/Beside";

/** The few recipients in whom every way that the pieces come out is seen: looked at one by one, found right or wrong, signed off. */
export function ProofSetPlace() {
  const drop = useDrop();
  const set = useQuery({ ...proofSetQuery(drop.id), placeholderData: keepPreviousData });
  const [at, setAt] = useState(0);
  const [close, setClose] = useState(false);
  const [wrong, setWrong] = useState(false);
  const members = set.data?.members ?? [];
  const here = Math.min(at, Math.max(0, members.length - 1));
  const member = members[here];
  const looked = members.filter((m) => m.verdict !== null).length;
  const bad = members.filter((m) => m.verdict === "wrong").length;

  useEffect(() => {
    document.querySelector(`[data-member="${member?.id ?? 0}"]`)?.scrollIntoView({ block: "nearest" });
  }, [member?.id, close]);
  const go = (to: number) => setAt(Math.max(0, Math.min(members.length - 1, to)));
  const right = async () => {
    if (!member) return;
    const undone = member.verdict === "right";
    // The next piece is at hand at once: a second press is meant for it, however long the answer takes.
    if (!undone) go(here + 1);
    if (!(await findProof(drop.id, member.id, undone ? null : "right")) && !undone) setAt(here);
  };
  useActions([
    { keys: "ArrowRight", label: "Next piece", run: () => go(here + 1), quiet: true },
    { keys: "ArrowLeft", label: "Previous piece", run: () => go(here - 1), quiet: true },
    { keys: "ArrowDown", label: "Next row or piece", run: () => go(here + (close ? 1 : 5)), quiet: true },
    { keys: "ArrowUp", label: "Previous row or piece", run: () => go(here - (close ? 1 : 5)), quiet: true },
    { keys: "Enter z", label: "Switch between one piece and all", run: () => setClose((c) => !c) },
    { keys: "Escape", label: "Back to all pieces", run: () => setClose(false), quiet: true },
    { keys: "r", label: "Mark as right", run: () => void right() },
    { keys: "w", label: "Mark as wrong", run: () => member && setWrong(true) },
  ]);
  if (set.error) return <p className="p-8 text-error">{set.error.message}</p>;
  if (!set.data) return <p className="p-8 text-faint">Checking all recipients for what can vary…</p>;
  const s = set.data;
  return (
    <div className="flex min-h-0 flex-1">
      <section className="on-sand flex min-w-0 flex-1 flex-col bg-base-200" aria-label="Proof set">
        {s.population === 0 ? (
          <p className="max-w-md p-6 text-faint">
            There are no pieces to proof because all recipients are held or already mailed. Release a recipient to build a new proof set.
          </p>
        ) : close && member ? (
          <ProofClose
            key={member.id}
            drop={drop}
            member={member}
            place={`${here + 1} of ${members.length}`}
            onStep={(by) => go(here + by)}
            onRight={() => void right()}
            onWrong={() => setWrong(true)}
            onBack={() => setClose(false)}
          />
        ) : (
          <div className="min-h-0 flex-1 overflow-auto px-4 pt-3 pb-5">
            <h2 className="mb-3 text-[15px]">
              {s.members.length === 1 ? "1 piece shows" : `${s.members.length} pieces show`} everything that can happen in{" "}
              {many(s.population, "recipient")}
              <span className="ml-3 text-[13px] font-normal text-faint" data-testid="proof-progress">
                {looked} reviewed{bad ? `, ${bad} wrong` : ""}, {members.length - looked} to go
              </span>
            </h2>
            <ol className="grid grid-cols-[repeat(auto-fill,163px)] gap-x-[13px] gap-y-5">
              {members.map((m, i) => (
                <ProofCard
                  key={m.id}
                  drop={drop}
                  member={m}
                  current={i === here}
                  onChoose={() => setAt(i)}
                  onOpen={() => (setAt(i), setClose(true))}
                />
              ))}
              <LongestCard drop={drop} />
            </ol>
          </div>
        )}
      </section>
      <Beside label="Variations and sign-off" className="flex w-[296px] shrink-0 flex-col border-l border-line">
        <div className="min-h-0 flex-1 overflow-auto px-4 py-3" tabIndex={0} role="region" aria-label="Variations">
          <WhatVaries
            drop={drop}
            set={s}
            onSee={(id) =>
              setAt(
                Math.max(
                  0,
                  members.findIndex((m) => m.id === id),
                ),
              )
            }
          />
        </div>
        <div className="on-sand shrink-0 border-t border-line px-4 py-3">
          <SignOffPanel drop={drop} set={s} />
          <a
            className="btn btn-quiet btn-sm mt-2 w-full"
            href={`/api/drops/${drop.id}/proofs.pdf`}
            download={`proof-${drop.name}.pdf`}
            title="PDF with every page marked as a proof and a cover page to sign"
          >
            <FileDown size={14} /> Download proofs
          </a>
        </div>
      </Beside>
      {wrong && member && (
        <ReasonDialog
          title={`Piece ${String(member.piece).padStart(4, "0")}, ${member.name}: mark as wrong`}
          explanation="Describe the problem so it can be fixed. The drop cannot be signed off until these pages change."
          suggestions={["Salutation", "Address", "Text", "Layout", "Should not get this"]}
          action="Mark as wrong"
          onClose={() => setWrong(false)}
          onReason={(note) => {
            setWrong(false);
            void findProof(drop.id, member.id, "wrong", note).then((ok) => ok && setClose(true));
          }}
        />
      )}
    </div>
  );
}
