import { useQuery } from "@tanstack/react-query";
import { ArrowRight, MailX } from "lucide-react";
import { Link } from "react-router";
import { campaignsQuery, designsQuery, listsQuery, settingsQuery } from "../api/queries";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { count, day, many } from "../ui/words";

interface Step {
  to: string;
  what: string;
  drop: string;
  mail: string | null;
  kind: "doubt" | "paused" | "noted" | "look" | "make" | "mail" | "returned";
}

const marks = {
  doubt: "bg-warning",
  paused: "bg-warning",
  noted: "bg-warning",
  look: "bg-warning",
  make: "bg-success",
  mail: "bg-secondary",
  returned: "bg-error",
};

/** What waits for a person, over all drops, in the order in which it is due. */
export function TodayPage() {
  const campaigns = useQuery(campaignsQuery()).data;
  const lists = useQuery(listsQuery()).data;
  const designs = useQuery(designsQuery()).data;
  const organisation = useQuery(settingsQuery()).data?.organisation.name;
  const steps: Step[] = (campaigns ?? [])
    .flatMap((c) => c.drops.map((d) => ({ ...d, label: `${c.name} · ${d.name}` })))
    .flatMap((d) => {
      const t = d.trays;
      const step = (kind: Step["kind"], place: string, what: string): Step => ({
        kind,
        to: `/drops/${d.id}/${place}`,
        what,
        drop: d.label,
        mail: d.mailDate,
      });
      return [
        ...(t.inDoubt
          ? [step("doubt", "proof?inDoubt=1", `${many(t.inDoubt, "piece")} ${t.inDoubt === 1 ? "is" : "are"} in doubt: may have gone out`)]
          : []),
        ...d.pausedRuns.map((run) => step("paused", `produce/${run}`, "A run is paused and waits for you")),
        ...(t.noted ? [step("noted", "proof?noted=1", `${many(t.noted, "made piece")} would be held now`)] : []),
        ...(t.produced
          ? [step("mail", "ledger", `${many(t.produced, "made piece")} ${t.produced === 1 ? "waits" : "wait"} to be marked as mailed`)]
          : []),
        ...(t.needsALook
          ? [step("look", "proof", `${many(t.needsALook, "recipient")} ${t.needsALook === 1 ? "needs" : "need"} a look`)]
          : []),
        ...(t.ready ? [step("make", "produce", `${many(t.ready, "recipient")} ${t.ready === 1 ? "is" : "are"} Ready to be produced`)] : []),
        ...(t.returned ? [step("returned", "ledger", `${many(t.returned, "piece")} came back`)] : []),
      ];
    })
    // What may have gone out stands first: nothing is repeated before it is settled. What came back is news, not a task with a date:
    // it stands last.
    .sort(
      (a, b) =>
        Number(b.kind === "doubt") - Number(a.kind === "doubt") ||
        Number(a.kind === "returned") - Number(b.kind === "returned") ||
        (a.mail ?? "9999").localeCompare(b.mail ?? "9999"),
    );
  const nothing = campaigns?.length === 0;
  return (
    <>
      <Header
        kind={organisation || "Bandeja"}
        title="Today"
        state={new Date().toLocaleDateString("en-US", { weekday: "long", month: "long", day: "numeric" })}
      >
        <Link className="btn btn-quiet" to="/returns">
          <MailX size={15} /> Enter returns
        </Link>
      </Header>
      <div className="min-h-0 flex-1 overflow-auto">
        {nothing && (
          <Empty
            title={
              lists?.length
                ? designs?.length
                  ? "A list and a letter are here; now make a drop"
                  : "Now write the letter"
                : "Begin with a list"
            }
            actions={
              <Link className="btn btn-primary" to={lists?.length ? (designs?.length ? "/campaigns/new" : "/designs") : "/lists/new"}>
                {lists?.length ? (designs?.length ? "Make a drop" : "Write a letter") : "Bring a list in"}
              </Link>
            }
          >
            A mailing takes three things: a list of recipients, a letter with fields, and a drop that sends the one to the other. What waits
            for you then stands here.
          </Empty>
        )}
        {campaigns && !nothing && steps.length === 0 && <p className="p-6 text-faint">Nothing waits: every piece is mailed or held.</p>}
        {steps.length > 0 && (
          <table className="w-full">
            <thead>
              <tr className="border-b border-line text-[12px] text-faint">
                <th className="py-1.5 pl-4 text-left font-normal">Waiting for you</th>
                <th className="py-1.5 text-left font-normal">Drop</th>
                <th className="py-1.5 text-left font-normal">Mail date</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {steps.map((s) => (
                <tr key={s.to + s.kind} className="border-b border-line hover:bg-base-200">
                  <td className="py-2 pl-4">
                    <Link to={s.to} className="flex items-center gap-2.5 font-semibold hover:underline">
                      <span className={`h-2.5 w-2.5 rounded-full ${marks[s.kind]}`} aria-hidden />
                      {s.what}
                    </Link>
                  </td>
                  <td className="py-2">{s.drop}</td>
                  <td className="py-2 text-faint">{s.mail ? day(s.mail, false) : "not set"}</td>
                  <td className="w-10 py-2 text-faint">
                    <ArrowRight size={15} aria-hidden />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {campaigns && !nothing && (
          <p className="px-4 py-4 text-faint">
            {many(lists?.length ?? 0, "list")} with {count((lists ?? []).reduce((n, l) => n + l.recipients, 0))} recipients,{" "}
            {many(designs?.length ?? 0, "letter")}, {many(campaigns.length, "campaign")}.
          </p>
        )}
      </div>
    </>
  );
}
