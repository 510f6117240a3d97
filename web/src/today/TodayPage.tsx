import { useQuery } from "@tanstack/react-query";
import { CalendarDays, HandCoins, MailX } from "lucide-react";
import { Link, useNavigate } from "react-router";
import { person } from "../api/client";
import { campaignsQuery, designsQuery, jobsQuery, listsQuery, settingsQuery } from "../api/queries";
import { isQuiet } from "../api/events";
import { MonthGrid } from "../calendar/MonthGrid";
import { today, writtenDay } from "../ui/customs";
import { Empty } from "../ui/Empty";
import { Header } from "../ui/Header";
import { useActions } from "../ui/keys";
import { count, many } from "../ui/words";
import { AddSample, SampleNote } from "./Sample";
import { groupNames, workQuery, type Work } from "./work";
import { WorkLine } from "./WorkLine";
import { Beside } from "../ui/Beside";

/** More in one group than anybody does in a day. */
const shown = 40;

/** What waits for a person, over all drops, by when it is due; what is running; the calendar. */
export function TodayPage() {
  const navigate = useNavigate();
  const campaigns = useQuery(campaignsQuery()).data;
  const lists = useQuery(listsQuery()).data;
  const designs = useQuery(designsQuery()).data;
  const settings = useQuery(settingsQuery()).data;
  const organization = settings?.organization.name;
  const work = useQuery(workQuery()).data;
  const running = (useQuery(jobsQuery()).data ?? []).filter((j) => j.state === "running" && !isQuiet(j.kind));
  const me = person.get();
  useActions([
    { keys: "r", label: "Enter returns", run: () => void navigate("/returns") },
    { keys: "a", label: "Enter responses", run: () => void navigate("/responses") },
    { keys: "c", label: "Calendar", run: () => void navigate("/calendar") },
  ]);
  const rows = work?.rows ?? [];
  const mine = rows.filter((w) => w.assignedTo === me).length;
  const nothing = campaigns?.length === 0;
  return (
    <>
      <Header
        kind={organization || "Bandeja"}
        title="Today"
        state={
          <>
            {writtenDay(today(), { weekday: "long", month: "long", day: "numeric" })}
            {mine > 0 && <span className="block">{many(mine, "task is assigned to you", "tasks are assigned to you")}</span>}
          </>
        }
      >
        <Link className="btn btn-quiet" to="/returns">
          <MailX size={15} /> Enter returns
        </Link>
        <Link className="btn btn-quiet" to="/responses">
          <HandCoins size={15} /> Enter responses
        </Link>
      </Header>
      <div className="flex min-h-0 flex-1">
        <div className="min-h-0 min-w-0 flex-1 overflow-auto px-5 pb-6">
          {nothing && (
            <Empty
              title={
                lists?.length
                  ? designs?.length
                    ? "Your list and letter are ready. Now start a drop."
                    : "Next, write a letter"
                  : "Start with a list"
              }
              actions={
                <>
                  <Link
                    className="btn btn-primary"
                    to={lists?.length ? (designs?.length ? "/campaigns/new" : "/designs?new") : "/lists/new"}
                  >
                    {lists?.length ? (designs?.length ? "Start drop" : "Write letter") : "Import list"}
                  </Link>
                  {organization === "" && (
                    <Link className="btn btn-quiet" to="/setup">
                      Set up your organization
                    </Link>
                  )}
                  {lists?.length === 0 && <AddSample />}
                </>
              }
            >
              A mailing needs three things: a list of recipients, a letter with fields, and a drop that sends the letter to the list. Your
              to-do items will be listed here.
            </Empty>
          )}
          {settings?.sample && <SampleNote sample={settings.sample} />}
          {work && !nothing && rows.length === 0 && <p className="py-6 text-faint">Nothing to do. Every piece is mailed or held.</p>}
          {(Object.keys(groupNames) as Work["group"][]).map((group) => {
            const of = rows.filter((w) => w.group === group);
            if (of.length === 0) return null;
            return (
              <section key={group} aria-label={groupNames[group]}>
                <h2 className={`pt-4 pb-1 ${group === "Overdue" ? "text-error" : ""}`}>
                  {groupNames[group]}
                  {group === "Today" && ` · ${writtenDay(today(), { weekday: "long", month: "long", day: "numeric" })}`}
                </h2>
                <ul>
                  {of.slice(0, shown).map((w) => (
                    <WorkLine key={w.key} work={w} people={work?.people ?? []} me={me} today={work?.today ?? ""} />
                  ))}
                </ul>
                {of.length > shown && (
                  <p className="py-2 text-faint">
                    And {many(of.length - shown, "more task", "more tasks")}:{" "}
                    <Link className="underline" to="/calendar">
                      see the calendar
                    </Link>
                    .
                  </p>
                )}
              </section>
            );
          })}
          {work && work.postponed.length > 0 && (
            <details className="pt-4">
              <summary className="cursor-pointer text-faint">
                {many(work.postponed.length, "task is postponed", "tasks are postponed")}
              </summary>
              <ul>
                {work.postponed.map((w) => (
                  <WorkLine key={w.key} work={w} people={work.people} me={me} today={work.today} />
                ))}
              </ul>
            </details>
          )}
          {campaigns && !nothing && (
            <p className="py-4 text-faint">
              {many(lists?.length ?? 0, "list")} with {count((lists ?? []).reduce((n, l) => n + l.recipients, 0))} recipients,{" "}
              {many(designs?.length ?? 0, "design")}, {many(campaigns.length, "campaign")}.
            </p>
          )}
        </div>
        <Beside
          label="Running now, and the calendar"
          className="on-sand flex w-[340px] shrink-0 flex-col gap-4 overflow-auto border-l border-line bg-base-200 px-4 py-4"
          from={1000}
        >
          <section aria-label="Running now">
            <h2>Running now</h2>
            {running.length === 0 && <p className="mt-1 text-faint">Nothing is running.</p>}
            {running.map((j) => (
              <div key={j.id} className="mt-2">
                <p className="flex justify-between gap-3">
                  <Link
                    className="truncate hover:underline"
                    to={["run", "print", "send", "remake"].includes(j.kind) ? "/campaigns" : "/lists"}
                  >
                    {j.label}
                  </Link>
                  <span className="shrink-0 font-semibold tabular-nums">{j.total > 0 && `${count(j.done)} of ${count(j.total)}`}</span>
                </p>
                <progress
                  className="progress progress-primary h-1.5 w-full"
                  value={j.done}
                  max={Math.max(1, j.total)}
                  aria-label={j.label}
                />
              </div>
            ))}
          </section>
          <MonthGrid small />
          <Link className="btn btn-sm bg-base-100 self-start" to="/calendar">
            <CalendarDays size={14} /> Open the calendar
          </Link>
        </Beside>
      </div>
    </>
  );
}
