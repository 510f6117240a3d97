import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, ask, queryClient } from "../api/client";
import { runsQuery } from "../api/queries";
import { accountsQuery } from "../mail/queries";
import { printersQuery } from "../surfaces/queries";
import { momentOf } from "../ui/customs";
import { Dialog } from "../ui/Dialog";
import { useActions } from "../ui/keys";
import { sayWrong } from "../ui/notices";
import { count, many, moment } from "../ui/words";
import { useDrop } from "./DropPage";
import { MakeForm } from "./make/MakeForm";
import { useOrder } from "./order";
import { PlanTable, SharedAddresses } from "./PlanTable";
import { ListIssues } from "./ListIssues";
import { PossibleDuplicates } from "./PossibleDuplicates";
import { RunBox } from "./RunBox";
import { useSelection } from "./selection";
import { kinds, onPaper, paged } from "../designs/kinds";
import { keys } from "../api/keys";

/** Make it: what a run would come to on the left, the runs on the right. */
export function ProducePlace() {
  const drop = useDrop();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const [selected] = useSelection(drop.id);
  const printers = useQuery(printersQuery()).data ?? [];
  const accounts = useQuery(accountsQuery()).data ?? [];
  const o = useOrder(drop, selected, printers, accounts, { reprint: params.get("reprint") });
  const plan = useQuery({
    queryKey: keys.drop(drop.id, "plan", o.order),
    queryFn: () => ask(api.POST("/api/drops/{id}/plan", { params: { path: { id: drop.id } }, body: o.order })),
    enabled: o.ready,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const runs = useQuery(runsQuery(drop.id)).data ?? [];
  const [confirming, setConfirming] = useState(false);
  // A second press, such as that of a double click, starts no second run.
  const [beginning, setBeginning] = useState(false);
  const p = o.ready && !plan.error ? plan.data : undefined;
  const begin = async () => {
    setConfirming(false);
    if (!p || beginning) return;
    setBeginning(true);
    try {
      const run = await ask(
        api.POST("/api/drops/{id}/runs", { params: { path: { id: drop.id } }, body: { ...o.order, expected: p.pieces } }),
      );
      if (params.has("reprint")) void navigate(`/drops/${drop.id}/produce`, { replace: true });
      if (o.form.output === "print" || o.form.output === "email") void navigate(`/drops/${drop.id}/produce/${run.id}`);
    } catch (e) {
      sayWrong(e);
    } finally {
      setBeginning(false);
      void queryClient.invalidateQueries({ queryKey: keys.drop() });
      void queryClient.invalidateQueries({ queryKey: keys.jobs() });
    }
  };
  const copies = o.form.output === "print" ? o.form.copies : 1;
  const people = p ? many(p.pieces, "person", "people") : "";
  const only = onPaper(drop.package).length === 1 ? paged(drop.package) : undefined;
  const what = p ? (o.mailing ? many(p.pieces, "email") : only ? many(p.pieces, kinds[only.kind].name) : many(p.pieces, "package")) : "";
  const verb =
    o.form.who === "reprint"
      ? "Reprint"
      : o.form.output === "print"
        ? "Print"
        : o.form.output === "email"
          ? o.form.at
            ? "Schedule"
            : "Send"
          : "Produce";
  const unsigned = drop.signOff.needed && drop.signOff.state !== "valid" && o.form.who !== "reprint";
  const blocked =
    !p ||
    beginning ||
    !o.settled ||
    p.pieces === 0 ||
    // The plan of another order says nothing of this one. One that is only read anew does not take the button away under the pointer:
    // the server holds the run against the number that was shown.
    plan.isPlaceholderData ||
    drop.checking ||
    p.blankPasswords.length > 0 ||
    unsigned ||
    (p.mail?.objection ?? null) !== null ||
    (p.blocked ?? null) !== null ||
    (p.corrected > 0 && o.form.corrected === null);
  const start = () => (o.form.output === "print" || o.form.output === "email" ? setConfirming(true) : void begin());
  useActions([{ keys: "Ctrl+Enter", label: `${verb} ${what}`, run: () => !blocked && start() }]);
  return (
    <div className="flex min-h-0 flex-1 max-[1000px]:flex-col">
      <section
        className="flex w-[432px] shrink-0 flex-col border-r border-line max-[1000px]:max-h-[60%] max-[1000px]:w-full max-[1000px]:overflow-auto max-[1000px]:border-b"
        aria-label="New run"
      >
        <div className="min-h-0 flex-1 overflow-auto p-4">
          {/* What was known last stays while something is still to be filled in, so that the form does not move. */}
          <MakeForm drop={drop} o={o} selected={selected.size} plan={plan.data} />
          {plan.error && o.ready && (
            <p role="alert" className="mt-3 border-l-[3px] border-error bg-error/10 px-3 py-2">
              {plan.error.message}
            </p>
          )}
          {p && <PlanTable plan={p} print={o.form.output === "print"} />}
        </div>
        <div className="border-t border-line p-4">
          {p?.blocked && (
            <p className="mb-2 text-[12.5px] text-doubt-ink" role="alert">
              {p.blocked}
            </p>
          )}
          {unsigned && (
            <p className="mb-2 text-[12.5px] text-doubt-ink">
              {drop.signOff.state === "lapsed"
                ? `Sign-off has lapsed: ${drop.signOff.changes[0] ?? ""} `
                : "You must sign off this drop before you start a run. "}
              <Link className="underline" to="../proof/set">
                Review proof set
              </Link>
            </p>
          )}
          {p?.duplicates && <PossibleDuplicates drop={drop} of={p.duplicates} />}
          <ListIssues drop={drop} brief />
          <button className="btn btn-primary w-full" disabled={blocked} title="Ctrl Enter" onClick={start}>
            {drop.checking
              ? "Checking the pieces…"
              : o.unlocked
                ? "Enter a password first"
                : p && p.corrected > 0 && o.form.corrected === null
                  ? "Choose which values it shows"
                  : p && p.pieces > 0
                    ? `${verb} ${what}`
                    : "No recipients to produce"}
          </button>
        </div>
      </section>
      <section className="on-sand flex min-w-0 flex-1 flex-col gap-3 overflow-auto bg-base-200 p-4" aria-label="Runs">
        <h2>Runs</h2>
        {runs.length === 0 && (
          <p className="max-w-md text-faint">
            No runs yet. A run produces files, prints, or sends email. It keeps going when you leave this page, can be paused or canceled,
            and resumes after a crash.
          </p>
        )}
        {runs.map((run) => (
          <RunBox key={run.id} run={run} dropId={drop.id} />
        ))}
        <p className="mt-auto text-faint">
          Mark paper mail as mailed in the Ledger after it has left the building
          {drop.channels.ways === "Paper" ? "" : ". Email is marked automatically when the mail server accepts it"}.
        </p>
      </section>
      {confirming && p && o.form.output === "email" && o.account && (
        <Dialog title={`${verb} ${what} to ${people}`} onClose={() => setConfirming(false)}>
          <p className="mb-2">
            {people} {p.pieces === 1 ? "gets" : "get"} “{p.mail?.samples[0]?.subject}” {p.pieces > 1 ? "(or similar) " : ""}from{" "}
            {p.mail?.samples[0]?.from}, through {o.account.name}
            {o.form.at ? `, on ${moment(momentOf(o.form.at))}` : ", now"}.
          </p>
          <div className="mb-3 max-h-48 overflow-auto">
            <SharedAddresses shared={p.mail?.shared ?? []} />
          </div>
          <p className="mb-4 text-faint">
            You cannot recall an email after the mail server accepts it.{" "}
            {o.account.kind === "practice" ? "The practice post office stores messages and delivers nothing." : ""}
          </p>
          <button className="btn btn-primary" autoFocus onClick={() => void begin()}>
            {verb} to {people}
          </button>
        </Dialog>
      )}
      {confirming && p && o.form.output === "print" && o.printer && (
        <Dialog title={`Print on ${o.printer.name}`} onClose={() => setConfirming(false)}>
          <p className="mb-2">
            {what} will print now{copies > 1 ? `, ${copies} copies of each` : ""}:
          </p>
          <ul className="mb-3 list-disc pl-5">
            {p.cost.designs.map((d) => (
              <li key={d.name}>
                {count(d.sheets)} of {d.on}, {d.name}
              </li>
            ))}
          </ul>
          <p className="mb-4 text-faint">Anyone near the printer can read these pieces. Printing does not mark them as mailed.</p>
          <button className="btn btn-primary" autoFocus onClick={() => void begin()}>
            {verb} {what}
          </button>
        </Dialog>
      )}
    </div>
  );
}
